import type { ColumnHead } from '../statement/column-head';

/** How bars say what they show: actual solid, last year lighter, plan outlined, forecast hatched. */
export const NOTATIONS = ['actual', 'prior_year', 'plan', 'forecast'] as const;
export type Notation = (typeof NOTATIONS)[number];

/** How figures under a head are drawn; those of no version alone as actual ones. */
export const drawnAs = ({ notation }: Pick<ColumnHead, 'notation'>): Notation =>
  notation === 'plan' || notation === 'forecast' || notation === 'prior_year' ? notation : 'actual';

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

/** A colour thinned with that of the sheet. @param part of the colour, 0 to 1 */
export const thinned = (colour: string, part: number): string =>
  `color-mix(in srgb, ${colour} ${Math.round(100 * part)}%, ${SHEET})`;

/** How dark the parts of a whole are, the first the darkest: shades of one ink tell no versions. */
export const shade = (at: number, of: number): string => thinned(INK, 0.85 - (of <= 1 ? 0 : (0.7 * at) / (of - 1)));

/** Stack of the bars that are cells of a map: their lengths say nothing, their `amount` does. */
export const MAP = 'map';

/** The usual frame of a chart: no gridlines, small labels. */
export const CHART_FRAME = {
  aria: { enabled: false, decal: { show: true } },
  grid: { left: 6, right: 6, top: 18, bottom: 4, outerBoundsMode: 'same', outerBoundsContain: 'axisLabel' },
  textStyle: { fontFamily: "'Source Sans 3 Variable', sans-serif", color: INK },
} as const;

/**
 * How far names at the ends of lines move up or down, so that none lies on another.
 * @param ends where the lines end; null where one has no name there
 * @param all figures that the scale holds
 * @param room height of what is drawn, and that of a name, in pixels
 */
export function apart(
  ends: readonly (number | null)[],
  all: readonly (number | null)[],
  room: { height: number; name: number },
): number[] {
  const known = all.filter((figure) => figure !== null);
  const [least, most] = [Math.min(...known), Math.max(...known)];
  const placed = ends
    .flatMap((end, at) =>
      end === null ? [] : [{ at, y: most === least ? 0 : ((most - end) / (most - least)) * room.height }],
    )
    .sort((a, b) => a.y - b.y);
  const moved = placed.map(({ y }) => y);
  for (let at = 1; at < moved.length; at++) moved[at] = Math.max(moved[at]!, moved[at - 1]! + room.name);
  // what moved too far down is brought back, with those above it
  let floor = room.height + room.name / 2;
  for (let at = moved.length - 1; at >= 0; at--, floor -= room.name) moved[at] = Math.min(moved[at]!, floor);
  const offsets = ends.map(() => 0);
  placed.forEach(({ at, y }, index) => (offsets[at] = Math.round(moved[index]! - y)));
  return offsets;
}

/** What a chart draws, as ECharts reads it; plain data, so that it is made without loading the library and can be sent. */
export type ChartOption = Record<string, unknown>;
