import type { ExceptionSpan } from '../period/span';
import { against, CALENDAR, JUNE, ROWS } from '../../test/actual-and-plan';
import { evaluateStatement } from '../statement/statement-table';
import { exceptionColumns, exceptionRange, exceptionsOf, limitsByRow, limitsIn } from './exceptions';

const USUAL = { amount: 1_000, percent: 0.05 }; // 10.00 and 5 %

// The books are those of why.test.ts: goods 33 more than planned, people 6, overheads 4 less; sales as planned.
function found(span: ExceptionSpan, usual = USUAL) {
  const { source, evaluation } = against(exceptionColumns(CALENDAR, span, { span, upTo: JUNE }), true);
  return exceptionsOf(evaluateStatement(source, evaluation), ROWS.result, limitsByRow(ROWS, usual, 2));
}

describe('what can be compared', () => {
  const range = (span: ExceptionSpan, held: number, forecast?: string) => {
    const found = exceptionRange(CALENDAR, JUNE, span, { holdsData: (ordinal) => ordinal <= held, forecast });
    return found && [found.span, found.upTo.key, found.of];
  };
  const [june, may] = [JUNE.ordinal, JUNE.ordinal - 1];
  const MAY = CALENDAR.periods[may]!.key;

  it('is all of a span that is there', () => {
    expect(range('period', june)).toEqual(['period', JUNE.key, undefined]);
    expect(range('year_to_date', june)).toEqual(['year_to_date', JUNE.key, undefined]);
  });

  it('of a year is what is forecast of it, else the months that are there', () => {
    expect(range('full_year', june, 'F1')).toEqual(['full_year', JUNE.key, 'F1']);
    expect(range('full_year', june)).toEqual(['year_to_date', JUNE.key, undefined]);
  });

  it('ends with the last month that is there, and of a month to come is nothing', () => {
    expect(range('year_to_date', may)).toEqual(['year_to_date', MAY, undefined]);
    expect(range('period', may)).toBeUndefined();
    expect(range('year_to_date', -1)).toBeUndefined();
  });
});

describe('exceptionsOf', () => {
  it('ranks what is beyond both limits, each row by its own, and folds the others', () => {
    const { exceptions, flat } = found('year_to_date');
    // goods: 33 of 180 is 18.3 %; people have limits of their own, 5 and 1 %: 6 of 90 is 6.7 %
    expect(exceptions.map(({ id, change, effect, favour }) => [id, change, effect, favour])).toEqual([
      ['goods', 3_300, -3_300, 'adverse'],
      ['people', 600, -600, 'adverse'],
    ]);
    expect(exceptions[0]!.percent).toBeCloseTo(33 / 180, 12);
    expect(flat.map(({ id }) => id)).toEqual(['sales', 'overheads']);
  });

  it('says which part of the change of the result each is, and how it came month by month', () => {
    const { exceptions, result } = found('year_to_date');
    expect(result).toMatchObject({ id: 'profit', actual: 14_100, base: 17_600, change: -3_500, effect: -3_500 });
    expect(exceptions[0]!.share).toBeCloseTo(33 / 35, 12);
    expect(exceptions[0]!.trend).toEqual([0, 600, 2_700]); // 60 − 60, 66 − 60, 87 − 60
  });

  it('lists accounts without a plan, and planned ones without actuals', () => {
    const { unplanned, noActuals } = found('year_to_date');
    expect(unplanned.map(({ label, actual }) => [label, actual])).toEqual([['5100 Account 5100', 700]]);
    expect(noActuals.map(({ label, base }) => [label, base])).toEqual([['6100 Account 6100', 400]]);
  });

  it('judges no row of which a side cannot be told, and names it; nothing loaded is nothing', () => {
    const { source, evaluation } = against(
      exceptionColumns(CALENDAR, 'year_to_date', { span: 'year_to_date', upTo: JUNE }),
      true,
    );
    const table = evaluateStatement(source, evaluation);
    const without = (id: string, reason: 'rate_missing' | 'not_permitted' | 'no_data') => ({
      ...table,
      rows: table.rows.map((row) =>
        row.id === id
          ? {
              ...row,
              cells: row.cells.map((cell, at) => (at === 1 ? { unit: cell.unit, amount: null, reason } : cell)),
            }
          : row,
      ),
    });
    const limits = limitsByRow(ROWS, USUAL, 2);
    const goods = exceptionsOf(without('goods', 'rate_missing'), ROWS.result, limits);
    expect(goods.exceptions.map(({ id }) => id)).toEqual(['people']);
    expect(goods.untold).toEqual([table.rows.find(({ id }) => id === 'goods')!.label]);
    expect(exceptionsOf(without('profit', 'not_permitted'), ROWS.result, limits).result).toBeUndefined();
    const none = exceptionsOf(without('goods', 'no_data'), ROWS.result, limits);
    expect([none.untold, none.exceptions[0]!.actual]).toEqual([[], 0]);
  });

  it('reads another span of the same books', () => {
    // June alone: goods 87 and 60, people 36 and 30; sales 150 and 150
    expect(found('period').exceptions.map(({ id, change }) => [id, change])).toEqual([
      ['goods', 2_700],
      ['people', 600],
    ]);
  });

  it('takes nothing for an exception that does not exceed the limits', () => {
    expect(found('year_to_date', { amount: 3_300, percent: 0.05 }).exceptions.map(({ id }) => id)).toEqual(['people']);
    expect(found('year_to_date', { amount: 1_000, percent: 0.19 }).exceptions.map(({ id }) => id)).toEqual(['people']);
  });
});

describe('limitsIn', () => {
  it('are minor units of another currency, at a rate, as round as they were said', () => {
    expect(limitsIn({ amount: 10_000, percent: 5 }, { rate: '4.3088', isInverse: false }, 2)).toEqual({
      amount: 4_300_000,
      percent: 0.05,
    }); // 43,088 to two digits
    expect(limitsIn({ amount: 10_000, percent: 5 }, { rate: '161.27', isInverse: false }, 0)).toEqual({
      amount: 1_600_000,
      percent: 0.05,
    }); // yen have no minor unit
  });

  it('stay as they are said in their own currency, and where no rate is known', () => {
    // 10,000 dollars at 1.25 dollars for a euro are 8,000 euros; without a rate nothing is made up
    expect(limitsIn({ amount: 10_000, percent: 5 }, { rate: '1.25', isInverse: true }, 2).amount).toBe(800_000);
    expect(limitsIn({ amount: 12_345, percent: 2.5 }, 'missing', 2)).toEqual({ amount: 0, percent: 0.025 });
    expect(limitsIn({ amount: 12_345, percent: 2.5 }, undefined, 2)).toEqual({ amount: 1_234_500, percent: 0.025 });
  });
});

describe('limitsByRow', () => {
  it('are those of the row, else of the layout, else the usual ones, in minor units', () => {
    const limits = limitsByRow({ ...ROWS, materiality: { amount: 20, percent: 0.1 } }, USUAL, 0);
    expect([limits('people'), limits('goods')]).toEqual([
      { amount: 5, percent: 0.01 },
      { amount: 20, percent: 0.1 },
    ]);
    expect(limitsByRow(ROWS, USUAL, 2)('goods')).toBe(USUAL);
  });
});
