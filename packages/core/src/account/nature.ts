import type { Unit } from '../figure/figure';

export const NATURES = ['asset', 'liability', 'equity', 'income', 'expense', 'statistic'] as const;
export type Nature = (typeof NATURES)[number];
export type Orientation = 'debit' | 'credit';
export type Direction = 'up' | 'down' | 'neutral';

/** An account as the engine needs it. Category and subcategory are called Heading and Sub-heading on screen. */
export interface Account {
  number: string;
  name: string;
  nature: Nature;
  heading: string;
  subHeading: string;
  role: string;
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

/** True for accounts that begin every fiscal year at zero. @source reference definition 3 */
export const isFlow = (account: Pick<Account, 'nature' | 'behaviour' | 'role'>): boolean =>
  account.nature === 'income' ||
  account.nature === 'expense' ||
  account.role === 'dividends' ||
  (account.nature === 'statistic' && account.behaviour === 'flow');

/** True for accounts whose result moves into retained earnings at the year's end. @source reference definition 4 */
export const isResult = (account: Pick<Account, 'nature' | 'role'>): boolean =>
  account.nature === 'income' || account.nature === 'expense' || account.role === 'dividends';

export const isProfitOrLoss = (account: Pick<Account, 'nature'>): boolean =>
  account.nature === 'income' || account.nature === 'expense';

/** What an account is measured in, given the currency of its books. */
export const accountUnit = (account: Account, currency: Unit): Unit =>
  account.nature === 'statistic'
    ? { kind: 'count', name: account.unit || 'units', digits: account.decimals }
    : currency;
