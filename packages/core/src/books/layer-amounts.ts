import { translator } from '../currency/translator';
import type { QuotedRate } from '../currency/quoted-rate';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import type { AssetLayer } from '../scope/group-records';
import { isRate, type MemberRates } from './member-rates';
import type { StatedAmount } from './stated-amounts';

/** Own amounts that layers are used up by: minor units, debit positive, by period of the scope. */
export interface LayeredFlows {
  opening(account: string, period: number): number;
  flow(account: string, period: number): number;
  /** What of the flow was added (flow `addition`); undefined where postings do not say so. */
  addition(account: string, period: number): number | undefined;
}

/** What layers are turned by: digits of both currencies, the periods, the member's rates, and rates of days. */
interface Turning {
  periods: readonly FiscalPeriod[];
  from: { digits: number };
  to: { digits: number };
  rates: MemberRates;
  spot(day: string): QuotedRate | undefined;
}

/** A part of an asset at the rate of when it came about. */
interface Part {
  local: number;
  turned(local: number): number;
}

/**
 * What assets at historical rates, their depreciation and the cost of what was used are worth in another currency, by account:
 * each layer at its own rate or the spot rate of its day. A layer with a life is used up in equal months from its first on;
 * additions to stock come at their month's average and are used first in, first out.
 *
 * Units: minor units of both currencies, debit positive.
 * @source reference definition 24; IAS 21.21 to 21.23; docs/formats.md: asset_layers.csv
 */
export function layerAmounts(
  layers: readonly AssetLayer[],
  flows: LayeredFlows,
  turning: Turning,
): Map<string, StatedAmount[]> {
  const stated = new Map<string, StatedAmount[]>();
  const state = (account: string, date: string, local: number, amount: number) => {
    if (account === '' || (local === 0 && amount === 0)) return;
    stated.set(account, [...(stated.get(account) ?? []), { date, local, amount }]);
  };
  for (const account of new Set(layers.map((layer) => layer.account))) {
    const own = layers.filter((layer) => layer.account === account);
    const [fixed, stock] = [own.filter(({ life }) => life > 0), own.filter(({ life }) => life === 0)];
    for (const layer of own) state(account, layer.date, layer.local, partOf(layer, turning).turned(layer.local));
    depreciate(fixed, flows, turning, state);
    if (stock.length > 0) useUp(stock, flows, turning, state);
  }
  return stated;
}

type State = (account: string, date: string, local: number, amount: number) => void;

function partOf({ date, local, rate }: AssetLayer, { from, to, spot }: Turning): Part {
  const quoted = rate === '' ? spot(date) : { rate, isInverse: false };
  const turn = quoted && translator(quoted, from.digits, to.digits);
  return { local, turned: (amount) => turn?.rounded(amount) ?? 0 };
}

/** Wear of layers with a life, to their accounts of wear and of expense; what was worn before opens at the layers' rates. */
function depreciate(layers: readonly AssetLayer[], flows: LayeredFlows, turning: Turning, state: State): void {
  const { periods } = turning;
  const first = periods[0]!;
  for (const accumulated of new Set(layers.map((layer) => layer.accumulated))) {
    const before = layers.filter((layer) => layer.accumulated === accumulated && layer.date < first.start);
    const [cost, worth] = [
      before.reduce((sum, { local }) => sum + local, 0),
      before.reduce((sum, layer) => sum + partOf(layer, turning).turned(layer.local), 0),
    ];
    const opening = cost === 0 ? 0 : flows.opening(accumulated, 0);
    if (opening !== 0) state(accumulated, before[0]!.date, opening, Math.round((opening * worth) / cost));
  }
  for (const layer of layers) {
    const begins = periods.findIndex(({ key }) => key === layer.firstPeriod);
    if (begins < 0) continue;
    const part = partOf(layer, turning);
    const months = periods
      .slice(begins)
      .filter(({ kind }) => kind === 'regular')
      .slice(0, layer.life);
    const local = Math.floor(layer.local / layer.life);
    for (const { end } of months) {
      state(layer.expense, end, local, part.turned(local));
      state(layer.accumulated, end, -local, -part.turned(local));
    }
  }
}

/** Additions to stock at their month's average, and what was used of it, the oldest first. */
function useUp(layers: readonly AssetLayer[], flows: LayeredFlows, turning: Turning, state: State): void {
  const { periods, rates } = turning;
  const [{ account, expense }] = layers as [AssetLayer];
  const queue = layers.map((layer) => partOf(layer, turning));
  periods.forEach(({ end, kind }, p) => {
    const flow = flows.flow(account, p);
    const added = flows.addition(account, p) ?? Math.max(flow, 0);
    const rate = rates.average(p);
    if (added !== 0 && isRate(rate)) {
      queue.push({ local: added, turned: rate.translate.rounded });
      if (kind === 'regular') state(account, end, added, rate.translate.rounded(added));
    }
    let left = added - flow;
    for (const part of queue) {
      if (left <= 0) break;
      const used = Math.min(left, part.local);
      const worth = part.turned(part.local) - part.turned(part.local - used);
      part.local -= used;
      left -= used;
      state(account, end, -used, -worth);
      state(expense, end, used, worth);
    }
  });
}
