import { USUAL_STYLE } from '@margin-lens/core/shown';
import type {
  CellView,
  ColumnHeadView,
  PeriodView,
  StatementView,
  WhyView,
  WorkspaceView,
} from '@margin-lens/contract';

const EUR = { kind: 'currency', code: 'EUR', digits: 2 } as const;
const RATIO = { kind: 'ratio' } as const;
export const eur = (amount: number, more: Partial<CellView> = {}): CellView => ({ amount, unit: EUR, ...more });
export const ratio = (amount: number): CellView => ({ amount, unit: RATIO });
const none = (reason: CellView['reason'] & string): CellView => ({ amount: null, unit: RATIO, reason });

const head = (
  id: string,
  kind: ColumnHeadView['kind'],
  label: string,
  more: Partial<ColumnHeadView> = {},
): ColumnHeadView => ({
  id,
  source: id,
  kind,
  block: 'month',
  blockLabel: 'August 2026',
  label,
  note: '',
  notation: 'none',
  span: null,
  dates: '',
  held: null,
  flags: [],
  hideFromExport: false,
  ...more,
});

/** A row without settings of its own. */
export const PLAIN = { decimals: null, note: '', hideFromExport: false, opened: false, isEmpty: false } as const;

const span = { from: 4, to: 4 };

/** August 2026 beside August 2025, with an adverse cost, a ratio, and an account without a row. Invented. */
export const SAMPLE_VIEW: StatementView = {
  breakdown: null,
  compared: null,
  readsCash: false,
  totals: null,
  forecast: null,
  id: 'income_statement',
  name: 'Income statement',
  note: '',
  presentation: {},
  readers: {},
  rowLayout: { id: 'rows', name: 'Rows', purpose: 'income' },
  columnLayout: { id: 'month', name: 'Month' },
  scope: { code: 'LMG', name: 'Larkmoor Ceramics', currency: 'EUR' },
  asAt: { key: 'FY2027-P05', name: 'August 2026', end: '2026-08-31' },
  narrowed: [],
  columns: [
    head('ly', 'figure', '2025', { notation: 'prior_year', span: { from: 0, to: 0 } }),
    head('now', 'figure', 'Actual', { notation: 'actual', span, dates: '1 Aug 2026 – 31 Aug 2026 · 31 days' }),
    head('change', 'difference', 'Change', { flags: ['2 periods with data against 1.'] }),
    head('percent', 'percent_change', 'Change', { note: '%' }),
  ],
  rows: [
    { id: 'title', label: 'Income', kind: 'heading', style: 'heading', depth: 0, ...PLAIN, cells: [] },
    {
      id: 'sales',
      label: 'Net sales',
      kind: 'group',
      style: 'total',
      depth: 0,
      ...PLAIN,
      cells: [eur(790_400), eur(841_200), eur(50_800, { favour: 'favourable' }), ratio(0.0643)],
    },
    {
      id: 'energy',
      label: 'Energy',
      kind: 'accounts',
      style: 'detail',
      depth: 1,
      ...PLAIN,
      cells: [eur(-118_000), eur(-141_900), eur(-23_900, { favour: 'adverse' }), ratio(-0.2025)],
    },
    {
      id: 'margin',
      label: 'Margin %',
      kind: 'ratio',
      style: 'ratio',
      depth: 0,
      ...PLAIN,
      cells: [
        ratio(0.85),
        ratio(0.83),
        { amount: -0.02, unit: { kind: 'points' }, favour: 'adverse' },
        none('not_meaningful'),
      ],
    },
  ],
  misplacedRows: [
    {
      id: 'account.6510',
      label: '6510 Carbon allowances',
      kind: 'accounts',
      style: 'detail',
      depth: 0,
      ...PLAIN,
      cells: [eur(0), eur(-2_870_000), eur(-2_870_000, { favour: 'adverse' }), { ...none('no_base'), word: 'new' }],
    },
  ],
  coverage: {
    accounts: 3,
    placedOnce: 2,
    misplaced: [{ number: '6510', name: 'Carbon allowances', how: 'none', rowIds: [], rows: [], used: true }],
  },
  profit: [{ column: 'now', shown: 100, trialBalance: -2_869_900, difference: 2_870_000 }],
  trialBalance: { debit: 5_000, credit: 5_000 },
  issues: [],
  revision: 1,
  evaluatedInMs: 1.5,
};

/** Months from April of the first year on, with an adjustment period behind each March. */
export function samplePeriods(years: readonly number[]): PeriodView[] {
  const names = 'April May June July August September October November December January February March'.split(' ');
  return years
    .flatMap((fiscalYear) => [
      ...names.map((name, index): Omit<PeriodView, 'ordinal'> => {
        const month = String(((index + 3) % 12) + 1).padStart(2, '0');
        const year = index < 9 ? fiscalYear - 1 : fiscalYear;
        return {
          key: `FY${fiscalYear}-P${String(index + 1).padStart(2, '0')}`,
          fiscalYear,
          number: index + 1,
          label: name,
          name: `${name} ${year}`,
          short: name.slice(0, 3),
          start: `${year}-${month}-01`,
          end: `${year}-${month}-28`,
          kind: 'regular',
          quarter: 1,
        };
      }),
      {
        key: `FY${fiscalYear}-P13`,
        fiscalYear,
        number: 13,
        label: 'Adj',
        name: `Adjustments FY${fiscalYear % 100}`,
        short: 'Adj.',
        start: `${fiscalYear}-03-28`,
        end: `${fiscalYear}-03-28`,
        kind: 'adjustment' as const,
        quarter: 4,
      },
    ])
    .map((period, ordinal) => ({ ...period, ordinal }));
}

/** Why a figure differs, with one reason. */
export const SAMPLE_WHY: WhyView = {
  row: 'Profit',
  column: 'ytd_change',
  of: 'Actual',
  base: 'Plan',
  ofNotation: 'actual',
  baseNotation: 'plan',
  unit: EUR,
  from: 900,
  to: 1000,
  folded: 0,
  note: '',
  basis: '',
  problem: null,
  counts: [],
  counted: null,
  varies: false,
  values: [],
  terms: [{ id: 'sales', label: 'Sales', amount: 100, favour: 'favourable' }],
};

export const SAMPLE_WORKSPACE: WorkspaceView = {
  revision: 1,
  name: 'Larkmoor Group',
  viewer: 'Controller',
  style: USUAL_STYLE,
  lastImportAt: '2026-11-24T10:00:00Z',
  entities: [
    {
      code: 'LMG',
      name: 'Larkmoor Ceramics',
      currency: 'EUR',
      calendar: 'apr',
      posted: ['FY2026-P05', 'FY2027-P04', 'FY2027-P05'],
    },
    { code: 'LMT', name: 'Larkmoor Tile', currency: 'PLN', calendar: 'apr', posted: ['FY2026-P12', 'FY2026-P13'] },
  ],
  breakdowns: [],
  allocations: [],
  completions: [],
  packs: [],
  areValuesDated: false,
  groups: [],
  scopes: [],
  currencies: [],
  calendars: [{ code: 'apr', periods: samplePeriods([2024, 2025, 2026, 2027]) }],
  versions: [
    { code: 'PLAN', name: 'Plan FY27', kind: 'plan', from: 'FY2027-P01', to: 'FY2027-P12' },
    { code: 'F2', name: 'Forecast 2', kind: 'forecast', from: 'FY2027-P06', to: 'FY2027-P10' },
  ],
  statements: [
    { id: 'income_statement', name: 'Income statement', rows: 'rows', columns: 'month', unit: 1000, readers: {} },
  ],
  dimensions: [{ name: 'department', values: [{ value: 'design', name: 'Design', parent: '' }] }],
  columnLayouts: [
    { id: 'month', name: 'Month' },
    { id: 'twelve', name: 'Twelve months' },
  ],
  defaults: { statement: 'income_statement', scope: 'LMG' },
};
