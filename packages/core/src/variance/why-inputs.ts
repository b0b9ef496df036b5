import { stepsPerUnit } from '../figure/figure';
import type { CompiledRow } from '../statement/compiled-row';
import type { Evaluation } from '../statement/evaluation';
import type { TraceNode } from '../statement/trace-node';
import type { BridgeTerm } from './bridge';
import type { Change } from './why';

/**
 * Tells the change of a row that varies with a quantity apart into volume, and what is left at the new volume; where the
 * row says what it uses up, that is price and efficiency.
 *
 * Units: those of the cell, whole; the terms add up to the change, price (or all of what is left) taking what rounding
 * leaves. Missing: undefined where the row varies with nothing, or a side has no quantities.
 * @source reference definition 19; price and efficiency of inputs: Horngren et al., Cost Accounting, flexible budgets
 */
export function whyByInputs(evaluation: Evaluation, row: CompiledRow, change: Change): BridgeTerm[] | undefined {
  const quantity = (driver: number | undefined, { at, ...side }: TraceNode) => {
    if (driver === undefined || at !== 'cell') return 0;
    const { amount, unit } = evaluation.figure({ at, ...(side as { column: number }), row: driver });
    return (amount ?? 0) / stepsPerUnit(unit);
  };
  const volume = quantity(row.variesWith, change.of) / quantity(row.variesWith, change.base);
  if (!Number.isFinite(volume)) return undefined;
  const flexed = Math.round(change.from * volume);
  const byVolume = { id: 'volume', label: 'Volume', amount: flexed - change.from };
  const left = change.to - flexed;
  const [used, planned] = [quantity(row.usage, change.of), quantity(row.usage, change.base)];
  if (used === 0 || planned === 0) return [byVolume, { id: 'spending', label: 'Price and efficiency', amount: left }];
  const efficiency = Math.round((used - planned * volume) * (change.from / planned));
  return [
    byVolume,
    { id: 'price', label: 'Price', amount: left - efficiency },
    { id: 'efficiency', label: 'Efficiency', amount: efficiency },
  ];
}
