import type { Connection } from '../../store/store';
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
import { actualBalances, type BalanceRow, type WholeBalanceRow } from '../../store/balances';
import { ownFigures } from '../../store/figures';
import type { Entity, Version, WorkspaceModel } from './workspace-model';

/** Bases of postings, as stored, that a column's basis holds. */
export const BASIS_CODES: Record<ColumnBasis, readonly number[]> = {
  reported: [0, 1],
  books: [0],
  with_cash: [0, 1, 2],
};

/** No combination that is stored: balances brought forward as a whole. */
export const BROUGHT_FORWARD = 0;

/**
 * Balances by combination of any version of an entity. A forecast has the actual months up to its cut-over, a branch
 * what its parent has where it has no figure of its own, a plan opens with the balances of the actual books. A locked
 * version reads all of it as it was when it was locked.
 */
export class VersionBalances {
  constructor(
    private readonly db: Connection,
    private readonly model: WorkspaceModel,
    /** What was read before at the same moment of the ledger, and of the figures too. */
    private readonly held: Record<'actual' | 'versions', Map<string, BalanceRow[]>>,
    /** Revision that all is read at unless a version is held at an earlier one. */
    private readonly asOf?: number,
  ) {}

  read(entity: Entity, code: string, basis: ColumnBasis, at = this.asOf): BalanceRow[] {
    const held = this.held[code === ACTUAL ? 'actual' : 'versions'];
    const key = `${entity.id}|${code}|${basis}|${at ?? ''}`;
    const known = held.get(key);
    if (known) return known;
    const made =
      code === ACTUAL
        ? actualBalances(this.db, entity.id, BASIS_CODES[basis], at)
        : this.ofVersion(entity, this.model.version(code)!, basis, at);
    held.set(key, made);
    return made;
  }

  /** Balances that a selection is made of, its demands on dimension values left aside. */
  ofSelection(entity: Entity, { version, actualTo, basis }: BooksSelection): BalanceRow[] {
    return version === ACTUAL || actualTo === undefined
      ? this.read(entity, version, basis)
      : this.readActualTo(entity, version, actualTo, basis);
  }

  /** Revision at which a version reads the actual books: that of its lock, or of the version that it branched off. */
  frozenAt({ settings, kind, parent }: Version): number | undefined {
    const above = kind === 'branch' ? this.model.version(parent) : undefined;
    return settings.frozenAt ?? (above && this.frozenAt(above));
  }

  /** Actual balances up to a period, or to a forecast's own cut-over where that is later; the version's own after it. */
  private readActualTo(entity: Entity, code: string, actualTo: string, basis: ColumnBasis): BalanceRow[] {
    const { calendar, idOf } = entity.calendar;
    const last = actualUpTo({ version: code, actualTo }, this.model, calendar);
    const past = new Set(calendar.periods.slice(0, last + 1).map(idOf));
    const [actual, own] = [this.read(entity, ACTUAL, basis), this.read(entity, code, basis)];
    const isOwn = ({ period, combination }: BalanceRow) => !past.has(period) && combination !== BROUGHT_FORWARD;
    return [...actual.filter(({ period }) => past.has(period)), ...own.filter(isOwn)];
  }

  private ofVersion(entity: Entity, version: Version, basis: ColumnBasis, readAt: number | undefined): BalanceRow[] {
    const at = readAt ?? version.settings.frozenAt;
    const own = this.figures(entity, version, at);
    switch (version.kind) {
      case 'forecast': {
        const { calendar, idOf } = entity.calendar;
        const cutOver = actualUpTo({ version: version.code }, this.model, calendar);
        const past = new Set(calendar.periods.slice(0, cutOver + 1).map(idOf));
        const actual = this.read(entity, ACTUAL, basis, at);
        return [...actual.filter(({ period }) => past.has(period)), ...own.filter(({ period }) => !past.has(period))];
      }
      case 'branch': {
        if (!this.model.version(version.parent)) return own;
        const parent = this.read(entity, version.parent, basis, at);
        const keyOf = (row: BalanceRow) => `${row.account}.${row.period}.${row.combination}`;
        const changed = new Set(own.map(keyOf));
        return [...parent.filter((row) => row.entryKind !== 0 || !changed.has(keyOf(row))), ...own];
      }
      default:
        return [...this.broughtForward(entity, version, basis, at), ...own];
    }
  }

  /** Balances that a plan opens with: those of the version and month it names, else of the actual books before its first period. */
  private broughtForward(entity: Entity, version: Version, basis: ColumnBasis, at: number | undefined): BalanceRow[] {
    const { calendar, idOf } = entity.calendar;
    const first = periodOfKey(calendar, version.fromPeriod);
    if (!first) return [];
    const { version: code = ACTUAL, period = '' } = version.settings.opening ?? {};
    const source = code === ACTUAL || this.model.version(code) ? code : ACTUAL;
    const named = periodOfKey(calendar, period);
    const from =
      (named && calendar.periods.find(({ ordinal, kind }) => ordinal > named.ordinal && kind === 'regular')) ?? first;
    const slice = this.sliceOf(entity, this.read(entity, source, basis, at));
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

  sliceOf(
    entity: Entity,
    rows: readonly WholeBalanceRow[],
    results: 'own' | 'none' | LedgerSlice = 'own',
  ): LedgerSlice {
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

  private figures(entity: Entity, { id }: Version, at: number | undefined): BalanceRow[] {
    return ownFigures(this.db, id, entity.id, at).map(({ amount, ...row }) => ({
      ...row,
      entryKind: 0,
      ...sides(amount),
    }));
  }
}

const sides = (amount: number) => ({ debit: Math.max(amount, 0), credit: Math.max(-amount, 0) });
