import fc from 'fast-check';
import { randomBooks, TEST_ACCOUNTS, testCalendar } from '../../test/properties/random-books';
import { buildLedgerSlice, type BalanceEntry } from './ledger-slice';
import { monthColumns, profitOf, spanColumns, trialBalanceTable } from './trial-balance-table';

const calendar = testCalendar();
const at = (key: string) => calendar.periods.find((period) => period.key === key)!;
const entry = (
  account: string,
  key: string,
  euros: number,
  entryKind: 'normal' | 'opening' = 'normal',
): BalanceEntry => ({
  account,
  period: at(key).ordinal,
  entryKind,
  debit: Math.max(euros, 0) * 100,
  credit: Math.max(-euros, 0) * 100,
  quantity: 0,
});
// opens with 500 of cash against capital; April: sales of 300, goods of 120; May: sales of 100
const slice = buildLedgerSlice(TEST_ACCOUNTS, calendar, [
  entry('1000', 'FY2027-P01', 500, 'opening'),
  entry('3000', 'FY2027-P01', -500, 'opening'),
  entry('1000', 'FY2027-P01', 300),
  entry('4000', 'FY2027-P01', -300),
  entry('5000', 'FY2027-P01', 120),
  entry('1000', 'FY2027-P01', -120),
  entry('1000', 'FY2027-P02', 100),
  entry('4000', 'FY2027-P02', -100),
]);
const MAY = at('FY2027-P02');
const euros = (amounts: readonly (number | null)[]) => amounts.map((amount) => (amount === null ? null : amount / 100));
const of = (id: string, span: 'month' | 'year_to_date') =>
  euros(trialBalanceTable(TEST_ACCOUNTS, spanColumns(slice, MAY, span)).lines.find((line) => line.id === id)!.amounts);

describe('spanColumns', () => {
  it('are opening, debit, credit and closing of a month or of the year so far', () => {
    expect(of('1000', 'month')).toEqual([680, 100, 0, 780]); // 500 + 300 − 120, and 100 more
    expect(of('1000', 'year_to_date')).toEqual([500, 400, 120, 780]); // what an opening journal brings is opening
    expect(of('4000', 'year_to_date')).toEqual([0, 0, 400, -400]);
  });

  it('agree for any books: opening + debit − credit = closing, and debit and credit are the same', () => {
    fc.assert(
      fc.property(
        randomBooks,
        fc.nat({ max: 30 }),
        fc.constantFrom('month' as const, 'year_to_date' as const),
        (books, ordinal, span) => {
          const { lines, totals } = trialBalanceTable(
            TEST_ACCOUNTS,
            spanColumns(books, calendar.periods[ordinal]!, span),
          );
          for (const { amounts } of lines) expect(amounts[0]! + amounts[1]! - amounts[2]!).toBe(amounts[3]);
          expect(totals[1]).toBe(totals[2]);
          const [natures, accounts] = (['nature', 'account'] as const).map((kind) =>
            lines.filter((line) => line.kind === kind).reduce((sum, { amounts }) => sum + amounts[3]!, 0),
          );
          expect(natures).toBe(accounts);
        },
      ),
    );
  });
});

describe('monthColumns', () => {
  it('are the closings of each month of the year so far; adjustments only where they hold something', () => {
    const columns = monthColumns(slice, MAY);
    expect(columns.map(({ key }) => key)).toEqual(['FY2027-P01', 'FY2027-P02']);
    const cash = TEST_ACCOUNTS.findIndex(({ number }) => number === '1000');
    expect(euros(columns.map((column) => column.amountOf(cash)))).toEqual([680, 780]);
    expect(monthColumns(slice, at('FY2026-P13')).map(({ key }) => key)).not.toContain('FY2026-P13');
  });
});

describe('trialBalanceTable', () => {
  it('is an outline whose groups are the sums of what stands under them', () => {
    const { lines, totals } = trialBalanceTable(TEST_ACCOUNTS, spanColumns(slice, MAY, 'month'));
    expect(lines.map(({ label, depth }) => `${' '.repeat(depth)}${label}`)).toEqual([
      'Assets',
      ' Cash',
      '  Cash',
      '   1000 Account 1000',
      'Equity',
      ' Capital',
      '  Capital',
      '   3000 Account 3000',
      'Income',
      ' Sales',
      '  Sales',
      '   4000 Account 4000',
      'Expenses',
      ' Goods',
      '  Goods',
      '   5000 Account 5000',
    ]);
    expect(totals).toEqual([0, 10_000, 10_000, 0]);
    expect(profitOf(TEST_ACCOUNTS, spanColumns(slice, MAY, 'month')[3]!)).toBe(28_000); // 400 − 120
  });
});
