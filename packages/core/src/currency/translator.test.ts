import fc from 'fast-check';
import { translateExactly } from '../../test/translate-exactly';
import { translator } from './translator';
import { runs } from '../../test/runs';

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
  it('multiplies by a rate, or divides by it, and rounds once', () => {
    expect(translator({ rate: '0.2319', isInverse: false }, 2, 2).rounded(100_000)).toBe(23_190); // 1,000.00 × 0.2319 = 231.90
    expect(translator({ rate: '4.3121', isInverse: true }, 2, 2).rounded(100_000)).toBe(23_191); // ÷ 4.3121 = 231.905…
    expect(translator({ rate: '4.3121', isInverse: true }, 2, 2).rounded(-100_000)).toBe(-23_191);
  });

  it('minds the minor units of both currencies', () => {
    expect(translator({ rate: '161.27', isInverse: true }, 0, 2).rounded(1_000_000)).toBe(620_078); // 1,000,000 yen ÷ 161.27 = 6,200.781…
    expect(translator({ rate: '161.27', isInverse: false }, 2, 0).rounded(620_078)).toBe(1_000_000); // 6,200.78 × 161.27 = 999,999.79…
  });

  it('rounds halves away from zero', () => {
    expect(translator({ rate: '0.5', isInverse: false }, 2, 2).rounded(1)).toBe(1);
    expect(translator({ rate: '0.5', isInverse: false }, 2, 2).rounded(-1)).toBe(-1);
    expect(translator({ rate: '4.3', isInverse: true }, 2, 2).rounded(0)).toBe(0);
  });

  it('is within half a minor unit of the exact quotient, for any amount and rate', () => {
    const rate = fc
      .tuple(fc.integer({ min: 0, max: 999 }), fc.integer({ min: 1, max: 9999 }))
      .map(([whole, part]) => `${whole}.${String(part).padStart(4, '0')}`);
    fc.assert(
      fc.property(fc.integer({ min: -1e9, max: 1e9 }), rate, (minor, text) => {
        const over = translator({ rate: text, isInverse: true }, 2, 2).rounded(minor);
        expect(Math.abs(over * Number(text) - minor)).toBeLessThanOrEqual(Number(text) / 2 + 1e-3);
      }),
    );
  });

  it('gives what exact arithmetic gives, for any amount and rate, halves among them (property)', () => {
    fc.assert(
      fc.property(amount, rate, fc.boolean(), digits, digits, (minor, text, isInverse, from, to) => {
        const quoted = { rate: text, isInverse };
        const exact = translateExactly(minor, quoted, from, to);
        fc.pre(Number.isSafeInteger(exact));
        expect(translator(quoted, from, to).rounded(minor)).toBe(exact);
      }),
      runs(3000),
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

  it('goes through a third currency where two are not quoted for each other', () => {
    // 1,000.00 SEK ÷ 11.25 SEK for 1 EUR = 88.888… EUR, × 4.3121 PLN for 1 EUR = 383.297…, rounded once
    const then = { through: 'EUR', rate: '4.3121', isInverse: false };
    expect(translator({ rate: '11.25', isInverse: true, then }, 2, 2).rounded(100_000)).toBe(38_330);
  });
});
