import type { SetupTableView, WorkspaceSetupView } from '@margin-lens/contract';
import { ScreenBed } from '../testing/screen-bed';
import { cellsOfPeriod, periodsOfYears } from './calendar-view';
import { CalendarsScreen } from './calendars-screen';
import { TableSetupScreen } from './table-setup-screen';
import { WorkingDaysScreen } from './working-days-screen';
import { WorkspaceScreen } from './workspace-screen';

const columns = (...names: string[]) => names.map((name) => ({ name, type: 'text', required: false, choices: null }));
const RULE = { kind: 'months', firstMonth: 4, namedAfter: 'end', adjustments: 1 } as const;
const CALENDARS: SetupTableView = {
  name: 'calendars',
  revision: 3,
  columns: columns('calendar', 'fiscal_year', 'period', 'label', 'start', 'end', 'kind', 'quarter'),
  key: ['calendar', 'fiscal_year', 'period'],
  rows: periodsOfYears(RULE, 2026, 2027, []).map((row) => ({
    cells: cellsOfPeriod('apr', row),
    isPosted: row.fiscalYear === 2026,
  })),
};
const SETTINGS: WorkspaceSetupView = {
  revision: 3,
  settings: { name: 'Larkmoor Group', reporting_currency: 'EUR', fiscal_year_naming: 'ends' },
  bases: [
    { basis: 'books', isUsed: true },
    { basis: 'cash', isUsed: false },
  ],
  retainedEarnings: '2040',
};

describe('CalendarsScreen', () => {
  const open = async () => {
    const bed = await ScreenBed.open('/setup/calendars?scope=LMG&as_at=2026-08', CalendarsScreen);
    bed.reply('/setup/tables/calendars', CALENDARS);
    await bed.settle();
    return bed;
  };

  it('tells the rule from the days, and who uses the calendar', async () => {
    const bed = await open();
    expect(bed.text('[data-testid="rule"]')).toBe('Months from April, named after the year it ends in');
    expect(bed.text('.list')).toContain('apr FY2026 – FY2027 used by 2 entities');
  });

  it('adds a year by the rule, and sends just that year', async () => {
    const bed = await open();
    await bed.press('Add a year after');
    expect(bed.text('table')).toContain('1 Apr 2027 – 31 Mar 2028, 366 days');
    bed.byId('save').click();
    const { request } = bed.reply('/setup/tables/calendars', { issues: [], notes: [], table: CALENDARS }, 'PUT');
    const { base, put, remove } = request.body as { base: number; put: string[][]; remove: string[][] };
    expect([base, put.length, remove, new Set(put.map(([, year]) => year))]).toEqual([3, 13, [], new Set(['2028'])]);
  });

  it('takes a year out and puts it back, and gives up what was changed', async () => {
    const bed = await open();
    await bed.press('delete');
    expect(bed.byId('save').textContent.trim()).toBe('Save 13');
    await bed.press('keep');
    expect(bed.byId<HTMLButtonElement>('save').disabled).toBe(true);
    await bed.choose('First month', 'July');
    expect(bed.text('[data-testid="rule"]')).toContain('Months from July');
    await bed.press('Discard');
    expect(bed.text('[data-testid="rule"]')).toContain('Months from April');
  });

  it('makes a calendar of weeks', async () => {
    const bed = await open();
    await bed.press('New calendar');
    await bed.type('Code of the new calendar', 'retail');
    bed.page.querySelector('.list form')!.dispatchEvent(new Event('submit'));
    await bed.settle();
    await bed.choose('Made of', /weeks/);
    expect(bed.text('[data-testid="rule"]')).toContain('Weeks 4-4-5, to the last Saturday of December');
    expect(bed.text('table')).toContain('52 weeks');
  });
});

describe('TableSetupScreen', () => {
  const ACCOUNTS: SetupTableView = {
    name: 'accounts',
    revision: 3,
    columns: columns('number', 'name', 'nature', 'category', 'subcategory', 'role'),
    key: ['number'],
    rows: [
      { cells: ['1600', 'Cash at bank', 'asset', 'Current assets', 'Cash', ''], isPosted: true },
      { cells: ['6400', 'Kiln gas', '', '', '', ''], isPosted: true },
    ],
  };

  it('counts accounts without a heading with what stands in them, and proposes one', async () => {
    const bed = await ScreenBed.open('/setup/accounts?scope=LMG&as_at=2026-08', TableSetupScreen, {
      data: { table: 'accounts' },
    });
    bed.reply('/setup/tables/accounts', ACCOUNTS);
    bed.reply('/ledger/trial-balance', {
      scope: { code: 'LMG', name: 'Larkmoor Ceramics', currency: 'EUR' },
      asAt: { key: 'FY2027-P05', name: 'August 2026' },
      columns: [],
      totals: [],
      profit: [],
      lines: [{ id: '6400', kind: 'account', label: '6400 Kiln gas', depth: 0, amounts: [0, 0, 0, 14_190_000] }],
    });
    await bed.settle();
    expect(bed.text('[data-testid="unclassified"]')).toContain(
      '1 account has no heading , balances of 141,900.00 EUR in them',
    );
    await bed.press('Propose headings');
    expect(bed.byId('save').textContent.trim()).toBe('Save 1');
    expect(bed.byId('unclassified')).toBeNull();
    bed.byId('save').click();
    const { request } = bed.reply('/setup/tables/accounts', { issues: [], notes: [], table: ACCOUNTS }, 'PUT');
    const [row] = (request.body as { put: string[][] }).put;
    expect([row![0], row![2]]).toEqual(['6400', 'expense']);
  });

  it('shows the values as a tree, and a branch of it alone in the sheet', async () => {
    const table: SetupTableView = {
      name: 'dimensions',
      revision: 1,
      columns: columns('dimension', 'value', 'name', 'parent'),
      key: ['dimension', 'value'],
      rows: [
        ['region', 'EU', 'Europe', ''],
        ['region', 'FR', 'France', 'EU'],
        ['region', 'US', 'America', ''],
        ['team', 'A', 'Team A', ''],
      ].map((cells) => ({ cells, isPosted: false })),
    };
    const bed = await ScreenBed.open('/setup/dimensions?scope=LMG', TableSetupScreen, {
      data: { table: 'dimensions' },
    });
    bed.reply('/setup/tables/dimensions', table);
    await bed.settle();
    const nodes = () => [...bed.page.querySelectorAll<HTMLElement>('mat-tree-node')];
    const words = () => nodes().map((node) => node.querySelector('.label')!.textContent);
    expect(words()).toEqual(['Region', 'Europe', 'America', 'Team', 'Team A']);
    nodes()[1]!.click();
    await bed.settle();
    expect(bed.text('ml-sheet')).toContain('France');
    expect(bed.text('ml-sheet')).not.toContain('America');
    // what is given up brings the rows back as they were, still those of the branch
    await bed.press('Delete');
    await bed.press('Discard');
    expect(bed.text('ml-sheet')).toContain('France');
    expect(bed.text('ml-sheet')).not.toContain('America');
    await bed.press('All values');
    expect(bed.text('ml-sheet')).toContain('America');
  });

  it('says what could not be saved, and keeps it', async () => {
    const bed = await ScreenBed.open('/setup/entities?scope=LMG', TableSetupScreen, { data: { table: 'entities' } });
    const table: SetupTableView = {
      name: 'entities',
      revision: 1,
      columns: columns('code', 'name', 'currency', 'calendar'),
      key: ['code'],
      rows: [{ cells: ['LMG', 'Larkmoor Ceramics', 'EUR', 'apr'], isPosted: true }],
    };
    bed.reply('/setup/tables/entities', table);
    await bed.settle();
    await bed.press('Delete');
    bed.byId('save').click();
    const issues = [
      {
        code: 'CORE_SETUP_IN_USE',
        severity: 'error',
        message: 'LMG is in use: 9 journals.',
        hint: 'Take those out first.',
      },
    ];
    bed.reply('/setup/tables/entities', { issues, notes: [], table }, 'PUT');
    await bed.settle();
    expect(bed.text('[data-testid="issue"]')).toContain('LMG is in use: 9 journals.');
    expect(bed.text('[data-testid="says"]')).toBe('Nothing was saved');
    expect(bed.byId('save').textContent.trim()).toBe('Save 1');
  });
});

describe('WorkingDaysScreen', () => {
  it('counts the days of each period less the holidays of the country and days of its own', async () => {
    const bed = await ScreenBed.open('/setup/working-days?scope=LMG&as_at=2026-08', WorkingDaysScreen);
    bed.reply('/setup/workspace', SETTINGS);
    await bed.settle();
    const countries = [{ code: 'PL', name: 'Poland', regions: [] }];
    bed.reply('/setup/holidays', { countries, days: [] });
    await bed.settle();
    const total = () => Number(bed.text('[data-testid="working-days"]'));
    const without = total();
    await bed.choose('Country', 'Poland');
    // a Thursday; a Saturday, which nobody works on anyway
    const days = [
      { date: '2026-06-04', name: 'Corpus Christi' },
      { date: '2026-08-15', name: 'Assumption' },
    ];
    bed.reply('/setup/holidays', { countries, days });
    await bed.settle();
    expect(total()).toBe(without - 1);
    await bed.press('count as worked');
    expect(total()).toBe(without);
    bed.byId('save').click();
    const { request } = bed.reply('/setup/workspace', SETTINGS, 'PUT');
    expect((request.body as WorkspaceSetupView).settings.working_days).toEqual({
      LMG: { country: 'PL', worked: ['2026-06-04'] },
    });
  });
});

describe('WorkspaceScreen', () => {
  it('offers equity accounts for retained earnings, says which bases are used, and sends what was changed', async () => {
    const bed = await ScreenBed.open('/setup/workspace?scope=LMG', WorkspaceScreen);
    bed.reply('/setup/workspace', SETTINGS);
    bed.reply('/setup/tables/accounts', {
      name: 'accounts',
      revision: 1,
      columns: [],
      key: [],
      rows: [
        { cells: ['2040', 'Retained earnings', 'equity'], isPosted: true },
        { cells: ['1600', 'Cash', 'asset'], isPosted: true },
      ],
    });
    await bed.settle();
    expect(await bed.controls.offered('Retained-earnings account')).toEqual(['none', '2040 Retained earnings']);
    expect(bed.text('table')).toMatch(/books .* holds postings cash .* not used yet/);
    await bed.type('Reporting currency', 'usd');
    await bed.type('A difference of at least', '-5');
    bed.byId('save').click();
    const { request } = bed.reply('/setup/workspace', SETTINGS, 'PUT');
    expect(request.body).toMatchObject({
      base: 3,
      settings: { reporting_currency: 'USD', materiality: { amount: 0, percent: 0 } },
      retainedEarnings: '2040',
    });
  });
});
