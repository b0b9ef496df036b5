import { isGone, quotedText, type ShownUnit } from '@margin-lens/core/shown';
import type { LiveRemark, Quote } from '@margin-lens/contract';

/** A key that no quote has yet. */
export function nextKey(quotes: readonly Pick<Quote, 'key'>[]): string {
  for (let n = quotes.length + 1; ; n++) if (!quotes.some(({ key }) => key === `q${n}`)) return `q${n}`;
}

/** Quotes with the figures that they stand for now, as a remark that is carried on begins; as they were where there are none. */
export const quotesOfNow = ({ quotes, live }: Pick<LiveRemark, 'quotes' | 'live'>, unit: ShownUnit): Quote[] =>
  quotes.map((quote, at) => {
    const now = live[at];
    return now && !isGone(now) ? { ...quote, amount: now.amount, shown: quotedText(now, unit) } : quote;
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
