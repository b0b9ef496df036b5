import fc from 'fast-check';
import {
  buildCalendar,
  type Account,
  accountOf,
  type FiscalCalendar,
  type LedgerSlice,
  type Nature,
  type PeriodRow,
} from '../../src/index';
import { buildLedgerSlice, type BalanceEntry } from '../../src/books/ledger-slice';

/** Two fiscal years from April, each with an adjustment period, and the first months of a third. */
export function testCalendar(): FiscalCalendar {
  const rows: PeriodRow[] = [];
  for (const fiscalYear of [2025, 2026, 2027]) {
    for (let number = 1; number <= 12; number++) {
      const month = ((number + 2) % 12) + 1;
      const year = number <= 9 ? fiscalYear - 1 : fiscalYear;
      const days = new Date(Date.UTC(year, month, 0)).getUTCDate();
      const prefix = `${year}-${String(month).padStart(2, '0')}`;
      rows.push({
        fiscalYear,
        number,
        label: prefix,
        start: `${prefix}-01`,
        end: `${prefix}-${days}`,
        kind: 'regular',
        quarter: Math.ceil(number / 3),
      });
    }
    const end = `${fiscalYear}-03-31`;
    rows.push({ fiscalYear, number: 13, label: `Adj ${fiscalYear}`, start: end, end, kind: 'adjustment', quarter: 4 });
  }
  return buildCalendar('test', rows);
}

export const account = (number: string, nature: Nature, heading: string, more: Partial<Account> = {}): Account =>
  accountOf(number, nature, { name: `Account ${number}`, heading, subHeading: heading, ...more });

export const TEST_ACCOUNTS: readonly Account[] = [
  account('1000', 'asset', 'Cash'),
  account('2000', 'liability', 'Payables'),
  account('3000', 'equity', 'Capital'),
  account('3100', 'equity', 'Retained', { role: 'retained_earnings' }),
  account('3200', 'equity', 'Dividends', { role: 'dividends' }),
  account('4000', 'income', 'Sales'),
  account('4100', 'income', 'Sales'),
  account('4900', 'income', 'Other income'),
  account('5000', 'expense', 'Goods'),
  account('5100', 'expense', 'Goods'),
  account('6000', 'expense', 'People'),
  account('6100', 'expense', 'Overheads'),
  account('9000', 'statistic', 'Statistics', { behaviour: 'level', unit: 'people' }),
];

const MONEY = TEST_ACCOUNTS.filter(({ nature }) => nature !== 'statistic').map(({ number }) => number);

/** Balanced books of any kind: every entry stands against another account in the same period. */
export const randomBooks: fc.Arbitrary<LedgerSlice> = fc
  .array(
    fc.record({
      period: fc.nat({ max: 30 }),
      from: fc.constantFrom(...MONEY),
      to: fc.constantFrom(...MONEY),
      amount: fc.integer({ min: 1, max: 10_000_000 }),
      entryKind: fc.constantFrom<BalanceEntry['entryKind']>('normal', 'normal', 'normal', 'opening'),
    }),
    { minLength: 1, maxLength: 120 },
  )
  .map((pairs) =>
    buildLedgerSlice(
      TEST_ACCOUNTS,
      testCalendar(),
      pairs.flatMap(({ period, from, to, amount, entryKind }): BalanceEntry[] => [
        { account: to, period, entryKind, debit: amount, credit: 0, quantity: 0 },
        { account: from, period, entryKind, debit: 0, credit: amount, quantity: 0 },
      ]),
    ),
  );
