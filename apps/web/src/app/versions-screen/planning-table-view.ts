import type { ShownUnit, SheetColumn } from '@margin-lens/core';
import type { PeriodView } from '@margin-lens/contract';
import type { SheetModel } from './sheet-model';

/** The head of a column. */
export interface ColumnView {
  id: string;
  label: string;
  /** In full, for who hears it. */
  title: string;
  notation: 'actual' | 'plan' | 'forecast';
  isTotal: boolean;
  isActual: boolean;
}

export function columnView(
  { id, grain, periods: places }: SheetColumn,
  periods: readonly PeriodView[],
  ordinals: readonly number[],
  isActual: boolean,
  kind: 'plan' | 'forecast' | 'branch',
): ColumnView {
  const last = periods.find(({ ordinal }) => ordinal === ordinals[places[places.length - 1]!])!;
  const year = `FY${String(last.fiscalYear).slice(2)}`;
  const label = grain === 'month' ? last.short : grain === 'quarter' ? `Q${last.quarter}` : year;
  const title =
    grain === 'month'
      ? last.name
      : grain === 'quarter'
        ? `Q${last.quarter} ${year}, ${places.length} months`
        : `${year}, ${places.length} months`;
  const notation = isActual ? 'actual' : kind === 'plan' ? 'plan' : 'forecast';
  return { id, label, title, notation, isTotal: grain === 'year', isActual };
}

/** Widths of the columns in pixels, from the longest figure of each kind of column. */
export function widthsOf(model: SheetModel, unit: ShownUnit): { label: number; columns: number[]; compared: number } {
  let [month, total] = [6, 6];
  for (const row of model.rows)
    model.texts(row, unit).forEach(({ length }, at) => {
      if (model.columns[at]!.grain === 'year') total = Math.max(total, length);
      else month = Math.max(month, length);
    });
  const px = (characters: number) => Math.round(characters * 6.1 + 9);
  return {
    label: 176,
    columns: model.columns.map(({ grain }) => px(grain === 'year' ? total + 0.5 : month)),
    compared: px(total),
  };
}

const drawn = new WeakMap<readonly (number | null)[], string>();

/** Points of the small line of a row, through its months; found once for the same figures. */
export function lineOf(figures: readonly (number | null)[], columns: readonly SheetColumn[]): string {
  const known = drawn.get(figures);
  if (known !== undefined) return known;
  const points = sparkline(figures.filter((_, at) => columns[at]!.grain !== 'year'));
  drawn.set(figures, points);
  return points;
}

const LINE = { width: 56, height: 16 } as const;

/** Points of a small line through the months, between its own least and most. */
export function sparkline(figures: readonly (number | null)[]): string {
  const known = figures.filter((figure) => figure !== null);
  if (known.length < 2 || known.every((figure) => figure === known[0])) return '';
  const [least, most] = [Math.min(...known), Math.max(...known)];
  return figures
    .flatMap((figure, at) =>
      figure === null
        ? []
        : [
            `${((at * LINE.width) / (figures.length - 1)).toFixed(1)},${(LINE.height - 1 - ((figure - least) / (most - least)) * (LINE.height - 2)).toFixed(1)}`,
          ],
    )
    .join(' ');
}
