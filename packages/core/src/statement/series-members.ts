import type { Column } from '../layout/column-layout';
import { ELIMINATIONS, narrowed, OWN, type BooksSelection } from '../books/books-selection';
import { foldedEnd, shiftYears, type FiscalCalendar, type FiscalPeriod } from '../period/fiscal-calendar';
import { spanOf, type Span } from '../period/span';
import type { DimensionCondition } from '../cube/dimension-condition';
import { inWords, sentenceCase } from '../words/in-words';
import type { FlowPart, Measure } from './compiled-column';
import type { ColumnSurroundings } from './surroundings';

/** One column of a series. */
export interface SeriesMember {
  key: string;
  span: Span | undefined;
  member:
    | 'month'
    | 'quarter'
    | 'adjustments'
    | 'year'
    | 'entity'
    | 'subgroup'
    | 'eliminations'
    | 'version'
    | 'value'
    | 'flow';
  /** Heading of members that are not named by their span. */
  name?: string;
  /** Set where all of them add up to the scope. */
  isPart?: true;
  /** Of a series of years: how many years before the one that it is read in. */
  back?: number;
  narrows?: (selection: BooksSelection) => BooksSelection;
  /** In place of the measure of the series. */
  measure?: Measure;
  /** Of a series of flows: whose flow it is. */
  flowOf?: FlowPart['of'];
}

interface MemberContext {
  calendar: FiscalCalendar;
  at: FiscalPeriod;
  holdsData: (ordinal: number) => boolean;
  surroundings: ColumnSurroundings;
  /** Accounts that stand in the rows; undefined for all. */
  accounts?: ReadonlySet<number> | undefined;
  /** Ids of columns of flows that hold nothing in any row. */
  emptyFlows?: ReadonlySet<string>;
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
      return monthsOrQuarters(series, kind.startsWith('rolling') ? span : undefined, context);
    case 'year':
      return Array.from({ length: series.count ?? 3 }, (_, back) => (series.count ?? 3) - 1 - back).map((back) => {
        const period = shiftYears(calendar, at, -back);
        const whole = period && spanOf(calendar, kind === 'period' ? 'full_year' : kind, period, series.months);
        return { key: `y${back}`, span: whole, member: 'year', back };
      });
    case 'entity':
      return [
        ...chosen(surroundings.entities, ({ code }) => code).map(({ code, name, currency, isPart }): SeriesMember => ({
          key: keyOf(code),
          span,
          member: 'entity',
          name,
          ...(isPart && { isPart }),
          narrows: (selection) => {
            if (series.currency === OWN) return { ...selection, scope: code, currency };
            return isPart ? { ...selection, member: code } : { ...selection, scope: code };
          },
        })),
        ...eliminationsBeside(series, span, surroundings),
      ];
    case 'group':
      return chosen(surroundings.subgroups, ({ code }) => code).map(({ code, name }) => ({
        key: keyOf(code),
        span,
        member: 'subgroup',
        name,
        narrows: (selection) => ({ ...selection, scope: code }),
      }));
    case 'elimination':
      return chosen(surroundings.eliminations, ({ kind }) => kind).map(({ kind, name }) =>
        eliminationMember(kind, name, span),
      );
    case 'version':
      return chosen(surroundings.versions, ({ code }) => code).map(({ code, name }) => ({
        key: keyOf(code),
        span,
        member: 'version',
        name,
        narrows: (selection) => ({ ...selection, version: code }),
      }));
    case 'dimension':
      return dimensionMembers(series, span, surroundings, chosen);
    case 'flow':
      return flowMembers(series, span, context).filter(({ key }) => !context.emptyFlows?.has(`${series.id}.${key}`));
  }
}

const keyOf = (code: string) => encodeURIComponent(code);

/** What makes the whole group of all its entities. */
function eliminationsBeside(
  { members, currency, eliminations }: Series,
  span: Span | undefined,
  surroundings: ColumnSurroundings,
): SeriesMember[] {
  const isWhole = members === undefined && currency === undefined && eliminations === undefined;
  return isWhole && surroundings.eliminations.length > 0 ? [eliminationMember('', 'Eliminations', span)] : [];
}

const eliminationMember = (kind: string, name: string, span: Span | undefined): SeriesMember => ({
  key: `eliminations${kind === '' ? '' : `_${kind}`}`,
  span,
  member: 'eliminations',
  name,
  isPart: true,
  narrows: (selection) => ({ ...selection, member: `${ELIMINATIONS}${kind}` }),
});

function dimensionMembers(
  { dimension = '', members }: Series,
  span: Span | undefined,
  { dimensions }: ColumnSurroundings,
  chosen: <T>(all: readonly T[], codeOf: (one: T) => string) => T[],
): SeriesMember[] {
  const tree = dimensions.find(({ name }) => name === dimension);
  if (!tree) return [];
  const top = members ? tree.values : tree.values.filter(({ parent }) => parent === '');
  const values = chosen(top, ({ value }) => value).map(({ value, name }): SeriesMember => ({
    key: keyOf(value),
    span,
    member: 'value',
    name: name || value,
    narrows: (selection) => narrowed(selection, [{ dimension, has: 'in', values: [value] }]),
  }));
  const without: SeriesMember = {
    key: 'without',
    span,
    member: 'value',
    name: `No ${dimension}`,
    narrows: (selection) => narrowed(selection, [{ dimension, has: 'none', values: [] }]),
  };
  return members ? values : [...values, without];
}

/** Codes that head a schedule, in the order in which they are read; others follow by name. */
const RESULTS = ['result', 'dividend'];
const FLOW_ORDER = ['addition', 'purchases', 'disposal', 'depreciation', 'change_of_shares'];

/**
 * A schedule of movements: opening, what came into the group, each movement code that the accounts carry, all else that was
 * posted, exchange differences, and what left; together the closing.
 * @source IAS 1.106, IAS 16.73 (e), IAS 37.84, IAS 7.44A: reconciliations of opening and closing balances
 */
function flowMembers({ members }: Series, span: Span | undefined, context: MemberContext): SeriesMember[] {
  const { surroundings, accounts } = context;
  const codes = new Set<string>();
  for (const [account, carried] of surroundings.movementCodes())
    if (!accounts || accounts.has(account)) for (const code of carried) codes.add(code);
  const place = (code: string) => (FLOW_ORDER.includes(code) ? FLOW_ORDER.indexOf(code) : FLOW_ORDER.length);
  const named = members ?? [...codes].sort((a, b) => place(a) - place(b) || (a < b ? -1 : 1));
  // results and dividends have columns of their own, whichever codes are named: without them it would not add up
  const told = [...new Set([...RESULTS, ...named])];
  const member = (key: string, name: string, more: Partial<SeriesMember>): SeriesMember => ({
    ...{ key, span, member: 'flow', name },
    ...more,
  });
  const posted = (
    key: string,
    name: string,
    flowOf: FlowPart['of'],
    condition: Omit<DimensionCondition, 'dimension'>,
  ) =>
    member(key, name, {
      ...{ measure: 'flow', flowOf },
      narrows: (selection) => narrowed(selection, [{ dimension: 'flow', ...condition }]),
    });
  const ownerOf = (code: string) => (code === 'result' ? code : code === 'dividend' ? 'dividends' : 'posted');
  return [
    member('opening', 'Opening', { measure: 'opening' }),
    member('entered', 'Came into the group', { measure: 'entered' }),
    ...told.map((code) =>
      posted(`code_${keyOf(code)}`, FLOW_NAMES[code] ?? sentenceCase(inWords(code)), ownerOf(code), {
        has: 'in',
        values: [code],
      }),
    ),
    posted('other', 'Other movements', 'posted', { has: 'not_in', values: told }),
    member('exchange_difference', 'Exchange differences', { measure: 'exchange_difference' }),
    member('left', 'Left the group', { measure: 'left' }),
  ];
}

export const FLOW_NAMES: Readonly<Record<string, string>> = { result: 'Result of the year', dividend: 'Dividends' };

/**
 * The months or quarters of the fiscal year, or of a rolling span, and the adjustments among them that hold figures.
 *
 * Balances end the year with its adjustments, so that a series of them has no column for these alone.
 */
function monthsOrQuarters(
  { by, measure, adjustments }: Series,
  rolling: Span | undefined,
  { calendar, at, holdsData }: MemberContext,
): SeriesMember[] {
  const inside = ({ ordinal, fiscalYear }: FiscalPeriod) =>
    rolling ? ordinal >= rolling.from && ordinal <= rolling.to : fiscalYear === at.fiscalYear;
  const isFolded = adjustments === 'folded';
  const isOfFlows = !isFolded && (measure === 'by_nature' || measure === 'movement');
  const end = isFolded ? foldedEnd(calendar, at) : at;
  const keyed = new Map<string, SeriesMember>();
  for (const { fiscalYear, number, quarter, ordinal, kind } of calendar.periods.filter(inside)) {
    if (kind === 'adjustment' && (ordinal > end.ordinal || !holdsData(ordinal))) continue;
    // within a rolling span the same month of two years must be told apart
    const year = rolling ? `y${fiscalYear}_` : '';
    if (kind === 'adjustment' && !isOfFlows && keyed.size > 0) {
      const lastMonth = [...keyed.values()].at(-1)!;
      keyed.set(lastMonth.key, { ...lastMonth, span: { from: lastMonth.span!.from, to: ordinal } });
      continue;
    }
    const part = by === 'month' || kind === 'adjustment' ? `p${String(number).padStart(2, '0')}` : `q${quarter}`;
    const from = keyed.get(year + part)?.span?.from ?? ordinal;
    keyed.set(year + part, {
      key: year + part,
      span: { from, to: ordinal },
      member: kind === 'adjustment' ? 'adjustments' : (by as 'month' | 'quarter'),
    });
  }
  const members = [...keyed.values()];
  return [
    ...members.filter(({ member }) => member !== 'adjustments'),
    ...members.filter(({ member }) => member === 'adjustments'),
  ];
}
