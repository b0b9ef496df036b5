import type { UndefinedReason } from '../figure/figure';
import { ACTUAL, narrowed, selectionKey, WHOLE_BOOKS, type BooksSelection } from '../books/books-selection';
import type { LedgerSlice } from '../books/ledger-slice';
import type { CompiledColumns } from './compile-columns';
import type { CompiledLayout } from './compile-layout';

/**
 * Every selection of postings that the cells of a statement read, each once; the whole actual books come first.
 *
 * A cell reads what its column selects, narrowed by the conditions of its row.
 */
export function selectionsRead(conditions: CompiledLayout['conditions'], columns: CompiledColumns): BooksSelection[] {
  const found = new Map([[selectionKey(WHOLE_BOOKS), WHOLE_BOOKS]]);
  for (const column of columns.columns) {
    if (column.kind !== 'figure') continue;
    found.set(selectionKey(column.selection), column.selection);
    // results of finished years move in these books, whatever values they are narrowed to
    const whole = { ...column.selection, where: [] };
    found.set(selectionKey(whole), whole);
    for (const where of conditions) {
      const selection = narrowed(column.selection, where);
      found.set(selectionKey(selection), selection);
    }
  }
  return [...found.values()];
}

/** The books that a statement's cells read, by index; 0 are the whole actual books of its scope. */
export class OpenBooks {
  private readonly indexes = new Map<string, number>();
  private readonly opened: (LedgerSlice | UndefinedReason)[] = [];
  readonly selections: BooksSelection[] = [];

  constructor(
    readonly whole: LedgerSlice,
    private readonly booksOf: (selection: BooksSelection) => LedgerSlice | UndefinedReason,
  ) {
    this.indexOf(WHOLE_BOOKS);
  }

  indexOf(selection: BooksSelection): number {
    const key = selectionKey(selection);
    const known = this.indexes.get(key);
    if (known !== undefined) return known;
    const index = this.opened.length;
    this.indexes.set(key, index);
    this.selections.push(selection);
    this.opened.push(key === '' ? this.whole : this.booksOf(selection));
    return index;
  }

  /** Index of the books with a key that was read before, or undefined; also where there are none. */
  indexOfKey(key: string): number | undefined {
    const index = this.indexes.get(key);
    return index === undefined || this.missing(index) ? undefined : index;
  }

  /** Index of the books that a finished year's result moves in: the same ones, whatever values they are narrowed to. */
  wholeOf(index: number): number {
    const selection = this.selections[index]!;
    return selection.where.length === 0 ? index : this.indexOf({ ...selection, where: [] });
  }

  keyOf(index: number): string {
    return selectionKey(this.selections[index]!);
  }

  /** The reason why there are no such books, if there are none. */
  missing(index: number): UndefinedReason | undefined {
    const books = this.opened[index]!;
    return typeof books === 'string' ? books : undefined;
  }

  slice(index: number): LedgerSlice {
    const books = this.opened[index]!;
    return typeof books === 'string' ? this.whole : books;
  }

  isActual(index: number): boolean {
    return this.selections[index]!.version === ACTUAL;
  }
}
