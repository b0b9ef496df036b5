import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { gunzipSync } from 'node:zlib';
import type { FastifyInstance } from 'fastify';
import type {
  AdjustmentsView,
  BooksCheckView,
  DocumentView,
  ImportRunView,
  LinesView,
  PeriodStatusesView,
  PersonView,
  RemarksView,
  SavedFigures,
  StatementView,
  StepsView,
  TableChangeView,
  VersionChanges,
  VersionView,
} from '@margin-lens/contract';
import { asking } from '../../test/asking';
import { unsound } from '../../test/opened-store';
import { newFolder, query } from '../../test/tiny-package';
import { buildApp } from '../app';

/** A workspace as the application of November 2026 left it; `make-workspace.mjs` beside it says what was done in it. */
const FIXTURE = path.resolve(__dirname, '../../test/fixtures/workspace-2026-11.db.gz');

describe('a workspace of November 2026', () => {
  let app: FastifyInstance;
  let file: string;
  const ask = asking(() => app);
  const read = async <T>(url: string) => (await ask<T>('GET', url)).body;
  /** Sums of the year to date by row. */
  const amounts = async () => {
    const query = 'scope=ONE&as_at=2026-03&columns=month_and_year_to_date';
    const { rows, columns } = await read<StatementView>(`/statements/income_statement?${query}`);
    const at = columns.findIndex(({ id }) => id === 'ytd');
    return rows.map(({ label, cells }) => [label, cells[at]!.amount]);
  };
  beforeEach(async () => {
    file = path.join(newFolder(), 'workspace.db');
    writeFileSync(file, gunzipSync(readFileSync(FIXTURE)));
    app = await buildApp({ databaseFile: file, webRoot: '/nonexistent' });
  });
  afterEach(() => app.close());

  it('opens with its books, and holds together', async () => {
    expect(await unsound(file)).toEqual([]);
    // by hand: sales of 1,000 and 50; rent of 300 and an accrual of 10 that is reversed in March
    const sales = await read<LinesView>('/ledger/lines?scope=ONE&account=4000');
    expect(sales.credit).toBe(105_000);
    expect(await amounts()).toEqual(
      expect.arrayContaining([
        ['Sales', 105_000],
        ['Costs', -30_000],
      ]),
    );
  });

  it('knows everyone by an id, with the name that they had', async () => {
    const people = await read<PersonView[]>('/people');
    expect(people.map(({ name }) => name)).toEqual(['Controller', 'Robin']);
    expect(people[0]!.id).toBe('local');
    const versions = await read<VersionView[]>('/versions');
    const outlook = versions.find(({ code }) => code === 'OUTLOOK')!;
    expect(outlook).toMatchObject({ state: 'locked', owner: 'local', changedBy: 'Controller' });
    expect(outlook.editors).toEqual([{ person: people[1]!.id, entities: ['ONE'], values: { department: ['red'] } }]);
  });

  it('tells what was done to versions, and takes a change of before back', async () => {
    const versions = await read<VersionView[]>('/versions');
    expect(versions.map(({ code, changes, history }) => [code, changes, history.map(({ what }) => what)])).toEqual([
      ['PLAN', 3, []],
      ['OUTLOOK', 0, ['locked', 'approved', 'submitted', 'set up', 'made as a copy of Plan']],
      ['OUTLOOK_REVISED', 0, ['made to revise Outlook']],
      ['BRANCH', 0, ['branched off Plan']],
    ]);
    const { changes } = await read<VersionChanges>('/versions/PLAN/changes');
    expect(changes.map(({ how, label, count }) => [how, label, count])).toEqual([
      ['undone', 'Sales of spring', 1],
      ['typed', 'Sales of spring', 1],
      ['typed', 'Rent of the year', 2],
    ]);
    const { revision } = changes[2]!;
    const back = await ask<SavedFigures>('POST', `/versions/PLAN/changes/${revision}/take-back`);
    expect(back.body.state).toBe('saved');
    expect((await ask('POST', '/versions/GONE/bring-back')).status).toBe(204);
  });

  it('keeps drafts with their steps, remarks with their authors, and marks', async () => {
    const { layout } = { layout: 'row_layout/income_by_heading' };
    const { document, draft, changedBy } = await read<DocumentView>(`/documents/${layout}`);
    expect([document.name, draft?.document.name, changedBy]).toEqual([
      'Income statement, kept',
      'Income statement, in draft',
      'Controller',
    ]);
    expect(await read<StepsView>(`/documents/steps?documents=${layout}`)).toMatchObject([
      { action: 'a1', state: 'done' },
    ]);
    const { remarks } = await read<RemarksView>('/remarks?scope=ONE&as_at=2026-01&statement=income_statement');
    expect(remarks).toMatchObject([{ text: 'Why so little?', author: 'Controller', changedBy: 'Controller' }]);
    expect(query<{ body: string }>(file, "select body from document where kind = 'seen'")[0]!.body).toContain(
      '"local"',
    );
    expect((await ask<BooksCheckView>('GET', '/books-check?scope=ONE&as_at=2026-01')).status).toBe(200);
  });

  it('keeps adjustments with their reasons, closed months, deliveries and what was set up', async () => {
    const { adjustments } = await read<AdjustmentsView>('/adjustments?scope=ONE');
    expect(adjustments.map(({ number, reason, person }) => [number, reason, person])).toEqual([
      ['ADJ-0001R', 'Accrued rent: of the quarter', 'Controller'],
      ['ADJ-0001', 'Accrued rent: of the quarter', 'Controller'],
    ]);
    const { closed } = await read<PeriodStatusesView>('/periods');
    expect(closed).toMatchObject([{ entity: 'ONE', period: 'FY2026-P01', person: 'Controller' }]);
    const { runs } = await read<{ runs: ImportRunView[] }>('/imports');
    expect(runs.map(({ fileName, undone, canUndo, person }) => [fileName, undone?.person, canUndo, person])).toEqual([
      ['third', 'Controller', false, 'Controller'],
      ['second', undefined, true, 'Controller'],
      ['first', undefined, false, 'Controller'],
    ]);
    // the second delivery named the account as before
    const [, change] = await read<TableChangeView[]>('/setup/tables/accounts/history');
    expect(change).toMatchObject({
      action: 'set up accounts',
      person: 'Controller',
      rows: [{ after: expect.arrayContaining(['Rent of rooms']) as string[] }],
    });
    const late = await read<LinesView>('/ledger/lines?scope=ONE&late=1');
    expect(late.lines.map(({ journal }) => journal)).toContain('J3');
  });

  it('lets its latest delivery be taken out', async () => {
    const { runs } = await read<{ runs: ImportRunView[] }>('/imports');
    await ask('PUT', '/periods', { entities: ['ONE'], periods: ['FY2026-P01'], status: 'open' });
    expect((await ask('POST', `/import-runs/${runs[1]!.id}/undo`)).body).toEqual({ journals: 1, lines: 2 });
    expect(await amounts()).toEqual(expect.arrayContaining([['Sales', 100_000]]));
    expect(await unsound(file)).toEqual([]);
  });
});
