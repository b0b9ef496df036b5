import { fraction } from '../money/fraction';
import type { EliminationLine } from '../scope/group-records';
import { digitsOf } from '../currency/minor-units';
import { atRate, type EliminationFrame, type Line } from './elimination-frame';
import { minorOf } from './purchases';

/** Kind of a journal that goes back in the period after its own. */
const REVERSING = 'reversing';

/**
 * Eliminations of the group that were entered by hand: each stands from its period on, or goes back in the next where it
 * says so. In another currency than the group's they are turned at the closing rate of their period.
 */
export function eliminateByHand(frame: EliminationFrame): void {
  const { group, facts } = frame.consolidated;
  const own = facts.byHand.filter((line) => line.group === group);
  const keyOf = ({ journal, period, kind }: EliminationLine) => [journal, period, kind].join(' ');
  for (const key of new Set(own.map(keyOf)))
    post(
      frame,
      own.filter((line) => keyOf(line) === key),
    );
}

function post(frame: EliminationFrame, lines: readonly EliminationLine[]): void {
  const { journal, period, kind, rule } = lines[0]!;
  const p = frame.periods.findIndex(({ key }) => key === period);
  if (p < 0) return;
  const { currency } = frame.consolidated;
  const digits = digitsOf(currency);
  // whoever has the group's currency knows its rates
  const turner =
    currency === frame.source.scope.currency.code
      ? undefined
      : frame.source.members.find(({ entity }) => entity.currency.code === currency);
  if (!turner && currency !== frame.source.scope.currency.code) {
    frame.gaps.push({ journal: `by_hand ${journal}`, period: p, reason: 'by_hand' });
    return;
  }
  const amountOf = ({ debit, credit }: EliminationLine) => {
    const minor = minorOf(debit, digits) - minorOf(credit, digits);
    return turner ? atRate(turner.rates.closing(p), fraction(minor)) : minor;
  };
  const head = {
    ...{ kind: 'by_hand' as const, journal: `by_hand ${journal}`, rule: rule || journal },
    about: turner ? [turner.entity.code] : [],
    isOpening: kind === 'opening',
  };
  const at = (place: number, sign: 1 | -1) =>
    frame.post(
      { ...head, period: place },
      lines.map((line): Line => ({
        ...{ account: frame.indexOf(line.account), entity: line.entity, partner: line.partner },
        ...{ amount: sign * amountOf(line), reason: 'by_hand', text: line.reason },
      })),
      // each line is turned by itself
      { account: frame.role('rounding'), reason: 'by_hand' },
    );
  at(p, 1);
  const next = frame.periods.findIndex(({ kind: of }, place) => place > p && of === 'regular');
  if (kind === REVERSING && next >= 0) at(next, -1);
}
