import { daysBetween } from '../period/fiscal-calendar';

/** What a line says of a document. Units: minor units of its currency, debit positive. */
export interface PairLine {
  /** The document that it settles, else its own; empty where it has none. */
  document: string;
  /** ISO day. */
  date: string;
  currency: string;
  amount: number;
  text: string;
}

/** How a document stands with two entities. */
export type MatchState = 'meets' | 'other_amount' | 'other_document' | 'alone';

/** A document with what each side has of it; a side that has nothing of it has 0. */
export interface DocumentMatch {
  state: MatchState;
  document: string;
  /** The document of the other side, where it is another. */
  otherDocument: string;
  date: string;
  currency: string;
  own: number;
  theirs: number;
  text: string;
}

/** Days that documents of the same amount may lie apart to be taken for the same. */
const NEAR_DAYS = 45; // 10 to 90

/**
 * Holds what two entities have of each other against each other: by document, and what is left by amount and nearness of
 * date. What comes to nothing on its own side is settled and left out.
 * @source definition 35; matching by document, amount and date: common practice
 */
export function matchDocuments(own: readonly PairLine[], theirs: readonly PairLine[]): DocumentMatch[] {
  const [open, others] = [openItems(own), openItems(theirs)];
  const matched: DocumentMatch[] = [];
  const left: PairLine[] = [];
  for (const item of open) {
    const at = others.findIndex((each) => item.document !== '' && keyOf(each) === keyOf(item));
    if (at < 0) {
      left.push(item);
      continue;
    }
    const [other] = others.splice(at, 1) as [PairLine];
    matched.push(matchOf(item.amount + other.amount === 0 ? 'meets' : 'other_amount', item, other));
  }
  for (const item of left) {
    const [near] = others
      .map((other, at) => ({ other, at, days: Math.abs(daysBetween(item.date, other.date)) }))
      .filter(
        ({ other, days }) => other.currency === item.currency && other.amount === -item.amount && days <= NEAR_DAYS,
      )
      .sort((a, b) => a.days - b.days);
    if (near) others.splice(near.at, 1);
    matched.push(near ? matchOf('other_document', item, near.other) : matchOf('alone', item, undefined));
  }
  const alone = others.map((other) => ({ ...matchOf('alone', other, undefined), own: 0, theirs: other.amount }));
  return [...matched, ...alone].sort((a, b) => (a.date < b.date ? -1 : 1));
}

const keyOf = ({ document, currency }: PairLine) => `${document} ${currency}`;

const matchOf = (state: MatchState, item: PairLine, other: PairLine | undefined): DocumentMatch => ({
  ...{ state, document: item.document, date: item.date, currency: item.currency, text: item.text },
  otherDocument: other && other.document !== item.document ? other.document : '',
  ...{ own: item.amount, theirs: other?.amount ?? 0 },
});

/** What is left of each document; lines without one stand for themselves. */
function openItems(lines: readonly PairLine[]): PairLine[] {
  const items = new Map<string, PairLine>();
  lines.forEach((line, at) => {
    const key = line.document === '' ? `${at}` : `${keyOf(line)} of a document`;
    const known = items.get(key);
    items.set(key, known ? { ...known, amount: known.amount + line.amount } : { ...line });
  });
  return [...items.values()].filter(({ amount }) => amount !== 0);
}
