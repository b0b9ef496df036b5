import fc from 'fast-check';
import {
  EXPLANATION_KINDS,
  isInSpan,
  lastOfEach,
  returnOf,
  underlyingOf,
  varianceByKind,
  type Explaining,
} from './explained';

const explaining = (kind: Explaining['explains']['kind'], amount: number): Explaining => ({
  ...{ id: `${kind}${amount}`, carries: '' },
  explains: { kind, amount, in: 'FY2026-P02', returns: '' },
});

describe('explanations', () => {
  it('of one matter count once, as they were said last', () => {
    const chain = [
      { id: 'a', carries: '' },
      { id: 'b', carries: 'a' },
      { id: 'c', carries: 'b' },
      { id: 'd', carries: '' },
    ];
    expect(lastOfEach(chain).map(({ id }) => id)).toEqual(['c', 'd']);
  });

  it('tell a variance apart, with what nobody told, to the cent', () => {
    const held = fc.array(
      fc.record({ kind: fc.constantFrom(...EXPLANATION_KINDS), amount: fc.integer({ min: -1e9, max: 1e9 }) }),
    );
    fc.assert(
      fc.property(fc.integer({ min: -1e9, max: 1e9 }), held, (variance, list) => {
        const { parts, rest } = varianceByKind(
          variance,
          list.map(({ kind, amount }) => explaining(kind, amount)),
        );
        expect(parts.reduce((sum, { amount }) => sum + amount, rest)).toBe(variance);
      }),
    );
  });

  // by hand: 700 reported with 120 from the sale of a site and 40 for its clearance; without both 620
  it('lead from the reported result to the underlying one, the largest first', () => {
    const sale = { id: 's', label: 'Site sold', amount: 12_000 };
    const clearance = { id: 'c', label: 'Clearance', amount: -4_000 };
    expect(underlyingOf(70_000, [clearance, sale])).toEqual({
      reported: 70_000,
      terms: [
        { id: 's', label: 'Site sold', amount: -12_000 },
        { id: 'c', label: 'Clearance', amount: 4_000 },
      ],
      underlying: 62_000,
    });
  });

  it.each([
    [-10_000, null, 'to_come'],
    [-10_000, 10_000, 'returned'],
    [-10_000, 12_000, 'returned'],
    [-10_000, 9_600, 'returned'], // within the limit of 500
    [-10_000, 9_400, 'in_part'],
    [-10_000, 0, 'not_returned'],
    [-10_000, -3_000, 'not_returned'],
    [8_000, -8_000, 'returned'],
    [8_000, -2_000, 'in_part'],
    [8_000, 2_000, 'not_returned'],
  ] as const)('of timing: %i, of which %s is seen in the month of return, %s', (amount, observed, state) => {
    expect(returnOf(amount, observed, 500)).toBe(state);
  });

  it('count in the months of their span', () => {
    const at = { fiscalYear: 2026, ordinal: 5 };
    const counted = (span: 'period' | 'year_to_date' | 'full_year') =>
      [3, 5, 7].filter((ordinal) => isInSpan({ fiscalYear: 2026, ordinal }, at, span));
    expect([counted('period'), counted('year_to_date'), counted('full_year')]).toEqual([[5], [3, 5], [3, 5, 7]]);
    expect(isInSpan({ fiscalYear: 2025, ordinal: 3 }, at, 'year_to_date')).toBe(false);
  });
});
