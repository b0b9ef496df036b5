import { isProfitOrLoss, naturalOrientation, type Account } from '../account/nature';
import { loadedRange, slot, type LedgerSlice } from '../books/ledger-slice';
import type { FiscalPeriod } from '../period/fiscal-calendar';
import type { BooksCheck, BooksFinding } from './books-finding';

/** Months of history that a value is compared with. */
const HISTORY = 12;
/** Months of history that are needed before anything is said. */
export const HISTORY_NEEDED = 6;
/** A value is unlike its history when it lies this many standard deviations off the mean. */
const DEVIATIONS = 4;
/** Share of earlier month-ends on its natural side from which a balance on the other side is a matter. */
const USUALLY_NATURAL = 0.75;
/** Roles of accounts that should come to nothing. */
const CLEARED_ROLES = ['suspense', 'unmapped', 'intercompany_difference'];

interface Place {
  slice: LedgerSlice;
  at: FiscalPeriod;
  /** Regular periods with data before the as-at one, the latest last, at most `HISTORY` of them. */
  before: FiscalPeriod[];
  firstOfYear: FiscalPeriod;
  /** Smallest amount worth a word, in minor units. */
  limit: number;
}

type Check = (place: Place, account: Account, index: number) => BooksFinding | undefined;

const found = (
  check: BooksCheck,
  account: Account,
  { at, firstOfYear }: Place,
  rest: Partial<BooksFinding>,
): BooksFinding => ({
  check,
  key: `${check}|${account.number}|${at.key}`,
  account: account.number,
  amount: 0,
  expected: null,
  effect: null,
  from: firstOfYear.key,
  to: at.key,
  text: null,
  dimension: null,
  count: 0,
  ...rest,
});

const closing = ({ slice }: Place, index: number, period: FiscalPeriod) =>
  slice.closing[slot(slice, index, period.ordinal)]!;
const movement = ({ slice }: Place, index: number, period: FiscalPeriod) =>
  slice.movement[slot(slice, index, period.ordinal)]!;

/** Suspense and clean-up accounts must come to nothing; what stands there may be income or cost. */
const suspense: Check = (place, account, index) => {
  if (!CLEARED_ROLES.includes(account.role)) return undefined;
  const amount = closing(place, index, place.at);
  return amount === 0 ? undefined : found('suspense', account, place, { amount, expected: 0, effect: -amount + 0 });
};

/** A balance on the side where its account has mostly not stood. */
const wrongSide: Check = (place, account, index) => {
  const isBalance = account.nature === 'asset' || account.nature === 'liability';
  if (!isBalance || CLEARED_ROLES.includes(account.role)) return undefined;
  const sign = naturalOrientation(account.nature) === 'debit' ? 1 : -1;
  const amount = closing(place, index, place.at);
  if (sign * amount >= 0 || Math.abs(amount) < place.limit || place.before.length < HISTORY_NEEDED) return undefined;
  const natural = place.before.filter((period) => sign * closing(place, index, period) > 0).length;
  if (natural / place.before.length < USUALLY_NATURAL) return undefined;
  return found('wrong_side', account, place, { amount });
};

const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;

/** Income or cost that came every month and does not come now. */
const fallenSilent: Check = (place, account, index) => {
  if (!isProfitOrLoss(account) || place.before.length < HISTORY_NEEDED) return undefined;
  const history = place.before.map((period) => movement(place, index, period));
  if (movement(place, index, place.at) !== 0 || history.some((value) => value === 0)) return undefined;
  const expected = Math.round(mean(history));
  if (Math.abs(expected) < place.limit) return undefined;
  return found('fallen_silent', account, place, { expected, effect: -expected + 0, from: place.before[0]!.key });
};

/** Income or cost far off what it was in the months before. */
const unlikeHistory: Check = (place, account, index) => {
  if (!isProfitOrLoss(account) || place.before.length < HISTORY_NEEDED) return undefined;
  const amount = movement(place, index, place.at);
  const history = place.before.map((period) => movement(place, index, period));
  const usual = mean(history);
  const deviation = Math.sqrt(mean(history.map((value) => (value - usual) ** 2)));
  const off = amount - usual;
  const isSilent = amount === 0 || history.every((value) => value === 0);
  if (isSilent || Math.abs(off) < place.limit || Math.abs(off) <= DEVIATIONS * deviation) return undefined;
  const expected = Math.round(usual);
  return found('unlike_history', account, place, {
    amount,
    expected,
    effect: amount - expected + 0,
    from: place.at.key,
  });
};

/** Accounts without a heading stand in no statement that is made from headings. */
const unclassified: Check = (place, account, index) => {
  if (account.heading !== '' || account.nature === 'statistic') return undefined;
  const amount = closing(place, index, place.at);
  return amount === 0 ? undefined : found('unclassified', account, place, { amount });
};

/** Accounts that are marked as no longer used, and were. */
const unused: Check = (place, account, index) => {
  if (account.role !== 'unused') return undefined;
  const { periods } = place.slice.calendar;
  const year = periods.slice(place.firstOfYear.ordinal, place.at.ordinal + 1);
  if (year.every((period) => movement(place, index, period) === 0)) return undefined;
  return found('unused', account, place, { amount: closing(place, index, place.at) });
};

/** Checks that say nothing before there are months enough to hold a month against. */
export const CHECKS_OF_HISTORY: ReadonlySet<BooksCheck> = new Set(['wrong_side', 'fallen_silent', 'unlike_history']);

const CHECKS: readonly Check[] = [suspense, wrongSide, fallenSilent, unlikeHistory, unclassified, unused];

/**
 * What the balances of an entity say should be looked at, as at a period.
 *
 * Units: `limit` is the smallest amount worth a word, in minor units.
 * Missing: nothing is said about history before six months of it are there.
 * @source common practice of closing reviews; limits are this project's own and named above
 */
export function checkBalances(slice: LedgerSlice, at: FiscalPeriod, limit: number): BooksFinding[] {
  const range = loadedRange(slice);
  if (!range || at.ordinal < range.first) return [];
  const { periods } = slice.calendar;
  const before = periods
    .filter(({ kind, ordinal }) => kind === 'regular' && ordinal >= range.first && ordinal < at.ordinal)
    .slice(-HISTORY);
  const firstOfYear = periods.find(({ fiscalYear }) => fiscalYear === at.fiscalYear)!;
  const place: Place = { slice, at, before, firstOfYear, limit };
  return CHECKS.flatMap((check) => slice.accounts.flatMap((account, index) => check(place, account, index) ?? []));
}
