/**
 * What a group's figures stand on beside ownership and rates, as it was delivered. Amounts are decimals as text: what
 * currency they are in says the group or entity that they are of.
 *
 * @source docs/formats.md: historical.csv, acquisitions.csv, eliminations.csv
 */

/** What an account of an entity was worth in the group's currency when it came about. */
export interface HistoricalAmount {
  entity: string;
  account: string;
  date: string;
  /** Of the amount in the group's currency; empty for the reporting currency. */
  currency: string;
  localAmount: string;
  groupAmount: string;
}

/** An item of what was bought, at the day on which control was obtained. */
export interface AcquiredItem {
  investor: string;
  investee: string;
  date: string;
  consideration: string;
  nciMethod: string;
  nciFairValue: string;
  /** Fair value of what was held before, at the day of control. */
  priorInterestFairValue: string;
  /** A balance of its books at that day, or what an item was worth beyond them. */
  kind: 'book' | 'fair_value';
  item: string;
  account: string;
  localAmount: string;
  /** Account that takes its depreciation. */
  expenseAccount: string;
  /** Months over which it is used up; null where it is not. */
  lifeMonths: number | null;
}

/** A part that was sold on a day. Amounts in the group's currency. */
export interface Disposal {
  investor: string;
  investee: string;
  date: string;
  percentSold: string;
  proceeds: string;
  /** Of what is kept, on the day on which control was lost. */
  keptFairValue: string;
}

/** A line of an elimination that was entered by hand, in the currency of its group. */
export interface EliminationLine {
  group: string;
  journal: string;
  kind: string;
  line: number;
  period: string;
  entity: string;
  partner: string;
  account: string;
  debit: string;
  credit: string;
  rule: string;
  reason: string;
}

/** A part of an asset at the rate of when it came about, for the temporal method. Units: minor units of the entity. */
export interface AssetLayer {
  entity: string;
  account: string;
  /** ISO day. */
  date: string;
  local: number;
  /** Units of the group's currency for one of the entity's; empty for the spot rate of the day. */
  rate: string;
  /** Months over which it is used up; 0 for stock. */
  life: number;
  /** Key of the first period in which it is used; empty for stock. */
  firstPeriod: string;
  /** Accounts that take its wear and its expense; empty where there is none. */
  accumulated: string;
  expense: string;
}

/** What an associate without books earned and paid out in a period, in its currency; a profit is positive. */
export interface AssociateResult {
  entity: string;
  /** Key of a period. */
  period: string;
  profit: string;
  otherReserves: string;
  dividend: string;
}

/** Goodwill that was written down in a period. */
export interface Impairment {
  investor: string;
  investee: string;
  /** Key of a period. */
  period: string;
  /** In the currency of the goodwill. */
  amount: string;
}

/** Goods that entities of the group hold at the end of a period and bought from each other. */
export interface StockHeld {
  holder: string;
  seller: string;
  /** Key of a period. */
  period: string;
  /** At the price that the holder paid, in its currency. */
  amount: string;
  /** Percent of that price. */
  margin: string;
  stockAccount: string;
  /** Account of the seller that takes the profit off. */
  costAccount: string;
}

/** An asset that one entity sold to another. Amounts in the seller's currency. */
export interface AssetTransfer {
  seller: string;
  buyer: string;
  /** Key of a period. */
  period: string;
  account: string;
  proceeds: string;
  carryingAmount: string;
  /** Months over which the buyer writes it off; 0 where it does not. */
  life: number;
  gainAccount: string;
  /** Account of the buyer that takes its depreciation. */
  expenseAccount: string;
}

/** What meets what between entities of a group. */
export interface StandingRule {
  group: string;
  rule: string;
  kind: 'balances' | 'income_expense' | 'dividends' | 'interest';
  /** Of the seller alone: its amount is also taken from the partner's accounts. */
  side: 'both' | 'seller';
  /** Codes and ranges of codes. */
  accounts: string;
  partnerAccounts: string;
  differenceAccount: string;
  /** Takes the part of an entity in proportion that stays outside. */
  outsideAccount: string;
  /** Decimal text in the group's currency. */
  tolerance: string;
}
