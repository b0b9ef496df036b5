import { CALENDAR, frame, KILN, LINES, MONTHS, NONE, SHOP, source } from '../../test/small-plan';
import { formatFigure } from '../figure/format-figure';
import { SheetEvaluator, lineChange } from './sheet-evaluator';
import { sheetColumns, sheetLayout, sheetTotals } from './sheet-figures';
import { applyChanges } from './edit-figures';
import { openingsOf } from './planning-sheet';

describe('sheetColumns', () => {
  it('are months with the fiscal year behind them, or quarters', () => {
    expect(sheetColumns(CALENDAR, MONTHS, 'month').map(({ grain }) => grain)).toEqual([
      ...Array<string>(12).fill('month'),
      'year',
    ]);
    const quarters = sheetColumns(CALENDAR, MONTHS, 'quarter');
    expect(quarters.map(({ id }) => id)).toEqual(['q2027_1', 'q2027_2', 'q2027_3', 'q2027_4', 'y2027']);
    expect(quarters[1]!.periods).toEqual([3, 4, 5]);
  });

  it('hold only the months that a sheet has', () => {
    const [first, year] = sheetColumns(CALENDAR, MONTHS.slice(0, 2), 'quarter');
    expect([first!.periods, year!.periods]).toEqual([
      [0, 1],
      [0, 1],
    ]);
  });
});

describe('sheetTotals', () => {
  const texts = (grain: 'month' | 'quarter', row: string, openings = openingsOf([])) => {
    const { columns } = source(grain);
    const { rows, byId } = sheetLayout(source(grain));
    const { unit, decimals, index } = rows[byId.get(row)!]!;
    const totals = sheetTotals(source(grain), { lines: LINES, openings });
    return columns.map((_, at) =>
      formatFigure({ amount: totals[index * columns.length + at]!, unit }, 1, { decimals }),
    );
  };

  // April: 1,500 sales less 300 goods and 200 people; May: 1,600 − 330 − 200; June: 1,700 − 360 − 200
  it('gives totals and ratios of a version as a statement does', () => {
    expect(texts('month', 'profit').slice(0, 4)).toEqual(['1,000', '1,070', '1,140', '–']);
    expect(texts('month', 'margin').slice(0, 3)).toEqual(['66.7', '66.9', '67.1']); // 1,000 ÷ 1,500; 1,070 ÷ 1,600; 1,140 ÷ 1,700
  });

  it('sums quarters and years, and computes their ratios anew', () => {
    expect(texts('quarter', 'profit')).toEqual(['3,210', '–', '–', '–', '3,210']);
    expect(texts('quarter', 'margin')[4]).toBe('66.9'); // 3,210 ÷ 4,800
  });

  it('carries balances on from what they open with', () => {
    expect(texts('quarter', 'cash', openingsOf([{ account: '1000', combination: NONE, figure: 100_000 }]))).toEqual([
      '1,125',
      '1,125',
      '1,125',
      '1,125',
      '1,125',
    ]);
  });

  it('of a part of the books are those of its lines and what it opens with alone', () => {
    const part = [{ dimension: 'department', has: 'in' as const, values: ['kiln'] }];
    const kiln = { ...source(), part };
    const openings = openingsOf([
      { account: '1000', combination: NONE, figure: 100_000 },
      { account: '9000', combination: KILN, figure: 50_000 },
      { account: '9000', combination: SHOP, figure: 70_000 },
    ]);
    const totals = sheetTotals(kiln, { lines: LINES, openings });
    const { byId } = sheetLayout(kiln);
    const april = (row: string) => totals[byId.get(row)! * kiln.columns.length];
    // sales of 600 and goods of 300 in the kiln; people and cash carry no department; five heads (in 1/10,000)
    expect([april('sales'), april('profit'), april('cash'), april('heads')]).toEqual([60_000, 30_000, 0, 50_000]);
  });

  it('has no figure where a row has none', () => {
    const none = new Map();
    const totals = sheetTotals(source(), { lines: none, openings: none });
    const margin = sheetLayout(source()).byId.get('margin')!;
    expect(totals[margin * source().columns.length]).toBeNaN();
  });
});

describe('SheetEvaluator', () => {
  it('has the totals of a sheet after each change, by what changed alone', () => {
    const openings = openingsOf([]);
    const evaluator = new SheetEvaluator();
    const beside = [{ lines: LINES, openings }];
    const opened = evaluator.totals({ do: 'open', source: source(), own: { lines: new Map(), openings }, beside });
    expect(opened).toEqual([new Map(), LINES].map((lines) => sheetTotals(source(), { lines, openings })));
    const change = { account: '4000', combination: '\u001f', period: 2, before: 0, after: -7 };
    const changed = applyChanges(LINES, [change], source().periods.length);
    for (const [before, after] of [
      [new Map(), LINES],
      [LINES, changed],
      [changed, new Map()],
    ] as const) {
      const step = lineChange(before, after);
      expect(evaluator.totals({ do: 'change', ...step })).toEqual([sheetTotals(source(), { lines: after, openings })]);
    }
    expect(lineChange(LINES, changed).set).toHaveLength(1);
  });

  it('tells what an action would change in the sheet as it stands by then, and what that makes of the rows', () => {
    const openings = openingsOf([]);
    const evaluator = new SheetEvaluator();
    evaluator.totals({ do: 'open', source: source(), own: { lines: LINES, openings }, beside: [] });
    const view = {
      dimensions: [],
      open: new Set<string>(),
      valuesFirst: false,
      hideUnused: true,
      started: new Set<string>(),
    };
    const place = { frame: frame(), months: [0], periods: [], baseYear: new Map(), holidays: new Set<string>() };
    const flip = () => evaluator.plan({ do: 'plan', view, rows: ['sales'], action: { kind: 'flip' }, place });
    const { changes, result } = flip();
    // sales of April are 1,500: they would be 1,500 less than nothing
    expect([result!.was[0], result!.is[0], result!.profit]).toEqual([150_000, -150_000, -300_000]);
    const done = applyChanges(LINES, changes, source().periods.length);
    evaluator.totals({ do: 'change', ...lineChange(LINES, done) });
    expect(flip().result!.was[0]).toBe(-150_000);
    expect(evaluator.plan({ do: 'plan', view, rows: ['margin'], action: { kind: 'flip' }, place })).toMatchObject({
      changes: [],
      problems: [expect.stringContaining('Only computed rows')],
      result: undefined,
    });
  });
});
