import {
  freshId,
  outlineOf,
  NEWEST_FORECAST,
  rowIds,
  type Column,
  type ColumnKind,
  type ColumnLayout,
  type Row,
  type RowKind,
  type RowLayout,
  type StatementDocument,
} from '@margin-lens/core';

/** The three documents that are shaped together. */
export interface Documents {
  statement: StatementDocument;
  rows: RowLayout;
  columns: ColumnLayout;
}

const NEW_LABELS: Partial<Record<RowKind, string>> = {
  accounts: 'New row',
  group: 'New total',
  formula: 'New formula',
  ratio: 'New ratio',
  statistic: 'New statistic',
  cash_flow: 'New cash-flow line',
  heading: 'New heading',
  text: 'Text',
};

/** Kinds of rows without figures. */
const WORDS_ALONE: ReadonlySet<RowKind> = new Set(['heading', 'text', 'line', 'blank']);

/** What a computed row is begun from: the row it stands by, and what it is held against: the base of shares, else the first. */
interface Operands {
  of: string | undefined;
  base: string | undefined;
}

function operandsNear({ rows, shareBase }: RowLayout, near: string | undefined, own?: string): Operands {
  const all = outlineOf(rows).map(({ row }) => row);
  const at = all.findIndex(({ id }) => id === near);
  const withFigures = (some: readonly Row[]) => some.filter(({ id, kind }) => id !== own && !WORDS_ALONE.has(kind));
  const of = withFigures(all.slice(0, at + 1)).at(-1)?.id ?? withFigures(all)[0]?.id;
  const others = withFigures(all).filter(({ id }) => id !== of);
  return { of, base: (others.find(({ id }) => id === shareBase) ?? others[0])?.id };
}

/** A row of a kind that holds nothing wrong yet: a formula of the row before it, a ratio of it to the base of shares. */
export function newRow(kind: RowKind, layout: RowLayout, near: string | undefined): Row {
  const label = NEW_LABELS[kind] ?? '';
  const base = { id: freshId(label || kind, new Set(rowIds(layout.rows))), label };
  return withKind(base, kind, operandsNear(layout, near));
}

/** A row turned into another kind, keeping what both have. */
export const asKind = (row: Row, kind: RowKind, layout: RowLayout): Row =>
  kind === row.kind ? row : withKind(baseOf(row), kind, operandsNear(layout, row.id, row.id), row);

const baseOf = ({
  id,
  label,
  style,
  shown,
  direction,
  unit,
  decimals,
  whenEmpty,
  hideFromExport,
  note,
  materiality,
}: Row) =>
  withoutUndefined({
    id,
    label,
    style,
    shown,
    direction,
    unit,
    decimals,
    whenEmpty,
    hideFromExport,
    note,
    materiality,
  });

const withoutUndefined = <T extends object>(thing: T): T =>
  Object.fromEntries(Object.entries(thing).filter(([, each]) => each !== undefined)) as T;

type Base = Pick<Row, 'id' | 'label'>;

function withKind(base: Base, kind: RowKind, near: Operands, from?: Row): Row {
  const other = near.of ?? base.id;
  switch (kind) {
    case 'accounts':
    case 'statistic': {
      const kept = from && (from.kind === 'accounts' || from.kind === 'statistic') ? from.accounts : undefined;
      const usual = kind === 'statistic' ? [{ by: 'nature', nature: 'statistic' } as const] : [];
      return { kind, ...base, accounts: kept ?? { include: usual } };
    }
    case 'cash_flow':
      return { kind, ...base, line: '' };
    case 'group':
      return { kind, ...base, children: [] };
    case 'formula':
      return {
        kind,
        ...base,
        formula: from?.kind === 'ratio' ? `{${from.numerator}} / {${from.denominator}}` : `{${other}}`,
      };
    case 'ratio':
      return { kind, ...base, numerator: other, denominator: near.base ?? other };
    default:
      return { kind, ...base };
  }
}

/** How near a column is to what was posted now: differences are of the nearer one less the other. */
function distanceOf(column: Column | undefined): number {
  if (column?.kind !== 'figure') return 0;
  if ((column.yearsBack ?? 0) > 0 || (column.monthsBack ?? 0) > 0) return 3;
  if (column.version === undefined) return 0;
  return column.version === NEWEST_FORECAST || column.actualTo !== undefined ? 1 : 2;
}

/**
 * A column of a kind, near another: differences and the like compare it with the column before, what was posted less what
 * it is held against.
 */
export function newColumn(kind: ColumnKind, columns: readonly Column[], near: string | undefined): Column {
  const id = freshId(kind === 'figure' ? 'figure' : kind, new Set(columns.map((column) => column.id)));
  const figures = columns.filter((column) => column.kind === 'figure' || column.kind === 'share');
  const at = figures.findIndex((column) => column.id === near);
  const of = (at >= 0 ? figures[at] : figures[figures.length - 1])?.id ?? columns[0]?.id ?? id;
  const base = (at > 0 ? figures[at - 1] : (figures[at + 1] ?? figures[0]))?.id ?? of;
  const block = columns.find((column) => column.id === near)?.block;
  const common = { id, ...(block === undefined ? {} : { block }) };
  switch (kind) {
    case 'figure':
      return { kind, ...common, span: 'year_to_date', measure: 'by_nature' };
    case 'series':
      return { kind, id, by: 'month', measure: 'by_nature', total: true };
    case 'rest':
      return { kind, ...common, of, base };
    case 'flexed':
    case 'difference':
    case 'percent_change':
    case 'index': {
      const distance = (id: string) => distanceOf(columns.find((column) => column.id === id));
      return { kind, ...common, ...(distance(of) > distance(base) ? { of: base, base: of } : { of, base }) };
    }
    case 'share':
    case 'rank':
    case 'running_total':
      return { kind, ...common, of };
    case 'annualised':
      return { kind, ...common, of: columns.find((column) => column.kind === 'figure')?.id ?? of };
    case 'per_day':
      return { kind, ...common, of: columns.find((column) => column.kind === 'figure')?.id ?? of, days: 'working' };
    case 'contribution':
      return { kind, ...common, of: columns.findLast((column) => column.kind === 'difference')?.id ?? of };
    case 'formula':
      return { kind, ...common, formula: `{${of}}` };
    case 'blank':
      return { kind, id };
  }
}

/** A column turned into another kind, keeping its id and heading. */
export function columnAsKind(column: Column, kind: ColumnKind, columns: readonly Column[]): Column {
  if (kind === column.kind) return column;
  const others = columns.filter((other) => other.id !== column.id);
  const before = others[columns.indexOf(column) - 1]?.id;
  const made = newColumn(kind, others, before);
  return {
    ...made,
    id: column.id,
    ...(column.heading === undefined ? {} : { heading: column.heading }),
    ...(column.block === undefined ? {} : { block: column.block }),
  };
}

/** Sets a property, or takes it out when it has its usual value. */
export function withSetting<T extends object>(thing: T, key: string, setting: unknown): T {
  const rest = Object.fromEntries(Object.entries(thing).filter(([each]) => each !== key)) as T;
  return setting === undefined || setting === '' || setting === false ? rest : { ...rest, [key]: setting };
}
