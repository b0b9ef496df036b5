import type { Figure } from '../figure/figure';
import { missingInWords } from '../figure/missing-words';

type Noted = Pick<Figure, 'amount' | 'reason' | 'origin' | 'word' | 'signsDiffer' | 'negativeBase'>;

/** Behind a percentage that is to be read with care; `MARK_WORDS` says why. */
export const MARK = '*';
export const MARK_WORDS = `${MARK} Between figures of unlike signs, or over a negative base.`;

/** Whether a figure carries the mark. */
export const isMarked = ({ signsDiffer, negativeBase }: Pick<Figure, 'signsDiffer' | 'negativeBase'>): boolean =>
  signsDiffer === true || negativeBase === true;

/** Why a figure is undefined or marked, in words; empty for plain figures. */
export function noteOf(figure: Noted): string {
  if (figure.word === 'new') return 'New: nothing a year before';
  if (figure.word === 'gone') return 'Gone: nothing now';
  if (figure.amount === null) return figure.reason ? missingInWords(figure) : '';
  if (figure.negativeBase) return 'The base is negative: not meaningful';
  return figure.signsDiffer ? 'The two sides differ in sign' : '';
}
