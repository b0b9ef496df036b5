import {
  accountSetText,
  COMPARED,
  NEWEST_FORECAST,
  typedFormula,
  type Column,
  type ColumnKind,
  type NamedCondition,
  type NameSpace,
  type Row,
  type RowKind,
  inWords,
} from '@margin-lens/core';
import type { ColumnHeadView } from '@margin-lens/contract';
import { sentenceCase } from '@margin-lens/core/shown';

/** Kinds of rows as people choose them, in the order of the menu. */
export const ROW_KINDS: readonly { kind: RowKind; name: string; says: string }[] = [
  { kind: 'accounts', name: 'Accounts', says: 'a set of accounts' },
  { kind: 'group', name: 'Total', says: 'adds up the rows in it' },
  { kind: 'formula', name: 'Formula', says: 'computed from other rows' },
  { kind: 'ratio', name: 'Ratio', says: 'one row divided by another' },
  { kind: 'statistic', name: 'Statistic', says: 'heads, pieces, hours' },
  { kind: 'cash_flow', name: 'Cash-flow line', says: 'movements that bring or take cash' },
  { kind: 'heading', name: 'Heading', says: 'a line of words above rows' },
  { kind: 'text', name: 'Text', says: 'a sentence' },
  { kind: 'line', name: 'Line', says: 'a rule across' },
  { kind: 'blank', name: 'Empty row', says: 'space' },
];

export const COLUMN_KINDS: readonly { kind: ColumnKind; name: string; says: string }[] = [
  { kind: 'figure', name: 'Figure', says: 'what the rows hold over a span' },
  { kind: 'series', name: 'Series', says: 'months, quarters, years, entities, versions or values' },
  { kind: 'difference', name: 'Difference', says: 'one column less another' },
  { kind: 'rest', name: 'Remaining', says: 'what is left of one column after another; ratios are computed anew' },
  { kind: 'annualised', name: 'Annualised', says: 'one column as for a whole year; ratios are computed anew' },
  { kind: 'per_day', name: 'Per day', says: 'one column over its days, or its working days' },
  { kind: 'percent_change', name: 'Change in percent', says: 'of one column against another' },
  { kind: 'share', name: 'Share', says: 'of a row, in percent' },
  { kind: 'rank', name: 'Rank', says: 'of a value among those it stands with, in a breakdown' },
  { kind: 'running_total', name: 'So far', says: 'a value and those before it, in a breakdown' },
  { kind: 'contribution', name: 'Part of the change', says: 'of the result or of a row, in percent' },
  { kind: 'flexed', name: 'Flexed plan', says: 'one column at the volume of another' },
  { kind: 'index', name: 'Index', says: 'one column with another as 100' },
  { kind: 'formula', name: 'Formula', says: 'computed from other columns' },
  { kind: 'blank', name: 'Empty column', says: 'space' },
];

const MISPLACED: Record<'none' | 'twice' | 'partly', [one: string, more: string]> = {
  none: ['has no row', 'have no row'],
  twice: ['stands in two rows or more', 'stand in two rows or more'],
  partly: ['is placed in part', 'are placed in part'],
};

/** How accounts are misplaced, in a line. @example '3 accounts have no row, 1 is placed in part' */
export function misplacedWords(how: readonly (keyof typeof MISPLACED)[]): string {
  const parts = Object.entries(MISPLACED).flatMap(([key, [one, more]]) => {
    const count = how.filter((each) => each === key).length;
    return count === 0 ? [] : [{ count, says: count === 1 ? one : more }];
  });
  return parts
    .map(({ count, says }, at) => `${count}${at > 0 ? '' : count === 1 ? ' account' : ' accounts'} ${says}`)
    .join(', ');
}

export const SPAN_NAMES: Record<string, string> = {
  period: 'month',
  year_to_date: 'year to date',
  quarter_to_date: 'quarter to date',
  rolling_12: 'rolling 12',
  rolling: 'rolling months',
  full_year: 'full year',
};

export const MEASURE_NAMES: Record<string, string> = {
  by_nature: 'by nature',
  movement: 'movement',
  opening: 'opening',
  closing: 'closing',
  average: 'average of month-ends',
  average_of_ends: 'average of both ends',
  flow: 'as posted',
  exchange_difference: 'exchange differences',
  entered: 'came into the group',
  left: 'left the group',
};

export const READING_NAMES: Record<string, string> = {
  '': 'by nature',
  flow: 'movement',
  opening: 'opening balance',
  closing: 'closing balance',
  average: 'average of month-ends',
  average_of_ends: 'average of both ends',
  exchange_difference: 'exchange difference',
  entered: 'came into the group',
  left: 'left the group',
};

/** What a row holds, in few words, for the chip beside its label. */
export function rowHolds(row: Row, names: NameSpace): string {
  const labelOf = (id: string) => names.own.find((other) => other.id === id)?.label ?? id;
  switch (row.kind) {
    case 'accounts':
    case 'statistic':
      return [
        ...(row.kind === 'statistic' && row.counts ? ['quantity'] : []),
        accountSetText(row.accounts),
        ...(row.where ?? []).map(conditionText),
      ].join(' · ');
    case 'cash_flow':
      return `cash: ${inWords(row.line)}`;
    case 'group':
      return `total of ${row.children.length}`;
    case 'formula':
      return typedFormula(row.formula, names);
    case 'ratio':
      return `${labelOf(row.numerator)} ÷ ${labelOf(row.denominator)}`;
    case 'heading':
      return 'heading';
    case 'text':
      return 'text';
    case 'line':
      return 'line';
    case 'blank':
      return 'empty';
  }
}

/** A demand on a dimension in words. @example 'department is design', 'no project' */
export function conditionText({ dimension, has, values }: NamedCondition): string {
  switch (has) {
    case 'any':
      return `with ${dimension}`;
    case 'none':
      return `no ${dimension}`;
    case 'in':
      return `${dimension} is ${values.join(', ')}`;
    case 'not_in':
      return `${dimension} is not ${values.join(', ')}`;
  }
}

/** What columns are called by their ids; of those that are not evaluated yet there is none. */
export type ColumnNames = ReadonlyMap<string, string>;

/**
 * What columns are called: as their heads say, with as much of the note and of the heading above as it takes to tell them
 * apart.
 */
export function namesOfHeads(heads: readonly ColumnHeadView[]): ColumnNames {
  const single = heads.filter(({ id, source }) => id === source);
  const ways = [
    ({ label }: ColumnHeadView) => [label],
    ({ label, note }: ColumnHeadView) => [label, note],
    ({ label, blockLabel }: ColumnHeadView) => [label, blockLabel],
    ({ label, note, blockLabel }: ColumnHeadView) => [label, note, blockLabel],
  ].map((way) => (head: ColumnHeadView) => way(head).filter(Boolean).join(' '));
  const isAlone = (way: (head: ColumnHeadView) => string, head: ColumnHeadView) =>
    single.every((other) => other === head || way(other) !== way(head));
  return new Map(
    single.map((head) => [head.id, (ways.find((way) => isAlone(way, head)) ?? ways.at(-1)!)(head)] as const),
  );
}

/** A column as it is called among the columns: as its head says, else its written heading, else its id in words. */
export const columnName = (column: Column, names: ColumnNames): string =>
  names.get(column.id) ?? column.heading ?? sentence(column.id);

const sentence = (id: string) => sentenceCase(inWords(id));

const SERIES_WORDS = {
  month: 'months',
  quarter: 'quarters',
  year: 'years',
  entity: 'entities',
  group: 'groups within the group',
  elimination: 'kinds of eliminations',
  version: 'versions',
  flow: 'movements, from opening to closing',
} as const;

/** What a column shows, in few words, for its head. */
export function columnHolds(column: Column, columns: readonly Column[], names: ColumnNames = new Map()): string {
  const nameOf = (id: string) => {
    const named = columns.find((other) => other.id === id);
    return named ? columnName(named, names) : (names.get(id) ?? id);
  };
  switch (column.kind) {
    case 'figure':
      return figureWords(column);
    case 'series': {
      const by = column.by === 'dimension' ? (column.dimension ?? 'values') : SERIES_WORDS[column.by];
      const measure = column.by === 'flow' ? '' : `, ${MEASURE_NAMES[column.measure]!}`;
      return `${by}${measure}${column.total ? ', total' : ''}`;
    }
    case 'difference':
      return `${nameOf(column.of)} less ${nameOf(column.base)}`;
    case 'rest':
      return `what is left of ${nameOf(column.of)} after ${nameOf(column.base)}`;
    case 'percent_change':
      return `${nameOf(column.of)} against ${nameOf(column.base)}`;
    case 'index':
      return `${nameOf(column.of)}, ${nameOf(column.base)} is 100`;
    case 'share':
      return `${nameOf(column.of)} in %`;
    case 'rank':
      return `rank by ${nameOf(column.of)}`;
    case 'running_total':
      return `${nameOf(column.of)} so far`;
    case 'annualised':
      return `${nameOf(column.of)} as for a year`;
    case 'per_day':
      return `${nameOf(column.of)} per ${column.days === 'working' ? 'working day' : 'day'}`;
    case 'contribution':
      return `part of ${nameOf(column.of)} in %`;
    case 'flexed':
      return `${nameOf(column.base)} at the volume of ${nameOf(column.of)}`;
    case 'formula':
      return typedFormula(column.formula, columnNames(columns, names));
    case 'blank':
      return 'empty';
  }
}

const versionWords = (version: string) =>
  version === COMPARED ? 'compared version' : version === NEWEST_FORECAST ? 'newest forecast' : version;

function figureWords(column: Extract<Column, { kind: 'figure' }>): string {
  const back = column.yearsBack ? (column.yearsBack === 1 ? 'last year' : `${column.yearsBack} years back`) : '';
  const months = column.monthsBack ? `${column.monthsBack} months back` : '';
  const span = column.span === 'rolling' ? `rolling ${column.months ?? 12}` : SPAN_NAMES[column.span]!;
  return [
    span,
    column.measure === 'by_nature' ? '' : MEASURE_NAMES[column.measure]!,
    back,
    months,
    column.weeks === 'shifted' ? 'weeks shifted after a long year' : '',
    column.version === undefined ? '' : `${versionWords(column.version)}${column.actualTo ? ', actual to date' : ''}`,
    column.scope ?? '',
    ...(column.where ?? []).map(conditionText),
  ]
    .filter(Boolean)
    .join(', ');
}

/** The names by which column formulas call columns. */
export const columnNames = (columns: readonly Column[], names: ColumnNames): NameSpace => ({
  own: columns.map((column) => ({ id: column.id, label: columnName(column, names) })),
  others: [],
});
