import type { Flow } from './book-problems';
import type { MovementParts } from './turn-member';

/** What an elimination is for. */
export const ELIMINATION_KINDS = [
  'investment',
  'fair_value',
  'impairment',
  'step',
  'disposal',
  'dividend',
  'balances',
  'income_expense',
  'stock_profit',
  'asset_profit',
  'associate',
  'joint',
  'others',
  'by_hand',
] as const;
export type EliminationKind = (typeof ELIMINATION_KINDS)[number];

/** What a line of an elimination does. */
export const ELIMINATION_REASONS = [
  'equity_acquired',
  'fair_value_item',
  'goodwill',
  'bargain_purchase',
  'investment',
  'others_at_acquisition',
  'others_bear_cost',
  'used_up',
  'exchange_difference',
  'deferred_tax',
  'impairment',
  'others_sold',
  'paid_to_others',
  'goes_with_it',
  'earned_before',
  'disposal_gain',
  'dividend_declared',
  'dividend_received',
  'dividend_of_others',
  'own_side',
  'partner_side',
  'difference',
  'stays_outside',
  'in_stock',
  'in_asset',
  'released',
  'share_of_profit',
  'share_of_reserves',
  'remeasured',
  'others_share_of_result',
  'others_share_of_equity',
  'others_share_of_exchange',
  'by_hand',
] as const;
export type EliminationReason = (typeof ELIMINATION_REASONS)[number];

/** A place in what a member brings in that an amount was found from. */
export interface TermSource {
  member: string;
  /** Only what it has with these partners; undefined for all of it. */
  partners?: readonly string[];
  at: Extract<Flow, 'movement' | 'opening_entries' | 'entered' | 'left'>;
  account: number;
  period: number;
}

/** Of which part of an account's movement a line is: what came with an entity, went with it, or a rate did, is no other flow. */
export function flowOf({ kind, reason }: Pick<EliminationTerm, 'kind' | 'reason'>): 'flow' | keyof MovementParts {
  if (reason === 'exchange_difference' || reason === 'others_share_of_exchange') return 'exchange_difference';
  return kind === 'investment' || kind === 'joint' ? 'entered' : kind === 'disposal' ? 'left' : 'flow';
}

/** Movement code of what a line does, as postings carry one; empty where it has none. */
export const movementCodeOf = ({ reason, isOpening }: Pick<EliminationTerm, 'reason' | 'isOpening'>): string =>
  isOpening ? '' : (MOVEMENT_CODES[reason] ?? '');

const MOVEMENT_CODES: Partial<Record<EliminationReason, string>> = {
  ...{ used_up: 'depreciation', impairment: 'depreciation', released: 'depreciation' },
  ...{ dividend_declared: 'dividend', dividend_received: 'dividend', dividend_of_others: 'dividend' },
  ...{ others_sold: 'change_of_shares', paid_to_others: 'change_of_shares' },
  others_share_of_result: 'result',
};

/** All movement codes that lines of eliminations can have, none among them. */
export const ELIMINATION_CODES: readonly string[] = ['', ...new Set(Object.values(MOVEMENT_CODES))];

/**
 * A line of an elimination: how it changes an account of the group in a period. The lines of a journal come to zero.
 *
 * Units: minor units of the scope, debit positive.
 */
export interface EliminationTerm {
  kind: EliminationKind;
  /** Which elimination it is, in all its periods. @example 'investment LMA', 'balances trade LMC LMT' */
  journal: string;
  /** Name of the rule or of the journal by hand; empty where it follows from the master data. */
  rule: string;
  /** Index of the account. */
  account: number;
  period: number;
  /** Whether it stood before the first period. */
  isOpening: boolean;
  /** The entity whose figures it changes; empty for the group's own. */
  entity: string;
  /** The other side; empty where there is none. */
  partner: string;
  amount: number;
  /** Codes of the members whose books it was found from. */
  about: readonly string[];
  reason: EliminationReason;
  /** As a person gave it, of journals by hand. */
  text?: string | undefined;
  /** What it was found from; asked for where somebody looks into it. */
  from: (term: Pick<EliminationTerm, 'period' | 'isOpening'>) => readonly TermSource[];
}
