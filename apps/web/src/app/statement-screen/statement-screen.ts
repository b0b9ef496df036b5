import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { Screen } from '../shared/screen';
import { MatIconModule } from '@angular/material/icon';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatButtonModule } from '@angular/material/button';
import { MatDividerModule } from '@angular/material/divider';
import { MatMenuModule } from '@angular/material/menu';
import { ChartsView } from '../charts/charts-view';
import { CHART_COLUMNS } from '@margin-lens/core/shown';
import { MatDialog } from '@angular/material/dialog';
import type { BreakdownDocument } from '@margin-lens/core';
import { concatMap, first } from 'rxjs';
import type { ErrorReply } from '@margin-lens/contract';
import { AxisList } from '../breakdown/axis-list';
import { BreakdownChart } from '../breakdown/breakdown-chart';
import { BreakdownLine } from '../breakdown/breakdown-line';
import { BreakdownStore } from '../breakdown/breakdown-store';
import type { SaveBreakdownDialog } from '../breakdown/save-dialog';
import { UseInStatement } from '../breakdown/use-in-statement';
import { Lens } from '../lens/lens';
import { Beside, type Picked } from '../shared/beside';
import { Api } from '../shared/api';
import { ShapeView } from '../shape/shape-view';
import { remarkStates } from '../remarks/remark-text';
import { RemarksStore } from '../remarks/remarks-store';
import { ContextStore } from '../shared/context-store';
import { currencyUnit } from '../shared/currency-unit';
import { ShownStatement } from '../shared/shown-statement';
import { takesLetters } from '../shared/takes-letters';
import { WorkspaceStore } from '../shared/workspace-store';
import { questionOf, StatementStore } from '../statement/statement-store';
import { CashNote } from './cash-note';
import { DraftNotice } from './draft-notice';
import { StatementTable } from './statement-table';
import { statementPage, subtitleOf } from '@margin-lens/core/shown';
import { ColumnSizes } from '../shared/grid/column-sizes';
import { Paper } from '../shared/paper';
import { missingOf, shownTable } from '../statement/statement-view';

/** Width of the Lens when it opens, in pixels. */
const LENS_PX = 332;
/** What stands left and right of the table: padding and a scroll bar, in pixels. */
const AROUND = 40;
const LENS_KEY = 'margin-lens.lens-width';

/** Read: a statement on the live numbers, with the Lens beside it. */
@Component({
  selector: 'ml-statement-screen',
  imports: [
    CashNote,
    DraftNotice,
    AxisList,
    BreakdownChart,
    BreakdownLine,
    UseInStatement,
    ChartsView,
    Lens,
    MatButtonModule,
    MatButtonToggleModule,
    MatDividerModule,
    MatIconModule,
    MatMenuModule,
    Screen,
    ShapeView,
    StatementTable,
  ],
  providers: [StatementStore, BreakdownStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './statement-screen.html',
  styleUrls: ['../shared/screen-frame.scss', './statement-screen.scss'],
  host: { '(keydown)': 'onKey($event)' },
})
export class StatementScreen {
  private readonly api = inject(Api);
  private readonly store = inject(StatementStore);
  private readonly shown = inject(ShownStatement);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly remarks = inject(RemarksStore);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly contexts = inject(ContextStore);

  protected readonly breakdowns = inject(BreakdownStore);
  private readonly dialog = inject(MatDialog);
  protected readonly failure = signal<ErrorReply | undefined>(undefined);

  private readonly statementTable = viewChild(StatementTable);
  private readonly lens = viewChild<Lens>('lens');
  protected readonly state = this.store.state;
  protected readonly lensWidth = signal(Number(localStorage.getItem(LENS_KEY)) || LENS_PX);
  private readonly width = signal(1132);

  /** What is being done while it loads. */
  protected readonly reading = computed(() =>
    this.contexts.context()?.breakdown === undefined ? 'Evaluating the statement' : 'Breaking it down',
  );
  protected readonly columnLayouts = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace.columnLayouts : [];
  });
  protected readonly unit = computed(() => this.contexts.context()?.unit ?? 1);
  protected readonly table = computed(() => {
    const { view } = this.state();
    const folded = this.contexts.context()?.folded;
    const order = this.order();
    const widthOf = (column: string) => this.sizes.px(column);
    return view && shownTable(view, this.unit(), currencyUnit(view.scope.currency), folded, widthOf, order);
  });
  /** What lines stand in order of. */
  protected readonly order = computed(() => this.contexts.context()?.order);
  protected readonly sizes = new ColumnSizes(() => `statement.${this.contexts.context()?.statement ?? ''}`);
  protected readonly missing = computed(() => {
    const { view } = this.state();
    return view && missingOf(view);
  });
  protected readonly remarked = computed(() =>
    remarkStates(this.remarks.remarks(), this.state().view?.columnLayout.id),
  );
  protected readonly subtitle = computed(() => {
    const { view } = this.state();
    return view ? subtitleOf(view, { on: 'screen', unit: this.unit(), order: this.order() }) : '';
  });
  /** The question and the statement, while it is shaped. */
  protected readonly shaped = computed(() => {
    const context = this.contexts.context();
    if (!context?.isShaped) return undefined;
    const { open: _open, ...question } = questionOf(context);
    return { statement: context.statement, question };
  });
  protected readonly CHART_COLUMNS = CHART_COLUMNS;
  protected readonly readsCash = computed(() => this.state().view?.readsCash ?? false);
  protected readonly isCharted = computed(() => this.contexts.context()?.isCharted ?? false);
  protected readonly question = computed(() => {
    const context = this.contexts.context();
    return context && questionOf(context);
  });
  protected readonly dimensions = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace.dimensions.map(({ name }) => name) : [];
  });
  /** The selected cell; of a row that was gone to by its name, the first. */
  protected readonly cell = computed(() => {
    const cell = this.contexts.context()?.cell;
    return cell?.endsWith('~') ? `${cell}${this.table()?.columns[0]?.head.id ?? ''}` : cell;
  });
  protected readonly isLensOpen = computed(
    () =>
      this.cell() !== undefined &&
      this.table() !== undefined &&
      !this.isCharted() &&
      (!this.beside.isBeside || this.isLensWanted()),
  );
  /** The Lens lies over the sheet when beside it a figure column would become too narrow to read. */
  protected readonly lensOverlays = computed(
    () => (this.table()?.leastWidth ?? 0) + AROUND > this.width() - this.lensWidth(),
  );

  /** Beside another place the Lens opens when it is asked for, so that the figures stay in sight. */
  private readonly isLensWanted = signal(false);

  /** Cell whose remarks shall open, once the address and the Lens have followed. */
  private readonly remarking = signal<string | undefined>(undefined);
  /** Cell whose fields shall be ranked, once the address and the Lens have followed. */
  private readonly ranking = signal<string | undefined>(undefined);
  /** Cell whose terms shall take the keyboard, once the address and the Lens have followed. */
  private readonly tracing = signal<string | undefined>(undefined);

  private readonly beside = inject(Beside);
  private readonly openedId = computed(() => this.state().view?.id);

  constructor() {
    effect(() => {
      const id = this.openedId();
      // what was opened last is found first; where that cannot be kept, nothing is lost
      if (id) this.api.shelve(id, 'open').subscribe({ error: () => undefined });
    });
    effect(() => {
      const picked = this.beside.picked();
      if (picked) untracked(() => this.follow(picked));
    });
    effect(() => {
      const rows = this.statementTable()?.rowsInBlock();
      if (rows) untracked(() => this.breakdowns.marked.set(rows));
    });
    effect(() => {
      const lens = this.lens();
      if (!lens || this.tracing() === undefined || this.tracing() !== this.cell()) return;
      untracked(() => this.tracing.set(undefined));
      lens.focusTerms();
    });
    effect(() => {
      const lens = this.lens();
      if (!lens || this.remarking() === undefined || this.remarking() !== this.cell()) return;
      untracked(() => this.remarking.set(undefined));
      lens.showRemarks();
    });
    effect(() => {
      const lens = this.lens();
      if (!lens || this.ranking() === undefined || this.ranking() !== this.cell()) return;
      untracked(() => this.ranking.set(undefined));
      lens.showRanks();
    });
    const observer = new ResizeObserver(([entry]) => this.width.set(entry!.contentRect.width));
    observer.observe(this.host.nativeElement);
    // what was shaped is read anew, whichever way it was left
    let wasShaped = false;
    effect(() => {
      const isShaped = this.shaped() !== undefined;
      if (wasShaped && !isShaped) untracked(() => this.store.retry());
      wasShaped = isShaped;
    });
    inject(Paper).shows(() => {
      const { view } = this.state();
      return view && !this.isCharted()
        ? statementPage(view, { on: 'paper', unit: this.unit(), order: this.order() })
        : undefined;
    });
    const destroyRef = inject(DestroyRef);
    destroyRef.onDestroy(() => {
      observer.disconnect();
      this.shown.view.set(undefined);
    });
    effect(() => {
      const { view } = this.state();
      if (view) this.remarks.ask({ scope: view.scope.code, as_at: view.asAt.key, statement: view.id });
    });
  }

  protected light(column: string | undefined): void {
    const selected = this.cell()?.split('~')[1];
    this.shown.litColumn.set(column ?? selected);
  }

  protected select(cell: string): void {
    if (cell === this.cell()) return;
    this.contexts.select(cell);
    const [row, column] = cell.split('~') as [string, string];
    const [question, { view }] = [this.question(), this.state()];
    if (!question || !view) return;
    const figure = { statement: view.id, context: question, address: `cell~${cell}` };
    this.beside.pick({ row: row.split('.')[0]!, column, figure });
  }

  /** Selects what was selected beside, where this statement shows it. */
  private follow({ row, column, account }: Picked): void {
    const table = this.table();
    const shown = table?.rows.find(({ id }) => (row ? id === row : id.split('.')[1] === account));
    if (!table || !shown) return;
    const known = [column, this.cell()?.split('~')[1], table.columns[0]?.head.id];
    const at = known.find((each) => table.columns.some(({ head }) => head.id === each));
    this.contexts.select(`${shown.id}~${at ?? ''}`);
  }

  protected trace(cell: string): void {
    this.isLensWanted.set(true);
    this.select(cell);
    this.tracing.set(cell);
  }

  /** Table, charts or Shape. */
  protected show(way: 'read' | 'charts' | 'shape'): void {
    if (way === 'shape') this.contexts.setShaped(true);
    else if ((way === 'charts') !== this.isCharted()) this.contexts.toggleCharts();
  }

  /** Ranks what the selected cell, or the first, could be broken down by. */
  private rank(): void {
    const cell = this.statementTable()?.selectedId() ?? this.cell();
    if (cell === undefined) return;
    this.isLensWanted.set(true);
    this.select(cell);
    this.ranking.set(cell);
  }

  /** Opens the remarks of the selected cell, or of the first where none is. */
  private remark(): void {
    const cell = this.statementTable()?.selectedId() ?? this.cell();
    if (cell === undefined) return;
    this.isLensWanted.set(true);
    this.select(cell);
    this.remarking.set(cell);
  }

  /** Orders lines by the column of the selected cell, or the first. */
  private orderByChosen(): void {
    const column = (this.statementTable()?.selectedId() ?? this.cell())?.split('~')[1];
    if (column !== undefined) this.contexts.orderBy(column);
  }

  protected retry(): void {
    this.store.retry();
  }

  protected stop(): void {
    this.store.stop();
  }

  /** Breaks a row of the statement down by what is chosen there. */
  protected breakDown(row: string): void {
    const { view } = this.state();
    if (view) this.contexts.breakDown(view.id, { of: [row.split('.')[0]!], down: [], across: [] });
  }

  /** Keeps the breakdown under a name of its own. */
  protected async keepAs(): Promise<void> {
    const document = this.kept();
    if (!document) return;
    const { SaveBreakdownDialog: Dialog } = await import('../breakdown/save-dialog');
    this.dialog
      .open<SaveBreakdownDialog, BreakdownDocument, string>(Dialog, { width: '420px', data: document })
      .afterClosed()
      .subscribe((id) => {
        if (id === undefined) return;
        this.workspaces.reload();
        // with the columns that it is kept with, which the workspace says
        this.workspaces.loaded$
          .pipe(first(({ breakdowns }) => breakdowns.some((each) => each.id === id)))
          .subscribe(() => this.contexts.openBreakdown(id));
      });
  }

  /** Makes the breakdown as it stands the one that is kept under its name. */
  protected keep(): void {
    const { view } = this.state();
    const document = this.kept();
    if (!view || !document) return;
    this.failure.set(undefined);
    this.api
      .document('breakdown', view.id)
      .pipe(
        concatMap(({ document: held, base }) =>
          this.api.keepDocument({ ...(held as BreakdownDocument), ...without(document, 'id', 'name') }, base),
        ),
      )
      .subscribe({
        next: () => this.contexts.openBreakdown(view.id),
        error: (error: ErrorReply) => this.failure.set(error),
      });
  }

  private kept(): BreakdownDocument | undefined {
    const { view } = this.state();
    const definition = this.breakdowns.definition();
    if (!view || !definition) return undefined;
    return {
      ...{ schema: 1, kind: 'breakdown', id: view.id, name: view.name },
      ...{ rows: view.rowLayout.id, columns: view.columnLayout.id, unit: this.unit(), breakdown: definition },
      ...{ allocation: this.contexts.allocation(), organised: this.contexts.organised() },
    };
  }

  protected closeLens(): void {
    this.isLensWanted.set(false);
    if (!this.beside.isBeside) this.contexts.select(undefined);
    setTimeout(() => this.statementTable()?.focusSelected());
  }

  protected backToSheet(): void {
    this.statementTable()?.focusSelected();
  }

  protected exportUrl(format: 'xlsx' | 'csv' | 'pdf', along: { hasRemarks?: true; chart?: string } = {}): string {
    const context = this.contexts.context();
    const asked = { format, unit: context?.unit ?? 1, order: this.order(), ...along };
    return context ? this.api.exportUrl(context.statement, questionOf(context), asked) : '';
  }

  protected copyHeaded(): void {
    this.statementTable()?.copyHeaded();
  }

  protected print(): void {
    window.print();
  }

  /** Leaves only the values that are marked, or the one that is selected. */
  private onlyMarked(): void {
    const marked = this.breakdowns.marked();
    const [chosen] = this.cell()?.split('~') ?? [];
    const next = this.breakdowns.only(marked.length > 0 || chosen === undefined ? marked : [chosen]);
    if (next) this.breakdowns.change(next);
  }

  protected resize(width: number): void {
    this.lensWidth.set(width);
    localStorage.setItem(LENS_KEY, String(width));
  }

  protected leaveShape(): void {
    this.contexts.setShaped(false);
  }

  protected onKey(event: KeyboardEvent): void {
    const isPlain = !takesLetters(event.target) && !event.ctrlKey && !event.metaKey && !event.altKey;
    if (event.key === 'r' && isPlain && !this.isCharted()) this.remark();
    else if (event.key === 'Escape' && this.isLensOpen()) this.closeLens();
    else if (event.key === 'b' && isPlain && !this.isCharted()) this.rank();
    else if (event.key === 'o' && isPlain && !this.isCharted() && !this.breakdowns.shown()) this.orderByChosen();
    else if (!isPlain || !this.breakdowns.shown()) return;
    else if (event.key === 'f') this.onlyMarked();
    else if (event.key === 'x') this.breakdowns.swap();
    else if (event.key === '+') this.breakdowns.level(1);
    else if (event.key === '-') this.breakdowns.level(-1);
    else return;
    event.preventDefault();
  }
}

/** A document without some of its settings. */
function without<T extends object, K extends keyof T>(document: T, ...keys: K[]): Omit<T, K> {
  const copy = { ...document };
  for (const key of keys) delete copy[key];
  return copy;
}
