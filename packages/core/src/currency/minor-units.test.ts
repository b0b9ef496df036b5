import { minorDigits } from './minor-units';

describe('minorDigits', () => {
  // ISO 4217, from memory; HUF, IDR, MGA and IQD differ in locale data
  it.each([
    ['EUR', 2],
    ['JPY', 0],
    ['KWD', 3],
    ['CLF', 4],
    ['HUF', 2],
    ['IDR', 2],
    ['MGA', 2],
    ['IQD', 3],
    ['PLN', 2],
  ])('%s has %i', (code, digits) => expect(minorDigits(code)).toBe(digits));
  it('knows no other codes', () => expect(minorDigits('XYZ')).toBeUndefined());
});
