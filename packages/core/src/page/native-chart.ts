import { CHART_COLOURS, type ChartOption } from './chart-notation';

/** What a chart draws as numbers, for programs that draw it themselves. Units: as they are read. */
export interface NativeChart {
  kind: 'bars' | 'lines';
  /** Bars lie, and stand on each other. */
  isLying: boolean;
  isStacked: boolean;
  categories: string[];
  series: NativeSeries[];
}

export interface NativeSeries {
  name: string;
  values: (number | null)[];
  /** Holds up those that stand on it, and is not seen itself. */
  isHidden?: true;
  /** What each value is filled with, where they differ. */
  fills?: (NativeFill | undefined)[];
}

/** Colours that mean something. */
export type NativeFill = 'ink' | 'favourable' | 'adverse';

interface Axis {
  type?: string;
  data?: string[];
}

interface Series {
  type?: string;
  name?: string;
  stack?: string;
  data?: (number | null | { value?: number | null; itemStyle?: { color?: unknown } })[];
  itemStyle?: { color?: unknown };
}

/**
 * A chart as categories and series; undefined where it is no chart of bars or lines on one scale.
 * @param readPer what its values are divided by to be as they are read
 */
export function nativeChart(option: ChartOption, readPer: number): NativeChart | undefined {
  const read = (value: number | null): number | null => (value === null ? null : value / readPer);
  const { xAxis, yAxis, series } = option as { xAxis?: Axis; yAxis?: Axis; series?: Series[] };
  if (!Array.isArray(series) || series.length === 0) return undefined;
  const [kind] = series.map(({ type }) => type);
  const areAlike = series.every(({ type }) => type === kind);
  const isLying = onlyOne(yAxis)?.type === 'category';
  const categories = onlyOne(isLying ? yAxis : xAxis)?.data;
  if (!areAlike || (kind !== 'bar' && kind !== 'line') || !categories) return undefined;
  return {
    ...{ kind: kind === 'bar' ? 'bars' : 'lines', isLying, categories: [...categories] },
    isStacked: series.some(({ stack }) => stack !== undefined),
    series: series.map(({ name = '', data = [], itemStyle }) => ({
      name,
      values: data.map((each) => read(each !== null && typeof each === 'object' ? (each.value ?? null) : each)),
      ...(itemStyle?.color === 'transparent' && { isHidden: true as const }),
      ...fillsOf(data),
    })),
  };
}

/** Colours of values that mean something, where not all are one. */
function fillsOf(data: NonNullable<Series['data']>): Pick<NativeSeries, 'fills'> {
  const fills = data.map((each) => {
    const colour = each !== null && typeof each === 'object' ? each.itemStyle?.color : undefined;
    return FILLS.find((fill) => colour === CHART_COLOURS[fill]);
  });
  return new Set(fills).size > 1 ? { fills } : {};
}

const FILLS: readonly NativeFill[] = ['ink', 'favourable', 'adverse'];

/** An axis, where there is one alone. */
const onlyOne = (axis: Axis | Axis[] | undefined): Axis | undefined =>
  Array.isArray(axis) ? (axis.length === 1 ? axis[0] : undefined) : axis;
