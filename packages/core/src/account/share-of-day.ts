/** Part of an entity that another holds from a day on, until the next of the same two. */
interface Dated {
  investor: string;
  investee: string;
  /** ISO day. */
  from: string;
}

/** The shares that hold on a day: of each two entities the last that began, also where it says that nothing is left. */
export function sharesOn<T extends Dated>(shares: readonly T[], day: string): T[] {
  const latest = new Map<string, T>();
  for (const share of shares) {
    const key = JSON.stringify([share.investor, share.investee]);
    if (share.from <= day && share.from >= (latest.get(key)?.from ?? '')) latest.set(key, share);
  }
  return [...latest.values()];
}
