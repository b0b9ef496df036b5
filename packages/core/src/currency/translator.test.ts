import fc from 'fast-check';
import { translateAmount } from './translate-amount';
import { translator } from './translator';

const digits = fc.constantFrom(0, 2, 3);
const rate = fc
  .tuple(fc.integer({ min: 0, max: 999 }), fc.integer({ min: 1, max: 999_999 }), fc.integer({ min: 1, max: 6 }))
  .map(([whole, part, places]) => `${whole}.${String(part).slice(0, places)}`)
  .filter((text) => Number(text) > 0);
const amount = fc.oneof(
  fc.integer({ min: -1_000, max: 1_000 }),
  fc.integer({ min: -(2 ** 31), max: 2 ** 31 - 1 }),
  fc.maxSafeInteger().map((whole) => Math.trunc(whole / 2048)),
);

describe('translator', () => {
  it('gives what exact arithmetic gives, for any amount and rate, halves among them (property)', () => {
    fc.assert(
      fc.property(amount, rate, fc.boolean(), digits, digits, (minor, text, isInverse, from, to) => {
        const quoted = { rate: text, isInverse };
        const exact = translateAmount(minor, quoted, from, to);
        fc.pre(Number.isSafeInteger(exact));
        expect(translator(quoted, from, to).rounded(minor)).toBe(exact);
      }),
      { numRuns: 3000 },
    );
  });

  it('meets halves exactly, away from zero', () => {
    // 12,345 × 0.5 = 6,172.5; 1 ÷ 8 at thousandths = 0.125, which a step of hundredths halves to 0.0125 → 0.01
    expect(translator({ rate: '0.5', isInverse: false }, 2, 2).rounded(12_345)).toBe(6_173);
    expect(translator({ rate: '0.5', isInverse: false }, 2, 2).rounded(-12_345)).toBe(-6_173);
    expect(translator({ rate: '1.15', isInverse: false }, 2, 2).rounded(10)).toBe(12); // 11.5, which no double is
    expect(translator({ rate: '8', isInverse: true }, 2, 2).rounded(4)).toBe(1); // 0.5
    expect(Object.is(translator({ rate: '0.001', isInverse: false }, 2, 2).rounded(-3), 0)).toBe(true);
  });
});
