import { onPaper } from './paper-colours';
import { CHART_COLOURS, MAP, shade, type ChartOption } from './chart-notation';

/**
 * What a chart draws as numbers, for programs that draw it themselves. Units: as they are read; those of lines on a scale of
 * their own are parts of 1.
 */
export interface NativeChart {
  /** Told where several stand beside each other; empty else. */
  title: string;
  /** Bars lie, and stand on each other. */
  isLying: boolean;
  isStacked: boolean;
  /** The first category stands at the top. */
  isFromTop: boolean;
  categories: string[];
  series: NativeSeries[];
  /** Ends of the scale where they are set, as where several charts share it. */
  least?: number;
  most?: number;
}

export interface NativeSeries {
  name: string;
  kind: 'bars' | 'lines';
  values: (number | null)[];
  look: NativeLook;
  /** How each value looks, where they differ. */
  looks?: NativeLook[];
  /** Values stand beside it. */
  isLabelled: boolean;
  /** On a scale of its own, of parts of 1. */
  isShare: boolean;
}

/** Colours as hex without the hash. */
export interface NativeLook {
  /** Undefined where it is not seen: it holds up what stands on it. */
  fill: string | undefined;
  /** Around it. */
  edge?: string;
  isHatched?: true;
  isDashed?: true;
}

interface Axis {
  type?: string;
  data?: string[];
  inverse?: boolean;
  min?: number;
  max?: number;
}

interface Style {
  color?: string;
  borderColor?: string;
  decal?: unknown;
}

interface Item {
  value?: number | null | number[];
  name?: string;
  amount?: number | null;
  itemStyle?: Style;
  label?: { show?: boolean };
}

interface Series {
  type?: string;
  name?: string;
  stack?: string;
  xAxisIndex?: number;
  yAxisIndex?: number;
  data?: (number | null | Item)[];
  itemStyle?: Style;
  lineStyle?: { color?: string; type?: unknown };
}

interface Drawn {
  xAxis?: Axis | Axis[];
  yAxis?: Axis | Axis[];
  title?: { text?: string }[];
  series: Series[];
}

/**
 * A chart as categories and series: several where it is of several beside each other. What office programs cannot draw is
 * read as bars: a map of amounts as a series to each value across, areas as bars of one series.
 * @param readPer what its values are divided by to be as they are read
 */
export function nativeCharts(option: ChartOption, readPer: number): NativeChart[] {
  const { xAxis, yAxis, series, title } = option as unknown as Drawn;
  const [xs, ys] = [listed(xAxis), listed(yAxis)];
  const reader = new Reader(readPer);
  const [first] = series;
  if (first?.type === 'treemap') return [reader.areas(first)];
  if (first?.stack === MAP) return [reader.map(ys[0]?.data ?? [], series)];
  const isLying = ys[0]?.type === 'category';
  const [categories, amounts] = isLying ? [ys, xs] : [xs, ys];
  const placeOf = ({ xAxisIndex = 0, yAxisIndex = 0 }: Series) => (isLying ? yAxisIndex : xAxisIndex);
  const scaleOf = ({ xAxisIndex = 0, yAxisIndex = 0 }: Series) => (isLying ? xAxisIndex : yAxisIndex);
  return categories.map((axis, at): NativeChart => {
    const own = series.filter((each) => placeOf(each) === at);
    const { min, max } = amounts[at] ?? {};
    return {
      title: title?.[at]?.text ?? '',
      ...{ isLying, isFromTop: isLying && axis.inverse === true, categories: [...(axis.data ?? [])] },
      isStacked: own.some(({ stack }) => stack !== undefined),
      series: own.map((each, index) => {
        // another scale than that of the first is one of shares
        const read = reader.series(each, scaleOf(each) !== scaleOf(own[0]!));
        // bars that others lie on are not labelled
        const isCovered = each.stack === undefined && own[index + 1]?.type === 'bar';
        return { ...read, isLabelled: read.isLabelled && !isCovered };
      }),
      ...(min !== undefined && { least: min / readPer }),
      ...(max !== undefined && { most: max / readPer }),
    };
  });
}

class Reader {
  constructor(private readonly readPer: number) {}

  series({ type, name = '', stack, data = [], itemStyle, lineStyle }: Series, isShare: boolean): NativeSeries {
    const kind = type === 'line' ? 'lines' : 'bars';
    const items = data.map((each): Item => (each !== null && typeof each === 'object' ? each : { value: each }));
    const looks =
      kind === 'lines'
        ? items.map((): NativeLook => lineLook(lineStyle))
        : items.map((item) => lookOf(item.itemStyle ?? itemStyle));
    const differ = new Set(looks.map((look) => JSON.stringify(look))).size > 1;
    return {
      ...{ name, kind, isShare },
      values: items.map(({ value = null }) => (isShare ? amountOf(value) : this.read(amountOf(value)))),
      look: looks[0] ?? { fill: colourOf(CHART_COLOURS.ink) },
      ...(differ && { looks }),
      // what stands on another is labelled with its name, unless each is something of its own
      isLabelled:
        (kind === 'bars' ? stack === undefined || differ : isShare) && items.some(({ label }) => label?.show === true),
    };
  }

  areas({ data = [] }: Series): NativeChart {
    const items = data as Item[];
    return this.bars(
      items.map(({ name = '' }) => name.split('\n')[0]!),
      [{ name: '', values: items.map(({ value = null }) => amountOf(value)) }],
    );
  }

  map(down: readonly string[], series: readonly Series[]): NativeChart {
    return this.bars(
      down,
      series.map(({ name = '', data = [] }) => ({ name, values: (data as Item[]).map(({ amount = null }) => amount) })),
    );
  }

  private bars(
    categories: readonly string[],
    series: readonly { name: string; values: readonly (number | null)[] }[],
  ): NativeChart {
    return {
      ...{ title: '', isLying: true, isStacked: false, isFromTop: true, categories: [...categories] },
      series: series.map(({ name, values }, at) => ({
        ...{ name, kind: 'bars', isShare: false, isLabelled: series.length <= MOST_LABELLED },
        values: values.map((value) => this.read(value)),
        look: { fill: colourOf(shade(at, series.length)) },
      })),
    };
  }

  private read(value: number | null): number | null {
    return value === null ? null : value / this.readPer;
  }
}

/** Series beside each other whose values can be told at their bars. */
const MOST_LABELLED = 3;

const colourOf = (colour: string): string => onPaper(colour).replace('#', '');

function lookOf({ color = CHART_COLOURS.ink, borderColor, decal }: Style = {}): NativeLook {
  if (color === 'transparent') return { fill: undefined };
  return {
    fill: colourOf(color),
    ...(borderColor !== undefined && { edge: colourOf(borderColor) }),
    ...(decal !== undefined && { isHatched: true as const }),
  };
}

const lineLook = ({ color = CHART_COLOURS.ink, type }: NonNullable<Series['lineStyle']> = {}): NativeLook => ({
  fill: colourOf(color),
  ...(type !== undefined && { isDashed: true as const }),
});

const amountOf = (value: number | null | number[]): number | null => (Array.isArray(value) ? null : value);

const listed = (axis: Axis | Axis[] | undefined): Axis[] =>
  axis === undefined ? [] : Array.isArray(axis) ? axis : [axis];
