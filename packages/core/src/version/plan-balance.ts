import { isProfitOrLoss, type Account } from '../account/nature';
import { NO_VALUES } from '../account/combination';
import type { FigureChange } from './edit-figures';
import { lineKey, type FigureLine, type FigureLines } from './planning-sheet';

/**
 * By how much debits are more than credits at the end of each own month of a plan, since its first: nothing in books that
 * balance.
 *
 * Shape: one a month of the sheet; 0 in actual months, whose books balance as they were posted.
 * @source double entry
 */
export function planDifference(lines: FigureLines, accounts: readonly Account[], own: readonly boolean[]): number[] {
  const statistics = new Set(accounts.filter(({ nature }) => nature === 'statistic').map(({ number }) => number));
  const moved = own.map(() => 0);
  for (const { account, figures } of lines.values())
    if (!statistics.has(account)) own.forEach((isOwn, at) => (moved[at]! += isOwn ? figures[at]! : 0));
  let sum = 0;
  return moved.map((movement) => (sum += movement) + 0);
}

/** Whether a plan has own figures of the balance sheet; a plan of income and expense alone is not meant to balance. */
export function plansBalanceSheet(lines: FigureLines, accounts: readonly Account[], own: readonly boolean[]): boolean {
  const held = accounts.filter((account) => !isProfitOrLoss(account) && account.nature !== 'statistic');
  const numbers = new Set(held.map(({ number }) => number));
  return [...lines.values()].some(
    ({ account, figures }) => numbers.has(account) && figures.some((figure, at) => own[at] && figure !== 0),
  );
}

/**
 * What makes the closings of some own months balance by the movement of one account; what differs in months between them
 * is taken with the next.
 */
export function balanceBy(
  account: string,
  months: readonly number[],
  lines: FigureLines,
  difference: readonly number[],
): FigureChange[] {
  const line = lineToBalance(account, lines);
  let taken = 0;
  return months.flatMap((period): FigureChange[] => {
    const change = -difference[period]! - taken;
    taken += change;
    if (change === 0) return [];
    const before = line.figures[period] ?? 0;
    return [{ account, combination: line.combination, period, before, after: before + change }];
  });
}

/** Where an account is balanced: the line without values, else its largest one. */
function lineToBalance(account: string, lines: FigureLines): FigureLine {
  const plain = lines.get(lineKey(account, NO_VALUES));
  if (plain) return plain;
  const sizeOf = ({ figures }: FigureLine) => figures.reduce((sum, figure) => sum + Math.abs(figure), 0);
  const held = [...lines.values()].filter((line) => line.account === account);
  return held.sort((a, b) => sizeOf(b) - sizeOf(a))[0] ?? { account, combination: NO_VALUES, figures: [] };
}
