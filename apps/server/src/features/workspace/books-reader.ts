import type { EntityManager } from '@mikro-orm/better-sqlite';
import {
  ACTUAL,
  actualUpTo,
  attributesOf,
  plannedHigher,
  conditionsTest,
  selectionKey,
  type Attributes,
  type BooksSelection,
  type DimensionCondition,
  type LedgerSlice,
  type UndefinedReason,
} from '@margin-lens/core';
import { VersionBalances, type BalanceRow } from './version-balances';
import type { Entity, WorkspaceModel } from './workspace-model';

/** Books kept in memory at most; each is a few hundred kilobytes for a chart of 200 accounts over four years. */
const KEPT_BOOKS = 300; // 10 to 5000

/** Reads the books of entities, whole or of a selection; one revision's worth. */
export class BooksReader {
  private readonly books = new Map<string, Promise<LedgerSlice>>();
  private texts: Promise<Map<number, string>> | undefined;
  private combinations: Promise<Map<number, Attributes>> | undefined;

  readonly balances: VersionBalances;

  constructor(private readonly model: WorkspaceModel) {
    this.balances = new VersionBalances(model);
  }

  /** The actual books of an entity, or those of a selection; read once, then kept. */
  read(em: EntityManager, entity: Entity, selection?: BooksSelection): Promise<LedgerSlice> {
    const key = `${entity.id}|${selection ? selectionKey({ ...selection, scope: undefined }) : ''}`;
    const known = this.books.get(key);
    if (known) return known;
    const made = selection && key !== `${entity.id}|` ? this.build(em, entity, selection) : this.whole(em, entity);
    this.books.set(key, made);
    made.catch(() => this.books.delete(key));
    if (this.books.size > KEPT_BOOKS) this.books.delete(this.books.keys().next().value!);
    return made;
  }

  /**
   * Books of a selection as the engine asks for them, or the reason why there are none: an unknown entity or version, or
   * an entity in another currency or calendar, whose figures wait for the group's rates.
   */
  async open(em: EntityManager, scope: Entity, selection: BooksSelection): Promise<LedgerSlice | UndefinedReason> {
    const entity = selection.scope === undefined ? scope : this.model.entity(selection.scope);
    if (!entity) return 'no_data';
    if (entity.currency.code !== scope.currency.code) return 'rate_missing';
    if (entity.calendar !== scope.calendar) return 'not_meaningful';
    if (selection.version !== ACTUAL && !this.model.version(selection.version)) return 'no_data';
    return this.read(em, entity, selection);
  }

  /** Ids of the combinations that meet all conditions. */
  async combinationsWhere(em: EntityManager, where: readonly DimensionCondition[]): Promise<Set<number>> {
    const all = await this.allCombinations(em);
    const test = conditionsTest(where, this.model.trees);
    return new Set([...all].filter(([, attributes]) => test(attributes)).map(([id]) => id));
  }

  private async whole(em: EntityManager, entity: Entity): Promise<LedgerSlice> {
    const rows = await em.getConnection().execute<BalanceRow[]>(
      `select account, period, entry_kind as entryKind, sum(debit) as debit, sum(credit) as credit, sum(quantity) as quantity
       from balance where version = 0 and entity = ? and basis in (0, 1) and entry_kind in (0, 1)
       group by account, period, entry_kind`,
      [entity.id],
    );
    return this.balances.sliceOf(entity, rows);
  }

  private async build(em: EntityManager, entity: Entity, selection: BooksSelection): Promise<LedgerSlice> {
    const { where } = selection;
    const rows = await this.balances.ofSelection(em, entity, selection);
    if (where.length === 0) return this.balances.sliceOf(entity, rows);
    const whole = await this.read(em, entity, { ...selection, where: [] });
    const kept = await this.combinationsWhere(em, where);
    const takesResults = conditionsTest(where, this.model.trees)(new Map());
    const books = this.balances.sliceOf(
      entity,
      rows.filter(({ combination }) => kept.has(combination)),
      takesResults ? whole : 'none',
    );
    if (selection.version !== ACTUAL) books.plannedHigher = await this.plannedHigher(em, entity, selection, rows);
    books.holdsData = whole.holdsData; // a value without postings in a month that has some is zero, not unknown
    return books;
  }

  /** Accounts that a version plans without the values that are asked for. */
  private async plannedHigher(
    em: EntityManager,
    entity: Entity,
    selection: BooksSelection,
    rows: readonly BalanceRow[],
  ) {
    const { accounts } = this.model;
    const { calendar, idOf } = entity.calendar;
    const after = actualUpTo(selection, this.model, calendar);
    const past = new Set(calendar.periods.slice(0, after + 1).map(idOf));
    const combinations = await this.allCombinations(em);
    const indexes = new Map(accounts.map(({ number }, index) => [this.model.accountIds.get(number)!, index]));
    const figures = rows.flatMap(({ account, period, entryKind, combination, debit, credit, quantity }) => {
      const isOwn = entryKind === 0 && !past.has(period) && (debit !== credit || quantity !== 0);
      return isOwn ? [{ account: indexes.get(account)!, attributes: combinations.get(combination)! }] : [];
    });
    return { accounts: plannedHigher(figures, selection.where, accounts.length), after };
  }

  /** Texts of all combinations, by id. */
  combinationTexts(em: EntityManager): Promise<Map<number, string>> {
    return (this.texts ??= em
      .getConnection()
      .execute<{ id: number; parts: string }[]>('select id, parts from combination')
      .then((rows) => new Map(rows.map(({ id, parts }) => [id, parts]))));
  }

  private allCombinations(em: EntityManager): Promise<Map<number, Attributes>> {
    return (this.combinations ??= this.combinationTexts(em).then(
      (texts) => new Map([...texts].map(([id, parts]) => [id, attributesOf(parts)])),
    ));
  }
}
