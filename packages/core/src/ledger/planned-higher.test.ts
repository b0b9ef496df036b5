import { attributesOf } from './combination';
import { plannedHigher } from './planned-higher';

const figure = (account: number, combination: string) => ({ account, attributes: attributesOf(combination) });
const RED = '\u001f\u001fteam=red';
const NONE = '\u001f';
const asks = (...names: string[]) => names.map((dimension) => ({ dimension, has: 'in' as const, values: ['red'] }));

describe('plannedHigher', () => {
  it('marks accounts that have figures and none with a value of the dimension asked for', () => {
    const figures = [figure(0, NONE), figure(1, RED), figure(1, NONE)];
    expect([...plannedHigher(figures, asks('team'), 3)]).toEqual([1, 0, 0]);
    expect([...plannedHigher(figures, asks('team', 'region'), 3)]).toEqual([1, 1, 0]);
  });

  it('passes over demands for no value, and partner and movement code', () => {
    expect([...plannedHigher([figure(0, NONE)], [{ dimension: 'team', has: 'none', values: [] }], 1)]).toEqual([0]);
    expect([...plannedHigher([figure(0, NONE)], asks('flow', 'partner'), 1)]).toEqual([0]);
  });
});
