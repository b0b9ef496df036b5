import type { Nature } from './nature';

/**
 * What an account is for where a rule asks for it, with the natures that it can have; empty where any will do.
 * @source docs/formats.md; IFRS words where there are any
 */
export const ROLES: Readonly<Record<string, readonly Nature[]>> = {
  retained_earnings: ['equity'],
  translation_reserve: ['equity'],
  share_capital: ['equity'],
  dividends: ['equity'],
  non_controlling_interests: ['equity'],
  profit_of_non_controlling_interests: ['equity'],
  transactions_with_non_controlling_interests: ['equity'],
  cash: ['asset', 'liability'],
  goodwill: ['asset'],
  investment_in_subsidiaries: ['asset'],
  investment_in_associates: ['asset'],
  investment_in_joint_operations: ['asset'],
  goodwill_impairment: ['expense'],
  bargain_purchase_gain: ['income'],
  group_dividend_income: ['income'],
  associate_dividend_income: ['income'],
  share_of_associates_profit: ['income', 'expense'],
  deferred_tax_assets: ['asset', 'liability'],
  deferred_tax_liabilities: ['liability', 'asset'],
  deferred_tax_expense: ['expense', 'income'],
  disposal_gain: ['income', 'expense'],
  remeasurement_gain: ['income', 'expense'],
  intercompany_difference: [],
  exchange_gain: ['income', 'expense'],
  rounding: [],
  suspense: [],
  unmapped: [],
  unused: [],
};

/** Roles that many accounts of the chart can have; each other one is what a rule posts to. */
const OF_MANY: ReadonlySet<string> = new Set([
  'cash',
  'share_capital',
  'dividends',
  'investment_in_subsidiaries',
  'investment_in_associates',
  'investment_in_joint_operations',
  'group_dividend_income',
  'associate_dividend_income',
  'suspense',
  'unused',
]);

/** Roles that one account of the chart alone can have. */
export const SINGLE_ROLES: readonly string[] = Object.keys(ROLES).filter((role) => !OF_MANY.has(role));
