import { formatMinor } from '@margin-lens/core';
import type { Book, Line } from './book';
import { averageRate, type MonthRates } from './rates';
import { salesOf, WHAT_HAPPENED } from './profit-and-loss';
import type { Month } from './scenario';

type Books = ReadonlyMap<string, Book>;

/** Days after which entities pay each other. */
const TERMS = 30;

interface Deal {
  seller: string;
  buyer: string;
  income: string;
  expense: string;
  sellerMinor: number;
  text: string;
  day: number;
  /** The buyer has not booked it yet. */
  isLate?: boolean;
}

/** What the entities owe each other: every deal stands on both sides and is paid in the next month. */
export class Intercompany {
  private open: (Deal & { buyerMinor: number; document: string })[] = [];

  constructor(
    private readonly books: Books,
    private readonly rates: ReadonlyMap<string, MonthRates>,
  ) {}

  postMonth(month: Month): void {
    this.settle(month);
    const tiles = Math.round(salesOf(this.books.get('LMT')!.entity, 'tiles', month, WHAT_HAPPENED) * 0.06);
    const delivery = { income: '4240', expense: '5420', text: 'Tiles for the British Isles', day: 16 };
    this.post(month, { ...delivery, seller: 'LMT', buyer: 'LMU', sellerMinor: tiles });
    const fees: [string, number][] = [
      ['LMT', 62_000],
      ['LMS', 18_000],
      ['LMU', 21_000],
      ['LMJ', 14_000],
    ];
    if (month.key >= '2026-06') fees.push(['LMA', 19_500]);
    const service = { seller: 'LMG', income: '7820', expense: '7500' };
    for (const [buyer, euro] of fees) {
      this.post(month, { ...service, buyer, sellerMinor: euro * 100, text: 'Group services', day: 28 });
    }
    if (month.key === '2026-08') {
      const text = 'Recharge of the autumn campaign';
      this.post(month, {
        ...service,
        seller: 'LMT',
        buyer: 'LMU',
        sellerMinor: 20_610_000,
        text,
        day: 31,
        isLate: true,
      });
    }
    if (month.month === 7) this.postDividend(month);
    this.revalue(month);
  }

  private post(month: Month, deal: Deal): void {
    const [seller, buyer] = [this.books.get(deal.seller)!, this.books.get(deal.buyer)!];
    const [from, to] = [seller.entity, buyer.entity];
    const factor = averageRate(this.rates, to.currency, month) / averageRate(this.rates, from.currency, month);
    const buyerMinor = Math.round(deal.sellerMinor * factor * 10 ** (to.digits - from.digits));
    const head = {
      type: 'G',
      day: deal.day,
      text: deal.text,
      document: `IC-${month.key}-${deal.seller}-${deal.buyer}${deal.isLate ? '-2' : ''}`,
      documentType: 'invoice' as const,
    };
    const dims = { department: 'finance' };
    const sold: Line = { account: deal.income, amount: -deal.sellerMinor, partner: deal.buyer, dims };
    seller.post(month, head, [sold], {
      account: '1560',
      partner: deal.buyer,
      terms: TERMS,
    });
    if (deal.isLate) return;
    const original = (sign: 1 | -1) => ({
      currency: from.currency,
      currencyAmount: formatMinor(sign * deal.sellerMinor, from.digits),
    });
    const bought: Line = { account: deal.expense, amount: buyerMinor, partner: deal.seller, dims, ...original(1) };
    const owed = { account: '2450', partner: deal.seller, terms: TERMS, ...original(-1) };
    buyer.post(month, head, [bought], owed);
    this.open.push({ ...deal, buyerMinor, document: head.document });
  }

  private settle(month: Month): void {
    for (const { seller, buyer, sellerMinor, buyerMinor, text, document } of this.open.splice(0)) {
      const head = { type: 'B', day: 10, text: `Settlement: ${text}` };
      const receipt: Line = { account: '1560', amount: -sellerMinor, partner: buyer, settles: document };
      this.books.get(seller)!.post(month, head, [receipt], { account: '1600', flow: 'receipts' });
      const { currency, digits } = this.books.get(seller)!.entity;
      const original = { currency, currencyAmount: formatMinor(sellerMinor, digits) };
      const payment: Line = { account: '2450', amount: buyerMinor, partner: seller, settles: document, ...original };
      this.books.get(buyer)!.post(month, head, [payment], { account: '1600', flow: 'payments' });
    }
  }

  /** What is owed in another currency stands at the closing rate; @source IAS 21.23. */
  private revalue(month: Month): void {
    const closing = (currency: string) =>
      currency === 'EUR' ? 1 : this.rates.get(`${currency} ${month.key}`)!.closing;
    for (const deal of this.open) {
      const [seller, buyer] = [this.books.get(deal.seller)!, this.books.get(deal.buyer)!];
      const [from, to] = [seller.entity, buyer.entity];
      const factor = closing(to.currency) / closing(from.currency);
      const worth = Math.round(deal.sellerMinor * factor * 10 ** (to.digits - from.digits));
      const change = worth - deal.buyerMinor;
      deal.buyerMinor = worth;
      const head = { type: 'V', day: 31, text: `Revaluation: ${deal.text}`, document: deal.document };
      const original = { currency: from.currency, currencyAmount: formatMinor(0, from.digits) };
      const owed: Line = { account: '2450', amount: -change, partner: deal.seller, ...original };
      buyer.post(month, head, [owed], { account: change > 0 ? '8040' : '8110' });
    }
  }

  private postDividend(month: Month): void {
    const [tile, group] = [this.books.get('LMT')!, this.books.get('LMG')!];
    const zloty = 380_000_000;
    const declared: Line = { account: '2050', amount: zloty, partner: 'LMG', flow: 'dividend' };
    tile.post(month, { type: 'V', day: 3, text: 'Dividend declared' }, [declared], { account: '2640', partner: 'LMG' });
    const paid: Line = { account: '2640', amount: zloty, partner: 'LMG' };
    tile.post(month, { type: 'B', day: 17, text: 'Dividend paid' }, [paid], { account: '1600' });
    const euro = Math.round(zloty / averageRate(this.rates, 'PLN', month));
    const original = { currency: 'PLN', currencyAmount: formatMinor(-zloty, 2) };
    const received: Line = { account: '8120', amount: -euro, partner: 'LMT', ...original };
    group.post(month, { type: 'V', day: 17, text: 'Dividend received from Larkmoor Tile' }, [received], {
      account: '1600',
    });
  }
}

/** The stories that a controller can find in single months. */
export function postStories(books: Books, month: Month): void {
  if (month.key === '2026-06') {
    const head = {
      type: 'C',
      day: 19,
      text: 'Credit note, Baltic Tile, broken pallets',
      document: 'CRN-202606-0907',
      documentType: 'credit_note' as const,
    };
    const dims = { product_line: 'tiles', department: 'design', channel: 'wholesale', region: 'central' };
    books.get('LMT')!.post(month, head, [{ account: '4270', amount: 9_640_000, dims }], {
      account: '1500',
      partner: 'C108',
      terms: 45,
    });
  }
  if (month.key === '2026-08') {
    const dims = { department: 'kiln_hall_a', cost_type: 'direct' };
    const head = { type: 'A', day: 31, text: 'Carbon allowances, first allotment', document: 'CA-2026-08' };
    for (const [code, amount] of [
      ['LMG', 2_870_000],
      ['LMT', 6_950_000],
      ['LMS', 410_000],
    ] as const) {
      books.get(code)!.post(month, head, [{ account: '6510', amount, dims }], { account: '2570' });
    }
    // a deposit that was booked as a sale, besides the invoice for the same order
    const studio = { product_line: 'contract', department: 'sales', channel: 'wholesale', region: 'iberia' };
    for (const [type, day, document] of [
      ['S', 12, 'INV-202608-0311'],
      ['B', 21, 'RCT-202608-0044'],
    ] as const) {
      const order = { type, day, text: 'Hotel order, wash basins', document };
      const sold = { account: '4410', amount: -1_840_000, dims: studio };
      books.get('LMS')!.post(month, order, [sold], { account: type === 'S' ? '1500' : '1600' });
    }
    const unclear = { type: 'X', day: 24, text: 'Incoming payment without reference' };
    books.get('LMG')!.post(month, unclear, [{ account: '1600', amount: 1_254_000 }], { account: '1690' });
  }
}
