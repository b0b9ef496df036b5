import { partOfAmount } from '../money/fraction';
import { codeRanges, isInRange } from '../account/code-ranges';
import type { Account } from '../account/nature';
import type { MemberBooks } from './member-books';
import { shareAt } from './part-of';
import type { StandingRule } from '../scope/group-records';
import { type EliminationFrame, type Head, type Line } from './elimination-frame';
import { foundWith } from './found-from';
import { differenceAccountOf } from './pair-difference';
import type { EliminationReason, EliminationTerm } from './elimination-term';

/**
 * Takes off what members have with each other, by the standing rules of the group: both sides in full, and what they differ
 * by on an account of its own. Of an entity in proportion its part is taken off; the part of other holders stays outside.
 *
 * Units: minor units of the scope.
 * @source reference definition 35; IFRS 10.B86 (c), IFRS 11.B34; one-sided rules: common practice
 */
export function eliminatePairs(frame: EliminationFrame): void {
  const { group, facts } = frame.consolidated;
  for (const rule of facts.rules)
    if (rule.group === group && rule.kind !== 'dividends') new PairRule(frame, rule).eliminate();
}

/** Places of the accounts that codes and ranges name. */
export function accountsIn(codes: string, accounts: readonly Account[]): number[] {
  const ranges = codeRanges(codes) ?? [];
  return accounts.flatMap(({ number }, index) => (ranges.some((range) => isInRange(range, number)) ? index : []));
}

type Part = 'movement' | 'opening_entries';

/** A period, with whether both are in the group then, and were in the one before. */
interface Place {
  p: number;
  part: Part;
  are: boolean;
  were: boolean;
}

/** What a member has with a partner in an account. */
interface SidesAccount {
  account: number;
  /** What its lines name the partner in; all of its books, where the account itself names it. */
  books: MemberBooks;
  /** Place of the account in the chart of those. */
  row: number;
  from: EliminationTerm['from'];
}

/** What a member has with a partner in some accounts. */
interface Side {
  member: MemberBooks;
  partner: string;
  accounts: readonly SidesAccount[];
}

/** Two members, with what each has with the other. */
interface Pair {
  one: MemberBooks;
  other: MemberBooks;
  own: Side | undefined;
  theirs: Side | undefined;
  /** Whether anything of it stood before it was posted. */
  opens: boolean;
  journal: string;
  about: readonly string[];
}

class PairRule {
  private readonly accounts: readonly number[];
  private readonly partnerAccounts: readonly number[];
  private readonly difference: number;
  /** Partners that accounts name, whatever their lines say. */
  private readonly named: ReadonlySet<string>;

  constructor(
    private readonly frame: EliminationFrame,
    private readonly rule: StandingRule,
  ) {
    this.accounts = accountsIn(rule.accounts, frame.accounts);
    this.partnerAccounts = accountsIn(rule.partnerAccounts, frame.accounts);
    this.difference = differenceAccountOf(rule, frame.accounts);
    const all = [...this.accounts, ...this.partnerAccounts];
    this.named = new Set(all.map((index) => frame.accounts[index]!.partner).filter((partner) => partner !== ''));
  }

  eliminate(): void {
    const { members } = this.frame.source;
    members.forEach((one, at) =>
      members.forEach((other, place) => {
        if (at === place || !(this.isWith(one, other) || this.isWith(other, one))) return;
        const name = `pair ${this.rule.kind} ${this.rule.rule} ${one.entity.code} ${other.entity.code}`;
        this.frame.find(name, [one, other], () => this.pair(one, other, at < place));
      }),
    );
  }

  /** Whether lines of one name the other, or accounts do. */
  private isWith({ entity: { code } }: MemberBooks, other: MemberBooks): boolean {
    const partner = other.entity.code;
    return (
      this.frame.source.withPartners(code).partners.has(partner) ||
      this.codesOf(partner).some((each) => this.named.has(each))
    );
  }

  /** @param isFirst what stands in the accounts of both sides is met once, from the first of the two */
  private pair(one: MemberBooks, other: MemberBooks, isFirst: boolean): void {
    const of = (accounts: readonly number[], others: readonly number[]) =>
      isFirst ? accounts : accounts.filter((account) => !others.includes(account));
    const own = this.sideOf(one, other.entity.code, of(this.accounts, this.partnerAccounts));
    const theirs = this.sideOf(other, one.entity.code, of(this.partnerAccounts, this.accounts));
    if (!own && !theirs) return;
    const pair: Pair = {
      ...{ one, other, own, theirs },
      opens: [own, theirs].some((side) => side?.accounts.some((each) => this.opens(each))),
      journal: [this.rule.kind, this.rule.rule, one.entity.code, other.entity.code].join(' '),
      about: [one.entity.code, other.entity.code],
    };
    const { periods } = this.frame;
    let were = false;
    for (let p = 0; p < periods.length; p++) {
      const are = one.isHeld[p] === 1 && other.isHeld[p] === 1;
      if (are || were) {
        if (pair.opens) this.meet(pair, { p, part: 'opening_entries', are, were });
        this.meet(pair, { p, part: 'movement', are, were });
      }
      were = are;
    }
  }

  private opens({ books: { openingEntries }, row }: SidesAccount): boolean {
    return openingEntries.subarray(this.frame.slot(row, 0), this.frame.slot(row + 1, 0)).some((amount) => amount !== 0);
  }

  private meet({ one, other, own, theirs, journal, about }: Pair, place: Place): void {
    const { kind, rule, side } = this.rule;
    const lines = this.linesOf(own, place, 'own_side');
    const ownSum = sumOf(lines);
    const theirLines = this.linesOf(theirs, place, 'partner_side');
    // what goes was taken off with the part that counted before
    const p = place.are ? place.p : place.p - 1;
    if (side === 'seller' && ownSum !== 0)
      theirLines.push(...this.takenToo(other, one.entity.code, p, ownSum, sumOf(theirLines)));
    if (lines.length + theirLines.length === 0) return;
    lines.push(
      ...theirLines,
      ...this.outside(one, other, p, ownSum),
      ...this.outside(other, one, p, sumOf(theirLines)),
    );
    const head: Head = {
      journal,
      rule,
      about,
      kind: kind === 'balances' ? 'balances' : 'income_expense',
      period: place.p,
      isOpening: place.part === 'opening_entries',
    };
    const [entity, partner] = [one.entity.code, other.entity.code];
    this.frame.post(head, lines, { account: this.difference, entity, partner, reason: 'difference' });
  }

  private linesOf(side: Side | undefined, place: Place, reason: EliminationReason): Line[] {
    const lines: Line[] = [];
    if (!side) return lines;
    const { member, partner, accounts } = side;
    const entity = member.entity.code;
    for (const { account, books, row, from } of accounts) {
      const amount = this.taken(books, row, place);
      if (amount === 0) continue;
      lines.push({ account, entity, partner, amount: -amount, reason, from });
    }
    return lines;
  }

  /**
   * What is to be taken off of an account in a period: income and expense as they came about, of balances all that stands
   * as soon as both are in the group, and as long as they are.
   * @param row place of the account in the chart of the books
   */
  private taken(books: MemberBooks, row: number, { p, part, are, were }: Place): number {
    const at = this.frame.slot(row, p);
    const opened = are ? books.openingEntries[at]! : 0;
    if (part === 'opening_entries') return opened;
    if (this.rule.kind !== 'balances') return are ? books.movement[at]! : 0;
    const closing = (upTo: number) => {
      let sum = 0;
      for (let each = at - p; each <= at - p + upTo; each++) sum += books.movement[each]! + books.openingEntries[each]!;
      return sum;
    };
    if (are && were) return books.movement[at]!;
    return (are ? closing(p) : 0) - (were ? closing(p - 1) : 0) - opened;
  }

  /** What the partner's accounts hold of the seller's amount without naming it. */
  private takenToo(other: MemberBooks, partner: string, p: number, ownSum: number, known: number): Line[] {
    const share = shareAt(other.shares, p);
    const amount = -partOfAmount(share, ownSum) - known;
    const sizeOf = (account: number) => Math.abs(other.movement[this.frame.slot(account, p)]!);
    const [account] = [...this.partnerAccounts].sort((a, b) => sizeOf(b) - sizeOf(a));
    if (account === undefined || amount === 0) return [];
    return [{ account, entity: other.entity.code, partner, amount, reason: 'partner_side' }];
  }

  /** What an entity in proportion owes or buys is for its other holders in part: that part is with others. */
  private outside(whole: MemberBooks, inPart: MemberBooks, p: number, sum: number): Line[] {
    const account = this.frame.indexOf(this.rule.outsideAccount);
    if (!inPart.shares || whole.shares || account < 0 || sum === 0) return [];
    const amount = partOfAmount(shareAt(inPart.shares, p), sum) - sum;
    return [{ account, entity: whole.entity.code, amount, reason: 'stays_outside' }];
  }

  private sideOf(member: MemberBooks, partner: string, accounts: readonly number[]): Side | undefined {
    if (accounts.length === 0) return undefined;
    const partners = this.codesOf(partner);
    const { accounts: chart, source } = this.frame;
    const { books, rowOf } = source.withPartners(member.entity.code);
    const held = accounts.flatMap((account): SidesAccount[] => {
      // an account may name its partner, whatever its lines say
      const isNamed = partners.includes(chart[account]!.partner);
      if (isNamed) return [{ account, books: member, row: account, from: foundWith(member, account, undefined) }];
      const row = rowOf(partner, account);
      return row >= 0 ? [{ account, books, row, from: foundWith(member, account, partners) }] : [];
    });
    return held.length > 0 ? { member, partner, accounts: held } : undefined;
  }

  private codesOf(entity: string): readonly string[] {
    return this.frame.consolidated.facts.partnerCodes.get(entity) ?? [entity];
  }
}

const sumOf = (lines: readonly Line[]) => lines.reduce((sum, { amount }) => sum + amount, 0);
