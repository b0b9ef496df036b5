/** What a cell of a package table holds. */
export type ColumnType = 'text' | 'code' | 'integer' | 'decimal' | 'percent' | 'rate' | 'date' | 'period' | 'currency';

export interface ColumnSpec {
  name: string;
  type: ColumnType;
  required?: boolean;
  choices?: readonly string[];
  /** Resource whose first key column must hold this value. */
  refers?: string;
  /** Resource whose first key columns it lists, by codes and ranges. @example '4000..4199, 4300' */
  lists?: string;
}

/** A table of the ledger package that is kept row by row as it was delivered. */
export interface ResourceSpec {
  name: string;
  file: string;
  /** Table of the database that keeps its rows. */
  table: string;
  required: boolean;
  columns: readonly ColumnSpec[];
  /** Columns that together name a row. */
  key: readonly string[];
}

export const text = (name: string): ColumnSpec => ({ name, type: 'text' });
export const need = (column: ColumnSpec): ColumnSpec => ({ ...column, required: true });
/** A code that may stand where figures are selected: it begins with a letter or a digit. */
export const code = (name: string): ColumnSpec => ({ name, type: 'code', required: true });
export const integer = (name: string): ColumnSpec => ({ name, type: 'integer' });
export const decimal = (name: string): ColumnSpec => ({ name, type: 'decimal' });
export const date = (name: string): ColumnSpec => ({ name, type: 'date' });
export const period = (name: string): ColumnSpec => ({ name, type: 'period' });
export const currency = (name: string): ColumnSpec => ({ name, type: 'currency' });
export const choice = (name: string, ...choices: string[]): ColumnSpec => ({ name, type: 'text', choices });
export const refers = (name: string, resource: string): ColumnSpec => ({ name, type: 'text', refers: resource });
export const percent = (name: string): ColumnSpec => ({ name, type: 'percent' });

/** A table that a package may leave out; its file bears its name. */
export const optional = (name: string, table: string): Pick<ResourceSpec, 'name' | 'file' | 'table' | 'required'> => ({
  ...{ name, file: `${name}.csv`, table, required: false },
});
