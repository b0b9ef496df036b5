/** A part of a variance. Units: minor units. */
export interface BridgeTerm {
  id: string;
  label: string;
  amount: number;
}

export interface Bridge {
  from: number;
  to: number;
  /** The largest parts first, by size; what is left stands last as `rest`. */
  terms: BridgeTerm[];
  /** Parts that `rest` holds. */
  folded: number;
}

export const REST = 'rest';

/** A variance between two sums of parts, by key; undefined where one of them is no sum of such parts. */
export function bridgeBetween<K>(
  { from, to }: Pick<Bridge, 'from' | 'to'>,
  of: ReadonlyMap<K, number> | undefined,
  base: ReadonlyMap<K, number> | undefined,
  shown: number,
  nameOf: (key: K) => Pick<BridgeTerm, 'id' | 'label'>,
): Bridge | undefined {
  if (!of || !base) return undefined;
  const parts = [...new Set([...of.keys(), ...base.keys()])].map((key): BridgeTerm => {
    const { id, label } = nameOf(key);
    return { id, label, amount: (of.get(key) ?? 0) - (base.get(key) ?? 0) };
  });
  return bridgeOf(from, to, parts, shown);
}

/**
 * Ranks what explains a variance and folds the small parts, so that the steps add up to it exactly.
 *
 * Shape: parts of nothing are left out; at most `shown` parts stand alone. What the parts do not explain goes to the rest.
 */
export function bridgeOf(from: number, to: number, parts: readonly BridgeTerm[], shown: number): Bridge {
  const ranked = parts.filter(({ amount }) => amount !== 0).sort((a, b) => Math.abs(b.amount) - Math.abs(a.amount));
  const alone = ranked.slice(0, ranked.length === shown + 1 ? shown + 1 : shown);
  const rest = to - from - alone.reduce((sum, { amount }) => sum + amount, 0);
  const folded = ranked.length - alone.length;
  const terms = rest === 0 && folded === 0 ? alone : [...alone, { id: REST, label: 'All else', amount: rest }];
  return { from, to, terms, folded };
}
