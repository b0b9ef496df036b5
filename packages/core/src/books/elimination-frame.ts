import type { Account } from '../account/nature';
import type { MemberBooks } from './member-books';
import { isRate, type RateAt } from './member-rates';
import type { Missing } from '../figure/figure';
import { fraction, rounded, times, type Fraction } from '../money/fraction';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import type { Scope } from '../scope/scope';
import { groupStructure, type HeldEntity } from '../scope/group-structure';
import type { EliminationReason, EliminationTerm, TermSource } from './elimination-term';
import type { Consolidated } from '../scope/consolidated';

/** What a member has with some partners, as it brings it in; undefined where none of some accounts has anything of it. */
export type WithPartners = (
  member: string,
  partners: readonly string[],
  accounts: readonly number[],
) => MemberBooks | undefined;

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

const NOTHING_BELOW = () => [];

/** A line as a rule finds it; lines of nothing are left out. */
export type Line = Pick<EliminationTerm, 'account' | 'amount' | 'reason'> &
  Partial<Pick<EliminationTerm, 'entity' | 'partner' | 'from' | 'text'>>;

/** What the lines of a journal have in common. */
export type Head = Pick<EliminationTerm, 'kind' | 'journal' | 'period' | 'about'> &
  Partial<Pick<EliminationTerm, 'rule' | 'isOpening' | 'entity' | 'partner'>>;

/** What is not eliminated. */
export interface EliminationGap {
  journal: string;
  period: number;
  /** What a line is for that has no account: the chart lacks one with its role. */
  reason: EliminationReason;
}

/** The books that eliminations are found from, and where they are collected. */
export class EliminationFrame {
  readonly terms: EliminationTerm[] = [];
  readonly gaps: EliminationGap[] = [];
  readonly consolidated: Consolidated;
  readonly accounts: readonly Account[];
  readonly periods: readonly FiscalPeriod[];
  private readonly membersByCode: ReadonlyMap<string, MemberBooks>;
  private readonly byRole: ReadonlyMap<string, readonly number[]>;
  private readonly byNumber: ReadonlyMap<string, number>;
  /** By period. */
  private readonly structures: readonly ReadonlyMap<string, HeldEntity>[];

  constructor(readonly source: EliminationSource) {
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

  member(code: string): MemberBooks | undefined {
    return this.membersByCode.get(code);
  }

  /** The entities of the group at the end of a period. */
  structure(period: number): ReadonlyMap<string, HeldEntity> {
    return this.structures[period]!;
  }

  /** Minor-unit digits of a member's currency, or of an entity that is none and has another's. */
  digitsOf(code: string, other: MemberBooks): number {
    return (this.membersByCode.get(code) ?? other).entity.currency.digits;
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
    const books = this.membersByCode.get(holder);
    const isUsed = (account: number) =>
      books !== undefined && this.periods.some((_, p) => changeOf(books, this.slot(account, p)) !== 0);
    const named = all.find((account) => this.accounts[account]!.partner === entity);
    return named ?? all.find(isUsed) ?? all[0] ?? -1;
  }

  indexOf(number: string): number {
    return this.byNumber.get(number) ?? -1;
  }

  /** How a member changes an account in a period, all of it. */
  read({ entity: { code } }: MemberBooks, at: TermSource['at'], account: number, period: number): TermSource {
    return { member: code, at, account, period };
  }

  slot(account: number, period: number): number {
    return account * this.periods.length + period;
  }

  /** Adds a journal; `rest` takes what the other lines leave. What was added is given back: nothing where an account lacks. */
  post(head: Head, lines: readonly Line[], rest?: Omit<Line, 'amount'>): readonly EliminationTerm[] {
    const sum = lines.reduce((total, { amount }) => total + amount, 0);
    const all = rest ? [...lines, { ...rest, amount: -sum }] : lines;
    if (!rest && sum !== 0) throw new Error(`the elimination ${head.journal} does not come to zero`);
    const told = all.filter(({ amount }) => amount !== 0);
    const lacking = told.find(({ account }) => account < 0);
    if (lacking) {
      this.gaps.push({ journal: head.journal, period: head.period, reason: lacking.reason });
      return [];
    }
    const terms = told.map((line): EliminationTerm => ({
      ...{ rule: '', isOpening: false, entity: '', partner: '', from: NOTHING_BELOW },
      ...head,
      ...line,
      amount: line.amount + 0,
    }));
    this.terms.push(...terms);
    return terms;
  }
}

/** An amount at a rate, rounded once; nothing where there is no rate: what needs it is marked. */
export const atRate = (rate: RateAt | Missing, local: Fraction): number =>
  isRate(rate) ? rounded(times(local, rate.exact())) : 0;

/** A part of an amount, rounded. */
export const partOfAmount = (share: Fraction, amount: number): number =>
  amount === 0 || share.part === 0n ? 0 : rounded(times(share, fraction(amount)));

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
