/** A journal line as it is stored; amounts in minor units, quantity in 1/10,000. */
export interface StoredLine {
  id: number;
  period: number;
  combination: number;
  /** Basis × 3 + entry kind. */
  kind: number;
  debit: number;
  credit: number;
  quantity: number;
  /** ISO day. */
  date: string;
  documentType: string;
  document: string;
  /** ISO day; empty where none is said. */
  due: string;
  /** The document that the line settles; empty for none. */
  settles: string;
  currency: string;
  /** In minor units of that currency, debit positive; null where none is said. */
  currencyAmount: number | null;
}

const TEXTS = ['date', 'documentType', 'document', 'due', 'settles', 'currency'] as const;
type TextColumn = (typeof TEXTS)[number];

const FLOATS = ['id', 'debit', 'credit', 'quantity', 'currencyAmount'] as const;
const INTS = ['period', 'combination', 'kind'] as const;

/**
 * The journal lines of one account of an entity that hold at a revision, column by column, in the order of their days: what
 * balances do not carry is told from them.
 *
 * Units: as stored; `currencyAmount` is NaN where none is said. Texts stand once, and are told by their place in `words`.
 */
export interface LineColumns
  extends Record<(typeof FLOATS)[number], Float64Array>, Record<(typeof INTS)[number] | TextColumn, Int32Array> {
  words: readonly string[];
}

/** Lines as they are stored, column by column. @param lines in the order of their days */
export function lineColumns(lines: Iterable<StoredLine>): LineColumns {
  const held: Record<string, number[]> = {};
  for (const name of [...FLOATS, ...INTS, ...TEXTS]) held[name] = [];
  const placeOf = new Map<string, number>();
  const words: string[] = [];
  const placeOfWord = (word: string) => {
    const known = placeOf.get(word);
    if (known !== undefined) return known;
    placeOf.set(word, words.length);
    return words.push(word) - 1;
  };
  for (const line of lines) {
    for (const name of FLOATS) held[name]!.push(line[name] ?? NaN);
    for (const name of INTS) held[name]!.push(line[name]);
    for (const name of TEXTS) held[name]!.push(placeOfWord(line[name]));
  }
  const floats = (name: string) => Float64Array.from(held[name]!);
  const ints = (name: string) => Int32Array.from(held[name]!);
  return {
    ...{ id: floats('id'), debit: floats('debit'), credit: floats('credit'), quantity: floats('quantity') },
    ...{ currencyAmount: floats('currencyAmount'), period: ints('period'), combination: ints('combination') },
    ...{ kind: ints('kind'), date: ints('date'), documentType: ints('documentType'), document: ints('document') },
    ...{ due: ints('due'), settles: ints('settles'), currency: ints('currency'), words },
  };
}

/** A text of a line. */
export const textOfLine = (lines: LineColumns, column: TextColumn, line: number): string =>
  lines.words[lines[column][line]!]!;
