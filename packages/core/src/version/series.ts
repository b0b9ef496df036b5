import { divideRounded, roundHalfAway } from '../money/round';

/** A row of figures that follows a rule. Amounts in minor units. */
export type Series =
  /** `start`, and `step` more each month. */
  | { by: 'step'; start: number; step: number }
  /** Interest on a loan: `balance` × yearly rate ÷ 12 each month, the balance falling by `repayment` at each month's end. */
  | { by: 'declining_balance'; balance: number; yearlyPercent: number; repayment: number }
  /** `cost` less `residue`, in equal parts over `lifeMonths`. */
  | { by: 'straight_line'; cost: number; residue: number; lifeMonths: number };

/**
 * Figures of a series over months.
 *
 * Units: minor units. A loan that is paid off bears nothing; a thing that is written off neither.
 * Rounding: half away from zero, each month; straight line by cumulated rounding, so that the life adds up exactly.
 * @source common practice; interest as balance × rate ÷ 12
 */
export function seriesFigures(series: Series, months: number): number[] {
  const over = (figure: (at: number) => number) => Array.from({ length: months }, (_, at) => figure(at));
  switch (series.by) {
    case 'step':
      return over((at) => series.start + series.step * at);
    case 'declining_balance':
      return over((at) => {
        const left = Math.max(0, series.balance - series.repayment * at);
        return roundHalfAway((left * series.yearlyPercent) / 1200);
      });
    case 'straight_line': {
      const whole = series.cost - series.residue;
      const upTo = (at: number) => divideRounded(whole * Math.min(at, series.lifeMonths), series.lifeMonths);
      return over((at) => upTo(at + 1) - upTo(at));
    }
  }
}
