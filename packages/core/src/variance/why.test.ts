import { against, TO_DATE } from '../../test/actual-and-plan';
import type { Evaluation } from '../statement/evaluation';
import { REST, type Bridge } from './bridge';
import { accountTerms, changeOf, whyByAccount } from './why';
import { whyByRow } from './why-rows';

// April to June, actual against plan, in euros: sales 450 and 450 (4000 +30, 4100 −30), goods 213 and 180 (5000 +26,
// 5100 +7), people 96 and 90, overheads 0 and 4; so profit is 141 and 176, which is 35 less.
const { evaluation } = against(TO_DATE);
const cell = (row: string, column: number) => ({
  at: 'cell' as const,
  row: evaluation.input.rows.byId.get(row)!,
  column,
});
const why = (
  by: (evaluation: Evaluation, change: NonNullable<ReturnType<typeof changeOf>>, shown: number) => Bridge | undefined,
  row: string,
  shown = 8,
) => by(evaluation, changeOf(evaluation, cell(row, 2))!, shown)?.terms.map(({ id, amount }) => [id, amount / 100]);

describe('changeOf', () => {
  it('gives both sides of a difference, and nothing for other cells', () => {
    expect(changeOf(evaluation, cell('profit', 2))).toMatchObject({ from: 17_600, to: 14_100 });
    expect(changeOf(evaluation, cell('profit', 1))).toBeUndefined();
  });
});

describe('accountTerms', () => {
  it('add up to the cell, and are not there where it is no sum', () => {
    const sum = [...accountTerms(evaluation, cell('profit', 1))!.values()].reduce((a, b) => a + b, 0);
    expect(sum).toBe(14_100);
    expect(accountTerms(evaluation, cell('margin', 1))).toBeUndefined();
  });
});

describe('whyByAccount', () => {
  it('ranks the accounts, and adds up to the change', () => {
    expect(why(whyByAccount, 'profit')).toEqual([
      ['4000', 30],
      ['4100', -30],
      ['5000', -26],
      ['5100', -7],
      ['6000', -6],
      ['6100', 4],
    ]);
    expect(why(whyByAccount, 'goods')).toEqual([
      ['5000', 26],
      ['5100', 7],
    ]);
  });

  it('folds what is small', () => {
    expect(why(whyByAccount, 'profit', 3)).toEqual([
      ['4000', 30],
      ['4100', -30],
      ['5000', -26],
      [REST, -9],
    ]);
  });

  it('finds what cancels out in a row that did not move', () => {
    expect(why(whyByAccount, 'sales')).toEqual([
      ['4000', 30],
      ['4100', -30],
    ]);
  });
});

describe('whyByRow', () => {
  it('ranks the rows that hold accounts, and leaves out those that did not move', () => {
    expect(why(whyByRow, 'profit')).toEqual([
      ['goods', -33],
      ['people', -6],
      ['overheads', 4],
    ]);
  });

  it('says nothing of a ratio', () => {
    expect(why(whyByRow, 'margin')).toBeUndefined();
  });
});
