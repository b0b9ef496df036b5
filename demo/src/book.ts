import { formatMinor } from '@margin-lens/core';
import type { CsvFile } from './csv-file';
import { dayOf, DIMENSIONS, type DemoEntity, type Month } from './scenario';

export const DIMENSION_NAMES = Object.keys(DIMENSIONS);
export const JOURNAL_HEADER = [
  'entity',
  'journal',
  'kind',
  'line',
  'date',
  'period',
  'account',
  'debit',
  'credit',
  'currency',
  'currency_amount',
  'quantity',
  'partner',
  'flow',
  'basis',
  'description',
  'document',
  'document_type',
  'due',
  'settles',
  ...DIMENSION_NAMES.map((name) => `dim:${name}`),
];

export interface Line {
  account: string;
  /** Minor units of the entity's currency, debit positive; rounded when written. */
  amount: number;
  partner?: string;
  flow?: string;
  quantity?: number;
  currency?: string;
  currencyAmount?: string;
  dims?: Record<string, string>;
  /** Of an open item: where it is not the journal's own document, and the days after which it is due. */
  document?: string;
  terms?: number;
  /** Days by which it is usually paid late. */
  late?: number;
  /** The document that the line settles. */
  settles?: string;
}

/** What a partner owes or is owed by a document, minor units, debit positive. */
interface OpenItem {
  /** ISO day from which on it can be settled, and that on which it usually is. */
  date: string;
  expected: string;
  document: string;
  partner: string;
  amount: number;
}

export interface JournalHead {
  type: string;
  day: number;
  text: string;
  document?: string;
  documentType?: 'invoice' | 'credit_note' | 'receipt' | 'payment';
  kind?: 'opening' | 'closing';
  period?: string;
  basis?: 'adjustment';
}

/** The books of one entity while they are made: writes journals and remembers balances, so that payments can settle. */
export class Book {
  private readonly balances = new Map<string, number>();
  private readonly items = new Map<string, OpenItem[]>();
  private readonly documents = new Map<string, number>();
  private numberInYear = 0;
  private year = 0;
  private copiesDue = 0;

  constructor(
    readonly entity: DemoEntity,
    private readonly file: CsvFile,
    /** How many journals stand for one of the usual size; makes the ledger longer, not its amounts larger. */
    private readonly lengthFactor = 1,
    /** The account of the entity's own books that stands for one of the chart. */
    private readonly ownAccount: (account: string, month: Month) => string = (account) => account,
  ) {}

  balance(account: string): number {
    return this.balances.get(account) ?? 0;
  }

  /** The next document of a kind in a month. @example 'INV-202608-0014' */
  nextDocument(kind: string, month: Month): string {
    const series = `${kind}-${month.key.replace('-', '')}`;
    const number = (this.documents.get(series) ?? 0) + 1;
    this.documents.set(series, number);
    return `${series}-${String(number).padStart(4, '0')}`;
  }

  /** Lines that settle open items of an account up to a day, as they are usually paid and up to an amount; the rest names no document. */
  settling(account: string, amount: number, upTo: string): Line[] {
    const items = [...(this.items.get(account) ?? [])].sort((a, b) => (a.expected < b.expected ? -1 : 1));
    const lines: Line[] = [];
    let left = amount;
    for (const item of items) {
      if (left === 0) break;
      if (item.date > upTo) continue;
      const isReduced = Math.sign(item.amount) === Math.sign(left);
      // a credit note is taken whole, so that there is more to pay of the others
      const part = isReduced ? Math.sign(left) * Math.min(Math.abs(item.amount), Math.abs(left)) : item.amount;
      left -= part;
      item.amount -= part;
      lines.push({ account, amount: -part, partner: item.partner, settles: item.document });
    }
    this.items.set(
      account,
      items.filter((item) => item.amount !== 0),
    );
    return left === 0 ? lines : [...lines, { account, amount: -left }];
  }

  /** Writes a journal; what is missing to zero goes to the contra account, when one is named. */
  post(month: Month, head: JournalHead, lines: readonly Line[], contra?: Omit<Line, 'amount'>): void {
    const rounded = lines
      .map((line) => ({ ...line, amount: Math.round(line.amount) }))
      .filter((l) => l.amount !== 0 || l.quantity);
    if (rounded.length === 0) return;
    const rest = rounded.reduce((sum, line) => sum + line.amount, 0);
    const all: Line[] = contra && rest !== 0 ? [...rounded, { ...contra, amount: -rest }] : rounded;
    for (const line of all) this.keepItem(dayOf(month, head.day), head.document, line);
    const copies = head.kind === 'opening' ? 1 : this.copies();
    for (let copy = 0; copy < copies; copy++) {
      const number = this.nextNumber(month, head.type);
      const parts = all.map((line) => partOf(line, copy, copies));
      const last = parts[parts.length - 1]!;
      last.amount -= parts.reduce((sum, line) => sum + line.amount, 0);
      parts.forEach((line, index) => this.write(month, head, number, index + 1, line));
    }
  }

  private keepItem(date: string, ofJournal: string | undefined, line: Line): void {
    const { account, amount, partner, document = ofJournal, terms, late = 0 } = line;
    if (partner === undefined || document === undefined || terms === undefined) return;
    this.items.set(account, [
      ...(this.items.get(account) ?? []),
      { date, expected: dayAfter(date, terms + late), document, partner, amount },
    ]);
  }

  private copies(): number {
    this.copiesDue += this.lengthFactor;
    const copies = Math.max(1, Math.floor(this.copiesDue));
    this.copiesDue -= copies;
    return copies;
  }

  private nextNumber(month: Month, type: string): string {
    if (month.fiscalYear !== this.year) {
      this.year = month.fiscalYear;
      this.numberInYear = 0;
    }
    return `${type}${String(++this.numberInYear).padStart(5, '0')}`;
  }

  private write(month: Month, head: JournalHead, number: string, index: number, line: Line): void {
    const { code, digits, currency } = this.entity;
    const amount = (minor: number) => (minor > 0 ? formatMinor(minor, digits) : '');
    this.balances.set(line.account, this.balance(line.account) + line.amount);
    this.file.add([
      code,
      number,
      head.kind ?? '',
      index,
      dayOf(month, head.day),
      head.period ?? '',
      this.ownAccount(line.account, month),
      amount(line.amount),
      amount(-line.amount),
      line.currency ?? currency,
      line.currencyAmount ?? '',
      line.quantity ?? '',
      line.partner ?? '',
      line.flow ?? '',
      head.basis ?? '',
      head.text,
      line.document ?? head.document ?? '',
      head.documentType ?? '',
      line.terms === undefined ? '' : dayAfter(dayOf(month, head.day), line.terms),
      line.settles ?? '',
      ...DIMENSION_NAMES.map((name) => line.dims?.[name] ?? ''),
    ]);
  }
}

const dayAfter = (day: string, days: number): string =>
  new Date(Date.parse(day) + days * 86_400_000).toISOString().slice(0, 10);

/** One of several equal parts of a line; the first takes what does not divide. */
function partOf(line: Line, part: number, parts: number): Line {
  if (parts === 1) return { ...line };
  const share = (whole: number) => Math.trunc(whole / parts) + (part === 0 ? whole % parts : 0);
  const { currencyAmount: _, ...rest } = line;
  return {
    ...rest,
    amount: share(line.amount),
    ...(line.quantity !== undefined ? { quantity: share(line.quantity) } : {}),
  };
}
