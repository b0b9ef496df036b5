import { exactFactor } from '../currency/quoted-rate';
import type { RateTable } from '../currency/rate-table';
import { translator } from '../currency/translator';
import { fraction, times } from '../money/fraction';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import type { Scope, ScopeEntity } from '../scope/scope';
import type { StatedAmount } from './stated-amounts';

/** What was posted on a day in an account that keeps the rates of its days. Units: minor units of the entity, debit positive. */
export interface DatedAmount {
  entity: string;
  account: string;
  /** ISO day. */
  date: string;
  local: number;
}

/** Amounts of equity and dividends by the days on which they came about. */
export class DatedAmounts {
  private readonly byPlace = new Map<string, DatedAmount[]>();

  constructor(amounts: readonly DatedAmount[] = []) {
    for (const amount of amounts) {
      const place = placeOf(amount.entity, amount.account);
      const held = this.byPlace.get(place);
      if (held) held.push(amount);
      else this.byPlace.set(place, [amount]);
    }
  }

  /**
   * What those of an account were worth at the spot rates of their days; months of which amounts were stated, and days
   * without a rate, are left out.
   * @source reference definition 22: capital and dividends at the rate of their date; IAS 21.22
   */
  worth(
    account: string,
    stated: readonly StatedAmount[],
    { entity, scope, rates }: { entity: ScopeEntity; scope: Scope; rates: RateTable },
  ): StatedAmount[] {
    const [from, to] = [entity.currency, scope.currency];
    const { periods } = scope.calendar.calendar;
    const said = periods.filter((period) => stated.some(({ date }) => isIn(period, date)));
    return (this.byPlace.get(placeOf(entity.code, account)) ?? []).flatMap(({ date, local }) => {
      if (said.some((period) => isIn(period, date))) return [];
      const rate = rates.rate('spot', from.code, to.code, { key: '', end: date });
      if (!rate) return [];
      const amount = translator(rate, from.digits, to.digits).rounded(local);
      return [{ date, local, amount, exact: times(fraction(local), exactFactor(rate, from.digits, to.digits)) }];
    });
  }
}

const placeOf = (entity: string, account: string) => `${entity}|${account}`;

const isIn = ({ start, end }: FiscalPeriod, day: string): boolean => start <= day && day <= end;
