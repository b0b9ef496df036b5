import { formatFigure, readPer, type ShownUnit } from '../figure/format-figure';
import type { Unit } from '../figure/figure';
import {
  apart,
  barStyle,
  CHART_COLOURS,
  CHART_FRAME,
  type ChartOption,
  drawnAs,
  type Notation,
} from './chart-notation';
import type { PageBlock } from './page';
import type { StatementSheet } from './statement-sheet';
import { sentenceCase } from '../words/in-words';

export interface RowMonths {
  label: string;
  months: string[];
  now: (number | null)[];
  base: (number | null)[];
  notation: Notation[];
  baseNotation: Notation;
  baseName: string;
  forecastName: string;
  /** Running sums, for rows whose months may be added. */
  isFlow: boolean;
  unit: Unit;
}

/** A statement in the columns of charts, with the versions that it reads. */
export interface ChartedSheet extends StatementSheet {
  compared: { name: string } | null;
  forecast: { name: string } | null;
}

/** The months of a row and of what it is compared with; undefined where the row is not there. */
export function monthsOf(view: ChartedSheet, rowId: string): RowMonths | undefined {
  const row = view.rows.find(({ id }) => id === rowId);
  if (!row || row.cells.length === 0) return undefined;
  const at = (source: string) =>
    view.columns.flatMap((column, index) => (column.source === source && column.kind === 'figure' ? [index] : []));
  const [now, base] = [at('now'), at('base')];
  if (now.length === 0) return undefined;
  const amounts = (indexes: readonly number[]) => indexes.map((index) => row.cells[index]?.amount ?? null);
  const notationOf = (index: number) => drawnAs(view.columns[index]!);
  const total = view.columns.findIndex(({ source, kind }) => source === 'now' && kind === 'total');
  return {
    label: row.label,
    months: now.map((index) => view.columns[index]!.label),
    now: amounts(now),
    base: amounts(base),
    notation: now.map(notationOf),
    baseNotation: base.length > 0 ? notationOf(base[0]!) : 'plan',
    baseName: view.compared?.name ?? '',
    forecastName: view.forecast?.name ?? '',
    isFlow: row.cells[now[0]!]?.unit.kind !== 'ratio' && row.cells[total]?.amount !== null,
    unit: row.cells[now[0]!]!.unit,
  };
}

const axis = (months: readonly string[]) => ({
  type: 'category',
  data: months.map((month) => month.slice(0, 3)),
  axisTick: { show: false },
  axisLabel: { fontSize: 10, interval: 0, color: CHART_COLOURS.second },
});

/** What bars and lines stand for, in words. */
export function notationWords({ notation, baseName, baseNotation, forecastName }: RowMonths): string {
  const parts = [
    notation.includes('actual') ? 'solid is actual' : '',
    notation.includes('forecast') ? `hatched ${forecastName}` : '',
    baseName
      ? `${baseNotation === 'plan' ? 'outlined' : baseNotation === 'forecast' ? 'hatched' : 'lighter'} ${baseName}`
      : 'there is nothing to compare with',
  ].filter(Boolean);
  return `${sentenceCase(parts.join(', '))}.`;
}

/** Columns of a row over months in version notation, beside what it is compared with; `shown` labels them directly. */
export function monthsOption(
  { label: name, months, now, base, notation, baseNotation, baseName, unit }: RowMonths,
  shown?: ShownUnit,
): ChartOption {
  const width = shown === undefined ? { base: 13, now: 11 } : { base: 32, now: 28 };
  const label = { show: shown !== undefined, position: 'top', fontSize: 11, color: CHART_COLOURS.ink };
  return {
    ...CHART_FRAME,
    xAxis: axis(months),
    yAxis: { type: 'value', show: false },
    series: [
      {
        type: 'bar',
        name: baseName,
        barGap: '-55%',
        barWidth: width.base,
        data: base.map((value) => ({ value, itemStyle: barStyle(baseNotation) })),
      },
      {
        type: 'bar',
        name,
        barWidth: width.now,
        data: now.map((value, at) => ({
          value,
          itemStyle: barStyle(notation[at]!),
          label: {
            ...label,
            position: (value ?? 0) < 0 ? 'bottom' : 'top',
            formatter: shown === undefined ? '' : formatFigure({ amount: value, unit }, shown),
          },
        })),
      },
    ],
  };
}

/** Sums so far; nothing after the last month that holds a figure. */
function cumulated(figures: readonly (number | null)[]): (number | null)[] {
  const last = figures.findLastIndex((figure) => figure !== null);
  let sum = 0;
  return figures.map((figure, at) => (at > last ? null : (sum += figure ?? 0)));
}

/** The year so far against what it is compared with, month by month. */
export function cumulatedOption(
  { label, months, now, base, notation, baseName, forecastName, unit }: RowMonths,
  shown: ShownUnit,
): ChartOption {
  // a version that is read in place of what was posted is drawn as it is
  const lastActual = notation.findLastIndex((each) => each !== 'forecast');
  const sums = cumulated(now);
  const [actual, forecast] = [
    sums.map((sum, at) => (at <= lastActual ? sum : null)),
    sums.map((sum, at) => (at >= lastActual ? sum : null)),
  ];
  const [ink, second] = [CHART_COLOURS.ink, CHART_COLOURS.second];
  const lines = [
    { name: baseName, isNamed: true, figures: cumulated(base), style: { color: second, width: 1.5, type: 'dashed' } },
    ...(notation.includes('forecast')
      ? [{ name: forecastName, isNamed: true, figures: forecast, style: { color: ink, width: 2, type: [2, 3] } }]
      : []),
    {
      ...{ name: notation.includes('actual') ? 'Actual' : label, isNamed: false, figures: actual },
      style: { color: ink, width: 2 },
    },
  ];
  const offsets = apart(
    lines.map(({ figures }) => figures[months.length - 1] ?? null),
    lines.flatMap(({ figures }) => figures),
    { height: LEAST_HEIGHT, name: 2 * LINE_PX },
  );
  return {
    ...CHART_FRAME,
    grid: { ...CHART_FRAME.grid, top: 26, right: 70, bottom: 14 },
    xAxis: axis(months),
    yAxis: { type: 'value', show: false, scale: true },
    series: lines.map(({ name, isNamed, figures, style }, line) => {
      const last = figures.findLastIndex((figure) => figure !== null);
      return {
        ...{ type: 'line', name, symbol: 'none', lineStyle: style },
        data: figures.map((value, at) => ({
          value,
          ...(at === last && {
            symbol: 'circle',
            itemStyle: { color: ink },
            label: {
              ...{ show: true, ...labelPlace(figures, months.length), offset: [0, offsets[line]!] },
              ...{ fontSize: 11, lineHeight: LINE_PX, color: ink, textBorderWidth: 0 },
              formatter: `${isNamed ? name : ''}\n${formatFigure({ amount: value, unit }, shown)}`.trim(),
            },
          }),
        })),
      };
    }),
  };
}

/** What a chart of sums so far has for its lines at least, and the height of a line of its names, in pixels. */
const LEAST_HEIGHT = 110;
const LINE_PX = 13;

/** Where the end of a line is named: behind it at the end of the year, else on the side where the line does not go on. */
function labelPlace(figures: readonly (number | null)[], months: number): Record<string, unknown> {
  const last = figures.findLastIndex((figure) => figure !== null);
  if (last === months - 1) return { position: 'right', align: 'left' };
  const isRising = (figures[last] ?? 0) >= (figures[last - 1] ?? 0);
  return { position: isRising ? 'top' : 'bottom', align: 'right' };
}

/**
 * The charts of a row as blocks of a page on paper: its months, and their sums where they may be added; undefined where the
 * row is not there, or not meant for paper.
 */
export function monthBlocks(view: ChartedSheet, row: string, shown: ShownUnit): PageBlock[] | undefined {
  const isKept = view.rows.some(({ id, hideFromExport }) => id === row && !hideFromExport);
  const months = isKept ? monthsOf(view, row) : undefined;
  if (!months) return undefined;
  const words = notationWords(months);
  const byMonth = { title: `${months.label} by month`, words, option: monthsOption(months, shown) };
  const summed = { title: 'Summed up over the year', words: '', option: cumulatedOption(months, shown) };
  return [byMonth, ...(months.isFlow ? [summed] : [])].map((chart) => ({
    ...{ kind: 'chart', ...chart, height: 190 },
    readPer: readPer(months.unit, shown),
  }));
}
