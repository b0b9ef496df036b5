import type { LineColumns } from '../cube/line-columns';

/** What moves of lines between periods, column by column; what leaves a period is there with the other sign. Units: minor units, quantity in 1/10,000. */
export interface MovedLines {
  /** Ids as stored. */
  id: Float64Array;
  account: Int32Array;
  period: Int32Array;
  /** ISO days on which what moves counts. */
  date: readonly string[];
  combination: Int32Array;
  debit: Float64Array;
  credit: Float64Array;
  quantity: Float64Array;
}

/** A line as it was posted. */
export interface PostedLine {
  id: number;
  account: number;
  combination: number;
  debit: number;
  credit: number;
}

/** When what moves of a line counts. */
export interface CountsAt {
  period: number;
  /** ISO day. */
  date: string;
}

/** Adds up what moves of lines, by line and when it counts. */
export class MoveBuilder {
  private readonly byPlace = new Map<string, { line: PostedLine; at: CountsAt; amount: number; quantity: number }>();

  /** Units: minor units, debit positive. */
  add(line: PostedLine, at: CountsAt, amount: number, quantity: number): void {
    const key = `${line.id} ${at.period} ${at.date}`;
    const known = this.byPlace.get(key) ?? { line, at, amount: 0, quantity: 0 };
    known.amount += amount;
    known.quantity += quantity;
    this.byPlace.set(key, known);
  }

  /** What moves after all: each amount on the side on which its line was posted. */
  columns(): MovedLines {
    const rows = [...this.byPlace.values()].filter(({ amount, quantity }) => amount !== 0 || quantity !== 0);
    const floats = (of: (row: (typeof rows)[number]) => number) => Float64Array.from(rows, of);
    const ints = (of: (row: (typeof rows)[number]) => number) => Int32Array.from(rows, of);
    const isDebit = ({ line }: (typeof rows)[number]) => line.debit !== 0;
    return {
      id: floats(({ line }) => line.id),
      account: ints(({ line }) => line.account),
      period: ints(({ at }) => at.period),
      date: rows.map(({ at }) => at.date),
      combination: ints(({ line }) => line.combination),
      debit: floats((row) => (isDebit(row) ? row.amount : 0)),
      credit: floats((row) => (isDebit(row) ? 0 : 0 - row.amount)),
      quantity: floats(({ quantity }) => quantity),
    };
  }
}

/**
 * The lines of an account with what moves of them behind: the same lines once more, each in the period it goes to.
 * @param kind of what moves, as stored
 */
export function withMoved(lines: LineColumns, moved: MovedLines, account: number, kind: number): LineColumns {
  const lineOf = new Map(Array.from(lines.id, (id, line) => [id, line]));
  const rows = Array.from(moved.id.keys()).filter(
    (row) => moved.account[row] === account && lineOf.has(moved.id[row]!),
  );
  const from = rows.map((row) => lineOf.get(moved.id[row]!)!);
  const length = lines.id.length + rows.length;
  const floats = (column: Float64Array, more: readonly number[]) => joined(new Float64Array(length), column, more);
  const ints = (column: Int32Array, more: readonly number[]) => joined(new Int32Array(length), column, more);
  const placeOf = new Map(lines.words.map((word, place) => [word, place]));
  const words = [...lines.words];
  const placeOfDay = (day: string) => {
    if (!placeOf.has(day)) placeOf.set(day, words.push(day) - 1);
    return placeOf.get(day)!;
  };
  const again = (column: Int32Array) =>
    ints(
      column,
      from.map((line) => column[line]!),
    );
  const of = <T extends 'debit' | 'credit' | 'quantity' | 'id'>(name: T) => rows.map((row) => moved[name][row]!);
  return {
    ...lines,
    id: floats(lines.id, of('id')),
    debit: floats(lines.debit, of('debit')),
    credit: floats(lines.credit, of('credit')),
    quantity: floats(lines.quantity, of('quantity')),
    currencyAmount: floats(
      lines.currencyAmount,
      rows.map(() => NaN),
    ),
    period: ints(
      lines.period,
      rows.map((row) => moved.period[row]!),
    ),
    combination: ints(
      lines.combination,
      rows.map((row) => moved.combination[row]!),
    ),
    kind: ints(
      lines.kind,
      rows.map(() => kind),
    ),
    date: ints(
      lines.date,
      rows.map((row) => placeOfDay(moved.date[row]!)),
    ),
    ...{ words, documentType: again(lines.documentType), document: again(lines.document) },
    ...{ due: again(lines.due), settles: again(lines.settles), currency: again(lines.currency) },
  };
}

function joined<T extends Float64Array | Int32Array>(all: T, column: T, more: readonly number[]): T {
  all.set(column);
  all.set(more, column.length);
  return all;
}
