import { shiftYears, type FiscalPeriod } from '../period/fiscal-calendar';
import { spanOf, type SpanKind } from '../period/span';
import { loadedRange, slot, type LedgerSlice } from './ledger-slice';

export type AdjustmentView = 'separate' | 'folded';
export type AccountMeasure = 'movement' | 'opening' | 'closing' | Exclude<SpanKind, 'period' | 'full_year' | 'rolling'>;

/** With adjustments folded, a year's last month stands for itself and the adjustment periods behind it. */
function lastPartOf(slice: LedgerSlice, period: FiscalPeriod, view: AdjustmentView): FiscalPeriod {
  const { periods } = slice.calendar;
  let last = period;
  if (view === 'folded') {
    while (periods[last.ordinal + 1]?.kind === 'adjustment') last = periods[last.ordinal + 1]!;
  }
  return last;
}

const isLoaded = (slice: LedgerSlice, period: FiscalPeriod): boolean => {
  const range = loadedRange(slice);
  return range !== undefined && period.ordinal >= range.first && period.ordinal <= range.last;
};

/**
 * One measure of one account at a period, or null where the books do not reach.
 *
 * Units: as in the slice, debit positive.
 * Missing: null when the period, or one of a rolling year's months, is not loaded.
 * @source reference definitions 3 to 6 and 9
 */
export function accountMeasure(
  slice: LedgerSlice,
  account: number,
  measure: AccountMeasure,
  period: FiscalPeriod,
  view: AdjustmentView = 'separate',
): number | null {
  if (!isLoaded(slice, period)) return null;
  const last = lastPartOf(slice, period, view);
  if (measure === 'opening') return slice.opening[slot(slice, account, period.ordinal)]!;
  if (measure === 'closing') return slice.closing[slot(slice, account, last.ordinal)]!;
  const kind = measure === 'movement' ? 'period' : measure;
  const span = spanOf(slice.calendar, kind, period);
  if (!span || !isLoaded(slice, slice.calendar.periods[span.from]!)) return null;
  return sumMovements(slice, account, span.from, last.ordinal);
}

/** Sum of an account's movements over a run of periods, ends included. */
export function sumMovements(slice: LedgerSlice, account: number, from: number, to: number): number {
  let total = 0;
  for (let p = from; p <= to; p++) total += slice.movement[slot(slice, account, p)]!;
  return total;
}

/** The same measure one fiscal year earlier. @source reference definition 8 */
export function samePeriodLastYear(
  slice: LedgerSlice,
  account: number,
  measure: AccountMeasure,
  period: FiscalPeriod,
  view: AdjustmentView = 'separate',
): number | null {
  const before = shiftYears(slice.calendar, period, -1);
  return before ? accountMeasure(slice, account, measure, before, view) : null;
}

/**
 * The measure in the month before: regular periods look at the regular period before; a prior closing is the closing
 * before in period order.
 * @source reference definition 7
 */
export function monthBefore(
  slice: LedgerSlice,
  account: number,
  measure: 'movement' | 'closing',
  period: FiscalPeriod,
  view: AdjustmentView = 'separate',
): number | null {
  const { periods, regular } = slice.calendar;
  const before =
    measure === 'closing' && view === 'separate'
      ? periods[period.ordinal - 1]
      : periods[regular.findLast((ordinal) => ordinal < period.ordinal) ?? -1];
  return before ? accountMeasure(slice, account, measure, before, view) : null;
}
