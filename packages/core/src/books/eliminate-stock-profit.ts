import { fraction, rounded, times } from '../money/fraction';
import type { StockHeld } from '../scope/group-records';
import { isRate } from './member-rates';
import type { EliminationFrame } from './elimination-frame';
import { minorOf } from './purchases';

/** Decimals that a margin in percent is read with. */
const MARGIN_DIGITS = 6;

/**
 * Takes the profit off that members made on goods which others of the group still hold: what was taken off before is added,
 * what is held now is taken off. It is the seller's profit that it changes, with the part of its outside owners.
 *
 * The amount stands until another is said of the same goods. Units: minor units of the scope.
 * @returns what it did to the results of sellers, by period
 * @source reference definitions 29 and 30; IFRS 10.B86 (c); rate of the period's end: common practice
 */
export function eliminateStockProfit(frame: EliminationFrame): Map<string, Float64Array> {
  const adjusted = new Map<string, Float64Array>();
  const rows = frame.consolidated.facts.stockHeld;
  const keyOf = (row: StockHeld) => [row.seller, row.holder, row.stockAccount, row.costAccount].join(' ');
  for (const key of new Set(rows.map(keyOf))) eliminate(frame, rows.filter((row) => keyOf(row) === key), key, adjusted);
  return adjusted;
}

function eliminate(
  frame: EliminationFrame,
  rows: readonly StockHeld[],
  key: string,
  adjusted: Map<string, Float64Array>,
): void {
  const { seller, holder, stockAccount, costAccount } = rows[0]!;
  const [from, to] = [frame.member(seller), frame.member(holder)];
  if (!from || !to) return;
  const [stock, cost] = [frame.indexOf(stockAccount), frame.indexOf(costAccount)];
  const sums = adjusted.get(seller) ?? new Float64Array(frame.periods.length);
  adjusted.set(seller, sums);
  let [held, before]: [StockHeld | undefined, number] = [undefined, 0];
  frame.periods.forEach((period, p) => {
    held = rows.find((row) => row.period === period.key) ?? held;
    const areIn = from.isHeld[p] === 1 && to.isHeld[p] === 1;
    const rate = to.rates.closing(p);
    const profit = held && areIn && isRate(rate) ? times(profitOf(held, to.entity.currency.digits), rate.exact()) : undefined;
    const now = profit ? rounded(profit) : 0;
    frame.post({ kind: 'stock_profit', journal: `stock_profit ${key}`, about: [seller, holder], period: p }, [
      { account: cost, entity: seller, partner: holder, amount: now - before, reason: 'in_stock' },
      { account: stock, entity: holder, partner: seller, amount: before - now, reason: 'in_stock' },
    ]);
    sums[p]! += now - before;
    before = now;
  });
}

const profitOf = ({ amount, margin }: StockHeld, digits: number) =>
  times(fraction(minorOf(amount, digits)), fraction(minorOf(margin, MARGIN_DIGITS), 100 * 10 ** MARGIN_DIGITS));
