import type { ColumnHead } from '../statement/column-head';
import type { StatementRow } from '../statement/statement-table';
import { breakdownOption, heightOf } from './breakdown-chart';
import { chartedValues, chartOf, chartsOf } from './charted-values';

const EURO = { kind: 'currency', code: 'EUR', digits: 2 } as const;
const head = (id: string, block: string, more: Partial<ColumnHead> = {}): ColumnHead => ({
  ...{ id, source: id.split('.')[0]!, kind: 'figure', block, blockLabel: block, label: id, note: '', dates: '' },
  ...{ notation: 'actual', span: null, held: null, flags: [], hideFromExport: false },
  ...more,
});
const branch = (key: string, isOpen = false) => ({ key, canOpen: true, isOpen, addsUp: true });
const row = (id: string, amounts: readonly (number | null)[], more: Partial<StatementRow> = {}): StatementRow => ({
  ...{ id, label: id, kind: 'accounts', style: 'detail', depth: 0, decimals: null, note: '', hideFromExport: false },
  ...{ opened: false, isEmpty: false, branch: branch(id) },
  cells: amounts.map((amount) => ({ amount, unit: EURO })),
  ...more,
});

const COLUMNS = [
  head('plan.channel:shop', 'shop', { notation: 'plan', branch: branch('channel:shop') }),
  head('ytd.channel:shop', 'shop', { branch: branch('channel:shop') }),
  head('plan.channel:web', 'web', { notation: 'plan', branch: branch('channel:web') }),
  head('ytd.channel:web', 'web', { branch: branch('channel:web') }),
  head('plan', 'total', { notation: 'plan' }),
  head('ytd', 'total'),
];
const ROWS = [
  row('tiles', [10, 30, 20, 50, 30, 80], { branch: branch('tiles', true) }),
  row('facade', [4, 10, 8, 20, 12, 30], { depth: 1 }),
  row('floor', [6, 20, 12, 30, 18, 50], { depth: 1 }),
  row('studio', [1, 5, 2, 7, 3, 12]),
];
const { branch: _, ...TOTAL } = row('total', [11, 35, 22, 57, 33, 92]);
const SHEET = { columns: COLUMNS, rows: [...ROWS, TOTAL] };

describe('charts of a breakdown', () => {
  it('draw what is told apart no further, under the values across, without totals', () => {
    const values = chartedValues(SHEET)!;
    expect(values.rows.map(({ label }) => label)).toEqual(['tiles › facade', 'tiles › floor', 'studio']);
    expect(values.across).toEqual(['shop', 'web']);
    expect(values.points).toEqual([
      [
        { now: 10, base: 4 },
        { now: 20, base: 8 },
      ],
      [
        { now: 20, base: 6 },
        { now: 30, base: 12 },
      ],
      [
        { now: 5, base: 1 },
        { now: 7, base: 2 },
      ],
    ]);
    expect(values.notation).toEqual({ now: 'actual', base: 'plan' });
  });

  it('are of rows beside each other, but for what is measured in another unit', () => {
    const pieces = { kind: 'count', name: 'units', digits: 0 } as const;
    const columns = [head('ytd', 'Sales'), head('ytd*costs', 'Costs', { source: 'ytd' })];
    const counted = head('ytd*pieces', 'Pieces', { source: 'ytd' });
    const rows = [row('tiles', [30, 20, 70]), row('vases', [5, 3, 9])].map((each) => ({
      ...each,
      cells: each.cells.map((cell, at) => (at === 2 ? { ...cell, unit: pieces } : cell)),
    }));
    const values = chartedValues({ columns: [...columns, counted], rows })!;
    expect([values.across, values.unit]).toEqual([['Sales', 'Costs'], EURO]);
    expect(values.points.map((point) => point.map(({ now }) => now))).toEqual([
      [30, 20],
      [5, 3],
    ]);
    const alone = rows.map((each) => ({ ...each, cells: [each.cells[0]!, each.cells[2]!] }));
    expect(chartedValues({ columns: [columns[0]!, counted], rows: alone })!.across).toEqual(['']);
  });

  it('are read as what they are where costs stand in brackets', () => {
    const costs = ROWS.map((each) => ({ ...each, isDeducted: true as const }));
    expect(chartedValues({ ...SHEET, rows: costs })!.points[0]![0]).toEqual({ now: -10, base: -4 });
  });

  it('offer what can be drawn of them, bars first', () => {
    const values = chartedValues(SHEET)!;
    expect(chartsOf(values)).toEqual(['bars', 'stacked', 'heat_map', 'treemap']);
    const alone = chartedValues({
      columns: COLUMNS.slice(4),
      rows: SHEET.rows.map((each) => ({ ...each, cells: each.cells.slice(4) })),
    })!;
    expect(chartsOf(alone)).toEqual(['bars', 'pareto', 'treemap']);
    const negative = { ...alone, points: [[{ now: -1, base: 0 }], ...alone.points.slice(1)] };
    expect(chartsOf(negative)).toEqual(['bars']);
    // what is not known is no part of a whole, and no zero
    const unknown = { ...values, points: [[{ now: null, base: 0 }, values.points[0]![1]!], ...values.points.slice(1)] };
    expect(chartsOf(unknown)).toEqual(['bars', 'heat_map']);
    expect([chartOf(unknown, 'treemap'), chartOf(values, 'treemap')]).toEqual(['bars', 'treemap']);
    // versions beside each other are no parts of anything
    expect(chartsOf({ ...values, addUp: { rows: false, across: true } })).toEqual(['bars', 'stacked', 'heat_map']);
    expect(chartsOf({ ...values, addUp: { rows: true, across: false } })).toEqual(['bars', 'heat_map']);
    for (const kind of chartsOf(values)) expect(heightOf(kind, values)).toBeGreaterThan(80);
  });

  it('stand on one scale, and name the row behind every item', () => {
    const option = breakdownOption('bars', chartedValues(SHEET)!, 1) as {
      xAxis: { min: number; max: number }[];
      series: { data: { row: string; value: number }[] }[];
    };
    expect(option.xAxis.map(({ min, max }) => [min, max])).toEqual([
      [0, 30],
      [0, 30],
    ]);
    for (const { data } of option.series) expect(data.map((item) => item.row)).toEqual(['facade', 'floor', 'studio']);
  });

  it('draw months as lines', () => {
    const months = ['p01', 'p02'].map((month) => head(`months.${month}`, 'year', { source: 'months', label: month }));
    const values = chartedValues({ columns: months, rows: [row('a', [1, 2]), row('b', [3, null])] })!;
    expect(chartsOf(values)).toEqual(['lines']);
    const held = chartedValues({ columns: months, rows: [row('a', [1, null]), row('b', [3, null])] })!;
    expect(chartsOf(held)).toEqual(['lines', 'stacked_months']);
    expect(values.series).toEqual({
      labels: ['p01', 'p02'],
      values: [
        [1, 2],
        [3, null],
      ],
    });
  });

  it('are none where nothing is broken down', () => {
    expect(chartedValues({ columns: COLUMNS, rows: [TOTAL] })).toBeUndefined();
  });
});
