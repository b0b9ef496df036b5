import { computed, inject, Injectable } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { NavigationEnd, Router, type Params } from '@angular/router';
import { filter, map, startWith } from 'rxjs';
import type { Breakdown, ColumnBasis, Organised, ReaderChoices } from '@margin-lens/core';
import {
  chosenBy,
  COLUMN_BASES,
  readRowOrder,
  type RowOrder,
  SERIES_TOTALS,
  type SeriesTotals,
  type ShownUnit,
  writeConditions,
  writeRowOrder,
} from '@margin-lens/core/shown';
import type { PeriodView, ScopeView, WorkspaceView } from '@margin-lens/contract';
import { WorkspaceStore } from './workspace-store';

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

const TRACE_SEPARATOR = '|';

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
  const wanted = chosen('scope', 'scope') ?? workspace.defaults.scope;
  const scope = scopeOf(workspace, wanted) ?? workspace.entities[0];
  const month = chosen('asAt', 'as_at');
  const periods = workspace.calendars.find((calendar) => calendar.code === scope?.calendar)?.periods ?? [];
  const asAt = scope && asAtOf(month, scope, periods, workspace);
  if (!scope || !asAt || !statement) return undefined;
  const columns = workspace.columnLayouts.find((layout) => layout.id === query['columns'])?.id ?? statement.columns;
  const asked = query['columns'] as string | undefined;
  const unknown = [
    ...(scope.code === wanted ? [] : [`entity or group “${wanted}”`]),
    ...(month === undefined || isMeant(asAt, month) ? [] : [`month “${month}”`]),
    ...(asked === undefined || asked === columns ? [] : [`columns “${asked}”`]),
  ];
  const trace = (query['trace'] as string | undefined) ?? '';
  const isBreakdown = query['breakdown'] !== undefined || workspace.breakdowns.some(({ id }) => id === statementId);
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
    isShaped: query['shape'] === '1',
    isCharted: query['charts'] !== undefined && query['shape'] !== '1',
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

/** Pages that tell of what was posted. */
const OF_POSTINGS = /^\/((statements|breakdowns)\/.|tie-outs|books-check|ledger|exceptions|evidence)/;

/** The context of the view, read from the URL and changed by going to another URL. */
@Injectable({ providedIn: 'root' })
export class ContextStore {
  private readonly router = inject(Router);
  private readonly workspace = inject(WorkspaceStore);

  private readonly url = toSignal(
    this.router.events.pipe(
      filter((event) => event instanceof NavigationEnd),
      map((event) => event.urlAfterRedirects),
      startWith(this.router.url),
    ),
    { initialValue: this.router.url },
  );

  /** The address as it stands. */
  readonly address = this.url;

  readonly path = computed(() => this.url().split('?')[0]!);

  /** Whether a statement or a breakdown is looked at. */
  readonly showsFigures = computed(() => /^\/(statements|breakdowns)\/./.test(this.path()));

  /** Whether a pack is looked at. */
  readonly showsPack = computed(() => /^\/packs\/./.test(this.path()));

  /** All that stands behind the question mark of the address. */
  readonly params = computed<Params>(() => this.router.parseUrl(this.url()).queryParams);

  readonly context = computed<ViewContext | undefined>(() => {
    const state = this.workspace.state();
    if (state.state !== 'loaded') return undefined;
    const tree = this.router.parseUrl(this.url());
    const [section, id] = tree.root.children['primary']?.segments.map((segment) => segment.path) ?? [];
    const isOfFigures = section === 'statements' || section === 'breakdowns';
    const pack = section === 'packs' ? id : undefined;
    return resolveContext(state.workspace, isOfFigures ? id : undefined, tree.queryParams, pack);
  });

  /** The statement or breakdown that is shown, as it is kept. */
  private readonly page = computed(() => {
    const state = this.workspace.state();
    const { statements = [], breakdowns = [] } = state.state === 'loaded' ? state.workspace : {};
    const shown = this.context()?.statement;
    return [...statements, ...breakdowns].find(({ id }) => id === shown);
  });
  /** Id of the allocation that the page is read with: that of the address, else its own; undefined for none. */
  readonly allocation = computed(() => {
    const id = this.context()?.allocation ?? this.page()?.allocation;
    return id === 'none' ? undefined : id;
  });
  /** How values stand together: as the address says, else as the page does; undefined for as in the as-at month. */
  readonly organised = computed(() => {
    const organised = this.context()?.organised ?? this.page()?.organised;
    return organised === 'then' ? organised : undefined;
  });

  /** Says what of the address is not there; empty where all of it is. */
  readonly unknown = computed(() => {
    const { unknown = [], scope, asAt } = this.context() ?? {};
    if (unknown.length === 0) return '';
    return `There is no ${unknown.join(' and no ')}: this is ${scope!.name}, ${asAt!.name}.`;
  });

  /** Says of pages of what was posted that nothing was; empty where something was, or a version is looked at. */
  readonly unposted = computed(() => {
    const context = this.context();
    if (!context || context.postedMonths > 0 || context.version !== undefined || !OF_POSTINGS.test(this.path()))
      return '';
    return `Nothing is posted in ${context.scope.name} up to ${context.asAt.name}.`;
  });

  setScope(code: string): void {
    this.go({ scope: code, currency: null, cell: this.context()?.cell, trace: null });
  }

  setAsAt(period: PeriodView): void {
    if (this.context()?.may.asAt === false) return;
    this.go({ as_at: asAtText(period), trace: null });
  }

  /** Moves the as-at by whole periods; adjustment periods are stopped at when they hold figures. */
  stepAsAt(step: 1 | -1): void {
    const context = this.context();
    if (!context) return;
    const { periods, asAt, scope } = context;
    const canStop = (p: PeriodView) => p.kind === 'regular' || scope.posted.includes(p.key);
    const candidates = periods.filter(canStop);
    const next = candidates[candidates.findIndex((p) => p.key === asAt.key) + step];
    if (next) this.setAsAt(next);
  }

  setColumns(id: string): void {
    this.go({ columns: id, totals: null, cell: null, trace: null });
  }

  /** Reads series of columns with their totals, or without. */
  setTotals(totals: SeriesTotals): void {
    this.go({ totals, cell: null, trace: null });
  }

  setUnit(unit: ShownUnit): void {
    this.go({ unit });
  }

  /** Shows money in a currency; the scope's own is what goes without saying. */
  setCurrency(code: string): void {
    this.go({ currency: code === this.context()?.scope.currency ? null : code, trace: null });
  }

  /** Opens a statement, in Shape or with a row of it selected. */
  openStatement(id: string, isShaped = false, row?: string): void {
    void this.router.navigate(['/statements', id], {
      queryParams: { ...NEW_STATEMENT, shape: isShaped ? '1' : null, cell: row === undefined ? null : `${row}~` },
      queryParamsHandling: 'merge',
    });
  }

  /** Breaks rows of a statement or breakdown down, as long as it is not kept. */
  breakDown(id: string, breakdown: Breakdown): void {
    void this.router.navigate(['/breakdowns', id], {
      queryParams: { ...NEW_STATEMENT, columns: this.context()?.columns ?? null, breakdown: JSON.stringify(breakdown) },
      queryParamsHandling: 'merge',
    });
  }

  /** Opens a breakdown that is kept. */
  openBreakdown(id: string): void {
    void this.router.navigate(['/breakdowns', id], { queryParams: NEW_STATEMENT, queryParamsHandling: 'merge' });
  }

  /** Lays a row open by its accounts or a dimension, or closes it again. */
  setOpen(row: string, by: string | undefined): void {
    const others = (this.context()?.open ?? []).filter((each) => !each.startsWith(`${row}:`));
    const open = by === undefined ? others : [...others, `${row}:${by}`];
    this.go({ open: open.join(',') || null, trace: null });
  }

  /** Folds the rows of a total away, or shows them. */
  toggleFold(row: string): void {
    const folded = this.context()?.folded ?? [];
    const next = folded.includes(row) ? folded.filter((each) => each !== row) : [...folded, row];
    this.go({ folded: next.join(',') || null });
  }

  /** Has lines stand in order of a column: the largest first, the smallest, then as in the layout again. */
  orderBy(column: string): void {
    const order = this.context()?.order;
    const isOrdered = order?.column === column;
    const first = isOrdered ? 'smallest' : 'largest';
    const isOver = isOrdered && order.first === 'smallest';
    this.go({ sorted: isOver ? null : writeRowOrder({ column, first }) });
  }

  setVersion(version: string | undefined): void {
    this.go({ version: version ?? null, trace: null });
  }

  /** Reads what was posted on a basis. */
  setBasis(basis: ColumnBasis): void {
    this.go({ basis, trace: null });
  }

  setAgainst(version: string): void {
    this.go({ against: version, trace: null });
  }

  /** Demands a value of a dimension of every column, or nothing any more. */
  setWhere(dimension: string, value: string | undefined): void {
    const { where: held = [], demands } = this.context() ?? {};
    const others = held.filter((each) => !each.startsWith(`${dimension}:`) && !each.startsWith(`!${dimension}:`));
    const where = value === undefined ? others : [...others, `${dimension}:${encodeURIComponent(value)}`];
    // what the page opens with is taken off by asking for nothing
    this.go({ where: where.join(',') || (demands === undefined ? null : ''), trace: null });
  }

  /** Spreads shared costs by an allocation, or leaves them as they were posted. */
  setAllocation(id: string): void {
    this.go({ allocation: id, trace: null });
  }

  /** Reads values as they stood together in each column's time, or as in the as-at month. */
  setOrganised(organised: Organised): void {
    this.go({ organised, trace: null });
  }

  setShaped(isShaped: boolean): void {
    this.go({ shape: isShaped ? '1' : null, charts: null, cell: null, trace: null });
  }

  /** Shows charts of a row, or the table again; without a row those of the result. */
  setCharted(row: string | undefined, replaceUrl = false): void {
    this.go({ charts: row ?? null, shape: null, cell: null, trace: null }, replaceUrl);
  }

  /** Charts of the selected row, else of the result, or the table again. */
  toggleCharts(): void {
    const context = this.context();
    this.setCharted(context?.isCharted ? undefined : (context?.cell?.split('~')[0] ?? ''));
  }

  /** Selecting is not a step that one goes back to. */
  select(cell: string | undefined): void {
    this.go({ cell: cell ?? null, trace: null }, true);
  }

  /** The path of the Lens: addresses from the cell down. */
  setTrace(path: readonly string[]): void {
    this.go({ trace: path.length === 0 ? null : path.join(TRACE_SEPARATOR) });
  }

  /** The address as it stands, without a parameter. */
  addressWithout(name: string): string {
    const tree = this.router.parseUrl(this.url());
    const { [name]: _, ...queryParams } = tree.queryParams;
    return this.router.serializeUrl(Object.assign(tree, { queryParams }));
  }

  /** Goes to an address, with some parameters more; true once it is there. */
  visit(address: string, more: Params): Promise<boolean> {
    const tree = this.router.parseUrl(address);
    return this.router.navigateByUrl(Object.assign(tree, { queryParams: { ...tree.queryParams, ...more } }));
  }

  /** Goes to a place of the books; parameters that are null are left out. */
  goTo(path: string, queryParams: Params): void {
    void this.router.navigate([path], { queryParams, queryParamsHandling: 'merge' });
  }

  /** Changes parameters of the place that is shown. */
  setParams(queryParams: Params, replaceUrl = false): void {
    this.go(queryParams, replaceUrl);
  }

  private go(queryParams: Params, replaceUrl = false): void {
    void this.router.navigate([], { queryParams, queryParamsHandling: 'merge', replaceUrl });
  }
}
