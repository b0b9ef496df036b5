import fc from 'fast-check';
import { bridgeBars, bridgeStart, type BridgeSteps } from './bridge-chart';
import { CHART_COLOURS } from './chart-notation';

const EURO = { kind: 'currency', code: 'EUR', digits: 2 } as const;
const stepsOf = (from: number, amounts: readonly number[]): BridgeSteps => ({
  from: { label: 'Plan', amount: from, notation: 'plan' },
  terms: amounts.map((amount, at) => ({ label: String(at), amount })),
  to: { label: 'Actual', amount: amounts.reduce((sum, each) => sum + each, from), notation: 'actual' },
  unit: EURO,
});

interface Drawn {
  series: { data: { value: number; label?: { color: string }; itemStyle?: { color: string } }[] }[];
}
/** Bars from the first step to the last: the unseen one, that below zero, that over it. */
function barsOf(steps: BridgeSteps) {
  const [under, below, over] = (bridgeBars(steps, 1) as unknown as Drawn).series.map(({ data }) => [...data].reverse());
  return under!.map((each, at) => ({ under: each, below: below![at]!, over: over![at]! }));
}

describe('a bridge', () => {
  it('has each step stand where the one before ended', () => {
    const amount = fc.integer({ min: -1000, max: 1000 });
    fc.assert(
      fc.property(amount, fc.array(amount, { maxLength: 8 }), (from, amounts) => {
        const steps = stepsOf(from, amounts);
        let at = from;
        barsOf(steps)
          .slice(1, -1)
          .forEach(({ under, below, over }, place) => {
            const [before, after] = [at, (at += amounts[place]!)];
            // what is not seen and what is over or below zero reach from the one end to the other
            const [low, high] = [Math.min(0, under.value) + below.value, Math.max(0, under.value) + over.value];
            const seen = [under.value > 0 ? under.value : low, under.value < 0 ? under.value : high];
            expect(seen).toEqual([Math.min(before, after), Math.max(before, after)]);
          });
      }),
    );
  });

  it('cuts ends off that are long beside its steps, with a mark that is seen on a bar of either look', () => {
    const steps = stepsOf(100_000, [500, -200]);
    expect(bridgeStart(steps)).toBe(100_000 - 0.4 * 500);
    const [first, last] = [barsOf(steps)[0]!, barsOf(steps).at(-1)!];
    // a plan is outlined, what was posted is filled
    expect([first.over.itemStyle!.color, first.under.label!.color]).toEqual([CHART_COLOURS.sheet, CHART_COLOURS.ink]);
    expect([last.over.itemStyle!.color, last.under.label!.color]).toEqual([CHART_COLOURS.ink, CHART_COLOURS.sheet]);
    expect(bridgeStart(stepsOf(1000, [500]))).toBe(0);
  });
});
