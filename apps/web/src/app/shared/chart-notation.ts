/** How bars say what they show: actual solid, last year lighter, plan outlined, forecast hatched. */
export type Notation = 'actual' | 'prior_year' | 'plan' | 'forecast';

const INK = '#22282b';
const PRIOR = '#9a978e';

const HATCH = { symbol: 'rect', color: INK, dashArrayX: [1, 0], dashArrayY: [1.5, 3], rotation: -Math.PI / 4 };

export function barStyle(notation: Notation): Record<string, unknown> {
  switch (notation) {
    case 'actual':
      return { color: INK };
    case 'prior_year':
      return { color: PRIOR };
    case 'plan':
      return { color: '#fff', borderColor: INK, borderWidth: 1 };
    case 'forecast':
      return { color: '#fff', borderColor: INK, borderWidth: 1, decal: HATCH };
  }
}

/** The usual frame of a chart: no gridlines, small labels. */
export const CHART_FRAME = {
  aria: { enabled: false, decal: { show: true } },
  grid: { left: 6, right: 6, top: 18, bottom: 4, containLabel: true },
  textStyle: { fontFamily: "'Source Sans 3 Variable', sans-serif", color: INK },
} as const;
