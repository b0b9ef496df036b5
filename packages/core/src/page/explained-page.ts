import { formatFigure, readPer, shownDecimals, type FigureLook, type ShownUnit } from '../figure/format-figure';
import type { Unit } from '../figure/figure';
import type { BridgeTerm } from '../variance/bridge';
import { bridgeBars, bridgeHeight, cutWords, underlyingSteps } from './bridge-chart';
import type { PageBlock, PageColumn, PageRow } from './page';

/** A result without what does not come again, as it is printed. Units: minor units of `unit`. */
export interface ExplainedOnPaper {
  unit: Unit;
  /** Name of the result, and the span. */
  result: string;
  span: string;
  reported: number;
  terms: readonly BridgeTerm[];
  underlying: number;
  /** The variance by what explains it, each with its name; empty where nothing is compared. */
  parts: readonly BridgeTerm[];
  variance: number;
  /** What is to be said of matters of timing, a sentence each. */
  timing: readonly string[];
}

const LOOK: FigureLook = { zero: 'zero' };

/** From reported to underlying, the variance by its kinds, and what came back of matters of timing. */
export function explainedBlocks(told: ExplainedOnPaper, shown: ShownUnit): PageBlock[] {
  const { unit, span, terms, parts, variance, timing } = told;
  const steps = underlyingSteps(told);
  const [from, to] = [
    { id: 'reported', ...steps.from },
    { id: 'underlying', ...steps.to },
  ];
  const tableOf = (first: readonly BridgeTerm[], last: BridgeTerm): PageBlock => ({
    kind: 'table',
    table: {
      ...{ labelHead: '', look: LOOK, columns: [columnOf(span)] },
      rows: [...first.map(rowOf(unit, shown, 'detail')), rowOf(unit, shown, 'result')(last)],
    },
  });
  const words = ['What does not come again is taken out, and nothing else.', cutWords(steps, shown)]
    .filter(Boolean)
    .join(' ');
  return [
    tableOf([from, ...terms], to),
    ...(terms.length === 0
      ? [{ kind: 'text' as const, text: 'No remark names anything that does not come again.' }]
      : [
          {
            ...{ kind: 'chart' as const, title: '', words, option: bridgeBars(steps, shown) },
            ...{ height: bridgeHeight(steps), readPer: readPer(unit, shown) },
          },
        ]),
    ...(parts.length === 0
      ? []
      : [
          { kind: 'heading' as const, text: 'The variance, by what it is' },
          tableOf(parts, { id: 'variance', label: 'Variance of the result', amount: variance }),
        ]),
    ...(timing.length === 0 ? [] : [{ kind: 'heading' as const, text: 'Timing' }]),
    ...timing.map((text): PageBlock => ({ kind: 'paragraph', runs: [{ text }] })),
  ];
}

const columnOf = (label: string): PageColumn => ({
  ...{ id: 'amount', notation: 'none', label, block: 'span', blockLabel: '' },
  ...{ note: '', dates: '', isDated: true, flags: [] },
});

const rowOf =
  (unit: Unit, shown: ShownUnit, style: 'detail' | 'result') =>
  ({ id, label, amount }: BridgeTerm): PageRow => ({
    ...{ id, label, note: '', style, kind: 'figures', depth: 0, startsPage: false },
    cells: [
      {
        ...{ figure: { amount, unit }, unit, note: '', address: `${id}~amount` },
        text: formatFigure({ amount, unit }, shown, LOOK),
        decimals: shownDecimals(unit, shown, LOOK),
      },
    ],
  });
