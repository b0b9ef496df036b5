import { membersOf } from '../account/account-set';
import { isProfitOrLoss, naturalOrientation, type Account } from '../account/nature';
import { attributesOf, combinationOf, type Attributes } from '../account/combination';
import type { DimensionTree } from '../account/dimension-tree';
import { conditionsTest } from '../cube/dimension-condition';
import { Combinations, type Mask } from '../cube/combinations';
import { QUANTITY_DIGITS } from '../figure/figure';
import { tryAllocate } from '../money/allocate';
import { isOwnPart, type AllocationRule, type AllocationStep } from './allocation';
import { netOf, visitOne, type BookRows } from './book-rows';
import { readablePlain } from '../words/writing-style';

/** Combinations of books with costs spread: those that there are, and those that take costs over. */
export class SpreadCombinations {
  readonly all = new Combinations();
  private readonly byText = new Map<string, number>();
  private readonly known = new Map<string, number>();

  /** @param textOf texts of the combinations that there are */
  constructor(private readonly textOf: (id: number) => string) {
    this.byText.set(this.all.textOf(0), 0);
  }

  /** What a combination is here. */
  idOf(base: number): number {
    return base === 0 ? 0 : this.found(String(base), () => this.textOf(base));
  }

  /** One of the same values, which books may not have. */
  ofValues(values: Attributes): number {
    const text = combinationOf(values);
    return this.found(`=${text}`, () => text);
  }

  /** A combination with another value; with an empty one, without it. */
  withValue(id: number, dimension: string, value: string): number {
    return this.found(`${id}\n${dimension}\n${value}`, () =>
      combinationOf(new Map([...attributesOf(this.all.textOf(id)), [dimension, value]])),
    );
  }

  private found(key: string, textOf: () => string): number {
    const known = this.known.get(key);
    if (known !== undefined) return known;
    const text = textOf();
    let id = this.byText.get(text);
    if (id === undefined) {
      id = this.all.last + 1;
      this.all.add(id, text);
      this.byText.set(text, id);
    }
    this.known.set(key, id);
    return id;
  }
}

/** What a step moves from one combination to another in a month. */
export interface Transfer {
  /** Places in the chart and the calendar. */
  account: number;
  period: number;
  from: number;
  to: number;
  /** Minor units, debit positive. */
  amount: number;
  step: AllocationStep;
  /** Values that gave and took it. */
  pool: string;
  taker: string;
  /** What the taker has of the key, in words. @example '4000 of 8000', '12.5 %' */
  share: string;
}

/** What a transfer does with a combination of an account in a month. */
export interface Move extends Pick<Transfer, 'account' | 'period' | 'amount' | 'step' | 'share'> {
  combination: number;
  /** The value, or entity, of which it is, and the one on the other side. */
  of: string;
  other: string;
  isTaken: boolean;
}

/** A month in which a step has no key, so that its costs stay where they are. */
export interface Unspread {
  step: AllocationStep;
  period: number;
}

export interface Transfers {
  transfers: readonly Transfer[];
  unspread: readonly Unspread[];
}

/** What is moved in the books of an entity. */
export interface Spread {
  moves: readonly Move[];
  unspread: readonly Unspread[];
}

export interface SpreadSource {
  rule: AllocationRule;
  accounts: readonly Account[];
  trees: readonly DimensionTree[];
  /** Rows of the books before, in combinations of these. */
  rows: BookRows;
  /** Rows of what the actual books stood at before a version begins; nothing for the actual books. */
  before: BookRows;
  combinations: SpreadCombinations;
  periods: number;
}

/** Costs by place (account × periods + period) and combination. */
type Costs = Map<number, Map<number, number>>;

/**
 * Spreads shared costs step by step: every pool's costs of a month, account by account and combination by combination, over
 * those who take it, by largest remainder, so that nothing is lost and nothing arises.
 *
 * Units: minor units. Rounding: largest remainder (reference definition 39).
 * @source direct and step-down method of cost accounting: Horngren, Datar, Rajan, Cost Accounting, ch. “Allocation of
 * Support-Department Costs” (from memory)
 */
export function spreadCosts(source: SpreadSource): Transfers {
  const { rule, accounts, periods, rows, combinations } = source;
  const isSpread = new Set(membersOf(rule.accounts, accounts).filter((at) => isProfitOrLoss(accounts[at]!)));
  const costs: Costs = new Map();
  rows((account, period, isOpening, combination, row, amounts) => {
    if (!isOpening && isSpread.has(account)) add(costs, account * periods + period, combination, netOf(amounts, row));
  });
  const posted = rule.method === 'direct' ? copyOf(costs) : costs;
  const transfers: Transfer[] = [];
  const unspread: Unspread[] = [];
  for (const step of rule.steps) {
    const isOfPool = testOf(source, step.from);
    const weightsIn = weightsOf(source, step);
    const sharesOf = sharesIn(source, step);
    const lacks = new Set<number>();
    for (const [place, byCombination] of posted) {
      const [account, period] = [Math.floor(place / periods), place % periods];
      for (const [combination, amount] of [...byCombination]) {
        if (amount === 0 || !isOfPool(combination)) continue;
        const weights = weightsIn(period);
        const parts = weights.some((weight) => weight < 0) ? undefined : tryAllocate(amount, weights);
        if (!parts) {
          lacks.add(period);
          continue;
        }
        const shares = sharesOf(weights);
        const pool = attributesOf(combinations.all.textOf(combination)).get(rule.dimension) ?? '';
        parts.forEach((part, at) => {
          const taker = step.to[at]!;
          if (part === 0 || isOwnPart(step, taker)) return;
          const to = combinations.withValue(combination, rule.dimension, taker);
          transfers.push({
            account,
            period,
            from: combination,
            to,
            amount: part,
            step,
            pool,
            taker,
            share: shares[at]!,
          });
          add(costs, place, combination, -part);
          add(costs, place, to, part);
        });
      }
    }
    for (const period of lacks) unspread.push({ step, period });
  }
  return { transfers, unspread };
}

/** What transfers do with the books in which they are: a value gives, another takes. */
export function movesWithin({ transfers, unspread }: Transfers): Spread {
  const moves: Move[] = [];
  // of a large ledger these are hundreds of thousands
  for (const { account, period, step, share, from, to, pool, taker, amount } of transfers)
    moves.push(
      { account, period, step, share, combination: from, amount: -amount, of: pool, other: taker, isTaken: false },
      { account, period, step, share, combination: to, amount, of: taker, other: pool, isTaken: true },
    );
  return { moves, unspread };
}

/** What some moves come to, of what counts, by step and value, in words. */
export function movedWith(
  moves: readonly Move[],
  mask: Pick<Mask, 'has'>,
  nameOf: (value: string) => string,
): { text: string; amount: number }[] {
  const found = new Map<string, number>();
  for (const { combination, amount, step, other, isTaken, share } of moves) {
    if (!mask.has(combination)) continue;
    const text = `${isTaken ? 'From' : 'To'} ${nameOf(other)}, ${step.name}: ${share}`;
    found.set(text, (found.get(text) ?? 0) + amount);
  }
  return [...found].map(([text, amount]) => ({ text, amount })).filter(({ amount }) => amount !== 0);
}

/** The rows of books with what was moved among them. */
export const withMoves =
  (rows: BookRows, { moves }: Spread): BookRows =>
  (visit) => {
    rows(visit);
    const tell = visitOne(visit);
    for (const { account, period, combination, amount } of moves)
      tell(account, period, false, combination, Math.max(amount, 0), Math.max(-amount, 0), 0);
  };

function add(costs: Costs, place: number, combination: number, amount: number): void {
  const held = costs.get(place) ?? new Map<number, number>();
  costs.set(place, held);
  held.set(combination, (held.get(combination) ?? 0) + amount);
}

const copyOf = (costs: Costs): Costs => new Map([...costs].map(([place, held]) => [place, new Map(held)]));

/** What each of those who take a pool has of its key, in words; of amounts as a part of all of them. */
function sharesIn({ accounts }: SpreadSource, { key }: AllocationStep): (weights: readonly number[]) => string[] {
  const isOfAmounts =
    key.by === 'accounts' && membersOf(key.accounts, accounts).some((at) => accounts[at]!.nature !== 'statistic');
  const scale = key.by === 'accounts' ? 10 ** QUANTITY_DIGITS : 1;
  const known = new Map<readonly number[], string[]>();
  const inWords = (weights: readonly number[]) => {
    const whole = weights.reduce((sum, weight) => sum + weight, 0);
    return weights.map((weight) =>
      isOfAmounts
        ? `${readablePlain(((100 * weight) / whole).toFixed(1))} %`
        : `${readablePlain(String(weight / scale))} of ${readablePlain(String(whole / scale))}`,
    );
  };
  return (weights) => {
    const shares = known.get(weights) ?? inWords(weights);
    known.set(weights, shares);
    return shares;
  };
}

/** Whether a combination carries one of some values, or what stands below them. */
function testOf({ rule, trees, combinations }: SpreadSource, values: readonly string[]): (id: number) => boolean {
  const test = conditionsTest([{ dimension: rule.dimension, has: 'in', values: [...values] }], trees);
  const known = new Map<number, boolean>();
  return (id) => {
    const is = known.get(id) ?? test(attributesOf(combinations.all.textOf(id)));
    known.set(id, is);
    return is;
  };
}

/** What each of those who take a pool has of its key, by period. */
function weightsOf(source: SpreadSource, { key, to }: AllocationStep): (period: number) => readonly number[] {
  if (key.by === 'fixed') {
    const weights = to.map((value) => key.weights.find((each) => each.value === value)?.weight ?? 0);
    return () => weights;
  }
  const { accounts, rows, before, periods } = source;
  const isCounted = new Set(membersOf(key.accounts, accounts));
  const takes = to.map((value) => testOf(source, [value]));
  const byPeriod = Array.from({ length: periods }, () => to.map(() => 0));
  const stoodBefore = to.map(() => 0);
  const amountOf = (account: number, row: number, amounts: Parameters<typeof netOf>[0]) => {
    const { nature } = accounts[account]!;
    if (nature === 'statistic') return amounts.quantity[row]!;
    return naturalOrientation(nature) === 'credit' ? -netOf(amounts, row) : netOf(amounts, row);
  };
  const count = (
    into: number[],
    account: number,
    combination: number,
    row: number,
    amounts: Parameters<typeof netOf>[0],
  ) => {
    takes.forEach((isOf, at) => {
      if (isOf(combination)) into[at]! += amountOf(account, row, amounts);
    });
  };
  rows((account, period, isOpening, combination, row, amounts) => {
    if (!isCounted.has(account) || (isOpening && key.of === 'movement')) return;
    count(byPeriod[period]!, account, combination, row, amounts);
  });
  if (key.of === 'movement') return (period) => byPeriod[period]!;
  before((account, _, __, combination, row, amounts) => {
    if (isCounted.has(account)) count(stoodBefore, account, combination, row, amounts);
  });
  const closings: number[][] = [];
  byPeriod.reduce((stood, moved) => {
    const closing = stood.map((amount, at) => amount + moved[at]!);
    closings.push(closing);
    return closing;
  }, stoodBefore);
  return (period) => closings[period]!;
}
