import { Combinations } from '../cube/combinations';
import type { DimensionCondition } from '../cube/dimension-condition';
import { visitOne, type BookRows } from './book-rows';
import { plannedHigher, plannedHigherOf } from './planned-higher';

const [NONE, RED] = [1, 2];
const combinations = new Combinations();
combinations.add(NONE, '\u001f');
combinations.add(RED, '\u001f\u001fteam=red');

const figures =
  (...rows: [account: number, combination: number, period?: number, amount?: number][]): BookRows =>
  (visit) => {
    const tell = visitOne(visit);
    for (const [account, combination, period = 3, amount = 10] of rows)
      tell(account, period, false, combination, amount, 0, 0);
  };
const asks = (...names: string[]) => names.map((dimension) => ({ dimension, has: 'in' as const, values: ['red'] }));
const POSTED = figures([0, NONE], [0, RED], [1, RED]);
const marked = (rows: BookRows, where: readonly DimensionCondition[], count: number, posted = POSTED) => {
  const carries = (dimension: string) => combinations.mask([{ dimension, has: 'any', values: [] }], []);
  return [...plannedHigher(rows, 2, where, carries, count, posted)];
};

describe('plannedHigher', () => {
  it('marks accounts that have figures and none with a value of the dimension asked for', () => {
    const rows = figures([0, NONE], [1, RED], [1, NONE]);
    expect(marked(rows, asks('team'), 3)).toEqual([3, -1, -1]);
    expect(marked(rows, asks('team', 'region'), 3)).toEqual([3, -1, -1]);
  });

  it('passes over accounts whose postings carry no such value either, and takes those without postings for planned higher', () => {
    const rows = figures([0, NONE], [1, NONE], [2, NONE]);
    expect(marked(rows, asks('team'), 3, figures([0, RED], [1, NONE]))).toEqual([3, -1, 3]);
    expect(marked(rows, asks('region'), 3, figures([0, RED], [1, NONE]))).toEqual([-1, -1, 3]);
  });

  it('passes over demands for no value, and partner and movement code', () => {
    expect(marked(figures([0, NONE]), [{ dimension: 'team', has: 'none', values: [] }], 1)).toEqual([-1]);
    expect(marked(figures([0, NONE]), asks('flow', 'partner'), 1)).toEqual([-1]);
  });

  it('passes over periods that show actuals, and figures of nothing', () => {
    expect(marked(figures([0, NONE, 2], [1, NONE, 3, 0]), asks('team'), 2)).toEqual([-1, -1]);
  });
});

describe('plannedHigherOf', () => {
  const planned = Int32Array.of(2, -1);
  const of = (...countsIn: number[]) => ({ plannedHigher: planned, countsIn: Int32Array.from(countsIn) });

  it('says from which period of the scope on any of its members is planned higher', () => {
    expect(plannedHigherOf([of(0, 1, 2, 3)])).toEqual(Int32Array.of(2, -1));
    expect(plannedHigherOf([of(1, 2, 3, 4), of(2, 3, 4, 5)])).toEqual(Int32Array.of(3, -1));
  });

  it('passes over a member that has left before, and takes one that enters later from then on', () => {
    expect(plannedHigherOf([of(0, 1, -1, -1), of(0, 1, 2, 3)])).toEqual(Int32Array.of(2, -1));
    expect(plannedHigherOf([of(0, 1, -1, -1)])).toEqual(Int32Array.of(-1, -1));
    expect(plannedHigherOf([of(-1, -1, -1, 3)])).toEqual(Int32Array.of(3, -1));
    expect(plannedHigherOf([{ plannedHigher: undefined, countsIn: new Int32Array(4) }])).toBeUndefined();
  });
});
