import fc from 'fast-check';
import { bridgeOf, REST } from './bridge';
import { isException } from './variance';

describe('bridgeOf', () => {
  it('adds up to the variance exactly, whatever its parts explain', () => {
    const amount = fc.integer({ min: -1e9, max: 1e9 });
    fc.assert(
      fc.property(
        amount,
        amount,
        fc.array(amount, { maxLength: 40 }),
        fc.integer({ min: 1, max: 8 }),
        (from, to, parts, shown) => {
          const bridge = bridgeOf(
            from,
            to,
            parts.map((part, at) => ({ id: String(at), label: '', amount: part })),
            shown,
          );
          expect(bridge.terms.reduce((sum, term) => sum + term.amount, from)).toBe(to);
          expect(bridge.terms.length).toBeLessThanOrEqual(shown + 2);
          const sizes = bridge.terms.filter(({ id }) => id !== REST).map((term) => Math.abs(term.amount));
          expect(sizes).toEqual([...sizes].sort((a, b) => b - a));
        },
      ),
    );
  });

  it('folds the small parts into one', () => {
    const parts = [5, -40, 30, 3, 2].map((amount, at) => ({ id: `p${at}`, label: '', amount }));
    expect(bridgeOf(100, 100, parts, 2)).toEqual({
      from: 100,
      to: 100,
      folded: 3,
      terms: [
        { id: 'p1', label: '', amount: -40 },
        { id: 'p2', label: '', amount: 30 },
        { id: REST, label: 'All else', amount: 10 },
      ],
    });
  });
});

describe('isException', () => {
  const limits = { amount: 1000, percent: 0.05 };
  it('needs both limits to be exceeded, and the amount alone where there is no percentage', () => {
    expect(isException({ amount: 1001, percent: 0.051 }, limits)).toBe(true);
    expect(isException({ amount: 1000, percent: 0.5 }, limits)).toBe(false);
    expect(isException({ amount: -5000, percent: -0.05 }, limits)).toBe(false);
    expect(isException({ amount: -5000, percent: undefined }, limits)).toBe(true);
  });
});
