import fc from 'fast-check';
import { translateAmount } from './translate-amount';

describe('translateAmount', () => {
  it('multiplies by a rate, or divides by it, and rounds once', () => {
    expect(translateAmount(100_000, { rate: '0.2319', isInverse: false }, 2, 2)).toBe(23_190); // 1,000.00 × 0.2319 = 231.90
    expect(translateAmount(100_000, { rate: '4.3121', isInverse: true }, 2, 2)).toBe(23_191); // ÷ 4.3121 = 231.905…
    expect(translateAmount(-100_000, { rate: '4.3121', isInverse: true }, 2, 2)).toBe(-23_191);
  });

  it('minds the minor units of both currencies', () => {
    expect(translateAmount(1_000_000, { rate: '161.27', isInverse: true }, 0, 2)).toBe(620_078); // 1,000,000 yen ÷ 161.27 = 6,200.781…
    expect(translateAmount(620_078, { rate: '161.27', isInverse: false }, 2, 0)).toBe(1_000_000); // 6,200.78 × 161.27 = 999,999.79…
  });

  it('rounds halves away from zero', () => {
    expect(translateAmount(1, { rate: '0.5', isInverse: false }, 2, 2)).toBe(1);
    expect(translateAmount(-1, { rate: '0.5', isInverse: false }, 2, 2)).toBe(-1);
    expect(translateAmount(0, { rate: '4.3', isInverse: true }, 2, 2)).toBe(0);
  });

  it('is within half a minor unit of the exact quotient, for any amount and rate', () => {
    const rate = fc
      .tuple(fc.integer({ min: 0, max: 999 }), fc.integer({ min: 1, max: 9999 }))
      .map(([whole, part]) => `${whole}.${String(part).padStart(4, '0')}`);
    fc.assert(
      fc.property(fc.integer({ min: -1e9, max: 1e9 }), rate, (minor, text) => {
        const over = translateAmount(minor, { rate: text, isInverse: true }, 2, 2);
        expect(Math.abs(over * Number(text) - minor)).toBeLessThanOrEqual(Number(text) / 2 + 1e-3);
      }),
    );
  });
});
