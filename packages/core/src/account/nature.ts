import type { Unit } from '../figure/figure';

export const NATURES = ['asset', 'liability', 'equity', 'income', 'expense', 'statistic'] as const;
export type Nature = (typeof NATURES)[number];
export type Orientation = 'debit' | 'credit';
export type Direction = 'up' | 'down' | 'neutral';
/** At which rate an account comes into another currency: that of the day, of the month, or of when it came about. */
export type Translation = 'closing' | 'average' | 'historical';

/** An account as the engine needs it. Category and subcategory are called Heading and Sub-heading on screen. */
export interface Account {
  number: string;
  name: string;
  nature: Nature;
  heading: string;
  subHeading: string;
  role: string;
  translation: Translation;
  /** Whether it is money, or fixed in money; null where nobody has said so. */
  isMonetary: boolean | null;
  /** Whether it is held against entities of the own groups only. */
  isIntercompany: boolean;
  /** The partner that it is held against, where that is always the same; else empty. */
  partner: string;
  behaviour: 'flow' | 'level';
  better: Direction;
  unit: string;
  decimals: number;
}

/** The side on which an account of this nature reads positive. @source reference definition 1 */
export const naturalOrientation = (nature: Nature): Orientation =>
  nature === 'income' || nature === 'liability' || nature === 'equity' ? 'credit' : 'debit';

/** Whether more is favourable, from the nature alone. @source reference definition 13 */
export const naturalDirection = (nature: Nature): Direction =>
  nature === 'income' ? 'up' : nature === 'expense' ? 'down' : 'neutral';

/** The rate of an account, from its nature alone. @source reference definition 22 */
export const naturalTranslation = (nature: Nature): Translation =>
  nature === 'income' || nature === 'expense' ? 'average' : nature === 'equity' ? 'historical' : 'closing';

/** An account with what follows from its nature, where nothing else is said of it. */
export const accountOf = (number: string, nature: Nature, more: Partial<Account> = {}): Account => ({
  ...{ number, nature, name: number, heading: '', subHeading: '', role: '' },
  ...{ translation: naturalTranslation(nature), isMonetary: null, isIntercompany: false, partner: '' },
  ...{ behaviour: 'flow', better: naturalDirection(nature), unit: '', decimals: 0 },
  ...more,
});

/** What of the profit of a year belongs to others than the owners of the group: of equity, and outside the profit itself. */
const PROFIT_OF_OTHERS = 'profit_of_non_controlling_interests';

/** True for accounts that begin every fiscal year at zero. @source reference definition 3 */
export const isFlow = (account: Pick<Account, 'nature' | 'behaviour' | 'role'>): boolean =>
  account.nature === 'income' ||
  account.nature === 'expense' ||
  account.role === 'dividends' ||
  account.role === PROFIT_OF_OTHERS ||
  (account.nature === 'statistic' && account.behaviour === 'flow');

/** True for accounts whose result moves into retained earnings at the year's end. @source reference definition 4 */
export const isResult = (account: Pick<Account, 'nature' | 'role'>): boolean =>
  account.nature === 'income' ||
  account.nature === 'expense' ||
  account.role === 'dividends' ||
  account.role === PROFIT_OF_OTHERS;

export const isProfitOrLoss = (account: Pick<Account, 'nature'>): boolean =>
  account.nature === 'income' || account.nature === 'expense';

/** What an account is measured in, given the currency of its books. */
export const accountUnit = (account: Account, currency: Unit): Unit =>
  account.nature === 'statistic'
    ? { kind: 'count', name: account.unit || 'units', digits: account.decimals }
    : currency;
