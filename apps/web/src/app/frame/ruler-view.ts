import { dayInWords, fiscalYearName } from '@margin-lens/core/shown';
import type { ColumnHeadView, PeriodView, WorkspaceView } from '@margin-lens/contract';

/** Version notation of a tick, after the open IBCS standard. */
export type TickNotation = 'actual' | 'prior' | 'older' | 'forecast' | 'plan' | 'empty';

export interface Tick {
  period: PeriodView;
  notation: TickNotation;
  title: string;
  isAdjustment: boolean;
  isAsAt: boolean;
}
export interface RulerYear {
  name: string;
  ticks: Tick[];
}
/** A column's span under the ticks, in ticks from the first one shown. */
export interface SpanBar {
  from: number;
  to: number;
  lane: number;
  columns: string[];
  isPrior: boolean;
}

const YEARS_SHOWN = 3;
const LANES = 3;

/** The three fiscal years that hold the as-at period, as late as the calendar allows. */
export function yearsShown(periods: readonly PeriodView[], asAt: PeriodView): number[] {
  const years = [...new Set(periods.map((period) => period.fiscalYear))].sort((a, b) => a - b);
  const at = years.indexOf(asAt.fiscalYear);
  const first = Math.max(0, Math.min(at, years.length - 1) - (YEARS_SHOWN - 1));
  return years.slice(first, first + YEARS_SHOWN);
}

interface RulerInput {
  periods: readonly PeriodView[];
  asAt: PeriodView;
  posted: ReadonlySet<string>;
  versions: WorkspaceView['versions'];
}

/** Ticks of the ruler, year by year, each in the notation of what it holds. */
export function rulerYears({ periods, asAt, posted, versions }: RulerInput): RulerYear[] {
  return yearsShown(periods, asAt).map((fiscalYear) => ({
    name: fiscalYearName(fiscalYear),
    ticks: periods
      .filter((period) => period.fiscalYear === fiscalYear)
      .map((period): Tick => {
        const held = posted.has(period.key);
        const planned = held ? undefined : coveringVersion(versions, period);
        const back = asAt.fiscalYear - fiscalYear;
        const actual: TickNotation = back <= 0 ? 'actual' : back === 1 ? 'prior' : 'older';
        const notation = held ? actual : planned?.kind === 'plan' ? 'plan' : planned ? 'forecast' : 'empty';
        return {
          period,
          notation,
          title: `${period.name} · ${held ? 'actual' : (planned?.name ?? 'no data')}`,
          isAdjustment: period.kind === 'adjustment',
          isAsAt: period.key === asAt.key,
        };
      }),
  }));
}

/** The newest forecast that covers a period, else the plan. */
function coveringVersion(versions: WorkspaceView['versions'], period: PeriodView) {
  if (period.kind === 'adjustment') return undefined;
  const covers = versions.filter(({ from, to }) => from <= period.key && period.key <= to);
  return covers.findLast(({ kind }) => kind === 'forecast') ?? covers.findLast(({ kind }) => kind === 'plan');
}

/** The spans of the columns on screen, one bar for columns of the same span, laid in lanes without overlap. */
export function spanBars(columns: readonly ColumnHeadView[], ordinals: readonly number[]): SpanBar[] {
  const bars = new Map<string, Omit<SpanBar, 'lane'>>();
  for (const { id, span, notation } of columns) {
    if (!span) continue;
    const inside = ordinals.flatMap((ordinal, index) => (ordinal >= span.from && ordinal <= span.to ? [index] : []));
    if (inside.length === 0) continue;
    const key = `${span.from}-${span.to}`;
    const bar = bars.get(key) ?? {
      from: inside[0]!,
      to: inside[inside.length - 1]!,
      columns: [],
      isPrior: notation === 'prior_year',
    };
    bar.columns.push(id);
    bars.set(key, bar);
  }
  const ends: number[] = [];
  return [...bars.values()]
    .sort((a, b) => a.to - a.from - (b.to - b.from) || a.from - b.from)
    .map((bar) => {
      const free = ends.findIndex((end) => end < bar.from);
      const lane = free >= 0 ? free : ends.length;
      ends[lane] = bar.to;
      return { ...bar, lane: Math.min(lane, LANES - 1) };
    });
}

/** The as-at date and its place in the fiscal year, in words. */
export function asAtWords(
  asAt: PeriodView,
  periods: readonly PeriodView[],
): { name: string; date: string; fiscal: string } {
  const months = periods.filter((p) => p.fiscalYear === asAt.fiscalYear && p.kind === 'regular').length;
  const place = asAt.kind === 'adjustment' ? 'adjustments' : `month ${asAt.number} of ${months}`;
  return { name: asAt.name, date: dayInWords(asAt.end), fiscal: `${fiscalYearName(asAt.fiscalYear)} · ${place}` };
}
