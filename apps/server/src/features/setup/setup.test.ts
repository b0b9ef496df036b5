import type { FastifyInstance } from 'fastify';
import type {
  SavedTable,
  SaveTable,
  SetupTableView,
  TableChangeView,
  UsesView,
  WorkspaceSetupView,
} from '@margin-lens/contract';
import { query, tinyFiles, workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';

const LAYOUT = {
  schema: 1,
  kind: 'row_layout',
  id: 'own',
  name: 'Own rows',
  purpose: 'free',
  rows: [
    { kind: 'accounts', id: 'sales', label: 'Sales', accounts: { include: [{ by: 'heading', heading: 'Sales' }] } },
    {
      kind: 'accounts',
      id: 'goods',
      label: 'Goods',
      accounts: { include: [{ by: 'sub_heading', heading: 'Sales', subHeading: 'Goods' }] },
    },
    { kind: 'accounts', id: 'cash', label: 'Cash', accounts: { include: [{ by: 'account', number: '1000' }] } },
  ],
};

let app: FastifyInstance;
let databaseFile: string;
beforeEach(async () => {
  databaseFile = await workspaceOf(tinyFiles({ 'layouts/own.json': JSON.stringify(LAYOUT) }));
  app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
});
afterEach(() => app.close());

const table = async (name: string) => (await app.inject(`/api/v1/setup/tables/${name}`)).json<SetupTableView>();
const save = async (name: string, change: Partial<SaveTable>): Promise<SavedTable> => {
  const { revision } = await table(name);
  const payload = { base: revision, put: [], remove: [], ...change };
  return (await app.inject({ method: 'PUT', url: `/api/v1/setup/tables/${name}`, payload })).json<SavedTable>();
};
const uses = async (name: string, ...key: string[]) =>
  (await app.inject({ method: 'POST', url: `/api/v1/setup/tables/${name}/uses`, payload: { key } })).json<UsesView>()
    .uses;
const rowOf = ({ rows }: SetupTableView, key: string) => rows.find(({ cells }) => cells[0] === key);
const account = (number: string, name: string, nature: string, heading: string, subHeading = '', role = '') => [
  number,
  name,
  nature,
  heading,
  subHeading,
  role,
  '',
  '',
  '',
  '',
  '',
  '',
  '',
  '',
];

describe('setting up tables', () => {
  it('adds and changes accounts in one revision, with who and when, and tells which ones hold postings', async () => {
    const saved = await save('accounts', {
      put: [
        account('5000', 'Rent of shops', 'expense', 'Costs', 'Premises'),
        account('5100', 'Energy', 'expense', 'Costs'),
      ],
    });
    expect(saved.issues).toEqual([]);
    expect(rowOf(saved.table, '5000')).toMatchObject({ isPosted: true });
    expect(rowOf(saved.table, '5100')).toMatchObject({ isPosted: false });
    const history = (await app.inject('/api/v1/setup/tables/accounts/history')).json<TableChangeView[]>();
    expect(history[0]).toMatchObject({ person: 'Controller', action: 'set up accounts', more: 0 });
    expect(history[0]!.rows.map(({ before, after }) => [before?.[1], after?.[1]])).toEqual([
      ['Rent', 'Rent of shops'],
      [undefined, 'Energy'],
    ]);
  });

  it('keeps the postings of an account whose classification changes', async () => {
    await save('accounts', { put: [account('5000', 'Rent', 'expense', 'Other', 'Other')] });
    const [row] = query<{ lines: number }>(
      databaseFile,
      "select count(*) as lines from journal_line l join account a on a.id = l.account and a.until is null where a.number = '5000'",
    );
    expect(row!.lines).toBe(2);
  });

  it('writes nothing when one row is wrong, and names row, column and remedy', async () => {
    const saved = await save('accounts', {
      put: [account('5100', 'Energy', 'expense', 'Costs'), account('5200', 'Wages', 'cost', 'Costs')],
    });
    expect(saved.issues).toMatchObject([{ code: 'CORE_CELL_CHOICE', line: 2, column: 'nature' }]);
    expect(rowOf(saved.table, '5100')).toBeUndefined();
  });

  it('refuses to take out what is in use, saying where, and takes out what is not', async () => {
    const refused = await save('accounts', { remove: [['1000']] });
    expect(refused.issues).toMatchObject([
      { code: 'CORE_SETUP_IN_USE', message: '1000 is in use: 4 journal lines, 1 row layout.' },
    ]);
    await save('accounts', { put: [account('5100', 'Energy', 'expense', 'Costs')] });
    const gone = await save('accounts', { remove: [['5100']] });
    expect([gone.issues, rowOf(gone.table, '5100')]).toEqual([[], undefined]);
  });

  it('says what stands on an entity, a period and a dimension value', async () => {
    expect(await uses('entities', 'ONE')).toEqual([
      { what: 'journals', count: 5 },
      { what: 'figure of versions', count: 1 },
      { what: 'group', count: 1 },
    ]);
    expect(await uses('entities', 'TWO')).toEqual([]);
    expect((await uses('dimensions', 'team', 'red')).map(({ what }) => what)).toEqual(['balances']);
    expect((await uses('calendars', 'cal', '2026', '1')).map(({ what }) => what)).toEqual(['balances']);
    expect(await uses('calendars', 'cal', '2026', '5')).toEqual([]);
  });

  it('keeps currency and calendar of an entity with postings', async () => {
    const other = await save('calendars', {
      put: [['weeks', '2026', '1', 'Period 1', '2026-01-05', '2026-02-01', 'regular', '1']],
    });
    expect(other.issues).toEqual([]);
    const { issues } = await save('entities', {
      put: [
        ['ONE', 'One', 'USD', 'weeks', '', ''],
        ['TWO', 'Two', 'GBP', 'weeks', '', ''],
      ],
    });
    expect(issues.map(({ code, line }) => [code, line])).toEqual([
      ['CORE_ENTITY_CURRENCY_CHANGED', 1],
      ['CORE_ENTITY_CALENDAR_CHANGED', 1],
    ]);
    expect((await save('entities', { put: [['TWO', 'Two', 'GBP', 'weeks', '30.5', 'temporal']] })).issues).toEqual([]);
  });

  it('keeps the days of periods that hold postings', async () => {
    const { issues } = await save('calendars', {
      put: [['cal', '2026', '2', '2026-02', '2026-02-11', '2026-02-28', 'regular', '1']],
    });
    expect(issues[0]).toMatchObject({ code: 'CORE_PERIOD_DATES_IN_USE', line: 1 });
    expect(issues[0]!.message).toBe(
      'FY2026-P02 of the calendar cal holds 2 lines that its new dates leave out, such as one of 2026-02-10.',
    );
  });

  it('names the rows of layouts that an account stands in, however they pick it', async () => {
    const payload = { key: ['5000'] };
    const { body } = await app.inject({ method: 'POST', url: '/api/v1/setup/tables/accounts/uses', payload });
    const { rows } = JSON.parse(body) as UsesView;
    // an expense: a row of the income statement, by its heading, and the result in the other two
    expect(rows.map(({ layout }) => layout)).toEqual([
      'Income by heading',
      'Balance sheet by heading',
      'Cash flow, indirect',
    ]);
    expect(rows.slice(1).map(({ row }) => row)).toEqual(['Result for the year', 'Profit for the period']);
  });

  it('refuses a gap in a calendar, a second account for retained earnings, and a value below itself', async () => {
    const may = await save('calendars', {
      put: [['cal', '2026', '5', 'May', '2026-05-09', '2026-05-31', 'regular', '2']],
    });
    expect(may.issues.map(({ code }) => code)).toEqual(['CORE_PERIOD_GAP']);
    const twice = await save('accounts', {
      put: [account('3100', 'Profit', 'equity', 'Equity', '', 'retained_earnings')],
    });
    expect(twice.issues.map(({ code }) => code)).toEqual(['CORE_ACCOUNT_ROLE_TWICE']);
    const below = await save('dimensions', {
      put: [
        ['team', 'red', 'Red', 'blue', ''],
        ['team', 'blue', 'Blue', 'red', ''],
      ],
    });
    expect(below.issues.map(({ code }) => code)).toEqual(['CORE_DIMENSION_CYCLE']);
    const orphan = await save('dimensions', { put: [['team', 'red', 'Red', 'blue', '']] });
    expect(orphan.issues.map(({ code }) => code)).toEqual(['CORE_REFERENCE_UNKNOWN']);
  });

  it('does not overwrite what someone else has changed since the table was read', async () => {
    const { revision } = await table('accounts');
    await save('accounts', { put: [account('5000', 'Rent of shops', 'expense', 'Costs')] });
    const late = await save('accounts', { base: revision, put: [account('5000', 'Leases', 'expense', 'Costs')] });
    expect(late.issues).toMatchObject([{ code: 'CORE_SETUP_CHANGED_MEANWHILE' }]);
    expect(rowOf(late.table, '5000')!.cells[1]).toBe('Rent of shops');
  });

  it('lets row layouts follow a heading that is renamed, and leaves them where accounts only move', async () => {
    const selectors = () =>
      query<{ body: string }>(databaseFile, "select body from document where id = 'own' and until is null").map(
        ({ body }) => (JSON.parse(body) as typeof LAYOUT).rows.map(({ accounts }) => accounts.include[0]),
      )[0]!;
    const { notes } = await save('accounts', { put: [account('4000', 'Sales', 'income', 'Revenue', 'Goods')] });
    expect(notes).toContain('The rows “Own rows” follow the new names of headings.');
    expect(selectors().slice(0, 2)).toEqual([
      { by: 'heading', heading: 'Revenue' },
      { by: 'sub_heading', heading: 'Revenue', subHeading: 'Goods' },
    ]);
    const moved = await save('accounts', { put: [account('4000', 'Sales', 'income', 'Costs', 'Goods')] });
    expect(moved.notes).toContain('The rows “Own rows” follow the new names of headings.');
    expect(selectors()[0]).toEqual({ by: 'heading', heading: 'Revenue' });
  });
});

describe('setting up the workspace', () => {
  it('keeps settings, and moves the role of retained earnings from one account to another', async () => {
    await save('accounts', { put: [account('3100', 'Profit', 'equity', 'Equity')] });
    const settings = {
      name: 'Tiny and Sons',
      reporting_currency: 'EUR',
      fiscal_year_naming: 'starts',
      materiality: { amount: 500, percent: 5 },
      working_days: { ONE: { country: 'AT', closed: [{ date: '2026-12-24', name: 'Christmas Eve' }] } },
    };
    const { revision } = (await app.inject('/api/v1/setup/workspace')).json<WorkspaceSetupView>();
    const put = (retainedEarnings: string, base = 1_000_000) =>
      app.inject({ method: 'PUT', url: '/api/v1/setup/workspace', payload: { base, settings, retainedEarnings } });
    expect((await put('3100')).json<WorkspaceSetupView>()).toMatchObject({
      settings,
      retainedEarnings: '3100',
      bases: [
        { basis: 'books', isUsed: true },
        { basis: 'adjustment', isUsed: false },
        { basis: 'cash', isUsed: false },
      ],
    });
    expect(rowOf(await table('accounts'), '3000')!.cells[5]).toBe('');
    expect((await put('5000')).json<{ code: string }>().code).toBe('SRV_ACCOUNT_NOT_EQUITY');
    // a second person who read the settings before that was saved
    const late = await put('3000', revision);
    expect([late.statusCode, late.json<{ code: string }>().code]).toEqual([409, 'SRV_SETTINGS_CHANGED']);
  });

  it('lists countries, regions and holidays', async () => {
    const reply = await app.inject('/api/v1/setup/holidays?country=DE&region=BY&from=2026&to=2026');
    const { countries, days } = reply.json<{
      countries: { code: string; regions: { code: string }[] }[];
      days: { date: string }[];
    }>();
    expect(countries.find(({ code }) => code === 'DE')!.regions.map(({ code }) => code)).toContain('BY');
    // Epiphany is a holiday in Bavaria and not in all of Germany (Bavarian holiday act, Art. 1)
    expect(days.map(({ date }) => date)).toContain('2026-01-06');
  });
});
