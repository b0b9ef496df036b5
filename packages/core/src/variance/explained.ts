import * as v from 'valibot';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import type { ExceptionSpan } from '../period/span';
import type { BridgeTerm } from './bridge';

/** What a variance is: one that another month gives back, one that stays, or one that does not come again. */
export const EXPLANATION_KINDS = ['timing', 'permanent', 'one_off'] as const;
export type ExplanationKind = (typeof EXPLANATION_KINDS)[number];

const periodKeyText = v.pipe(v.string(), v.regex(/^FY\d{4}-P\d{2}$/));

/** What a remark says of the variance that it explains. Units: `amount` in minor units, what it does to profit. */
export const ExplanationSchema = v.strictObject({
  kind: v.picklist(EXPLANATION_KINDS),
  amount: v.pipe(v.number(), v.safeInteger()),
  /** Key of the month that it stands in. */
  in: periodKeyText,
  /** Key of the month that gives it back, of a matter of timing; empty where nobody knows. */
  returns: v.union([v.literal(''), periodKeyText]),
});
export type Explanation = v.InferOutput<typeof ExplanationSchema>;

/** A remark that explains, as far as it is needed to add up. */
export interface Explaining {
  id: string;
  /** The remark of an earlier month that it carries on; empty where there is none. */
  carries: string;
  explains: Explanation;
}

/** Of remarks that are carried on from month to month, the last one of each. */
export function lastOfEach<T extends Pick<Explaining, 'id' | 'carries'>>(remarks: readonly T[]): T[] {
  const carriedOn = new Set(remarks.map(({ carries }) => carries));
  return remarks.filter(({ id }) => !carriedOn.has(id));
}

/** Whether a month counts in a span that ends with another. */
export function isInSpan(
  month: Pick<FiscalPeriod, 'fiscalYear' | 'ordinal'>,
  at: Pick<FiscalPeriod, 'fiscalYear' | 'ordinal'>,
  span: ExceptionSpan,
): boolean {
  if (span === 'period') return month.ordinal === at.ordinal;
  return month.fiscalYear === at.fiscalYear && (span === 'full_year' || month.ordinal <= at.ordinal);
}

/** A variance by what explains it. Units: minor units, effects on profit; the parts and `rest` add up to it exactly. */
export interface VarianceByKind {
  parts: { kind: ExplanationKind; amount: number }[];
  /** What no remark tells yet. */
  rest: number;
}

export function varianceByKind(variance: number, explained: readonly Explaining[]): VarianceByKind {
  const parts = EXPLANATION_KINDS.map((kind) => ({ kind, amount: sumOf(explained, kind) }));
  return { parts, rest: variance - parts.reduce((sum, { amount }) => sum + amount, 0) };
}

const sumOf = (explained: readonly Explaining[], kind: ExplanationKind): number =>
  explained.reduce((sum, { explains }) => (explains.kind === kind ? sum + explains.amount : sum), 0);

/** A result as it was reported, what of it does not come again, and what is left. Units: minor units. */
export interface Underlying {
  reported: number;
  /** What each one-off takes off; the reported result and the terms add up to the underlying one. */
  terms: BridgeTerm[];
  underlying: number;
}

/**
 * The underlying result: the reported one less what its one-off matters do to it, and nothing else.
 * @source ours; a measure of one's own, to be reconciled line by line (ESMA, Guidelines on Alternative Performance Measures, 2015, 26)
 */
export function underlyingOf(reported: number, oneOffs: readonly BridgeTerm[]): Underlying {
  const terms = oneOffs
    .filter(({ amount }) => amount !== 0)
    .map((term) => ({ ...term, amount: -term.amount }))
    .sort((a, b) => Math.abs(b.amount) - Math.abs(a.amount));
  return { reported, terms, underlying: terms.reduce((sum, { amount }) => sum + amount, reported) };
}

/** Whether a matter of timing came back in the month that it was to: all of it, some of it, or none. */
export const RETURNS = ['to_come', 'returned', 'in_part', 'not_returned'] as const;
export type Return = (typeof RETURNS)[number];

/**
 * Looks for the return of a matter of timing.
 * @param amount what it did to profit, so that its opposite is expected
 * @param observed what the variance of the month of return does to profit; null while that is to come or is not known
 * @param within the limit up to which a difference is nothing to explain, minor units
 */
export function returnOf(amount: number, observed: number | null, within: number): Return {
  if (observed === null) return 'to_come';
  const short = Math.abs(amount) - Math.sign(-amount) * observed;
  if (short <= within) return 'returned';
  return Math.sign(observed) === Math.sign(-amount) ? 'in_part' : 'not_returned';
}
