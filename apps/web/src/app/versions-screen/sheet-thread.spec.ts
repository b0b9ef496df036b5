import { TestBed } from '@angular/core/testing';
import { buildCalendar, linesOf, openingsOf, sheetColumns, SheetEvaluator, type FigureLines } from '@margin-lens/core';
import { SAMPLE_MAKINGS, SAMPLE_ROWS } from '../testing/sample-documents';
import { SAMPLE_WORKSPACE } from '../testing/sample-view';
import { SheetThread } from './sheet-thread';
import type { SheetSides } from './sheet-totals';

const CALENDAR = SAMPLE_WORKSPACE.calendars[0]!;
const calendar = buildCalendar(CALENDAR.code, CALENDAR.periods);
const periods = calendar.regular.slice(0, 12);
const openings = openingsOf([]);
const source = {
  rowLayout: SAMPLE_ROWS,
  others: [],
  cashFlow: [],
  accounts: SAMPLE_MAKINGS.accounts,
  calendar,
  currency: { kind: 'currency' as const, code: 'EUR', digits: 2 },
  trees: SAMPLE_MAKINGS.dimensions,
  part: [],
  periods,
  columns: sheetColumns(calendar, periods, 'month'),
};
const sales = (figure: number): FigureLines =>
  linesOf([{ account: '4000', combination: '\u001f', figures: periods.map(() => figure) }]);
const beside = [{ lines: sales(-9), openings }];
const sides = (figure: number): SheetSides => ({ source, lines: sales(figure), openings, beside });

const answerTo = (of: SheetSides) => new SheetEvaluator().totals({ do: 'open', source, own: of, beside: of.beside });

const open = () => {
  TestBed.configureTestingModule({ providers: [SheetThread] });
  return TestBed.inject(SheetThread);
};
const settled = async () => {
  for (let turn = 0; turn < 10; turn++) await Promise.resolve();
};

describe('SheetThread', () => {
  it('gives the totals of a sheet and of what stands beside it', async () => {
    const thread = open();
    const wanted = sides(-100);
    thread.want(wanted);
    expect(thread.totals()).toBeUndefined();
    await settled();
    const [own, ...others] = answerTo(wanted);
    expect(thread.totals()).toEqual({ of: wanted, own, beside: others });
  });

  it('passes over states that are no longer wanted, and never goes back to an earlier one', async () => {
    const thread = open();
    const seen: (SheetSides | undefined)[] = [];
    const wanted = [-1, -2, -3, -4].map(sides);
    for (const each of wanted) thread.want(each);
    for (let turn = 0; turn < 20; turn++) {
      await Promise.resolve();
      if (thread.totals()?.of !== seen.at(-1)) seen.push(thread.totals()?.of);
    }
    expect(seen).toEqual([wanted[0], wanted[3]]);
    const { own, beside: others } = thread.totals()!;
    expect([own, ...others]).toEqual(answerTo(wanted[3]!));
  });

  it('shows no old totals where they cannot be worked out, says so, and goes on with the next state', async () => {
    const thread = open();
    thread.want(sides(-1));
    await settled();
    const largest = linesOf(
      ['4000', '4001'].map((account) => ({
        ...{ account, combination: '\u001f', figures: periods.map(() => -Number.MAX_SAFE_INTEGER) },
      })),
    );
    thread.want({ ...sides(-2), lines: largest });
    await settled();
    expect([thread.totals(), thread.problem()]).toEqual([
      undefined,
      expect.stringContaining('could not be worked out'),
    ]);
    const wanted = sides(-3);
    thread.want(wanted);
    await settled();
    expect([thread.totals()!.of, thread.problem()]).toEqual([wanted, '']);
  });

  it('is not asked again for what it has answered', async () => {
    const thread = open();
    const wanted = sides(-1);
    thread.want(wanted);
    await settled();
    const { own } = thread.totals()!;
    thread.want({ ...wanted });
    await settled();
    expect(thread.totals()!.own).toBe(own);
  });
});
