import { isFlow, type Account } from '../account/nature';
import type { MemberBooks } from './member-books';
import { isRate, type RateAt } from './member-rates';
import type { Missing } from '../figure/figure';
import { rounded, times, type Fraction } from '../money/fraction';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import type { Scope } from '../scope/scope';
import { groupStructure, type HeldEntity } from '../scope/group-structure';
import type { PartnerBooks } from './partner-rows';
import { nothingBelow } from './found-from';
import type { EliminationReason, EliminationTerm } from './elimination-term';
import type { Consolidated } from '../scope/consolidated';

/** What a member has with the others by the accounts of standing rules. */
export type WithPartners = (member: string) => PartnerBooks;

/** What eliminations are made from. */
export interface EliminationSource {
  scope: Scope;
  consolidated: Consolidated;
  accounts: readonly Account[];
  members: readonly MemberBooks[];
  /** Books of the entities that are held as associates, in the periods in which they are. */
  associates: readonly MemberBooks[];
  withPartners: WithPartners;
}

/** A line as a rule finds it; lines of nothing are left out. */
export type Line = Pick<EliminationTerm, 'account' | 'amount' | 'reason'> &
  Partial<Pick<EliminationTerm, 'entity' | 'partner' | 'from' | 'text'>>;

/** What the lines of a journal have in common. */
export type Head = Pick<EliminationTerm, 'kind' | 'journal' | 'period' | 'about'> &
  Partial<Pick<EliminationTerm, 'rule' | 'isOpening' | 'entity' | 'partner'>>;

/** What each period of members' results was changed by, by entity: the part of others in it depends on that. */
export type ResultChanges = ReadonlyMap<string, Float64Array>;

/** Lines that were found together, and what they were found from: they are the same as long as that is. */
export interface FoundLines {
  terms: readonly EliminationTerm[];
  gaps: readonly EliminationGap[];
  /** Books that it is about, and those of members that were looked at; undefined where an entity is none. */
  about: readonly MemberBooks[];
  members: ReadonlyMap<string, MemberBooks | undefined>;
  /** What other parts did to the result that it shares out. Shape: by period. */
  given: Float64Array | undefined;
  adjusted: ResultChanges;
}

const NO_CHANGES: ResultChanges = new Map();

/** What is not eliminated. */
export interface EliminationGap {
  journal: string;
  period: number;
  /** What a line is for that has no account: the chart lacks one with its role; or that needs a tax rate. */
  reason: EliminationReason;
  lacks: 'account' | 'rate' | 'tax_rate';
}

/** The books that eliminations are found from, and where they are collected. */
export class EliminationFrame {
  /** By name. */
  readonly found = new Map<string, FoundLines>();
  private terms: EliminationTerm[] = [];
  private gaps: EliminationGap[] = [];
  private asked = new Map<string, MemberBooks | undefined>();
  readonly consolidated: Consolidated;
  readonly accounts: readonly Account[];
  readonly periods: readonly FiscalPeriod[];
  private readonly membersByCode: ReadonlyMap<string, MemberBooks>;
  private readonly byRole: ReadonlyMap<string, readonly number[]>;
  private readonly byNumber: ReadonlyMap<string, number>;
  /** By period. */
  private readonly structures: readonly ReadonlyMap<string, HeldEntity>[];

  /**
   * @param startsAt what was done before that period opens it
   * @param before lines of the same group as they were found before, from books that may have moved since
   */
  constructor(
    readonly source: EliminationSource,
    private readonly startsAt = 0,
    private readonly before: ReadonlyMap<string, FoundLines> = new Map(),
  ) {
    this.consolidated = source.consolidated;
    this.accounts = source.accounts;
    this.periods = source.scope.calendar.calendar.periods;
    this.membersByCode = new Map(source.members.map((member) => [member.entity.code, member]));
    const roles = new Map<string, number[]>();
    for (const [index, { role }] of this.accounts.entries()) roles.set(role, [...(roles.get(role) ?? []), index]);
    this.byRole = roles;
    this.byNumber = new Map(this.accounts.map(({ number }, index) => [number, index]));
    this.structures = structuresOf(this.consolidated, this.periods);
  }

  /**
   * Finds lines that belong together, or takes them as they were found before where nothing that they were found from has moved.
   * @param about books that they are found from, beside those of members that are asked for meanwhile
   * @returns what it did to the results of members
   */
  find(
    name: string,
    about: readonly MemberBooks[],
    how: () => ResultChanges | void,
    given?: Float64Array,
  ): ResultChanges {
    const known = this.before.get(name);
    const lines = known && this.isAsBefore(known, about, given) ? known : this.findAnew(about, how, given);
    this.found.set(name, lines);
    return lines.adjusted;
  }

  private isAsBefore(lines: FoundLines, about: readonly MemberBooks[], given: Float64Array | undefined): boolean {
    for (const [at, books] of about.entries()) if (lines.about[at] !== books) return false;
    for (const [code, books] of lines.members) if (this.membersByCode.get(code) !== books) return false;
    return lines.given === given || (lines.given?.every((amount, p) => amount === given?.[p]) ?? false);
  }

  private findAnew(
    about: readonly MemberBooks[],
    how: () => ResultChanges | void,
    given: Float64Array | undefined,
  ): FoundLines {
    [this.terms, this.gaps, this.asked] = [[], [], new Map()];
    const adjusted = how() ?? NO_CHANGES;
    const { gaps, asked } = this;
    const terms = this.startsAt === 0 ? this.terms : openingAt(this.startsAt, this.terms, this.accounts);
    return { terms, gaps, about, members: asked, given, adjusted };
  }

  member(code: string): MemberBooks | undefined {
    const books = this.membersByCode.get(code);
    this.asked.set(code, books);
    return books;
  }

  /** Notes what is not eliminated. */
  lacks(gap: EliminationGap): void {
    this.gaps.push(gap);
  }

  /** The entities of the group at the end of a period. */
  structure(period: number): ReadonlyMap<string, HeldEntity> {
    return this.structures[period]!;
  }

  /** Minor-unit digits of a member's currency, or of an entity that is none and has another's. */
  digitsOf(code: string, other: MemberBooks): number {
    return (this.member(code) ?? other).entity.currency.digits;
  }

  /** The one account with a role; −1 where the chart has none. */
  role(role: string): number {
    return this.withRole(role)[0] ?? -1;
  }

  withRole(role: string): readonly number[] {
    return this.byRole.get(role) ?? [];
  }

  /** The account with a role that is held against an entity: one that names it, else the first that its holder uses. */
  accountAgainst(role: string, entity: string, holder: string): number {
    const all = this.withRole(role);
    const books = this.member(holder);
    const isUsed = (account: number) =>
      books !== undefined && this.periods.some((_, p) => changeOf(books, this.slot(account, p)) !== 0);
    const named = all.find((account) => this.accounts[account]!.partner === entity);
    return named ?? all.find(isUsed) ?? all[0] ?? -1;
  }

  indexOf(number: string): number {
    return this.byNumber.get(number) ?? -1;
  }

  slot(account: number, period: number): number {
    return account * this.periods.length + period;
  }

  /** Adds a journal; `rest` takes what the other lines leave. What was added is given back: nothing where an account lacks. */
  post(head: Head, lines: readonly Line[], rest?: Omit<Line, 'amount'>): readonly EliminationTerm[] {
    const posted: EliminationTerm[] = [];
    let sum = 0;
    for (const line of lines) {
      sum += line.amount;
      if (line.amount !== 0) posted.push(termOf(head, line, line.amount));
    }
    if (!rest && sum !== 0) throw new Error(`the elimination ${head.journal} does not come to zero`);
    if (rest && sum !== 0) posted.push(termOf(head, rest, -sum));
    for (const { account, reason } of posted)
      if (account < 0) {
        this.lacks({ journal: head.journal, period: head.period, reason, lacks: 'account' });
        return [];
      }
    for (const term of posted) this.terms.push(term);
    return posted;
  }
}

/** All in one shape: a large group has hundreds of thousands of them. */
const termOf = (head: Head, line: Omit<Line, 'amount'>, amount: number): EliminationTerm => ({
  kind: head.kind,
  journal: head.journal,
  rule: head.rule ?? '',
  account: line.account,
  period: head.period,
  isOpening: head.isOpening ?? false,
  entity: line.entity ?? head.entity ?? '',
  partner: line.partner ?? head.partner ?? '',
  amount,
  about: head.about,
  reason: line.reason,
  text: line.text,
  from: line.from ?? nothingBelow,
});

/** Balances carry on, and what was done to results has moved into retained earnings. */
function openingAt(period: number, terms: readonly EliminationTerm[], accounts: readonly Account[]): EliminationTerm[] {
  const retained = accounts.findIndex(({ role }) => role === 'retained_earnings');
  return terms.map((term) => {
    if (term.period >= period) return term;
    const account = isFlow(accounts[term.account]!) && retained >= 0 ? retained : term.account;
    return { ...term, account, period, isOpening: true, from: nothingBelow };
  });
}

/** An amount at a rate, rounded once; nothing where there is no rate: what needs it is marked. */
export const atRate = (rate: RateAt | Missing, local: Fraction): number =>
  isRate(rate) ? rounded(times(local, rate.exact())) : 0;

/** What a member changes an account by in a period, with what opened then. */
export const changeOf = ({ movement, openingEntries }: MemberBooks, slot: number): number =>
  movement[slot]! + openingEntries[slot]!;

/** The structure at the end of each period; the same between two changes of ownership. */
function structuresOf(
  { topEntity, facts: { holdings } }: Consolidated,
  periods: readonly FiscalPeriod[],
): ReadonlyMap<string, HeldEntity>[] {
  const known = new Map<string, ReadonlyMap<string, HeldEntity>>();
  return periods.map(({ end }) => {
    const since = holdings.reduce((last, { from }) => (from <= end && from > last ? from : last), '');
    const held = known.get(since);
    if (held) return held;
    const made = new Map(groupStructure(topEntity, holdings, end).map((each) => [each.entity, each]));
    known.set(since, made);
    return made;
  });
}
