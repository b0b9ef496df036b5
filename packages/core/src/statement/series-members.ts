import type { Column } from '../layout/column-layout';
import { narrowed, type BooksSelection } from '../ledger/books-selection';
import { shiftYears, type FiscalCalendar, type FiscalPeriod } from '../period/fiscal-calendar';
import { spanOf, type Span } from '../period/span';
import type { Surroundings } from './surroundings';

/** One column of a series. */
export interface SeriesMember {
  key: string;
  span: Span | undefined;
  member: 'month' | 'quarter' | 'adjustments' | 'year' | 'entity' | 'version' | 'value';
  /** Heading of members that are not named by their span. */
  name?: string;
  narrows?: (selection: BooksSelection) => BooksSelection;
}

interface MemberContext {
  calendar: FiscalCalendar;
  at: FiscalPeriod;
  holdsData: (ordinal: number) => boolean;
  surroundings: Surroundings;
}

type Series = Extract<Column, { kind: 'series' }>;

/** The columns that a series stands for at an as-at period, in order. */
export function seriesMembers(series: Series, context: MemberContext): SeriesMember[] {
  const { calendar, at, surroundings } = context;
  const kind = series.span ?? 'year_to_date';
  const span = spanOf(calendar, kind, at, series.months);
  const chosen = <T>(all: readonly T[], codeOf: (one: T) => string): T[] =>
    series.members ? series.members.flatMap((code) => all.filter((one) => codeOf(one) === code)) : [...all];
  switch (series.by) {
    case 'month':
    case 'quarter':
      return monthsOrQuarters(series.by, context);
    case 'year':
      return Array.from({ length: series.count ?? 3 }, (_, back) => (series.count ?? 3) - 1 - back).map((back) => {
        const period = shiftYears(calendar, at, -back);
        const whole = period && spanOf(calendar, kind === 'period' ? 'full_year' : kind, period, series.months);
        return { key: `y${back}`, span: whole, member: 'year' };
      });
    case 'entity':
      return chosen(surroundings.entities, ({ code }) => code).map(({ code, name }) => ({
        key: keyOf(code), span, member: 'entity', name, narrows: (selection) => ({ ...selection, scope: code }),
      }));
    case 'version':
      return chosen(surroundings.versions, ({ code }) => code).map(({ code, name }) => ({
        key: keyOf(code), span, member: 'version', name, narrows: (selection) => ({ ...selection, version: code }),
      }));
    case 'dimension':
      return dimensionMembers(series, span, surroundings, chosen);
  }
} // prettier-ignore

const keyOf = (code: string) => encodeURIComponent(code);

function dimensionMembers(
  { dimension = '', members }: Series,
  span: Span | undefined,
  { dimensions }: Surroundings,
  chosen: <T>(all: readonly T[], codeOf: (one: T) => string) => T[],
): SeriesMember[] {
  const tree = dimensions.find(({ name }) => name === dimension);
  if (!tree) return [];
  const top = members ? tree.values : tree.values.filter(({ parent }) => parent === '');
  const values = chosen(top, ({ value }) => value).map(({ value, name }): SeriesMember => ({
    key: keyOf(value), span, member: 'value', name: name || value,
    narrows: (selection) => narrowed(selection, [{ dimension, has: 'in', values: [value] }]),
  })); // prettier-ignore
  const without: SeriesMember = {
    key: 'without', span, member: 'value', name: `No ${dimension}`,
    narrows: (selection) => narrowed(selection, [{ dimension, has: 'none', values: [] }]),
  }; // prettier-ignore
  return members ? values : [...values, without];
}

/** The spans of one fiscal year's months or quarters, and its adjustments when they hold figures. */
function monthsOrQuarters(by: 'month' | 'quarter', { calendar, at, holdsData }: MemberContext): SeriesMember[] {
  const year = calendar.periods.filter((p) => p.fiscalYear === at.fiscalYear);
  const adjustments = year.filter((p) => p.kind === 'adjustment' && p.ordinal <= at.ordinal && holdsData(p.ordinal));
  const keyed = new Map<string, Span>();
  for (const { number, quarter, ordinal, kind } of year) {
    if (kind !== 'regular') continue;
    const key = by === 'month' ? `p${String(number).padStart(2, '0')}` : `q${quarter}`;
    keyed.set(key, { from: keyed.get(key)?.from ?? ordinal, to: ordinal });
  }
  return [
    ...[...keyed].map(([key, span]): SeriesMember => ({ key, span, member: by })),
    ...adjustments.map(({ number, ordinal }): SeriesMember => ({
      key: `p${number}`,
      span: { from: ordinal, to: ordinal },
      member: 'adjustments',
    })),
  ];
}
