import fc from 'fast-check';
import { formatMinor, MAX_MINOR, parseAmount } from './amount';

describe('parseAmount', () => {
  it.each([
    ['12.5', 2, 1250],
    ['-0.01', 2, -1],
    ['0', 2, 0],
    ['-0.00', 2, 0],
    ['1000', 0, 1000],
    ['1.500', 2, 150],
    ['90071992547409.91', 2, MAX_MINOR],
  ])('reads %s with %i decimals exactly', (text, digits, minor) => {
    expect(parseAmount(text, digits)).toEqual({ minor });
  });

  it.each([
    ['1.234', 2, 'decimals'],
    ['1.5', 0, 'decimals'],
    ['90071992547409.92', 2, 'too_large'],
    ['1,234.50', 2, 'number'],
    ['12-', 2, 'number'],
    ['−5', 2, 'number'],
    ['1e3', 2, 'exponent'],
    ['', 2, 'number'],
    [' 5', 2, 'number'],
  ])('refuses %j with %i decimals: %s', (text, digits, problem) => {
    expect(parseAmount(text, digits)).toEqual({ problem });
  });

  it('is the inverse of formatMinor for every exact amount', () => {
    fc.assert(
      fc.property(fc.maxSafeInteger(), fc.nat({ max: 4 }), (minor, digits) => {
        expect(parseAmount(formatMinor(minor, digits), digits)).toEqual({ minor: minor + 0 });
      }),
    );
  });
});
