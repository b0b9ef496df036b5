import type { RowLayout } from '../layout/row-layout';
import { ACTUAL, type BooksSelection, type ColumnBasis, type Organised } from '../books/books-selection';
import type { DimensionCondition } from '../cube/dimension-condition';
import type { CashFlowRule } from '../books/cash-flow-rule';
import type { DimensionTree } from '../account/dimension-tree';
import type { AttributeField } from '../account/value-attributes';
import type { LedgerSlice } from '../books/ledger-slice';
import type { VersionInView } from '../books/version-in-view';
import type { Missing } from '../figure/figure';
import type { FiscalPeriod } from '../period/fiscal-calendar';

/** A row laid open: its accounts, or the values of a dimension, stand below it. */
export interface Expansion {
  row: string;
  /** `accounts`, or the name of a dimension. */
  by: string;
}

/** What rows are compiled against, beside the chart of accounts. */
export interface RowSurroundings {
  /** All row layouts, for formulas that name rows of another. */
  rowLayouts: readonly RowLayout[];
  cashFlow: readonly CashFlowRule[];
  dimensions: readonly DimensionTree[];
  expanded: readonly Expansion[];
}

/** What columns are compiled against, beside the calendar and the as-at period. */
export interface ColumnSurroundings {
  /** As they are organised in the as-at period. */
  dimensions: readonly DimensionTree[];
  /** Which arrangement of their trees holds in a period, by its key; undefined for the latest. */
  arrangementIn?: (period: string) => number | undefined;
  /** Trees of dimensions in an arrangement. */
  treesOf?: (arrangement: number | undefined) => readonly DimensionTree[];
  /** Basis of columns that do not say theirs; books with adjustments where it is left out. */
  basis?: ColumnBasis | undefined;
  /** How values of dimensions stand together in columns that do not say it. */
  organised?: Organised | undefined;
  /** What values of dimensions carry, as it stands in the as-at period. */
  attributes?: readonly AttributeField[];
  /** Entities that a series can stand for; those of a group are parts of it, and add up to it. */
  entities: readonly { code: string; name: string; currency: string; isPart: boolean }[];
  /** Groups within that of the scope, each consolidated by itself. */
  subgroups: readonly { code: string; name: string }[];
  /** Kinds of eliminations that the scope has, each with its name. */
  eliminations: readonly { kind: string; name: string }[];
  /** Movement codes that postings and eliminations carry, by account; asked for by a series of flows. */
  movementCodes: () => ReadonlyMap<number, ReadonlySet<string>>;
  versions: readonly VersionInView[];
  lastClosed: FiscalPeriod | undefined;
  /** How many of the days from one to another, both included, are working days of the scope; all of them where it is left out. */
  workingDays?: ((start: string, end: string) => number) | undefined;
  /** Version of columns that name none; `actual` unless the view shows another. */
  shownVersion: string;
  /** Version of columns that read what is compared with; empty where nothing is. */
  comparedVersion: string;
  /** Version of columns that read the newest forecast; `actual` where there is nothing to come. */
  newestForecast: string;
  /** Id of the allocation that columns which name none are read with; costs as they were posted where it is left out. */
  allocation?: string | undefined;
  /** Those that there are. */
  allocations?: readonly { id: string; name: string }[];
  /** Demands on dimension values that hold for every column. */
  where: readonly DimensionCondition[];
}

/** The books that cells are read from, beside the whole actual books of the scope. */
export interface OtherBooks {
  /** Books of a selection; why there are none where that is so. */
  booksOf(selection: BooksSelection): LedgerSlice | Missing;
  /** What accounts show that a version plans at a higher level than is asked for: nothing with a reason, or zero. */
  finerThanPlan: 'undefined' | 'zero';
}

/** What a statement reads beside its layouts and the books of its scope. */
export interface Surroundings extends RowSurroundings, ColumnSurroundings, OtherBooks {}

/** A statement that stands alone: no other layouts, dimensions, versions or books. */
export const ALONE: Surroundings = {
  rowLayouts: [],
  cashFlow: [],
  dimensions: [],
  entities: [],
  subgroups: [],
  eliminations: [],
  movementCodes: () => new Map(),
  versions: [],
  lastClosed: undefined,
  expanded: [],
  shownVersion: ACTUAL,
  comparedVersion: '',
  newestForecast: ACTUAL,
  finerThanPlan: 'undefined',
  where: [],
  booksOf: () => ({ reason: 'no_data' }),
};
