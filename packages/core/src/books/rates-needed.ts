import { nearFactor, type QuotedRate } from '../currency/quoted-rate';
import { doubtOf } from '../currency/rate-doubt';
import type { RateDoubt } from '../figure/figure';
import type { RateTable, RateType } from '../currency/rate-table';
import { monthOfDay, ownEndIn } from './member-rates';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import type { Scope } from '../scope/scope';

/** A rate that figures of a scope stand on. */
export interface NeededRate {
  from: string;
  to: string;
  type: RateType & ('average' | 'closing');
  period: FiscalPeriod;
  /** Undefined where it is missing. */
  quoted: QuotedRate | undefined;
  doubt: RateDoubt | undefined;
}

/**
 * The rates that a scope needs up to a period: for each currency of its members average and closing of every month from
 * the first that holds data to the last in which it is held.
 *
 * @param holds whether an entity has data in one of its own periods
 * @source a limit of 10 % a month: common practice
 */
export function ratesNeeded(
  scope: Scope,
  upTo: number,
  rates: RateTable,
  holds: (entity: string, period: number) => boolean,
  set = '',
): NeededRate[] {
  const to = scope.currency.code;
  const { periods } = scope.calendar.calendar;
  const months = new Map<string, Set<number>>();
  for (const { entity, endsIn, isHeld } of scope.members) {
    const from = entity.currency.code;
    if (from === to) continue;
    const held = months.get(from) ?? new Set();
    months.set(from, held);
    const first = endsIn.findIndex((at, own) => at >= 0 && isHeld[at] === 1 && holds(entity.code, own));
    if (first < 0) continue;
    const own = entity.calendar.calendar.periods;
    for (let at = endsIn[first]!; at <= upTo; at++) {
      if (isHeld[at] === 0 || periods[at]!.kind !== 'regular') continue;
      const end = ownEndIn(own, endsIn, at);
      held.add((end === undefined ? undefined : monthOfDay(periods, end))?.ordinal ?? at);
    }
  }
  return [...months].flatMap(([from, held]) =>
    (['average', 'closing'] as const).flatMap((type) => {
      let before: number | undefined;
      return [...held]
        .sort((a, b) => a - b)
        .map((at) => {
          const period = periods[at]!;
          const quoted = rates.rate(type, from, to, period, set);
          const factor = quoted && nearFactor(quoted, 0, 0);
          const doubt = factor === undefined || before === undefined ? undefined : doubtOf(factor, before);
          if (factor !== undefined && doubt === undefined) before = factor;
          return { from, to, type, period, quoted, doubt };
        });
    }),
  );
}
