import { testCalendar } from '../../test/properties/random-books';
import { LocalCodes } from '../account/local-codes';
import { describeIssue, type Issue } from '../issue/issue';
import { TableChecker } from './check-table';
import { FigureRowReader } from './figure-row';
import { JournalRowReader } from './journal-row';
import { PostingCalendar, type PostingContext } from './posting-context';
import { RESOURCES } from './resources';

const calendar = new PostingCalendar(testCalendar(), (period) => period.ordinal + 1);
const CONTEXT: PostingContext = {
  entities: new Map([
    ['LMG', { id: 1, code: 'LMG', currency: 'EUR', digits: 2, calendar }],
    ['LMJ', { id: 2, code: 'LMJ', currency: 'JPY', digits: 0, calendar }],
  ]),
  partners: new Set(['LMG', 'LMJ', 'C100']),
  accounts: new Map([
    [
      '1000',
      {
        id: 1,
        number: '1000',
        isStatistic: false,
        isProfitOrLoss: false,
        isRetainedEarnings: false,
        isCash: false,
        naturalSign: 1,
      },
    ],
    [
      '4000',
      {
        id: 2,
        number: '4000',
        isStatistic: false,
        isProfitOrLoss: true,
        isRetainedEarnings: false,
        isCash: false,
        naturalSign: -1,
      },
    ],
    [
      '9000',
      {
        id: 3,
        number: '9000',
        isStatistic: true,
        isProfitOrLoss: false,
        isRetainedEarnings: false,
        isCash: false,
        naturalSign: 1,
      },
    ],
  ]),
  local: new LocalCodes(
    [{ entity: 'LMJ', from: '7000..7099', to: '4000', since: '' }],
    [{ entity: 'LMJ', dimension: 'region', from: 'ajia', to: 'asia', since: '' }],
  ),
  unmapped: {
    id: 4,
    number: '1999',
    isStatistic: false,
    isProfitOrLoss: false,
    isRetainedEarnings: false,
    isCash: false,
    naturalSign: 1,
  },
  versions: new Map([['PLAN', 7]]),
  dimensions: new Map([
    ['product', new Set(['tiles'])],
    ['region', new Set(['asia'])],
  ]),
};

const HEADER = [
  'entity',
  'journal',
  'kind',
  'line',
  'date',
  'period',
  'account',
  'debit',
  'credit',
  'currency',
  'currency_amount',
  'quantity',
  'partner',
  'flow',
  'basis',
  'document',
  'document_type',
  'due',
  'settles',
  'dim:region',
  'dim:product',
];
const GOOD: Record<string, string> = {
  entity: 'LMG',
  journal: 'J1',
  line: '1',
  date: '2026-08-31',
  account: '1000',
  debit: '12.50',
};

function readJournal(change: Record<string, string>) {
  const found: Issue[] = [];
  const reader = new JournalRowReader(CONTEXT, (issue) => found.push(issue));
  reader.open(HEADER);
  const fields = { ...GOOD, ...change };
  const row = reader.read(
    HEADER.map((name) => fields[name] ?? ''),
    5,
  );
  return { row, found };
}

describe('JournalRowReader', () => {
  it('reads a line in minor units of the entity and finds its period by the date', () => {
    const { row, found } = readJournal({ 'dim:product': 'tiles', 'dim:region': 'asia', partner: 'LMJ' });
    expect(found).toEqual([]);
    expect(row).toMatchObject({ debit: 1250, credit: 0, fiscalYear: 2027, currency: 'EUR', kind: 0, basis: 0 });
    expect(row?.period.key).toBe('FY2027-P05');
    expect(row?.combination).toBe('LMJ\u001f\u001fproduct=tiles\u001fregion=asia');
  });

  it('takes customers as partners, and what an open item needs', () => {
    const open = { partner: 'C100', document: 'INV-7', document_type: 'invoice', due: '2026-09-30' };
    const { row, found } = readJournal(open);
    expect(found).toEqual([]);
    expect(row).toMatchObject({ document: 'INV-7', documentType: 'invoice', due: '2026-09-30', settles: '' });
    expect(readJournal({ partner: 'C100', settles: 'INV-7' }).row).toMatchObject({ due: '', settles: 'INV-7' });
  });

  it('lets the period column decide for adjustment periods', () => {
    expect(readJournal({ date: '2026-03-31', period: 'FY2026-P13' }).row?.period.kind).toBe('adjustment');
  });

  it.each<[string, Record<string, string>, string]>([
    ['CORE_REFERENCE_UNKNOWN', { entity: 'NONE' }, 'entity'],
    ['CORE_REFERENCE_UNKNOWN', { account: '9999' }, 'account'],
    ['CORE_REFERENCE_UNKNOWN', { partner: 'NONE' }, 'partner'],
    ['CORE_REFERENCE_UNKNOWN', { 'dim:product': 'glass' }, 'dim:product'],
    ['CORE_REFERENCE_UNKNOWN', { period: 'FY2031-P01' }, 'period'],
    ['CORE_CELL_EMPTY', { journal: '' }, 'journal'],
    ['CORE_CELL_EMPTY', { account: '' }, 'account'],
    ['CORE_CELL_INTEGER', { line: '1.5' }, 'line'],
    ['CORE_CELL_NUMBER', { debit: '1,250.00' }, 'debit'],
    ['CORE_CELL_DECIMALS', { debit: '12.505' }, 'debit'],
    ['CORE_CELL_DECIMALS', { entity: 'LMJ', debit: '12.5' }, 'debit'],
    ['CORE_CELL_TOO_LARGE', { debit: '90071992547409.92' }, 'debit'],
    ['CORE_CELL_NEGATIVE', { debit: '-5.00' }, 'debit'],
    ['CORE_CELL_CHOICE', { kind: 'reversal' }, 'kind'],
    ['CORE_CELL_CHOICE', { basis: 'tax' }, 'basis'],
    ['CORE_CELL_DATE', { date: '2026-02-30' }, 'date'],
    ['CORE_CELL_DATE', { due: '30 September' }, 'due'],
    ['CORE_CELL_CURRENCY', { currency: 'EURO' }, 'currency'],
    ['CORE_JOURNAL_DATE_OUTSIDE', { date: '2031-01-01' }, 'date'],
    ['CORE_JOURNAL_PERIOD_DATE', { date: '2026-08-31', period: 'FY2027-P04' }, 'date'],
    ['CORE_JOURNAL_BOTH_SIDES', { credit: '1.00' }, 'credit'],
    ['CORE_JOURNAL_STATISTIC_AMOUNT', { account: '9000' }, 'debit'],
  ])('%s with %j names file, line and column', (code, change, column) => {
    const { row, found } = readJournal(change);
    expect(row).toBeUndefined();
    expect(found).toEqual([expect.objectContaining({ code, place: { file: 'journals.csv', line: 5, column } })]);
    expect(describeIssue(found[0]!).message).not.toMatch(/[{}]/);
  });

  it('refuses rows of another width, repeated and missing columns, unknown dimensions', () => {
    const found: Issue[] = [];
    const reader = new JournalRowReader(CONTEXT, (issue) => found.push(issue));
    expect(reader.open(['entity', 'entity', 'journal', 'line', 'date', 'account', 'debit', 'colour', 'dim:size'])).toBe(
      false,
    );
    expect(found.map(({ code }) => code)).toEqual([
      'CORE_TABLE_COLUMN_TWICE',
      'CORE_TABLE_COLUMN_UNKNOWN',
      'CORE_TABLE_COLUMN_MISSING',
      'CORE_REFERENCE_UNKNOWN',
    ]);
    const other = new JournalRowReader(CONTEXT, (issue) => found.push(issue));
    other.open(HEADER);
    other.read(['LMG'], 2);
    expect(found.at(-1)?.code).toBe('CORE_TABLE_ROW_WIDTH');
  });
});

describe('FigureRowReader', () => {
  it('turns natural signs into debit positive', () => {
    const reader = new FigureRowReader(CONTEXT, () => undefined);
    reader.open(['version', 'entity', 'account', 'period', 'amount']);
    expect(reader.read(['PLAN', 'LMG', '4000', 'FY2027-P01', '100.00'], 2)).toMatchObject({
      version: 7,
      amount: -10000,
    });
  });
});

function checkTable(name: string, rows: string[][], known: Record<string, string[]> = {}) {
  const resource = RESOURCES.find((candidate) => candidate.name === name)!;
  const found: Issue[] = [];
  const sets = new Map(Object.entries(known).map(([key, values]) => [key, new Set(values)]));
  const checker = new TableChecker(resource, (issue) => found.push(issue), sets);
  checker.open(resource.columns.map((column) => column.name));
  rows.forEach((row, index) => checker.check(row, index + 2));
  return found.map(({ code }) => code);
}

describe('TableChecker', () => {
  const known = { entities: ['LMG', 'LMT'], calendars: ['apr_mar'], groups: ['ALL'], accounts: ['1000', '1100'] };

  it('takes rows as its columns want them', () => {
    expect(checkTable('ownership', [['LMG', 'LMT', '2024-04-01', '80', 'full']], known)).toEqual([]);
    const rule = ['ALL', 'trade', 'balances', 'both', '1000..1199', '1100', '', '', '50.00'];
    expect(checkTable('standing_rules', [rule], known)).toEqual([]);
    expect(checkTable('period_status', [['LMG', 'FY2027-P01', 'open']], known)).toEqual([]);
  });

  it.each<[string, string, string[]]>([
    ['CORE_OWNERSHIP_RANGE', 'ownership', ['LMG', 'LMT', '2024-04-01', '130', 'full']],
    ['CORE_CELL_NUMBER', 'ownership', ['LMG', 'LMT', '2024-04-01', 'all', 'full']],
    ['CORE_CELL_CHOICE', 'ownership', ['LMG', 'LMT', '2024-04-01', '80', 'half']],
    ['CORE_CELL_DATE', 'ownership', ['LMG', 'LMT', '1 April', '80', 'full']],
    ['CORE_REFERENCE_UNKNOWN', 'ownership', ['LMG', 'NONE', '2024-04-01', '80', 'full']],
    ['CORE_CELL_PERIOD', 'period_status', ['LMG', '2027-01', 'open']],
    ['CORE_RATE_NOT_POSITIVE', 'rates', ['', 'EUR', 'PLN', 'FY2027-P01', '', 'closing', '0']],
    ['CORE_CELL_CURRENCY', 'rates', ['', 'EUR', 'ZLOTY', 'FY2027-P01', '', 'closing', '4.3']],
    ['CORE_OWNERSHIP_RANGE', 'entities', ['LMG', 'Larkmoor', 'EUR', 'apr_mar', '250', '']],
    ['CORE_CELL_CHOICE', 'entities', ['LMG', 'Larkmoor', 'EUR', 'apr_mar', '', 'current']],
    ['CORE_CELL_CODE', 'entities', ['*LMG', 'Larkmoor', 'EUR', 'apr_mar', '25', '']],
    ['CORE_CELL_CHOICE', 'partners', ['C1', 'Casa Verano', 'client', '', '']],
    ['CORE_CODES_UNREADABLE', 'standing_rules', ['ALL', 'trade', 'balances', '', '1199..1000', '', '', '', '']],
    ['CORE_CODES_UNKNOWN', 'standing_rules', ['ALL', 'trade', 'balances', '', '1000, 1700..1799', '', '', '', '']],
    ['CORE_CELL_INTEGER', 'versions', ['P', 'Plan', 'plan', 'FY2027-P01', 'FY2027-P12', '', '', '', '', 'first']],
  ])('%s in %s', (code, name, row) => expect(checkTable(name, [row], known)).toEqual([code]));

  it('finds a key that stands twice', () => {
    const row = ['LMG', 'Larkmoor', 'EUR', 'apr_mar', '25', 'temporal'];
    expect(checkTable('entities', [row, row], known)).toEqual(['CORE_ROW_TWICE']);
  });
});
