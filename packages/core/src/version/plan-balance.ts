import { isProfitOrLoss, type Account } from '../account/nature';
import { NO_VALUES } from '../account/combination';
import type { FigureChange } from './edit-figures';
import { lineKey, type FigureLine, type FigureLines } from './planning-sheet';

/**
 * By how much debits are more than credits at the end of each own month of a plan, since its first: nothing in books that
 * balance.
 *
 * Shape: one a month of the sheet; 0 in actual months, whose books balance as they were posted.
 * Missing: undefined where no balance sheet is planned, since then there is nothing that the result could stand against.
 * @source double entry
 */
export function planDifference(
  lines: FigureLines,
  accounts: readonly Account[],
  own: readonly boolean[],
): number[] | undefined {
  const natures = new Map(accounts.map((account) => [account.number, account]));
  const moved = own.map(() => 0);
  let isPlanned = false;
  for (const { account, figures } of lines.values()) {
    const known = natures.get(account);
    if (!known || known.nature === 'statistic') continue;
    const isOfBalanceSheet = !isProfitOrLoss(known);
    own.forEach((isOwn, at) => {
      if (!isOwn || figures[at] === 0) return;
      moved[at]! += figures[at]!;
      isPlanned ||= isOfBalanceSheet;
    });
  }
  let sum = 0;
  return isPlanned ? moved.map((movement) => (sum += movement) + 0) : undefined;
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
