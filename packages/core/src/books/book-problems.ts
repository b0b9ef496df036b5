import type { Missing } from '../figure/figure';
import { isFlow, type Account } from '../account/nature';
import type { FiscalCalendar } from '../period/fiscal-calendar';

/** What books of a scope cannot say, and why: a rate that is missing in a month, balances that wait for translation. */
export class BookProblems {
  private readonly movements = new Map<number, Missing>();
  private readonly accounts = new Map<number, Missing>();

  constructor(
    private readonly chart: readonly Account[],
    private readonly calendar: FiscalCalendar,
  ) {}

  /** The first that is found stands for all. */
  ofMovement(account: number, period: number, missing: Missing): void {
    const at = this.slot(account, period);
    if (!this.movements.has(at)) this.movements.set(at, missing);
  }

  ofAccount(account: number, missing: Missing): void {
    if (!this.accounts.has(account)) this.accounts.set(account, missing);
  }

  get areNone(): boolean {
    return this.movements.size === 0 && this.accounts.size === 0;
  }

  /** Why there is no movement of an account in a period. */
  movementAt(account: number, period: number): Missing | undefined {
    return this.accounts.get(account) ?? this.movements.get(this.slot(account, period));
  }

  /** Why there is no balance of an account in a period: income and expense begin every year anew. */
  balanceAt(account: number, period: number): Missing | undefined {
    const whole = this.accounts.get(account);
    if (whole || !isFlow(this.chart[account]!)) return whole;
    const { periods } = this.calendar;
    for (let p = period; p >= 0 && periods[p]!.fiscalYear === periods[period]!.fiscalYear; p--) {
      const missing = this.movementAt(account, p);
      if (missing) return missing;
    }
    return undefined;
  }

  private slot(account: number, period: number): number {
    return account * this.calendar.periods.length + period;
  }
}
