import type { JournalRow } from '@margin-lens/core';

/** A checked journal line in plain values; `combination` counts the combinations of its delivery in order of meeting. */
export interface DeliveredLine {
  entity: number;
  fiscalYear: number;
  kind: number;
  basis: number;
  lineNumber: number;
  period: number;
  account: number;
  debit: number;
  credit: number;
  /** NaN when the line carries none. */
  currencyAmount: number;
  quantity: number;
  combination: number;
  sourceLine: number;
  journal: string;
  date: string;
  currency: string;
  description: string;
  document: string;
}

/** Lines in two flat lists, which travel between threads far cheaper than objects do. */
export interface JournalBatch {
  numbers: Float64Array;
  texts: string[];
  /** Combinations met for the first time in this batch. */
  combinations: string[];
}

const NUMBERS = 13;
const TEXTS = 5;
const LINES_A_BATCH = 2000;

/** Collects checked lines into batches. */
export class JournalBatcher {
  private numbers = new Float64Array(LINES_A_BATCH * NUMBERS);
  private texts: string[] = [];
  private combinations: string[] = [];
  private lines = 0;
  private readonly indexOf = new Map<string, number>();

  constructor(private readonly deliver: (batch: JournalBatch) => void) {}

  add(row: JournalRow, sourceLine: number): void {
    let combination = this.indexOf.get(row.combination);
    if (combination === undefined) {
      combination = this.indexOf.size;
      this.indexOf.set(row.combination, combination);
      this.combinations.push(row.combination);
    }
    const { numbers } = this;
    const at = this.lines * NUMBERS;
    numbers[at] = row.entity.id;
    numbers[at + 1] = row.fiscalYear;
    numbers[at + 2] = row.kind;
    numbers[at + 3] = row.basis;
    numbers[at + 4] = row.lineNumber;
    numbers[at + 5] = row.period.id;
    numbers[at + 6] = row.account;
    numbers[at + 7] = row.debit;
    numbers[at + 8] = row.credit;
    numbers[at + 9] = row.currencyAmount ?? NaN;
    numbers[at + 10] = row.quantity;
    numbers[at + 11] = combination;
    numbers[at + 12] = sourceLine;
    this.texts.push(row.journal, row.date, row.currency, row.description, row.document);
    if (++this.lines === LINES_A_BATCH) this.flush();
  }

  flush(): void {
    if (this.lines === 0) return;
    this.deliver({
      numbers: this.numbers.slice(0, this.lines * NUMBERS),
      texts: this.texts,
      combinations: this.combinations,
    });
    this.texts = [];
    this.combinations = [];
    this.lines = 0;
  }
}

/** The lines of a batch, in order. */
export function forEachLine({ numbers, texts }: JournalBatch, take: (line: DeliveredLine) => void): void {
  for (let i = 0; i < numbers.length / NUMBERS; i++) {
    const n = i * NUMBERS;
    const t = i * TEXTS;
    take({
      entity: numbers[n]!,
      fiscalYear: numbers[n + 1]!,
      kind: numbers[n + 2]!,
      basis: numbers[n + 3]!,
      lineNumber: numbers[n + 4]!,
      period: numbers[n + 5]!,
      account: numbers[n + 6]!,
      debit: numbers[n + 7]!,
      credit: numbers[n + 8]!,
      currencyAmount: numbers[n + 9]!,
      quantity: numbers[n + 10]!,
      combination: numbers[n + 11]!,
      sourceLine: numbers[n + 12]!,
      journal: texts[t]!,
      date: texts[t + 1]!,
      currency: texts[t + 2]!,
      description: texts[t + 3]!,
      document: texts[t + 4]!,
    });
  }
}
