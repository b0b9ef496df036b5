import { formatFigure, type ShownUnit } from '@margin-lens/core/shown';
import type { FigureView, LiveRemark, Quote } from '@margin-lens/contract';

/** A piece of a remark: plain words, or a figure with what it was when it was quoted, where it moved since. */
export interface Piece {
  text: string;
  isFigure: boolean;
  moved: string;
}

/** A figure as a remark quotes it: in the unit of the view, percentages with their sign. */
export function quotedText(figure: FigureView, unit: ShownUnit): string {
  if (figure.word) return figure.word;
  if (figure.amount === null) return 'no figure';
  if (figure.unit.kind === 'ratio') return `${formatFigure(figure, 1, { negative: 'minus' })}\u00a0%`;
  return formatFigure(figure, unit, { zero: 'zero' });
}

/** The text of a remark with its quoted figures as they are now; those that moved say what they were. */
export function piecesOf(
  { text, quotes, live }: Pick<LiveRemark, 'text' | 'quotes' | 'live'>,
  unit: ShownUnit,
): Piece[] {
  return text.split(/(\{[a-z]\w*\})/).flatMap((part): Piece[] => {
    if (part === '') return [];
    const at = quotes.findIndex(({ key }) => part === `{${key}}`);
    if (at < 0) return [{ text: part, isFigure: false, moved: '' }];
    const [quote, now] = [quotes[at]!, live[at]];
    if (!now) return [{ text: quote.shown, isFigure: true, moved: 'no longer there' }];
    return [
      { text: quotedText(now, unit), isFigure: true, moved: now.amount === quote.amount ? '' : `was ${quote.shown}` },
    ];
  });
}

/** A key that no quote has yet. */
export function nextKey(quotes: readonly Pick<Quote, 'key'>[]): string {
  for (let n = quotes.length + 1; ; n++) if (!quotes.some(({ key }) => key === `q${n}`)) return `q${n}`;
}

/** Quotes with the figures that they stand for now, as a remark that is carried on begins. */
export const quotesOfNow = ({ quotes, live }: Pick<LiveRemark, 'quotes' | 'live'>, unit: ShownUnit): Quote[] =>
  quotes.map((quote, at) => {
    const now = live[at];
    return now ? { ...quote, amount: now.amount, shown: quotedText(now, unit) } : quote;
  });

export type RemarkState = LiveRemark['state'];

/**
 * Where remarks are: by row, also for those on its cells, and by `row~column` for cells of the columns that are shown.
 * A place with several is open while one of them is; places without are absent.
 */
export function remarkStates(remarks: readonly LiveRemark[], shownColumns?: string): Map<string, RemarkState> {
  const states = new Map<string, RemarkState>();
  for (const { row, column, columns, state } of remarks) {
    const places = column !== '' && columns === shownColumns ? [row, `${row}~${column}`] : [row];
    for (const place of places) if (states.get(place) !== 'open') states.set(place, state);
  }
  return states;
}
