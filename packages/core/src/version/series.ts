import { divideRounded, roundHalfAway } from '../money/round';

/** What of a loan a row shows. */
export type LoanPart = 'interest' | 'repayment' | 'payment';

/** A row of figures that follows a rule. Amounts in minor units; lists have a number a month, 0 where they end. */
export type Series =
  /** `start`, and `step` more each month. */
  | { by: 'step'; start: number; step: number }
  /** A loan that is paid back by `repayment` at each month's end: interest is `balance` × yearly rate ÷ 12. */
  | { by: 'declining_balance'; part: LoanPart; balance: number; yearlyPercent: number; repayment: number }
  /** A loan that is paid back in so many equal payments of interest and repayment, the first at the end of the first month. */
  | { by: 'annuity'; part: LoanPart; balance: number; yearlyPercent: number; payments: number }
  /** `cost` less `residue`, in equal parts over `lifeMonths`, the first of them `after` so many months. */
  | { by: 'straight_line'; cost: number; residue: number; lifeMonths: number; after: number }
  /**
   * People at a rate a month each: those there, who joins, from its month on, and who leaves, to the end of its month. The
   * rate rises by `raisePercent` `raiseAfter` so many months.
   */
  | {
      by: 'payroll';
      heads: number;
      rate: number;
      joiners: readonly number[];
      leavers: readonly number[];
      raisePercent: number;
      raiseAfter: number;
    };

/**
 * Figures of a series over months.
 *
 * Units: minor units. A loan that is paid off bears nothing; a thing that is written off neither.
 * Rounding: half away from zero, each month; straight line by cumulated rounding, so that the life adds up exactly; the last
 * payment of an annuity is what is left.
 * @source common practice; interest as balance × rate ÷ 12, an annuity as balance × i ÷ (1 − (1 + i)^−n)
 */
export function seriesFigures(series: Series, months: number): number[] {
  const over = (figure: (at: number) => number) => Array.from({ length: months }, (_, at) => figure(at));
  switch (series.by) {
    case 'step':
      return over((at) => series.start + series.step * at);
    case 'declining_balance':
      return loan(series, months, (interest) => interest + series.repayment);
    case 'annuity': {
      const payment = annuity(series.balance, series.yearlyPercent / 1200, series.payments);
      return loan(series, months, (interest, left, at) => (at + 1 < series.payments ? payment : interest + left));
    }
    case 'straight_line': {
      const whole = series.cost - series.residue;
      const upTo = (at: number) =>
        divideRounded(whole * Math.max(0, Math.min(at - series.after, series.lifeMonths)), series.lifeMonths);
      return over((at) => upTo(at + 1) - upTo(at));
    }
    case 'payroll': {
      const sum = (list: readonly number[], to: number) => list.slice(0, to).reduce((all, each) => all + each, 0);
      const heads = (at: number) => series.heads + sum(series.joiners, at + 1) - sum(series.leavers, at);
      const raised = (at: number) => (at >= series.raiseAfter ? 1 + series.raisePercent / 100 : 1);
      return over((at) => roundHalfAway(heads(at) * series.rate * raised(at)));
    }
  }
}

/** What each month has of a loan; `paid` says what is paid of interest and of what is left. */
function loan(
  { part, balance, yearlyPercent }: Extract<Series, { part: LoanPart }>,
  months: number,
  paid: (interest: number, left: number, at: number) => number,
): number[] {
  let left = balance;
  return Array.from({ length: months }, (_, at) => {
    const interest = roundHalfAway((left * yearlyPercent) / 1200);
    const repayment = Math.min(left, paid(interest, left, at) - interest);
    left -= repayment;
    return { interest, repayment, payment: interest + repayment }[part];
  });
}

const annuity = (balance: number, rate: number, payments: number): number =>
  roundHalfAway(rate === 0 ? balance / payments : (balance * rate) / (1 - (1 + rate) ** -payments));
