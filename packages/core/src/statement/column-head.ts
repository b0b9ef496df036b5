import { ACTUAL, BASIS_WORDS } from '../books/books-selection';
import type { FiscalCalendar } from '../period/fiscal-calendar';
import { dayInWords, dayShort, fiscalYearName, periodName, periodShort, spanName } from '../period/period-name';
import { datesOfSpan, onceASpan, periodsOfSpan, type Span } from '../period/span';
import { actualUpTo } from '../books/actual-up-to';
import type { CompiledColumn, FigureColumn, Measure, TotalColumn } from './compiled-column';
import type { Branch } from './compiled-row';
import { isPercentage } from './cell-expression';
import { comparisonFlags } from './comparison-flags';
import { heldPeriods, partsOf } from './held-periods';
import { hasSpan, isAtEnd, type HeadContext } from './head-context';
import { inWords } from '../words/in-words';
import { versionNotation } from './version-notation';

/** IBCS notation of what a column shows: actual solid dark, an earlier year lighter, plan outlined, forecast hatched; `empty` holds nothing yet. */
export type Notation = 'actual' | 'prior_year' | 'plan' | 'forecast' | 'empty' | 'none';

/** Everything that stands in, or behind, a column's head. Generated from the definition unless a heading was written. */
export interface ColumnHead {
  id: string;
  /** Id of the column in the layout. */
  source: string;
  kind: CompiledColumn['kind'];
  /** Shared heading of neighbouring columns, and the key that groups them. */
  block: string;
  blockLabel: string;
  label: string;
  /** Small second line: coverage of a total, months of a quarter. */
  note: string;
  notation: Notation;
  span: Span | null;
  /** Exact dates and days of the span, or the day where figures stand at its end. */
  dates: string;
  held: { held: number; periods: number } | null;
  /** What makes the two sides of a comparison unequal; empty when they match. */
  flags: string[];
  hideFromExport: boolean;
  /** Set in a breakdown: what the block would be called without the value that it stands under. */
  spanLabel?: string;
  /** Set in a breakdown where the block stands for a value. */
  branch?: Branch;
}

const MEASURE_NOTES: Record<Measure, string> = {
  by_nature: '',
  movement: '',
  flow: 'as posted',
  exchange_difference: 'exchange differences',
  entered: 'came into the group',
  left: 'left the group',
  opening: 'opening',
  closing: 'closing',
  average: 'average',
  average_of_ends: 'average',
};

/** Heads of all columns, in order. */
export function columnHeads(columns: readonly CompiledColumn[], context: HeadContext): ColumnHead[] {
  const blocks = new Map<string, BlockLabels>();
  const blockOf = (column: CompiledColumn) => {
    const known = blocks.get(column.block) ?? labelsOf(column, labelOfBlock(column, columns, context));
    blocks.set(column.block, known);
    return known;
  };
  return columns.map((column) => columnHead(column, columns, context, blockOf(column)));
}

function columnHead(
  column: CompiledColumn,
  all: readonly CompiledColumn[],
  context: HeadContext,
  labels: BlockLabels,
): ColumnHead {
  const { calendar } = context;
  const { id, source, kind, block, hideFromExport } = column;
  const branch = column.under?.branch;
  const base = { id, source, kind, block, hideFromExport, ...labels, ...(branch && { branch }) };
  if (!hasSpan(column)) {
    const flags =
      'base' in column && column.kind !== 'share' && column.kind !== 'rest' && column.kind !== 'flexed'
        ? comparisonFlags(all[column.of]!, all[column.base]!, all, context)
        : [];
    const span = column.kind === 'rest' ? (column.span ?? null) : null;
    const dates = span ? datesInWords(calendar, span) : '';
    const head = {
      ...base,
      ...derivedLabel(column, all, context),
      notation: column.kind === 'flexed' ? ('plan' as const) : ('none' as const),
      span,
      dates,
      held: null,
      flags,
    };
    if (column.heading === undefined) return head;
    // a heading of one's own says what is shown, not what its percentages are counted in
    const counts = column.kind === 'difference' && column.points !== undefined;
    return { ...head, label: column.heading, note: counts ? head.note : '' };
  }
  const { span } = column;
  const held = heldPeriods(column, all, context) ?? null;
  const isPartial = held !== null && held.held < held.periods;
  const isLong = held !== null && held.periods > 1;
  const coverage = held && isPartial && isLong ? `${held.held} of ${held.periods} months` : '';
  const generated = spanLabel(column, context);
  const isMixed = column.kind === 'figure' && column.selection.actualTo !== undefined;
  const isOfOne = column.kind === 'figure' && column.memberName !== undefined;
  return {
    ...base,
    ...generated,
    ...(coverage ? { note: [isMixed || isOfOne ? generated.note : '', coverage].filter(Boolean).join(', ') } : {}),
    ...(column.heading === undefined ? {} : { label: filledHeading(column.heading, column, context), note: coverage }),
    notation: notationOf(column, all, context),
    span: span ?? null,
    dates: !span ? '' : isAtEnd(column, context) ? dayShort(endOf(calendar, span)) : datesInWords(calendar, span),
    held: held ? { held: held.held, periods: held.periods } : null,
    flags: [],
  };
}

const endOf = (calendar: FiscalCalendar, span: Span): string => datesOfSpan(calendar, span).end;

const datesInWords = onceASpan((calendar, span) => {
  const { start, end, days } = datesOfSpan(calendar, span);
  return `${dayShort(start)} – ${dayShort(end)}${days ? ` · ${days} days` : ''}`;
});

/** What a total is drawn as: as its parts are, and where some of them are to come as those. */
const MOST_TO_COME: readonly Notation[] = ['forecast', 'plan', 'actual', 'prior_year'];

function notationOf(
  column: FigureColumn | TotalColumn,
  all: readonly CompiledColumn[],
  context: HeadContext,
): Notation {
  if (column.kind === 'total') {
    const parts = new Set(partsOf(column, all).map((part) => notationOf(part, all, context)));
    return MOST_TO_COME.find((notation) => parts.has(notation)) ?? 'empty';
  }
  if (column.isByVersion) return 'none';
  const held = heldPeriods(column, all, context);
  if (!held || held.held + held.adjustments === 0) return 'empty';
  const { surroundings, calendar } = context;
  const { version } = column.selection;
  const isPast = column.span && column.span.to <= actualUpTo(column.selection, surroundings, calendar);
  if (version === ACTUAL || isPast) return column.yearsBack > 0 ? 'prior_year' : 'actual';
  return versionNotation(version, surroundings.versions);
}

function derivedLabel(
  column: CompiledColumn,
  all: readonly CompiledColumn[],
  context: HeadContext,
): { label: string; note: string } {
  switch (column.kind) {
    case 'difference': {
      const isShare = isPercentage(all[column.of]!);
      return { label: 'Change', note: column.points ? 'margins in bp' : isShare ? 'points' : '' };
    }
    case 'percent_change':
      return { label: 'Change', note: '%' };
    case 'flexed':
      return {
        label: `${headLabel(all[column.base]!, context)} flexed`,
        note: `at the volume of ${headLabel(all[column.of]!, context)}`,
      };
    case 'contribution': {
      const row = column.row === undefined ? context.resultLabel : context.rowLabel(column.row);
      return { label: '% of change', note: `in ${row.toLowerCase() || 'the result'}` };
    }
    case 'index':
      return { label: 'Index', note: `${headLabel(all[column.base]!, context)} = 100` };
    case 'rank':
      return { label: 'Rank', note: '' };
    case 'running_total':
      return { label: 'So far', note: headLabel(all[column.of]!, context) };
    case 'share':
      if (column.base === 'across') return { label: '% of', note: 'its total across' };
      if (column.base === 'parent') return { label: '% of', note: 'its group' };
      return {
        label: '% of',
        note:
          (column.base === 'share_base' ? context.shareBaseLabel : context.rowLabel(column.base.row)).toLowerCase() ||
          'the base',
      };
    case 'annualised': {
      const { year, of } = column.periods;
      return { label: 'Annualised', note: [headLabel(all[column.of]!, context), `× ${year} ÷ ${of}`].join(', ') };
    }
    case 'rest': {
      const [of, base] = [all[column.of]!, all[column.base]!];
      const [whole, part] = [headLabel(of, context), headLabel(base, context)];
      if (beginsAs(of, base)) return { label: 'Remaining', note: whole };
      return { label: `Left of ${whole}`, note: `less ${part}` };
    }
    case 'formula':
      if (column.perDay) {
        const { days, areWorking } = column.perDay;
        const [of] = column.columns.values();
        const note = [headLabel(all[of!]!, context), `${days} days`].filter(Boolean).join(', ');
        return { label: areWorking ? 'Per working day' : 'Per day', note };
      }
      return { label: 'Computed', note: '' };
    default:
      return { label: '', note: '' };
  }
}

/** Whether a column holds, up to where another ends, what that one holds; so that what is left are the months behind it. */
function beginsAs(of: CompiledColumn, base: CompiledColumn): boolean {
  if (of.kind !== 'figure' || base.kind !== 'figure') return true;
  const { version, actualTo } = of.selection;
  return version === base.selection.version || (actualTo !== undefined && base.selection.version === ACTUAL);
}

const headLabel = (column: CompiledColumn, context: HeadContext): string =>
  hasSpan(column) ? spanLabel(column, context).label : column.id;

const versionName = (code: string, { surroundings }: HeadContext) =>
  code === ''
    ? 'Nothing to compare with'
    : (surroundings.versions.find((version) => version.code === code)?.name ?? code);

function spanLabel(column: FigureColumn | TotalColumn, context: HeadContext): { label: string; note: string } {
  const { calendar, at } = context;
  if (column.kind === 'total') return { label: column.name ?? 'Total', note: '' };
  const { span, member, memberName, yearsBack, measure, selection } = column;
  if (memberName !== undefined)
    return {
      label: memberName,
      note: [
        member === 'flow' ? '' : MEASURE_NOTES[measure],
        currencyWords(column, context),
        ratesWords(column, context),
      ]
        .filter(Boolean)
        .join(', '),
    };
  const isActual = selection.version === ACTUAL;
  if (!span) return { label: fiscalYearName(at.fiscalYear - yearsBack), note: 'not loaded' };
  const periods = periodsOfSpan(calendar, span);
  const [first, last] = [periods[0]!, periods[periods.length - 1]!];
  if (member === 'month' || member === 'adjustments')
    return { label: periodShort(first), note: first.start.slice(0, 4) };
  if (member === 'quarter')
    return { label: `Q${first.quarter}`, note: `${periodShort(first)} – ${periodShort(last)} ${last.end.slice(0, 4)}` };
  if (member === 'year') return { label: fiscalYearName(last.fiscalYear), note: MEASURE_NOTES[measure] };
  const note = [
    MEASURE_NOTES[measure],
    whereWords(column, context),
    currencyWords(column, context),
    basisWords(column, context),
    actualWords(column, context),
    organisedWords(column, context),
  ]
    .filter(Boolean)
    .join(', ');
  if (column.isByVersion) return { label: 'By version', note };
  if (!isActual) return { label: versionName(selection.version, context), note };
  if (yearsBack === 0 && last.ordinal === at.ordinal) return { label: 'Actual', note };
  if (yearsBack === 0) return { label: `${periodShort(last)} ${last.end.slice(0, 4)}`, note };
  if (first.fiscalYear !== last.fiscalYear) return { label: `to ${periodShort(last)} ${last.end.slice(0, 4)}`, note };
  const oneYear = first.start.slice(0, 4) === last.end.slice(0, 4);
  return { label: oneYear ? last.end.slice(0, 4) : fiscalYearName(last.fiscalYear), note };
}

/** Up to which month a column of a version shows actuals, where it was asked to; and when not to the as-at month, why. */
function actualWords({ selection, span }: FigureColumn, { at, calendar, surroundings }: HeadContext): string {
  if (selection.actualTo === undefined || selection.version === ACTUAL || !span) return '';
  const upTo = actualUpTo(selection, surroundings, calendar);
  if (upTo < span.from) return '';
  const month = periodShort(calendar.periods[Math.min(upTo, span.to)]!);
  return upTo > at.ordinal && upTo < span.to ? `actual to ${month}, its cut-over` : `actual to ${month}`;
}

/** As in which month values of dimensions stand together, where it is not the as-at one. */
function organisedWords({ selection, span }: FigureColumn, { at, calendar, surroundings }: HeadContext): string {
  if (!span || selection.organised === surroundings.arrangementIn?.(at.key)) return '';
  const last = calendar.periods[span.to]!;
  return `organised as in ${periodShort(last)} ${last.end.slice(0, 4)}`;
}

/** The basis of a column that is on another than the statement. */
const basisWords = ({ selection }: FigureColumn, { surroundings }: HeadContext): string =>
  selection.basis === (surroundings.basis ?? 'reported') ? '' : BASIS_WORDS[selection.basis];

/** The currency of a column that is in another than the statement. */
const currencyWords = ({ selection }: FigureColumn, { currency }: HeadContext): string =>
  selection.currency === undefined || selection.currency === currency ? '' : `in ${selection.currency}`;

/** The rates at which the entity of a column in its own currency comes into the statement. @example 'closing 4.2712, Aug average 4.2580' */
function ratesWords({ selection: { scope, currency }, span }: FigureColumn, context: HeadContext): string {
  if (currency === undefined || currency === context.currency || !span) return '';
  const rates = context.ratesOf(scope ?? '', span.to);
  const month = periodShort(context.calendar.periods[span.to]!);
  return rates ? `closing ${rates.closing}, ${month} average ${rates.average}` : '';
}

/** The entity and the values that a column is narrowed to, by their names. */
function whereWords({ selection, loadedBy = selection }: FigureColumn, { surroundings }: HeadContext): string {
  const { where, scope } = loadedBy;
  const parts = where.map(({ dimension, has, values }) => {
    if (has === 'none') return `no ${inWords(dimension)}`;
    const held = surroundings.dimensions.find(({ name }) => name === dimension)?.values ?? [];
    return has === 'in'
      ? values.map((value) => held.find((each) => each.value === value)?.name || value).join(', ')
      : '';
  });
  return [scope ?? '', ...parts].filter(Boolean).join(', ');
}

/** The words that a written heading may hold in curly brackets. */
export const HEADING_WORDS = ['period', 'month', 'year', 'from', 'to', 'span', 'days', 'version', 'scope'] as const;

function filledHeading(heading: string, column: FigureColumn | TotalColumn, context: HeadContext): string {
  const { span } = column;
  if (!span) return heading.replace(/\{\w+\}/g, '…');
  const periods = periodsOfSpan(context.calendar, span);
  const last = periods[periods.length - 1]!;
  const dates = datesOfSpan(context.calendar, span);
  const words: Record<(typeof HEADING_WORDS)[number], string> = {
    period: periodName(last),
    month: periodShort(last),
    year: fiscalYearName(last.fiscalYear),
    from: dayShort(dates.start),
    to: dayShort(dates.end),
    span: spanName(context.calendar, span),
    days: String(dates.days),
    version:
      column.kind === 'total' || column.selection.version === ACTUAL
        ? 'Actual'
        : versionName(column.selection.version, context),
    scope: column.kind === 'total' ? '' : (column.selection.scope ?? ''),
  };
  return heading.replace(/\{(\w+)\}/g, (whole, word: string) => words[word as keyof typeof words] ?? whole);
}

/** The heading of a block; in a breakdown it stands under a value. */
function labelsOf({ under }: CompiledColumn, own: string): BlockLabels {
  if (!under) return { blockLabel: own };
  const isOwnSaid = !under.isWhole || under.label === '';
  return { blockLabel: [under.label, isOwnSaid ? own : ''].filter(Boolean).join(' · '), spanLabel: own };
}
type BlockLabels = Pick<ColumnHead, 'blockLabel' | 'spanLabel'>;

/** Heading over a block: the span of its columns of this year, the day of balances, or the fiscal year of a series. */
function labelOfBlock(column: CompiledColumn, all: readonly CompiledColumn[], context: HeadContext): string {
  const { calendar, at } = context;
  const inBlock = all.filter((other) => other.block === column.block);
  const isOfYear = (other: CompiledColumn) =>
    other.kind === 'figure' && (other.member === 'month' || other.member === 'quarter');
  const member = inBlock.find(isOfYear) as FigureColumn | undefined;
  const first = inBlock.find(hasSpan)?.span;
  const last = inBlock.findLast((other): other is FigureColumn => isOfYear(other))?.span;
  if (member && first && last && calendar.periods[first.from]!.fiscalYear !== calendar.periods[last.to]!.fiscalYear)
    return spanName(calendar, { from: first.from, to: last.to });
  if (member) {
    const year = at.fiscalYear - member.yearsBack;
    const { version } = member.selection;
    const whose = version === ACTUAL ? '' : `${versionName(version, context)} · `;
    return `${whose}${fiscalYearName(year)} · ${spanName(calendar, yearSpan(calendar, member.span ?? { from: at.ordinal, to: at.ordinal }))}`;
  }
  const year = inBlock.findLast((other): other is FigureColumn => other.kind === 'figure' && other.member === 'year');
  if (year) return year.span ? yearsName(calendar, year.span) : 'Fiscal years';
  const figures = inBlock.filter((other): other is FigureColumn => other.kind === 'figure');
  // the first block says of when all of it is
  const series = all[0]!.block === column.block ? '' : seriesWords(inBlock, context);
  if (series) return series;
  // of months one after another the last says of when the block is
  const current = figures.filter(({ yearsBack, span }) => yearsBack === 0 && span);
  const shown =
    current.reduce<FigureColumn | undefined>((a, b) => (a && a.span!.to >= b.span!.to ? a : b), undefined) ??
    figures[0];
  if (shown?.span && isAtEnd(shown, context)) return dayInWords(endOf(calendar, shown.span));
  if (shown) return shown.span ? spanName(calendar, shown.span) : '';
  const rest = inBlock.find((other) => other.kind === 'rest');
  if (rest?.span) return monthsShort(calendar, rest.span);
  const told = inBlock.flatMap((other) => ('of' in other ? [all[other.of]!] : []));
  const of = told.find((other) => hasSpan(other) && other.yearsBack === 0) ?? told[0];
  return of && of.block !== column.block && hasSpan(of) && of.span ? spanName(calendar, of.span) : '';
}

/** What blocks of series are called that say nothing of time. */
export const SERIES_BLOCKS = {
  eliminations: 'Eliminations',
  subgroup: 'Groups within the group',
  own: 'In their own currencies',
} as const;

/** What a series stands for beside the columns before it, which say of when it is; empty for other blocks. */
function seriesWords(inBlock: readonly CompiledColumn[], { currency }: HeadContext): string {
  const figures = inBlock.filter((other) => other.kind !== 'total');
  const areAll = (is: (column: FigureColumn) => boolean) =>
    figures.every((column) => column.kind === 'figure' && is(column));
  if (areAll(({ member }) => member === 'eliminations')) return SERIES_BLOCKS.eliminations;
  if (areAll(({ member }) => member === 'subgroup')) return SERIES_BLOCKS.subgroup;
  const isOwn = ({ member, selection }: FigureColumn) => member === 'entity' && selection.currency !== undefined;
  const hasOther = areAll(isOwn) && !areAll(({ selection }) => selection.currency === currency);
  return hasOther ? SERIES_BLOCKS.own : '';
}

/** What the columns of several years are of. @example 'Fiscal years', 'Apr – Aug of each year', '12 months to Aug of each year' */
function yearsName(calendar: FiscalCalendar, span: Span): string {
  const months = periodsOfSpan(calendar, span).filter(({ kind }) => kind === 'regular');
  const [first, last] = [months[0]!, months.at(-1)!];
  if (first.fiscalYear !== last.fiscalYear) return `${months.length} months to ${periodShort(last)} of each year`;
  const whole = yearSpan(calendar, span);
  if (first.ordinal === whole.from && last.ordinal === whole.to) return 'Fiscal years';
  return `${[...new Set([periodShort(first), periodShort(last)])].join(' – ')} of each year`;
}

/** @example 'Sep 2026 – Mar 2027' */
function monthsShort(calendar: FiscalCalendar, span: Span): string {
  const months = periodsOfSpan(calendar, span).filter(({ kind }) => kind === 'regular');
  const named = [months[0], months.at(-1)].map((month) => month && `${periodShort(month)} ${month.end.slice(0, 4)}`);
  return [...new Set(named)].join(' – ');
}

function yearSpan(calendar: FiscalCalendar, within: Span): Span {
  const { fiscalYear } = calendar.periods[within.from]!;
  const year = calendar.periods.filter((p) => p.fiscalYear === fiscalYear && p.kind === 'regular');
  return { from: year[0]!.ordinal, to: year[year.length - 1]!.ordinal };
}
