import type { ChartOption } from './chart-notation';

/** What a chart draws as numbers, for programs that draw it themselves. Units: as they are read. */
export interface NativeChart {
  kind: 'bars' | 'lines';
  /** Bars lie, and stand on each other. */
  isLying: boolean;
  isStacked: boolean;
  categories: string[];
  series: { name: string; values: (number | null)[] }[];
}

interface Axis {
  type?: string;
  data?: string[];
}

interface Series {
  type?: string;
  name?: string;
  stack?: string;
  data?: (number | null | { value?: number | null })[];
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
    series: series.map(({ name = '', data = [] }) => ({
      name,
      values: data.map((each) => read(each !== null && typeof each === 'object' ? (each.value ?? null) : each)),
    })),
  };
}

/** An axis, where there is one alone. */
const onlyOne = (axis: Axis | Axis[] | undefined): Axis | undefined =>
  Array.isArray(axis) ? (axis.length === 1 ? axis[0] : undefined) : axis;
