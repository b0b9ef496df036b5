import { fraction } from '../money/fraction';
import type { EliminationLine } from '../scope/group-records';
import { digitsOf } from '../currency/minor-units';
import { atRate, type EliminationFrame, type Line } from './elimination-frame';
import { minorOf } from './purchases';

/**
 * Eliminations of the group that were entered by hand: each stands from its period on; goes back in the next where it says
 * so; or comes again in every regular period, until another of its number and kind is said: one of nothing ends it. In
 * another currency than the group's they are turned at the closing rate of their period.
 */
export function eliminateByHand(frame: EliminationFrame): void {
  const { group, facts } = frame.consolidated;
  const places = new Map(frame.periods.map(({ key }, p) => [key, p]));
  const journals = new Map<string, Journal>();
  for (const line of facts.byHand) {
    const period = places.get(line.period);
    if (line.group !== group || period === undefined) continue;
    const key = [line.journal, line.period, line.kind].join(' ');
    const known = journals.get(key);
    if (known) known.lines.push(line);
    else journals.set(key, { period, lines: [line] });
  }
  const all = [...journals.values()].sort((a, b) => a.period - b.period);
  all.forEach((journal, at) => {
    const { kind, journal: number } = journal.lines[0]!;
    const follows = all.slice(at + 1).find(({ lines: [next] }) => next!.journal === number && next!.kind === kind);
    post(frame, journal, follows?.period ?? frame.periods.length);
  });
}

/** The lines of one number, kind and period. */
interface Journal {
  /** Its place in the calendar of the group. */
  period: number;
  lines: EliminationLine[];
}

/** @param end period from which another stands in its place, where it comes again */
function post(frame: EliminationFrame, { period: p, lines }: Journal, end: number): void {
  const { journal, kind, rule } = lines[0]!;
  const { currency } = frame.consolidated;
  const digits = digitsOf(currency);
  const isTurned = currency !== frame.source.scope.currency.code;
  // whoever has the group's currency knows its rates
  const known = frame.source.members.find(({ entity }) => entity.currency.code === currency);
  const turner = isTurned && known ? frame.member(known.entity.code) : undefined;
  if (isTurned && !turner) {
    frame.lacks({ journal: `by_hand ${journal}`, period: p, reason: 'by_hand', lacks: 'rate' });
    return;
  }
  const amountOf = ({ debit, credit }: EliminationLine, place: number) => {
    const minor = minorOf(debit, digits) - minorOf(credit, digits);
    return turner ? atRate(turner.rates.closing(place), fraction(minor)) : minor;
  };
  const head = {
    ...{ kind: 'by_hand' as const, journal: `by_hand ${journal}`, rule: rule || journal },
    about: turner ? [turner.entity.code] : [],
    isOpening: kind === 'opening',
  };
  const at = (place: number, sign: 1 | -1, rated = place) =>
    frame.post(
      { ...head, period: place },
      lines.map((line): Line => ({
        ...{ account: frame.indexOf(line.account), entity: line.entity, partner: line.partner },
        ...{ amount: sign * amountOf(line, rated), reason: 'by_hand', text: line.reason },
      })),
      // each line is turned by itself
      { account: frame.role('rounding'), reason: 'by_hand' },
    );
  const isRegular = (place: number) => frame.periods[place]!.kind === 'regular';
  at(p, 1);
  const next = frame.periods.findIndex((_, place) => place > p && isRegular(place));
  if (kind === 'reversing' && next >= 0) at(next, -1, p);
  if (kind === 'recurring') for (let place = p + 1; place < end; place++) if (isRegular(place)) at(place, 1);
}
