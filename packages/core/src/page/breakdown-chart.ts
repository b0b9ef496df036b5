import { formatFigure, type ShownUnit } from '../figure/format-figure';
import type { Figure } from '../figure/figure';
import type { ChartKind } from '../layout/breakdown-document';
import { apart, barStyle, CHART_COLOURS, CHART_FRAME, MAP, shade, thinned, type ChartOption } from './chart-notation';
import type { ChartedValues, Point } from './charted-values';

/** Pixels that a bar of a value takes, and that heads take beside them. */
const ROW_PX = 26;
const HEAD_PX = 34;

export const heightOf = (kind: ChartKind, { rows }: ChartedValues): number =>
  kind === 'bars' || kind === 'stacked' || kind === 'heat_map' ? HEAD_PX + ROW_PX * rows.length : 300;

/**
 * A chart of a breakdown; every item of its data names the `row` that it stands for. Bars stand in the notation of
 * versions, on one scale where there are several; what is labelled directly needs no axis.
 * @param chosen ids of rows that are marked
 */
export function breakdownOption(
  kind: ChartKind,
  values: ChartedValues,
  shown: ShownUnit,
  chosen: readonly string[] = [],
): ChartOption {
  const drawing = new Drawing(values, shown, chosen);
  switch (kind) {
    case 'bars':
      return drawing.bars();
    case 'stacked':
      return drawing.stacked();
    case 'heat_map':
      return drawing.heatMap();
    case 'pareto':
      return drawing.pareto();
    case 'treemap':
      return drawing.treemap();
    case 'lines':
      return drawing.lines();
    case 'stacked_months':
      return drawing.stackedMonths();
  }
}

const LABEL_PX = 118;
/** What the figure behind the longest bar has of the width, percent. */
const FIGURE_PART = 8;
/** What lines have at least of the height of their chart, and the height of a name. */
const LINES_PX = 220;
const NAME_PX = 14;
const { ink: INK, second: SECOND, sheet: SHEET, brass: BRASS } = CHART_COLOURS;

/** Whether what is compared with reaches further to the same side. */
const isLonger = ({ now, base }: Point): boolean =>
  (now ?? 0) * (base ?? 0) > 0 && Math.abs(base ?? 0) > Math.abs(now ?? 0);
const sideOf = ({ now }: Point): 'left' | 'right' => ((now ?? 0) < 0 ? 'left' : 'right');

class Drawing {
  private readonly labels: string[];

  constructor(
    private readonly values: ChartedValues,
    private readonly shown: ShownUnit,
    private readonly chosen: readonly string[],
  ) {
    this.labels = values.rows.map(({ label }) => label);
  }

  /** How a row is drawn: as its version is, else as the column. */
  private styleOf(index: number): Record<string, unknown> {
    const { rows, notation } = this.values;
    return barStyle(rows[index]!.notation ?? notation.now);
  }

  /** One set of bars for each value across, on one scale. */
  bars(): ChartOption {
    const { across, points, notation, names } = this.values;
    const amounts = points.flat().flatMap(({ now, base }) => [now ?? 0, base ?? 0]);
    const [least, most] = [Math.min(0, ...amounts), Math.max(0, ...amounts)];
    const part = (100 - 16) / across.length;
    return {
      ...this.frame(),
      title: across.map((text, at) => ({
        text,
        left: `${16 + part * at}%`,
        top: 2,
        textStyle: { fontSize: 12, fontWeight: 600, color: INK },
      })),
      grid: across.map((_, at) => ({
        left: `${16 + part * at}%`,
        width: `${part - FIGURE_PART}%`,
        top: HEAD_PX - 8,
        bottom: 4,
      })),
      xAxis: across.map((_, at) => ({ gridIndex: at, type: 'value', show: false, min: least, max: most })),
      yAxis: across.map((_, at) => ({ ...this.categories(at === 0), gridIndex: at })),
      series: across.flatMap((_, at) => {
        // a bar that is pointed at would lie over the one that it stands beside
        const place = { type: 'bar', xAxisIndex: at, yAxisIndex: at, emphasis: { disabled: true } };
        const base = notation.base;
        return [
          ...(base
            ? [
                {
                  ...place,
                  name: names.base,
                  barWidth: 15,
                  data: points.map((row, index) => ({
                    ...{ value: row[at]!.base, itemStyle: barStyle(base), row: this.idOf(index) },
                    // the figure stands behind the longer of the two
                    ...(isLonger(row[at]!) && { label: this.label(row[at]!.now, sideOf(row[at]!)) }),
                  })),
                },
              ]
            : []),
          {
            ...place,
            name: names.now,
            barWidth: base ? 9 : 15,
            ...(base && { barGap: '-80%' }),
            data: points.map((row, index) => ({
              value: row[at]!.now,
              row: this.idOf(index),
              itemStyle: this.isChosen(index) ? { color: BRASS } : this.styleOf(index),
              ...(!isLonger(row[at]!) && { label: this.label(row[at]!.now, sideOf(row[at]!)) }),
            })),
          },
        ];
      }),
    };
  }

  stacked(): ChartOption {
    const { across, points } = this.values;
    return {
      ...this.frame(),
      grid: { left: LABEL_PX + 8, right: 12, top: HEAD_PX - 8, bottom: 4 },
      xAxis: { type: 'value', show: false },
      yAxis: this.categories(true),
      series: across.map((name, at) => ({
        type: 'bar',
        stack: 'all',
        name,
        barWidth: 16,
        itemStyle: { color: shade(at, across.length), borderColor: SHEET, borderWidth: 1 },
        data: points.map((row, index) => ({
          value: row[at]!.now,
          row: this.idOf(index),
          label: {
            // the first row names the parts
            show: index === 0,
            position: 'top',
            distance: 3,
            fontSize: 11,
            color: INK,
            formatter: name,
          },
        })),
      })),
    };
  }

  /** Darker where there is more; every cell says its amount. Cells are bars of one length that stand on each other. */
  heatMap(): ChartOption {
    const { across, points } = this.values;
    const most = Math.max(1, ...points.flat().map(({ now }) => Math.abs(now ?? 0)));
    const tint = (amount: number) =>
      thinned(amount < 0 ? CHART_COLOURS.adverse : BRASS, 0.08 + (0.62 * Math.abs(amount)) / most);
    return {
      ...this.frame(),
      grid: { left: LABEL_PX + 8, right: 12, top: HEAD_PX - 8, bottom: 4 },
      xAxis: [
        { type: 'value', show: false, min: 0, max: across.length },
        {
          type: 'category',
          data: across,
          position: 'top',
          axisTick: { show: false },
          axisLine: { show: false },
          axisLabel: { fontSize: 11, color: INK, interval: 0 },
        },
      ],
      yAxis: this.categories(true),
      series: across.map((name, place) => ({
        type: 'bar',
        stack: MAP,
        name,
        barWidth: '100%',
        data: points.map((row, at) => {
          const amount = row[place]!.now;
          return {
            ...{ value: 1, amount, row: this.idOf(at) },
            // what is not known has no tint, as it has no figure in the table
            itemStyle: { color: amount === null ? SHEET : tint(amount), borderColor: SHEET, borderWidth: 2 },
            label: { show: true, position: 'inside', fontSize: 12, color: INK, formatter: this.text(amount) },
          };
        }),
      })),
    };
  }

  /** The largest first, and how much of all they make up together. */
  pareto(): ChartOption {
    const { points, names } = this.values;
    const order = points.map(([point], at) => ({ at, amount: point?.now ?? 0 })).sort((a, b) => b.amount - a.amount);
    const total = order.reduce((sum, { amount }) => sum + amount, 0);
    let sum = 0;
    const shares = order.map(({ amount }) => (total === 0 ? null : (sum += amount) / total));
    return {
      ...this.frame(),
      grid: { left: 8, right: 40, top: 24, bottom: 4, outerBoundsMode: 'same', outerBoundsContain: 'axisLabel' },
      xAxis: {
        type: 'category',
        data: order.map(({ at }) => this.labels[at]!),
        axisTick: { show: false },
        axisLabel: { fontSize: 11, color: INK, interval: 0, width: 90, overflow: 'break' },
      },
      yAxis: [
        { type: 'value', show: false },
        { type: 'value', show: false, min: 0, max: 1 },
      ],
      series: [
        {
          type: 'bar',
          name: names.now,
          barMaxWidth: 46,
          data: order.map(({ at, amount }) => ({
            value: amount,
            row: this.idOf(at),
            itemStyle: this.isChosen(at) ? { color: BRASS } : this.styleOf(at),
            label: this.label(amount, 'top'),
          })),
        },
        {
          type: 'line',
          name: 'Cumulated share',
          yAxisIndex: 1,
          symbolSize: 4,
          itemStyle: { color: BRASS },
          lineStyle: { color: BRASS, width: 1.5 },
          data: shares.map((value, at) => ({
            value,
            label: {
              show: at === shares.length - 1 || at === Math.min(2, shares.length - 1),
              position: 'top',
              fontSize: 11,
              color: SECOND,
              formatter: value === null ? '' : `${Math.round(100 * value)} %`,
            },
          })),
        },
      ],
    };
  }

  treemap(): ChartOption {
    const { points } = this.values;
    const sums = points.map((row) => row.reduce((sum, { now }) => sum + (now ?? 0), 0));
    const most = Math.max(1, ...sums);
    return {
      ...this.frame(),
      series: [
        {
          type: 'treemap',
          ...{ left: 8, right: 8, top: 4, bottom: 4, roam: false, nodeClick: false, breadcrumb: { show: false } },
          itemStyle: { borderColor: SHEET, borderWidth: 2, gapWidth: 2 },
          label: { fontSize: 12, color: INK, overflow: 'truncate' },
          data: sums.map((value, at) => ({
            value,
            row: this.idOf(at),
            name: `${this.labels[at]!}\n${this.text(value)}`,
            itemStyle: { color: thinned(BRASS, this.isChosen(at) ? 1 : 0.18 + (0.5 * value) / most) },
          })),
        },
      ],
    };
  }

  lines(): ChartOption {
    const { series } = this.values;
    const of = series.values.length;
    const ends = series.values.map((figures) => figures.findLast((figure) => figure !== null) ?? null);
    const offsets = apart(ends, series.values.flat(), { height: LINES_PX, name: NAME_PX });
    return {
      ...this.frame(),
      grid: { left: 8, right: LABEL_PX, top: 16, bottom: 20 },
      xAxis: this.months(),
      yAxis: { type: 'value', show: false, scale: true },
      series: series.values.map((data, at) => ({
        type: 'line',
        symbol: 'none',
        name: this.labels[at]!,
        lineStyle: { color: this.isChosen(at) ? BRASS : shade(at, of), width: 2 },
        endLabel: {
          ...{ show: true, offset: [0, offsets[at]!], fontSize: 11, color: INK },
          ...{ formatter: this.labels[at]!, width: LABEL_PX - 12, overflow: 'truncate' },
        },
        data: data.map((value) => ({ value, row: this.idOf(at) })),
      })),
    };
  }

  stackedMonths(): ChartOption {
    const { series } = this.values;
    const of = series.values.length;
    return {
      ...this.frame(),
      grid: { left: 8, right: LABEL_PX, top: 16, bottom: 20 },
      xAxis: this.months(),
      yAxis: { type: 'value', show: false },
      series: series.values.map((data, at) => {
        const last = data.findLastIndex((value) => value !== null);
        return {
          type: 'bar',
          stack: 'all',
          name: this.labels[at]!,
          barWidth: '55%',
          itemStyle: { color: this.isChosen(at) ? BRASS : shade(at, of), borderColor: SHEET, borderWidth: 1 },
          data: data.map((value, month) => ({
            value,
            row: this.idOf(at),
            label: {
              show: month === last,
              ...{ position: 'right', fontSize: 11, color: INK, formatter: this.labels[at]! },
            },
          })),
        };
      }),
    };
  }

  private frame() {
    const { aria, textStyle } = CHART_FRAME;
    return { aria, textStyle };
  }

  private months() {
    return {
      type: 'category',
      data: this.values.series.labels,
      axisTick: { show: false },
      axisLabel: { fontSize: 11, interval: 0, color: SECOND },
    };
  }

  private categories(isLabelled: boolean) {
    return {
      type: 'category',
      data: this.labels,
      inverse: true,
      axisTick: { show: false },
      axisLine: { show: false },
      axisLabel: { show: isLabelled, fontSize: 12, color: INK, width: LABEL_PX, overflow: 'truncate' },
    };
  }

  private label(value: number | null, position: string) {
    return { show: value !== null, position, fontSize: 11, color: INK, formatter: this.text(value) };
  }

  private text(amount: number | null): string {
    const figure: Figure = { amount, unit: this.values.unit };
    return formatFigure(figure, this.shown);
  }

  private idOf(row: number): string {
    return this.values.rows[row]!.id;
  }

  private isChosen(row: number): boolean {
    return this.chosen.includes(this.values.rows[row]!.id);
  }
}
