/** How bars say what they show: actual solid, last year lighter, plan outlined, forecast hatched. */
export type Notation = 'actual' | 'prior_year' | 'plan' | 'forecast';

/** Colours of charts are the tokens of the styles, so that they follow the theme as everything else does. */
export const CHART_COLOURS = {
  ink: 'var(--ink)',
  second: 'var(--ink-2)',
  sheet: 'var(--sheet)',
  prior: 'var(--prior)',
  brass: 'var(--brass)',
  favourable: 'var(--favourable)',
  adverse: 'var(--adverse)',
} as const;
const { ink: INK, prior: PRIOR, sheet: SHEET } = CHART_COLOURS;

const HATCH = { symbol: 'rect', color: INK, dashArrayX: [1, 0], dashArrayY: [1.5, 3], rotation: -Math.PI / 4 };

export function barStyle(notation: Notation): Record<string, unknown> {
  switch (notation) {
    case 'actual':
      return { color: INK };
    case 'prior_year':
      return { color: PRIOR };
    case 'plan':
      return { color: SHEET, borderColor: INK, borderWidth: 1 };
    case 'forecast':
      return { color: SHEET, borderColor: INK, borderWidth: 1, decal: HATCH };
  }
}

/** The usual frame of a chart: no gridlines, small labels. */
export const CHART_FRAME = {
  aria: { enabled: false, decal: { show: true } },
  grid: { left: 6, right: 6, top: 18, bottom: 4, outerBoundsMode: 'same', outerBoundsContain: 'axisLabel' },
  textStyle: { fontFamily: "'Source Sans 3 Variable', sans-serif", color: INK },
} as const;

/** What a chart draws, as ECharts reads it; a plain object, so that it is made without loading the library. */
export type ChartOption = Record<string, unknown>;
