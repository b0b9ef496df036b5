import { defined, differenceOf, percentChangeOf, quotientOf, SumOfFigures, undefinedFigure, type Unit } from './figure';
import { exactFigure, formatFigure } from './format-figure';

const EUR: Unit = { kind: 'currency', code: 'EUR', digits: 2 };
const eur = (amount: number) => defined(amount, EUR);

describe('percentChangeOf', () => {
  it('takes the base without its sign', () => {
    // (−1,419 − −1,235) / 1,235 = −14.9 %: costs in brackets that rise show a negative change
    expect(formatFigure(percentChangeOf(eur(-141900), eur(-123500)), 1)).toBe('(14.9)');
  });

  it('says new from nothing and gone to nothing, and is blank between two zeros', () => {
    expect(percentChangeOf(eur(500), eur(0))).toMatchObject({ amount: null, word: 'new', reason: 'no_base' });
    expect(percentChangeOf(eur(0), eur(500))).toMatchObject({ amount: null, word: 'gone' });
    expect(formatFigure(percentChangeOf(eur(0), eur(0)), 1)).toBe('');
  });

  it('marks a change between unlike signs', () => {
    expect(percentChangeOf(eur(50), eur(-50))).toMatchObject({ amount: 2, signsDiffer: true });
  });
});

describe('differenceOf and quotientOf', () => {
  it('carry the reason of what is undefined', () => {
    const missing = undefinedFigure('no_data', EUR);
    expect(differenceOf(eur(1), missing, EUR)).toMatchObject({ amount: null, reason: 'no_data' });
    expect(quotientOf(missing, eur(1))).toMatchObject({ amount: null, reason: 'no_data' });
    expect(quotientOf(eur(1), eur(0))).toMatchObject({ amount: null, reason: 'no_base' });
  });
});

describe('SumOfFigures', () => {
  const sum = (...terms: ReturnType<typeof eur>[]) => {
    const total = new SumOfFigures();
    terms.forEach((term) => total.add(term, 1));
    return total.figure(EUR);
  };

  it('is zero without terms', () => expect(sum()).toEqual(eur(0)));
  it('passes over months without data when another has some', () => {
    expect(sum(eur(5), undefinedFigure('no_data', EUR), undefinedFigure('to_come', EUR))).toEqual(eur(5));
  });
  it('is undefined when nothing has data', () => {
    expect(sum(undefinedFigure('to_come', EUR))).toMatchObject({ amount: null, reason: 'to_come' });
  });
  it('is undefined when a missing part matters', () => {
    expect(sum(eur(5), undefinedFigure('rate_missing', EUR))).toMatchObject({ amount: null, reason: 'rate_missing' });
  });
});

describe('formatFigure', () => {
  it.each([
    [141949, 1, '1,419'],
    [141950, 1, '1,420'],
    [-141950, 1, '(1,420)'],
    [0, 1000, '–'],
    [49900, 1000, '0'],
    [123456789, 1000, '1,235'],
    [123456789, 1_000_000, '1.23'],
    [-500000, 1_000_000, '(0.01)'],
  ] as const)('shows %d minor units in units of %d as %s', (amount, unit, text) => {
    expect(formatFigure(eur(amount), unit)).toBe(text);
  });

  it('shows percentages to one decimal, half away from zero, without a negative zero', () => {
    const ratio = (amount: number) => formatFigure(defined(amount, { kind: 'ratio' }), 1);
    expect([ratio(0.404), ratio(0.0005), ratio(-0.0005), ratio(-0.0004), ratio(1.2345)]).toEqual([
      '40.4',
      '0.1',
      '(0.1)',
      '0.0',
      '123.5',
    ]);
  });

  it('shows counts with their decimals', () => {
    expect(formatFigure(defined(12_500_000, { kind: 'count', name: 'hours', digits: 1 }), 1000)).toBe('1,250.0');
  });
});

describe('exactFigure', () => {
  it('shows every minor unit', () => expect(exactFigure(eur(-141902))).toBe('(1,419.02)'));
});
