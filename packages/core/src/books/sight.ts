import type { DimensionCondition } from '../cube/dimension-condition';

/** What someone may see of the books. */
export interface Sight {
  /** The same for all who may see the same; empty for those who may see everything. */
  key: string;
  seesEntity(code: string): boolean;
  /** Demands that a posting or figure meets that may be seen. */
  where: readonly DimensionCondition[];
  /** Whether totals may be told that include what may not be seen. */
  totals: boolean;
}

export const ALL_SEEN: Sight = { key: '', seesEntity: () => true, where: [], totals: true };

/** Whether a demand asks for values of a dimension of which not all may be seen: that is no total of it. */
export const asksForLimited = ({ where: limits }: Sight, where: readonly DimensionCondition[]): boolean =>
  where.some(({ dimension }) => limits.some((limit) => limit.dimension === dimension));
