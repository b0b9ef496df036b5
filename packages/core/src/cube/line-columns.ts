/** Amounts in minor units, quantity in 1/10,000; the amount in the currency of the line is debit positive. */
const FLOATS = ['id', 'debit', 'credit', 'quantity', 'currencyAmount'] as const;
/** Ids as stored; a kind is basis × 3 + entry kind. */
const INTS = ['period', 'combination', 'kind'] as const;
/** ISO days, the later ones empty where none is said; the document that a line settles, and others, empty for none. */
const TEXTS = ['date', 'documentType', 'document', 'due', 'settles', 'currency'] as const;
type TextColumn = (typeof TEXTS)[number];

/** The columns of a line as it is stored, in the order in which they are read; null where nothing is said. */
export const LINE_COLUMNS = [...FLOATS, ...INTS, ...TEXTS] as const;
export type StoredLine = readonly (number | string | null)[];

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

/** Lines as they are stored, column by column. @param lines in the order of their days, each in that of `LINE_COLUMNS` */
export function lineColumns(lines: readonly StoredLine[]): LineColumns {
  const placeOf = new Map<string, number>();
  const words: string[] = [];
  const placeOfWord = (word: string): number => {
    const known = placeOf.get(word) ?? words.push(word) - 1;
    placeOf.set(word, known);
    return known;
  };
  const at = (name: (typeof LINE_COLUMNS)[number]) => LINE_COLUMNS.indexOf(name);
  const floats = (name: (typeof FLOATS)[number]) => {
    const [column, place] = [new Float64Array(lines.length), at(name)];
    for (let line = 0; line < lines.length; line++) column[line] = (lines[line]![place] as number | null) ?? NaN;
    return column;
  };
  const ints = (name: (typeof INTS)[number]) => {
    const [column, place] = [new Int32Array(lines.length), at(name)];
    for (let line = 0; line < lines.length; line++) column[line] = lines[line]![place] as number;
    return column;
  };
  const texts = (name: TextColumn) => {
    const [column, place] = [new Int32Array(lines.length), at(name)];
    for (let line = 0; line < lines.length; line++) column[line] = placeOfWord(lines[line]![place] as string);
    return column;
  };
  return {
    ...{ id: floats('id'), debit: floats('debit'), credit: floats('credit'), quantity: floats('quantity') },
    ...{ currencyAmount: floats('currencyAmount'), period: ints('period'), combination: ints('combination') },
    ...{ kind: ints('kind'), date: texts('date'), documentType: texts('documentType'), document: texts('document') },
    ...{ due: texts('due'), settles: texts('settles'), currency: texts('currency'), words },
  };
}

/** A text of a line. */
export const textOfLine = (lines: LineColumns, column: TextColumn, line: number): string =>
  lines.words[lines[column][line]!]!;
