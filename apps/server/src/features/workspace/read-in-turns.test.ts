import { setImmediate as nextRound } from 'node:timers/promises';
import { WHOLE_BOOKS } from '@margin-lens/core';
import { demoWorkspace } from '../../../test/demo-workspace';
import { CONTROLLER } from '../../../test/opened-store';
import { Store } from '../../store/store';
import { readInTurns } from './read-in-turns';
import { Workspace } from './workspace';

describe('the books of a group', () => {
  it('are read member by member, so that others are answered in between, and take no turn once they are there', async () => {
    const workspace = new Workspace(await Store.open(demoWorkspace()));
    await workspace.read(CONTROLLER, async (snapshot) => {
      const books = await snapshot.books();
      const scope = snapshot.model.scope('LARKMOOR')!;
      const production = [{ dimension: 'department', has: 'in' as const, values: ['production'] }];
      const asked = [WHOLE_BOOKS, { ...WHOLE_BOOKS, where: production }];

      const roundsUntil = async (work: Promise<void>) => {
        let [rounds, isDone] = [0, false];
        void work.then(() => (isDone = true));
        for (await Promise.resolve(); !isDone; await nextRound()) rounds++;
        return rounds;
      };
      const most = asked.length * (scope.members.length + 1);
      const rounds = await roundsUntil(readInTurns(books, asked, () => scope));
      expect(scope.members.length).toBeGreaterThan(5);
      expect(rounds).toBeGreaterThan(2); // it takes some hundred ms
      expect(rounds).toBeLessThanOrEqual(most + 1);
      expect(asked.map((each) => books.areReady(scope, each))).toEqual([true, true]);
      expect(await roundsUntil(readInTurns(books, asked, () => scope))).toBeLessThanOrEqual(1);

      const unknown = { ...WHOLE_BOOKS, version: 'NONE' };
      const none = () => ({ reason: 'no_data' as const });
      expect(await roundsUntil(readInTurns(books, [unknown], none))).toBeLessThanOrEqual(1);
    });
    await workspace.close();
  });
});
