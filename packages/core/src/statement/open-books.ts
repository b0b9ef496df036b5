import type { Missing } from '../figure/figure';
import {
  ACTUAL,
  ELIMINATIONS,
  isOfEliminations,
  nameOfPart,
  narrowed,
  OWN,
  selectionKey,
  WHOLE_BOOKS,
  type BooksSelection,
} from '../books/books-selection';
import type { LedgerSlice } from '../books/ledger-slice';
import { decoded } from '../words/decoded';
import type { MemberBooks } from '../books/member-books';
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

/**
 * The books that a statement's cells read, by index; 0 are the whole actual books of its scope. They are known as soon as
 * they are asked for by selection, and read when something is asked of them.
 */
export class OpenBooks {
  private readonly indexes = new Map<string, number>();
  private readonly opened: (LedgerSlice | Missing | undefined)[] = [];
  readonly selections: BooksSelection[] = [];
  private doubted = false;

  constructor(
    readonly whole: LedgerSlice,
    private readonly booksOf: (selection: BooksSelection) => LedgerSlice | Missing,
  ) {
    this.indexOf(WHOLE_BOOKS);
  }

  indexOf(selection: BooksSelection): number {
    const key = selectionKey(selection);
    return this.indexes.get(key) ?? this.note(key, selection, key === '' ? this.whole : undefined);
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
    const selection = ownBooks(this.selections[index]!, entity.code);
    const key = selectionKey(selection);
    return this.indexes.get(key) ?? this.note(key, selection, own);
  }

  /** The entity whose part of others these books are. */
  memberOf(index: number): { code: string; name: string } | undefined {
    return this.selections[index]!.member === undefined ? undefined : this.slice(index).member?.entity;
  }

  /** The name of an entity of the same scope; its code where it is none of its members. */
  nameOfMember(index: number, code: string): string {
    const parts = [...this.parts, ...(this.slice(index).members ?? [])];
    return parts.find(({ entity }) => entity.code === code)?.entity.name ?? code;
  }

  /** Members of the scope, and its associates: of these that may be seen. */
  private get parts(): readonly MemberBooks[] {
    const { members = [], eliminations } = this.whole;
    return [...members, ...(eliminations?.associates ?? []).filter(({ isHidden }) => !isHidden)];
  }

  /** Whether these books are what consolidation does, beside what entities bring in. */
  areEliminations(index: number): boolean {
    return isOfEliminations(this.selections[index]!.member);
  }

  /** Index of the books with a key that was read before, or undefined; also where there are none. */
  indexOfKey(key: string): number | undefined {
    const index = this.indexes.get(key) ?? this.indexOfPart(key) ?? this.indexOfPartners(key);
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
    const books = this.at(index);
    return 'reason' in books ? books : undefined;
  }

  /** Whether some figures that were read stand on rates that are hard to believe. */
  get haveDoubts(): boolean {
    return this.doubted;
  }

  slice(index: number): LedgerSlice {
    const books = this.at(index);
    return 'reason' in books ? this.whole : books;
  }

  isActual(index: number): boolean {
    return this.selections[index]!.version === ACTUAL;
  }

  private at(index: number): LedgerSlice | Missing {
    return this.opened[index] ?? this.open(index, this.booksOf(this.selections[index]!));
  }

  private open(index: number, books: LedgerSlice | Missing): LedgerSlice | Missing {
    if ('doubts' in books && books.doubts !== undefined) this.doubted = true;
    return (this.opened[index] = books);
  }

  private note(key: string, selection: BooksSelection, books: LedgerSlice | undefined): number {
    const index = this.opened.length;
    this.indexes.set(key, index);
    this.selections.push(selection);
    this.opened.push(undefined);
    if (books) this.open(index, books);
    return index;
  }

  /** Books that are part of others are known when something of them is asked for: here by what was given out before. */
  private indexOfPart(key: string): number | undefined {
    const parts = this.parts.map((part) => [nameOfPart(part), part.entity.code] as const);
    const others = butWhose(key);
    const alike = [...this.selections.keys()].filter((index) => butWhose(this.keyOf(index)) === others);
    // most are part of what is of the scope, and are told by their keys before anything is read
    for (const index of alike)
      for (const [name, entity] of [...parts, [ELIMINATIONS, ELIMINATIONS] as const]) {
        const member = { ...this.selections[index]!, member: name };
        const isOwn = selectionKey(ownBooks(member, entity)) === key;
        if (!isOwn && selectionKey(member) !== key) continue;
        const at = this.indexOf(member);
        const books = this.slice(at).member;
        return !isOwn ? at : books && !books.isHidden ? this.indexOfOwn(at) : undefined;
      }
    for (const index of alike) {
      const { members, member, eliminations } = this.slice(index);
      for (const { entity } of members ?? []) this.indexOfMember(index, entity.code);
      if (members && eliminations) this.indexOfMember(index, ELIMINATIONS);
      if (member && !member.isHidden) this.indexOfOwn(index);
    }
    return this.indexes.get(key);
  }

  private indexOfPartners(key: string): number | undefined {
    const [behind, partners] = WITH_PARTNERS.exec(key) ?? [];
    if (behind === undefined || partners === undefined) return undefined;
    const index = this.indexOfKey(key.slice(0, -behind.length));
    const member = index === undefined ? undefined : this.selections[index]!.member;
    return member === undefined || this.keyOf(index!).includes(';partner:')
      ? undefined
      : this.indexOfSource(index!, member, partners.split(',').map(decoded));
  }
}

/** The key of a selection without what its parts differ in: whose books they are, in which currency and at which rates. */
const butWhose = (key: string): string =>
  key
    .split(';')
    .filter((part) => !/^(scope|currency|member|rates|like):/.test(part))
    .join(';');

/** Behind the key of what a member brings in: what it has with some partners, which an elimination was found from. */
const WITH_PARTNERS = /;partner:in:([^;]+)$/;

/** The books of an entity as they stand, whatever they come into. */
const ownBooks = (selection: BooksSelection, entity: string): BooksSelection => ({
  ...selection,
  ...{ scope: entity, currency: OWN, member: undefined, rates: undefined, likeFor: undefined },
});
