import { isFlow, type Account } from '../account/nature';
import type { Missing, Origin } from '../figure/figure';
import { fraction, inverse, less, negated, NOTHING, rounded, times, type Fraction } from '../money/fraction';
import type { LocalAmounts } from './local-amounts';
import { isRate, UNTURNED, type RateAt } from './member-rates';
import { partOf, shareAt } from './part-of';
import { ReserveRoll } from './reserve-roll';
import { partAt, turnAmount, type AmountAt, type CameAbout, type Noting } from './turn-amount';
import { doubted, type TurnedBy, type Turning } from './turning';
import { PlainTurn } from './turn-plainly';

/** Parts of a movement beside what was posted; what is not there is zero. Shape: `account × period count + period`. */
export interface MovementParts {
  exchange_difference: Float64Array;
  entered?: Float64Array;
  left?: Float64Array;
}

/** What an account takes of what others leave: opened and moved by period. Units: minor units, debit positive. */
export interface TakenUp {
  opened: Float64Array;
  moved: Float64Array;
}

/** What an entity brings into a scope, in the scope's currency. Units: minor units, debit positive. */
export interface Turned {
  /** The whole change in a period: what was posted, the exchange difference, what entered and left. */
  movement: Float64Array;
  openingEntries: Float64Array;
  parts: MovementParts;
  /** What of these is no amount of their own: the reserve, gains of the temporal method, what rounding leaves; by account. */
  takenUp: ReadonlyMap<number, TakenUp>;
  /** How the translation reserve came about; undefined where nothing is translated, or some combinations alone are asked for. */
  roll?: ReserveRoll;
}

/** Turns an entity's amounts into the currency of a scope, in the periods in which it is held there. */
export const turnMember = (turning: Turning): Turned => new MemberTurn(turning).whole();

/** Sums over all accounts, by period, of what the rounding is found from. */
interface Sums {
  movement: Float64Array;
  openings: Float64Array;
  entered: Float64Array;
  left: Float64Array;
}

class MemberTurn implements Noting {
  private readonly count: number;
  private readonly movement: Float64Array;
  private readonly openingEntries: Float64Array;
  private readonly exchange: Float64Array;
  private readonly entered: Float64Array | undefined;
  private readonly left: Float64Array | undefined;
  private readonly sums: Sums;
  private readonly roll: ReserveRoll | undefined;
  private readonly retained: number;
  private readonly plain: PlainTurn | undefined;
  /** Rates that are hard to believe by the periods from which, or in whose openings, the reserve stands on them. */
  private readonly doubtFrom: (Origin | undefined)[] = [];
  private readonly doubtOpening: (Origin | undefined)[] = [];
  /** Account that takes the difference: the translation reserve, or the gain of the temporal method. */
  private readonly reserve: number;
  private readonly takenUp = new Map<number, TakenUp>();

  constructor(private readonly turning: Turning) {
    const { accounts, periods, isHeld, shares, isTranslated, isWhole, rates } = turning;
    this.count = periods.length;
    const of = () => new Float64Array(accounts.length * this.count);
    [this.movement, this.openingEntries, this.exchange] = [of(), of(), of()];
    const isHeldThroughout = !isHeld.includes(0) || !isHeld.includes(1);
    if (!isHeldThroughout || shares) [this.entered, this.left] = [of(), of()];
    const [moved, openings, came, went] = [this.byPeriod(), this.byPeriod(), this.byPeriod(), this.byPeriod()];
    this.sums = { movement: moved, openings, entered: came, left: went };
    this.roll = isTranslated && isWhole ? new ReserveRoll(isHeld, shares, rates) : undefined;
    this.plain = PlainTurn.of(turning);
    const withRole = (role: string) => accounts.findIndex((account) => account.role === role);
    this.retained = withRole('retained_earnings');
    this.reserve = withRole(turning.isTemporal ? 'exchange_gain' : 'translation_reserve');
  }

  whole(): Turned {
    const { accounts } = this.turning;
    accounts.forEach((account, index) => {
      if (index !== this.retained) this.turn(account, index);
    });
    if (this.retained >= 0) this.turn(accounts[this.retained]!, this.retained);
    if (this.plain) this.notePlain(this.plain);
    this.takeUpDifferences();
    const { movement, openingEntries, exchange, entered, left, roll, takenUp } = this;
    return {
      ...{ movement, openingEntries, takenUp },
      parts: { exchange_difference: exchange, ...(entered && left && { entered, left }) },
      ...(roll && { roll }),
    };
  }

  /** Turns an account; gives what it comes to before a period, behind the last one unless another is asked for. */
  private turn(account: Account, index: number, until = this.count): number {
    const { isHeld, shares, problems, doubts, isTranslated } = this.turning;
    const by = this.turning.by(index);
    const carriesOn = !isFlow(account);
    if (by === 'closing' && isTranslated) for (const each of [problems, doubts]) each.tellsClosings(index);
    if (this.turning.local.accounts?.has(index) === false) return 0;
    const isToldByClosings = by === 'closing' && (isTranslated || shares !== undefined);
    const { movement, exchange, sums } = this;
    const plain = this.plain?.turn(index, by, { movement, exchange, sums: sums.movement });
    let before = plain?.before ?? 0;
    for (let p = plain?.until ?? 0; p < until; p++) {
      if (isHeld[p] === 0) {
        if (carriesOn && p > 0 && isHeld[p - 1] === 1) this.leave(index, p, before);
        before = 0;
        continue;
      }
      const at = index * this.count + p;
      const came = carriesOn ? this.enter(index, p, by) + this.partWith(index, p, before) : 0;
      const opening = this.amount('opening_entries', index, p, by);
      const flow = this.amount('flow', index, p, by);
      const closing = isToldByClosings ? this.closing(index, p) : undefined;
      const rest = closing === undefined ? 0 : closing - before - came - opening - flow;
      if (isTranslated) this.exchange[at] = rest;
      this.openingEntries[at] = opening;
      this.movement[at] = came + flow + rest;
      before += came + opening + flow + rest;
      if (by === 'as_it_is') continue;
      this.sums.openings[p]! += opening;
      this.sums.movement[p]! += flow + rest;
    }
    return before;
  }

  private notePlain({ closings, results }: PlainTurn): void {
    for (let p = 0; p < this.count; p++) {
      this.roll?.addClosing(p, closings[p]!);
      this.roll?.addResult(p, results[p]!);
    }
  }

  /** What a balance comes to at the end of a period, at its rate; undefined where there is none. */
  private closing(index: number, p: number): number | undefined {
    const { local, problems } = this.turning;
    const rate = this.turning.rates.closing(p);
    this.roll?.addClosing(p, local.local('closing', index, p));
    if (isRate(rate)) {
      if (rate.doubt && local.holds('closing', index, p)) this.turning.doubts.ofClosing(index, p, doubted(rate.doubt));
      return local.told('closing', index, p, partAt(this.turning, p, rate));
    }
    if (!local.holds('closing', index, p)) return 0;
    problems.ofClosing(index, p, rate);
    this.roll?.lacksAt(p, rate);
    return undefined;
  }

  private shareAt(p: number): Fraction {
    return shareAt(this.turning.shares, p);
  }

  /** What was posted in a period, or opened it. */
  private amount(part: CameAbout, index: number, p: number, by: TurnedBy): number {
    return turnAmount(this.turning, { part, index, p, by }, this);
  }

  /** Notes what the reserve is found from; what was posted in a balance is in its closing. */
  turned({ part, index, p, by }: AmountAt, local: number, rate: RateAt): void {
    const { roll } = this;
    if (rate.doubt) this.doubtFlow(part, index, p, { by, origin: rate.doubt });
    if (!roll || (by === 'closing' && part === 'flow')) return;
    if (by === 'month' && part === 'flow') return roll.addResult(p, local);
    const step = { account: index, local, rate };
    if (by === 'closing') roll.addOpening(p, step);
    else roll.addHistorical(part, p, step);
  }

  /** Notes what the reserve cannot be found from. */
  lacked({ part, p, by }: AmountAt, missing: Missing): void {
    if (by !== 'closing') this.roll?.lacksFrom(p, missing);
    else if (part === 'opening_entries') this.roll?.lacksOpening(p, missing);
  }

  /** What of the entity counts in a period more than in the one before, or less. */
  private boughtIn(p: number): Fraction {
    const { isHeld, shares } = this.turning;
    if (p === 0 || isHeld[p - 1] === 0) return this.shareAt(p);
    return shares ? less(this.shareAt(p), this.shareAt(p - 1)) : NOTHING;
  }

  /** An entity, or a part of it, comes with what its balances were worth then; its equity with the results that it had by then. */
  private enter(index: number, p: number, by: TurnedBy): number {
    const { local, rates, problems, isWhole, isHeld } = this.turning;
    if (!this.entered || p === 0) return 0;
    const bought = this.boughtIn(p);
    if (bought.part <= 0n) return 0;
    const isRest = index === this.retained;
    if (isRest ? !isWhole : !local.holds('closing', index, p - 1)) return 0;
    const isCount = by === 'as_it_is';
    const rate = isCount ? UNTURNED : rates.closing(p - 1);
    const isNew = isHeld[p - 1] === 0;
    if (!isRate(rate)) {
      problems.ofFlow('entered', index, p, rate);
      if (by !== 'closing') this.roll?.lacksFrom(p, rate);
      return 0;
    }
    if (rate.doubt) this.doubtFlow('entered', index, p, { by, origin: rate.doubt });
    const entered = isRest
      ? -this.sums.entered[p]!
      : local.told('closing', index, p - 1, partOf(bought, rate.translate));
    if (by === 'closing' && isNew) this.roll?.enterWith(p, local.local('closing', index, p - 1), rate);
    this.entered[index * this.count + p] = entered;
    if (!isCount) this.sums.entered[p]! += entered;
    return entered;
  }

  /** An entity goes with its balances; of retained earnings the result of its last year stays until the year ends. */
  private leave(index: number, p: number, before: number): void {
    const left = index !== this.retained ? -before : this.turning.isWhole ? -this.sums.left[p]! : 0;
    this.movement[index * this.count + p]! += left;
    this.noteLeft(index, p, left);
  }

  /** The same of a part of it. */
  private partWith(index: number, p: number, before: number): number {
    if (!this.left || p === 0) return 0;
    const sold = negated(this.boughtIn(p));
    if (sold.part <= 0n) return 0;
    const part = times(sold, inverse(this.shareAt(p - 1)));
    const lost = this.turning.local.gone(index, p, (amounts) => this.balanceBefore(index, p, before, amounts), {
      rounded: (minor) => rounded(times(fraction(minor), part)),
      unrounded: (minor) => (minor * Number(part.part)) / Number(part.whole),
    });
    const left = index !== this.retained ? -lost : this.turning.isWhole ? -this.sums.left[p]! : 0;
    this.noteLeft(index, p, left);
    return left;
  }

  /** What some of the amounts of an account came to before a period. */
  private balanceBefore(index: number, p: number, before: number, local: LocalAmounts): number {
    const { turning } = this;
    if (local === turning.local) return before;
    const some = new MemberTurn({ ...turning, local, isWhole: false, problems: UNTOLD, doubts: UNTOLD });
    return some.turn(turning.accounts[index]!, index, p);
  }

  private noteLeft(index: number, p: number, left: number): void {
    this.left![index * this.count + p] = left + 0;
    if (this.turning.accounts[index]!.nature !== 'statistic') this.sums.left[p]! += left;
  }

  /** What is exact goes to the translation reserve, what rounding leaves to an account of its own, where there is one. */
  private takeUpDifferences(): void {
    const { roll, reserve, retained, sums, count, turning } = this;
    if (!turning.isWhole || (!roll && !turning.shares)) return;
    const own = turning.accounts.findIndex(({ role }) => role === 'rounding');
    const rounding = [own, reserve].find((index) => index >= 0) ?? retained;
    if (roll) for (const index of new Set([reserve, rounding])) if (index >= 0) this.mark(index, roll);
    for (let p = 0; p < count; p++) {
      const { opened, moved } = roll?.shownAt(p) ?? { opened: 0, moved: 0 };
      // what opening balances left missing is no gain of the period
      this.take(turning.isTemporal ? retained : reserve, p, opened, 0);
      this.take(reserve, p, 0, moved);
      this.take(rounding, p, -sums.openings[p]! - opened, -sums.movement[p]! - moved);
    }
  }

  /** What came about at a rate that is hard to believe is in the reserve of all months that come after it. */
  private doubtFlow(
    flow: CameAbout | 'entered',
    index: number,
    p: number,
    { by, origin }: { by: TurnedBy; origin: Origin },
  ): void {
    this.turning.doubts.ofFlow(flow, index, p, doubted(origin));
    if (by !== 'closing') this.doubtFrom[p] ??= origin;
    else if (flow === 'opening_entries') this.doubtOpening[p] ??= origin;
  }

  /** A closing rate that is hard to believe is in the reserve of its month alone. */
  private doubt(index: number, isGain: boolean): void {
    const { rates, doubts, isHeld } = this.turning;
    let lasting: Origin | undefined;
    for (let p = 0; p < this.count; p++) {
      if (isHeld[p] === 0) continue;
      lasting ??= this.doubtFrom[p];
      const closing = rates.closing(p);
      const origin = (isRate(closing) ? closing.doubt : undefined) ?? lasting;
      if (origin && isGain) doubts.ofFlow('flow', index, p, doubted(origin));
      else if (origin) doubts.ofClosing(index, p, doubted(origin));
      const opening = this.doubtOpening[p];
      if (opening) doubts.ofFlow('opening_entries', index, p, doubted(opening));
    }
  }

  private byPeriod(): Float64Array {
    return new Float64Array(this.count);
  }

  private take(index: number, p: number, opened: number, moved: number): void {
    if (index < 0 || (opened === 0 && moved === 0)) return;
    const taken = this.takenUp.get(index) ?? { opened: this.byPeriod(), moved: this.byPeriod() };
    this.takenUp.set(index, taken);
    taken.opened[p]! += opened;
    taken.moved[p]! += moved;
    const at = index * this.count + p;
    this.openingEntries[at]! += opened;
    this.exchange[at]! += moved;
    this.movement[at]! += moved;
  }

  private mark(index: number, roll: ReserveRoll): void {
    const { problems, doubts, accounts } = this.turning;
    const isGain = isFlow(accounts[index]!);
    if (!isGain) for (const each of [problems, doubts]) each.tellsClosings(index);
    this.doubt(index, isGain);
    for (let p = 0; p < this.count; p++) {
      const missing = roll.missingAt(p);
      if (missing && isGain) problems.ofFlow('flow', index, p, missing);
      else if (missing) problems.ofClosing(index, p, missing);
      const opening = roll.openingMissingAt(p);
      if (opening) problems.ofFlow('opening_entries', index, p, opening);
    }
  }
}

/** Takes what is noted of amounts that are turned for what they come to alone. */
const UNTOLD: Turning['problems'] = {
  ofFlow: () => undefined,
  ofClosing: () => undefined,
  tellsClosings: () => undefined,
};
