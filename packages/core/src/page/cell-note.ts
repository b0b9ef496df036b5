import type { Figure } from '../figure/figure';
import { doubtInWords, missingInWords } from '../figure/missing-words';

type Noted = Pick<Figure, 'amount' | 'reason' | 'origin' | 'word' | 'signsDiffer' | 'negativeBase' | 'doubt'>;

/** Behind a percentage that is to be read with care; `MARK_WORDS` says why. */
export const MARK = '*';
export const MARK_WORDS = `${MARK} Between figures of unlike signs, or over a negative base.`;

/** Whether a figure carries the mark. */
export const isMarked = ({ signsDiffer, negativeBase }: Pick<Figure, 'signsDiffer' | 'negativeBase'>): boolean =>
  signsDiffer === true || negativeBase === true;

/** Behind a figure that stands on a rate that is hard to believe. */
const DOUBT_MARK = '†';

/** The marks behind the text of a figure. */
export const marksOf = (figure: Pick<Figure, 'signsDiffer' | 'negativeBase' | 'doubt'>): string =>
  [...(isMarked(figure) ? [MARK] : []), ...(figure.doubt ? [DOUBT_MARK] : [])].map((mark) => ` ${mark}`).join('');

/** Why a figure is undefined or marked, in words; empty for plain figures. */
export function noteOf(figure: Noted): string {
  if (figure.word === 'new') return 'New: nothing a year before';
  if (figure.word === 'gone') return 'Gone: nothing now';
  if (figure.amount === null) return figure.reason ? missingInWords(figure) : '';
  if (figure.negativeBase) return 'The base is negative: not meaningful';
  if (figure.doubt) return doubtInWords(figure.doubt);
  return figure.signsDiffer ? 'The two sides differ in sign' : '';
}

/** What the mark of doubtful rates means on a page: each such rate once. */
export const doubtWords = (figures: readonly Pick<Figure, 'doubt'>[]): string[] =>
  [...new Set(figures.flatMap(({ doubt }) => (doubt ? [doubtInWords(doubt)] : [])))].map(
    (words) => `${DOUBT_MARK} ${words}.`,
  );
