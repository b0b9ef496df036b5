import { isFlow, isResult } from '../account/nature';
import type { Missing } from '../figure/figure';
import { slot, type LedgerSlice } from './ledger-slice';

type Frame = Pick<LedgerSlice, 'accounts' | 'calendar'>;
/** What of an account's books counts in a period. */
export type Flow = 'movement' | 'opening_entries';

/**
 * What books cannot say, and why: a rate that is missing in a month, balances that wait for translation, what may not be
 * seen. A balance cannot be told from the first thing on that it includes and that cannot be told.
 */
export class BookProblems {
  private readonly flows: Record<Flow, Map<number, Missing>> = { movement: new Map(), opening_entries: new Map() };
  /** Results of finished years that moved into an account. */
  private readonly rolled = new Map<number, Missing>();
  private readonly accounts = new Map<number, Missing>();

  constructor(
    private readonly frame: Frame,
    /** Whose results move into these books: their own, nobody's, or those of other books, with what these cannot tell. */
    private readonly results: 'own' | 'none' | BookProblems = 'own',
  ) {}

  /** The first that is found stands for all. */
  ofFlow(flow: Flow, account: number, period: number, missing: Missing): void {
    const at = this.slot(account, period);
    if (!this.flows[flow].has(at)) this.flows[flow].set(at, missing);
    if (this.results === 'own' && isResult(this.frame.accounts[account]!)) this.rollOver(period, missing);
  }

  ofAccount(account: number, missing: Missing): void {
    if (!this.accounts.has(account)) this.accounts.set(account, missing);
  }

  /** Takes in what other books of the same chart and calendar cannot tell. */
  takeIn(others: BookProblems): void {
    const count = this.frame.calendar.periods.length;
    for (const flow of ['movement', 'opening_entries'] as const)
      for (const [at, missing] of others.flows[flow]) this.ofFlow(flow, Math.floor(at / count), at % count, missing);
    for (const [account, missing] of others.accounts) this.ofAccount(account, missing);
  }

  get areNone(): boolean {
    const { results, accounts, flows } = this;
    const areNoneRolled = !(results instanceof BookProblems) || results.rolled.size === 0;
    return areNoneRolled && [flows.movement, flows.opening_entries, accounts].every(({ size }) => size === 0);
  }

  /** Why there is no movement of an account in a period, or no opening entries. */
  flowAt(flow: Flow, account: number, period: number): Missing | undefined {
    return this.accounts.get(account) ?? this.flows[flow].get(this.slot(account, period));
  }

  rollOverAt(account: number, period: number): Missing | undefined {
    const rolled = this.results instanceof BookProblems ? this.results.rolled : this.rolled;
    return this.accounts.get(account) ?? rolled.get(this.slot(account, period));
  }

  /** Why there is no opening of an account in a period. */
  openingAt(account: number, period: number): Missing | undefined {
    const own = this.flowAt('opening_entries', account, period) ?? this.rollOverAt(account, period);
    if (own || period === 0 || (this.startsYear(period) && isFlow(this.frame.accounts[account]!))) return own;
    return this.closingAt(account, period - 1);
  }

  /** Why there is no closing of an account in a period: income and expense begin every year anew. */
  closingAt(account: number, period: number): Missing | undefined {
    const begins = isFlow(this.frame.accounts[account]!) ? this.firstOfYear(period) : 0;
    for (let p = period; p >= begins; p--) {
      const missing =
        this.flowAt('movement', account, p) ??
        this.flowAt('opening_entries', account, p) ??
        this.rollOverAt(account, p);
      if (missing) return missing;
    }
    return undefined;
  }

  /** The result of a year moves into retained earnings when the next one begins. */
  private rollOver(period: number, missing: Missing): void {
    const { accounts, calendar } = this.frame;
    const retained = accounts.findIndex(({ role }) => role === 'retained_earnings');
    const { fiscalYear } = calendar.periods[period]!;
    const next = calendar.periods.find((each) => each.fiscalYear > fiscalYear);
    if (retained < 0 || !next) return;
    const at = this.slot(retained, next.ordinal);
    if (!this.rolled.has(at)) this.rolled.set(at, missing);
  }

  private startsYear(period: number): boolean {
    return this.firstOfYear(period) === period;
  }

  private firstOfYear(period: number): number {
    const { periods } = this.frame.calendar;
    let first = period;
    while (first > 0 && periods[first - 1]!.fiscalYear === periods[period]!.fiscalYear) first--;
    return first;
  }

  private slot(account: number, period: number): number {
    return slot(this.frame, account, period);
  }
}
