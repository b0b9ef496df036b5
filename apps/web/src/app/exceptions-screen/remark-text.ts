import { formatFigure, type ShownUnit } from '@margin-lens/core';
import type { ExceptionRowView, ExceptionsView, Quote, RemarkView } from '@margin-lens/contract';

export const WHAT_WORDS: Record<Quote['what'], string> = {
  actual: 'actual',
  base: 'base',
  change: 'change',
  percent: 'percent',
};

/** A piece of a remark: plain words, or a figure with what it was when it was quoted, where it moved since. */
export interface Piece {
  text: string;
  isFigure: boolean;
  moved: string;
}

/** A figure of a row as the page shows it. */
export function shownFigure(row: ExceptionRowView, what: Quote['what'], unit: ShownUnit): { amount: number | null; shown: string } {
  if (what === 'percent') {
    const { percent } = row;
    return { amount: percent, shown: percent === null ? 'no base' : `${formatFigure({ amount: percent, unit: { kind: 'ratio' } }, 1, { negative: 'minus' })} %` };
  }
  const amount = row[what];
  return { amount, shown: formatFigure({ amount, unit: row.unit }, unit, { zero: 'zero' }) };
} // prettier-ignore

export const allRows = (view: ExceptionsView): ExceptionRowView[] => [
  ...(view.result ? [view.result] : []),
  ...view.exceptions,
  ...view.flat,
  ...view.unplanned,
  ...view.noActuals,
];

/** The text of a remark with its quoted figures as they are now; those that moved say what they were. */
export function piecesOf({ text, quotes }: Pick<RemarkView, 'text' | 'quotes'>, view: ExceptionsView, unit: ShownUnit): Piece[] {
  return text.split(/(\{[a-z]\w*\})/).flatMap((part): Piece[] => {
    if (part === '') return [];
    const quote = quotes.find(({ key }) => part === `{${key}}`);
    if (!quote) return [{ text: part, isFigure: false, moved: '' }];
    const row = allRows(view).find(({ id }) => id === quote.row);
    if (!row) return [{ text: quote.shown, isFigure: true, moved: 'no longer on this page' }];
    const now = shownFigure(row, quote.what, unit);
    return [{ text: now.shown, isFigure: true, moved: now.amount === quote.amount ? '' : `was ${quote.shown}` }];
  });
} // prettier-ignore

/** The next key for a quote. */
export const nextKey = (quotes: readonly Quote[]): string => `q${quotes.length + 1}`;
