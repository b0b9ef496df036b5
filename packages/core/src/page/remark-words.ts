import type { Figure } from '../figure/figure';
import { formatFigure, type ShownUnit } from '../figure/format-figure';
import { missingInWords } from '../figure/missing-words';
import { withinSentence } from '../words/in-words';

/** A text that quotes figures as `{key}`, with what each was when it was written, and what it is now, if it is still there. */
export interface QuotingText {
  text: string;
  quotes: readonly { key: string; amount: number | null; shown: string }[];
  live: readonly (Figure | null)[];
}

/** A piece of a remark: plain words, or a figure with what it was when it was quoted, where it moved since. */
export interface Piece {
  text: string;
  isFigure: boolean;
  moved: string;
}

/** Whether there is nothing to show of a figure, not even a word. */
export const isGone = ({ amount, word }: Figure): boolean => amount === null && !word;

/** A figure as a remark quotes it: in the unit of the view, percentages with their sign. */
export function quotedText(figure: Figure, unit: ShownUnit): string {
  if (figure.word) return figure.word;
  if (figure.amount === null) return 'no figure';
  if (figure.unit.kind === 'ratio') return `${formatFigure(figure, 1, { negative: 'minus' })}\u00a0%`;
  return formatFigure(figure, unit, { zero: 'zero' });
}

/** Why a figure that was quoted is not told now, in words. */
const goneWords = (now: Figure): string => `now no figure: ${withinSentence(missingInWords(now))}`;

/**
 * The text of a remark with its quoted figures as they are now; those that moved say what they were. Where there is no
 * figure now, what was quoted stays, and why there is none is said.
 */
export function piecesOf({ text, quotes, live }: QuotingText, unit: ShownUnit): Piece[] {
  return text.split(/(\{[a-z]\w*\})/).flatMap((part): Piece[] => {
    if (part === '') return [];
    const at = quotes.findIndex(({ key }) => part === `{${key}}`);
    if (at < 0) return [{ text: part, isFigure: false, moved: '' }];
    const [quote, now] = [quotes[at]!, live[at]];
    if (!now) return [{ text: quote.shown, isFigure: true, moved: 'no longer there' }];
    if (isGone(now) && quote.amount !== null) return [{ text: quote.shown, isFigure: true, moved: goneWords(now) }];
    return [
      { text: quotedText(now, unit), isFigure: true, moved: now.amount === quote.amount ? '' : `was ${quote.shown}` },
    ];
  });
}

/** The text as it is read on paper: figures as they are now, and in brackets what they were. */
export const remarkWords = (remark: QuotingText, unit: ShownUnit): string =>
  piecesOf(remark, unit)
    .map(({ text, moved }) => (moved ? `${text} (${moved})` : text))
    .join('');
