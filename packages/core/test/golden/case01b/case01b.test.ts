import { readFileSync } from 'node:fs';
import path from 'node:path';
import {
  buildCalendar,
  evaluateStatement,
  tieOutsAt,
  type Account,
  accountOf,
  type CashFlowRule,
  type ColumnLayout,
  type Nature,
  type Row,
  type RowLayout,
} from '../../../src/index';
import { buildLedgerSlice, type BalanceEntry } from '../../../src/books/ledger-slice';
import { ALONE } from '../../../src/statement/surroundings';
import { booksByFlow } from '../books-by-flow';

// Published, IAS 7 Illustrative Examples, example A, indirect method - from memory, in thousands; see README.md beside
// this file, and further_information.json for the facts that split the movements of the balance sheet.
const read = (file: string) =>
  readFileSync(path.join(__dirname, file), 'utf8')
    .trim()
    .split(/\r?\n/)
    .slice(1)
    .map((line) => line.split(','));

const balances = read('input/balance_sheet.csv') as [string, Nature, string, string][];
const income = read('input/income_statement.csv') as [string, string][];

const account = (number: string, nature: Nature, role = ''): Account =>
  accountOf(number, nature, { heading: nature, role });
const ROLES: Record<string, string> = { cash: 'cash', retained_earnings: 'retained_earnings' };
const accounts = [
  ...balances.map(([line, nature]) => account(line, nature, ROLES[line])),
  ...income.map(([line, amount]) => account(line, Number(amount) > 0 ? 'income' : 'expense')),
];
const calendar = buildCalendar('one', [
  { fiscalYear: 2, number: 1, label: 'year', start: '2002-01-01', end: '2002-12-31', kind: 'regular', quarter: 1 },
]);

type Entry = BalanceEntry & { flow: string };
const entry = (name: string, amount: number, flow = '', entryKind: Entry['entryKind'] = 'normal'): Entry => ({
  account: name,
  period: 0,
  entryKind,
  flow,
  debit: Math.max(amount, 0),
  credit: Math.max(-amount, 0),
  quantity: 0,
});

/** The year's movements of each account, debit positive, split by what moved it (further_information.json). */
const MOVEMENTS: [account: string, amount: number, flow?: string][] = [
  ['cash', 70],
  ['trade_and_interest_receivables', 100, 'interest'], // interest earned and not yet received
  ['trade_and_interest_receivables', 100, 'subsidiary'],
  ['trade_and_interest_receivables', 500],
  ['inventory', 100, 'subsidiary'],
  ['inventory', -1050],
  ['plant_cost', 350, 'bought'],
  ['plant_cost', 900, 'lease'],
  ['plant_cost', 650, 'subsidiary'],
  ['plant_cost', -80, 'disposal'],
  ['plant_accumulated_depreciation', -450, 'depreciation'],
  ['plant_accumulated_depreciation', 60, 'disposal'],
  ['trade_payables', -100, 'subsidiary'],
  ['trade_payables', 1740],
  ['interest_payable', -130],
  ['income_taxes_payable', 600],
  ['long_term_debt_including_leases', -900, 'lease'],
  ['long_term_debt_including_leases', -200, 'subsidiary'],
  ['long_term_debt_including_leases', -250, 'borrowed'],
  ['long_term_debt_including_leases', 90, 'lease_paid'],
  ['share_capital', -250],
  ['retained_earnings', 1200, 'dividends'],
  ['investment_income', -300, 'interest'],
  ['investment_income', -200, 'dividends'],
  ...income
    .filter(([line]) => line !== 'investment_income')
    .map(([line, amount]): [string, number] => [line, -Number(amount)]),
];

const natural = (nature: Nature) => (nature === 'asset' ? 1 : -1);
const entries = [
  ...balances.map(([line, nature, , opening]) => entry(line, natural(nature) * Number(opening), '', 'opening')),
  ...MOVEMENTS.map(([name, amount, flow]) => entry(name, amount, flow)),
];
const slice = buildLedgerSlice(accounts, calendar, entries);

const rule = (line: string, name: string, factor = -1, flow = ''): CashFlowRule => ({
  account: name,
  flow,
  line,
  factor,
});
const beforeTax = income.map(([line]) => line).filter((line) => line !== 'taxes_on_income');
const cashFlow: CashFlowRule[] = [
  ...beforeTax.filter((name) => name !== 'investment_income').map((name) => rule('profit_before_tax', name)),
  rule('profit_before_tax', 'investment_income', -1, 'interest'),
  rule('profit_before_tax', 'investment_income', -1, 'dividends'),
  rule('depreciation', 'plant_accumulated_depreciation', -1, 'depreciation'),
  rule('foreign_exchange_loss', 'foreign_exchange_loss', 1),
  rule('effect_of_exchange_on_cash', 'foreign_exchange_loss', -1),
  rule('investment_income', 'investment_income', 1, 'interest'),
  rule('investment_income', 'investment_income', 1, 'dividends'),
  rule('interest_expense', 'interest_expense', 1),
  rule('increase_in_trade_receivables', 'trade_and_interest_receivables'),
  rule('decrease_in_inventories', 'inventory'),
  rule('decrease_in_trade_payables', 'trade_payables'),
  rule('interest_paid', 'interest_expense'),
  rule('interest_paid', 'interest_payable'),
  rule('income_taxes_paid', 'taxes_on_income'),
  rule('income_taxes_paid', 'income_taxes_payable'),
  ...[
    'trade_and_interest_receivables',
    'inventory',
    'plant_cost',
    'trade_payables',
    'long_term_debt_including_leases',
  ].map((name) => rule('acquisition_of_subsidiary_net_of_cash', name, -1, 'subsidiary')),
  rule('purchase_of_plant', 'plant_cost', -1, 'bought'),
  rule('purchase_of_plant', 'plant_cost', -1, 'lease'),
  rule('purchase_of_plant', 'long_term_debt_including_leases', -1, 'lease'),
  rule('proceeds_of_plant', 'plant_cost', -1, 'disposal'),
  rule('proceeds_of_plant', 'plant_accumulated_depreciation', -1, 'disposal'),
  rule('interest_received', 'investment_income', -1, 'interest'),
  rule('interest_received', 'trade_and_interest_receivables', -1, 'interest'),
  rule('dividends_received', 'investment_income', -1, 'dividends'),
  rule('issue_of_share_capital', 'share_capital'),
  rule('long_term_borrowings', 'long_term_debt_including_leases', -1, 'borrowed'),
  rule('payment_of_lease_liabilities', 'long_term_debt_including_leases', -1, 'lease_paid'),
  rule('dividends_paid', 'retained_earnings', -1, 'dividends'),
  rule('portfolio', 'portfolio_investments'),
];

const expected = read('expected/cash_flow.csv') as [string, string, string][];
const line = (name: string): Row => ({ kind: 'cash_flow', id: name, label: name, line: name });
const group = (section: string): Row => ({
  kind: 'group',
  id: `net_cash_${section}`,
  label: section,
  children: expected.filter(([own]) => own === section).map(([, name]) => line(name)),
});
const cash = (id: string, reads: 'opening' | 'closing'): Row => ({
  kind: 'accounts',
  id,
  label: id,
  reads,
  accounts: { include: [{ by: 'role', role: 'cash' }] },
});
const LAYOUT: RowLayout = {
  schema: 1,
  kind: 'row_layout',
  id: 'ias7',
  name: 'IAS 7, example A',
  purpose: 'cash_flow',
  result: 'change_of_balances',
  rows: [
    ...['operating', 'investing', 'financing'].map(group),
    {
      kind: 'formula',
      id: 'cash_generated_from_operations',
      label: 'Generated from operations',
      formula: '{net_cash_operating} - {interest_paid} - {income_taxes_paid}',
    },
    {
      kind: 'formula',
      id: 'net_increase_in_cash',
      label: 'Net increase',
      formula: '{net_cash_operating} + {net_cash_investing} + {net_cash_financing} + {portfolio}',
    },
    line('portfolio'),
    line('effect_of_exchange_on_cash'),
    cash('opening', 'opening'),
    {
      kind: 'formula',
      id: 'cash_opening_after_exchange_effect',
      label: 'Opening as restated',
      formula: '{opening} + {effect_of_exchange_on_cash}',
    },
    cash('cash_closing', 'closing'),
    {
      kind: 'formula',
      id: 'change_of_balances',
      label: 'Change',
      formula: '{net_increase_in_cash} + {effect_of_exchange_on_cash}',
    },
  ],
};
const COLUMNS: ColumnLayout = {
  schema: 1,
  kind: 'column_layout',
  id: 'year',
  name: 'Year',
  columns: [{ kind: 'figure', id: 'year', span: 'period', measure: 'by_nature' }],
};

describe('the illustrative statement of cash flows of IAS 7', () => {
  const at = calendar.periods[0]!;
  const currency = { kind: 'currency', code: 'XXX', digits: 0 } as const;
  // the code of a movement decides which rule takes it; an account without a rule for a code has none of that code
  const surroundings = { ...ALONE, cashFlow, booksOf: booksByFlow(accounts, calendar, entries) };
  const table = evaluateStatement({ rowLayout: LAYOUT, columnLayout: COLUMNS, slice, at, currency, surroundings });

  it.each(expected)('%s: %s is %s', (_section, name, amount) => {
    expect(table.rows.find(({ id }) => id === name)?.cells[0]!.amount).toBe(Number(amount));
  });

  it('starts from and comes to the balance sheets as published, and ties to the change in cash', () => {
    for (const [name, nature, closing] of balances) {
      const moved = slice.closing[slice.indexOfAccount.get(name)!]! + (name === 'retained_earnings' ? -3050 : 0); // profit 3,350 less tax 300
      expect(natural(nature) * moved).toBe(Number(closing));
    }
    const ties = tieOutsAt({ slice, at, currency, surroundings, layouts: [LAYOUT] });
    expect(ties.filter(({ agrees }) => !agrees)).toEqual([]);
    expect(ties.map(({ check }) => check)).toEqual(['trial_balance', 'cash_flow', 'coverage']);
  });
});
