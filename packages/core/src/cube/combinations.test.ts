import { Combinations } from './combinations';
import type { DimensionCondition } from './dimension-condition';

const RED: DimensionCondition = { dimension: 'team', has: 'in', values: ['red'] };
const NORTH: DimensionCondition = { dimension: 'region', has: 'in', values: ['north'] };
const text = (...values: string[]) => `\u001f\u001f${values.join('\u001f')}`;

describe('a mask', () => {
  it.each([
    ['without demands', [], [0, 1, 2, 3]],
    ['of one demand', [RED], [1, 3]],
    ['of several', [RED, NORTH], [3]],
  ])('%s tells of combinations that are added once it is there', (_, where, met) => {
    const combinations = new Combinations();
    combinations.add(1, text('team=red'));
    const mask = combinations.mask(where, []);
    const before = mask.all.length;
    combinations.add(2, text('team=blue'));
    combinations.add(3, text('region=north', 'team=red'));
    expect(before).toBeLessThan(met.length);
    expect([0, 1, 2, 3].filter((id) => mask.has(id))).toEqual(met);
    expect(mask.all).toEqual(met);
    expect(mask.ids()).toEqual(met.filter((id) => id > 0));
  });
});
