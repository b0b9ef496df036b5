import type { FastifyInstance } from 'fastify';
import type {
  DocumentView,
  DraftView,
  KeptView,
  LibraryView,
  MakingsView,
  RevisionsView,
  StatementView,
  SavedDrafts,
  StepsView,
  StepView,
  TieOutsView,
  TraceView,
} from '@margin-lens/contract';
import type { ColumnLayout, Document, RowLayout, StatementDocument } from '@margin-lens/core';
import { query, workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';

const API = '/api/v1';
const CONTEXT = { scope: 'ONE', as_at: '2026-02' };

let app: FastifyInstance;
let databaseFile: string;
beforeEach(async () => {
  databaseFile = await workspaceOf();
  app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
});
afterEach(() => app.close());

async function ask<T>(
  method: 'GET' | 'POST' | 'PUT' | 'DELETE',
  url: string,
  payload?: object,
): Promise<{ status: number; body: T }> {
  const reply = await app.inject({ method, url: API + url, ...(payload ? { payload } : {}) });
  return { status: reply.statusCode, body: reply.body === '' ? (undefined as T) : reply.json<T>() };
}
const documentOf = async <T>(kind: string, id: string) => {
  const { body } = await ask<DocumentView>('GET', `/documents/${kind}/${id}`);
  return body as Omit<DocumentView, 'document'> & { document: T };
};
const rows = () => documentOf<RowLayout>('row_layout', 'income_by_heading');
const relabelled = (layout: RowLayout, at: number, label: string): RowLayout => ({
  ...layout,
  rows: layout.rows.map((row, index) => (index === at ? { ...row, label } : row)),
});
const keep = (document: RowLayout, base: number) =>
  ask<KeptView>('POST', `/documents/row_layout/${document.id}/keep`, { document, base });

/** Saves from a window that has seen the newest state of the draft, unless it says what it has seen. */
async function save(drafts: DraftView[], steps: StepView[] = [], seen?: string) {
  const newest = seen ?? (await rows()).draft?.stamp ?? '';
  const work = { drafts: drafts.map((draft) => ({ ...draft, seen: newest })), dropped: [], steps };
  return ask<SavedDrafts>('PUT', '/documents/drafts', work);
}

describe('drafts', () => {
  it('are seen by their author and by nobody else, until they are kept', async () => {
    const { document, base } = await rows();
    const draft = relabelled(document, 0, 'Turnover');
    expect((await save([{ document: draft, base }])).status).toBe(200);
    expect((await rows()).draft?.document).toEqual(draft);
    const labelsOf = async (more: string) =>
      (await ask<StatementView>('GET', `/statements/income_statement?${new URLSearchParams(CONTEXT)}${more}`)).body
        .rows[0]!.label;
    expect(await labelsOf('')).toBe('Sales');
    expect(await labelsOf('&draft=mine')).toBe('Turnover');
    const kept = (await keep(draft, base)).body;
    expect(kept.state).toBe('kept');
    expect(await labelsOf('')).toBe('Turnover');
    expect((await rows()).draft).toBeNull();
  });

  it('are not overwritten by another window that has not seen their newest state', async () => {
    const { document, base } = await rows();
    const draft = (label: string) => [{ document: relabelled(document, 0, label), base }];
    const first = (await save(draft('first window'), [], '')).body[0]!.stamp;
    const second = await save(draft('second window'), [], '');
    expect([second.status, (second.body as unknown as { code: string }).code]).toEqual([409, 'SRV_DRAFT_CHANGED']);
    expect((await rows()).draft?.document).toMatchObject({ rows: [{ label: 'first window' }, {}, {}] });
    // what has seen it goes on; its older state does not come back, and is not dropped by the other window
    expect((await save(draft('first window, again'), [], first)).status).toBe(200);
    expect((await save(draft('first window'), [], first)).status).toBe(409);
    const drop = { kind: 'row_layout', id: document.id, seen: first };
    expect((await ask('PUT', '/documents/drafts', { drafts: [], dropped: [drop], steps: [] })).status).toBe(409);
    expect((await rows()).draft?.document).toMatchObject({ rows: [{ label: 'first window, again' }, {}, {}] });
  });

  it('are dropped', async () => {
    const { document, base } = await rows();
    await save([{ document: relabelled(document, 0, 'x'), base }]);
    expect(
      (await ask<LibraryView>('GET', '/documents')).body.documents.filter(({ hasDraft }) => hasDraft),
    ).toHaveLength(1);
    await ask('DELETE', '/documents/row_layout/income_by_heading/draft');
    expect((await rows()).draft).toBeNull();
  });
});

describe('a statement that keeps a choice from its readers', () => {
  it('is read as it says, whatever the address asks for', async () => {
    const { document, base } = await documentOf<StatementDocument>('statement', 'income_statement');
    const held = { ...document, readers: { asAt: { may: false, usual: '2026-01' } } };
    await ask('POST', '/documents/statement/income_statement/keep', { document: held, base });
    const { body } = await ask<StatementView>('GET', `/statements/income_statement?${new URLSearchParams(CONTEXT)}`);
    expect(body.asAt.key).toBe('FY2026-P01'); // January, where the address asks for February
  });
});

describe('steps', () => {
  const changeOf = (before: RowLayout, after: RowLayout, action: string): StepView => ({
    action,
    label: action,
    how: 'change',
    changes: [{ before, after }],
  });
  const listed = async () =>
    (await ask<StepsView>('GET', '/documents/steps?documents=row_layout/income_by_heading')).body.map(
      ({ action, state }) => `${action} ${state}`,
    );

  it('are kept with their draft, taken back, done again, and ended by a new one', async () => {
    const { document, base } = await rows();
    const [a, b] = [relabelled(document, 0, 'A'), relabelled(document, 0, 'B')];
    await save([{ document: b, base }], [changeOf(document, a, 'one'), changeOf(a, b, 'two')]);
    expect(await listed()).toEqual(['one done', 'two done']);
    expect((await ask('GET', '/documents/steps/two')).body).toEqual([{ before: a, after: b }]);
    const undo = { action: 'three', label: '', how: 'undo' as const, of: 'two', changes: [{ before: b, after: a }] };
    await save([{ document: a, base }], [undo]);
    expect(await listed()).toEqual(['one done', 'two undone']);
    await save([{ document: b, base }], [{ ...undo, action: 'four', how: 'redo' }]);
    expect(await listed()).toEqual(['one done', 'two done']);
    await save([], [{ ...undo, action: 'five' }, changeOf(a, b, 'six')]);
    expect(await listed()).toEqual(['one done', 'six done']);
    await save([], [{ ...undo, action: 'seven', of: 'six', how: 'pass_over' }]);
    expect(await listed()).toEqual(['one done']);
  });

  it('grow when they are logged again, and say so when they are not known', async () => {
    const { document } = await rows();
    const [a, b] = [relabelled(document, 0, 'A'), relabelled(document, 0, 'AB')];
    await save([], [changeOf(document, a, 'one')]);
    await save([], [changeOf(document, b, 'one')]);
    expect((await ask('GET', '/documents/steps/one')).body).toEqual([{ before: document, after: b }]);
    expect((await ask('GET', '/documents/steps/nine')).body).toMatchObject({ code: 'SRV_STEP_UNKNOWN' });
  });

  it('are not saved when their draft is refused', async () => {
    const { document, base } = await rows();
    const broken = { ...document, rows: [{ kind: 'accounts' }] } as unknown as RowLayout;
    expect((await save([{ document: broken, base }], [changeOf(document, document, 'one')])).status).toBe(400);
    expect(await listed()).toEqual([]);
  });
});

describe('keeping', () => {
  it('tells the second who changed what, and brings both together', async () => {
    const { document, base } = await rows();
    await keep(relabelled(document, 0, 'Turnover'), base);
    const mine = relabelled(document, 1, 'Expenses');
    const conflict = (await keep(mine, base)).body as Extract<KeptView, { state: 'conflict' }>;
    expect(conflict).toMatchObject({
      state: 'conflict',
      person: 'Controller',
      theirs: [{ what: 'changed', label: 'Turnover', settings: ['label'] }],
      mine: [{ what: 'changed', label: 'Expenses', settings: ['label'] }],
      conflicts: [],
    });
    expect((await keep(conflict.merged as RowLayout, conflict.base)).body.state).toBe('kept');
    expect((await rows()).document.rows.map(({ label }) => label).slice(0, 2)).toEqual(['Turnover', 'Expenses']);
  });

  it('leaves a history with what each state changed', async () => {
    const { document, base } = await rows();
    await keep(relabelled(document, 0, 'Turnover'), base);
    const { body } = await ask<RevisionsView>('GET', '/documents/row_layout/income_by_heading/revisions');
    expect(body.map(({ changes }) => changes.map(({ label }) => label))).toEqual([['Turnover'], []]);
    expect(body[1]!.document).toEqual(document);
  });

  it('refuses rows that name what is not there, and writes nothing', async () => {
    const { document, base } = await rows();
    const broken: RowLayout = {
      ...document,
      rows: [...document.rows, { kind: 'formula', id: 'f', label: 'Broken', formula: '{gone} + 1' }],
    };
    const before = query(databaseFile, 'select count(*) as n from document');
    const { status, body } = await ask<{ code: string; message: string }>(
      'POST',
      '/documents/row_layout/income_by_heading/keep',
      { document: broken, base },
    );
    expect([status, body.code]).toEqual([400, 'SRV_LAYOUT_BROKEN']);
    expect(body.message).toContain('“Broken” names “gone”');
    expect(query(databaseFile, 'select count(*) as n from document')).toEqual(before);
  });

  it('refuses a statement without its layouts, and an unknown document', async () => {
    const statement = await documentOf<StatementDocument>('statement', 'income_statement');
    const keepIt = (document: StatementDocument) =>
      ask<{ code: string }>('POST', '/documents/statement/income_statement/keep', { document, base: statement.base });
    expect((await keepIt({ ...statement.document, rows: 'gone' })).body.code).toBe('SRV_ROWS_UNKNOWN');
    expect((await keepIt({ ...statement.document, columns: 'gone' })).body.code).toBe('SRV_COLUMNS_UNKNOWN');
    expect((await ask<{ code: string }>('GET', '/documents/statement/gone')).body.code).toBe('SRV_DOCUMENT_UNKNOWN');
  });
});

describe('the library', () => {
  it('lists documents with their uses, and gives copies ids and names of their own', async () => {
    const { body } = await ask<LibraryView>('GET', '/documents');
    const listed = body.documents.find(({ id }) => id === 'income_by_heading')!;
    expect(listed).toMatchObject({
      purpose: 'income',
      holds: '5 rows',
      usedBy: [{ kind: 'statement', id: 'income_statement' }],
    });
    const { document } = await rows();
    const copy = (await ask<DocumentView>('POST', '/documents', { document })).body;
    expect(copy.document).toMatchObject({ id: 'income_by_heading_2', name: 'Income by heading (2)' });
    expect(copy.usedBy).toEqual([]);
  });

  it('go out with the layouts that they are made of, and come back on those or beside them, or not at all', async () => {
    const file = await app.inject(`${API}/documents/statement/income_statement/file`);
    const [statement, ...parts] = file.json<[StatementDocument, RowLayout, ColumnLayout]>();
    expect(parts.map(({ kind, id }) => [kind, id])).toEqual([
      ['row_layout', statement.rows],
      ['column_layout', statement.columns],
    ]);
    const bring = (more: readonly Document[]) =>
      ask<DocumentView>('POST', '/documents', { document: statement, parts: more });
    const library = async () => (await ask<LibraryView>('GET', '/documents')).body.documents.length;
    const before = await library();
    // the same layouts are there already
    const same = await bring(parts);
    expect(same.body.document).toMatchObject({ rows: statement.rows, columns: statement.columns });
    expect(await library()).toBe(before + 1);
    // other rows of the same id stand beside those that are there
    const [rows, columns] = parts as [RowLayout, ColumnLayout];
    const [first, ...rest] = rows.rows;
    const other = await bring([{ ...rows, rows: [{ ...first!, label: 'Turnover' }, ...rest] }, columns]);
    expect(other.body.document).toMatchObject({ columns: statement.columns });
    expect((other.body.document as StatementDocument).rows).not.toBe(statement.rows);
    expect(await library()).toBe(before + 3);
    // rows that cannot be computed take what came before them with them
    const broken: RowLayout = {
      ...rows,
      rows: [...rows.rows, { kind: 'formula', id: 'f', label: 'Broken', formula: '{gone} + 1' }],
    };
    const refused = await bring([broken, { ...columns, note: 'Other' }]);
    expect(refused.body).toMatchObject({ code: 'SRV_LAYOUT_BROKEN' });
    expect(await library()).toBe(before + 3);
  });

  it('takes documents out as JSON and in again', async () => {
    const file = await app.inject(`${API}/documents/column_layout/four_quarters/file`);
    expect(file.headers['content-disposition']).toContain('four_quarters.column-layout.json');
    const made = await ask<DocumentView>('POST', '/documents', { document: file.json<ColumnLayout>() });
    expect(made.body.document).toMatchObject({ id: 'four_quarters_2' });
    expect((await ask('POST', '/documents', { document: { kind: 'row_layout' } })).status).toBe(400);
  });

  it('says what rows can be made of, and proposes covered ones', async () => {
    const makings = (await ask<MakingsView>('GET', '/documents/makings')).body;
    expect(makings.dimensions.map(({ name }) => name)).toEqual(['team']);
    expect(makings.versions.map(({ code }) => code)).toEqual(['PLAN']);
    const proposal = (await ask<RowLayout>('GET', '/documents/proposal?purpose=balance_sheet')).body;
    expect(proposal).toMatchObject({ purpose: 'balance_sheet', result: 'total_assets' });
  });
});

describe('a preview', () => {
  const preview = async (layout: Partial<RowLayout>, columns: ColumnLayout['columns']) => {
    const [rowLayout, statement] = [
      (await rows()).document,
      (await documentOf<StatementDocument>('statement', 'income_statement')).document,
    ];
    const columnLayout: ColumnLayout = { schema: 1, kind: 'column_layout', id: 'c', name: 'C', columns };
    return (
      await ask<StatementView>('POST', '/statements/preview', {
        document: statement,
        rowLayout: { ...rowLayout, ...layout },
        columnLayout,
        context: CONTEXT,
      })
    ).body;
  };

  it('evaluates what is not kept: dimensions, versions, entities and bases', async () => {
    const view = await preview({}, [
      { kind: 'figure', id: 'ytd', span: 'year_to_date', measure: 'movement' },
      { kind: 'figure', id: 'plan', span: 'full_year', measure: 'movement', version: 'PLAN' },
      {
        kind: 'figure',
        id: 'red',
        span: 'year_to_date',
        measure: 'movement',
        where: [{ dimension: 'team', has: 'in', values: ['red'] }],
      },
      { kind: 'figure', id: 'two', span: 'year_to_date', measure: 'movement', scope: 'TWO' },
      { kind: 'figure', id: 'dollars', span: 'year_to_date', measure: 'movement', currency: 'USD' },
      { kind: 'figure', id: 'cash', span: 'year_to_date', measure: 'movement', basis: 'cash' },
    ]);
    const sales = view.rows.find(({ id }) => id === 'sales')!.cells;
    // 1,000 of sales, planned 900, all of them red; the other entity has no books, and there are no rates to dollars
    expect(sales.map(({ amount, reason }) => amount ?? reason)).toEqual([
      100_000,
      90_000,
      100_000,
      'no_data',
      'rate_missing',
      100_000,
    ]);
    expect(view.columns[4]!.note).toBe('in USD');
    expect(sales[4]!.origin).toEqual({ kind: 'rate', type: 'average', from: 'EUR', to: 'USD', period: 'January 2026' });
  });

  it('is traced to the figures of a version and the lines of a dimension value', async () => {
    const [layout, columns] = [(await rows()).document, 'versions'];
    const made = await ask<DocumentView>('POST', '/documents', {
      document: {
        schema: 1,
        kind: 'column_layout',
        id: columns,
        name: 'Versions',
        columns: [
          { kind: 'figure', id: 'plan', span: 'full_year', measure: 'movement', version: 'PLAN' },
          {
            kind: 'figure',
            id: 'red',
            span: 'year_to_date',
            measure: 'movement',
            where: [{ dimension: 'team', has: 'in', values: ['red'] }],
          },
        ],
      },
    });
    expect(made.status).toBe(200);
    const trace = async (address: string) =>
      (
        await ask<TraceView>(
          'GET',
          `/statements/income_statement/trace?${new URLSearchParams({ ...CONTEXT, columns, address })}`,
        )
      ).body;
    const row = layout.rows[0]!.kind === 'group' ? layout.rows[0]!.children[0]!.id : '';
    const plan = await trace(`account~${row}~plan~4000`);
    expect(plan.postings).toMatchObject({ count: 1, total: 90_000, lines: [{ journal: 'Plan', journalId: 0 }] });
    const red = await trace(`account~${row}~red~4000`);
    expect(red.postings).toMatchObject({ count: 1, total: 100_000, lines: [{ journal: 'J1' }] });
  });
});

describe('tie-outs', () => {
  it('check the books and every layout, each with both sides', async () => {
    const { body } = await ask<TieOutsView>('GET', `/tie-outs?${new URLSearchParams(CONTEXT)}`);
    expect(body.ties.map(({ check, subject, agrees, statement }) => [check, subject, agrees, statement])).toEqual([
      ['trial_balance', '', true, null],
      ['result', 'income_by_heading', true, 'income_statement'],
      ['coverage', 'income_by_heading', true, 'income_statement'],
      ['balance_sheet', 'balance_sheet_by_heading', true, 'balance_sheet'],
      ['coverage', 'balance_sheet_by_heading', true, 'balance_sheet'],
      ['cash_flow', 'cash_flow_indirect', true, 'cash_flow'],
      ['coverage', 'cash_flow_indirect', true, 'cash_flow'],
      ['movements', '', true, null],
      ['balances', '', true, null],
      ['statements', '', true, null],
    ]);
  });

  it('say when a layout leaves an account out, at once', async () => {
    const { document, base } = await rows();
    await keep({ ...document, result: undefined, shareBase: undefined, rows: document.rows.slice(1, 2) }, base);
    const { body } = await ask<TieOutsView>('GET', `/tie-outs?${new URLSearchParams(CONTEXT)}`);
    const open = body.ties.filter(({ agrees }) => !agrees);
    expect(open).toMatchObject([{ check: 'coverage', subject: 'income_by_heading', difference: -1 }]);
  });
});
