import { doubtOf, typedPlain } from '@margin-lens/core';
import type { NeededRatesView, PeriodView } from '@margin-lens/contract';
import type { RowProblems } from '../shared/sheet/sheet';
import type { Cells, DraftRow, SheetColumn } from '../shared/sheet/sheet-model';
import { plainNumber } from '../shared/typed-amount';

export const RATE_KINDS = ['closing', 'average', 'historical'] as const;
export type RateKind = (typeof RATE_KINDS)[number];

/** Units of `quote` for one of `base`. */
interface Pair {
  base: string;
  quote: string;
}

/** A column of the matrix. */
export interface RateColumn extends Pair {
  kind: RateKind;
}

/** Rows of rates.csv by the names of its columns. */
export type RateRow = Readonly<Record<'set' | 'base' | 'quote' | 'period' | 'date' | 'type' | 'rate', string>>;

export const nameOf = ({ base, quote, kind }: RateColumn): string => `${base}/${quote}/${kind}`;
const RATE = /^\d{1,12}(\.\d{1,12})?$/;

/**
 * The pairs that there are, and those that are needed and quoted nowhere; the reporting currency is the base. What figures need
 * comes first.
 */
export function pairsOf(rows: readonly RateRow[], needed: NeededRatesView['rates'], reporting: string) {
  const pairs = new Map(rows.map(({ base, quote }) => [`${base}/${quote}`, { base, quote }]));
  const has = (a: string, b: string) => pairs.has(`${a}/${b}`) || pairs.has(`${b}/${a}`);
  for (const { from, to } of needed) {
    if (has(from, to)) continue;
    for (const quote of [from, to])
      if (quote !== reporting && !has(reporting, quote)) pairs.set(`${reporting}/${quote}`, { base: reporting, quote });
  }
  const currencies = new Set([reporting, ...needed.flatMap(({ from, to }) => [from, to])]);
  const isNeeded = ({ base, quote }: Pair) => currencies.has(base) && currencies.has(quote);
  const order = (pair: Pair) => `${isNeeded(pair) ? 0 : 1}${pair.base}${pair.quote}`;
  return [...pairs.values()].sort((a, b) => (order(a) < order(b) ? -1 : 1));
}

/** Columns of the sheet: closing and average of each pair, historical rates where they are asked for. */
export const columnsOf = (pairs: readonly Pair[], hasHistorical: boolean): RateColumn[] =>
  pairs.flatMap((pair) =>
    RATE_KINDS.filter((kind) => kind !== 'historical' || hasHistorical).map((kind) => ({ ...pair, kind })),
  );

/** As the sheet shows them: the month first, then each rate; the direction stands in words. */
export const sheetColumns = (columns: readonly RateColumn[]): SheetColumn[] => [
  { name: 'month', label: 'Month', at: 0, width: '128px', isKey: true },
  ...columns.map((column, index) => ({
    name: nameOf(column),
    label: `1 ${column.base} in ${column.quote}, ${column.kind}`,
    at: index + 1,
    width: '132px',
    isNumber: true,
    hint: `Units of ${column.quote} for one ${column.base}`,
  })),
];

/** A row a month, with the rate of each column, or nothing. */
export function matrixOf(
  rows: readonly RateRow[],
  months: readonly PeriodView[],
  columns: readonly RateColumn[],
  set: string,
): Cells[] {
  const held = new Map(
    rows
      .filter((row) => row.set === set)
      .map(({ base, quote, type, period, rate }) => [[base, quote, type, period].join('|'), rate]),
  );
  return months.map(({ key, name }) => [
    name,
    ...columns.map(({ base, quote, kind }) => typedPlain(held.get([base, quote, kind, key].join('|')) ?? '')),
  ]);
}

/** What saving writes: rows of rates that are new or other, and keys of those that were emptied. */
export function changesOf(
  changed: readonly DraftRow[],
  months: readonly PeriodView[],
  columns: readonly RateColumn[],
  set: string,
): { put: RateRow[]; remove: RateRow[] } {
  const put: RateRow[] = [];
  const remove: RateRow[] = [];
  const byName = new Map(months.map((month) => [month.name, month.key]));
  for (const { cells, base: before } of changed)
    columns.forEach(({ base, quote, kind }, index) => {
      const [was, now] = [before?.[index + 1] ?? '', cells[index + 1]!.trim()];
      if (was === now) return;
      const rate = plainNumber(now || was) ?? (now || was);
      const row = { set, base, quote, period: byName.get(cells[0]!)!, date: '', type: kind, rate };
      (now === '' ? remove : put).push(row);
    });
  return { put, remove };
}

/** Which cells are needed and empty, no number, or unlikely beside the month before; by row and column of the sheet. */
export function problemsOf(
  rows: readonly DraftRow[],
  months: readonly PeriodView[],
  columns: readonly RateColumn[],
  needed: NeededRatesView['rates'],
): RowProblems {
  const keys = new Map(months.map(({ name, key }) => [name, key]));
  const wanted = neededCells(columns, needed);
  const found = new Map<number, Map<string, string>>();
  const say = (row: DraftRow, column: RateColumn, words: string) =>
    found.set(row.id, (found.get(row.id) ?? new Map<string, string>()).set(nameOf(column), words));
  columns.forEach((column, index) => {
    let before: number | undefined;
    for (const row of rows) {
      const text = row.cells[index + 1]!.trim();
      const period = keys.get(row.cells[0]!)!;
      if (text === '') {
        if (wanted.has(`${nameOf(column)}|${period}`)) say(row, column, 'Missing: figures need it');
        continue;
      }
      const plain = plainNumber(text) ?? '';
      const rate = Number(plain);
      if (!RATE.test(plain) || rate <= 0) {
        say(row, column, `A rate is a number over zero, such as ${typedPlain('4.2710')}`);
        continue;
      }
      const doubt = before === undefined ? undefined : doubtOf(rate, before);
      if (doubt === 'inverted') say(row, column, `Looks inverted: ${typedPlain(String(before))} the month before`);
      else if (doubt === 'jump') say(row, column, `Far from the month before, ${typedPlain(String(before))}`);
      else before = rate;
    }
  });
  return found;
}

/** Cells that figures need, by column and period; a pair without quotes needs both of its currencies quoted. */
function neededCells(columns: readonly RateColumn[], needed: NeededRatesView['rates']): Set<string> {
  const cells = new Set<string>();
  for (const { from, to, type, period } of needed) {
    const of = columns.filter(({ kind }) => kind === type);
    const direct = of.find(({ base, quote }) => (base === from && quote === to) || (base === to && quote === from));
    const through = of.filter(({ quote }) => quote === from || quote === to);
    for (const column of direct ? [direct] : through) cells.add(`${nameOf(column)}|${period}`);
  }
  return cells;
}
