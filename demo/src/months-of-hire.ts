import type { Book, Line } from './book';
import type { Random } from './random';
import { fiscalMonths, LAST_ACTUAL, type Month } from './scenario';
import {
  A_MONTH_BEHIND,
  ASSOCIATE,
  BRANCH_DEPARTMENTS,
  CONTROL_OF_GLAZE,
  FAIR,
  FIRST_OF_BEHIND,
  GLAZE,
  GOT_FOR_REPAIRS,
  HEAD,
  KILNS_OF_POLSKA,
  OPENING,
  PAID,
  PAID_FOR_ASSOCIATE,
  PAID_FOR_PART_OF_GLAZE,
  REPAIRS,
  REPAIRS_SOLD,
  resultOfAssociate,
  TEMPORAL,
  WITH_OWN_ACCOUNTS,
} from './second-group';

const CASH = '1600';
/** What the head of the group lends to Kilnhurst Glaze when it takes it over, in minor units of the euro. */
const LENT = 4_000_000;

/** A month of the small group: hire of kilns, people, rent and wear, all paid at once. */
export function postMonthOfHire(book: Book, month: Month, random: Random): void {
  const { code } = book.entity;
  if (month.index === 0) postOpening(book, month);
  if (code === REPAIRS && month.key >= REPAIRS_SOLD.slice(0, 7)) return;
  // its last month counts in the one that is to come
  if (code === A_MONTH_BEHIND && month.key === LAST_ACTUAL) return;
  if (code === HEAD) postShares(book, month);
  if (code === GLAZE && isIn(CONTROL_OF_GLAZE, month)) {
    const owed = { account: '2235', amount: -LENT, flow: 'addition' };
    book.post(month, { type: 'GJ', day: 1, text: 'Loan from Kilnhurst Hire' }, [owed], { account: CASH });
  }
  const sales = 100_000 * book.entity.sales.studio!;
  const hired = sales * random.between(0.92, 1.1);
  const contra = { account: CASH };
  const isBranch = code === WITH_OWN_ACCOUNTS;
  const of = (department: string) => (isBranch ? { dims: { department } } : {});
  book.post(month, { type: 'SA', day: 26, text: 'Hire of kilns' }, [{ account: '4000', amount: -hired }], contra);
  book.post(
    month,
    { type: 'GJ', day: 27, text: 'People and rent' },
    [
      { account: '7600', amount: 0.41 * sales, ...of(BRANCH_DEPARTMENTS.people) },
      { account: '7730', amount: 0.12 * sales * random.between(0.95, 1.1), ...of(BRANCH_DEPARTMENTS.yard) },
    ],
    contra,
  );
  if (isBranch && month.key === FAIR.month)
    book.post(
      month,
      { type: 'GJ', day: 27, text: 'Stand at the fair in Malmö' },
      [{ account: FAIR.account, amount: 1_840_000 }],
      contra,
    );
  postKilns(book, month, sales);
}

const isIn = (day: string, month: Month): boolean => day.startsWith(month.key);

/** One that counts a month later opens a month earlier. */
function postOpening(book: Book, first: Month): void {
  const isBehind = book.entity.code === A_MONTH_BEHIND;
  const month = isBehind ? fiscalMonths(2024, 2024).at(-1)! : first;
  const sales = 100_000 * book.entity.sales.studio!;
  const lines: Line[] = OPENING.map(({ account, share }) => ({ account, amount: share * sales }));
  if (book.entity.code === HEAD) {
    const paid = PAID[TEMPORAL] + PAID[REPAIRS];
    const associates = [
      { account: '1310', amount: PAID_FOR_PART_OF_GLAZE, partner: GLAZE },
      { account: '1310', amount: PAID_FOR_ASSOCIATE, partner: ASSOCIATE },
    ];
    const toPay = PAID[A_MONTH_BEHIND];
    const capital = -paid - toPay - PAID_FOR_PART_OF_GLAZE - PAID_FOR_ASSOCIATE;
    const shares = [{ account: '1300', amount: paid }, ...associates];
    lines.push(...shares, { account: CASH, amount: toPay }, { account: '2000', amount: capital });
  }
  book.post(month, { type: 'OB', day: 1, text: 'Brought forward', kind: 'opening' }, lines);
}

/** Kilnhurst Norge is bought, Kilnhurst Glaze taken over, Kilnhurst Repairs is sold, and the associate pays its dividend. */
function postShares(book: Book, month: Month): void {
  const bank = { account: CASH };
  const dims = { department: 'finance' };
  if (isIn(FIRST_OF_BEHIND, month)) {
    const shares = { account: '1300', amount: PAID[A_MONTH_BEHIND], partner: A_MONTH_BEHIND, flow: 'addition' };
    book.post(month, { type: 'GJ', day: 1, text: 'Shares in Kilnhurst Norge' }, [shares], bank);
  }
  if (isIn(CONTROL_OF_GLAZE, month)) {
    const shares = { account: '1300', amount: PAID[GLAZE], partner: GLAZE, flow: 'addition' };
    book.post(month, { type: 'GJ', day: 1, text: 'The other shares in Kilnhurst Glaze' }, [shares], bank);
    const loan = { account: '1325', amount: LENT, flow: 'addition' };
    book.post(month, { type: 'GJ', day: 1, text: 'Loan to Kilnhurst Glaze' }, [loan], bank);
  }
  if (isIn(REPAIRS_SOLD, month)) {
    const head = { type: 'GJ', day: 1, text: 'Kilnhurst Repairs sold' };
    const shares = { account: '1300', amount: -PAID[REPAIRS], partner: REPAIRS, flow: 'disposal' };
    const gain = { account: '7850', amount: PAID[REPAIRS] - GOT_FOR_REPAIRS, partner: REPAIRS, dims };
    book.post(month, head, [shares, gain], bank);
  }
  const paidOut = resultOfAssociate(month)?.paidOut ?? 0;
  const dividend = { account: '8130', amount: -0.25 * paidOut, partner: ASSOCIATE, dims };
  book.post(month, { type: 'GJ', day: 18, text: 'Dividend of Weser Ovens' }, [dividend], bank);
}

/** Kilns that are bought, and what all of them wear off in a month. */
function postKilns(book: Book, month: Month, sales: number): void {
  let worn = 0.06 * sales;
  if (book.entity.code === TEMPORAL) {
    const [, later] = KILNS_OF_POLSKA;
    if (month.key >= later.from) worn += (later.cost * sales) / later.lasts;
    const kiln = { account: '1120', amount: later.cost * sales, flow: 'addition' };
    if (isIn(later.date, month))
      book.post(month, { type: 'GJ', day: 12, text: 'A kiln for hire' }, [kiln], { account: CASH });
  }
  book.post(month, { type: 'GJ', day: 28, text: 'Wear of kilns' }, [{ account: '6800', amount: worn }], {
    account: '1210',
    flow: 'depreciation',
  });
}
