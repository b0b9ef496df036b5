import { datesOfSpan } from '../period/span';
import { isPercentage } from './cell-expression';
import { hasSpan, isAtEnd, type HeadContext } from './head-context';
import type { CompiledColumn, Measure } from './compiled-column';
import { heldPeriods } from './held-periods';

const READS: Record<Measure, 'flow' | 'balance' | 'nature'> = {
  movement: 'flow',
  flow: 'flow',
  exchange_difference: 'flow',
  entered: 'flow',
  left: 'flow',
  opening: 'balance',
  closing: 'balance',
  average: 'balance',
  average_of_ends: 'balance',
  by_nature: 'nature',
};

const periodsInWords = (count: number): string => `${count} ${count === 1 ? 'period' : 'periods'}`;

/**
 * What makes a comparison of two columns unequal or meaningless, in words.
 * @source domain notes, Time: number of periods, regular against adjustment, periods with data, days
 */
export function comparisonFlags(
  of: CompiledColumn,
  base: CompiledColumn,
  all: readonly CompiledColumn[],
  context: HeadContext,
): string[] {
  if (of.kind === 'blank' || base.kind === 'blank') return ['One side is an empty column.'];
  if (isPercentage(of) !== isPercentage(base)) return ['An amount against a percentage means nothing.'];
  if (!hasSpan(of) || !hasSpan(base)) return [];
  const flags: string[] = [];
  const [reads, against] = [READS[of.measure], READS[base.measure]];
  if (reads !== against && reads !== 'nature' && against !== 'nature')
    flags.push('A movement against a balance means nothing.');
  if (!of.span || !base.span) return [...flags, 'One side is not loaded.'];
  const [a, b] = [of, base].map((side) => heldPeriods(side, all, context));
  const [daysOf, daysBase] = [of, base].map((side) => datesOfSpan(context.calendar, side.span!).days);
  if (a!.periods !== b!.periods) flags.push(`${periodsInWords(a!.periods)} against ${b!.periods}.`);
  if (a!.adjustments !== b!.adjustments) flags.push('One side holds an adjustment period, the other none.');
  if (a!.held !== b!.held) flags.push(`${periodsInWords(a!.held)} with data against ${b!.held}.`);
  const areBalances = reads === 'balance' || (isAtEnd(of, context) && isAtEnd(base, context));
  if (daysOf !== daysBase && !areBalances) flags.push(`${daysOf} days against ${daysBase}.`);
  return flags;
}
