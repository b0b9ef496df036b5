/** Pages that are kept as they were made. */
const KEPT_PAGES = 300; // 20 to 2,000

/** What pages show, kept for as long as nothing is written: a change of one page has the others stand as they are. */
export class KeptPages<T> {
  private readonly kept = new Map<string, Promise<T>>();

  /** @param key all that it is made from, as a text */
  of(key: string, make: () => Promise<T>): Promise<T> {
    const known = this.kept.get(key);
    if (known) {
      // what is asked for again is kept longest
      this.kept.delete(key);
      this.kept.set(key, known);
      return known;
    }
    const made = make();
    this.kept.set(key, made);
    made.catch(() => this.kept.delete(key));
    if (this.kept.size > KEPT_PAGES) this.kept.delete(this.kept.keys().next().value!);
    return made;
  }
}
