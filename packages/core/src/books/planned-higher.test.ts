import { Combinations } from '../cube/combinations';
import type { DimensionCondition } from '../cube/dimension-condition';
import { visitOne, type BookRows } from './book-rows';
import { plannedHigher } from './planned-higher';

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
const marked = (rows: BookRows, where: readonly DimensionCondition[], count: number) => {
  const carries = (dimension: string) => combinations.mask([{ dimension, has: 'any', values: [] }], []);
  return [...plannedHigher(rows, 2, where, carries, count)];
};

describe('plannedHigher', () => {
  it('marks accounts that have figures and none with a value of the dimension asked for', () => {
    const rows = figures([0, NONE], [1, RED], [1, NONE]);
    expect(marked(rows, asks('team'), 3)).toEqual([1, 0, 0]);
    expect(marked(rows, asks('team', 'region'), 3)).toEqual([1, 1, 0]);
  });

  it('passes over demands for no value, and partner and movement code', () => {
    expect(marked(figures([0, NONE]), [{ dimension: 'team', has: 'none', values: [] }], 1)).toEqual([0]);
    expect(marked(figures([0, NONE]), asks('flow', 'partner'), 1)).toEqual([0]);
  });

  it('passes over periods that show actuals, and figures of nothing', () => {
    expect(marked(figures([0, NONE, 2], [1, NONE, 3, 0]), asks('team'), 2)).toEqual([0, 0]);
  });
});
