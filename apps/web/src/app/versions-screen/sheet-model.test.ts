import fc from 'fast-check';
import {
  applyChanges,
  buildCalendar,
  linesOf,
  openingsOf,
  sheetColumns,
  SheetEvaluator,
  type FigureChange,
  type FigureLines,
} from '@margin-lens/core';
import { SAMPLE_MAKINGS, SAMPLE_ROWS } from '../testing/sample-documents';
import { SAMPLE_WORKSPACE } from '../testing/sample-view';
import { SheetModel, sidesOf, type SheetInput } from './sheet-model';
import type { SheetTotals } from './sheet-totals';

const CALENDAR = SAMPLE_WORKSPACE.calendars[0]!;
const calendar = buildCalendar(CALENDAR.code, CALENDAR.periods);
const periods = calendar.periods
  .filter(({ kind }) => kind === 'regular')
  .map(({ ordinal }) => ordinal)
  .slice(0, 12);
const NONE = '\u001f';
const DESIGN = '\u001f\u001fdepartment=design';
const line = (account: string, combination: string, figure: number) => ({
  account,
  combination,
  figures: periods.map(() => figure),
});
const LINES = linesOf([line('4000', NONE, -500_000), line('4000', DESIGN, -300_000), line('6400', NONE, 400_000)]);
const openings = openingsOf([]);
const INPUT: SheetInput = {
  source: {
    rowLayout: SAMPLE_ROWS,
    others: [],
    cashFlow: [],
    accounts: SAMPLE_MAKINGS.accounts,
    calendar,
    currency: { kind: 'currency', code: 'EUR', digits: 2 },
    trees: SAMPLE_MAKINGS.dimensions,
    part: [],
    periods,
    columns: sheetColumns(calendar, periods, 'month'),
  },
  frame: { own: periods.map(() => true), openings },
  actual: periods.map(() => false),
  lines: LINES,
  dimensions: ['department'],
  valuesFirst: false,
  open: new Set(['sales', 'sales:4000', 'energy']),
  hideUnused: true,
  started: new Set(),
  comparisons: [
    {
      code: 'last_year',
      name: 'Last year',
      notation: 'prior_year',
      lines: linesOf([line('4000', NONE, -700_000)]),
      openings,
    },
  ],
  comparesBelow: false,
};

const totalsOf = (input: SheetInput): SheetTotals => {
  const of = sidesOf(input);
  const [own, ...beside] = new SheetEvaluator().totals({ do: 'open', source: of.source, own: of, beside: of.beside });
  return { of, own: own!, beside };
};
const modelOf = (input: SheetInput, before?: SheetModel) => new SheetModel(input, totalsOf(input), before);
const told = (model: SheetModel) =>
  model.rows.map((row) => [row.id, model.figures(row), model.texts(row, 1000), model.compared(row, 0)]);
const change = (lines: FigureLines, changes: readonly FigureChange[]): SheetInput => ({
  ...INPUT,
  lines: applyChanges(lines, changes, periods.length),
});

const edits = fc.array(
  fc.record({
    account: fc.constantFrom('4000', '6400', '6510'),
    combination: fc.constantFrom(NONE, DESIGN),
    period: fc.nat({ max: periods.length - 1 }),
    before: fc.constant(0),
    after: fc.oneof(fc.constant(0), fc.integer({ min: -2_000_000, max: 2_000_000 })),
  }),
  { minLength: 1, maxLength: 8 },
);

describe('SheetModel', () => {
  it('shows after any edits what a model made anew shows', () => {
    fc.assert(
      fc.property(fc.array(edits, { minLength: 1, maxLength: 4 }), (steps) => {
        let model = modelOf(INPUT);
        for (const step of steps) {
          told(model); // what was shown is what could be taken over
          const input = change(model.input.lines, step);
          model = modelOf(input, model);
          expect(told(model)).toEqual(told(modelOf(input)));
        }
      }),
      { numRuns: 40 },
    );
  });

  it('shows in rows that are typed into the same before its totals come as behind them; others stay meanwhile', () => {
    const shown = (model: SheetModel, isTyped: boolean) =>
      model.rows
        .filter(({ leaves }) => leaves.length > 0 === isTyped)
        .map((row) => [row.id, model.figures(row), model.compared(row, 0)]);
    fc.assert(
      fc.property(edits, (step) => {
        const before = modelOf(INPUT);
        const input = change(LINES, step);
        const waiting = new SheetModel(input, totalsOf(INPUT), before);
        expect(shown(waiting, true)).toEqual(shown(modelOf(input), true));
        expect(shown(waiting, false)).toEqual(shown(before, false));
      }),
      { numRuns: 40 },
    );
    const first = new SheetModel(INPUT, undefined);
    expect(first.figures(first.rows.find(({ leaves }) => leaves.length === 0)!).every((each) => each === null)).toBe(
      true,
    );
  });

  it('keeps the rows and the figures that an edit leaves as they were', () => {
    const before = modelOf(INPUT);
    told(before);
    const after = modelOf(
      change(LINES, [{ account: '6400', combination: NONE, period: 0, before: 400_000, after: 1 }]),
      before,
    );
    expect(after.rows).toBe(before.rows);
    const row = (id: string) => after.rows.find((each) => each.id === id)!;
    expect(after.figures(row('sales:4000'))).toBe(before.figures(row('sales:4000')));
    expect(after.figures(row('energy:6400'))).not.toBe(before.figures(row('energy:6400')));
  });

  it('makes its rows anew where another dimension is asked for', () => {
    const before = modelOf(INPUT);
    expect(modelOf({ ...INPUT, dimensions: [] }, before).rows).not.toBe(before.rows);
    expect(modelOf({ ...INPUT, open: new Set() }, before).rows.length).toBeLessThan(before.rows.length);
  });

  it('shows what it is compared with below each row month by month, where nothing can be typed', () => {
    const model = modelOf({ ...INPUT, comparesBelow: true });
    const at = model.rows.findIndex(({ id }) => id === 'sales:4000');
    const [own, below] = [model.rows[at]!, model.rows[at + 1]!];
    expect(below.label).toBe('Last year');
    expect(model.figures(own).slice(0, 2)).toEqual([800_000, 800_000]);
    expect(model.figures(below).slice(0, 2)).toEqual([700_000, 700_000]);
    expect(model.isEditable(own, 0)).toBe(true);
    expect(model.isEditable(below, 0)).toBe(false);
    // after an edit it is as a model made anew
    const edited = {
      ...model.input,
      lines: applyChanges(LINES, [{ account: '4000', combination: NONE, period: 0, before: -500_000, after: 0 }], 12),
    };
    expect(told(modelOf(edited, model))).toEqual(told(modelOf(edited)));
  });
});
