/** A list with another item in a place. */
export const replacedAt = <T>(list: readonly T[], at: number, item: T): T[] =>
  list.map((each, place) => (place === at ? item : each));

/** A list with an item some places further on. */
export function movedAt<T>(list: readonly T[], at: number, by: -1 | 1): T[] {
  const items = [...list];
  const [item] = items.splice(at, 1);
  items.splice(at + by, 0, item!);
  return items;
}

export const withoutAt = <T>(list: readonly T[], at: number): T[] => list.filter((_, place) => place !== at);

/** An id that no item of a list has, counted on from its length. */
export const nextId = (prefix: string, list: readonly { id: string }[]): string =>
  nextFree(`${prefix}_`, new Set(list.map(({ id }) => id)));

/** A key that is not taken, counted on from how many are. */
export function nextFree(prefix: string, taken: ReadonlySet<string>): string {
  let at = taken.size + 1;
  while (taken.has(`${prefix}${at}`)) at++;
  return `${prefix}${at}`;
}
