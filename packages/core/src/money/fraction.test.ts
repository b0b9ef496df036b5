import fc from 'fast-check';
import {
  added,
  decimalText,
  fraction,
  fractionOf,
  inverse,
  less,
  NOTHING,
  partOfAmount,
  rounded,
  times,
} from './fraction';
import { runs } from '../../test/runs';

describe('fractions', () => {
  it('are exact where doubles are not, and round half away from zero', () => {
    expect(added(fractionOf('0.1'), fractionOf('0.2'))).toEqual(fractionOf('0.3'));
    expect([fraction(5, 2), fraction(-5, 2), fraction(7, 3), fraction(-1, 3)].map(rounded)).toEqual([3, -3, 2, 0]);
    expect(fractionOf('-12.50')).toEqual({ part: -25n, whole: 2n });
    expect(inverse(fractionOf('-0.25'))).toEqual({ part: -4n, whole: 1n });
  });

  it('are written as decimals, without zeros at the end', () => {
    expect(decimalText(fraction(-1, 8), 6)).toBe('-0.125');
    expect(decimalText(fraction(2, 3), 4)).toBe('0.6667');
    expect(decimalText(fraction(1200), 2)).toBe('1200');
    expect(decimalText(NOTHING, 12)).toBe('0');
    expect(decimalText(fraction(-1, 1000), 2)).toBe('0');
  });

  it('are taken of amounts as the exact product rounds, in doubles or beyond them (property)', () => {
    const part = fc.oneof(fc.integer({ min: -200, max: 200 }), fc.integer());
    const whole = fc.oneof(fc.integer({ min: 1, max: 200 }), fc.integer({ min: 1, max: 2 ** 31 }));
    const amount = fc.oneof(fc.integer({ min: -1000, max: 1000 }), fc.maxSafeInteger());
    fc.assert(
      fc.property(part, whole, amount, (of, by, sum) => {
        const share = fraction(of, by);
        const exact = rounded(times(share, fraction(sum)));
        fc.pre(Number.isSafeInteger(exact));
        expect(partOfAmount(share, sum)).toBe(exact);
      }),
      runs(2_000),
    );
  });

  it('keep the laws of numbers (property)', () => {
    const some = fc.tuple(fc.integer(), fc.integer({ min: 1, max: 1e6 })).map(([part, whole]) => fraction(part, whole));
    fc.assert(
      fc.property(some, some, some, (a, b, c) => {
        expect(times(a, added(b, c))).toEqual(added(times(a, b), times(a, c)));
        expect(less(added(a, b), b)).toEqual(a);
      }),
    );
  });
});
