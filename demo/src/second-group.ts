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
  book.post(month, { type: 'GJ', day: 28, text: 'Wear of kilns' }, [{ account: '6800', amount: 0.06 * sales }], {
    account: '1200',
    flow: 'depreciation',
  });
}
