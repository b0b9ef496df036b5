import { readFileSync, writeFileSync } from 'node:fs';
import fc from 'fast-check';
import type { AdjustmentsView } from '@margin-lens/contract';
import { allRuns, Cube, mergeRuns, SEGMENT_COLUMNS } from '@margin-lens/core';
import { asking } from '../../test/asking';
import { askingVersions, cell, RED } from '../../test/asking-versions';
import { onStore, undo } from '../../test/opened-store';
import { bringIn, query, tinyFiles, workspaceOf } from '../../test/tiny-package';
import { someOf } from '../../test/runs';
import { buildApp } from '../app';
import { KeptThread } from '../base/kept-thread';
import type { CubeQuestion } from './cube-worker';
import { cubeFileOf, readCubeFile, writeCubeFile } from './cube-file';
import { CubeKeeper } from './cube-keeper';
import { rowsThatDiffer } from './cube-proof';
import { heldRows } from './cube-rows';
import { loadCube } from './load-cube';

/** All rows of a cube as plain lists. */
function whole(cube: Cube): number[][] {
  const segment = mergeRuns([allRuns(cube.whole())]);
  return SEGMENT_COLUMNS.map((column) => [...segment[column]]);
}

/** The tiny package with the amount of a journal changed, which is then another journal of its number. */
const delivery = (amount: number) =>
  tinyFiles({ 'journals.csv': String(tinyFiles()['journals.csv']).replaceAll('300.00', `${amount}.00`) });

/** Writes of every kind that moves balances, and some that do not. */
async function actions(file: string) {
  const app = await buildApp({ databaseFile: file, webRoot: '/nonexistent' });
  const ask = asking(() => app);
  const { figures, save, make } = askingVersions(ask);
  const typed = async (account: string, month: number, amount: number, combination?: string) => {
    const view = await figures('PLAN');
    const held = view.lines.find((line) => line.account === account && line.combination === (combination ?? '\u001f'));
    await save('PLAN', [cell(account, month, held?.figures[month - 1] ?? 0, amount, combination)]);
  };
  const adjustments = () => ask<AdjustmentsView>('GET', '/adjustments?scope=ONE');
  const post = {
    ...{ entity: 'ONE', date: '2026-02-28', period: '', reason: 'Rent', reverses: true },
    lines: [
      { account: '5000', description: 'Rent', debit: '120.50', credit: '' },
      { account: '1000', description: 'Rent', debit: '', credit: '120.50' },
    ],
  };
  return {
    close: () => app.close(),
    all: {
      type: (n: number) => typed('4000', 1 + (n % 12), n * 100),
      clear: () => typed('4000', 1, 0),
      ofATeam: (n: number) => typed('5000', 3, n, RED),
      version: () => make({ name: 'Outlook', kind: 'branch', parent: 'PLAN', cutOver: '' }),
      copy: () => make({ name: 'Copy', kind: 'plan', copyOf: 'PLAN', cutOver: '' }),
      deliver: (n: number) => bringIn(file, delivery(10 + n), () => false, { replacesChanged: true }),
      undo: async () => {
        const [run] = query<{ id: number }>(file, 'select max(id) as id from import_run where undone is null');
        if (run!.id > 1) await undo(file, run!.id);
      },
      adjust: () => ask('POST', '/adjustments', post),
      takeOut: async () => {
        const [last] = (await adjustments()).body.adjustments;
        if (last) await ask('DELETE', `/adjustments/${last.journalId}`);
      },
      remark: (n: number) =>
        ask('POST', '/remarks', {
          ...{ scope: 'ONE', period: 'FY2026-P02', statement: 'income_statement', row: '', column: '', columns: '' },
          ...{ quotes: [], state: 'open', carries: '', text: `Remark ${n}` },
        }),
    },
  };
}

const ACTIONS = [
  ...(['type', 'clear', 'ofATeam', 'version', 'copy', 'deliver', 'undo', 'adjust', 'takeOut', 'remark'] as const),
];

describe('the cube of a workspace', () => {
  it('is what the balances and figures are after every write, and what they were before (property)', async () => {
    const some = fc.array(fc.tuple(fc.constantFrom(...ACTIONS), fc.integer({ min: 1, max: 90 })), {
      minLength: 3,
      maxLength: 9,
    });
    await fc.assert(
      fc.asyncProperty(some, async (steps) => {
        const file = await workspaceOf();
        const acting = await actions(file);
        const keeper = new CubeKeeper(file);
        const seen = new Map<number, number[][]>();
        for (const [name, n] of [['remark', 1] as const, ...steps]) {
          await acting.all[name](n);
          await onStore(file, async (_, moment) => {
            const cube = await keeper.at(moment);
            expect([name, rowsThatDiffer(moment.db, cube)]).toEqual([name, 0]);
            expect(cube.revision).toBe(moment.revision);
            seen.set(moment.revision, whole(cube));
          });
        }
        await onStore(file, async (_, moment) => {
          const fresh = new CubeKeeper(file);
          const cube = await fresh.at(moment);
          for (const [revision, rows] of seen) expect(whole(fresh.before(moment.db, cube, revision))).toEqual(rows);
        });
        await acting.close();
      }),
      { numRuns: someOf(8) },
    );
  });
});

describe('the cube of an earlier revision', () => {
  it('is made ready in a thread where much came behind it, once for all who ask', async () => {
    const file = await workspaceOf();
    const head = 'entity,journal,line,date,account,debit,credit';
    const rows = Array.from({ length: 2_500 }, (_, i) =>
      ['1000,7.00,', '4000,,7.00'].map((side, line) => `ONE,L${i},${line + 1},2026-03-15,${side}`).join('\n'),
    );
    const keeper = new CubeKeeper(file);
    await onStore(file, async (_, first) => {
      const was = whole(await keeper.at(first));
      await bringIn(file, tinyFiles({ 'journals.csv': [head, ...rows, ''].join('\n') }));
      await onStore(file, async (__, { db, revision }) => {
        const later = new CubeKeeper(file);
        const cube = await later.at({ db, revision });
        await Promise.all([1, 2].map(() => later.prepare(db, cube, [first.revision, revision])));
        // nothing is read for it any more
        expect(whole(later.before({} as never, cube, first.revision))).toEqual(was);
        await later.close();
      });
    });
    await keeper.close();
  });
});

describe('a cube that is read for long', () => {
  it('is of the moment that it began at, in this thread and in another, while a hundred writes go on', async () => {
    const file = await workspaceOf();
    const acting = await actions(file);
    const keeper = new CubeKeeper(file);
    await onStore(file, async (_, began) => {
      const cube = await keeper.at(began);
      const rows = whole(cube);
      for (let n = 1; n <= 100; n++) {
        await acting.all.type(n);
        await onStore(file, async (__, moment) => keeper.at(moment));
      }
      expect(whole(cube)).toEqual(rows);
      const { revision, segments } = cube;
      const thread = new KeptThread<CubeQuestion>('store/cube-worker', file);
      await thread.ask({ do: 'keep', revision, segments });
      await thread.close();
      const kept = readCubeFile(file, began.db)!;
      expect(kept.revision).toBe(began.revision);
      expect(whole(new Cube(revision, [kept.segment]))).toEqual(rows);
      // who asks late is shown the moment at which they began
      expect(whole(await new CubeKeeper(file).at(began))).toEqual(rows);
    });
    await acting.close();
  });
});

describe('the file of a cube', () => {
  const kept = async () => {
    const file = await workspaceOf();
    await onStore(file, (_, { db, revision }) => writeCubeFile(file, db, revision, [heldRows(db)]));
    return file;
  };
  const read = (file: string) => onStore(file, (_, { db }) => readCubeFile(file, db));

  it('is brought up to date when it is loaded', async () => {
    const file = await kept();
    const acting = await actions(file);
    await acting.all.type(7);
    await onStore(file, async (_, moment) => {
      const loaded = loadCube(file, moment.db, moment.revision);
      expect(loaded.behind).toBe(1);
      expect(rowsThatDiffer(moment.db, new Cube(loaded.revision, loaded.segments))).toBe(0);
    });
    await acting.close();
  });

  it('is not used when it is cut short, changed or of another workspace', async () => {
    const file = await kept();
    expect(await read(file)).toBeDefined();
    const bytes = readFileSync(cubeFileOf(file));
    writeFileSync(cubeFileOf(file), bytes.subarray(0, -1));
    expect(await read(file)).toBeUndefined();
    const changed = Buffer.from(bytes);
    changed[changed.length - 20]! ^= 1;
    writeFileSync(cubeFileOf(file), changed);
    expect(await read(file)).toBeUndefined();
    writeFileSync(cubeFileOf(file), bytes);
    expect(await read(file)).toBeDefined();
    await onStore(file, (store) =>
      store.aside(({ db }) => Promise.resolve(db.exec("update workspace_revision set at = '2027-01-01'"))),
    );
    expect(await read(file)).toBeUndefined();
  });
});

describe('a cube that does not agree with the balances', () => {
  it('is said and read anew', async () => {
    const file = await workspaceOf();
    const acting = await actions(file);
    const keeper = new CubeKeeper(file);
    await onStore(file, (_, moment) => keeper.at(moment));
    await onStore(file, (store) =>
      store.aside(({ db }) =>
        Promise.resolve(db.exec('update balance set debit = debit + 7 where version = 0 and period = 2')),
      ),
    );
    const said = jest.spyOn(console, 'error').mockImplementation(() => undefined);
    await acting.all.adjust(); // moves the same month
    await onStore(file, async (_, moment) => {
      expect(rowsThatDiffer(moment.db, await keeper.at(moment))).toBe(0);
    });
    expect(said.mock.calls.map(([words]) => String(words))).toEqual([expect.stringContaining('read anew')]);
    said.mockRestore();
    await acting.close();
  });
});
