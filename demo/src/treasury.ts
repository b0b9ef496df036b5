import type { Book, Line } from './book';
import { supplierOf } from './partners';
import type { Month } from './scenario';

/** Cash that an entity keeps at a quarter's end, in average months of sales: some four weeks of costs. */
const KEPT = 0.75;
/** Below this it draws on its bank. */
const LEAST = 0.45;
/** Part of what is beyond that goes into kilns; the rest repays loans, first that of the kilns. */
const INTO_KILNS = 0.35;
const LOANS = ['2200', '2210'] as const;

/** What the parent pays to its owners each July, in minor units. */
const DIVIDEND = 140_000_000;

/** At a quarter's end cash beyond what is kept repays loans and pays for kilns; what lacks is drawn. */
export function postTreasury(book: Book, month: Month): void {
  const { entity } = book;
  if (entity.code === 'LMG' && month.month === 7) postDividend(book, month);
  if (month.period % 3 !== 0) return;
  const sales = Object.values(entity.sales).reduce((sum, each) => sum + each, 0) * 1000 * 10 ** entity.digits;
  const cash = book.balance('1600');
  if (cash < LEAST * sales) {
    const drawn: Line = { account: '2210', amount: cash - KEPT * sales, flow: 'addition' };
    book.post(month, { type: 'B', day: 30, text: 'Drawn on the bank' }, [drawn], { account: '1600' });
    return;
  }
  let surplus = cash - KEPT * sales;
  if (surplus <= 0) return;
  const kilns: Line = {
    account: '1120',
    amount: INTO_KILNS * surplus,
    flow: 'addition',
    partner: supplierOf('1120').code,
  };
  book.post(month, { type: 'I', day: 30, text: 'Kilns renewed' }, [kilns], { account: '1600' });
  surplus -= kilns.amount;
  for (const account of LOANS) {
    const repaid = Math.min(surplus, -book.balance(account));
    if (repaid <= 0) continue;
    const line: Line = { account, amount: repaid, flow: 'repayment' };
    book.post(month, { type: 'B', day: 30, text: 'Loan repaid early' }, [line], { account: '1600' });
    surplus -= repaid;
  }
}

function postDividend(book: Book, month: Month): void {
  const declared: Line = { account: '2050', amount: DIVIDEND, flow: 'dividend' };
  book.post(month, { type: 'V', day: 6, text: 'Dividend of the year before' }, [declared], { account: '2640' });
  const paid: Line = { account: '2640', amount: DIVIDEND };
  book.post(month, { type: 'B', day: 20, text: 'Dividend paid' }, [paid], { account: '1600' });
}
