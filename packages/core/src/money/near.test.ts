import fc from 'fast-check';
import { added, fraction, rounded, times } from './fraction';
import { nearOf, nearOfFraction, nearProduct, nearRounded, nearSum } from './near';

const part = fc.integer({ min: -(10 ** 9), max: 10 ** 9 });
const anyFraction = fc
  .tuple(part, fc.integer({ min: 1, max: 10 ** 6 }))
  .map(([above, below]) => fraction(above, below));

describe('nearRounded', () => {
  it('rounds half away from zero, and says nothing of what may be a half', () => {
    expect(nearRounded(nearOf(-7))).toBe(-7);
    expect(nearRounded({ value: -0.2, error: 0 })).toBe(0);
    expect(nearRounded({ value: -1.7, error: 0.1 })).toBe(-2);
    expect(nearRounded({ value: 2.5, error: 0 })).toBeUndefined();
    expect(nearRounded({ value: 2.45, error: 0.1 })).toBeUndefined();
  });

  it('agrees with exact sums of products wherever it tells', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(anyFraction, anyFraction), { maxLength: 20 }), (terms) => {
        const exact = terms.reduce((sum, [a, b]) => added(sum, times(a, b)), fraction(0));
        const near = terms.reduce((sum, [a, b]) => {
          return nearSum(sum, nearProduct(nearOfFraction(a), nearOfFraction(b)));
        }, nearOf(0));
        const told = nearRounded(near);
        expect([undefined, rounded(exact)]).toContain(told);
        expect(Math.abs(near.value - Number(exact.part) / Number(exact.whole))).toBeLessThanOrEqual(
          near.error + Math.abs(near.value) * 2 ** -50,
        );
      }),
    );
  });
});
