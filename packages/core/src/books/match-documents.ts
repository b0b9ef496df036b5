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
  const others = new Map(openItems(theirs).map((item) => [item.key, item]));
  const matched: DocumentMatch[] = [];
  const left: OpenItem[] = [];
  for (const item of openItems(own)) {
    const other = others.get(item.key);
    if (item.document === '' || !other) {
      left.push(item);
      continue;
    }
    others.delete(item.key);
    matched.push(matchOf(item.amount + other.amount === 0 ? 'meets' : 'other_amount', item, other));
  }
  const byAmount = new Map<string, OpenItem[]>();
  for (const other of others.values()) {
    const key = amountKey(other.currency, other.amount);
    const same = byAmount.get(key);
    if (same) same.push(other);
    else byAmount.set(key, [other]);
  }
  for (const item of left) {
    const same = byAmount.get(amountKey(item.currency, -item.amount)) ?? [];
    const near = nearestOf(item, same);
    if (near) {
      same.splice(same.indexOf(near), 1);
      others.delete(near.key);
    }
    matched.push(near ? matchOf('other_document', item, near) : matchOf('alone', item, undefined));
  }
  for (const other of others.values())
    matched.push({ ...matchOf('alone', other, undefined), own: 0, theirs: other.amount });
  return matched.sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0));
}

function nearestOf(item: OpenItem, others: readonly OpenItem[]): OpenItem | undefined {
  let found: { near: OpenItem; days: number } | undefined;
  for (const near of others) {
    const days = Math.abs(daysBetween(item.date, near.date));
    if (days <= NEAR_DAYS && days < (found?.days ?? Infinity)) found = { near, days };
  }
  return found?.near;
}

const amountKey = (currency: string, amount: number) => `${amount} ${currency}`;

const matchOf = (state: MatchState, item: PairLine, other: PairLine | undefined): DocumentMatch => ({
  ...{ state, document: item.document, date: item.date, currency: item.currency, text: item.text },
  otherDocument: other && other.document !== item.document ? other.document : '',
  ...{ own: item.amount, theirs: other?.amount ?? 0 },
});

/** What is left of a document, under a key that it alone has on its side. */
interface OpenItem extends PairLine {
  key: string;
}

/** What is left of each document; lines without one stand for themselves. */
function openItems(lines: readonly PairLine[]): OpenItem[] {
  const items = new Map<string, OpenItem>();
  lines.forEach((line, at) => {
    const key = line.document === '' ? `${at}` : `document ${line.document} ${line.currency}`;
    const known = items.get(key);
    if (known) known.amount += line.amount;
    else items.set(key, { ...line, key });
  });
  return [...items.values()].filter(({ amount }) => amount !== 0);
}
