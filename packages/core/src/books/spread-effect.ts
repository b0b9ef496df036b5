import { membersOf } from '../account/account-set';
import { attributesOf } from '../account/combination';
import { isProfitOrLoss, type Account } from '../account/nature';
import type { CombinationTexts } from '../cube/combinations';
import type { AllocationRule } from './allocation';
import { netOf, type BookRows } from './book-rows';
import type { Spread } from './spread-costs';

/** What an allocation does in some months. Units: minor units, costs positive. */
export interface SpreadEffect {
  /** What each step moves. */
  steps: readonly number[];
  /** What was posted on a value, and what each step gives it or takes from it; under the empty text what has none. */
  values: ReadonlyMap<string, { posted: number; moved: readonly number[] }>;
}

/**
 * What a rule does, by value and by step.
 * @param rows of the books without costs spread
 * @param isCounted whether a period of the entity counts, by its place
 */
export function spreadEffect(
  rule: AllocationRule,
  accounts: readonly Account[],
  rows: BookRows,
  combinations: CombinationTexts,
  { transfers }: Spread,
  isCounted: (period: number) => boolean,
): SpreadEffect {
  const isSpread = new Set(membersOf(rule.accounts, accounts).filter((at) => isProfitOrLoss(accounts[at]!)));
  const values = new Map<string, { posted: number; moved: number[] }>();
  const of = (value: string) => {
    const held = values.get(value) ?? { posted: 0, moved: rule.steps.map(() => 0) };
    values.set(value, held);
    return held;
  };
  rows((account, period, isOpening, combination, row, amounts) => {
    if (isOpening || !isSpread.has(account) || !isCounted(period)) return;
    of(attributesOf(combinations.textOf(combination)).get(rule.dimension) ?? '').posted += netOf(amounts, row);
  });
  const steps = rule.steps.map(() => 0);
  const placeOf = new Map(rule.steps.map(({ id }, place) => [id, place]));
  for (const { period, step, pool, taker, amount } of transfers) {
    if (!isCounted(period)) continue;
    const place = placeOf.get(step.id)!;
    steps[place]! += amount;
    of(pool).moved[place]! -= amount;
    of(taker).moved[place]! += amount;
  }
  return { steps, values };
}
