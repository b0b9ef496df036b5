import type { Connection } from '../../store/store';
import {
  ACTUAL,
  actualUpTo,
  attributesOf,
  conditionsTest,
  plannedHigher,
  selectionKey,
  type Attributes,
  type BooksSelection,
  type DimensionCondition,
  type LedgerSlice,
  type UndefinedReason,
} from '@margin-lens/core';
import { combinationsBehind, wholeBalances, type BalanceRow } from '../../store/balances';
import { VersionBalances } from './version-balances';
import type { Entity, WorkspaceModel } from './workspace-model';

/** Books kept in memory at most; each is a few hundred kilobytes for a chart of 200 accounts over four years. */
const KEPT_BOOKS = 300; // 10 to 5000

/** Books and balances that were read before, by entity and selection. */
export interface HeldBooks {
  books: Map<string, LedgerSlice>;
  balances: Map<string, BalanceRow[]>;
}

export const noBooks = (): HeldBooks => ({ books: new Map(), balances: new Map() });

/** What was read before, for all who read the same parts of the workspace. */
export interface KeptBooks {
  /** Of the actual version alone, and of those that read figures too. */
  actual: HeldBooks;
  versions: HeldBooks;
  combinations: Combinations;
}

/** Texts and attributes of combinations by id. Combinations are only ever added, so that what was read stays true. */
export class Combinations {
  readonly texts = new Map<number, string>();
  readonly attributes = new Map<number, Attributes>();
  private readTo = 0;

  /** Takes in those that were added since; no more than the connection sees. */
  catchUp(db: Connection): this {
    for (const { id, parts } of combinationsBehind(db, this.readTo)) {
      this.texts.set(id, parts);
      this.attributes.set(id, attributesOf(parts));
      this.readTo = id;
    }
    return this;
  }
}

/** Reads the books of entities at one moment, whole or of a selection; what the moment shares with others is kept. */
export class BooksReader {
  readonly balances: VersionBalances;

  constructor(
    private readonly db: Connection,
    private readonly model: WorkspaceModel,
    private readonly kept: KeptBooks,
    /** Revision that is read where it is not the last one of the moment. */
    private readonly asOf?: number,
  ) {
    const { actual, versions } = kept;
    this.balances = new VersionBalances(db, model, { actual: actual.balances, versions: versions.balances }, asOf);
  }

  /** The actual books of an entity, basis books and adjustment, or those of a selection. */
  read(entity: Entity, selection?: BooksSelection): LedgerSlice {
    const key = `${entity.id}|${selection ? selectionKey({ ...selection, scope: undefined }) : ''}`;
    const { books: held } = !selection || selection.version === ACTUAL ? this.kept.actual : this.kept.versions;
    const known = held.get(key);
    if (known) return known;
    const made = selection && key !== `${entity.id}|` ? this.build(entity, selection) : this.whole(entity);
    held.set(key, made);
    if (held.size > KEPT_BOOKS) held.delete(held.keys().next().value!);
    return made;
  }

  /**
   * Books of a selection as the engine asks for them, or the reason why there are none: an unknown entity or version, or
   * an entity in another currency or calendar, whose figures wait for the group's rates.
   */
  open(scope: Entity, selection: BooksSelection): LedgerSlice | UndefinedReason {
    const entity = selection.scope === undefined ? scope : this.model.entity(selection.scope);
    if (!entity) return 'no_data';
    if (entity.currency.code !== scope.currency.code) return 'rate_missing';
    if (entity.calendar !== scope.calendar) return 'not_meaningful';
    if (selection.version !== ACTUAL && !this.model.version(selection.version)) return 'no_data';
    return this.read(entity, selection);
  }

  /** Ids of the combinations that meet all conditions. */
  combinationsWhere(where: readonly DimensionCondition[]): Set<number> {
    const test = conditionsTest(where, this.model.trees);
    const { attributes } = this.kept.combinations.catchUp(this.db);
    return new Set([...attributes].filter(([, each]) => test(each)).map(([id]) => id));
  }

  /** Texts of all combinations, by id. */
  combinationTexts(): ReadonlyMap<number, string> {
    return this.kept.combinations.catchUp(this.db).texts;
  }

  private whole(entity: Entity): LedgerSlice {
    if (this.asOf !== undefined) return this.balances.sliceOf(entity, this.balances.read(entity, ACTUAL, 'reported'));
    return this.balances.sliceOf(entity, wholeBalances(this.db, entity.id));
  }

  private build(entity: Entity, selection: BooksSelection): LedgerSlice {
    const { where } = selection;
    const rows = this.balances.ofSelection(entity, selection);
    if (where.length === 0) return this.balances.sliceOf(entity, rows);
    const whole = this.read(entity, { ...selection, where: [] });
    const kept = this.combinationsWhere(where);
    const takesResults = conditionsTest(where, this.model.trees)(new Map());
    const books = this.balances.sliceOf(
      entity,
      rows.filter(({ combination }) => kept.has(combination)),
      takesResults ? whole : 'none',
    );
    if (selection.version !== ACTUAL) books.plannedHigher = this.plannedHigher(entity, selection, rows);
    books.holdsData = whole.holdsData; // a value without postings in a month that has some is zero, not unknown
    return books;
  }

  /** Accounts that a version plans without the values that are asked for. */
  private plannedHigher(entity: Entity, selection: BooksSelection, rows: readonly BalanceRow[]) {
    const { accounts } = this.model;
    const { calendar, idOf } = entity.calendar;
    const after = actualUpTo(selection, this.model, calendar);
    const past = new Set(calendar.periods.slice(0, after + 1).map(idOf));
    const { attributes } = this.kept.combinations.catchUp(this.db);
    const indexes = new Map(accounts.map(({ number }, index) => [this.model.accountIds.get(number)!, index]));
    const figures = rows.flatMap(({ account, period, entryKind, combination, debit, credit, quantity }) => {
      const isOwn = entryKind === 0 && !past.has(period) && (debit !== credit || quantity !== 0);
      return isOwn ? [{ account: indexes.get(account)!, attributes: attributes.get(combination)! }] : [];
    });
    return { accounts: plannedHigher(figures, selection.where, accounts.length), after };
  }
}
