import type { Missing } from '../figure/figure';
import {
  ACTUAL,
  ELIMINATIONS,
  isOfEliminations,
  narrowed,
  OWN,
  selectionKey,
  WHOLE_BOOKS,
  type BooksSelection,
} from '../books/books-selection';
import type { LedgerSlice } from '../books/ledger-slice';
import type { CompiledColumns } from './compiled-column';
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
  private readonly opened: (LedgerSlice | Missing)[] = [];
  readonly selections: BooksSelection[] = [];

  constructor(
    readonly whole: LedgerSlice,
    private readonly booksOf: (selection: BooksSelection) => LedgerSlice | Missing,
  ) {
    this.indexOf(WHOLE_BOOKS);
  }

  indexOf(selection: BooksSelection): number {
    const key = selectionKey(selection);
    return this.indexes.get(key) ?? this.open(key, selection, key === '' ? this.whole : this.booksOf(selection));
  }

  /** Index of what one entity of several brings in. */
  indexOfMember(index: number, member: string): number {
    return this.indexOf({ ...this.selections[index]!, member });
  }

  /** Index of what a member brings in that an elimination was found from: all of it, or what it has with some partners. */
  indexOfSource(index: number, member: string, partners: readonly string[] | undefined): number {
    const where = partners ? [{ dimension: 'partner', has: 'in' as const, values: [...partners] }] : [];
    return this.indexOf({ ...this.selections[index]!, member, where });
  }

  /** Index of the books, as they stand, of the entity that is brought in. */
  indexOfOwn(index: number): number {
    const { entity, own } = this.slice(index).member!;
    const selection = {
      ...this.selections[index]!,
      scope: entity.code,
      currency: OWN,
      member: undefined,
      rates: undefined,
      likeFor: undefined,
    };
    const key = selectionKey(selection);
    return this.indexes.get(key) ?? this.open(key, selection, own);
  }

  /** The entity whose part of others these books are. */
  memberOf(index: number): { code: string; name: string } | undefined {
    return this.selections[index]!.member === undefined ? undefined : this.slice(index).member?.entity;
  }

  /** The name of an entity of the same scope; its code where it is none of its members. */
  nameOfMember(index: number, code: string): string {
    return this.slice(this.indexOfSource(index, code, undefined)).member?.entity.name ?? code;
  }

  /** Whether these books are what consolidation does, beside what entities bring in. */
  areEliminations(index: number): boolean {
    return isOfEliminations(this.selections[index]!.member);
  }

  /** Index of the books with a key that was read before, or undefined; also where there are none. */
  indexOfKey(key: string): number | undefined {
    const index = this.indexes.get(key) ?? this.indexOfPart(key);
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

  /** Why there are no such books, if there are none. */
  missing(index: number): Missing | undefined {
    const books = this.opened[index]!;
    return 'reason' in books ? books : undefined;
  }

  /** Whether some figures stand on rates that are hard to believe. */
  get haveDoubts(): boolean {
    return this.opened.some((books) => 'doubts' in books && books.doubts !== undefined);
  }

  slice(index: number): LedgerSlice {
    const books = this.opened[index]!;
    return 'reason' in books ? this.whole : books;
  }

  isActual(index: number): boolean {
    return this.selections[index]!.version === ACTUAL;
  }

  private open(key: string, selection: BooksSelection, books: LedgerSlice | Missing): number {
    const index = this.opened.length;
    this.indexes.set(key, index);
    this.selections.push(selection);
    this.opened.push(books);
    return index;
  }

  /** Books that are part of others are opened when something of them is asked for: here by what was given out before. */
  private indexOfPart(key: string): number | undefined {
    for (let index = 0; index < this.opened.length; index++) {
      const { members, member, eliminations } = this.slice(index);
      for (const { entity } of members ?? []) this.indexOfMember(index, entity.code);
      if (members && eliminations) this.indexOfMember(index, ELIMINATIONS);
      if (member && !member.isHidden) this.indexOfOwn(index);
    }
    return this.indexes.get(key);
  }
}
