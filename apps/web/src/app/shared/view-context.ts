import type { Params } from '@angular/router';
import type { ColumnBasis, Organised, ReaderChoices } from '@margin-lens/core';
import {
  chosenBy,
  COLUMN_BASES,
  readRowOrder,
  type RowOrder,
  SERIES_TOTALS,
  type SeriesTotals,
  type ShownUnit,
  writeConditions,
} from '@margin-lens/core/shown';
import type { PeriodView, ScopeView, WorkspaceView } from '@margin-lens/contract';

/** What is looked at, as it stands in the URL. */
export interface ViewContext {
  /** Id of the statement or breakdown. */
  statement: string;
  /** JSON of what is broken down by what, where the address says it. */
  breakdown: string | undefined;
  scope: ScopeView;
  /** What money is shown in: the scope's own currency, or another. */
  currency: string;
  periods: readonly PeriodView[];
  asAt: PeriodView;
  /** Months up to the as-at one, it included, that anything was posted in. */
  postedMonths: number;
  columns: string;
  /** Whether series of columns have totals; as the layout says where it is left out. */
  totals: SeriesTotals | undefined;
  unit: ShownUnit;
  /** Selected cell as `row~column`, and the path of the Lens below it. */
  cell: string | undefined;
  trace: readonly string[];
  /** Rows laid open into accounts or dimension values, as `row:by`. */
  open: readonly string[];
  /** Totals whose rows are folded away. */
  folded: readonly string[];
  /** What lines stand in order of; as the layout has them where it is left out. */
  order: RowOrder | undefined;
  isShaped: boolean;
  /** Shown as charts of one row rather than as a table. */
  isCharted: boolean;
  /** Row that the charts are of; the result where it is left out. */
  chartRow: string | undefined;
  /** Version of columns that name none; undefined for actual. */
  version: string | undefined;
  /** Version that columns compare with; the server's usual one where it is left out. */
  against: string | undefined;
  /** Demands on dimension values, as `dimension:value`. */
  where: readonly string[];
  /** The same as it is asked of the server; undefined where nothing is demanded, empty where what is usual is not. */
  demands: string | undefined;
  /** Id of the allocation that shared costs are spread by; that of the page where it is left out. */
  allocation: string | undefined;
  /** Basis of what was posted; books with adjustments where it is left out. */
  basis: ColumnBasis | undefined;
  /** How values of dimensions stand together; as the page says where it is left out. */
  organised: Organised | undefined;
  /** What the address names that is not there, in words; what is usual stands in its place. */
  unknown: readonly string[];
  /** What a reader of this statement or pack may change. */
  may: { scope: boolean; asAt: boolean; version: boolean; basis: boolean; dimensions: boolean };
}

const listOf = (text: unknown): string[] => (typeof text === 'string' && text !== '' ? text.split(',') : []);

/** Between the addresses of the path of the Lens. */
export const TRACE_SEPARATOR = '|';

const organisedOf = (text: unknown): Organised | undefined => (text === 'then' || text === 'as_at' ? text : undefined);

const UNITS: readonly ShownUnit[] = [1, 1000, 1_000_000];

/** Whether a text in the address means a period. */
const isMeant = ({ key, kind, end }: PeriodView, text: string): boolean =>
  key === text || (kind === 'regular' && end.slice(0, 7) === text);

/** The as-at period of a URL text, else the last period with postings of the regular year, if not of the scope of any. */
function asAtOf(
  text: string | undefined,
  scope: ScopeView,
  periods: readonly PeriodView[],
  workspace: WorkspaceView,
): PeriodView | undefined {
  const named = text === undefined ? undefined : periods.find((period) => isMeant(period, text));
  const lastPosted = periods.findLast((p) => p.kind === 'regular' && scope.posted.includes(p.key));
  if (named ?? lastPosted) return named ?? lastPosted;
  const last = lastDay(workspace);
  return periods.findLast((p) => p.kind === 'regular' && p.end <= last) ?? periods[0];
}

/** The last day of the last month that any entity has postings in; empty where there is none. */
const lastDay = ({ entities, calendars }: WorkspaceView): string =>
  entities
    .map(({ calendar, posted }) => {
      const periods = calendars.find(({ code }) => code === calendar)?.periods ?? [];
      return periods.findLast(({ kind, key }) => kind === 'regular' && posted.includes(key))?.end ?? '';
    })
    .reduce((a, b) => (a > b ? a : b), '');

/** Text of a period in URLs: the month it ends in, or its key for adjustments. */
export const asAtText = (period: PeriodView): string =>
  period.kind === 'regular' ? period.end.slice(0, 7) : period.key;

/** Parameters that belong to one statement and not to the next. */
export const NEW_STATEMENT = {
  columns: null,
  totals: null,
  cell: null,
  trace: null,
  unit: null,
  open: null,
  folded: null,
  sorted: null,
  shape: null,
  charts: null,
  breakdown: null,
  shows: null,
  page: null,
  all: null,
} as const;

/** What else a list of lines of a figure may be narrowed by, taken out of the address. */
export const NO_FILTER = { q: null, dim: null, late: null, journal: null, sort: null, order: null } as const;

/** The entity or group of a code. */
export const scopeOf = ({ entities, groups }: WorkspaceView, code: string | null): ScopeView | undefined =>
  [...entities, ...groups].find((scope) => scope.code === code);

/** Resolves the parameters of a URL against the workspace; undefined while there are no books. */
export function resolveContext(
  workspace: WorkspaceView,
  statementId: string | undefined,
  query: Params,
  packId?: string,
): ViewContext | undefined {
  const pages = [...workspace.statements, ...workspace.breakdowns];
  const known = pages.find((statement) => statement.id === statementId);
  const fallback =
    workspace.statements.find((statement) => statement.id === workspace.defaults.statement) ?? workspace.statements[0];
  const statement = known ?? fallback;
  const pack = workspace.packs.find(({ id }) => id === packId);
  // what a page opens with, and what its readers may change, holds on that page alone
  const readers = (pack ?? known)?.readers ?? {};
  const may = (key: keyof ReaderChoices) => readers[key]?.may ?? true;
  /** What the address says where it may, else what the statement opens with. */
  const chosen = (key: Exclude<keyof ReaderChoices, 'dimensions'>, inQuery: string): string | undefined =>
    chosenBy(readers[key], query[inQuery] as string | undefined);
  const { usual = [] } = readers.dimensions ?? {};
  const narrowed = may('dimensions') ? (query['where'] as string | undefined) : undefined;
  const demands = narrowed ?? (usual.length > 0 ? writeConditions(usual) : undefined);
  const wanted = chosen('scope', 'scope');
  const scope = scopeOf(workspace, wanted ?? workspace.defaults.scope) ?? workspace.entities[0];
  const month = chosen('asAt', 'as_at');
  const periods = workspace.calendars.find((calendar) => calendar.code === scope?.calendar)?.periods ?? [];
  const asAt = scope && asAtOf(month, scope, periods, workspace);
  if (!scope || !asAt || !statement) return undefined;
  const columns = workspace.columnLayouts.find((layout) => layout.id === query['columns'])?.id ?? statement.columns;
  const asked = query['columns'] as string | undefined;
  const unknown = [
    ...(wanted === undefined || scope.code === wanted ? [] : [`entity or group “${wanted}”`]),
    ...(month === undefined || isMeant(asAt, month) ? [] : [`month “${month}”`]),
    ...(asked === undefined || asked === columns ? [] : [`columns “${asked}”`]),
  ];
  const trace = (query['trace'] as string | undefined) ?? '';
  const isBreakdown = query['breakdown'] !== undefined || workspace.breakdowns.some(({ id }) => id === statementId);
  // a breakdown is shaped where it stands
  const isShaped = query['shape'] === '1' && !isBreakdown;
  return {
    statement: statementId ?? statement.id,
    breakdown: (query['breakdown'] as string | undefined) || undefined,
    scope,
    currency: workspace.currencies.find((code) => code === chosen('currency', 'currency')) ?? scope.currency,
    periods,
    asAt,
    postedMonths: periods.filter(
      ({ kind, key, ordinal }) => kind === 'regular' && ordinal <= asAt.ordinal && scope.posted.includes(key),
    ).length,
    columns,
    totals: SERIES_TOTALS.find((each) => each === query['totals']),
    unit: UNITS.find((unit) => String(unit) === query['unit']) ?? statement.unit,
    cell: (query['cell'] as string | undefined) || undefined,
    trace: trace === '' ? [] : trace.split(TRACE_SEPARATOR),
    open: listOf(query['open']),
    folded: listOf(query['folded']),
    // a breakdown has an order of its own
    order: isBreakdown ? undefined : readRowOrder(query['sorted'] as string | undefined),
    isShaped,
    isCharted: query['charts'] !== undefined && !isShaped,
    chartRow: (query['charts'] as string | undefined) || undefined,
    // one that is not there is asked for, so that the answer says so
    version: chosen('version', 'version') || undefined,
    against: (query['against'] as string | undefined) || undefined,
    where: listOf(demands),
    demands: demands === '' && usual.length === 0 ? undefined : demands,
    allocation: may('dimensions') ? (query['allocation'] as string | undefined) || undefined : undefined,
    basis: COLUMN_BASES.find((basis) => basis === chosen('basis', 'basis')),
    organised: may('dimensions') ? organisedOf(query['organised']) : undefined,
    unknown,
    may: {
      scope: may('scope'),
      asAt: may('asAt'),
      version: may('version'),
      basis: may('basis'),
      dimensions: may('dimensions'),
    },
  };
}
