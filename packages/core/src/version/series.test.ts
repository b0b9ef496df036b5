import { seriesFigures, type LoanPart, type Series } from './series';

const sum = (figures: readonly number[]) => figures.reduce((all, figure) => all + figure, 0);

describe('series', () => {
  // the standard formula of an annuity; the payments of these two loans stand in many tables (from memory): 8,606.64 a month
  // for 100,000 at 6 % over a year, 1,199.10 for 200,000 at 6 % over thirty
  it.each([
    [100_000_00, 12, 8_606_64],
    [200_000_00, 360, 1_199_10],
  ])('a loan of %d in %d equal payments', (balance, payments, payment) => {
    const of = (part: LoanPart, months = payments) =>
      seriesFigures({ by: 'annuity', part, balance, yearlyPercent: 6, payments }, months);
    expect(of('payment').slice(0, -1)).toEqual(Array(payments - 1).fill(payment));
    expect(of('interest')[0]).toBe(balance / 200);
    expect(sum(of('repayment'))).toBe(balance);
    expect(of('interest').map((interest, at) => interest + of('repayment')[at]!)).toEqual(of('payment'));
    // the last payment takes what rounding left
    expect(Math.abs(of('payment').at(-1)! - payment)).toBeLessThan(payments);
    expect(of('payment', payments + 2).slice(-2)).toEqual([0, 0]);
  });

  it('a loan without interest is paid back in equal parts', () => {
    const series = { by: 'annuity', part: 'payment', balance: 1_000, yearlyPercent: 0, payments: 4 } as const;
    expect(seriesFigures(series, 5)).toEqual([250, 250, 250, 250, 0]);
  });

  it('a thing that is bought later is written off from then on', () => {
    const series = { by: 'straight_line', cost: 1_200, residue: 0, lifeMonths: 4, after: 2 } as const;
    expect(seriesFigures(series, 8)).toEqual([0, 0, 300, 300, 300, 300, 0, 0]);
  });

  it('payroll counts heads by month: who joins from its month on, who leaves to the end of its month', () => {
    // 10, 10 + 2, 12, 12 − 3 + 1 heads at 4,000.00; 5 % more from the fourth month on (by hand)
    const series: Series = {
      by: 'payroll',
      ...{ heads: 10, rate: 4_000_00, joiners: [0, 2, 0, 1], leavers: [0, 0, 3], raisePercent: 5, raiseAfter: 3 },
    };
    expect(seriesFigures(series, 5)).toEqual([40_000_00, 48_000_00, 48_000_00, 42_000_00, 42_000_00]);
  });
});
