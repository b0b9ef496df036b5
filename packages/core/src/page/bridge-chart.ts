import { formatFigure, type ShownUnit } from '../figure/format-figure';
import type { Unit } from '../figure/figure';
import type { BridgeTerm } from '../variance/bridge';
import { CHART_COLOURS, CHART_FRAME, type ChartOption } from './chart-notation';

/** Steps from one figure to another. Units: minor units of `unit`; favourable steps are positive. */
export interface BridgeSteps {
  from: BridgeTerm;
  terms: readonly BridgeTerm[];
  to: BridgeTerm;
  unit: Unit;
}

/** Height of a step and of what stands around them, in CSS pixels. */
const STEP_PX = 26;
const FRAME_PX = 16;

export const bridgeHeight = ({ terms }: BridgeSteps): number => (terms.length + 2) * STEP_PX + FRAME_PX;

/**
 * A bridge lying on its side, of bars alone: each step stands where the one before ended, on a bar that is not seen; where
 * it goes over zero it is of two. Plain data, so that it can be sent.
 */
export function bridgeBars({ from, terms, to, unit }: BridgeSteps, shown: ShownUnit): ChartOption {
  let at = from.amount;
  const steps = [
    { label: from.label, start: 0, end: from.amount, amount: from.amount, colour: CHART_COLOURS.ink },
    ...terms.map(({ label, amount }) => {
      const start = at;
      at += amount;
      const colour = amount > 0 ? CHART_COLOURS.favourable : CHART_COLOURS.adverse;
      return { label, start, end: at, amount, colour };
    }),
    { label: to.label, start: 0, end: to.amount, amount: to.amount, colour: CHART_COLOURS.ink },
  ].reverse();
  const parts = steps.map(({ start, end }) => {
    const [low, high] = [Math.min(start, end), Math.max(start, end)];
    return {
      under: low > 0 ? low : high < 0 ? high : 0,
      over: high > 0 ? high - Math.max(low, 0) : 0,
      below: low < 0 ? low - Math.min(high, 0) : 0,
    };
  });
  const text = (amount: number) => formatFigure({ amount, unit }, shown, { zero: 'zero' });
  /** What each step is, behind its bar: that over zero, where there is one. */
  const bars = (name: 'over' | 'below') => ({
    ...{ type: 'bar', stack: 'steps', barWidth: 14 },
    data: parts.map((part, place) => {
      const { colour, amount } = steps[place]!;
      const isLabelled = part[name] !== 0 || (name === 'over' && part.below === 0);
      return {
        ...{ value: part[name], itemStyle: { color: colour } },
        label: {
          ...{ show: isLabelled && (name === 'over' || part.over === 0), position: 'right', formatter: text(amount) },
          ...{ fontSize: 11, color: CHART_COLOURS.ink },
        },
      };
    }),
  });
  return {
    ...CHART_FRAME,
    grid: { left: 4, right: 76, top: 4, bottom: 4, outerBoundsMode: 'same', outerBoundsContain: 'axisLabel' },
    xAxis: { type: 'value', show: false },
    yAxis: {
      ...{
        type: 'category',
        data: steps.map(({ label }) => label),
        axisTick: { show: false },
        axisLine: { show: false },
      },
      axisLabel: { fontSize: 11, color: CHART_COLOURS.ink, width: 220, overflow: 'truncate' },
    },
    series: [
      {
        type: 'bar',
        stack: 'steps',
        silent: true,
        itemStyle: { color: 'transparent' },
        data: parts.map(({ under }) => under),
      },
      bars('below'),
      bars('over'),
    ],
  };
}
