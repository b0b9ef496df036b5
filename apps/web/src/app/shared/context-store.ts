import { computed, inject, Injectable } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { NavigationEnd, Router, type Params } from '@angular/router';
import { filter, map, startWith } from 'rxjs';
import type { Breakdown, ColumnBasis, Organised } from '@margin-lens/core';
import { type SeriesTotals, type ShownUnit, writeRowOrder } from '@margin-lens/core/shown';
import type { PeriodView } from '@margin-lens/contract';
import { asAtText, NEW_STATEMENT, resolveContext, TRACE_SEPARATOR, type ViewContext } from './view-context';
import { WorkspaceStore } from './workspace-store';

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

  /** The entity that is looked at; undefined where it is a group of them. */
  readonly entity = computed(() => {
    const scope = this.context()?.scope;
    return scope && !('topEntity' in scope) ? scope : undefined;
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
