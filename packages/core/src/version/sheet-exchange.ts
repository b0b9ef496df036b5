import { naturalOrientation, type Account } from '../account/nature';
import { QUANTITY_DIGITS } from '../figure/figure';
import { attributesOf, combinationOf } from '../account/combination';
import { formatMinor, parseAmount } from '../money/amount';
import type { FigureChange } from './edit-figures';
import { lineKey, type FigureLines } from './planning-sheet';

/**
 * Columns of a sheet that goes out and comes back: keys first, then what people read, then one column a period named by
 * its key. Rows are found again by their keys, never by where they stand.
 */
export const SHEET_KEYS = ['account', 'values'] as const;
export const SHEET_NAME = 'name';

/** A row of such a sheet, as text: natural sign, whole units with decimals. */
export interface ExchangedRow {
  account: string;
  /** Partner, flow and dimension values, as `name=value` divided by `; `. */
  values: string;
  name: string;
  /** One text a period, by its key; empty where nothing stands. */
  figures: ReadonlyMap<string, string>;
  /** Line of the file, for what is said about it. */
  line: number;
}

const naturalSign = ({ nature }: Account): 1 | -1 => (naturalOrientation(nature) === 'credit' ? -1 : 1);
const sheetDigits = (account: Account, digits: number): number =>
  account.nature === 'statistic' ? QUANTITY_DIGITS : digits;

/** Values of a combination in a cell. @example valuesText('\u001f\u001fdepartment=kiln') // 'department=kiln' */
const valuesText = (combination: string): string =>
  [...attributesOf(combination)]
    .filter(([, value]) => value !== '')
    .map(([name, value]) => `${name}=${value}`)
    .sort()
    .join('; ');

/** The combination that a text stands for; undefined when it is none. */
function valuesOfText(text: string): string | undefined {
  const attributes = new Map<string, string>();
  for (const part of text
    .split(';')
    .map((each) => each.trim())
    .filter(Boolean)) {
    const at = part.indexOf('=');
    if (at <= 0) return undefined;
    attributes.set(part.slice(0, at).trim(), part.slice(at + 1).trim());
  }
  return combinationOf(attributes);
}

/** The rows of a sheet as they go out, in the order of the accounts. `digits` are those of the currency. */
export function exchangedRows(
  lines: FigureLines,
  accounts: readonly Account[],
  periods: readonly string[],
  digits: number,
): ExchangedRow[] {
  return accounts.flatMap((account) =>
    [...lines.values()]
      .filter((line) => line.account === account.number)
      .sort((a, b) => (a.combination < b.combination ? -1 : 1))
      .map((line, at): ExchangedRow => ({
        account: account.number,
        values: valuesText(line.combination),
        name: account.name,
        figures: new Map(
          periods.map((key, period) => [
            key,
            formatMinor(naturalSign(account) * line.figures[period]! + 0, sheetDigits(account, digits)),
          ]),
        ),
        line: at,
      })),
  );
}

export interface RejectedCell {
  line: number;
  what: string;
  problem: string;
}

/** A line with figures of the version's own that a sheet leaves as they are, because it has them no more. */
export interface LeftLine {
  what: string;
  how: 'deleted' | 'emptied';
  figures: number;
}

/** What a sheet that came back would do; nothing is written yet. */
export interface SheetDifference {
  changes: FigureChange[];
  /** Figures where nothing stood, those that differ, and those that are as they were. */
  adds: number;
  changed: number;
  same: number;
  rejected: RejectedCell[];
  left: LeftLine[];
}

/** What a sheet that came back is held against. */
export interface SheetGround {
  /** The figures that the sheet is of. */
  lines: FigureLines;
  /** Whether the sheet is of what carries these values; others are refused. */
  holds: (combination: string) => boolean;
  accounts: readonly Account[];
  /** Keys of the sheet's periods, and which of them can be written. */
  periods: readonly string[];
  own: readonly boolean[];
  /** Of the currency. */
  digits: number;
}

/**
 * Holds a sheet that came back against the figures that stand there, by key.
 *
 * Shape: a period or row that the sheet leaves out stays as it is; an empty cell too. `left` names the rows of which
 * figures are left so.
 */
export function sheetDifference(rows: readonly ExchangedRow[], ground: SheetGround): SheetDifference {
  const { lines, holds, accounts, periods, own } = ground;
  const result: SheetDifference = { changes: [], adds: 0, changed: 0, same: 0, rejected: [], left: [] };
  const seen = new Map<string, number>();
  const reject = (line: number, what: string, problem: string) => void result.rejected.push({ line, what, problem });
  for (const row of rows) {
    const account = accounts.find(({ number }) => number === row.account);
    const combination = valuesOfText(row.values);
    const what = [row.account, row.values].filter(Boolean).join(' · ');
    if (!account) {
      reject(row.line, what, 'the chart has no such account');
      continue;
    }
    if (combination === undefined) {
      reject(row.line, what, 'the values are not written as name=value');
      continue;
    }
    if (!holds(combination)) {
      reject(row.line, what, 'the filter that stands on the sheet leaves these values out');
      continue;
    }
    const key = lineKey(row.account, combination);
    const before = seen.get(key);
    if (before !== undefined) {
      reject(row.line, what, `the same key stands in line ${before}`);
      continue;
    }
    seen.set(key, row.line);
    for (const [period, text] of row.figures) {
      const at = periods.indexOf(period);
      if (text.trim() === '') continue;
      if (at < 0) reject(row.line, `${what}, ${period}`, 'the version has no such month');
      else takeCell(result, { row, account, combination, at, text, what: `${what}, ${period}` }, ground, reject);
    }
  }
  result.left = leftLines(rows, lines, periods, own);
  return result;
}

/** Lines whose figures stand in no cell of a sheet: they are not in it, or their cells are empty. */
function leftLines(
  rows: readonly ExchangedRow[],
  lines: FigureLines,
  periods: readonly string[],
  own: readonly boolean[],
): LeftLine[] {
  const rowOf = new Map<string, ExchangedRow>();
  for (const row of rows) {
    const combination = valuesOfText(row.values);
    const key = combination === undefined ? '' : lineKey(row.account, combination);
    if (!rowOf.has(key)) rowOf.set(key, row);
  }
  return [...lines].flatMap(([key, { account, combination, figures }]): LeftLine[] => {
    const row = rowOf.get(key);
    const isLeft = (period: string) => (row ? row.figures.get(period)?.trim() === '' : true);
    const left = periods.filter((period, at) => own[at] && figures[at] !== 0 && isLeft(period)).length;
    const what = [account, valuesText(combination)].filter(Boolean).join(' · ');
    return left === 0 ? [] : [{ what, how: row ? 'emptied' : 'deleted', figures: left }];
  });
}

interface IncomingCell {
  row: ExchangedRow;
  account: Account;
  combination: string;
  at: number;
  text: string;
  what: string;
}

function takeCell(
  result: SheetDifference,
  { row, account, combination, at, text, what }: IncomingCell,
  { lines, own, digits }: SheetGround,
  reject: (line: number, what: string, problem: string) => void,
): void {
  const parsed = parseAmount(text.trim().replace(/[,\s]/g, ''), sheetDigits(account, digits));
  if (!('minor' in parsed)) return reject(row.line, what, `“${text}” is not an amount`);
  const after = naturalSign(account) * parsed.minor + 0;
  const before = lines.get(lineKey(account.number, combination))?.figures[at] ?? 0;
  if (after === before) result.same++;
  else if (!own[at]) reject(row.line, what, 'the month shows actuals');
  else {
    if (before === 0) result.adds++;
    else result.changed++;
    result.changes.push({ account: account.number, combination, period: at, before, after });
  }
}
