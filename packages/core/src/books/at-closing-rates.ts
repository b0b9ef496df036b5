import { digitsOf } from '../currency/minor-units';
import type { RateTable } from '../currency/rate-table';
import { translator } from '../currency/translator';
import type { LineColumns } from '../cube/line-columns';
import type { ScopeEntity } from '../scope/scope';
import type { ItemPart, OpenItem } from './open-items';

/** What an open item in another currency gains or loses in a period by standing at its closing rate. */
export interface Retranslated {
  /** A line of the item, whose values it has. */
  line: number;
  /** As stored. */
  period: number;
  /** The day on which the item is due; empty for the other side, which is the difference to what was booked. */
  due: string;
  /** Minor units of the entity's currency, debit positive. */
  amount: number;
  text: string;
}

interface Standing {
  item: OpenItem;
  due: string;
  line: number;
  /** By place of a period in the calendar. */
  booked: Map<number, number>;
  foreign: Map<number, number>;
}

/**
 * Has open items in another currency stand at the closing rate of every period, and what that differs by from the books
 * beside them, so that all of it comes to nothing. Where a rate lacks the item stands as it did.
 *
 * @source IAS 21.23 (a): monetary items in a foreign currency stand at the closing rate
 */
export function atClosingRates(
  parts: readonly ItemPart[],
  lines: LineColumns,
  { currency, calendar: { calendar, idOf } }: ScopeEntity,
  rates: RateTable,
): Retranslated[] {
  const placeOf = new Map(calendar.periods.map((period, place) => [idOf(period), place]));
  const standings = new Map<string, Standing>();
  for (const { item, due, line, period, debit, credit, foreign } of parts) {
    const place = placeOf.get(period);
    if (!item || item.currency === '' || place === undefined) continue;
    const key = JSON.stringify([item.partner, item.document, due]);
    const standing = standings.get(key) ?? { item, due, line, booked: new Map(), foreign: new Map() };
    standings.set(key, standing);
    standing.booked.set(place, (standing.booked.get(place) ?? 0) + debit - credit);
    standing.foreign.set(place, (standing.foreign.get(place) ?? 0) + foreign);
  }
  const found: Retranslated[] = [];
  for (const { item, due, line, booked, foreign } of standings.values()) {
    let [stands, isBooked, before] = [0, 0, 0];
    calendar.periods.forEach((period, place) => {
      stands += foreign.get(place) ?? 0;
      isBooked += booked.get(place) ?? 0;
      const rate = rates.rate('closing', item.currency, currency.code, period);
      if (!rate && stands !== 0) return;
      const worth = rate ? translator(rate, digitsOf(item.currency), currency.digits).rounded(stands) : 0;
      const apart = worth - isBooked;
      const amount = apart - before;
      before = apart;
      if (amount === 0) return;
      const text = `${item.document} at the closing rate of ${item.currency}`;
      found.push({ line, period: idOf(period), due, amount, text });
      found.push({ line, period: idOf(period), due: '', amount: -amount, text });
    });
  }
  return found;
}
