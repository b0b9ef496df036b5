import { parseAmount } from '../money/amount';
import type { AcquiredItem } from '../scope/group-records';

/** What an investor paid, and what its part was worth that it held before. Units: its minor units. */
export interface Paid {
  investor: string;
  consideration: number;
  priorFairValue: number;
}

/** A balance of the books at the day, or what an item was worth beyond them. Units: minor units of the investee. */
export interface Item {
  item: string;
  account: string;
  expenseAccount: string;
  local: number;
  /** Months over which it is used up; undefined where it is not. */
  life: number | undefined;
}

/** What was bought of an entity on a day, by one or several. */
export interface Purchase {
  /** ISO day. */
  date: string;
  paid: readonly Paid[];
  isNciAtFairValue: boolean;
  /** Units: minor units of the investor who said it. */
  nciFairValue: number;
  nciBy: string;
  book: readonly Item[];
  fairValues: readonly Item[];
}

/**
 * The purchases of an entity, in the order of their days. What is said once of one may stand on any of its rows.
 * @param digitsOf minor-unit digits of an entity's currency
 */
export function purchasesOf(
  investee: string,
  acquired: readonly AcquiredItem[],
  digitsOf: (entity: string) => number,
): Purchase[] {
  const rows = acquired.filter((row) => row.investee === investee);
  const dates = [...new Set(rows.map(({ date }) => date))].sort();
  return dates.map((date) => {
    const ofDay = rows.filter((row) => row.date === date);
    const items = (kind: AcquiredItem['kind']) =>
      ofDay.filter((row) => row.kind === kind && row.localAmount !== '').map((row) => itemOf(row, digitsOf(investee)));
    const nci = ofDay.find(({ nciFairValue }) => nciFairValue !== '');
    return {
      date,
      paid: paidBy(ofDay, digitsOf),
      isNciAtFairValue: ofDay.some(({ nciMethod }) => nciMethod === 'fair_value'),
      nciFairValue: nci ? minorOf(nci.nciFairValue, digitsOf(nci.investor)) : 0,
      nciBy: (nci ?? ofDay[0]!).investor,
      book: items('book'),
      fairValues: items('fair_value'),
    };
  });
}

function paidBy(rows: readonly AcquiredItem[], digitsOf: (entity: string) => number): Paid[] {
  return [...new Set(rows.map(({ investor }) => investor))].map((investor) => {
    const said = (of: (row: AcquiredItem) => string) =>
      minorOf(
        rows
          .filter((row) => row.investor === investor)
          .map(of)
          .find(Boolean) ?? '',
        digitsOf(investor),
      );
    return {
      investor,
      consideration: said(({ consideration }) => consideration),
      priorFairValue: said(({ priorInterestFairValue }) => priorInterestFairValue),
    };
  });
}

const itemOf = (row: AcquiredItem, digits: number): Item => ({
  ...{ item: row.item, account: row.account, expenseAccount: row.expenseAccount },
  local: minorOf(row.localAmount, digits),
  life: row.lifeMonths ?? undefined,
});

/** Decimal text in minor units; nothing where it is no amount: the intake refuses such. */
export function minorOf(text: string, digits: number): number {
  const amount = text === '' ? { minor: 0 } : parseAmount(text, digits);
  return 'minor' in amount ? amount.minor : 0;
}
