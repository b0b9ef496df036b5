import { readFileSync } from 'node:fs';
import path from 'node:path';
import {
  buildCalendar,
  parseAmount,
  QUANTITY_DIGITS,
  type Account,
  accountOf,
  type CashFlowRule,
  type FiscalCalendar,
  type Surroundings,
  type LedgerSlice,
  type Nature,
} from '../../../src/index';
import { buildLedgerSlice, type BalanceEntry } from '../../../src/books/ledger-slice';
import { booksByFlow } from '../books-by-flow';

/** Rows of a CSV file of the case, by column; none of its fields holds a comma or a quotation mark. */
export function readTable(file: string): Record<string, string>[] {
  const [header, ...lines] = readFileSync(path.join(__dirname, file), 'utf8').trim().split(/\r?\n/);
  const names = header!.split(',');
  return lines.map((line) => {
    const cells = line.split(',');
    return Object.fromEntries(names.map((name, index) => [name, cells[index] ?? '']));
  });
}

export const minorOf = (text: string, digits = 2): number => {
  const parsed = parseAmount(text, digits);
  if (!('minor' in parsed)) throw new Error(`not an amount: ${text}`);
  return parsed.minor;
};

const ROLES: Record<string, string> = { 'Retained earnings': 'retained_earnings', 'Cash at bank': 'cash' };

const accountOfRow = (row: Record<string, string>): Account =>
  accountOf(row['account']!, row['type'] as Nature, {
    name: row['name']!,
    heading: row['type']!,
    subHeading: row['sub_type']!,
    role: ROLES[row['name']!] ?? '',
    behaviour: row['time_basis'] === 'flow' ? 'flow' : 'level',
    unit: row['type'] === 'statistic' ? row['sub_type']! : '',
  });

interface CaseEntry extends BalanceEntry {
  flow: string;
}

/** The case's accounts, calendar, and one entry for every line: opening balances count to the first period's opening. */
function readEntries(): { accounts: Account[]; calendar: FiscalCalendar; entries: CaseEntry[] } {
  const accounts = readTable('input/accounts.csv').map(accountOfRow);
  const natures = new Map(accounts.map((account) => [account.number, account.nature]));
  const calendar = buildCalendar(
    'case01',
    readTable('input/calendar.csv').map((row) => ({
      fiscalYear: Number(row['fiscal_year']),
      number: Number(row['period_no']),
      label: row['period']!,
      start: row['start_date']!,
      end: row['end_date']!,
      kind: row['is_adjustment'] === 'Y' ? 'adjustment' : 'regular',
      quarter: Number(row['quarter']),
    })),
  );
  const ordinals = new Map(calendar.periods.map((period) => [period.label, period.ordinal]));
  const entry = (row: Record<string, string>, period: number, entryKind: BalanceEntry['entryKind']): CaseEntry => {
    const account = row['account']!;
    const isStatistic = natures.get(account) === 'statistic';
    const amount = minorOf(row['amount']!, isStatistic ? QUANTITY_DIGITS : 2);
    const money = isStatistic ? 0 : amount;
    return {
      account,
      period,
      entryKind,
      debit: Math.max(money, 0),
      credit: Math.max(-money, 0),
      quantity: isStatistic ? amount : 0,
      flow: row['flow'] ?? '',
    };
  };
  const entries = [
    ...readTable('input/opening_balances.csv').map((row) => entry(row, 0, 'opening')),
    ...readTable('input/journal.csv').map((row) => entry(row, ordinals.get(row['period']!)!, 'normal')),
  ];
  return { accounts, calendar, entries };
}

/** The case's books. */
export function readCase(): LedgerSlice {
  const { accounts, calendar, entries } = readEntries();
  return buildLedgerSlice(accounts, calendar, entries);
}

/** The case's books by movement code, as the cash flow reads them. */
export function readCaseByFlow(): Surroundings['booksOf'] {
  const { accounts, calendar, entries } = readEntries();
  return booksByFlow(accounts, calendar, entries);
}

/** The cash-flow rules of the case; the case writes `*` for "all other codes". */
export const readCashFlow = (): CashFlowRule[] =>
  readTable('input/cash_flow_map.csv').map((row) => ({
    line: row['cash_flow_line']!,
    account: row['account']!,
    flow: row['flow'] === '*' ? '' : row['flow']!,
    factor: Number(row['factor_on_ledger_movement']),
  }));
