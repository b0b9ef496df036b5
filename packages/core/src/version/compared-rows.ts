import { isProfitOrLoss, type Account } from '../account/nature';
import type { ComparedRow } from './find-differences';
import { lineKey, type FigureLine, type FigureLines } from './planning-sheet';

/** Two sides that are to be compared. */
export interface ComparedLines {
  a: FigureLines;
  b: FigureLines;
  accounts: readonly Account[];
  /** Periods of both sides. */
  months: number;
  /** What a combination is called, where each is to be a row of its own; without it each account is one. */
  valuesOf?: ((combination: string) => string) | undefined;
}

/**
 * Accounts of profit or loss that one side or the other has lines of, or each of their lines, as they move profit.
 *
 * Units: minor units, profit positive. Shape: in the order of the chart; an account has its lines as parts; the id is
 * the account's number, or the key of the line.
 */
export function comparedRows({ a, b, accounts, months, valuesOf }: ComparedLines): ComparedRow[] {
  const none = Array<number>(months).fill(0);
  const profitOf = (lines: FigureLines, key: string) => lines.get(key)?.figures.map((figure) => -figure + 0) ?? none;
  const sum = (lists: readonly (readonly number[])[]) =>
    none.map((_, at) => lists.reduce((total, list) => total + list[at]!, 0));
  const held = new Map<string, FigureLine[]>();
  for (const line of new Map([...a, ...b]).values()) held.set(line.account, [...(held.get(line.account) ?? []), line]);
  return accounts.filter(isProfitOrLoss).flatMap(({ number, name, heading }): ComparedRow[] => {
    const parts = (held.get(number) ?? []).map(({ combination }) => {
      const key = lineKey(number, combination);
      return { key, combination, a: profitOf(a, key), b: profitOf(b, key) };
    });
    if (parts.length === 0) return [];
    const row = { label: `${number} ${name}`, section: heading };
    if (valuesOf)
      return parts.map((part) => ({
        id: part.key,
        label: `${row.label} · ${valuesOf(part.combination)}`,
        section: heading,
        a: part.a,
        b: part.b,
      }));
    return [{ id: number, ...row, a: sum(parts.map((part) => part.a)), b: sum(parts.map((part) => part.b)), parts }];
  });
}
