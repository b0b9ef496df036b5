import { fraction, times } from '../money/fraction';
import type { StockHeld } from '../scope/group-records';
import { deferredTax, type DeferredTax } from './deferred-tax';
import { atRate, type EliminationFrame } from './elimination-frame';
import type { MemberBooks } from './member-books';
import { shareAt } from './part-of';
import { minorOf } from './purchases';

/** Decimals that a margin in percent is read with. */
const MARGIN_DIGITS = 6;

/**
 * Takes the profit off that members made on goods which others of the group still hold: what was taken off before is added,
 * what is held now is taken off. It is the seller's profit that it changes, with the part of its outside owners.
 *
 * The tax on it is that of the holder, who is taxed on what it paid; it follows the profit in the seller's figures.
 * The amount stands until another is said of the same goods. Units: minor units of the scope.
 * @returns what it did to the results of sellers, by period
 * Of an entity in proportion its part is taken off; that of other holders is earned.
 * @source reference definitions 29 and 30; IFRS 10.B86 (c), IFRS 11.B34 and B36; rate of the period's end: common practice
 */
export function eliminateStockProfit(frame: EliminationFrame): Map<string, Float64Array> {
  const adjusted = new Map<string, Float64Array>();
  const rows = frame.consolidated.facts.stockHeld;
  for (const each of stocksOf(rows)) eliminate(frame, each, adjusted);
  return adjusted;
}

/** What is said of the same goods at several periods. */
export function stocksOf(rows: readonly StockHeld[]): StockHeld[][] {
  const byGoods = new Map<string, StockHeld[]>();
  for (const row of rows) byGoods.set(goodsOf(row), [...(byGoods.get(goodsOf(row)) ?? []), row]);
  return [...byGoods.values()];
}

const goodsOf = ({ seller, holder, stockAccount, costAccount }: StockHeld) =>
  [seller, holder, stockAccount, costAccount].join(' ');

function eliminate(frame: EliminationFrame, rows: readonly StockHeld[], adjusted: Map<string, Float64Array>): void {
  const { seller, holder, stockAccount, costAccount } = rows[0]!;
  const [from, to] = [frame.member(seller), frame.member(holder)];
  if (!from || !to) return;
  const [stock, cost] = [frame.indexOf(stockAccount), frame.indexOf(costAccount)];
  const sums = adjusted.get(seller) ?? new Float64Array(frame.periods.length);
  adjusted.set(seller, sums);
  const journal = `stock_profit ${goodsOf(rows[0]!)}`;
  let before = 0;
  let tax: DeferredTax | undefined;
  frame.periods.forEach((_, p) => {
    const now = profitInStock(frame, rows, p, (code) => frame.member(code));
    if (now === before) return;
    if (before === 0) tax = deferredTax(frame, to, journal, p);
    const taxed = tax ? tax.of(-now) - tax.of(-before) : 0;
    const [own, others] = [
      { entity: seller, partner: holder },
      { entity: holder, partner: seller },
    ];
    const posted = frame.post({ kind: 'stock_profit', journal, about: [seller, holder], period: p }, [
      { ...own, account: cost, amount: now - before, reason: 'in_stock' },
      { ...others, account: stock, amount: before - now, reason: 'in_stock' },
      { ...own, account: tax?.expense ?? -1, amount: -taxed, reason: 'deferred_tax' },
      { ...others, account: tax?.accountOf(-1) ?? -1, amount: taxed, reason: 'deferred_tax' },
    ]);
    if (posted.length > 0) sums[p]! += now - before - taxed;
    before = now;
  });
}

/** The profit in goods that one holds of another at the end of a period, as it was last said, while both are in the group. */
export function profitInStock(
  { periods }: EliminationFrame,
  rows: readonly StockHeld[],
  p: number,
  booksOf: (entity: string) => MemberBooks | undefined,
): number {
  const place = new Map(periods.map(({ key }, at) => [key, at]));
  const said = rows.filter(({ period }) => (place.get(period) ?? Infinity) <= p);
  const last = said.sort((a, b) => place.get(a.period)! - place.get(b.period)!).at(-1);
  const [from, to] = last ? [booksOf(last.seller), booksOf(last.holder)] : [];
  if (!last || !from || !to || from.isHeld[p] !== 1 || to.isHeld[p] !== 1) return 0;
  const share = times(shareAt(from.shares, p), shareAt(to.shares, p));
  return atRate(to.rates.closing(p), times(share, profitOf(last, to.entity.currency.digits)));
}

const profitOf = ({ amount, margin }: StockHeld, digits: number) =>
  times(fraction(minorOf(amount, digits)), fraction(minorOf(margin, MARGIN_DIGITS), 100 * 10 ** MARGIN_DIGITS));
