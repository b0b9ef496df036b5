import fc from 'fast-check';
import { apart } from './chart-notation';

const NAME = 14;

describe('names at the ends of lines', () => {
  it('stay where they are while there is room', () => {
    expect(apart([0, 100], [0, 50, 100], { height: 100, name: NAME })).toEqual([0, 0]);
    expect(apart([null, 50], [0, 50, 100], { height: 100, name: NAME })).toEqual([0, 0]);
  });

  it('move apart, each on its side of the other', () => {
    const [upper, lower] = apart([51, 50], [0, 100], { height: 100, name: NAME });
    expect(50 + lower! - (49 + upper!)).toBe(NAME);
  });

  it('never lie on each other where they have room', () => {
    const figures = fc.array(fc.integer({ min: -1000, max: 1000 }), { minLength: 2, maxLength: 7 });
    fc.assert(
      fc.property(figures, (ends) => {
        const [least, most] = [Math.min(...ends), Math.max(...ends)];
        const offsets = apart(ends, ends, { height: 100, name: NAME });
        const placed = ends
          .map((end, at) => (most === least ? 0 : ((most - end) / (most - least)) * 100) + offsets[at]!)
          .sort((a, b) => a - b);
        // offsets are whole pixels
        placed.slice(1).forEach((y, at) => expect(y - placed[at]!).toBeGreaterThanOrEqual(NAME - 1.01));
      }),
    );
  });
});
