/** What was made before under a key; the oldest goes where there are too many. */
export function kept<T>(held: Map<string, T>, key: string, most: number, make: () => T): T {
  const known = held.get(key);
  if (known) return known;
  const made = make();
  held.set(key, made);
  if (held.size > most) held.delete(held.keys().next().value!);
  return made;
}
