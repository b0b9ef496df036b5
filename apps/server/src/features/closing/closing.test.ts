import type { FastifyInstance } from 'fastify';
import type { ClosingView, IssueChecksView } from '@margin-lens/contract';
import type { ClosingTask } from '@margin-lens/core';
import { asking } from '../../../test/asking';
import { onStore } from '../../../test/opened-store';
import { bringIn, newDatabase, newFolder, tinyFiles, workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';
import { Person } from '../../store/tables';
import { writePackage } from '../export/write-package';

let app: FastifyInstance;
let databaseFile: string;
beforeEach(async () => {
  const settings = {
    ...{ name: 'Tiny', reporting_currency: 'EUR' },
    // the first of March of 2026 is a Sunday; Monday the second is a day off of its own
    working_days: { ONE: { closed: [{ date: '2026-03-02', name: 'Anniversary' }] } },
  };
  databaseFile = await workspaceOf(tinyFiles({ 'workspace.json': JSON.stringify(settings) }));
  app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
});
afterEach(() => app.close());
const ask = asking(() => app);

const FEBRUARY = { as_at: 'FY2026-P02' };
const read = async (scope = 'ONE', more = FEBRUARY) =>
  (await ask<ClosingView>('GET', `/closing?${new URLSearchParams({ scope, ...more })}`)).body;
const checks = async (scope = 'ONE') =>
  (await ask<IssueChecksView>('GET', `/closing/checks?${new URLSearchParams({ scope, ...FEBRUARY })}`)).body.checks;
const task = (id: string, day: number, more: Partial<ClosingTask> = {}): ClosingTask => ({
  ...{ id, name: id, owner: '', day, scope: '', note: '', ...more },
});
const save = async (tasks: ClosingTask[], more: object = {}) =>
  ask<{ code: string }>('PUT', '/closing/list', {
    ...{ base: (await read()).revision, list: { tasks, owners: {} } },
    ...more,
  });
const tick = (id: string, isDone = true, scope = 'ONE') =>
  ask<{ code: string }>('POST', '/closing/ticks', { scope, period: 'FY2026-P02', task: id, isDone });

describe('the month-end checklist', () => {
  it('is due on working days of each entity, in the order of these', async () => {
    await save([
      task('report', 3),
      task('accruals', 1, { owner: 'Ines' }),
      task('invoices', 0),
      task('other', 1, { scope: 'TWO' }),
    ]);
    expect((await read()).tasks.map(({ id, due }) => [id, due])).toEqual([
      ['invoices', '2026-02-27'],
      ['accruals', '2026-03-03'],
      ['report', '2026-03-05'],
    ]);
    expect((await read('TWO')).tasks.map(({ id, due }) => [id, due])).toEqual([
      ['invoices', '2026-02-27'],
      ['accruals', '2026-03-02'],
      ['other', '2026-03-02'],
      ['report', '2026-03-04'],
    ]);
  });

  it('of a group has its own tasks and those of its entities', async () => {
    await save([task('report', 3), task('eliminate', 2, { scope: 'ALL' })]);
    expect((await read('ALL')).tasks.map(({ id, of }) => [id, of.code])).toEqual(
      expect.arrayContaining([
        ['report', 'ONE'],
        ['eliminate', 'ALL'],
      ]),
    );
    expect((await read('ONE')).tasks.map(({ id }) => id)).toEqual(['report']);
  });

  it('is done month by month, by someone, and can be taken back', async () => {
    await save([task('report', 3)]);
    expect((await read()).tasks[0]).toMatchObject({ done: null, isLate: true }); // March of 2026 is over
    expect((await tick('report')).status).toBe(204);
    expect((await read()).tasks[0]).toMatchObject({ done: { person: 'Controller' }, isLate: false });
    expect((await read('ONE', { as_at: 'FY2026-P03' })).tasks[0]!.done).toBeNull();
    await tick('report', false);
    expect((await read()).tasks[0]!.done).toBeNull();
  });

  it('refuses what it does not have, and what was changed meanwhile', async () => {
    expect((await tick('report')).body.code).toBe('SRV_CLOSING_TASK_UNKNOWN');
    const { revision } = await read();
    await save([task('report', 3)]);
    expect((await tick('report', true, 'ALL')).body.code).toBe('SRV_CLOSING_TASK_UNKNOWN'); // of entities, not of groups
    expect((await save([], { base: revision })).body.code).toBe('SRV_CLOSING_CHANGED');
    expect((await save([task('x', 1, { scope: 'NOBODY' })])).body.code).toBe('SRV_SCOPE_UNKNOWN');
    expect((await save([task('x', 99)])).status).toBe(400);
  });

  it('keeps tasks of entities that who writes it may not see, and does not tell them', async () => {
    await save([task('report', 3), task('secret', 1, { scope: 'TWO' })]);
    const limit = async (entities: 'all' | string[]) => {
      await app.close();
      await onStore(databaseFile, (store) =>
        store.aside(async ({ em }) => void em.assign(await em.findOneOrFail(Person, { id: 'local' }), { entities })),
      );
      app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
    };
    await limit(['ONE']);
    expect((await read()).list.tasks.map(({ id }) => id)).toEqual(['report']);
    expect((await save([task('mine', 1, { scope: 'TWO' })])).body.code).toBe('SRV_SCOPE_NOT_PERMITTED');
    expect((await save([task('report', 4)])).status).toBe(204);
    await limit('all');
    expect((await read()).list.tasks.map(({ id, day }) => [id, day])).toEqual([
      ['report', 4],
      ['secret', 1],
    ]);
  });

  it('goes along in a ledger package, with what was done', async () => {
    await save([task('report', 3, { owner: 'Ines', note: 'Before noon' })]);
    await tick('report');
    const before = (await read()).tasks;
    await app.close();
    const folder = newFolder();
    await writePackage(databaseFile, folder);
    databaseFile = await newDatabase();
    expect(await bringIn(databaseFile, folder)).toMatchObject({ state: 'done', findings: { shown: [] } });
    app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
    expect((await read()).tasks).toEqual(before);
  });
});

describe('whether a month can be issued', () => {
  it('says what is open of books, evidence and checklist, and who looks after it', async () => {
    await save([task('report', 3), task('accruals', 1)], {
      list: { tasks: [task('report', 3), task('accruals', 1, { owner: 'Otto' })], owners: { evidence: 'Ines' } },
    });
    const found = new Map((await checks()).map((each) => [each.check, each]));
    expect(found.get('delivered')!.isDone).toBe(true);
    expect(found.get('tie_outs')!.isDone).toBe(true);
    expect(found.get('evidence')).toMatchObject({ isDone: false, owner: 'Ines', says: ['2 without evidence'] });
    expect(found.get('tasks')!.says).toEqual([
      'accruals · Otto · late, was due 3 March 2026',
      'report · late, was due 5 March 2026',
    ]);
    expect(found.get('closed')).toMatchObject({ isDone: false, says: ['One still takes postings'] });
    await tick('report');
    await tick('accruals');
    await ask('PUT', '/periods', { entities: ['ONE'], periods: ['FY2026-P02'], status: 'closed' });
    const later = new Map((await checks()).map((each) => [each.check, each]));
    expect([later.get('tasks')!.isDone, later.get('closed')!.isDone]).toEqual([true, true]);
  });
});
