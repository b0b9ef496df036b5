import { accountUnit, exactFigure, naturalOrientation, type Account, type Unit } from '@margin-lens/core';
import type { PeriodView } from '@margin-lens/contract';

/** A figure of an account in a month; of the entity that is looked at where no scope is named. */
interface Place {
  account: string;
  period: string;
  scope?: string;
}

/** How single figures of a version are named and written: each account in its own reading, income positive. */
export interface FigureWords {
  place: (place: Place) => string;
  /** Units: `figure` debit positive, minor units or 1/10,000. */
  amount: (place: Place, figure: number) => string;
}

export function figureWords(
  accounts: readonly Account[],
  periods: readonly PeriodView[],
  currencyOf: (scope: string | undefined) => Unit,
): FigureWords {
  const byNumber = new Map(accounts.map((account) => [account.number, account]));
  const months = new Map(periods.map(({ key, name }) => [key, name]));
  return {
    place: ({ account, period }) =>
      `${`${account} ${byNumber.get(account)?.name ?? ''}`.trim()}, ${months.get(period) ?? period}`,
    amount: ({ account: number, scope }, figure) => {
      const account = byNumber.get(number);
      const currency = currencyOf(scope);
      if (figure === 0) return '–';
      const sign = account && naturalOrientation(account.nature) === 'credit' ? -1 : 1;
      return exactFigure({ amount: figure * sign, unit: account ? accountUnit(account, currency) : currency });
    },
  };
}
