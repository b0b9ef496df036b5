import { formatFigure, type ShownUnit } from '../figure/format-figure';
import type { Unit } from '../figure/figure';
import { barStyle, CHART_COLOURS, CHART_FRAME, type ChartOption, type Notation } from './chart-notation';

/** Steps from one figure to another. Units: minor units of `unit`. */
export interface BridgeSteps {
  from: BridgeEnd;
  terms: readonly BridgeStep[];
  to: BridgeEnd;
  unit: Unit;
}

export interface BridgeEnd {
  label: string;
  amount: number;
  notation: Notation;
}

export interface BridgeStep {
  label: string;
  amount: number;
  favour?: 'favourable' | 'adverse' | null;
}

/** A result without what does not come again, as steps; `result` names it. */
export function underlyingSteps(told: {
  result: string;
  reported: number;
  terms: readonly { label: string; amount: number }[];
  underlying: number;
  unit: Unit;
}): BridgeSteps {
  const { result, reported, terms, underlying, unit } = told;
  return {
    from: { label: `${result}, reported`, amount: reported, notation: 'actual' },
    terms: terms.map((term) => ({ ...term, favour: term.amount > 0 ? 'favourable' : 'adverse' })),
    to: { label: `${result}, underlying`, amount: underlying, notation: 'actual' },
    unit,
  };
}

/** Height of a step and of what stands around them, in CSS pixels. */
const STEP_PX = 26;
const FRAME_PX = 16;

export const bridgeHeight = ({ terms }: BridgeSteps): number => (terms.length + 2) * STEP_PX + FRAME_PX;

/**
 * Where the ends of a bridge are cut off, because its steps would be too small to see beside them; 0 where they are not.
 * Unit: as the figures.
 */
export function bridgeStart({ from, terms }: BridgeSteps): number {
  const ends = terms.reduce((all, { amount }) => [...all, all.at(-1)! + amount], [from.amount]);
  const [least, most] = [Math.min(...ends), Math.max(...ends)];
  const span = most - least;
  if (least > span * 3) return least - span * 0.4;
  return most < -span * 3 ? most + span * 0.4 : 0;
}

/** Says where the bars of the ends begin when they do not at zero; empty otherwise. */
export function cutWords(steps: BridgeSteps, shown: ShownUnit): string {
  const start = bridgeStart(steps);
  return start === 0
    ? ''
    : `The bars of the ends begin at ${formatFigure({ amount: start, unit: steps.unit }, shown)}.`;
}

/** How a bridge is drawn where its steps are labelled, and beside other things where their names alone are. */
const LARGE = { thick: 16, right: 76, size: 12, width: 200 };
const SMALL = { thick: 12, right: 8, size: 11, width: 120 };

/** Two strokes through a bar that does not begin at zero. */
const CUT = { show: true, formatter: '//', fontSize: 14, fontWeight: 700 };

/** The mark where a bar is cut off, in the colour that it is seen in on the bar. */
const cutOn = ({ color }: Record<string, unknown>, start: number) => ({
  ...{ ...CUT, position: start > 0 ? 'right' : 'left' },
  color: color === CHART_COLOURS.sheet ? CHART_COLOURS.ink : CHART_COLOURS.sheet,
});

/**
 * A bridge lying on its side, of bars alone: each step stands where the one before ended, on a bar that is not seen; where
 * it goes over zero it is of two. Ends that are cut off bear a mark.
 * @param shown labels the steps
 */
export function bridgeBars(bridge: BridgeSteps, shown?: ShownUnit): ChartOption {
  const { from, terms, to, unit } = bridge;
  const size = shown === undefined ? SMALL : LARGE;
  const start = bridgeStart(bridge);
  const end = ({ label, amount, notation }: BridgeEnd) => ({
    ...{ label, amount, start, end: amount, isEnd: true, itemStyle: barStyle(notation) },
  });
  let at = from.amount;
  const steps = [
    end(from),
    ...terms.map(({ label, amount, favour }) => {
      const before = at;
      at += amount;
      const itemStyle = { color: CHART_COLOURS[favour ?? 'second'] };
      return { label, amount, start: before, end: at, isEnd: false, itemStyle };
    }),
    end(to),
  ].reverse();
  const parts = steps.map((step) => {
    const [low, high] = [Math.min(step.start, step.end), Math.max(step.start, step.end)];
    return {
      under: low > 0 ? low : high < 0 ? high : 0,
      over: high > 0 ? high - Math.max(low, 0) : 0,
      below: low < 0 ? low - Math.min(high, 0) : 0,
    };
  });
  const text = (amount: number) => (shown === undefined ? '' : formatFigure({ amount, unit }, shown, { zero: 'zero' }));
  /** What each step is, behind its bar: that over zero, where there is one. */
  const bars = (name: 'over' | 'below') => ({
    ...{ type: 'bar', stack: 'steps', barWidth: size.thick },
    data: parts.map((part, place) => {
      const { itemStyle, amount } = steps[place]!;
      const isLabelled = part[name] !== 0 || (name === 'over' && part.below === 0);
      return {
        ...{ value: part[name], itemStyle },
        label: {
          show: shown !== undefined && isLabelled && (name === 'over' || part.over === 0),
          ...{ position: 'right', formatter: text(amount), fontSize: size.size, color: CHART_COLOURS.ink },
        },
      };
    }),
  });
  const none = { show: false };
  return {
    ...CHART_FRAME,
    grid: { left: 4, right: size.right, top: 4, bottom: 4, outerBoundsMode: 'same', outerBoundsContain: 'axisLabel' },
    xAxis: { type: 'value', show: false, ...(start > 0 && { min: start }), ...(start < 0 && { max: start }) },
    yAxis: {
      ...{ type: 'category', data: steps.map(({ label }) => label), axisTick: none, axisLine: none },
      axisLabel: { fontSize: size.size, color: CHART_COLOURS.ink, width: size.width, overflow: 'truncate' },
    },
    series: [
      {
        ...{ type: 'bar', stack: 'steps', silent: true, z: 3, itemStyle: { color: 'transparent' } },
        data: parts.map(({ under }, place) => ({
          value: under,
          ...(start !== 0 && steps[place]!.isEnd && { label: cutOn(steps[place]!.itemStyle, start) }),
        })),
      },
      bars('below'),
      bars('over'),
    ],
  };
}
