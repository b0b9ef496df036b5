import { findDifferences, roundingUnitOf, roundingVerdict, type ComparedRow } from './find-differences';

const row = (id: string, a: number[], b: number[], section = 'Costs'): ComparedRow => ({
  id,
  label: id,
  section,
  a,
  b,
});
const guessOf = (a: number[], b: number[]) => findDifferences([row('x', a, b)], a.length).rows[0]?.guesses[0];

describe('guesses', () => {
  it('say what happened to a figure', () => {
    expect(guessOf([135_400, 100], [153_400, 100])).toMatchObject({
      cause: 'swapped_digits',
      months: [0],
      detail: 'the digits 3 and 5 changed places',
    });
    expect(guessOf([5, 7], [-5, 7])).toMatchObject({ cause: 'sign', months: [0] });
    expect(guessOf([1000, 70], [3000, 70])).toMatchObject({
      cause: 'factor',
      detail: expect.stringContaining('3 times the first') as string,
    });
    expect(guessOf([12_120, 70], [1010, 70])).toMatchObject({
      cause: 'factor',
      detail: expect.stringContaining('12 times the second') as string,
    });
    expect(guessOf([10, 70], [10, 0])).toMatchObject({ cause: 'missing', months: [1] });
    expect(guessOf([11, 70], [13, 70])).toBeUndefined();
  });

  it('say what happened to a whole row', () => {
    expect(guessOf([0, 0, 0], [5, 6, 7])).toMatchObject({ cause: 'missing', detail: 'the first side holds nothing' });
    expect(guessOf([10, 20, 30, 40], [0, 10, 20, 30])).toMatchObject({
      cause: 'month_off',
      detail: 'the second side is one month late',
    });
    expect(guessOf([10, 20, 30, 40], [20, 30, 40, 0])).toMatchObject({
      cause: 'month_off',
      detail: 'the second side is one month early',
    });
    expect(guessOf([500, 500, 500], [550, 500, 450])).toMatchObject({ cause: 'constant' });
  });
});

describe('findDifferences', () => {
  it('gives the bottom line, months, sections and rows, the largest first', () => {
    const found = findDifferences(
      [
        row('sales', [100, 100], [100, 130], 'Sales'),
        row('rent', [50, 50], [50, 50]),
        row('gas', [-20, -20], [-25, -20]),
      ],
      2,
    );
    expect(found.bottomLine).toBe(25);
    expect(found.months).toEqual([-5, 30]);
    expect(found.sections).toEqual([
      { section: 'Sales', difference: 30 },
      { section: 'Costs', difference: -5 },
    ]);
    expect(found.rows.map(({ id }) => id)).toEqual(['sales', 'gas']);
    expect(found.verdict).toBe('not_rounding');
  });

  it('finds nothing in two sides that are the same', () => {
    expect(findDifferences([row('x', [1, 2], [1, 2])], 2)).toMatchObject({
      bottomLine: 0,
      rows: [],
      verdict: 'can_be_rounding',
    });
  });

  it('says that a side in thousands differs by rounding alone', () => {
    const exact = [123_456_789, 98_765_432, 55_512_345];
    const rounded = exact.map((figure) => Math.round(figure / 100_000) * 100_000);
    const found = findDifferences([row('x', exact, rounded)], 3);
    expect(found).toMatchObject({ roundingUnit: 100_000, verdict: 'can_be_rounding' });
    expect(found.rows[0]!.guesses[0]).toMatchObject({ cause: 'rounding', months: [0, 1, 2] });
  });
});

it('looks into the parts of a row where its sum alone gives no cause', () => {
  const parts = [
    { a: [135_400, 100], b: [153_400, 100] },
    { a: [77_123, 5], b: [77_123, 5] },
  ];
  const sums = row('gas', [212_523, 105], [230_523, 105]);
  expect(findDifferences([sums], 2).rows[0]!.guesses).toEqual([]);
  expect(findDifferences([{ ...sums, parts }], 2).rows[0]!.guesses[0]).toMatchObject({
    cause: 'swapped_digits',
    months: [0],
  });
});

describe('rounding', () => {
  // worked by hand: 12 terms of unit 1: certain bound 6, likely bound 2 × √(12/12) = 2
  it('tells the likely bound from the certain one', () => {
    expect([2, 2.1, 6, 6.1].map((difference) => roundingVerdict(difference, 12, 1))).toEqual([
      'can_be_rounding',
      'unlikely_rounding',
      'unlikely_rounding',
      'not_rounding',
    ]);
  });

  it('is read from the figures', () => {
    expect([roundingUnitOf([100_000, 2_300_000]), roundingUnitOf([12_345, 100]), roundingUnitOf([])]).toEqual([
      100_000, 1, 1,
    ]);
  });
});
