import type { EntityManager } from '@mikro-orm/better-sqlite';
import {
  ACTUAL,
  actualUpTo,
  buildLedgerSlice,
  type BooksSelection,
  isFlow,
  periodOfKey,
  slot,
  type ColumnBasis,
  type LedgerSlice,
} from '@margin-lens/core';
import type { Entity, Version, WorkspaceModel } from './workspace-model';

/** Bases of postings, as stored, that a column's basis holds. */
export const BASIS_CODES: Record<ColumnBasis, readonly number[]> = {
  reported: [0, 1],
  books: [0],
  with_cash: [0, 1, 2],
};

/** A balance of one account, period and combination; ids as stored. Units: minor units, quantity in 1/10,000. */
export interface BalanceRow {
  account: number;
  period: number;
  entryKind: number;
  combination: number;
  debit: number;
  credit: number;
  quantity: number;
}

/** No combination that is stored: balances brought forward as a whole. */
export const BROUGHT_FORWARD = 0;

/**
 * Balances by combination of any version of an entity. A forecast has the actual months up to its cut-over, a branch
 * what its parent has where it has no figure of its own, a plan opens with the balances of the actual books. A locked
 * version reads all of it as it was when it was locked.
 */
export class VersionBalances {
  private readonly known = new Map<string, Promise<BalanceRow[]>>();

  constructor(private readonly model: WorkspaceModel) {}

  read(em: EntityManager, entity: Entity, code: string, basis: ColumnBasis, at?: number): Promise<BalanceRow[]> {
    return this.kept(`${entity.id}|${code}|${basis}|${at ?? ''}`, () =>
      code === ACTUAL
        ? this.actual(em, entity, basis, at)
        : this.ofVersion(em, entity, this.model.version(code)!, basis, at),
    );
  }

  /** Balances that a selection is made of, its demands on dimension values left aside. */
  ofSelection(em: EntityManager, entity: Entity, { version, actualTo, basis }: BooksSelection): Promise<BalanceRow[]> {
    return version === ACTUAL || actualTo === undefined
      ? this.read(em, entity, version, basis)
      : this.readActualTo(em, entity, version, actualTo, basis);
  }

  /** Revision at which a version reads the actual books: that of its lock, or of the version that it branched off. */
  frozenAt({ settings, kind, parent }: Version): number | undefined {
    const above = kind === 'branch' ? this.model.version(parent) : undefined;
    return settings.frozenAt ?? (above && this.frozenAt(above));
  }

  /** Actual balances up to a period, or to a forecast's own cut-over where that is later; the version's own after it. */
  private async readActualTo(
    em: EntityManager,
    entity: Entity,
    code: string,
    actualTo: string,
    basis: ColumnBasis,
  ): Promise<BalanceRow[]> {
    const { calendar, idOf } = entity.calendar;
    const last = actualUpTo({ version: code, actualTo }, this.model, calendar);
    const past = new Set(calendar.periods.slice(0, last + 1).map(idOf));
    const [actual, own] = [await this.read(em, entity, ACTUAL, basis), await this.read(em, entity, code, basis)];
    const isOwn = ({ period, combination }: BalanceRow) => !past.has(period) && combination !== BROUGHT_FORWARD;
    return [...actual.filter(({ period }) => past.has(period)), ...own.filter(isOwn)];
  }

  private kept(key: string, make: () => Promise<BalanceRow[]>): Promise<BalanceRow[]> {
    const known = this.known.get(key);
    if (known) return known;
    const made = make();
    this.known.set(key, made);
    made.catch(() => this.known.delete(key));
    return made;
  }

  private async ofVersion(
    em: EntityManager,
    entity: Entity,
    version: Version,
    basis: ColumnBasis,
    readAt: number | undefined,
  ): Promise<BalanceRow[]> {
    const at = readAt ?? version.settings.frozenAt;
    const own = await this.figures(em, entity, version, at);
    switch (version.kind) {
      case 'forecast': {
        const { calendar, idOf } = entity.calendar;
        const cutOver = actualUpTo({ version: version.code }, this.model, calendar);
        const past = new Set(calendar.periods.slice(0, cutOver + 1).map(idOf));
        const actual = await this.read(em, entity, ACTUAL, basis, at);
        return [...actual.filter(({ period }) => past.has(period)), ...own.filter(({ period }) => !past.has(period))];
      }
      case 'branch': {
        if (!this.model.version(version.parent)) return own;
        const parent = await this.read(em, entity, version.parent, basis, at);
        const keyOf = (row: BalanceRow) => `${row.account}.${row.period}.${row.combination}`;
        const changed = new Set(own.map(keyOf));
        return [...parent.filter((row) => row.entryKind !== 0 || !changed.has(keyOf(row))), ...own];
      }
      default:
        return [...(await this.broughtForward(em, entity, version, basis, at)), ...own];
    }
  }

  /** Balances that a plan opens with: those of the version and month it names, else of the actual books before its first period. */
  private async broughtForward(
    em: EntityManager,
    entity: Entity,
    version: Version,
    basis: ColumnBasis,
    at: number | undefined,
  ): Promise<BalanceRow[]> {
    const { calendar, idOf } = entity.calendar;
    const first = periodOfKey(calendar, version.fromPeriod);
    if (!first) return [];
    const { version: code = ACTUAL, period = '' } = version.settings.opening ?? {};
    const source = code === ACTUAL || this.model.version(code) ? code : ACTUAL;
    const named = periodOfKey(calendar, period);
    const from =
      (named && calendar.periods.find(({ ordinal, kind }) => ordinal > named.ordinal && kind === 'regular')) ?? first;
    const slice = this.sliceOf(entity, await this.read(em, entity, source, basis, at));
    return slice.accounts.flatMap((account, index): BalanceRow[] => {
      const opening = isFlow(account) ? 0 : slice.opening[slot(slice, index, from.ordinal)]!;
      if (opening === 0) return [];
      const isStatistic = account.nature === 'statistic';
      const place = {
        account: this.model.accountIds.get(account.number)!,
        period: idOf(first),
        entryKind: 1,
        combination: BROUGHT_FORWARD,
      };
      return [{ ...place, ...sides(isStatistic ? 0 : opening), quantity: isStatistic ? opening : 0 }];
    });
  }

  sliceOf(entity: Entity, rows: readonly BalanceRow[], results: 'own' | 'none' | LedgerSlice = 'own'): LedgerSlice {
    const { calendar, idOf } = entity.calendar;
    const ordinalOfId = new Map(calendar.periods.map((period) => [idOf(period), period.ordinal]));
    const entries = rows.map((row) => ({
      account: this.model.accountNumber(row.account)!,
      period: ordinalOfId.get(row.period)!,
      entryKind: row.entryKind === 1 ? ('opening' as const) : ('normal' as const),
      debit: row.debit,
      credit: row.credit,
      quantity: row.quantity,
    }));
    return buildLedgerSlice(this.model.accounts, calendar, entries, results);
  }

  private async figures(
    em: EntityManager,
    entity: Entity,
    { id }: Version,
    at: number | undefined,
  ): Promise<BalanceRow[]> {
    const holds = at === undefined ? 'until is null' : 'since <= ? and (until is null or until > ?)';
    const rows = await em
      .getConnection()
      .execute<(Omit<BalanceRow, 'debit' | 'credit'> & { amount: number })[]>(
        `select account, period, 0 as entryKind, combination, amount, quantity from figure where version = ? and entity = ? and ${holds}`,
        [id, entity.id, ...(at === undefined ? [] : [at, at])],
      );
    return rows.map(({ amount, ...row }) => ({ ...row, ...sides(amount) }));
  }

  /** The books as they are, or as they were at an earlier revision: less the lines that came since, plus those that went. */
  private async actual(em: EntityManager, entity: Entity, basis: ColumnBasis, at?: number): Promise<BalanceRow[]> {
    const bases = BASIS_CODES[basis].join(',');
    const now = `select account, period, entry_kind as entryKind, combination, debit, credit, quantity
      from balance where version = 0 and entity = ? and basis in (${bases}) and entry_kind in (0, 1)`;
    const since = `select l.account, l.period, j.kind, l.combination, sign * l.debit, sign * l.credit, sign * l.quantity
      from (select id, kind, case when since > ? then -1 else 1 end as sign from journal
        where entity = ? and ((since > ? and until is null) or (since <= ? and until > ?))) j
      join journal_line l on l.journal = j.id where l.basis in (${bases}) and j.kind in (0, 1)`;
    return em.getConnection().execute<BalanceRow[]>(
      `select account, period, entryKind, combination, sum(debit) as debit, sum(credit) as credit, sum(quantity) as quantity
       from (${at === undefined ? now : `${now} union all ${since}`}) group by account, period, entryKind, combination`,
      [entity.id, ...(at === undefined ? [] : [at, entity.id, at, at, at])],
    );
  }
}

const sides = (amount: number) => ({ debit: Math.max(amount, 0), credit: Math.max(-amount, 0) });
