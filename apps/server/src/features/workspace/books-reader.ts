import type { EntityManager } from '@mikro-orm/better-sqlite';
import {
  ACTUAL, attributesOf, buildLedgerSlice, conditionsTest, periodOfKey, selectionKey, type Attributes, type BalanceEntry,
  type BooksSelection, type ColumnBasis, type DimensionCondition, type LedgerSlice, type UndefinedReason,
} from '@margin-lens/core'; // prettier-ignore
import type { Entity, WorkspaceModel } from './workspace-model';

/** Books kept in memory at most; each is a few hundred kilobytes for a chart of 200 accounts over four years. */
const KEPT_BOOKS = 300; // 10 to 5000

/** Bases of postings, as stored, that a column's basis holds. */
export const BASIS_CODES: Record<ColumnBasis, readonly number[]> = {
  reported: [0, 1],
  books: [0],
  with_cash: [0, 1, 2],
};

interface BalanceRow {
  account: number;
  period: number;
  entryKind: number;
  combination: number;
  debit: number;
  credit: number;
  quantity: number;
}

/** Reads the books of entities, whole or of a selection; one revision's worth. */
export class BooksReader {
  private readonly books = new Map<string, Promise<LedgerSlice>>();
  private readonly details = new Map<string, Promise<BalanceRow[]>>();
  private combinations: Promise<Map<number, Attributes>> | undefined;

  constructor(private readonly model: WorkspaceModel) {}

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
    if (selection.version !== ACTUAL && !this.model.versions.some(({ code }) => code === selection.version))
      return 'no_data';
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
    return buildLedgerSlice(this.model.accounts, entity.calendar.calendar, this.entries(entity, rows));
  }

  private async build(em: EntityManager, entity: Entity, selection: BooksSelection): Promise<LedgerSlice> {
    const { version, basis, where } = selection;
    const { calendar } = entity.calendar;
    const rows = await this.detail(em, entity, version, basis);
    if (where.length === 0) return buildLedgerSlice(this.model.accounts, calendar, this.entries(entity, rows));
    const whole = await this.read(em, entity, { ...selection, where: [] });
    const kept = await this.combinationsWhere(em, where);
    const takesResults = conditionsTest(where, this.model.trees)(new Map());
    const entries = this.entries(entity, rows.filter(({ combination }) => kept.has(combination))); // prettier-ignore
    const books = buildLedgerSlice(this.model.accounts, calendar, entries, takesResults ? whole : 'none');
    books.holdsData = whole.holdsData; // a value without postings in a month that has some is zero, not unknown
    return books;
  }

  /** Balances by combination of one version: actual, or its own figures; a forecast has the actual months up to its cut-over. */
  private detail(em: EntityManager, entity: Entity, version: string, basis: ColumnBasis): Promise<BalanceRow[]> {
    const key = `${entity.id}|${version}|${basis}`;
    const known = this.details.get(key);
    if (known) return known;
    const made = this.readDetail(em, entity, version, basis);
    this.details.set(key, made);
    made.catch(() => this.details.delete(key));
    return made;
  }

  private async readDetail(em: EntityManager, entity: Entity, code: string, basis: ColumnBasis): Promise<BalanceRow[]> {
    const ofVersion = (version: number, bases: readonly number[]) =>
      em.getConnection().execute<BalanceRow[]>(
        `select account, period, entry_kind as entryKind, combination, sum(debit) as debit, sum(credit) as credit,
           sum(quantity) as quantity
         from balance where version = ? and entity = ? and basis in (${bases.join(',')}) and entry_kind in (0, 1)
         group by account, period, entry_kind, combination`,
        [version, entity.id],
      );
    if (code === ACTUAL) return ofVersion(0, BASIS_CODES[basis]);
    const version = this.model.versions.find((candidate) => candidate.code === code)!;
    const own = await ofVersion(version.id, [0]);
    const cutOver = this.cutOverOf(entity, code);
    if (cutOver === undefined) return own;
    const { calendar, idOf } = entity.calendar;
    const past = new Set(calendar.periods.slice(0, cutOver + 1).map(idOf));
    const actual = await this.detail(em, entity, ACTUAL, basis);
    return [...actual.filter(({ period }) => past.has(period)), ...own.filter(({ period }) => !past.has(period))];
  }

  /** Ordinal of the last actual period of a forecast; undefined for versions that have only figures of their own. */
  cutOverOf({ calendar: { calendar } }: Entity, code: string): number | undefined {
    const version = this.model.versions.find((candidate) => candidate.code === code);
    return version?.kind === 'forecast' ? periodOfKey(calendar, version.cutOver)?.ordinal : undefined;
  }

  private entries(entity: Entity, rows: readonly BalanceRow[]): BalanceEntry[] {
    const { calendar, idOf } = entity.calendar;
    const ordinalOfId = new Map(calendar.periods.map((period) => [idOf(period), period.ordinal]));
    return rows.map((row) => ({
      account: this.model.accountNumber(row.account)!,
      period: ordinalOfId.get(row.period)!,
      entryKind: row.entryKind === 1 ? 'opening' : 'normal',
      debit: row.debit,
      credit: row.credit,
      quantity: row.quantity,
    }));
  }

  private allCombinations(em: EntityManager): Promise<Map<number, Attributes>> {
    return (this.combinations ??= em
      .getConnection()
      .execute<{ id: number; parts: string }[]>('select id, parts from combination')
      .then((rows) => new Map(rows.map(({ id, parts }) => [id, attributesOf(parts)]))));
  }
}
