/** What readers of a page may change of a setting, and what it opens with. */
export interface ReaderChoice<T> {
  may?: boolean | undefined;
  usual?: T | undefined;
}

/** What a reader has asked for where it may be changed, else what the page opens with; undefined where neither is said. */
export function chosenBy<T>({ may = true, usual }: ReaderChoice<T> = {}, asked: T | undefined): T | undefined {
  return may ? (asked ?? usual) : (usual ?? asked);
}
