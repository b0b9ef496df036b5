import fc from 'fast-check';
import { decimalSignOf, readNumber } from './number-format';
import type { DecimalSign } from '../words/writing-style';

// How numbers are written is common practice; every reading below can be checked by eye.
const plain = (text: string, decimal: DecimalSign) => readNumber(text, decimal)?.plain;

describe('readNumber', () => {
  it.each<[string, DecimalSign, string]>([
    ['1234.50', '.', '1234.50'],
    ['1,234.50', '.', '1234.50'],
    ['1.234,50', ',', '1234.50'],
    ['1 234 567,5', ',', '1234567.5'],
    ["1'234'567.50", '.', '1234567.50'],
    ['1\u202f234,50', ',', '1234.50'],
    ['0,617', ',', '0.617'],
    ['0.5', '.', '0.5'],
  ])('reads %s with %s before the decimals', (text, decimal, expected) => {
    expect(plain(text, decimal)).toBe(expected);
  });

  it.each(['-1,234.50', '−1,234.50', '1,234.50-', '(1,234.50)', '1,234.50 CR', '1,234.50cr'])(
    'reads %s as negative',
    (text) => {
      expect(plain(text, '.')).toBe('-1234.50');
    },
  );

  // a credit that is negative is a debit
  it.each(['+1,234.50', '1,234.50 DR', '-1,234.50 CR'])('reads %s as positive', (text) => {
    expect(plain(text, '.')).toBe('1234.50');
  });

  it.each(['', 'NaN', '1.2E+05', '12,34.50', '1,23', '1.2.3', 'n/a', '0,123,456.00'])('does not read %s', (text) => {
    expect(plain(text, '.')).toBeUndefined();
  });

  it('says what was other than plain digits', () => {
    expect(readNumber('(1.234,50)', ',')).toEqual({
      plain: '-1234.50',
      habits: ['brackets', 'thousands', 'decimal_comma'],
    });
    expect(readNumber('-1234.50', '.')!.habits).toEqual([]);
  });

  it('reads every amount back, in whichever way it is grouped', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e12, max: 1e12 }), fc.constantFrom('', ',', ' ', "'"), (cents, group) => {
        const [whole, part] = (Math.abs(cents) / 100).toFixed(2).split('.') as [string, string];
        const text = `${cents < 0 ? '-' : ''}${whole.replace(/\B(?=(\d{3})+$)/g, group)}.${part}`;
        expect(Math.round(Number(plain(text, '.')) * 100) + 0).toBe(cents + 0);
      }),
    );
  });
});

describe('decimalSignOf', () => {
  it.each<[string[], DecimalSign]>([
    [['1,234.50'], '.'],
    [['1.234,50'], ','],
    [['1.234.567'], ','],
    [['12.5'], '.'],
    [['1.234', '12,5'], ','],
    [['12345.678'], '.'],
  ])('is told by %s', (samples, decimal) => {
    expect(decimalSignOf(samples)).toMatchObject({ decimal, isCertain: true });
  });

  it('leaves open what can be read in two ways, and says where it stands', () => {
    expect(decimalSignOf(['100', '1.234', 'text'])).toEqual({ decimal: '.', isCertain: false, unclear: [1] });
    expect(decimalSignOf(['100', '200'])).toMatchObject({ isCertain: true });
  });
});
