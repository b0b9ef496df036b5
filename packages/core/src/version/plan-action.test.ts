import { CALENDAR, frame, KILN, line, LINES, MONTHS, NONE, rowOf, SHOP } from '../../test/small-plan';
import { TEST_ACCOUNTS } from '../../test/properties/random-books';
import { applyChanges, rowFigures } from './edit-figures';
import { lineKey, linesOf, type FigureLines, type SheetRow } from './planning-sheet';
import { emptyBaseMonths, planAction, type ActionPlace, type PlanAction } from './plan-action';

// Figures are whole euros; the arithmetic stands beside each expected value.
const PERIODS = MONTHS.map((ordinal) => CALENDAR.periods[ordinal]!);
const place = (rows: SheetRow[], months: number[], change: Partial<ActionPlace> = {}): ActionPlace => ({
  accounts: TEST_ACCOUNTS,
  lines: LINES,
  frame: frame(),
  rows,
  months,
  periods: PERIODS,
  baseYear: linesOf([]),
  holidays: new Set(),
  ...change,
});
const euros = (figures: readonly number[]) => figures.map((figure) => figure / 100);

/** What a row shows in some months once an action is done. */
function after(action: PlanAction, row: SheetRow, months: number[], change: Partial<ActionPlace> = {}): number[] {
  const at = place([row], months, change);
  const { changes, problems } = planAction(action, at);
  expect(problems).toEqual([]);
  const figures = rowFigures(applyChanges(at.lines, changes, 12), row, at.frame);
  return euros(months.map((month) => figures[month]!));
}
const figuresOf = (lines: FigureLines, account: string, combination: string) =>
  euros(lines.get(lineKey(account, combination))!.figures).slice(0, 6);

describe('planAction', () => {
  it('takes a version over month by month, times a factor, and clears what the source does not have', () => {
    const from = { lines: linesOf([line('4000', KILN, -100, -200, -300)]), periods: PERIODS, baseYear: linesOf([]) };
    const seed: PlanAction = { kind: 'seed', source: from, factor: 1.1, onlyEmpty: false };
    expect(after(seed, rowOf('sales'), [0, 1, 2])).toEqual([110, 220, 330]);
    // where only empty months are seeded, what stands there stays: 600 + 400 + 500 in April
    expect(after({ ...seed, onlyEmpty: true }, rowOf('sales'), [0, 3])).toEqual([1500, 0]);
  });

  it('carries on a run rate by month, by day, and with the season of a base year', () => {
    const read = PERIODS.slice(0, 2); // April and May: 30 and 31 days
    const source = {
      lines: linesOf([line('6000', NONE, 200, 410)]),
      periods: read,
      baseYear: linesOf([line('6000', NONE, 100, 205)]),
    };
    const at = (by: 'month' | 'day' | 'season'): PlanAction => ({
      kind: 'run_rate',
      by,
      source,
      factor: 1,
      onlyEmpty: false,
    });
    expect(after(at('month'), rowOf('people'), [2, 3])).toEqual([305, 305]); // 610 ÷ 2
    expect(after(at('day'), rowOf('people'), [2, 3])).toEqual([300, 310]); // 10 a day × 30 and 31 days
    // twice the base year's first two months, so twice its June and July
    const baseYear = linesOf([line('6000', NONE, 100, 205, 150, 80)]);
    expect(after(at('season'), rowOf('people'), [2, 3], { baseYear })).toEqual([300, 160]);
  });

  it('uplifts every line of the rows, each once though a row below is selected too', () => {
    const uplift: PlanAction = { kind: 'uplift', uplift: { percent: 10, from: 'each', compounding: false } };
    const below = rowOf('goods:5000', { isOpen: () => true });
    const { changes } = planAction(uplift, place([rowOf('goods'), below], [0, 1]));
    expect(changes.map(({ before, after: now }) => [before / 100, now / 100])).toEqual([
      [300, 330],
      [330, 363],
    ]);
    expect(
      after({ ...uplift, uplift: { percent: 10, from: 'each', compounding: true } }, rowOf('people'), [0, 1]),
    ).toEqual([220, 242]);
  });

  it('uplifts a row by an amount once, however many figures it is made of', () => {
    const uplift: PlanAction = {
      kind: 'uplift',
      uplift: { percent: 0, amount: 9_000, from: 'each', compounding: false },
    };
    const before = euros(rowFigures(LINES, rowOf('sales'), frame())).slice(0, 2);
    expect(before[0]).toBe(1500); // three lines: 600, 400 and 500 in April
    expect(after(uplift, rowOf('sales'), [0, 1])).toEqual(before.map((figure) => figure + 90));
  });

  it('gives a row that is chosen with the rows it is made of no figure twice', () => {
    const all = rowOf('sales');
    const parts = all.leaves.map((leaf, at): SheetRow => ({ ...all, id: `part${at}`, leaves: [leaf] }));
    const flat: PlanAction = { kind: 'write', figures: new Map([[all.id, [120_000]]]) };
    const { changes } = planAction(flat, place([all, ...parts], [0]));
    const figures = rowFigures(applyChanges(LINES, changes, 12), all, frame());
    expect(euros([figures[0]!])).toEqual([1200]);
  });

  it('spreads a total exactly: evenly, by working days, and in the shape of a base year', () => {
    const phase = (phasing: 'even' | 'working_days' | 'base_year'): PlanAction => ({
      kind: 'phase',
      phasing,
      total: 100_000,
      growth: 0,
      profile: [],
    });
    expect(after(phase('even'), rowOf('people'), [3, 4, 5])).toEqual([333.34, 333.33, 333.33]);
    // July, August and September 2026 have 23, 21 and 22 days from Monday to Friday
    expect(after(phase('working_days'), rowOf('people'), [3, 4, 5])).toEqual([348.49, 318.18, 333.33]);
    expect(
      after(phase('base_year'), rowOf('people'), [0, 1], { baseYear: linesOf([line('6000', NONE, 30, 70)]) }),
    ).toEqual([300, 700]);
  });

  it('names the months that a half-empty base year would leave with nothing', () => {
    const at = (months: number[], baseYear: FigureLines) =>
      emptyBaseMonths({ rows: [rowOf('people')], months, baseYear });
    const half = linesOf([line('6000', NONE, 30, 70, 50)]);
    expect(at([0, 1, 2, 3, 4], half)).toEqual([3, 4]);
    expect(at([0, 1, 2], half)).toEqual([]);
    // a year with nothing at all has no shape, which is refused when it is spread by
    expect(at([0, 1], linesOf([]))).toEqual([]);
    // what other rows have is no figure of this one
    expect(at([0, 3], linesOf([line('6000', NONE, 30), line('4000', KILN, 1, 1, 1, 1)]))).toEqual([3]);
  });

  it('says when a shape sums to nothing, and leaves the row as it is', () => {
    const { changes, problems } = planAction(
      { kind: 'phase', phasing: 'base_year', total: 100, growth: 0, profile: [] },
      place([rowOf('people')], [0, 1]),
    );
    expect(changes).toEqual([]);
    expect(problems).toEqual(['People: the shape sums to nothing, so nothing can be spread by it.']);
  });

  it('writes a series, rounds with the total kept, and flips the sign', () => {
    expect(
      after({ kind: 'series', series: { by: 'step', start: 10_000, step: 500 } }, rowOf('people'), [0, 1, 2]),
    ).toEqual([100, 105, 110]);
    const odd = linesOf([line('6000', NONE, 149, 149, 149)]);
    expect(
      after({ kind: 'round', step: 10_000, keepsTotal: false }, rowOf('people'), [0, 1, 2], { lines: odd }),
    ).toEqual([100, 100, 100]);
    const kept = after({ kind: 'round', step: 10_000, keepsTotal: true }, rowOf('people'), [0, 1, 2], { lines: odd });
    expect(kept.reduce((a, b) => a + b, 0)).toBe(400); // 447 to the hundred
    expect(after({ kind: 'flip' }, rowOf('people'), [0])).toEqual([-200]);
    expect(after({ kind: 'write', figures: new Map([['people', [12_300]]]) }, rowOf('people'), [0, 1])).toEqual([
      123, 200,
    ]);
  });

  it('moves figures to later months and to another value, and loses nothing', () => {
    const moved = planAction({ kind: 'move_months', by: 3 }, place([rowOf('goods')], [0, 1]));
    expect(figuresOf(applyChanges(LINES, moved.changes, 12), '5000', KILN)).toEqual([0, 0, 360, 300, 330, 0]);
    const other = planAction(
      { kind: 'move_value', dimension: 'department', from: 'kiln', to: 'shop' },
      place([rowOf('sales')], [0]),
    );
    const now = applyChanges(LINES, other.changes, 12);
    expect([figuresOf(now, '4000', KILN)[0], figuresOf(now, '4000', SHOP)[0]]).toEqual([0, -1000]);
    expect(
      planAction(
        { kind: 'move_value', dimension: 'department', from: 'none', to: 'shop' },
        place([rowOf('sales')], [0]),
      ).problems,
    ).toEqual(['Nothing in the selection has this value.']);
  });

  it('leaves actual months and computed rows alone, and says so', () => {
    const flip: PlanAction = { kind: 'flip' };
    expect(planAction(flip, place([rowOf('people')], [0, 1], { frame: frame(3) })).problems[0]).toContain(
      'Only actual months',
    );
    expect(planAction(flip, place([rowOf('profit')], [0])).problems[0]).toContain('Only computed rows');
    const half = planAction(flip, place([rowOf('people')], [1, 2], { frame: frame(2) }));
    expect(half.changes.map(({ period }) => period)).toEqual([2]);
    expect(
      planAction({ kind: 'move_months', by: -2 }, place([rowOf('people')], [2], { frame: frame(2) })).problems[0],
    ).toContain('not all the version’s own');
  });

  it('says that a source holds nothing for the rows, and changes nothing', () => {
    const empty = { lines: linesOf([]), periods: PERIODS, baseYear: linesOf([]) };
    expect(
      planAction({ kind: 'seed', source: empty, factor: 1, onlyEmpty: false }, place([rowOf('sales')], [0])),
    ).toEqual({ changes: [], problems: ['The source holds nothing for these rows.'] });
  });
});
