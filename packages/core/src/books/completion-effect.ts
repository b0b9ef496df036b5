import { attributesOf } from '../account/combination';
import { isProfitOrLoss, type Account } from '../account/nature';
import type { BookRows } from './book-rows';
import { holdsText, type Completed, type Completion, type Completions } from './completion';

/** A line whose text a rule looks for, in places of the chart and the calendar. Units: minor units. */
export interface PlacedMatch {
  account: number;
  period: number;
  combination: number;
  debit: number;
  credit: number;
  description: string;
}

/** What a completion does in some months. Units: minor units, debits and credits of income and expense accounts. */
export interface CompletionEffect {
  /** By month: all that was posted, what carries a value, and what carries one then. */
  posted: Float64Array;
  before: Float64Array;
  after: Float64Array;
  /** What each rule takes. */
  rules: number[];
  /** What is still without a value, by place of the account. */
  missing: Map<number, number>;
}

/**
 * What a completion does with the postings of an entity.
 * @param rows as posted
 * @param placeOf the month that a period of the entity counts in; undefined for none
 */
export function completionEffect(
  completion: Completion,
  completions: Completions,
  { rows, matches, textOf }: { rows: BookRows; matches: readonly PlacedMatch[]; textOf(combination: number): string },
  accounts: readonly Account[],
  count: number,
  placeOf: (period: number) => number | undefined,
): CompletionEffect {
  const of = () => new Float64Array(count);
  const effect = { posted: of(), before: of(), after: of(), rules: completion.rules.map(() => 0), missing: new Map() };
  const completedOf = (account: number, combination: number, description: string): Completed | undefined =>
    completions
      .of(account, attributesOf(textOf(combination)), (text) => holdsText(description, text))
      .find((each) => each.completion === completion);
  const take = (completed: Completed | undefined, account: number, place: number, gross: number) => {
    if (completed) {
      effect.rules[completed.rule]! += gross;
      effect.after[place]! += gross;
    } else effect.missing.set(account, (effect.missing.get(account) ?? 0) + gross);
  };
  const lacks = (combination: number) => !attributesOf(textOf(combination)).get(completion.dimension);
  rows((account, period, isOpening, combination, row, { debit, credit }) => {
    const place = placeOf(period);
    if (isOpening || place === undefined || !isProfitOrLoss(accounts[account]!)) return;
    const gross = Math.abs(debit[row]!) + Math.abs(credit[row]!);
    effect.posted[place]! += gross;
    if (lacks(combination)) return take(completedOf(account, combination, ''), account, place, gross);
    effect.before[place]! += gross;
    effect.after[place]! += gross;
  });
  for (const { account, period, combination, debit, credit, description } of matches) {
    const place = placeOf(period);
    if (place === undefined || !isProfitOrLoss(accounts[account]!) || !lacks(combination)) continue;
    const [plain, completed] = [completedOf(account, combination, ''), completedOf(account, combination, description)];
    if (plain?.rule === completed?.rule) continue;
    const gross = Math.abs(debit) + Math.abs(credit);
    if (plain) effect.after[place]! -= gross;
    if (plain) effect.rules[plain.rule]! -= gross;
    else effect.missing.set(account, effect.missing.get(account)! - gross);
    take(completed, account, place, gross);
  }
  for (const [account, gross] of effect.missing) if (gross === 0) effect.missing.delete(account);
  return effect;
}
