import { PAPER } from './paper-colours';
import { breakdownOption } from './breakdown-chart';
import type { ChartedValues } from './charted-values';
import { barStyle } from './chart-notation';
import { nativeCharts } from './native-chart';

const bar = (more: object = {}) => ({ type: 'bar', data: [{ value: 200 }, null, -100], ...more });
const EURO = { kind: 'currency', code: 'EUR', digits: 2 } as const;
const SHOWN = { decimals: 0, scale: 1 } as never;

/** Two values in two places across, in minor units. */
const VALUES: ChartedValues = {
  rows: [
    { id: 'tiles', label: 'Tiles' },
    { id: 'studio', label: 'Studio' },
  ],
  across: ['Shop', 'Web'],
  points: [
    [
      { now: 300, base: 200 },
      { now: 500, base: 600 },
    ],
    [
      { now: 100, base: 50 },
      { now: null, base: 0 },
    ],
  ],
  addUp: { rows: true, across: true },
  series: { labels: [], values: [] },
  notation: { now: 'actual', base: 'plan' },
  names: { now: 'Actual', base: 'Plan' },
  unit: EURO,
  column: 'ytd',
};

describe('a chart as numbers', () => {
  it('has categories and series as they are read, what is not known left out', () => {
    const option = {
      xAxis: { type: 'category', data: ['Jan', 'Feb', 'Mar'] },
      yAxis: { type: 'value' },
      series: [bar({ name: 'Sales' })],
    };
    expect(nativeCharts(option, 100)).toEqual([
      {
        ...{ title: '', isLying: false, isFromTop: false, isStacked: false, categories: ['Jan', 'Feb', 'Mar'] },
        series: [
          {
            ...{ name: 'Sales', kind: 'bars', values: [2, null, -1], isShare: false, isLabelled: false },
            look: { fill: PAPER.ink },
          },
        ],
      },
    ]);
  });

  it('lies where its categories stand at the side, and stands on each other where it is stacked', () => {
    const option = {
      xAxis: [{ type: 'value' }],
      yAxis: [{ type: 'category', data: ['A', 'B', 'C'] }],
      series: [bar({ stack: 's', itemStyle: { color: 'transparent' } }), bar({ stack: 's' })],
    };
    const [chart] = nativeCharts(option, 1);
    expect(chart).toMatchObject({ isLying: true, isStacked: true });
    // what holds up the others is not seen
    expect(chart!.series[0]!.look.fill).toBeUndefined();
  });

  it('keeps the notation of versions', () => {
    const months = { xAxis: { type: 'category', data: ['Jan', 'Feb'] }, yAxis: {} };
    const data = (['actual', 'forecast'] as const).map((each) => ({ value: 1, itemStyle: barStyle(each) }));
    const [chart] = nativeCharts({ ...months, series: [bar({ data })] }, 1);
    expect(chart!.series[0]!.looks).toEqual([
      { fill: PAPER.ink },
      { fill: PAPER.sheet, edge: PAPER.ink, isHatched: true },
    ]);
  });

  it('is several on one scale where values stand across the page', () => {
    const charts = nativeCharts(breakdownOption('bars', VALUES, SHOWN), 100);
    expect(charts.map(({ title, series }) => [title, ...series.map(({ name, values }) => [name, values])])).toEqual([
      ['Shop', ['Plan', [2, 0.5]], ['Actual', [3, 1]]],
      ['Web', ['Plan', [6, 0]], ['Actual', [5, null]]],
    ]);
    expect(charts.map(({ least, most }) => [least, most])).toEqual([
      [0, 6],
      [0, 6],
    ]);
    // figures stand at the bars in front alone
    expect(charts[0]!.series.map(({ isLabelled }) => isLabelled)).toEqual([false, true]);
  });

  it('has shares on a scale of their own', () => {
    const [chart] = nativeCharts(
      breakdownOption('pareto', { ...VALUES, across: [''], points: VALUES.points.map(([first]) => [first!]) }, SHOWN),
      100,
    );
    expect(chart!.series.map(({ kind, isShare, values }) => ({ kind, isShare, values }))).toEqual([
      { kind: 'bars', isShare: false, values: [3, 1] },
      { kind: 'lines', isShare: true, values: [0.75, 1] },
    ]);
  });

  it('reads a map of amounts, and areas, as bars', () => {
    const [map] = nativeCharts(breakdownOption('heat_map', VALUES, SHOWN), 100);
    expect(map!.categories).toEqual(['Tiles', 'Studio']);
    expect(map!.series.map(({ name, values }) => [name, values])).toEqual([
      ['Shop', [3, 1]],
      ['Web', [5, null]],
    ]);
    const [areas] = nativeCharts(breakdownOption('treemap', VALUES, SHOWN), 100);
    expect(areas).toMatchObject({ categories: ['Tiles', 'Studio'], series: [{ values: [8, 1] }] });
  });
});
