import fc from 'fast-check';
import {
  applyChanges,
  editTotal,
  exchangedRows,
  inverseChanges,
  lineKey,
  linesOf,
  mergeChanges,
  openingsOf,
  rowFigures,
  sheetDifference,
  type FigureLine,
  type SheetFrame,
  type SheetRow,
} from '../../src/index';
import { phasingWeights } from '../../src/version/phase';
import { roundEach, roundKeepingTotal } from '../../src/version/round-figures';
import { NO_VALUES } from '../../src/account/combination';
import { accountOf } from '../../src/account/nature';
import { seriesFigures, type Series } from '../../src/version/series';
import { tryAllocate } from '../../src/money/allocate';
import { uplift } from '../../src/version/uplift';
import type { Openings, SheetLeaf } from '../../src/version/planning-sheet';
import { runs } from '../runs';

const MONTHS = 12;
const amount = fc.integer({ min: -5_000_000, max: 5_000_000 });
const total = (figures: readonly number[]) => figures.reduce((a, b) => a + b, 0);

const lines: fc.Arbitrary<FigureLine[]> = fc.uniqueArray(
  fc.record({
    account: fc.constantFrom('4000', '4100', '6000'),
    combination: fc.constantFrom('\u001f', '\u001f\u001fdepartment=kiln', '\u001f\u001fdepartment=sales'),
    figures: fc.array(fc.oneof(fc.constant(0), amount), { minLength: MONTHS, maxLength: MONTHS }),
  }),
  { selector: ({ account, combination }) => lineKey(account, combination), minLength: 1 },
);
const leaf = (account: string, sign: 1 | -1 = 1): SheetLeaf => ({ account, sign, combination: '\u001f' });
const row = (isBalance: boolean, ...leaves: SheetLeaf[]): SheetRow => ({
  id: 'row',
  kind: 'layout',
  label: 'Row',
  depth: 0,
  style: 'detail',
  compiled: 0,
  leaves,
  isBalance,
  shownSign: 1,
  unit: { kind: 'currency', code: 'EUR', digits: 2 },
  decimals: undefined,
  isLevel: false,
  direction: 'up',
  opens: undefined,
  isOpen: false,
});
const frame = (actuals: number, openings: Openings = new Map()): SheetFrame => ({
  own: Array.from({ length: MONTHS }, (_, at) => at >= actuals),
  openings,
});

describe('phasing', () => {
  it('sums to the total for any weights and signs', () => {
    fc.assert(
      fc.property(
        amount,
        fc.array(fc.double({ min: -1e6, max: 1e6, noNaN: true }), { maxLength: 24 }),
        (sum, weights) => {
          const parts = tryAllocate(sum, weights);
          if (parts) expect(total(parts)).toBe(sum);
          else expect(Math.abs(total(weights))).toBeLessThan(1); // they cancel out
        },
      ),
    );
  });

  it('rounding keeps the total to the step, and rounds each part to it', () => {
    fc.assert(
      fc.property(fc.array(amount, { minLength: 1 }), fc.constantFrom(1, 100, 100_000), (figures, step) => {
        const kept = roundKeepingTotal(figures, step);
        expect(kept.every((part) => part % step === 0)).toBe(true);
        expect(Math.abs(total(kept) - total(figures))).toBeLessThanOrEqual(step / 2);
        kept.forEach((part, at) => expect(Math.abs(part - figures[at]!)).toBeLessThan(step));
        roundEach(figures, step).forEach((part, at) =>
          expect(Math.abs(part - figures[at]!)).toBeLessThanOrEqual(step / 2),
        );
      }),
    );
  });
});

describe('typing into a planning sheet', () => {
  const edits = fc.record({
    held: lines,
    isBalance: fc.boolean(),
    leaves: fc.constantFrom<SheetLeaf[]>(
      [leaf('4000')],
      [leaf('4000', -1), leaf('4100', -1)],
      [leaf('4000', -1), leaf('6000')],
    ),
    actuals: fc.nat({ max: 6 }),
    from: fc.nat({ max: MONTHS - 1 }),
    count: fc.integer({ min: 1, max: MONTHS }),
    typed: amount,
    opening: amount,
  });

  it('makes the row what was typed, leaves actuals alone, and is undone exactly', () => {
    fc.assert(
      fc.property(edits, ({ held, isBalance, leaves, actuals, from, count, typed, opening }) => {
        const before = linesOf(held);
        const sheet = frame(actuals, openingsOf([{ account: '4000', combination: NO_VALUES, figure: opening }]));
        const target = row(isBalance, ...leaves);
        const periods = Array.from({ length: Math.min(count, MONTHS - from) }, (_, at) => from + at);
        const edited = editTotal(before, target, sheet, periods, typed);
        if (!edited.changes) return;
        const after = applyChanges(before, edited.changes, MONTHS);
        const [was, is] = [rowFigures(before, target, sheet), rowFigures(after, target, sheet)];
        const own = periods.filter((period) => sheet.own[period]);
        if (isBalance) expect(is[own.at(-1)!]).toBe(typed);
        else expect(total(periods.map((period) => is[period]!))).toBe(typed);
        is.forEach((figure, at) => {
          const isTouched = isBalance ? at === own.at(-1) : own.includes(at);
          if (!isTouched) expect(figure).toBe(was[at]);
        });
        expect(edited.changes.every(({ period }) => sheet.own[period])).toBe(true);
        const restored = applyChanges(after, inverseChanges(edited.changes), MONTHS);
        for (const [key, { figures }] of before) expect(restored.get(key)!.figures).toEqual(figures);
        expect(total([...restored.values()].flatMap(({ figures }) => [...figures]))).toBe(
          total(held.flatMap(({ figures }) => [...figures])),
        );
      }),
      runs(400),
    );
  });

  it('is one change when it is typed twice, and none when it is typed back', () => {
    fc.assert(
      fc.property(lines, amount, amount, (held, first, second) => {
        const before = linesOf(held);
        const target = row(false, leaf(held[0]!.account));
        const one = editTotal(before, target, frame(0), [3], first).changes ?? [];
        const between = applyChanges(before, one, MONTHS);
        const two = editTotal(between, target, frame(0), [3], second).changes ?? [];
        const merged = mergeChanges(one, two);
        expect(rowFigures(applyChanges(before, merged, MONTHS), target, frame(0))).toEqual(
          rowFigures(applyChanges(between, two, MONTHS), target, frame(0)),
        );
        expect(mergeChanges(one, inverseChanges(one))).toEqual([]);
      }),
    );
  });

  it('says what cannot be typed', () => {
    const nothing = linesOf([]);
    expect(editTotal(nothing, row(false), frame(0), [1], 5).problem).toContain('is computed');
    expect(editTotal(nothing, row(false, leaf('4000')), frame(6), [1], 5).problem).toContain('These months are actual');
    expect(editTotal(nothing, row(false, leaf('4000'), leaf('4100')), frame(0), [1], 5).problem).toContain(
      'holds 2 accounts and no figures',
    );
    expect(editTotal(nothing, row(false, leaf('4000', -1)), frame(0), [0, 1, 2], 100).changes).toEqual([
      { account: '4000', combination: '\u001f', period: 0, before: 0, after: -34 },
      { account: '4000', combination: '\u001f', period: 1, before: 0, after: -33 },
      { account: '4000', combination: '\u001f', period: 2, before: 0, after: -33 },
    ]);
  });
});

describe('series', () => {
  it('straight line writes off exactly the cost less the residue', () => {
    fc.assert(
      fc.property(
        fc.nat(10_000_000),
        fc.nat(1_000_000),
        fc.integer({ min: 1, max: 120 }),
        (cost, residue, lifeMonths) => {
          const figures = seriesFigures({ by: 'straight_line', cost, residue, lifeMonths, after: 0 }, lifeMonths + 6);
          expect(total(figures)).toBe(cost - residue);
          expect(figures.slice(lifeMonths)).toEqual([0, 0, 0, 0, 0, 0]);
        },
      ),
    );
  });

  it('interest falls with the loan and ends with it; steps go on', () => {
    // 120,000.00 at 6 % a year, 40,000.00 paid back a month: 600, 400, 200, nothing (by hand)
    const loan: Series = {
      by: 'declining_balance',
      ...{ part: 'interest', balance: 12_000_000, yearlyPercent: 6, repayment: 4_000_000 },
    };
    expect(seriesFigures(loan, 5)).toEqual([60_000, 40_000, 20_000, 0, 0]);
    expect(seriesFigures({ by: 'step', start: 100, step: -30 }, 4)).toEqual([100, 70, 40, 10]);
  });

  it('an uplift by an amount is flat or compounds', () => {
    const grow = (compounding: boolean) =>
      uplift([100, 100, 100], { percent: 0, amount: 5, from: 'base', compounding });
    expect([grow(true), grow(false)]).toEqual([
      [100, 105, 110],
      [100, 105, 105],
    ]);
  });
});

describe('a sheet that goes out and comes back', () => {
  const accounts = [
    { number: '4000', nature: 'income' as const },
    { number: '4100', nature: 'income' as const },
    { number: '6000', nature: 'expense' as const },
  ].map(({ number, nature }) => accountOf(number, nature));
  const periods = Array.from({ length: MONTHS }, (_, at) => `FY2027-P${String(at + 1).padStart(2, '0')}`);
  const ground = { holds: () => true, accounts, periods, own: frame(0).own, digits: 2 };

  it('is the same sheet when nothing was changed, in any order of its rows', () => {
    fc.assert(
      fc.property(lines, fc.nat(), (held, shift) => {
        const before = linesOf(held);
        const rows = exchangedRows(before, accounts, periods, 2);
        const turned = [...rows.slice(shift % rows.length), ...rows.slice(0, shift % rows.length)];
        const found = sheetDifference(turned, { ...ground, lines: before });
        expect(found).toMatchObject({ changes: [], adds: 0, changed: 0, rejected: [], left: [] });
        const fromNothing = sheetDifference(turned, { ...ground, lines: linesOf([]) });
        const back = applyChanges(linesOf([]), fromNothing.changes, MONTHS);
        for (const [key, { figures }] of before)
          expect(back.get(key)?.figures ?? Array(MONTHS).fill(0)).toEqual(figures);
      }),
    );
  });

  it('of a part takes what belongs to it and refuses the rest, without missing what lies beyond it', () => {
    const kiln = '\u001f\u001fdepartment=kiln';
    const held = linesOf([
      { account: '6000', combination: kiln, figures: Array<number>(MONTHS).fill(100) },
      { account: '6000', combination: NO_VALUES, figures: Array<number>(MONTHS).fill(900) },
    ]);
    const holds = (combination: string) => combination === kiln;
    const part = linesOf([...held.values()].filter(({ combination }) => holds(combination)));
    const rows = exchangedRows(part, accounts, periods, 2);
    expect(sheetDifference(rows, { ...ground, lines: part, holds })).toMatchObject({
      changes: [],
      left: [],
      rejected: [],
    });
    const whole = exchangedRows(held, accounts, periods, 2);
    const found = sheetDifference(whole, { ...ground, lines: part, holds });
    expect(found.changes).toEqual([]);
    expect(found.rejected.map(({ what }) => what)).toEqual(['6000']);
  });

  it('says what it cannot take, with its line, and takes the rest', () => {
    const row = (line: number, account: string, values: string, cells: [string, string][]) => ({
      account,
      values,
      name: '',
      line,
      figures: new Map(cells),
    });
    const held = linesOf([
      { account: '4000', combination: NO_VALUES, figures: Array<number>(MONTHS).fill(-100) },
      { account: '6000', combination: NO_VALUES, figures: [5, 5, 0, ...Array<number>(MONTHS - 3).fill(0)] },
    ]);
    const found = sheetDifference(
      [
        row(2, '4000', '', [
          ['FY2027-P01', '1.00'],
          ['FY2027-P02', '2.00'],
          ['FY2027-P03', ''],
          ['FY2031-P01', '5'],
        ]),
        row(3, '9999', '', [['FY2027-P01', '1']]),
        row(4, '4000', '', [['FY2027-P01', '9']]),
        row(5, '6000', 'kiln', [['FY2027-P01', '9']]),
        row(6, '6000', 'department=kiln', [
          ['FY2027-P01', '9'],
          ['FY2027-P02', '1,250.5'],
          ['FY2027-P03', 'lots'],
        ]),
      ],
      { ...ground, lines: held, own: frame(1).own },
    );
    expect(found.changes).toEqual([
      { account: '4000', combination: NO_VALUES, period: 1, before: -100, after: -200 },
      { account: '6000', combination: '\u001f\u001fdepartment=kiln', period: 1, before: 0, after: 125_050 },
    ]);
    expect([found.adds, found.changed, found.same]).toEqual([1, 1, 1]);
    // what the file has no figures of any more is named, and stays
    expect(found.left).toEqual([
      { what: '4000', how: 'emptied', figures: 1 },
      { what: '6000', how: 'deleted', figures: 1 },
    ]);
    expect(found.rejected.map(({ line, problem }) => [line, problem])).toEqual([
      [2, 'the version has no such month'],
      [3, 'the chart has no such account'],
      [4, 'the same key stands in line 2'],
      [5, 'the values are not written as name=value'],
      [6, 'the month shows actuals'],
      [6, '“lots” is not an amount'],
    ]);
  });
});

describe('weights', () => {
  it('are one a period, also where nothing is known', () => {
    const source = { periods: [], growth: 0, baseYear: [], present: [], profile: [], holidays: new Set<string>() };
    expect(phasingWeights('even', source)).toEqual([]);
  });
});
