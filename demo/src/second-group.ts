import type { Book } from './book';
import type { Random } from './random';
import type { DemoEntity, Month } from './scenario';

/** A small group beside the large one: a hire of kilns with a branch in Sweden. One rate of it was never entered. */
export const SECOND_GROUP = 'KILNHIRE';
export const SECOND_ENTITIES: readonly DemoEntity[] = [
  {
    ...{ code: 'KHD', name: 'Kilnhurst Hire', currency: 'EUR', digits: 2, region: 'central' },
    ...{ sales: { studio: 48 }, headcount: 6, taxRate: 25 },
  },
  {
    ...{ code: 'KHS', name: 'Kilnhurst Sverige', currency: 'SEK', digits: 2, region: 'central' },
    ...{ sales: { studio: 310 }, headcount: 4, taxRate: 20.6 },
  },
];

/** The month whose closing rate of the krona is missing. */
export const WITHOUT_RATE = '2025-11';

/** The branch keeps its books in accounts of its own; in the month of the fair one came that nobody has mapped. */
export const WITH_OWN_ACCOUNTS = 'KHS';
const FAIR = { month: '2026-08', account: 'K905' };
/** From this month on kilns that are hired by the day stand on an account of their own. */
const HIRED_BY_THE_DAY = '2026-04';

const OWN_ACCOUNTS: Record<string, string> = {
  '1600': 'B10',
  '1100': 'A20',
  '1200': 'A29',
  '2000': 'E01',
  '2040': 'E10',
  '4000': 'R100',
  '7600': 'K200',
  '7730': 'K310',
  '6800': 'K400',
};

/** What the branch calls an account of the chart in a month. */
export const accountOfBranch = (account: string, { key }: Month): string =>
  account === '4000' && key >= HIRED_BY_THE_DAY ? 'R110' : (OWN_ACCOUNTS[account] ?? account);

/** Rows of the account map of the branch: several accounts for one, by range. */
export const accountMapOfBranch = (): string[][] =>
  Object.entries(OWN_ACCOUNTS).map(([account, own]) => [
    ...[WITH_OWN_ACCOUNTS, account === '4000' ? 'R100..R199' : own, account, ''],
  ]);

const CASH = '1600';
const OPENING = [
  { account: CASH, share: 2 },
  { account: '1100', share: 6 },
  { account: '2000', share: -5 },
  { account: '2040', share: -3 },
];

/** A month of the small group: hire of kilns, people, rent and wear, all paid at once. */
export function postMonthOfHire(book: Book, month: Month, random: Random): void {
  const sales = 100_000 * (book.entity.sales.studio ?? 0);
  if (month.index === 0)
    book.post(
      month,
      { type: 'OB', day: 1, text: 'Brought forward', kind: 'opening' },
      OPENING.map(({ account, share }) => ({ account, amount: share * sales })),
    );
  const hired = sales * random.between(0.92, 1.1);
  const contra = { account: CASH };
  book.post(month, { type: 'SA', day: 26, text: 'Hire of kilns' }, [{ account: '4000', amount: -hired }], contra);
  book.post(
    month,
    { type: 'GJ', day: 27, text: 'People and rent' },
    [
      { account: '7600', amount: 0.41 * sales },
      { account: '7730', amount: 0.12 * sales * random.between(0.95, 1.1) },
    ],
    contra,
  );
  if (book.entity.code === WITH_OWN_ACCOUNTS && month.key === FAIR.month)
    book.post(
      month,
      { type: 'GJ', day: 27, text: 'Stand at the fair in Malmö' },
      [{ account: FAIR.account, amount: 1_840_000 }],
      contra,
    );
  book.post(month, { type: 'GJ', day: 28, text: 'Wear of kilns' }, [{ account: '6800', amount: 0.06 * sales }], {
    account: '1200',
    flow: 'depreciation',
  });
}
