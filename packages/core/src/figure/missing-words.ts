import type { Missing, Origin, RateDoubt, UndefinedReason } from './figure';

const REASONS: Record<UndefinedReason, string> = {
  no_base: 'No base: the other side is zero',
  no_data: 'No data loaded',
  to_come: 'Still to come: after the as-at month',
  not_meaningful: 'Not meaningful for this row',
  rate_missing: 'A rate is missing',
  planned_higher: 'Planned at a higher level, without these values',
  cycle: 'Rows depend on each other in a circle',
  not_permitted: 'Not permitted',
};

/**
 * Why there is no figure, in words, with what it began at.
 * @example missingInWords({ reason: 'rate_missing', origin }) // 'No average rate PLN to EUR for August 2026'
 */
export const missingInWords = ({ reason = 'no_data', origin }: Partial<Missing>): string =>
  origin ? `No ${origin.type} rate ${origin.from} to ${origin.to} for ${origin.period}` : REASONS[reason];

const DOUBTS: Record<RateDoubt, string> = {
  jump: 'is far from the month before',
  inverted: 'looks turned upside down',
};

/** A rate that is hard to believe, in words. @example 'The closing rate PLN to EUR for August 2026 is far from the month before' */
export const doubtInWords = ({ type, from, to, period, doubt = 'jump' }: Origin): string =>
  `The ${type} rate ${from} to ${to} for ${period} ${DOUBTS[doubt]}`;
