/** Height of a row in pixels; the style sheet of the table has the same. */
export const ROW_PX = 24;
/** Height of the head in pixels. */
export const HEAD_PX = 32;
/** Rows drawn beyond the window, above and below. */
const SPARE_ROWS = 3; // 2 to 40
/** Rows that are scrolled by before others are drawn. */
const STEP_ROWS = 3; // 1 to 20
/** Columns that are all drawn, whether they are in sight or not. */
const WHOLE_COLUMNS = 16; // 0 to 40
/** Columns drawn beyond the window, left and right, and scrolled by before others are drawn. */
const SPARE_COLUMNS = 2; // 1 to 10

/** What is seen of the sheet, in pixels: its corner, and its size. */
export interface SheetWindow {
  top: number;
  left: number;
  width: number;
  height: number;
}

/** Rows to draw: places of the first and behind the last, and the heights of what is left out above and below. */
export function rowsInSight(
  { top, height }: SheetWindow,
  count: number,
): { from: number; to: number; above: number; below: number } {
  const first = Math.floor(top / ROW_PX / STEP_ROWS) * STEP_ROWS;
  const from = Math.max(0, Math.min(first - SPARE_ROWS, count));
  const to = Math.min(count, first + Math.ceil(height / ROW_PX) + STEP_ROWS + SPARE_ROWS);
  return { from, to, above: from * ROW_PX, below: (count - to) * ROW_PX };
}

/** The most rows that are drawn at once. */
export const mostRows = ({ height }: SheetWindow): number => Math.ceil(height / ROW_PX) + 2 * SPARE_ROWS + STEP_ROWS;

/** Places of the columns to draw, in order; those that stay in sight are always among them. */
export function columnsInSight(
  { left, width }: SheetWindow,
  labelPx: number,
  columns: readonly { px: number; isPinned: boolean }[],
): number[] {
  const all = columns.map((_, at) => at);
  if (all.length <= WHOLE_COLUMNS) return all;
  let edge = 0;
  const seen = all.filter((at) => {
    const from = edge;
    edge += columns[at]!.px;
    return edge > left && from < left + width - labelPx;
  });
  const step = (at: number, round: (steps: number) => number) => round(at / SPARE_COLUMNS) * SPARE_COLUMNS;
  const from = step(seen[0] ?? 0, Math.floor) - SPARE_COLUMNS;
  const to = step((seen[seen.length - 1] ?? 0) + 1, Math.ceil) + SPARE_COLUMNS;
  return all.filter((at) => (at >= from && at < to) || columns[at]!.isPinned);
}
