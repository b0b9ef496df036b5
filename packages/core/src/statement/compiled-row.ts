import type { Direction, Orientation } from '../account/nature';
import type { Unit } from '../figure/figure';
import type { FormulaNode } from '../formula/formula';
import type { Issue } from '../issue/issue';
import type { Row, RowReading, RowStyle } from '../layout/row-layout';
import type { DimensionCondition } from '../cube/dimension-condition';
import type { VersionNotation } from './version-notation';

/** An account in a row: its debit-positive figure enters times `weight`, of the postings that meet the conditions. */
export interface Member {
  account: number;
  weight: number;
  where: readonly DimensionCondition[];
}

/** How a row's own figure comes from other rows or from accounts, before any column has a say. */
export type RowRule =
  | { from: 'accounts'; members: readonly Member[]; reads: RowReading | undefined }
  | { from: 'rows'; terms: readonly { row: number; sign: 1 | -1 }[] }
  | { from: 'ratio'; numerator: number; denominator: number }
  /** `rows` finds the row of a reference by its text `id` or `layout.id`. */
  | { from: 'formula'; tree: FormulaNode; text: string; rows: ReadonlyMap<string, number> }
  | { from: 'nothing' };

/**
 * A row, flattened from the outline and ready to evaluate.
 *
 * `shownSign` turns the row's own orientation into what is shown: −1 for costs in brackets. All figures and traces of
 * the engine are as shown, so that what stands on the sheet adds up as it stands.
 */
export interface CompiledRow {
  index: number;
  id: string;
  label: string;
  kind: Row['kind'];
  style: RowStyle;
  depth: number;
  parent: number | undefined;
  orientation: Orientation;
  shownSign: 1 | -1;
  direction: Direction;
  additive: boolean;
  /** True when a column by nature shows flows of it, so that periods may be added. */
  flow: boolean;
  unit: Unit;
  rule: RowRule;
  /** Row of the quantity that the row varies with, such as units sold. */
  variesWith?: number | undefined;
  /** Row of the quantity that the row uses up, such as hours. */
  usage?: number | undefined;
  /** Set for a row of a quantity that others vary with or use up. */
  isDriver?: true;
  inCycle: boolean;
  decimals: number | undefined;
  whenEmpty: 'keep' | 'hide';
  hideFromExport: boolean;
  note: string;
  /** Laid open below another row: an account or a dimension value of it. */
  opened: boolean;
  /** Set for rows of a breakdown that stand for a value. */
  branch?: Branch;
  /** Index of the row that shares are taken of, in place of that of the layout. */
  shareBase?: number;
}

/** A value of a breakdown that can be told apart further. `key` is the text of its path. */
export interface Branch {
  key: string;
  canOpen: boolean;
  isOpen: boolean;
  /** Whether the values it stands with add up to what they stand below; versions do not. */
  addsUp: boolean;
  /** The version that it is of, where it stands for one or below one. */
  version?: { code: string; notation: VersionNotation };
}

export interface CompiledRows {
  rows: readonly CompiledRow[];
  /** Index of the first row behind those of the layout: rows of other layouts that formulas read. */
  layoutEnd: number;
  /** Index of the first row that stands for a misplaced account; see `withMisplacedRows`. */
  misplacedFrom: number;
  byId: ReadonlyMap<string, number>;
  issues: readonly Issue[];
}

export const hasFigures = ({ kind }: { kind: Row['kind'] }): boolean =>
  kind !== 'heading' && kind !== 'text' && kind !== 'line' && kind !== 'blank';
