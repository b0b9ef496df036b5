import { exactFigure, type Unit } from '@margin-lens/core';

/**
 * From which month on the balance sheet of a plan is out, and by how much; undefined where it balances.
 *
 * Shape: `difference` and `months` are by the months of the sheet; debits less credits, minor units.
 */
export function differenceWords(
  difference: readonly number[],
  months: readonly string[],
  unit: Unit,
): string | undefined {
  const first = difference.findIndex((each) => each !== 0);
  if (first < 0) return undefined;
  const last = difference.length - 1;
  const said = (at: number) => {
    const amount = exactFigure({ amount: Math.abs(difference[at]!), unit });
    return `${amount} ${difference[at]! < 0 ? 'less' : 'more'} at the end of ${months[at]}`;
  };
  const end = first === last || difference[last] === difference[first] ? '' : `, ${said(last)}`;
  return `Assets and equity with liabilities differ: assets are ${said(first)}${end}.`;
}
