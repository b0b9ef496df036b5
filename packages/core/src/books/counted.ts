import { isFlow, type Account } from '../account/nature';
import type { DimensionCondition } from '../cube/dimension-condition';

/** What of postings is counted in place of their amounts: the quantities that they carry, or how many journal lines there are. */
export const COUNTED = ['quantity', 'lines'] as const;
export type Counted = (typeof COUNTED)[number];

/** What is counted is asked for by, like a dimension. */
const COUNTS = '*counts';

/** The demand that has something counted in place of amounts. */
export const counting = (counted: Counted): DimensionCondition => ({ dimension: COUNTS, has: 'in', values: [counted] });

export const isCounting = ({ dimension }: DimensionCondition): boolean => dimension === COUNTS;

/** What demands have counted; undefined for amounts. */
export function countedIn(where: readonly DimensionCondition[]): Counted | undefined {
  const asked = where.find(isCounting)?.values[0];
  return COUNTED.find((counted) => counted === asked);
}

/**
 * An account as what is counted of it is read: like a statistic, so that nothing is turned at rates, carried to retained
 * earnings or consolidated. Quantities flow or stand as its amounts do; lines are those of a span.
 */
export function countedAccount(account: Account, counted: Counted): Account {
  const behaviour = counted === 'lines' || isFlow(account) ? 'flow' : 'level';
  const unit = counted === 'lines' ? 'lines' : account.unit;
  return { ...account, nature: 'statistic', role: '', behaviour, better: 'neutral', unit };
}
