import { membersOf } from '../account/account-set';
import { isProfitOrLoss, type Account } from '../account/nature';
import type { CashFlowRule } from '../books/cash-flow-rule';
import { slot, type LedgerSlice } from '../books/ledger-slice';
import type { DimensionCondition } from '../cube/dimension-condition';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import type { CompiledRows } from './compiled-row';
import { ALONE, type RowSurroundings } from './surroundings';
import type { RowLayout } from '../layout/row-layout';

type Purposed = Pick<RowLayout, 'purpose' | 'covers'>;

/** How a layout places the accounts of its purpose: each should stand in exactly one row. */
export interface Coverage {
  accounts: number;
  placedOnce: number;
  /** Indexes of accounts in no row, then of those in more than one, with the rows' indexes. */
  misplaced: { account: number; rows: readonly number[]; how: Misplacing }[];
}

/** `none` in no row; `twice` in more than one; `partly` only some of its postings, or not with all of its cash effect. */
export type Misplacing = 'none' | 'twice' | 'partly';

/** Whether a layout of this purpose must place an account. A cash flow places all but cash itself. */
function mustPlace({ purpose, covers }: Purposed, accounts: readonly Account[]): (index: number) => boolean {
  const isPosting = (index: number) => accounts[index]!.nature !== 'statistic';
  switch (purpose) {
    case 'income':
      return (index) => isProfitOrLoss(accounts[index]!);
    case 'balance_sheet':
      return isPosting;
    case 'cash_flow':
      return (index) => isPosting(index) && accounts[index]!.role !== 'cash';
    case 'free': {
      const chosen = new Set(covers ? membersOf(covers, accounts) : []);
      return (index) => chosen.has(index);
    }
  }
}

/**
 * Checks a layout's promise to place every account of its purpose once.
 *
 * Income: accounts of profit or loss. Balance sheet: all accounts, since the result of the year stands in equity. Cash
 * flow: all but cash, and for every movement code the factors of the lines must add up to −1. Free: what it covers.
 * Rows of a single reading count; rows that show openings or averages beside them do not place anything.
 * @source reference definition 10 for the cash flow
 */
export function coverageOf(
  layout: Purposed,
  rows: CompiledRows,
  accounts: readonly Account[],
  { cashFlow, dimensions }: Pick<RowSurroundings, 'cashFlow' | 'dimensions'> = ALONE,
): Coverage {
  const must = mustPlace(layout, accounts);
  const held = accounts.flatMap((_, index) => (must(index) ? [index] : []));
  const places = placesByAccount(rows, layout.purpose);
  const misplaced = held.flatMap((account): Coverage['misplaced'] => {
    const found = places.get(account) ?? [];
    const how =
      layout.purpose === 'cash_flow'
        ? howInCashFlow(found, accounts[account]!, cashFlow)
        : howPlaced(found, dimensions);
    return how ? [{ account, rows: [...new Set(found.map(({ row }) => row))], how }] : [];
  });
  misplaced.sort((a, b) => a.rows.length - b.rows.length);
  return { accounts: held.length, placedOnce: held.length - misplaced.length, misplaced };
}

interface AccountPlace {
  row: number;
  weight: number;
  where: readonly DimensionCondition[];
}

function placesByAccount(
  { rows, layoutEnd }: CompiledRows,
  purpose: RowLayout['purpose'],
): Map<number, AccountPlace[]> {
  const places = new Map<number, AccountPlace[]>();
  for (const { index, rule, kind, opened, orientation } of rows.slice(0, layoutEnd)) {
    if (rule.from !== 'accounts' || opened || kind === 'statistic') continue;
    const placing = purpose === 'cash_flow' ? ['flow'] : [undefined, 'flow', 'closing'];
    if (!placing.includes(rule.reads)) continue;
    const sign = orientation === 'credit' ? -1 : 1;
    for (const { account, weight, where } of rule.members)
      places.set(account, [...(places.get(account) ?? []), { row: index, weight: sign * weight, where }]);
  }
  return places;
}

function howPlaced(places: readonly AccountPlace[], dimensions: RowSurroundings['dimensions']): Misplacing | undefined {
  const whole = places.filter(({ where }) => where.length === 0);
  if (places.length === 0) return 'none';
  if (whole.length > 0) return places.length === 1 ? undefined : 'twice';
  return isPartition(
    places.map(({ where }) => where),
    dimensions,
  )
    ? undefined
    : 'partly';
}

/**
 * Whether conditions, one set a row, split all postings between them: in some values and in all others, any and none, or
 * each top value of the dimension and none.
 */
function isPartition(
  conditions: readonly (readonly DimensionCondition[])[],
  dimensions: RowSurroundings['dimensions'],
): boolean {
  const single = conditions.map(([first, ...more]) => (more.length === 0 ? first : undefined));
  if (single.some((condition) => !condition || condition.dimension !== single[0]!.dimension)) return false;
  const kinds = single
    .map((condition) => condition!.has)
    .sort()
    .join(' ');
  if (kinds === 'any none') return true;
  const inside = single.flatMap((condition) => (condition!.has === 'in' ? condition!.values : []));
  const outside = single.filter((condition) => condition!.has === 'not_in');
  const isDisjoint = new Set(inside).size === inside.length;
  const top = dimensions
    .find(({ name }) => name === single[0]!.dimension)
    ?.values.filter(({ parent }) => parent === '');
  const isEach =
    top &&
    kinds.replace(/in /g, '') === 'none' &&
    isDisjoint &&
    top.length === inside.length &&
    top.every(({ value }) => inside.includes(value));
  if (isEach) return true;
  return (
    outside.length === 1 &&
    single.length > 1 &&
    isDisjoint &&
    kinds.replace(/in /g, '') === 'not_in' &&
    [...outside[0]!.values].sort().join() === [...inside].sort().join()
  );
}

/** Every movement code of an account must leave with a factor of −1 in total. */
function howInCashFlow(
  places: readonly AccountPlace[],
  { number }: Account,
  cashFlow: readonly CashFlowRule[],
): Misplacing | undefined {
  if (places.length === 0) return 'none';
  const sums = new Map<string, number>();
  const keyOf = (where: AccountPlace['where']) => (where[0]?.has === 'in' ? where[0].values.join() : '');
  for (const { where, weight } of places) sums.set(keyOf(where), (sums.get(keyOf(where)) ?? 0) + weight);
  const codes = new Set(cashFlow.filter((rule) => rule.account === number).map(({ flow }) => flow));
  for (const code of sums.keys()) codes.add(code);
  return [...codes].every((code) => Math.abs((sums.get(code) ?? 0) + 1) < 1e-9) ? undefined : 'partly';
}

/** True when an account moved in any period up to and including the given one. */
export function isUsed(slice: LedgerSlice, account: number, upTo: number): boolean {
  for (let p = 0; p <= upTo; p++) {
    const at = slot(slice, account, p);
    if (slice.movement[at] !== 0 || slice.openingEntries[at] !== 0) return true;
    if (slice.problems?.flowAt('movement', account, p)) return true; // by how much is not known, that it did is
  }
  return false;
}

/** An account that no row, or more than one row, holds. */
export interface MisplacedAccount {
  number: string;
  name: string;
  how: Misplacing;
  /** Ids and labels of the rows that hold it. */
  rowIds: string[];
  rows: string[];
  /** False when it never moved up to the as-at period. */
  used: boolean;
}

export interface CoverageTable {
  accounts: number;
  placedOnce: number;
  misplaced: MisplacedAccount[];
}

/** The coverage of a layout in numbers and names. */
export function coverageTable(
  { accounts, placedOnce, misplaced }: Coverage,
  rows: CompiledRows,
  slice: LedgerSlice,
  at: FiscalPeriod,
): CoverageTable {
  return {
    accounts,
    placedOnce,
    misplaced: misplaced.map(({ account, rows: held, how }) => ({
      number: slice.accounts[account]!.number,
      name: slice.accounts[account]!.name,
      how,
      rowIds: held.map((row) => rows.rows[row]!.id),
      rows: held.map((row) => rows.rows[row]!.label),
      used: isUsed(slice, account, at.ordinal),
    })),
  };
}
