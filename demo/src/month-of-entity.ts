import { CHART } from './chart';
import type { Book, Line } from './book';
import { CUSTOMERS, materialSupplier, SUPPLIERS, supplierOf, type DemoPartner } from './partners';
import { kilnHours, piecesSold } from './pieces';
import { profitAndLoss, profitOf, WHAT_HAPPENED, type Amount } from './profit-and-loss';
import { Random } from './random';
import { dayOf, periodKey, productOf, workingDayOf, type Month, type ProductLine } from './scenario';

const nature = new Map(CHART.map((account) => [account.number, account]));
const signOf = (account: string): 1 | -1 => (nature.get(account)!.nature === 'income' ? -1 : 1);
const isIn = (account: string, subcategory: string) => nature.get(account)!.subcategory === subcategory;

const CHANNELS = ['retail', 'wholesale', 'online', 'projects'] as const;
const CARRIERS: Record<string, string> = {
  '6400': 'Gas, kiln hall',
  '6410': 'Electricity, works',
  '6430': 'Water and effluent',
};

/** Everything that one entity posts of its own in a month. */
export function postMonth(book: Book, month: Month, random: Random): void {
  const { entity } = book;
  const noise = () => random.between(0.975, 1.025);
  const amounts = profitAndLoss(entity, month, WHAT_HAPPENED).map((a) => ({
    ...a,
    amount: Math.round(a.amount * noise()),
  }));
  postSales(book, month, amounts, random);
  postMaterials(book, month, amounts, random);
  postPeople(book, month, amounts);
  postEnergy(book, month, amounts, random);
  postDepreciation(book, month, amounts);
  postOverheads(book, month, amounts, random);
  postFinance(book, month, amounts);
  settle(book, month);
  postStatistics(book, month, random);
}

const dimsOf = ({ line, department }: Amount, extra: Record<string, string> = {}): Record<string, string> => ({
  ...(line ? { product_line: line } : {}),
  ...(department ? { department } : {}),
  ...extra,
});

function splitInto(total: number, parts: number, random: Random): number[] {
  const weights = Array.from({ length: parts }, () => random.between(0.6, 1.4));
  const sum = weights.reduce((a, b) => a + b, 0);
  const shares = weights.map((weight) => Math.round((total * weight) / sum));
  shares[0]! += total - shares.reduce((a, b) => a + b, 0);
  return shares;
}

function postSales(book: Book, month: Month, amounts: readonly Amount[], random: Random): void {
  const region = book.entity.region;
  const sales = amounts.filter(({ account }) => nature.get(account)!.category === 'Net sales');
  const pieces = new PiecesOfSales(book.entity, month, sales);
  for (const amount of sales) {
    const isSale = amount.amount > 0;
    const invoices = splitInto(amount.amount, isSale ? CHANNELS.length : 2, random);
    invoices.forEach((value, index) => {
      const customer = random.pick(CUSTOMERS);
      const within = index + random.integer(0, 1) / 2 + (Number(amount.account) % 70) / 140;
      const day = workingDayOf(month, 1 + Math.floor((within * month.days) / invoices.length));
      const channel = CHANNELS[index % CHANNELS.length]!;
      const product = productOf(amount.account, amount.line!);
      const own = { channel, product_line: product, region: random.next() < 0.8 ? region : 'rest' };
      const dims = dimsOf(amount, own);
      if (amount.line === 'contract' && index % 3 === 0)
        dims['project'] = book.entity.code === 'LMT' ? 'metro' : 'harbour';
      const text = `${nature.get(amount.account)!.name}, ${customer.name}`;
      const document = book.nextDocument(isSale ? 'INV' : 'CRN', month);
      const documentType = isSale ? 'invoice' : 'credit_note';
      book.post(
        month,
        { type: isSale ? 'S' : 'C', day, text, document, documentType },
        [{ account: amount.account, amount: -value, ...pieces.of(amount, value), dims, partner: customer.code }],
        owed('1500', customer),
      );
    });
  }
}

/** Shares the pieces that were sold of each product line out to its invoices, by their amounts. */
class PiecesOfSales {
  private readonly totals = new Map<ProductLine, number>();
  private readonly invoiced = new Map<ProductLine, number>();

  constructor(
    private readonly entity: Book['entity'],
    private readonly month: Month,
    sales: readonly Amount[],
  ) {
    for (const { line, amount } of sales)
      if (line && amount > 0) this.totals.set(line, (this.totals.get(line) ?? 0) + amount);
  }

  /** The pieces of an invoice; discounts and what is given back count none. */
  of({ line, amount }: Amount, value: number): Pick<Line, 'quantity'> {
    if (!line || amount <= 0) return {};
    const sold = piecesSold(this.entity, line, this.month);
    const before = this.invoiced.get(line) ?? 0;
    this.invoiced.set(line, before + value);
    const upTo = (invoiced: number) => Math.round((sold * invoiced) / this.totals.get(line)!);
    return { quantity: upTo(before + value) - upTo(before) };
  }
}

/** The side of an invoice that stands open. */
const owed = (account: string, { code, terms, late }: DemoPartner): Omit<Line, 'amount'> => ({
  account,
  partner: code,
  terms,
  late,
});

/** Purchases into stock, and what production takes out of it. */
function postMaterials(book: Book, month: Month, amounts: readonly Amount[], random: Random): void {
  const used = amounts.filter((a) => isIn(a.account, 'Materials') || isIn(a.account, 'Purchased goods'));
  const total = used.reduce((sum, a) => sum + a.amount, 0);
  splitInto(Math.round(total * random.between(0.97, 1.04)), 6, random).forEach((value, index) => {
    const head = {
      type: 'P',
      day: 3 + index * 4,
      text: `Material delivery ${index + 1}`,
      document: book.nextDocument('GR', month),
      documentType: 'invoice' as const,
    };
    const purchase = { account: '1400', amount: value, flow: 'purchases' };
    book.post(month, head, [purchase], owed('2400', materialSupplier(index)));
  });
  for (const half of [0, 1]) {
    const lines = used.map((a): Line => ({
      account: a.account,
      amount: half === 0 ? Math.round(a.amount * 0.48) : a.amount - Math.round(a.amount * 0.48),
      dims: dimsOf(a, { cost_type: 'direct', department: half === 0 ? 'kiln_hall_a' : 'kiln_hall_b' }),
    }));
    const head = {
      type: 'M',
      day: half === 0 ? 15 : 31,
      text: `Material used, ${half === 0 ? 'first' : 'second'} half of the month`,
    };
    book.post(month, head, lines, { account: '1400', flow: 'consumption' });
  }
}

function postPeople(book: Book, month: Month, amounts: readonly Amount[]): void {
  const isPeople = (a: Amount) => isIn(a.account, 'Labour') || isIn(a.account, 'People');
  for (const department of ['production', 'sales', 'logistics', 'finance', 'design']) {
    const lines = amounts
      .filter((a) => isPeople(a) && a.department === department)
      .map((a): Line => ({
        account: a.account,
        amount: a.amount,
        dims: dimsOf(a, { cost_type: department === 'production' ? 'direct' : 'indirect' }),
      }));
    book.post(month, { type: 'W', day: 25, text: `Payroll, ${department}` }, lines, { account: '2510' });
  }
}

function postEnergy(book: Book, month: Month, amounts: readonly Amount[], random: Random): void {
  for (const a of amounts.filter((x) => isIn(x.account, 'Energy'))) {
    const name = CARRIERS[a.account] ?? nature.get(a.account)!.name;
    const [hallA, hallB, accrual] = splitInto(a.amount, 3, random) as [number, number, number];
    const dims = (department: string) => dimsOf(a, { department, cost_type: 'direct' });
    const before = month.month === 1 ? 'December' : MONTHS[month.month - 2]!;
    for (const [hall, day, amount] of [
      ['B', 12, hallB],
      ['A', 27, hallA],
    ] as const) {
      const document = book.nextDocument('UT', month);
      book.post(
        month,
        { type: 'E', day, text: `${name} ${hall}, ${before}`, document, documentType: 'invoice' },
        [{ account: a.account, amount, dims: dims(`kiln_hall_${hall.toLowerCase()}`) }],
        owed('2400', supplierOf(a.account)),
      );
    }
    book.post(
      month,
      { type: 'A', day: 31, text: `Accrual, ${MONTHS[month.month - 1]} tariff` },
      [{ account: a.account, amount: accrual, dims: dims('kiln_hall_a') }],
      { account: '2500' },
    );
  }
}

const MONTHS = 'January February March April May June July August September October November December'.split(' ');
const DEPRECIATION_CONTRA: Record<string, string> = {
  '6800': '1210',
  '6810': '1220',
  '6820': '1200',
  '6830': '1250',
  '6840': '1060',
};

function postDepreciation(book: Book, month: Month, amounts: readonly Amount[]): void {
  for (const a of amounts.filter(
    (x) => nature.get(x.account)!.name.startsWith('Depreciation') || x.account === '6840',
  )) {
    const contra = { account: DEPRECIATION_CONTRA[a.account] ?? '1240', flow: 'depreciation' };
    book.post(
      month,
      { type: 'D', day: 31, text: `${nature.get(a.account)!.name}, ${MONTHS[month.month - 1]}` },
      [{ account: a.account, amount: a.amount, dims: dimsOf(a) }],
      contra,
    );
  }
}

function postOverheads(book: Book, month: Month, amounts: readonly Amount[], random: Random): void {
  const isOverhead = ({ account }: Amount) =>
    ['Specific costs', 'Overheads', 'Other production costs'].some((s) => isIn(account, s)) &&
    !nature.get(account)!.name.startsWith('Depreciation');
  for (const a of amounts.filter(isOverhead)) {
    splitInto(a.amount, random.next() < 0.15 ? 2 : 1, random).forEach((value) => {
      const head = {
        type: 'P',
        day: random.integer(2, 28),
        text: `${nature.get(a.account)!.name}`,
        document: book.nextDocument('PI', month),
        documentType: 'invoice' as const,
      };
      const line = { account: a.account, amount: value, dims: dimsOf(a, { cost_type: 'indirect' }) };
      book.post(month, head, [line], owed('2400', supplierOf(a.account)));
    });
  }
}

function postFinance(book: Book, month: Month, amounts: readonly Amount[]): void {
  for (const a of amounts.filter((x) => nature.get(x.account)!.category === 'Finance costs')) {
    book.post(
      month,
      { type: 'F', day: 31, text: `${nature.get(a.account)!.name}, ${MONTHS[month.month - 1]}` },
      [{ account: a.account, amount: a.amount, dims: dimsOf(a) }],
      { account: '2560' },
    );
  }
  for (const a of amounts.filter((x) =>
    ['Finance income', 'Other operating income'].includes(nature.get(x.account)!.category),
  )) {
    book.post(
      month,
      { type: 'F', day: 30, text: nature.get(a.account)!.name },
      [{ account: a.account, amount: signOf(a.account) * a.amount, dims: dimsOf(a) }],
      { account: '1520' },
    );
  }
  const tax = Math.round(profitOf(amounts) * 0.25);
  const contra = { account: '2630' };
  book.post(
    month,
    { type: 'T', day: 31, text: 'Current tax, monthly accrual' },
    [{ account: '8200', amount: tax, dims: { department: 'finance' } }],
    contra,
  );
}

/** A customer that paid without saying what for. */
const UNCLEAR = { month: '2026-07', partner: 'C107' };

/** Receipts and payments: most of what stood open is settled. */
function settle(book: Book, month: Month): void {
  const clear = (account: string, share: number, day: number, text: string) => {
    const amount = Math.round(book.balance(account) * share);
    const isMoneyIn = amount > 0;
    const head = {
      type: 'B',
      day,
      text,
      document: book.nextDocument(isMoneyIn ? 'RCT' : 'PAY', month),
      documentType: isMoneyIn ? ('receipt' as const) : ('payment' as const),
    };
    const lines = book.settling(account, amount, dayOf(month, day)).map((line) => {
      const { settles: _, ...unclear } = line;
      return month.key === UNCLEAR.month && line.partner === UNCLEAR.partner && line.amount < 0 ? unclear : line;
    });
    book.post(month, head, lines, {
      account: '1600',
      flow: isMoneyIn ? 'receipts' : 'payments',
    });
  };
  clear('1500', 0.45, 20, 'Receipts from customers');
  clear('1520', 0.8, 21, 'Other receipts');
  clear('2400', 0.45, 22, 'Payment run');
  clear('2510', 0.95, 26, 'Wages and salaries paid');
  clear('2500', 0.9, 14, 'Energy accruals settled');
  if (month.period % 3 === 0) {
    clear('2560', 1, 29, 'Interest paid');
    clear('2630', 0.85, 29, 'Income tax paid');
    book.post(
      month,
      { type: 'B', day: 29, text: 'Loan instalment' },
      [{ account: '2200', amount: -Math.round(book.balance('2200') * 0.03), flow: 'repayment' }],
      { account: '1600' },
    );
    const kilns = Math.round(-book.balance('2200') * 0.028);
    const dims = { project: 'kiln_4' };
    book.post(
      month,
      { type: 'I', day: 18, text: 'Kiln 4 rebuild, instalment', document: book.nextDocument('PI', month) },
      [{ account: '1120', amount: kilns, flow: 'addition', dims }],
      owed('2400', supplierOf('1120')),
    );
  }
}

function postStatistics(book: Book, month: Month, random: Random): void {
  const { entity } = book;
  const lines = (Object.keys(entity.sales) as ProductLine[]).flatMap((line): Line[] => {
    const sold = piecesSold(entity, line, month);
    const fired = Math.round(sold * random.between(1.01, 1.07));
    const dims = { product_line: line };
    return [
      { account: '9100', amount: 0, quantity: fired, dims },
      { account: '9110', amount: 0, quantity: sold, dims },
    ];
  });
  const hours = kilnHours(entity, random.between(0.95, 1.05));
  const joiners = month.index === 0 ? entity.headcount : random.integer(-1, 2);
  const staff: Line[] =
    joiners === 0 ? [] : [{ account: '9000', amount: 0, quantity: joiners, dims: { department: 'people' } }];
  book.post(month, { type: 'Q', day: 31, text: 'Statistics of the month' }, [
    ...lines,
    { account: '9200', amount: 0, quantity: hours },
    ...staff,
  ]);
}

const OPEN_AT_FIRST: Record<string, readonly DemoPartner[]> = { '1500': CUSTOMERS, '2400': SUPPLIERS };

/** A balance brought forward as one open item a partner. */
function openItems(account: string, amount: number, partners: readonly DemoPartner[]): Line[] {
  const part = Math.trunc(amount / partners.length);
  return partners.map((partner, at) => ({
    ...owed(account, partner),
    amount: at === 0 ? amount - part * (partners.length - 1) : part,
    document: `${partner.kind === 'customer' ? 'INV' : 'GR'}-202403-${String(at + 1).padStart(4, '0')}`,
  }));
}

/** Balances brought forward when the books begin. */
export function postOpening(book: Book, month: Month, more: readonly Line[]): void {
  const { entity } = book;
  const sales = Object.values(entity.sales).reduce((a, b) => a + b, 0) * 1000 * 10 ** entity.digits;
  const shares: [string, number][] = [
    ['1000', 0.3],
    ['1010', 0.2],
    ['1100', 0.6],
    ['1110', 3.6],
    ['1120', 4.2],
    ['1130', 1.4],
    ['1140', 0.3],
    ['1150', 0.2],
    ['1160', 0.7],
    ['1060', -0.1],
    ['1200', -0.8],
    ['1210', -1.2],
    ['1220', -0.7],
    ['1250', -0.2],
    ['1400', 0.4],
    ['1410', 0.15],
    ['1420', 0.25],
    ['1430', 0.25],
    ['1500', 1.35],
    ['1510', -0.03],
    ['1520', 0.05],
    ['1600', 0.7],
    ['2000', -1.5],
    ['2010', -0.5],
    ['2020', -0.2],
    ['2200', -2.2],
    ['2210', -0.9],
    ['2220', -0.5],
    ['2260', -0.3],
    ['2400', -1.1],
    ['2420', -0.12],
    ['2500', -0.06],
    ['2510', -0.05],
    ['2520', -0.12],
    ['2530', -0.16],
    ['2550', -0.08],
    ['2570', -0.05],
    ['2600', -0.06],
    ['2610', -0.1],
    ['2660', -0.08],
    ['2670', -0.03],
    ['2630', -0.08],
  ];
  const lines = shares.flatMap(([account, share]): Line[] => {
    const amount = Math.round(sales * share);
    const partners = OPEN_AT_FIRST[account];
    return partners ? openItems(account, amount, partners) : [{ account, amount }];
  });
  book.post(month, { type: 'O', day: 1, text: 'Balances brought forward', kind: 'opening' }, [...lines, ...more], {
    account: '2040',
  });
}

/** Audit adjustments in the adjustment period of a finished year. */
export function postAdjustments(book: Book, month: Month): void {
  const period = periodKey(month.fiscalYear, 13);
  const unit = 10 ** book.entity.digits;
  const size = Math.round(Object.values(book.entity.sales).reduce((a, b) => a + b, 0) * unit);
  book.post(
    month,
    { type: 'Y', day: 31, period, text: 'Audit: write-down of seconds stock' },
    [{ account: '5000', amount: size * 4, dims: { department: 'production', cost_type: 'one_off' } }],
    { account: '1450' },
  );
  book.post(
    month,
    { type: 'Y', day: 31, period, text: 'Audit: holiday pay' },
    [{ account: '6080', amount: size * 2, dims: { department: 'production' } }],
    { account: '2520' },
  );
  book.post(
    month,
    { type: 'Y', day: 31, period, basis: 'adjustment', text: 'Audit: tax on adjustments' },
    [{ account: '8200', amount: -Math.round(size * 1.5), dims: { department: 'finance' } }],
    { account: '2630' },
  );
}
