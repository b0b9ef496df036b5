import type { FiscalCalendar } from '../period/fiscal-calendar';
import { dateOrderOf } from './date-format';
import { amountsOf, MONTH_PREFIX, requiredTargets, type Mapping } from './mapping';
import { decimalSignOf } from './number-format';
import { readPeriod } from './read-period';
import { hasMonthColumns, PURPOSES, targetsOf, type Purpose, type Target } from './targets';
import type { DateOrder } from '../words/writing-style';

/** A cell of a foreign file: text, or a number that a spreadsheet held as one. */
export type ForeignCell = string | number;

/** The master data that columns are recognised by. */
export interface KnownCodes {
  accounts: ReadonlySet<string>;
  entities: ReadonlySet<string>;
  versions: ReadonlySet<string>;
  /** Values by dimension. */
  dimensions: ReadonlyMap<string, ReadonlySet<string>>;
  /** The calendar most entities follow; undefined in an empty workspace. */
  calendar: FiscalCalendar | undefined;
}

export interface ForeignSample {
  header: readonly string[];
  rows: readonly (readonly ForeignCell[])[];
}

/** A reading of the file that a person must settle, with the texts that can be read in two ways. */
export interface ForeignQuestion {
  about: 'decimal' | 'dates' | 'shares';
  texts: string[];
}

export type ProposedMapping = Pick<
  Mapping,
  'purpose' | 'decimal' | 'dateOrder' | 'shareForm' | 'measure' | 'start' | 'sign' | 'columns' | 'constants'
> & { questions: ForeignQuestion[] };

/** Share of the values of a column that must be known codes for the column to be taken as theirs. */
const ENOUGH_KNOWN = 0.6;
const TEXTS_ASKED = 5;

/** Letters and digits of a column name in lower case, without accents. */
export const plainName = (name: string): string =>
  name
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]/gu, '');

const cellsOf = (rows: ForeignSample['rows'], at: number): string[] =>
  rows.map((row) => String(row[at] ?? '').trim()).filter((text) => text !== '');

/** Columns by their names: the first synonym that fits wins, and each column serves one target. */
function byName(header: readonly string[], targets: readonly Target[]): Record<string, string> {
  const columns: Record<string, string> = {};
  const free = new Map(header.map((name) => [plainName(name), name]));
  const ranks = Math.max(...targets.map(({ synonyms }) => synonyms.length));
  for (let rank = 0; rank < ranks; rank++) {
    for (const { name, synonyms } of targets) {
      const synonym = synonyms[rank];
      const column = synonym === undefined || columns[name] !== undefined ? undefined : free.get(synonym);
      if (column === undefined) continue;
      columns[name] = column;
      free.delete(synonym!);
    }
  }
  return columns;
}

/** Columns of master-data codes by their contents, for targets that no name has settled. */
function byContent(
  { header, rows }: ForeignSample,
  targets: readonly Target[],
  known: KnownCodes,
  columns: Record<string, string>,
): void {
  const codesOf = ({ name, values }: Target) =>
    values === 'dimension' ? known.dimensions.get(name.slice(4)) : values && known[values];
  for (const target of targets) {
    const codes = codesOf(target);
    if (!codes?.size || columns[target.name] !== undefined || target.name === 'partner') continue;
    const taken = new Set(Object.values(columns));
    const found = header.find((name, at) => {
      const cells = taken.has(name) ? [] : cellsOf(rows, at);
      return cells.length > 0 && cells.filter((text) => codes.has(text)).length / cells.length >= ENOUGH_KNOWN;
    });
    if (found !== undefined) columns[target.name] = found;
  }
}

/** Columns whose names are periods of the calendar, as `month:` targets. */
function monthColumns(header: readonly string[], calendar: FiscalCalendar | undefined, order: DateOrder) {
  const found: Record<string, string> = {};
  for (const name of calendar ? header : []) {
    const key = readPeriod(name.replace(/\b(closing|balance|movement|net)\b/gi, ''), calendar!, order);
    if (key !== undefined) found[`${MONTH_PREFIX}${key}`] = name;
  }
  return found;
}

/** How much of what a purpose needs the columns give, and how many columns it uses. */
function fitOf(purpose: Purpose, columns: Record<string, string>, canLackEntity: boolean): number {
  const hasMonths = Object.keys(columns).some((name) => name.startsWith(MONTH_PREFIX));
  const amounts = hasMonthColumns(purpose) && !hasMonths ? [amountsOf(purpose)] : [];
  const needed = [...requiredTargets(purpose), ...amounts].filter(([name]) => !(name === 'entity' && canLackEntity));
  const met = needed.filter((names) => names.some((name) => columns[name] !== undefined)).length;
  return met / needed.length + Object.keys(columns).length / 1000;
}

/**
 * Proposes what a file brings and which column means what, from names and contents; a person confirms it.
 *
 * Shape: `questions` hold what the samples leave open; their proposed answers are in the mapping already.
 */
export function proposeMapping(sample: ForeignSample, known: KnownCodes, wanted?: Purpose): ProposedMapping {
  const dimensions = [...known.dimensions.keys()];
  const onlyEntity = known.entities.size === 1 ? [...known.entities][0]! : undefined;
  const months = monthColumns(sample.header, known.calendar, 'dmy');
  const candidates = (wanted ? [wanted] : PURPOSES).map((purpose) => {
    const targets = targetsOf(purpose, dimensions);
    const columns = byName(sample.header, targets);
    byContent(sample, targets, known, columns);
    if (hasMonthColumns(purpose) && Object.keys(months).length > 0) {
      for (const name of ['amount', 'debit', 'credit', 'period']) delete columns[name];
      Object.assign(columns, months);
    }
    return { purpose, targets, columns, fit: fitOf(purpose, columns, known.entities.size <= 1) };
  });
  const best = candidates.reduce((a, b) => (b.fit > a.fit ? b : a));
  const samplesOf = (...types: Target['type'][]) => {
    const names = best.targets.filter(({ type }) => types.includes(type)).map(({ name }) => name);
    const used = Object.entries(best.columns).filter(
      ([name]) => names.includes(name) || (types.includes('number') && name.startsWith(MONTH_PREFIX)),
    );
    return used.flatMap(([, column]) =>
      sample.rows.map((row) => row[sample.header.indexOf(column)]).filter((cell) => typeof cell === 'string' && cell),
    ) as string[];
  };
  const numbers = samplesOf('number', 'share');
  const decimal = decimalSignOf(numbers);
  const dateTexts = samplesOf('date');
  const dates = dateOrderOf(dateTexts);
  const shares = samplesOf('share');
  const isFraction = shares.length > 0 && shares.every((text) => Math.abs(Number(text.replace(',', '.'))) <= 1);
  const questions: ForeignQuestion[] = [];
  const ask = (about: ForeignQuestion['about'], texts: string[]) =>
    questions.push({ about, texts: [...new Set(texts)].slice(0, TEXTS_ASKED) });
  if (!decimal.isCertain)
    ask(
      'decimal',
      decimal.unclear.map((index) => numbers[index]!),
    );
  if (!dates.isCertain) ask('dates', dateTexts);
  if (shares.length > 0 && !isFraction) ask('shares', shares);
  return {
    purpose: best.purpose,
    decimal: decimal.decimal,
    dateOrder: dates.order,
    shareForm: isFraction ? 'fraction' : 'percent',
    measure: 'closing',
    start: 'opened',
    sign: 'natural',
    columns: best.columns,
    constants: onlyEntity !== undefined && best.columns['entity'] === undefined ? { entity: onlyEntity } : {},
    questions,
  };
}
