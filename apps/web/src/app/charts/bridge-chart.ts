import type { WhyView } from '@margin-lens/contract';
import { formatFigure, type ShownUnit } from '@margin-lens/core/shown';
import type { ChartOption } from '@margin-lens/core/shown';
import { CHART_COLOURS, CHART_FRAME } from '@margin-lens/core/shown';
import { bridgeStart } from './why-text';

const { ink: INK, second: SECOND_INK, prior: PRIOR, sheet: SHEET } = CHART_COLOURS;

/** The ends of a bridge: actual figures are filled, those of versions outlined. */
const endFill = (name: string, actual: string) => (name === 'Actual' ? actual : SHEET);

/**
 * A bridge lying on its side: each step stands where the one before ended, ends that are cut off bear a mark; `shown`
 * labels the steps directly.
 */
export function bridgeOption(view: WhyView, shown?: ShownUnit): ChartOption {
  const steps = [
    { label: view.base, from: 0, to: view.from, colour: endFill(view.base, PRIOR), text: view.from },
    ...view.terms.map(({ label, amount, favour }, at) => {
      const from = view.terms.slice(0, at).reduce((sum, term) => sum + term.amount, view.from);
      return { label, from, to: from + amount, colour: favour ? CHART_COLOURS[favour] : SECOND_INK, text: amount };
    }),
    { label: view.of, from: 0, to: view.to, colour: endFill(view.of, INK), text: view.to },
  ].reverse();
  const start = bridgeStart(view);
  const thick = shown === undefined ? 12 : 16;
  return {
    ...CHART_FRAME,
    grid: {
      left: 4,
      right: shown === undefined ? 8 : 60,
      top: 2,
      bottom: 2,
      outerBoundsMode: 'same',
      outerBoundsContain: 'axisLabel',
    },
    xAxis: {
      type: 'value',
      show: false,
      ...(start > 0 && { min: start }),
      ...(start < 0 && { max: start }),
    },
    yAxis: {
      type: 'category',
      data: steps.map(({ label }) => label),
      axisTick: { show: false },
      axisLine: { show: false },
      axisLabel: {
        fontSize: shown === undefined ? 11 : 12.5,
        color: INK,
        width: shown === undefined ? 120 : 190,
        overflow: 'truncate',
      },
    },
    series: [
      {
        type: 'custom',
        encode: { x: [1, 2], y: 0 },
        data: steps.map(({ from, to, colour }, at) => ({
          value: [at, from === 0 ? start : from, to],
          itemStyle: { color: colour },
        })),
        renderItem: (_params: unknown, api: BridgeApi) => {
          const [a, b] = [api.coord([api.value(1), api.value(0)]), api.coord([api.value(2), api.value(0)])];
          const [x, width] = [Math.min(a[0], b[0]), Math.max(1, Math.abs(b[0] - a[0]))];
          const fill = api.visual('color');
          const bar = {
            type: 'rect',
            shape: { x, y: a[1] - thick / 2, width, height: thick },
            style: { fill, ...(fill === SHEET && { stroke: INK, lineWidth: 1 }) },
          };
          const isCut = start !== 0 && [0, steps.length - 1].includes(api.value(0));
          const text =
            shown === undefined ? '' : formatFigure({ amount: steps[api.value(0)]!.text, unit: view.unit }, shown);
          return {
            type: 'group',
            children: [
              bar,
              ...(isCut ? [cutMark(start > 0 ? x + 10 : x + width - 10, a[1], thick)] : []),
              {
                type: 'text',
                style: {
                  text,
                  x: x + width + 6,
                  y: a[1],
                  verticalAlign: 'middle',
                  fontSize: 12,
                  fontFamily: CHART_FRAME.textStyle.fontFamily,
                  fill: INK,
                },
              },
            ],
          };
        },
      },
    ],
  };
}

/** Two strokes through a bar that does not begin at zero. */
function cutMark(x: number, y: number, thick: number) {
  const stroke = (at: number) => ({
    type: 'line',
    shape: { x1: at - 3, y1: y + thick / 2 + 2, x2: at + 3, y2: y - thick / 2 - 2 },
    style: { stroke: 'var(--paper)', lineWidth: 2.5 },
  });
  return { type: 'group', children: [stroke(x), stroke(x + 5)] };
}

/** What the drawing of one step is given. */
interface BridgeApi {
  value(dimension: number): number;
  coord(point: [number, number]): [number, number];
  visual(name: 'color'): string;
}
