import { type Account, type DimensionCondition, type FiscalCalendar, type Surroundings } from '../../src/index';
import { buildLedgerSlice, type BalanceEntry } from '../../src/books/ledger-slice';

/** Books of the entries whose movement code meets the conditions, for cases that know no dimension but `flow`. */
export function booksByFlow(
  accounts: readonly Account[],
  calendar: FiscalCalendar,
  entries: readonly (BalanceEntry & { flow: string })[],
): Surroundings['booksOf'] {
  const whole = buildLedgerSlice(accounts, calendar, entries);
  const meets = (flow: string) => (condition: DimensionCondition) =>
    condition.has === 'in' ? condition.values.includes(flow) : !condition.values.includes(flow);
  return ({ where }) => {
    const kept = entries.filter(({ flow }) => where.every(meets(flow)));
    return { ...buildLedgerSlice(accounts, calendar, kept, 'none'), holdsData: whole.holdsData };
  };
}
