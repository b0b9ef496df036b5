/** What costs something to make, made when it is first asked for and then kept. */
export function lazily<T>(make: () => T): () => T {
  let made: { value: T } | undefined;
  return () => (made ??= { value: make() }).value;
}
