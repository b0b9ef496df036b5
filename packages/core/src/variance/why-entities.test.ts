import { against, TO_DATE } from '../../test/actual-and-plan';
import { movementTerms, translateMovements } from './why-entities';

const { evaluation } = against(TO_DATE);
const terms = (row: string, column: number) =>
  movementTerms(evaluation, { at: 'cell', row: evaluation.input.rows.byId.get(row)!, column });

describe('movementTerms', () => {
  it('are one an account and month, and add up to the cell', () => {
    const goods = terms('goods', 1)!.filter(({ amount }) => amount !== 0);
    // shown as the row shows costs: 60, 66, 80 and 7 of a second account in June
    expect(goods.map(({ amount }) => Math.abs(amount))).toEqual([6_000, 6_600, 8_000, 700]);
    expect(terms('profit', 1)!.reduce((sum, { amount }) => sum + amount, 0)).toBe(14_100);
  });

  it('are not there for a ratio or a difference', () => {
    expect(terms('margin', 1)).toBeUndefined();
    expect(terms('profit', 2)).toBeUndefined();
  });
});

describe('translateMovements', () => {
  const moved = [
    { account: 1, period: 0, amount: 100_00 },
    { account: 2, period: 0, amount: -33_33 },
    { account: 1, period: 1, amount: 100_00 },
  ];

  it('takes each month at its own rate, and rounds each account in it', () => {
    const rates = ['4', '5'];
    // 25.00, 8.3325 is 8.33, and 20.00
    expect(
      translateMovements(moved, (period) => ({ rate: rates[period]!, isInverse: true }), { from: 2, to: 2 }),
    ).toEqual({ amount: 25_00 - 8_33 + 20_00, missing: [] });
  });

  it('says which months have no rate', () => {
    const rateOf = (period: number) => (period === 0 ? { rate: '1', isInverse: false } : undefined);
    expect(translateMovements(moved, rateOf, { from: 2, to: 2 })).toEqual({ amount: 66_67, missing: [1] });
    expect(translateMovements([{ account: 1, period: 1, amount: 0 }], rateOf, { from: 2, to: 2 }).missing).toEqual([]);
  });
});
