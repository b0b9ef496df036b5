import type { DimensionCondition } from '../cube/dimension-condition';

/** The version of books is asked for like a dimension. */
const VERSION = '*version';

/** The demand on books of a version, in place of the one that is shown. */
export const inVersion = (code: string): DimensionCondition => ({ dimension: VERSION, has: 'in', values: [code] });

export const isOfVersion = ({ dimension }: DimensionCondition): boolean => dimension === VERSION;

/** The version that demands ask for; undefined where they leave it as it is. */
export const versionIn = (where: readonly DimensionCondition[]): string | undefined =>
  where.find(isOfVersion)?.values[0];
