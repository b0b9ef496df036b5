/** Pages that are kept as they were made. */
const KEPT_PAGES = 300; // 20 to 2,000

/** What pages show, kept for as long as nothing is written: a change of one page has the others stand as they are. */
export class KeptPages<T extends { problem: string }> {
  private readonly kept = new Map<string, T>();

  /**
   * What is kept under a key, else what is made; one that could not be made is tried again the next time. Nobody waits for
   * what another has begun: that ends with who asked for it.
   * @param key all that it is made from, as a text
   */
  async of(key: string, make: () => Promise<T>): Promise<T> {
    const known = this.kept.get(key);
    const made = known ?? (await make());
    if (made.problem !== '') return made;
    // what is asked for again is kept longest
    this.kept.delete(key);
    this.kept.set(key, made);
    if (this.kept.size > KEPT_PAGES) this.kept.delete(this.kept.keys().next().value!);
    return made;
  }
}
