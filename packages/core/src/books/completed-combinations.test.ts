import { Combinations } from '../cube/combinations';
import { CompletedCombinations } from './completed-combinations';
import type { Completed } from './completion';

describe('a mask of combinations that postings are read with', () => {
  it('tells of those that are made once it is there', () => {
    const posted = new Combinations();
    posted.add(1, '\u001f\u001fregion=north');
    const completed = new CompletedCombinations(posted);
    const mask = completed.mask([{ dimension: 'team', has: 'in', values: ['red'] }], []);
    expect(mask.all).toEqual([]);
    const made = completed.with(1, [{ dimension: 'team', value: 'red' } as Completed]);
    expect([mask.has(made), mask.has(1), mask.all]).toEqual([true, false, [made]]);
  });
});
