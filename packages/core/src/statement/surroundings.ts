import type { RowLayout } from '../layout/row-layout';
import { ACTUAL, type BooksSelection, type DimensionCondition } from '../ledger/books-selection';
import type { CashFlowRule } from '../ledger/cash-flow-rule';
import type { DimensionTree } from '../ledger/dimension-tree';
import type { LedgerSlice } from '../ledger/ledger-slice';
import type { UndefinedReason } from '../figure/figure';
import type { FiscalPeriod } from '../period/fiscal-calendar';

/** A row laid open: its accounts, or the values of a dimension, stand below it. */
export interface Expansion {
  row: string;
  /** `accounts`, or the name of a dimension. */
  by: string;
}

export interface VersionInView {
  code: string;
  name: string;
  kind: string;
  /** Key of the last actual period of a forecast; empty for other versions. */
  cutOver: string;
  /** Code of the version that a branch differs from; empty for other versions. */
  parent: string;
}

/** What a statement reads beside its layouts and the books of its scope. */
export interface Surroundings {
  /** All row layouts, for formulas that name rows of another. */
  rowLayouts: readonly RowLayout[];
  cashFlow: readonly CashFlowRule[];
  dimensions: readonly DimensionTree[];
  entities: readonly { code: string; name: string }[];
  versions: readonly VersionInView[];
  lastClosed: FiscalPeriod | undefined;
  expanded: readonly Expansion[];
  /** Version of columns that name none; `actual` unless the view shows another. */
  shownVersion: string;
  /** Version of columns that read what is compared with; empty where nothing is. */
  comparedVersion: string;
  /** Version of columns that read the newest forecast; `actual` where there is nothing to come. */
  newestForecast: string;
  /** What accounts show that a version plans at a higher level than is asked for: nothing with a reason, or zero. */
  finerThanPlan: 'undefined' | 'zero';
  /** Demands on dimension values that hold for every column. */
  where: readonly DimensionCondition[];
  /** Books of a selection other than the whole actual books of the scope; a reason where there are none. */
  booksOf(selection: BooksSelection): LedgerSlice | UndefinedReason;
}

/** A statement that stands alone: no other layouts, dimensions, versions or books. */
export const ALONE: Surroundings = {
  rowLayouts: [],
  cashFlow: [],
  dimensions: [],
  entities: [],
  versions: [],
  lastClosed: undefined,
  expanded: [],
  shownVersion: ACTUAL,
  comparedVersion: '',
  newestForecast: ACTUAL,
  finerThanPlan: 'undefined',
  where: [],
  booksOf: () => 'no_data',
};
