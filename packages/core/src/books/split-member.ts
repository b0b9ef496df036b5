import { isFlow, type Account } from '../account/nature';
import type { Mask } from '../cube/combinations';
import type { Missing } from '../figure/figure';
import type { FiscalCalendar } from '../period/fiscal-calendar';
import { BookProblems } from './book-problems';
import { atPlaces, SharedAmounts, type CombinationAmounts } from './local-amounts';
import { turnAmount, type AmountAt, type Noting } from './turn-amount';
import { turnMember, type MovementParts, type Turned } from './turn-member';
import { doubted, type Turning } from './turning';

/** What a member is turned from, whichever of its combinations count. */
export type SplitSource = Omit<Turning, 'local' | 'isWhole' | 'problems' | 'doubts'>;

/** What one combination comes to in accounts that it holds anything of; accounts by their places. */
interface Part {
  accounts: readonly number[];
  problems: Marks;
  doubts: Marks;
  /** What came about in a period, in accounts that carry nothing on. */
  flows: readonly { account: number; period: number; movement: number; opening: number }[];
  /** What the others come to, which stand first, in all periods. */
  carried: Turned | undefined;
}

/** What several members bring in, added up. Shape: `account × period count + period`. */
export interface SplitSums extends Required<MovementParts>, Pick<Turned, 'movement' | 'openingEntries'> {
  problems: BookProblems;
  doubts: BookProblems;
}

export function blankSums(accounts: readonly Account[], calendar: FiscalCalendar): SplitSums {
  const of = () => new Float64Array(accounts.length * calendar.periods.length);
  const marks = () => new BookProblems({ accounts, calendar }, 'none');
  return {
    ...{ movement: of(), openingEntries: of(), exchange_difference: of(), entered: of(), left: of() },
    ...{ problems: marks(), doubts: marks() },
  };
}

const PARTS = ['exchange_difference', 'entered', 'left'] as const satisfies readonly (keyof MovementParts)[];

/**
 * What an entity brings into a scope by combination, each turned by itself and once: whatever combinations are asked for, and
 * however often, is the sum of theirs, as what an account comes to is shared among them.
 */
export class SplitMember {
  private readonly shared: SharedAmounts;
  private readonly parts = new Map<number, Part>();

  constructor(
    private readonly source: SplitSource,
    private readonly amounts: CombinationAmounts,
  ) {
    this.shared = new SharedAmounts(amounts);
  }

  /** Whether there is anything of some combinations. */
  holds(told: Mask): boolean {
    return told.all.some((combination) => this.amounts.accountsOf.has(combination));
  }

  /** Adds what some combinations come to, and marks what of it cannot be told or believed. */
  addTo(sums: SplitSums, told: Mask): void {
    for (const combination of told.all) {
      if (!this.amounts.accountsOf.has(combination)) continue;
      const part = this.part(combination);
      this.add(sums, part);
      part.problems.markIn(sums.problems, part.accounts);
      part.doubts.markIn(sums.doubts, part.accounts);
    }
  }

  private add(sums: SplitSums, { accounts, flows, carried }: Part): void {
    const count = this.source.periods.length;
    for (const { account, period, movement, opening } of flows) {
      sums.movement[account * count + period]! += movement;
      sums.openingEntries[account * count + period]! += opening;
    }
    if (!carried) return;
    const addTo = (to: Float64Array, from: Float64Array) => {
      for (let at = 0; at < from.length; at++)
        to[accounts[Math.floor(at / count)]! * count + (at % count)]! += from[at]!;
    };
    addTo(sums.movement, carried.movement);
    addTo(sums.openingEntries, carried.openingEntries);
    for (const part of PARTS) {
      const from = carried.parts[part];
      if (from) addTo(sums[part], from);
    }
  }

  private part(combination: number): Part {
    const known = this.parts.get(combination);
    if (known) return known;
    const { source } = this;
    const posted = [...this.amounts.accountsOf.get(combination)!];
    const [flowing, carrying] = [
      posted.filter(([account]) => this.isFlow(account)),
      posted.filter(([account]) => !this.isFlow(account)),
    ];
    // those that carry balances on stand first
    const accounts = [...carrying, ...flowing].map(([account]) => account);
    const [problems, doubts] = [new Marks(), new Marks()];
    const turning: Turning = {
      ...{ ...source, problems, doubts, isWhole: false },
      accounts: accounts.map((account) => source.accounts[account]!),
      by: (at) => source.by(accounts[at]!),
      local: atPlaces(this.shared.ofOne(combination), (at) => accounts[at]!),
    };
    const flows = flowing.flatMap(([account, periods], at) =>
      periods
        .filter((p) => source.isHeld[p] === 1)
        .map((period) => ({ account, period, ...flowIn(turning, carrying.length + at, period) })),
    );
    const carried =
      carrying.length === 0
        ? undefined
        : turnMember({ ...turning, accounts: turning.accounts.slice(0, carrying.length) });
    const made = { accounts, problems, doubts, flows, carried };
    this.parts.set(combination, made);
    return made;
  }

  /** Whether nothing of an account is carried on, nor told by what it comes to. */
  private isFlow(account: number): boolean {
    return isFlow(this.source.accounts[account]!) && this.source.by(account) !== 'closing';
  }
}

/** What came about in a period, in an account that carries nothing on. */
function flowIn(turning: Turning, index: number, p: number): { movement: number; opening: number } {
  const by = turning.by(index);
  const turned = (part: AmountAt['part']) => turnAmount(turning, { part, index, p, by }, marking(turning));
  return { movement: turned('flow'), opening: turned('opening_entries') };
}

/** Marks what stands on rates that are hard to believe; what could not be turned is marked as it is found. */
const marking = ({ doubts }: Turning): Noting => ({
  turned: ({ part, index, p }, _, { doubt }) => doubt && doubts.ofFlow(part, index, p, doubted(doubt)),
  lacked: () => undefined,
});

/** What cannot be told, or believed, of some accounts, to be marked in the books that it comes into. */
class Marks implements Pick<BookProblems, 'ofFlow' | 'ofClosing' | 'tellsClosings'> {
  private readonly flows: {
    flow: Parameters<BookProblems['ofFlow']>[0];
    at: number;
    period: number;
    missing: Missing;
  }[] = [];
  private readonly closings: { at: number; period: number; missing: Missing }[] = [];
  private readonly told = new Set<number>();

  ofFlow(flow: Parameters<BookProblems['ofFlow']>[0], at: number, period: number, missing: Missing): void {
    this.flows.push({ flow, at, period, missing });
  }

  ofClosing(at: number, period: number, missing: Missing): void {
    this.closings.push({ at, period, missing });
  }

  tellsClosings(at: number): void {
    this.told.add(at);
  }

  /** @param accounts places of these accounts in the books */
  markIn(books: BookProblems, accounts: readonly number[]): void {
    for (const at of this.told) books.tellsClosings(accounts[at]!);
    for (const { flow, at, period, missing } of this.flows) books.ofFlow(flow, accounts[at]!, period, missing);
    for (const { at, period, missing } of this.closings) books.ofClosing(accounts[at]!, period, missing);
  }
}
