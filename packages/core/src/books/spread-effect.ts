import { membersOf } from '../account/account-set';
import { attributesOf } from '../account/combination';
import { isProfitOrLoss, type Account } from '../account/nature';
import type { CombinationTexts } from '../cube/combinations';
import type { AllocationRule } from './allocation';
import { netOf, type BookRows } from './book-rows';
import type { Spread } from './spread-costs';

/** What an allocation does in the books of an entity in some months. Units: minor units, costs positive. */
export interface SpreadEffect {
  /** What each step moves. */
  steps: number[];
  /** What was posted on a value, and what each step gives it or takes from it; under the empty text what has none. */
  values: Map<string, { posted: number; moved: number[] }>;
}

/** The books of an entity without costs spread. */
interface PostedBooks {
  rows: BookRows;
  combinations: CombinationTexts;
  /** Its code, where costs are spread over entities. */
  of: string | false;
}

/**
 * What a rule does, by value and by step.
 * @param isCounted whether a period of the entity counts, by its place
 */
export function spreadEffect(
  rule: AllocationRule,
  accounts: readonly Account[],
  { rows, combinations, of: entity }: PostedBooks,
  { moves }: Spread,
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
    const value = entity || (attributesOf(combinations.textOf(combination)).get(rule.dimension) ?? '');
    of(value).posted += netOf(amounts, row);
  });
  const steps = rule.steps.map(() => 0);
  const placeOf = new Map(rule.steps.map(({ id }, place) => [id, place]));
  for (const { account, period, step, of: value, isTaken, amount } of moves) {
    // what entities owe each other is no cost
    if (!isCounted(period) || !isSpread.has(account)) continue;
    const place = placeOf.get(step.id)!;
    if (isTaken) steps[place]! += amount;
    of(value).moved[place]! += amount;
  }
  return { steps, values };
}
