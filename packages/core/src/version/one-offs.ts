import { applyChanges, editTotal, rowFigures, type SheetFrame } from './edit-figures';
import type { FigureLines, SheetRow } from './planning-sheet';

/** What of a row's month is taken off before its year serves others as a shape. Units: minor units of the row's own reading. */
export interface OneOff {
  month: number;
  amount: number;
}

/** A modified z-score beyond which a figure is a likely outlier. */
const BEYOND = 3.5;
/** What makes the median absolute deviation, or the mean one where that is 0, comparable with a standard deviation. */
const OF_MEDIAN = 0.6745;
const OF_MEAN = 1.253314;

/**
 * Months whose figures stand out from the others of a year, with what they are more than the median.
 *
 * Missing: none among fewer than four figures, and none where all are the same.
 * @source Iglewicz and Hoaglin, modified z-scores with 3.5 as the limit, as in the NIST/SEMATECH e-Handbook of Statistical
 * Methods, 1.3.5.17
 */
export function likelyOneOffs(figures: readonly number[]): OneOff[] {
  if (figures.length < 4) return [];
  const middle = median(figures);
  const deviations = figures.map((figure) => Math.abs(figure - middle));
  const spread = median(deviations);
  const mean = deviations.reduce((sum, each) => sum + each, 0) / deviations.length;
  const scale = spread > 0 ? spread / OF_MEDIAN : mean * OF_MEAN;
  if (scale === 0) return [];
  return figures.flatMap((figure, month) =>
    Math.abs(figure - middle) / scale > BEYOND ? { month, amount: figure - Math.round(middle) } : [],
  );
}

function median(figures: readonly number[]): number {
  const sorted = [...figures].sort((a, b) => a - b);
  const half = sorted.length / 2;
  return Number.isInteger(half) ? (sorted[half - 1]! + sorted[half]!) / 2 : sorted[Math.floor(half)]!;
}

/** Lines of a year without what is taken off of rows, each spread over what the row is made of in that month. */
export function withoutOneOffs(
  lines: FigureLines,
  taken: readonly (OneOff & { row: SheetRow })[],
  frame: SheetFrame,
): FigureLines {
  const whole = { own: frame.own.map(() => true), openings: new Map() };
  return taken.reduce((left, { row, month, amount }) => {
    const flow = { ...row, isBalance: false };
    const edited = editTotal(left, flow, whole, [month], rowFigures(left, flow, whole)[month]! - amount);
    return edited.changes ? applyChanges(left, edited.changes, frame.own.length) : left;
  }, lines);
}
