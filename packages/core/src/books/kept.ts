/** What was made before under a key; the oldest goes where there are too many, which may hang on how large they are. */
export function kept<T>(held: Map<string, T>, key: string, most: number | ((made: T) => number), make: () => T): T {
  const known = held.get(key);
  if (known) return known;
  const made = make();
  held.set(key, made);
  const limit = typeof most === 'number' ? most : most(made);
  for (const oldest of held.keys()) {
    if (held.size <= limit) break;
    held.delete(oldest);
  }
  return made;
}
