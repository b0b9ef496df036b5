import { digitsOf } from '../currency/minor-units';
import { parseAmount } from '../money/amount';
import type { Fraction } from '../money/fraction';
import type { HistoricalAmount } from '../scope/group-records';

/** What an amount of an account was worth in another currency when it came about. Units: minor units, debit positive. */
export interface StatedAmount {
  /** ISO day. */
  date: string;
  local: number;
  amount: number;
  /** Before it was rounded, where it was found by a rate. */
  exact?: Fraction;
}

/** Stated amounts by entity, account and currency. */
export class StatedAmounts {
  private readonly byPlace = new Map<string, StatedAmount[]>();

  /**
   * @param reporting the currency of amounts that name none
   * @param currencyOf that of an entity, by its code
   */
  constructor(
    amounts: readonly HistoricalAmount[],
    reporting: string,
    currencyOf: (entity: string) => string | undefined,
  ) {
    for (const { entity, account, date, currency, localAmount, groupAmount } of amounts) {
      const [from, to] = [currencyOf(entity), currency || reporting];
      if (from === undefined) continue;
      const place = placeOf(entity, account, to);
      const [local, amount] = [minorOf(localAmount, from), minorOf(groupAmount, to)];
      this.byPlace.set(place, [...(this.byPlace.get(place) ?? []), { date, local, amount }]);
    }
  }

  /** Those of an account, in a currency. */
  of(entity: string, account: string, currency: string): readonly StatedAmount[] {
    return this.byPlace.get(placeOf(entity, account, currency)) ?? [];
  }
}

const placeOf = (...parts: readonly string[]) => parts.join('|');

/** Amounts were checked when they came in. */
function minorOf(text: string, currency: string): number {
  const parsed = parseAmount(text, digitsOf(currency));
  return 'minor' in parsed ? parsed.minor : 0;
}
