import type { Account } from '../account/nature';
import type { DimensionTree } from '../account/dimension-tree';
import { BROUGHT_FORWARD, type Combinations, type Mask } from '../cube/combinations';
import type { Cube } from '../cube/cube';
import type { DimensionCondition } from '../cube/dimension-condition';
import { actualUpTo } from './actual-up-to';
import { figureRows, placesOfIds, type BookEntity, type BookRows, type Places } from './book-rows';
import { ACTUAL, selectionKey, WHOLE_BOOKS, type BooksSelection } from './books-selection';
import { ledgerOfRows, type LedgerSlice } from './ledger-slice';
import { plannedHigher } from './planned-higher';
import type { BookVersion } from './version-in-view';
import { versionRows, versionsRead, type RowSource, type VersionSelection } from './version-rows';

/** Dense books kept at most; each is a few hundred kilobytes for a chart of 200 accounts over four years. */
const KEPT_BOOKS = 300; // 10 to 5000

/** What books of all entities hang on beside their balances. */
export interface BookMasters {
  accounts: readonly Account[];
  /** Ids of the accounts in the cube, by number. */
  accountIds: ReadonlyMap<string, number>;
  versions: readonly BookVersion[];
  trees: readonly DimensionTree[];
}

/** Books that were made before of the same master data, by what they were made from. */
export class KeptBooks {
  private readonly slices = new Map<string, LedgerSlice>();
  readonly places = new Map<number, Places>();

  slice(key: string, make: () => LedgerSlice): LedgerSlice {
    const known = this.slices.get(key);
    if (known) return known;
    const made = make();
    this.slices.set(key, made);
    if (this.slices.size > KEPT_BOOKS) this.slices.delete(this.slices.keys().next().value!);
    return made;
  }
}

/** The balances of a moment: its cube, and those of earlier revisions that locked versions read. */
export interface Balances {
  combinations: Combinations;
  cubeAt(revision?: number): Cube;
}

/** The books of entities at one moment, whole or of a selection. */
export class Books {
  constructor(
    private readonly masters: BookMasters,
    readonly balances: Balances,
    private readonly kept: KeptBooks,
  ) {}

  /** The actual books of an entity, basis books and adjustment, or those of a selection, in its own scope. */
  read(entity: BookEntity, selection: BooksSelection = WHOLE_BOOKS): LedgerSlice {
    const own = { ...selection, scope: undefined };
    const key = [entity.id, selectionKey(own), this.movedAt(entity, selection.version)].join('|');
    return this.kept.slice(key, () => this.make(entity, own));
  }

  /** The balances of a selection by combination, its demands on dimension values left aside. */
  rows(entity: BookEntity, selection: VersionSelection): BookRows {
    return versionRows(this.source(entity), selection);
  }

  /** The figures of a version itself, by combination. */
  own(entity: BookEntity, version: BookVersion): BookRows {
    return figureRows(this.balances.cubeAt().rows(version.id, entity.id), this.source(entity).places);
  }

  /** Which combinations meet some demands. */
  mask(where: readonly DimensionCondition[]): Mask {
    return this.balances.combinations.mask(where, this.masters.trees);
  }

  private source(entity: BookEntity): RowSource {
    const { accounts, accountIds, versions } = this.masters;
    const places = this.kept.places.get(entity.id) ?? placesOfIds(accounts, accountIds, entity);
    this.kept.places.set(entity.id, places);
    return { entity, places, accounts, versions, cubeAt: (revision) => this.balances.cubeAt(revision) };
  }

  /** The revisions that last moved what a version of an entity is made from: its books are the same as long as these are. */
  private movedAt({ id }: BookEntity, version: string): string {
    const cube = this.balances.cubeAt();
    return [...versionsRead(this.masters.versions, version)].map((each) => cube.movedAt(each, id)).join('.');
  }

  private make(entity: BookEntity, selection: BooksSelection): LedgerSlice {
    const { accounts } = this.masters;
    const { calendar } = entity.calendar;
    const { where } = selection;
    const rows = this.rows(entity, selection);
    if (where.length === 0) return ledgerOfRows(accounts, calendar, rows);
    const whole = this.read(entity, { ...selection, where: [] });
    const mask = this.mask(where);
    const isOfNoValues = mask.has(BROUGHT_FORWARD);
    const books = ledgerOfRows(accounts, calendar, masked(rows, mask), isOfNoValues ? whole : 'none');
    if (selection.version !== ACTUAL) books.plannedHigher = this.plannedHigher(entity, selection, rows);
    books.holdsData = whole.holdsData; // a value without postings in a month that has some is zero, not unknown
    return books;
  }

  /** Accounts that a version plans without the values that are asked for. */
  private plannedHigher({ calendar: { calendar } }: BookEntity, selection: BooksSelection, rows: BookRows) {
    const { accounts, versions } = this.masters;
    const after = actualUpTo(selection, { versions }, calendar);
    const carries = (dimension: string) => this.mask([{ dimension, has: 'any', values: [] }]);
    return { accounts: plannedHigher(rows, after, selection.where, carries, accounts.length), after };
  }
}

const masked =
  (rows: BookRows, mask: Mask): BookRows =>
  (visit) =>
    rows((account, period, isOpening, combination, debit, credit, quantity) => {
      if (mask.has(combination)) visit(account, period, isOpening, combination, debit, credit, quantity);
    });
