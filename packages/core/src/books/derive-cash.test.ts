import fc from 'fast-check';
import { deriveCash, type CashAccounts, type LineOfDocuments } from './derive-cash';
import { runs } from '../../test/runs';

const [CASH, RECEIVABLE, PAYABLE, TAX, SALES, COSTS] = [1, 2, 3, 4, 5, 6] as const;
const ACCOUNTS: CashAccounts = {
  cash: new Set([CASH]),
  items: new Set([RECEIVABLE, PAYABLE]),
  isDebit: (account) => account === RECEIVABLE,
  partnerOf: () => 'P',
};

interface Posted {
  account: number;
  amount: number;
  document?: string;
  due?: string;
  settles?: string;
  documentType?: string;
  isOpening?: boolean;
  quantity?: number;
}

/** Journals of months, each a list of lines. */
function linesOf(journals: readonly { month: number; lines: readonly Posted[] }[]): LineOfDocuments[] {
  let id = 0;
  return journals.flatMap(({ month, lines }, journal) =>
    lines.map(({ amount, ...line }) => ({
      ...{ document: '', due: '', settles: '', documentType: '', isOpening: false, quantity: 0, combination: 1 },
      ...{ id: ++id, journal, period: month, date: `2026-${String(month).padStart(2, '0')}-10` },
      ...{ debit: Math.max(amount, 0), credit: Math.max(-amount, 0) },
      ...line,
    })),
  );
}

/** What accounts move by on the cash basis, by account and month; openings left out. */
function movements(lines: readonly LineOfDocuments[]) {
  const { moved, underived } = deriveCash(lines, ACCOUNTS);
  const sums = new Map<string, number>();
  const add = (account: number, period: number, amount: number) =>
    sums.set(`${account} ${period}`, (sums.get(`${account} ${period}`) ?? 0) + amount);
  for (const line of lines) if (!line.isOpening) add(line.account, line.period, line.debit - line.credit);
  moved.id.forEach((_, row) => add(moved.account[row]!, moved.period[row]!, moved.debit[row]! - moved.credit[row]!));
  const of = (account: number, period: number) => sums.get(`${account} ${period}`) ?? 0;
  return { of, moved, underived };
}

const invoice = (document: string, month: number, net: number, tax: number, atOnce = 0) => ({
  month,
  lines: [
    { account: RECEIVABLE, amount: net + tax - atOnce, document, due: '2026-12-31' },
    ...(atOnce === 0 ? [] : [{ account: CASH, amount: atOnce }]),
    { account: SALES, amount: -net },
    { account: TAX, amount: -tax },
  ],
});
const receipt = (settles: string, month: number, amount: number) => ({
  month,
  lines: [
    { account: CASH, amount },
    { account: RECEIVABLE, amount: -amount, settles },
  ],
});

describe('the cash basis from what is settled', () => {
  it('counts an invoice when it is paid, with its tax, by the part that is paid', () => {
    const { of, underived } = movements(
      linesOf([invoice('A', 1, 1_000, 190), receipt('A', 3, 595), receipt('A', 4, 595)]),
    );
    expect([1, 3, 4].map((month) => of(SALES, month))).toEqual([0, -500, -500]);
    expect([1, 3, 4].map((month) => of(TAX, month))).toEqual([0, -95, -95]);
    expect([1, 3, 4].map((month) => of(RECEIVABLE, month))).toEqual([0, 0, 0]);
    expect(underived).toEqual([]);
  });

  it('counts at once what is paid at once, and an advance when its document comes', () => {
    const early = movements(linesOf([receipt('A', 1, 300), invoice('A', 2, 1_000, 0, 400)]));
    expect([1, 2].map((month) => early.of(SALES, month))).toEqual([0, -700]);
    expect([1, 2].map((month) => early.of(RECEIVABLE, month))).toEqual([-300, 300]);
    expect(early.underived).toEqual([
      { account: RECEIVABLE, period: 1, reason: 'ahead', amount: -300 },
      { account: RECEIVABLE, period: 2, reason: 'ahead', amount: 300 },
    ]);
  });

  it('a credit note takes its part of the invoice with it, and a payment that is sent back is taken back', () => {
    const credit = {
      month: 2,
      lines: [
        { account: RECEIVABLE, amount: -200, settles: 'A' },
        { account: SALES, amount: 200 },
      ],
    };
    const { of } = movements(
      linesOf([invoice('A', 1, 1_000, 0), credit, receipt('A', 3, 800), receipt('A', 4, -800), receipt('A', 5, 300)]),
    );
    expect([1, 2, 3, 4, 5].map((month) => of(SALES, month))).toEqual([0, 0, -800, 800, -300]);
  });

  it('leaves as it was posted, and names, what it cannot derive', () => {
    const opening = {
      month: 1,
      lines: [{ account: RECEIVABLE, amount: 500, document: 'OLD', due: '2026-01-31', isOpening: true }],
    };
    const joined = {
      month: 2,
      lines: [
        { account: RECEIVABLE, amount: 70, document: 'J', due: '2026-02-28' },
        { account: PAYABLE, amount: -70, document: 'K', due: '2026-02-28' },
      ],
    };
    const { of, underived } = movements(
      linesOf([opening, receipt('OLD', 2, 500), joined, invoice('A', 3, 100, 0), receipt('A', 4, 130)]),
    );
    expect(of(SALES, 4)).toBe(-100);
    expect(underived).toEqual([
      { account: RECEIVABLE, period: 2, reason: 'joined', amount: 70 },
      { account: PAYABLE, period: 2, reason: 'joined', amount: -70 },
      { account: RECEIVABLE, period: 2, reason: 'before', amount: -500 },
      { account: RECEIVABLE, period: 4, reason: 'unknown', amount: -30 },
    ]);
  });

  // IAS 7.18–19 and its illustrative example A, direct method (from memory): receipts from customers of 30,150 are sales of
  // 30,650 with what customers owed before and after, 1,300 and 1,800
  it('sales on the cash basis are receipts from customers', () => {
    const { of } = movements(
      linesOf([
        invoice('before', 1, 1_300, 0),
        invoice('sold', 2, 28_850, 0),
        invoice('open', 2, 1_800, 0),
        receipt('before', 2, 1_300),
        receipt('sold', 2, 28_850),
      ]),
    );
    expect(-of(SALES, 2)).toBe(30_150);
  });

  it('every month balances, cash stays as it is, and what is left of documents is named', () => {
    const amount = fc.integer({ min: -5_000, max: 5_000 });
    const month = fc.integer({ min: 1, max: 6 });
    const document = fc.constantFrom('A', 'B', 'C');
    const item = fc.record({
      account: fc.constantFrom(RECEIVABLE, PAYABLE),
      amount,
      document: fc.option(document, { nil: '' }),
      due: fc.constantFrom('', '2026-12-31'),
    });
    const settling = fc.record({ account: fc.constantFrom(RECEIVABLE, PAYABLE), amount, settles: document });
    const other = fc.record({ account: fc.constantFrom(CASH, SALES, COSTS, TAX), amount });
    const journal = fc.record({
      month,
      lines: fc.array(fc.oneof(item, settling, other), { minLength: 1, maxLength: 5 }),
    });
    fc.assert(
      fc.property(fc.array(journal, { maxLength: 12 }), (journals) => {
        const balanced = journals.map(({ month: at, lines }) => {
          const rest = -lines.reduce((sum, line) => sum + line.amount, 0);
          return { month: at, lines: [...lines, { account: COSTS, amount: rest }] };
        });
        const lines = linesOf(balanced);
        const { of, underived, moved } = movements(lines);
        expect([...moved.account]).not.toContain(CASH);
        for (let at = 1; at <= 6; at++) {
          expect(
            [CASH, RECEIVABLE, PAYABLE, TAX, SALES, COSTS].reduce((sum, account) => sum + of(account, at), 0),
          ).toBe(0);
          for (const account of [RECEIVABLE, PAYABLE]) {
            const left = underived.filter((each) => each.account === account && each.period === at);
            expect(left.reduce((sum, each) => sum + each.amount, 0)).toBe(of(account, at));
          }
        }
      }),
      runs(500),
    );
  });
});
