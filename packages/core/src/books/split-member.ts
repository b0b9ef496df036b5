import { isFlow, type Account } from '../account/nature';
import type { Mask } from '../cube/combinations';
import type { Missing } from '../figure/figure';
import type { FiscalCalendar } from '../period/fiscal-calendar';
import { BookProblems } from './book-problems';
import { atPlaces, SharedAmounts, type CombinationAmounts } from './local-amounts';
import { turnMember, type MovementParts, type Turned, type Turning } from './turn-member';

/** What a member is turned from, whichever of its combinations count. */
export type SplitSource = Omit<Turning, 'local' | 'isWhole' | 'problems' | 'doubts'>;

/** What one combination comes to: in some accounts alone, those that hold anything of it. */
interface Part {
  accounts: readonly number[];
  /** Periods in which anything of an account can stand. */
  periods: readonly (readonly number[])[];
  turned: Turned;
  problems: Marks;
  doubts: Marks;
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
  private readonly all: readonly number[];

  constructor(
    private readonly source: SplitSource,
    private readonly amounts: CombinationAmounts,
  ) {
    this.shared = new SharedAmounts(amounts);
    this.all = source.periods.map((_, p) => p);
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

  private add(sums: SplitSums, { accounts, periods, turned }: Part): void {
    const count = this.source.periods.length;
    const addTo = (to: Float64Array, from: Float64Array) =>
      accounts.forEach((account, at) => {
        for (const p of periods[at]!) to[account * count + p]! += from[at * count + p]!;
      });
    addTo(sums.movement, turned.movement);
    addTo(sums.openingEntries, turned.openingEntries);
    for (const part of PARTS) {
      const from = turned.parts[part];
      if (from) addTo(sums[part], from);
    }
  }

  private part(combination: number): Part {
    const known = this.parts.get(combination);
    if (known) return known;
    const posted = [...this.amounts.accountsOf.get(combination)!].sort(([a], [b]) => a - b);
    const accounts = posted.map(([account]) => account);
    const [problems, doubts] = [new Marks(), new Marks()];
    const { source } = this;
    // what is carried on stands in all periods behind it
    const periods = posted.map(([account, some]) => (isFlow(source.accounts[account]!) ? some : this.all));
    const turned = turnMember({
      ...{ ...source, problems, doubts, isWhole: false },
      accounts: accounts.map((account) => source.accounts[account]!),
      by: (at) => source.by(accounts[at]!),
      postedIn: (at) => posted[at]![1],
      local: atPlaces(this.shared.ofOne(combination), (at) => accounts[at]!),
    });
    const made = { accounts, periods, turned, problems, doubts };
    this.parts.set(combination, made);
    return made;
  }
}

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
