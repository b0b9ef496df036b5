import { divideRounded, roundHalfAway } from './round';

describe('roundHalfAway', () => {
  it.each([
    [0.5, 1],
    [-0.5, -1],
    [2.5, 3],
    [-2.5, -3],
    [0.49, 0],
    [-0.2, 0],
  ])('rounds %d to %d', (x, expected) => expect(Object.is(roundHalfAway(x), expected)).toBe(true));
});

describe('divideRounded', () => {
  // 1,250 / 100 = 12.5 → 13; −1,250 / 100 = −12.5 → −13; 1,249 / 100 = 12.49 → 12
  it.each([
    [1250, 100, 13],
    [-1250, 100, -13],
    [1249, 100, 12],
    [-49, 100, 0],
    [9_007_199_254_740_991, 100_000, 90_071_992_547],
  ])('divides %d by %d to %d', (integer, divisor, expected) => expect(divideRounded(integer, divisor)).toBe(expected));
});
