import { BASES, type JournalRow } from '@margin-lens/core';
import { BalanceSums } from './balance-sums';

/** Columns of a batch's lines, in numbers and in texts; `journal` counts those of the delivery from 1, `combination` from 0. */
export const LINE_NUMBERS = [
  'journal',
  'line',
  'entity',
  'period',
  'account',
  'basis',
  'debit',
  'credit',
  'currency_amount',
  'quantity',
  'combination',
  'source_line',
] as const;
export const LINE_TEXTS = [
  ...(['date', 'currency', 'description', 'document', 'document_type', 'due', 'settles'] as const),
  ...(['local_account', 'local_values'] as const),
] as const;
/** Columns of its new journals and of the sums of its lines. */
export const JOURNAL_NUMBERS = ['id', 'entity', 'fiscal_year', 'kind'] as const;
export const SUM_NUMBERS = [
  'entity',
  'period',
  'account',
  'combination',
  'basis',
  'entry_kind',
  'debit',
  'credit',
  'quantity',
] as const;

/** A part of a delivery's journals in flat lists, which travel between threads far cheaper than objects do. */
export interface JournalBatch {
  lines: Float64Array;
  lineTexts: string[];
  /** Journals, and combinations by their text, that are met for the first time. */
  journals: Float64Array;
  journalNumbers: string[];
  combinations: string[];
  /** Sums of the lines up to this batch that no batch before it has. */
  sums: Float64Array;
}

/** What is known of a delivery's journals once all lines are read. */
export interface JournalsRead {
  /** Some journal is not balanced, or it cannot be told. */
  isOff: boolean;
  /** Some journals may have been begun twice, since their lines stand far apart. */
  mayBeTwice: boolean;
  /** Some line may stand twice in its journal. */
  mayRepeat: boolean;
}

interface MetJournal {
  id: number;
  kind: number;
  /** The number of its line that came last. */
  line: number;
}

const LINES_A_BATCH = 2000;
/** Journals remembered by key; beyond it they are forgotten, so that memory stays bounded. */
const JOURNALS_HELD = 200_000;
/** Sums kept in memory before they are handed on; bounds memory whatever the size of the file. */
const SUMS_HELD = 200_000;

/** A new one each time: it may be handed to another thread. */
const none = () => new Float64Array(0);

/** Collects checked lines into batches, by the journals that they are of, whether or not a journal's lines are adjacent. */
export class JournalBatcher {
  private lines = new Float64Array(LINES_A_BATCH * LINE_NUMBERS.length);
  private lineTexts: string[] = [];
  private count = 0;
  private journals: number[] = [];
  private journalNumbers: string[] = [];
  private combinations: string[] = [];
  private readonly indexOf = new Map<string, number>();
  private readonly sums = new BalanceSums();
  private readonly byKey = new Map<string, MetJournal>();
  private met = 0;
  private readonly offBy = new Map<number, number>();
  private readonly read: JournalsRead = { isOff: false, mayBeTwice: false, mayRepeat: false };
  private last: { entity: number; fiscalYear: number; journal: string; met: MetJournal } | undefined;

  constructor(
    private readonly deliver: (batch: JournalBatch) => void,
    private readonly journalsHeld = JOURNALS_HELD,
  ) {}

  /** Takes a line; false when its journal is of another kind. */
  add(row: JournalRow, sourceLine: number): boolean {
    const { entity, period, account, kind, basis, debit, credit, quantity } = row;
    const journal = this.journalOf(row);
    if (journal.kind !== kind) return false;
    if (row.lineNumber <= journal.line) this.read.mayRepeat = true;
    journal.line = row.lineNumber;
    const combination = this.combinationOf(row.combination);
    const { lines } = this;
    const at = this.count * LINE_NUMBERS.length;
    lines[at] = journal.id;
    lines[at + 1] = row.lineNumber;
    lines[at + 2] = entity.id;
    lines[at + 3] = period.id;
    lines[at + 4] = account;
    lines[at + 5] = basis;
    lines[at + 6] = debit;
    lines[at + 7] = credit;
    lines[at + 8] = row.currencyAmount ?? NaN;
    lines[at + 9] = quantity;
    lines[at + 10] = combination;
    lines[at + 11] = sourceLine;
    const { date, currency, description, document, documentType, due, settles, localAccount, localValues } = row;
    this.lineTexts.push(date, currency, description, document, documentType, due, settles, localAccount, localValues);
    this.follow(journal.id * BASES.length + basis, debit - credit);
    this.sums.add(entity.id, period.id, account, combination, basis, kind, debit, credit, quantity);
    if (++this.count === LINES_A_BATCH) this.flush();
    return true;
  }

  /** Hands on what is left. */
  finish(): JournalsRead {
    this.flush(true);
    return { ...this.read, isOff: this.read.isOff || this.offBy.size > 0 };
  }

  /** Most lines are of the journal of the line before. */
  private journalOf({ entity: { id: entity }, fiscalYear, journal, kind }: JournalRow): MetJournal {
    const { last } = this;
    if (last?.journal === journal && last.entity === entity && last.fiscalYear === fiscalYear) return last.met;
    const key = `${entity}|${fiscalYear}|${journal}`;
    const met = this.byKey.get(key) ?? this.meet(key, { entity, fiscalYear, journal, kind });
    this.last = { entity, fiscalYear, journal, met };
    return met;
  }

  private meet(
    key: string,
    { entity, fiscalYear, journal, kind }: Pick<JournalRow, 'fiscalYear' | 'journal' | 'kind'> & { entity: number },
  ): MetJournal {
    const made = { id: ++this.met, kind, line: -1 };
    this.journals.push(made.id, entity, fiscalYear, kind);
    this.journalNumbers.push(journal);
    if (this.byKey.size >= this.journalsHeld) {
      this.byKey.clear();
      this.read.mayBeTwice = true;
    }
    this.byKey.set(key, made);
    return made;
  }

  private combinationOf(parts: string): number {
    const known = this.indexOf.get(parts);
    if (known !== undefined) return known;
    const index = this.indexOf.size;
    this.indexOf.set(parts, index);
    this.combinations.push(parts);
    return index;
  }

  /** Keeps what each journal is off by in each basis while it is off; most are balanced again after a few lines. */
  private follow(key: number, amount: number): void {
    const off = (this.offBy.get(key) ?? 0) + amount;
    if (off === 0) this.offBy.delete(key);
    else if (this.offBy.size < JOURNALS_HELD) this.offBy.set(key, off);
    else this.read.isOff = true;
  }

  private flush(isLast = false): void {
    if (this.count === 0 && !isLast) return;
    this.deliver({
      lines: this.lines.slice(0, this.count * LINE_NUMBERS.length),
      lineTexts: this.lineTexts,
      journals: new Float64Array(this.journals),
      journalNumbers: this.journalNumbers,
      combinations: this.combinations,
      sums: isLast || this.sums.size >= SUMS_HELD ? this.sums.drain() : none(),
    });
    this.count = 0;
    this.lineTexts = [];
    this.journals = [];
    this.journalNumbers = [];
    this.combinations = [];
  }
}
