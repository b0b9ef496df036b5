import { textOfLine, type LineColumns } from '../cube/line-columns';

/** What stands in place of a due day where a line belongs to a partner and to no document that is known. */
export const UNALLOCATED = 'unallocated';

/** What open items are aged by: the day on which they are due, or the day of their document. */
export type AgedBy = 'due' | 'document';

/** A part of a line: what of it belongs to an open item of a due day, in a period. */
export interface ItemPart {
  line: number;
  /** As stored; that of the line, but for what was paid before its document came. */
  period: number;
  /** ISO day, `UNALLOCATED`, or empty where the line is no item at all. */
  due: string;
  debit: number;
  credit: number;
  /** In the currency of the item, debit positive; NaN where it is in the currency of the entity. */
  foreign: number;
  item: OpenItem | undefined;
}

/** What a partner owes or is owed by a document, and its instalments. */
export interface OpenItem {
  document: string;
  partner: string;
  /** ISO 4217; empty where the item is in the currency of the entity, or its lines are in several. */
  currency: string;
  /** The line that it begins with. */
  first: number;
  /** By due day, the earliest first, with what is left of each. Units: minor units, debit positive. */
  instalments: { due: string; left: number }[];
}

/**
 * Assigns the lines of an account to open items. A line with a due day opens one, and so does one without that stands on the
 * side on which the account is, dated by its document, unless it is a receipt or payment; a line that settles a document belongs to that, whatever its own. A
 * document with several due days is settled in their order. What settles a document before it came is unallocated until
 * then; what settles none that is known stays so. A line without a partner and without a document that is known is no item.
 *
 * Shape: parts add up to their lines. Missing: an account whose lines name no document at all has no items.
 * @param isDebit whether the account is one of what others owe
 * @param partnerOf the partner that a combination is against; empty for none
 * @source common practice of sub-ledgers; domain notes, Ageing
 */
export function itemParts(
  lines: LineColumns,
  by: AgedBy,
  isDebit: boolean,
  home: string,
  partnerOf: (combination: number) => string,
): ItemPart[] {
  const items = new Items(lines, by, isDebit, home, partnerOf);
  return Array.from(lines.id, (_, line) => items.partsOf(line)).flat();
}

class Items {
  private readonly byKey = new Map<string, OpenItem>();
  /** The one item of a document, whoever it is against; undefined where there are several. */
  private readonly byDocument = new Map<string, OpenItem | undefined>();

  constructor(
    private readonly lines: LineColumns,
    private readonly by: AgedBy,
    private readonly isDebit: boolean,
    private readonly home: string,
    private readonly partnerOf: (combination: number) => string,
  ) {
    for (let line = 0; line < lines.id.length; line++) if (this.opens(line)) this.open(line);
    for (let line = 0; line < lines.id.length; line++) this.weighCurrency(line);
    for (const { instalments } of this.byKey.values()) instalments.sort((a, b) => (a.due < b.due ? -1 : 1));
  }

  partsOf(line: number): ItemPart[] {
    const { period, debit, credit } = this.lines;
    const whole = { line, period: period[line]!, debit: debit[line]!, credit: credit[line]! };
    const item = this.itemOf(line);
    if (!item) {
      const due = this.partner(line) === '' ? '' : UNALLOCATED;
      return [{ ...whole, due, foreign: NaN, item: undefined }];
    }
    const parts = this.dueParts(line, item).map((part) => ({ ...whole, ...part, item }));
    const came = period[item.first]!;
    if (this.text('date', item.first) <= this.text('date', line) || came === whole.period) return parts;
    // paid before its document came: unallocated until then
    const moved = parts.map((part) => ({ ...part, period: came }));
    const back = { ...whole, period: came, debit: whole.credit, credit: whole.debit };
    return [
      { ...whole, due: UNALLOCATED, foreign: NaN, item: undefined },
      { ...back, due: UNALLOCATED, foreign: NaN, item: undefined },
      ...moved,
    ];
  }

  /** What opens an instalment belongs to it; what settles goes against the earliest that is left. */
  private dueParts(line: number, item: OpenItem): Pick<ItemPart, 'due' | 'debit' | 'credit' | 'foreign'>[] {
    const amount = this.amount(line);
    const foreign = item.currency === '' ? NaN : this.lines.currencyAmount[line]!;
    const { instalments } = item;
    const [only, ...others] = instalments;
    const own = this.opens(line) ? this.dueOf(line) : others.length === 0 ? only!.due : undefined;
    const sides = (part: number) => ({ debit: Math.max(part, 0), credit: Math.max(-part, 0) });
    if (own !== undefined)
      return [{ due: own, debit: this.lines.debit[line]!, credit: this.lines.credit[line]!, foreign }];
    const parts: { due: string; part: number }[] = [];
    let rest = amount;
    instalments.forEach((instalment, at) => {
      const most = at === instalments.length - 1 ? Math.abs(rest) : Math.abs(instalment.left);
      const part = Math.sign(rest) * Math.min(Math.abs(rest), most);
      const isReduced = Math.sign(part) !== Math.sign(instalment.left);
      if (part === 0 || (!isReduced && at < instalments.length - 1)) return;
      instalment.left += part;
      rest -= part;
      parts.push({ due: instalment.due, part });
    });
    let foreignLeft = foreign;
    return parts.map(({ due, part }, at) => {
      const share = at === parts.length - 1 ? foreignLeft : Math.round((foreign * part) / amount);
      foreignLeft -= share;
      return { due, ...sides(part), foreign: share };
    });
  }

  private opens(line: number): boolean {
    const [due, settles, document] = [this.text('due', line), this.text('settles', line), this.text('document', line)];
    const documentType = this.text('documentType', line);
    return opensItem({ due, settles, document, documentType }, this.amount(line), this.isDebit);
  }

  private open(line: number): void {
    const document = this.text('document', line);
    const partner = this.partner(line);
    const key = this.keyOf(line);
    let item = this.byKey.get(key);
    if (!item) {
      item = { document, partner, currency: this.currency(line), first: line, instalments: [] };
      this.byKey.set(key, item);
      if (document !== '') this.byDocument.set(document, this.byDocument.has(document) ? undefined : item);
    }
    const due = this.dueOf(line);
    const instalment = item.instalments.find((each) => each.due === due);
    if (instalment) instalment.left += this.amount(line);
    else item.instalments.push({ due, left: this.amount(line) });
  }

  /** An item whose lines are in several currencies stands at what was booked. */
  private weighCurrency(line: number): void {
    const item = this.itemOf(line);
    if (item && this.currency(line) !== item.currency) item.currency = '';
  }

  private itemOf(line: number): OpenItem | undefined {
    const known = this.byKey.get(this.keyOf(line));
    return known ?? (this.partner(line) === '' ? this.byDocument.get(this.documentOf(line)) : undefined);
  }

  private documentOf(line: number): string {
    return this.text('settles', line) || this.text('document', line);
  }

  /** What is due and has no document is an item by itself. */
  private keyOf(line: number): string {
    const document = this.documentOf(line);
    return JSON.stringify(document === '' ? [line] : [this.partner(line), document]);
  }

  private dueOf(line: number): string {
    return (this.by === 'due' && this.text('due', line)) || this.text('date', line);
  }

  /** The currency that a line has an amount in beside that of the entity. */
  private currency(line: number): string {
    const currency = this.text('currency', line);
    return Number.isNaN(this.lines.currencyAmount[line]!) || currency === this.home ? '' : currency;
  }

  private amount(line: number): number {
    return this.lines.debit[line]! - this.lines.credit[line]!;
  }

  private partner(line: number): string {
    return this.partnerOf(this.lines.combination[line]!);
  }

  private text(column: Parameters<typeof textOfLine>[1], line: number): string {
    return textOfLine(this.lines, column, line);
  }
}

/** Types of documents that settle others and open no item. */
const PAYING: ReadonlySet<string> = new Set(['receipt', 'payment']);

/**
 * Whether a line opens an item: it has a due day, or a document and stands on the side on which its account is, unless it is a
 * receipt or payment.
 * @param amount debit positive
 * @param isDebit whether the account is one of what others owe
 */
export function opensItem(
  { due, settles, document, documentType }: Record<'due' | 'settles' | 'document' | 'documentType', string>,
  amount: number,
  isDebit: boolean,
): boolean {
  if (settles !== '') return false;
  if (due !== '') return true;
  return document !== '' && amount !== 0 && amount > 0 === isDebit && !PAYING.has(documentType);
}
