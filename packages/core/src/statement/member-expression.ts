import type { LedgerSlice } from '../books/ledger-slice';
import type { MemberBooks } from '../books/member-books';
import { isRate, type RateAt } from '../books/member-rates';
import { statedIn } from '../books/turning';
import { percentText, partOf, shareAt } from '../books/part-of';
import { AS_IT_IS, type Translate } from '../currency/translator';
import type { Missing } from '../figure/figure';
import { inverse, less, negated, times, type Fraction } from '../money/fraction';
import { openingTerms, resultTerms } from './carried-terms';
import type { Evaluation } from './evaluation';
import { plus, type BookNode, type BookPlace, type Expression, type ScaledAt, type TraceNode } from './trace-node';

/** How a place in what an entity brings into a scope comes about: from its own books, at the rates of its currency. */
export function memberExpression(
  evaluation: Evaluation,
  node: BookNode,
  slice: LedgerSlice,
  member: MemberBooks,
): Expression {
  const isNothing = evaluation.figure(node).amount === 0;
  if (member.isHidden) return isNothing ? plus() : { op: 'hidden' };
  if (isNothing && (node.at === 'entered' || node.at === 'left')) return plus();
  return new MemberTrace(evaluation, node, slice, member).expression();
}

/** What stated amounts cover wholly needs no rate. */
const NOT_TOLD: Translate = { rounded: () => 0, unrounded: () => 0 };

type Term = { node: TraceNode; sign: 1 | -1 };
type PricedAt = ScaledAt & { translate: RateAt['translate']; part?: Fraction | undefined };

class MemberTrace {
  private readonly role: string;

  constructor(
    private readonly evaluation: Evaluation,
    private readonly node: BookNode,
    private readonly slice: LedgerSlice,
    private readonly member: MemberBooks,
  ) {
    this.role = slice.accounts[node.account]!.role;
  }

  expression(): Expression {
    const { node, member, slice } = this;
    const { account, period } = node;
    switch (node.at) {
      case 'closing':
        if (this.isToldByClosings && member.isHeld[period] === 1)
          return this.scaled(this.ownClosing(account, period), this.at('closing', period));
        return plus({ ...node, at: 'opening' }, { ...node, at: 'movement' });
      case 'opening':
        return plus(...openingTerms(slice, node));
      case 'roll_over': {
        const { books } = this.evaluation;
        const whole = books.wholeOf(node.books);
        return plus(...resultTerms(books.slice(whole), whole, node));
      }
      case 'movement':
        return this.movement();
      case 'flow':
        return this.scaled(this.own('movement', account), this.atOf('flow'));
      case 'opening_entries':
        if (this.opensWithDifference) return this.lessOthers('opening_entries');
        return this.scaled(this.own('opening_entries', account), this.atOf('opening_entries'));
      case 'exchange_difference':
        return this.exchangeDifference();
      case 'entered':
        if (this.role === 'retained_earnings') return this.lessOthers('entered');
        return this.scaled(
          this.ownClosing(account, period - 1),
          this.isCount ? this.part(this.bought) : this.at('closing', period - 1, this.bought),
        );
      case 'left':
        if (this.role === 'retained_earnings') return this.lessOthers('left');
        return this.left();
      case 'reserve_net_assets': {
        const at = this.at('closing', period);
        return this.atDifference(this.netAssetsBefore(), at, this.at('closing', period - 1));
      }
      case 'reserve_result': {
        const of = this.accountsTurned('month').flatMap((each) => this.own('movement', each));
        return this.atDifference(of, this.at('closing', period), this.at('average', period));
      }
      case 'reserve_other': {
        const by = member.turnedBy(account);
        const less = by === 'historical' ? this.atOf('flow') : this.at('closing', period);
        return this.atDifference(this.own('movement', account), this.at('closing', period), less);
      }
      case 'reserve_rounding':
        return { op: 'rounding' };
    }
  }

  /** What was posted, what the rates did, what came and went; where the first alone is not nothing, as that. */
  private movement(): Expression {
    const { node, evaluation, slice } = this;
    const of = (at: BookNode['at']): TraceNode => ({ ...node, at });
    if (slice.problems?.flowAt('flow', node.account, node.period))
      return {
        op: 'sum',
        terms: [
          { node: of('closing'), sign: 1 },
          { node: of('opening'), sign: -1 },
        ],
      };
    const parts = (['exchange_difference', 'entered', 'left'] as const).map(of);
    const held = parts.filter((part) => evaluation.figure(part).amount !== 0);
    if (held.length > 0) return plus(of('flow'), ...held);
    return this.scaled(this.own('movement', node.account), this.atOf('flow'));
  }

  private exchangeDifference(): Expression {
    const { node, role } = this;
    if (!this.isTurned) return plus();
    if (role === this.differenceRole && this.member.roll) return plus(...this.steps());
    if (this.isDifference) return this.lessOthers('flow', 'exchange_difference');
    const terms = (['closing', 'opening', 'flow', 'entered', 'left'] as const).map((at): Term => {
      return { node: { ...node, at }, sign: at === 'closing' ? 1 : -1 };
    });
    return this.isToldByClosings && this.member.isTranslated ? { op: 'sum', terms } : plus();
  }

  /** All of it goes, or a part. */
  private left(): Expression {
    const { node, member, slice } = this;
    const before: TraceNode = { ...node, at: 'closing', period: node.period - 1 };
    if (member.isHeld[node.period] === 0) return { op: 'sum', terms: [{ node: before, sign: -1 }] };
    const sold = times(negated(this.bought), inverse(shareAt(member.shares, node.period - 1)));
    return this.scaled([{ ...before, sign: -node.sign }], this.part(sold), slice.currency!.code);
  }

  private steps(): TraceNode[] {
    const { node, member } = this;
    const others = new Set(member.roll!.steps(node.period)?.historical.map(({ account }) => account));
    return [
      { ...node, at: 'reserve_net_assets' },
      { ...node, at: 'reserve_result' },
      ...[...others].map((account): TraceNode => ({ ...node, at: 'reserve_other', account })),
      { ...node, at: 'reserve_rounding' },
    ];
  }

  /** What the other accounts leave missing to zero. */
  private lessOthers(
    ...kinds: ('opening_entries' | 'flow' | 'exchange_difference' | 'entered' | 'left')[]
  ): Expression {
    const { node, slice } = this;
    const terms = slice.accounts.flatMap(({ nature }, account): Term[] =>
      account === node.account || nature === 'statistic'
        ? []
        : kinds.map((at) => ({ node: { ...node, at, account }, sign: -1 })),
    );
    return { op: 'sum', terms };
  }

  /** In another currency, or a part of it alone. */
  private get isTurned(): boolean {
    return this.member.isTranslated || this.member.shares !== undefined;
  }

  private get isCount(): boolean {
    return this.member.turnedBy(this.node.account) === 'as_it_is';
  }

  /** What counts in the period more than in the one before. */
  private get bought(): Fraction {
    const { shares, isHeld } = this.member;
    const { period } = this.node;
    const share = shareAt(shares, period);
    return isHeld[period - 1] === 1 ? less(share, shareAt(shares, period - 1)) : share;
  }

  /** The reserve, or what rounding leaves: what no posting explains. */
  private get isDifference(): boolean {
    return this.isTurned && (this.role === this.differenceRole || this.role === 'rounding');
  }

  /** Of the account that takes the difference: the reserve, or by the temporal method a gain or loss. */
  private get differenceRole(): string {
    return this.member.isTemporal ? 'exchange_gain' : 'translation_reserve';
  }

  /** What opening balances leave missing stands in the reserve, or by the temporal method in retained earnings. */
  private get opensWithDifference(): boolean {
    return this.member.isTemporal && this.member.isTranslated ? this.role === 'retained_earnings' : this.isDifference;
  }

  private get isToldByClosings(): boolean {
    return this.isTurned && this.member.turnedBy(this.node.account) === 'closing' && !this.isDifference;
  }

  private scaled(
    of: readonly TraceNode[],
    at: PricedAt | Missing | undefined,
    from = this.member.entity.currency.code,
  ): Expression {
    if (!at) return plus(...of);
    if ('reason' in at) return { op: 'undefined', ...at };
    const { evaluation, slice, node } = this;
    const local = of.reduce((sum, each) => sum + (evaluation.figure(each).amount ?? 0), 0) / node.sign;
    const amount = (evaluation.figure(node).amount ?? 0) / node.sign;
    const rest = amount - this.turned(local, at);
    return { op: 'scaled', of, at, from, to: slice.currency!.code, sign: node.sign, rest: rest + 0 };
  }

  private atDifference(of: readonly TraceNode[], at: PricedAt | Missing | undefined, less: typeof at): Expression {
    if (!at || !less) return plus();
    if ('reason' in at) return { op: 'undefined', ...at };
    if ('reason' in less) return { op: 'undefined', ...less };
    return { op: 'at_difference', of, at, less, from: this.member.entity.currency.code, to: this.slice.currency!.code };
  }

  /** What an own amount comes to, rounded once, and its part once more. */
  private turned(local: number, { stated, translate, part }: PricedAt): number {
    const covered = stated.reduce((sum, each) => sum + each.local, 0);
    const worth = stated.reduce((sum, { amount }) => sum + amount, 0);
    return partOf(part).rounded(worth + translate.rounded(local - covered));
  }

  /** A rate of a period, with the part that counts; undefined where the entity has the scope's currency and all of it counts. */
  private at(
    type: 'average' | 'closing' | 'historical',
    period: number,
    share = shareAt(this.member.shares, this.node.period),
  ): PricedAt | Missing | undefined {
    const { rates, isTranslated } = this.member;
    if (!isTranslated) return this.part(share);
    const rate = rates[type](period);
    if (!isRate(rate)) return rate;
    return { ...this.part(share), type, rate: rate.quoted, stated: [], translate: rate.translate };
  }

  /** A part of what is in the currency of the scope; undefined where it is all. */
  private part(share: Fraction): PricedAt | undefined {
    if (share.part === share.whole) return undefined;
    return { type: 'share', share: percentText(share), stated: [], translate: AS_IT_IS, part: share };
  }

  /** The rate of what was posted in an account, or opened it. */
  private atOf(part: 'flow' | 'opening_entries'): PricedAt | Missing | undefined {
    const { node, member, slice } = this;
    const { account, period } = node;
    const by = member.turnedBy(account);
    if (!member.isTranslated || by === 'as_it_is') return this.part(shareAt(member.shares, node.period));
    if (by === 'month_end') return this.at('closing', period);
    const before = part === 'opening_entries' && by !== 'month' ? this.at('closing', period - 1) : undefined;
    if (by !== 'historical') return before ?? this.at('average', period);
    const { periods } = slice.calendar;
    const stated = statedIn({ accounts: slice.accounts, periods, stated: member.stated }, account, period, part);
    const usual = before ?? this.at('historical', period);
    if (stated.length === 0 || !usual) return usual;
    return {
      ...this.part(shareAt(member.shares, period)),
      ...('reason' in usual ? { translate: NOT_TOLD } : usual),
      ...{ type: 'historical', stated },
    };
  }

  /** An account's own changes in the periods that count in this one. */
  private own(at: 'movement' | 'opening_entries', account: number): TraceNode[] {
    return this.member.ownPeriods[this.node.period]!.map((period) => this.ownNode(at, account, period));
  }

  /** An account's own balance at the end of a period of the scope. */
  private ownClosing(account: number, period: number, sign = this.node.sign): TraceNode[] {
    const last = this.member.lastOwn(period);
    return last === undefined ? [] : [this.ownNode('closing', account, last, sign)];
  }

  /** Own closings before, and what opened since, taken off. */
  private netAssetsBefore(): TraceNode[] {
    const { node, member } = this;
    return this.accountsTurned('closing').flatMap((account) => [
      ...this.ownClosing(account, node.period - 1, -node.sign),
      ...member.ownPeriods[node.period]!.map((period) => this.ownNode('opening_entries', account, period, -node.sign)),
    ]);
  }

  private accountsTurned(by: 'closing' | 'month'): number[] {
    return this.slice.accounts.flatMap((_, account) => (this.member.turnedBy(account) === by ? account : []));
  }

  private ownNode(at: BookNode['at'], account: number, period: number, sign = this.node.sign): TraceNode {
    const place: BookPlace = { account, period, sign, books: this.evaluation.books.indexOfOwn(this.node.books) };
    return { at, ...place };
  }
}
