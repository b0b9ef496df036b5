import { isFlow, isResult } from '../account/nature';
import type { Missing } from '../figure/figure';
import { slot, type LedgerSlice } from './ledger-slice';

type Frame = Pick<LedgerSlice, 'accounts' | 'calendar'>;

/**
 * What changes an account in a period: opening entries, and the movement. In another currency, or where an entity comes or
 * goes, the movement is made of parts: what was posted, the exchange difference, and what entered and left the group.
 */
export const FLOWS = ['movement', 'opening_entries', 'flow', 'exchange_difference', 'entered', 'left'] as const;
export type Flow = (typeof FLOWS)[number];
/** What is marked by itself; the rest follows from it. */
type MarkedFlow = 'flow' | 'opening_entries' | 'entered';

/**
 * What books cannot say, and why: a rate that is missing in a month, what may not be seen. A balance that is carried
 * forward cannot be told from the first thing on that it includes and that cannot be told; one that is translated at
 * closing rates can be told again as soon as there is a rate.
 */
export class BookProblems {
  private readonly flows: Record<MarkedFlow, Map<number, Missing>> = {
    flow: new Map(),
    opening_entries: new Map(),
    entered: new Map(),
  };
  /** Results of finished years that moved into an account. */
  private readonly rolled = new Map<number, Missing>();
  /** Closings of accounts that are told by themselves. */
  private readonly closings = new Map<number, Missing>();
  private readonly told = new Set<number>();
  /** Accounts of which anything is marked. */
  private readonly marked = new Set<number>();

  constructor(
    private readonly frame: Frame,
    /** Whose results move into these books: their own, nobody's, or those of other books, with what these cannot tell. */
    private readonly results: 'own' | 'none' | BookProblems = 'own',
    /** What books that are part of these cannot tell. */
    private readonly parts: readonly BookProblems[] = [],
  ) {}

  /** The first that is found stands for all. */
  ofFlow(flow: MarkedFlow, account: number, period: number, missing: Missing): void {
    const at = this.slot(account, period);
    this.marked.add(account);
    if (!this.flows[flow].has(at)) this.flows[flow].set(at, missing);
    if (this.results === 'own' && isResult(this.frame.accounts[account]!)) this.rollOver(period, missing);
  }

  /** Says that closings of an account are told by themselves, whatever came before. */
  tellsClosings(account: number): void {
    this.told.add(account);
  }

  /** @param account one whose closings are told by themselves */
  ofClosing(account: number, period: number, missing: Missing): void {
    const at = this.slot(account, period);
    this.marked.add(account);
    if (!this.closings.has(at)) this.closings.set(at, missing);
  }

  get areNone(): boolean {
    const { results, flows, closings, parts } = this;
    const areNoneRolled = !(results instanceof BookProblems) || results.rolled.size === 0;
    const own = [...Object.values(flows), closings];
    return areNoneRolled && own.every(({ size }) => size === 0) && parts.every(({ areNone }) => areNone);
  }

  /** Whether all of an account can be told, as that of most can. */
  private isTold(account: number): boolean {
    const { results, marked, parts } = this;
    const isMarked = marked.has(account) || (results instanceof BookProblems && results.marked.has(account));
    return !isMarked && parts.every((part) => part.isTold(account));
  }

  /** Why there is no movement of an account in a period, no part of it, or no opening entries. */
  flowAt(flow: Flow, account: number, period: number): Missing | undefined {
    if (this.isTold(account)) return undefined;
    return this.ownFlowAt(flow, account, period) ?? this.first((part) => part.flowAt(flow, account, period));
  }

  rollOverAt(account: number, period: number): Missing | undefined {
    const rolled = this.results instanceof BookProblems ? this.results.rolled : this.rolled;
    return rolled.get(this.slot(account, period)) ?? this.first((part) => part.rollOverAt(account, period));
  }

  /** Why there is no opening of an account in a period. */
  openingAt(account: number, period: number): Missing | undefined {
    if (this.isTold(account)) return undefined;
    const own = this.ownFlowAt('opening_entries', account, period) ?? this.rollOverAt(account, period);
    const begins = period === 0 || (this.startsYear(period) && isFlow(this.frame.accounts[account]!));
    if (own || begins) return own ?? this.first((part) => part.openingAt(account, period));
    return this.closingAt(account, period - 1) ?? this.first((part) => part.openingAt(account, period));
  }

  /** Why there is no closing of an account in a period: income and expense begin every year anew. */
  closingAt(account: number, period: number): Missing | undefined {
    if (this.isTold(account)) return undefined;
    return this.ownClosingAt(account, period) ?? this.first((part) => part.closingAt(account, period));
  }

  private ownFlowAt(flow: Flow, account: number, period: number): Missing | undefined {
    const marked = (of: MarkedFlow, p = period) => this.flows[of].get(this.slot(account, p));
    const closing = (p: number) => (p < 0 ? undefined : this.closings.get(this.slot(account, p)));
    switch (flow) {
      case 'flow':
      case 'opening_entries':
      case 'entered':
        return marked(flow);
      case 'left':
        return this.ownClosingAt(account, period - 1);
      case 'exchange_difference':
        return this.ownFlowAt('movement', account, period) ?? marked('flow');
      case 'movement':
        if (!this.told.has(account)) return marked('flow') ?? marked('entered');
        return closing(period) ?? closing(period - 1) ?? marked('opening_entries') ?? marked('entered');
    }
  }

  private ownClosingAt(account: number, period: number): Missing | undefined {
    if (period < 0) return undefined;
    if (this.told.has(account)) return this.closings.get(this.slot(account, period));
    const begins = isFlow(this.frame.accounts[account]!) ? this.firstOfYear(period) : 0;
    for (let p = period; p >= begins; p--) {
      const missing =
        this.ownFlowAt('movement', account, p) ??
        this.ownFlowAt('opening_entries', account, p) ??
        this.rollOverAt(account, p);
      if (missing) return missing;
    }
    return undefined;
  }

  private first(ask: (part: BookProblems) => Missing | undefined): Missing | undefined {
    for (const part of this.parts) {
      const missing = ask(part);
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
    this.marked.add(retained);
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
