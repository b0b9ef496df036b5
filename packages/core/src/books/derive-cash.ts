import { tryAllocate } from '../money/allocate';
import { opensItem } from './open-items';
import { MoveBuilder, type CountsAt, type MovedLines, type PostedLine } from './moved-lines';

/** A journal line as the cash basis is derived from it; ids as stored. Units: minor units, quantity in 1/10,000. */
export interface LineOfDocuments extends PostedLine {
  journal: number;
  period: number;
  isOpening: boolean;
  /** ISO day. */
  date: string;
  document: string;
  documentType: string;
  due: string;
  settles: string;
  quantity: number;
}

/** What accounts are for, by their ids: those that hold cash, and those whose lines name documents or settle them. */
export interface CashAccounts {
  cash: ReadonlySet<number>;
  items: ReadonlySet<number>;
  /** Whether an account is one of what others owe. */
  isDebit(account: number): boolean;
  /** The partner that a combination is against; empty for none. */
  partnerOf(combination: number): string;
}

/**
 * Why a movement of an account of documents stays on the cash basis: it settles none that is known, or one of an opening
 * balance; it was paid ahead; or its journal joins documents that cannot be told apart.
 */
export const UNDERIVED = ['unknown', 'before', 'ahead', 'joined'] as const;
export type Underived = (typeof UNDERIVED)[number];

/** What could not be derived of an account in a period, both as stored. Units: minor units, debit positive. */
export interface UnderivedAmount {
  account: number;
  period: number;
  reason: Underived;
  amount: number;
}

export interface DerivedCash {
  moved: MovedLines;
  /** Adds up to what accounts of documents move by on the cash basis. */
  underived: readonly UnderivedAmount[];
}

/**
 * Derives the cash basis of an entity from what its lines settle: a journal that opens documents is undone in its period and
 * comes back in the periods in which they are settled, each time by the part that is settled, so that every journal still
 * balances and cash accounts stay as they are. All else stands as it was posted.
 *
 * What is paid at once in a journal of documents counts at once. What is paid before its document came stands on its account
 * until then. Parts are by largest remainder, and are together the whole.
 *
 * Missing: what could not be derived stands as it was posted, and `underived` says how much of it there is and why.
 * @source common practice: receipts and payments made from sales and purchase ledgers, a cash basis with modifications
 */
export function deriveCash(lines: readonly LineOfDocuments[], accounts: CashAccounts): DerivedCash {
  return new Derivation(lines, accounts).derive();
}

/** A document of a journal. Units: minor units, debit positive. */
interface Item {
  journal: number;
  lines: LineOfDocuments[];
  amount: number;
  /** What is left to settle of it. */
  left: number;
  /** Why it stands as it was posted; undefined where it does not. */
  stays: Underived | undefined;
}

/** A document that was settled by an amount, which is on the side of the document. */
interface Settlement {
  item: Item;
  amount: number;
  /** The line that says in which period it counts. */
  at: LineOfDocuments;
}

/** A journal that opens documents. */
interface DocumentJournal {
  items: Item[];
  /** What counts at once: cash, and what settles other documents. */
  atOnce: number;
  others: LineOfDocuments[];
  settlements: Settlement[];
}

const amountOf = ({ debit, credit }: PostedLine): number => debit - credit;
const sumOf = (amounts: readonly number[]): number => amounts.reduce((all, amount) => all + amount, 0);
const byDay = (a: LineOfDocuments, b: LineOfDocuments): number =>
  a.date === b.date ? a.id - b.id : a.date < b.date ? -1 : 1;

class Derivation {
  private readonly journals = new Map<number, DocumentJournal>();
  /** By account, partner and document, and once more by account and document alone. */
  private readonly items = new Map<string, Item[]>();
  private readonly moves = new MoveBuilder();
  private readonly underived = new Map<string, UnderivedAmount>();

  constructor(
    private readonly lines: readonly LineOfDocuments[],
    private readonly accounts: CashAccounts,
  ) {}

  derive(): DerivedCash {
    const lines = [...this.lines].sort(byDay);
    for (const line of lines) if (this.opens(line)) this.open(line);
    for (const line of lines) this.addToJournal(line);
    for (const journal of this.journals.values()) if (!canBeTold(journal)) this.keep(journal);
    for (const line of lines) if (this.settles(line)) this.settle(line);
    for (const journal of this.journals.values()) this.move(journal);
    const underived = [...this.underived.values()].filter(({ amount }) => amount !== 0);
    return { moved: this.moves.columns(), underived };
  }

  /** As open items are opened, with a document that can be settled. */
  private opens(line: LineOfDocuments): boolean {
    const { account, document } = line;
    const amount = amountOf(line);
    if (!this.accounts.items.has(account) || document === '' || amount === 0) return false;
    return opensItem(line, amount, this.accounts.isDebit(account));
  }

  private settles(line: LineOfDocuments): boolean {
    return this.accounts.items.has(line.account) && !line.isOpening && !this.opens(line);
  }

  private open(line: LineOfDocuments): void {
    const amount = amountOf(line);
    const { journal, isOpening } = line;
    const known = this.items.get(this.keyOf(line))?.find((item) => item.journal === journal);
    if (known) {
      known.lines.push(line);
      known.amount += amount;
      known.left += amount;
      return;
    }
    const stays = isOpening ? 'before' : undefined;
    const item: Item = { journal, lines: [line], amount, left: amount, stays };
    for (const key of new Set([this.keyOf(line), this.keyOf(line, '')]))
      this.items.set(key, [...(this.items.get(key) ?? []), item]);
    if (isOpening) return;
    const of = this.journals.get(journal) ?? { items: [], atOnce: 0, others: [], settlements: [] };
    of.items.push(item);
    this.journals.set(journal, of);
  }

  private keyOf(line: LineOfDocuments, partner = this.accounts.partnerOf(line.combination)): string {
    return JSON.stringify([line.account, partner, line.settles || line.document]);
  }

  /** Sorts a line into the journal that it stands in beside documents. */
  private addToJournal(line: LineOfDocuments): void {
    const journal = this.journals.get(line.journal);
    if (!journal || this.opens(line)) return;
    if (this.accounts.cash.has(line.account) || this.accounts.items.has(line.account)) journal.atOnce += amountOf(line);
    else journal.others.push(line);
  }

  private keep({ items }: DocumentJournal): void {
    for (const item of items) {
      item.stays = 'joined';
      for (const line of item.lines) this.leave(line, 'joined', amountOf(line));
    }
  }

  /** Assigns a line to the documents that it settles, the earliest first. */
  private settle(line: LineOfDocuments): void {
    const items = this.items.get(this.keyOf(line)) ?? [];
    let rest = amountOf(line);
    for (const item of items) {
      const part = partSettled(item, rest);
      item.left += part;
      rest -= part;
      if (part === 0) continue;
      if (item.stays) this.leave(line, item.stays, part);
      else this.settleItem(line, item, part);
    }
    this.leave(line, 'unknown', rest);
  }

  private settleItem(line: LineOfDocuments, item: Item, part: number): void {
    const [came] = item.lines as [LineOfDocuments];
    const at = came.date > line.date ? came : line;
    this.journals.get(item.journal)!.settlements.push({ item, amount: -part, at });
    if (at.period === line.period) return;
    this.leave(line, 'ahead', part);
    this.leave(at, 'ahead', -part);
  }

  /** Undoes a journal in its period, and has it come back by the parts that are settled. */
  private move({ items, atOnce, others, settlements }: DocumentJournal): void {
    if (items[0]!.stays) return;
    for (const { lines } of items) for (const line of lines) this.moves.add(line, line, -amountOf(line), 0);
    for (const line of others) this.moves.add(line, line, -amountOf(line), -line.quantity);
    const counted = new Counted(others, this.moves);
    if (atOnce !== 0) counted.upTo(atOnce, others[0]!);
    const settled = new Map<Item, number>();
    let total = atOnce;
    for (const { item, amount, at } of settlements.sort((a, b) => byDay(a.at, b.at))) {
      total += amount;
      counted.upTo(total, at);
      const before = settled.get(item) ?? 0;
      settled.set(item, before + amount);
      for (const { line, part } of linesFilled(item, before, before + amount)) this.moves.add(line, at, part, 0);
    }
  }

  private leave({ account, period }: LineOfDocuments, reason: Underived, amount: number): void {
    const key = [account, period, reason].join();
    const known = this.underived.get(key) ?? { account, period, reason, amount: 0 };
    known.amount += amount;
    this.underived.set(key, known);
  }
}

/** Counts the other lines of a journal by the part of it that is settled. */
class Counted {
  private readonly weights: readonly number[];
  private readonly whole: number;
  private readonly parts: { amount: number; quantity: number }[];

  constructor(
    private readonly lines: readonly LineOfDocuments[],
    private readonly moves: MoveBuilder,
  ) {
    this.weights = lines.map(amountOf);
    this.whole = sumOf(this.weights);
    this.parts = lines.map(() => ({ amount: 0, quantity: 0 }));
  }

  /** @param settled all that is settled by now, documents and what counts at once, on their side */
  upTo(settled: number, at: CountsAt): void {
    const amounts = tryAllocate(-settled, this.weights)!;
    this.lines.forEach((line, place) => {
      const before = this.parts[place]!;
      const now = { amount: amounts[place]!, quantity: Math.round((line.quantity * -settled) / this.whole) };
      this.moves.add(line, at, now.amount - before.amount, now.quantity - before.quantity);
      this.parts[place] = now;
    });
  }
}

/**
 * Whether the documents of a journal can be told from its other lines: they stand on one side, with what counts at once, and
 * there is something else that they are for.
 */
function canBeTold({ items, atOnce, others }: DocumentJournal): boolean {
  const side = Math.sign(items[0]!.amount);
  const areOfOneSide = items.every(({ lines }) => lines.every((line) => Math.sign(amountOf(line)) === side));
  const weights = others.map(amountOf);
  return areOfOneSide && Math.sign(atOnce) !== -side && tryAllocate(sumOf(weights), weights) !== undefined;
}

/** What an amount settles of a document: no more than is left of it; or, on its own side, what had been settled. */
function partSettled({ amount, left }: Item, rest: number): number {
  const most = Math.sign(rest) === Math.sign(amount) ? amount - left : left;
  return Math.sign(rest) * Math.min(Math.abs(rest), Math.abs(most));
}

/** The lines of a document that are filled between two amounts settled of it, in their order. */
function linesFilled({ lines }: Item, from: number, to: number): { line: LineOfDocuments; part: number }[] {
  let start = 0;
  return lines.flatMap((line) => {
    const amount = amountOf(line);
    const within = (settled: number) =>
      Math.sign(amount) * Math.min(Math.max((settled - start) * Math.sign(amount), 0), Math.abs(amount));
    const part = within(to) - within(from);
    start += amount;
    return part === 0 ? [] : { line, part };
  });
}
