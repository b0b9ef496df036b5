import { CdkVirtualScrollViewport, ScrollingModule } from '@angular/cdk/scrolling';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  untracked,
  viewChild,
  viewChildren,
} from '@angular/core';
import { EmptyState } from '../shared/empty-state';
import { Screen } from '../shared/screen';
import { MatIconModule } from '@angular/material/icon';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatButtonModule } from '@angular/material/button';
import { takeUntilDestroyed, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatMenuModule } from '@angular/material/menu';
import { MatSnackBar } from '@angular/material/snack-bar';
import { RouterLink } from '@angular/router';
import { catchError, debounceTime, map, of, Subject, switchMap } from 'rxjs';
import type { LineSort } from '@margin-lens/contract';
import { JournalCard } from '../lens/journal-card';
import { Beside } from '../shared/beside';
import { Api } from '../shared/api';
import { ErrorState } from '../shared/error-state';
import { ContextStore } from '../shared/context-store';
import { NO_FILTER } from '../shared/view-context';
import { WorkspaceStore } from '../shared/workspace-store';
import { SelectionSum } from '../shared/selection-sum';
import { ColumnEdge } from '../shared/grid/column-edge';
import { ColumnSizes } from '../shared/grid/column-sizes';
import { Grid, placeOf } from '../shared/grid/grid';
import { GridModel } from '../shared/grid/grid-model';
import type { Block, Spot } from '../shared/grid/grid-place';
import { textOfBlock } from '../shared/grid/grid-text';
import { lineColumns, type ListedLine } from './line-columns';
import { demandText } from '../shared/demand-words';
import { amountText, NO_LINES, selectionWords } from './ledger-text';
import { LINES_SCROLLED, LinesStore } from './lines-store';
import { inWords, countText } from '@margin-lens/core/shown';
import { InWordsPipe } from '../shared/in-words-pipe';
import { type DimensionValue, ValueMenu } from '../shared/value-menu';

/** Height of a line, in pixels; the stylesheet says the same. */
export const LINE_HEIGHT = 24;
/** Lines fetched beyond what is in view. */
const AHEAD = 60;
/** A search waits so long for more letters. */
const TYPED_WITHIN_MS = 300; // 150 to 600
/** Lines that can be selected and summed at once. */
const SELECTED_AT_MOST = 5000;

/** Journal lines of a filter, a line's whole journal beside them, and the sum of what is selected in the foot. */
@Component({
  selector: 'ml-lines-screen',
  imports: [
    InWordsPipe,
    ColumnEdge,
    EmptyState,
    ErrorState,
    Grid,
    JournalCard,
    MatButtonModule,
    MatCheckboxModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    MatMenuModule,
    ValueMenu,
    MatSelectModule,
    RouterLink,
    Screen,
    ScrollingModule,
  ],
  providers: [LinesStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './lines-screen.html',
  styleUrls: ['../shared/screen-frame.scss', './lines-screen.scss'],
})
export class LinesScreen {
  private readonly api = inject(Api);
  private readonly beside = inject(Beside);
  private readonly selection = inject(SelectionSum);
  private readonly snackBar = inject(MatSnackBar);
  private readonly workspaces = inject(WorkspaceStore);
  protected readonly contexts = inject(ContextStore);
  protected readonly store = inject(LinesStore);
  protected readonly LINE_HEIGHT = LINE_HEIGHT;
  protected readonly NO_LINES = NO_LINES;

  private readonly viewport = viewChild(CdkVirtualScrollViewport);

  protected readonly state = this.store.state;
  protected readonly view = computed(() => this.state().view);
  /** One empty item a line; what stands in it is looked up when it is drawn. */
  protected readonly items = computed(() => new Array<undefined>(this.store.count()));
  protected readonly currency = computed(() => this.view()?.scope.currency ?? 'EUR');
  protected readonly hasBalance = computed(() => this.state().pages.values().next().value?.balances !== undefined);
  private readonly isOfOneAccount = computed(() => this.view()?.account !== null);
  protected readonly columns = computed(() => lineColumns(this.currency(), !this.isOfOneAccount(), this.hasBalance()));
  protected readonly sizes = new ColumnSizes(() => 'lines');
  protected readonly tracks = computed(() =>
    this.columns()
      .map(({ id, width }) => (this.sizes.px(id) === undefined ? width : `${this.sizes.px(id)}px`))
      .join(' '),
  );
  private readonly heads = viewChildren<ElementRef<HTMLElement>>('head');
  protected readonly grid: GridModel = new GridModel(
    {
      rows: () => this.store.count(),
      columns: () => this.columns().length,
      reveal: (spot) => this.reveal(spot),
      page: () => Math.max(1, this.linesInView() - 1),
    },
    {
      enter: ({ row }) => this.open(row),
      copy: (clipboard, block) => this.copy(clipboard, block),
      widen: (column, steps) => this.sizes.widen(this.columns()[column]!.id, this.widthOf(column), steps),
    },
  );
  protected readonly placeOf = (row: number, column: number) => placeOf({ row, column });
  protected readonly params = computed(() => this.contexts.params() as Record<string, string | undefined>);
  protected readonly periods = computed(() => this.contexts.context()?.periods ?? []);
  protected readonly accounts = computed(() => this.params()['account'] ?? '');

  protected readonly title = computed(() => {
    const account = this.state().error ? undefined : this.view()?.account;
    return account ? `${account.number} ${account.name}` : 'Journal lines';
  });
  protected readonly subtitle = computed(() => {
    const view = this.view();
    // what a question could not be answered with is not said of it
    if (!view || this.state().error) return '';
    const { from, to } = this.params();
    const nameOf = (key: string | undefined) => this.periods().find((period) => period.key === key)?.name;
    const span = from || to ? [nameOf(from) ?? 'the beginning', nameOf(to) ?? 'now'] : [];
    const spanWords = span.length === 0 ? 'all periods' : span[0] === span[1] ? span[0] : span.join(' – ');
    const found = `${countText(view.count)} ${view.count === 1 ? 'line' : 'lines'}`;
    const lines = view.isCapped ? `the first ${found} of more; narrow the search` : found;
    const shown = view.count > LINES_SCROLLED ? `, the first ${countText(LINES_SCROLLED)} can be scrolled` : '';
    const accounts = view.accounts > 1 ? ` · ${countText(view.accounts)} accounts` : '';
    return `${view.scope.name} · ${view.scope.currency}${accounts} · ${spanWords} · ${lines}${shown}`;
  });
  protected readonly sums = computed(() => {
    const view = this.view();
    if (!view) return undefined;
    const words = (minor: number) => amountText(minor, this.currency());
    return { debit: words(view.debit), credit: words(view.credit), net: words(view.debit - view.credit) };
  });
  protected readonly dimensions = computed(() =>
    (this.params()['dim'] ?? '')
      .split(',')
      .filter(Boolean)
      .map((pair) => ({ pair, words: this.wordsOf(pair) })),
  );
  /** Values that count with what stands below them; each is taken off by itself. */
  protected readonly only = computed(() =>
    (this.params()['only'] ?? '')
      .split(',')
      .filter(Boolean)
      .map((part) => ({ part, words: demandText(part) })),
  );
  protected readonly journal = toSignal(
    toObservable(computed(() => Number(this.params()['journal'] ?? 0))).pipe(
      switchMap((id) => (id > 0 ? this.api.journal(id).pipe(catchError(() => of(undefined))) : of(undefined))),
    ),
  );

  /** The lines of what was selected beside, where there are any; undefined where there are none. */
  private readonly followed = toSignal(
    toObservable(this.beside.picked).pipe(
      switchMap((picked) => {
        const { figure, lines } = picked ?? {};
        if (lines || !figure) return of(lines && { ...lines, only: '' });
        return this.api.trace(figure.statement, figure.context, figure.address, 0).pipe(
          map(({ lines: found }) => (found?.scope === figure.context.scope ? found : undefined)),
          catchError(() => of(undefined)),
        );
      }),
    ),
  );

  /** Dimensions that have values to be asked for. */
  constructor() {
    this.typed.pipe(debounceTime(TYPED_WITHIN_MS), takeUntilDestroyed()).subscribe((text) => {
      this.contexts.setParams({ q: text.trim() === '' ? null : text, journal: null }, true);
    });
    effect(() => {
      const lines = this.followed();
      if (!lines) return;
      const { account, from, to, only } = lines;
      untracked(() => this.contexts.setParams({ ...NO_FILTER, account, from, to, only: only || null }, true));
    });
    // a new filter begins at its first line
    effect(() => {
      this.store.query();
      untracked(() => {
        this.grid.choose({ row: 0, column: 0 });
        this.viewport()?.scrollToIndex(0);
      });
    });
    effect(() => {
      const block = this.grid.block();
      const lines = block && block.bottom > block.top ? this.linesOf(block) : [];
      this.selection.words.set(selectionWords(lines, this.currency()));
    });
    inject(DestroyRef).onDestroy(() => this.selection.words.set(''));
  }

  /** Lines of a block that have come, as many as are summed at once. */
  private linesOf({ top, bottom }: Block): ListedLine[] {
    const last = Math.min(bottom, top + SELECTED_AT_MOST - 1);
    return Array.from({ length: last - top + 1 }, (_, at) => this.shown(top + at)).filter((line) => line !== undefined);
  }

  /** What one line shows; undefined while it is on its way. */
  protected shown(index: number): ListedLine | undefined {
    const line = this.store.lineAt(index);
    return line && { ...line, balance: this.store.balanceAt(index) };
  }

  protected scrolled(index: number): void {
    this.store.need(Math.max(0, index - AHEAD), index + 2 * AHEAD);
  }

  /** Letters of the search, which is made once no more come for a moment. */
  protected readonly typed = new Subject<string>();

  protected addOnly({ dimension, value }: DimensionValue): void {
    const others = this.only().filter(({ part }) => part.split(':')[0] !== dimension);
    const parts = [...others.map(({ part }) => part), `${dimension}:${encodeURIComponent(value)}`];
    this.contexts.setParams({ only: parts.join(','), journal: null });
  }

  protected dropOnly(part: string): void {
    const left = this.only().filter((each) => each.part !== part);
    this.contexts.setParams({ only: left.map((each) => each.part).join(',') || null, journal: null });
  }

  private open(index: number): void {
    const line = this.store.lineAt(index);
    if (!line) return;
    this.contexts.setParams({ journal: line.journalId });
    this.beside.pick({ account: line.account });
  }

  protected close(): void {
    this.contexts.setParams({ journal: null });
    this.grid.screen?.focus();
  }

  private copy(clipboard: DataTransfer, block: Block): void {
    const lines = this.linesOf(block);
    if (lines.length <= block.bottom - block.top)
      this.snackBar.open(
        `${countText(lines.length)} of the lines selected were copied. Export the list to have all of them.`,
        'Close',
      );
    const columns = this.columns();
    const text = (row: number, column: number) => columns[column]!.copied(lines[row - block.top]!);
    clipboard.setData('text/plain', textOfBlock({ ...block, bottom: block.top + lines.length - 1 }, text));
  }

  private reveal({ row }: Spot): void {
    this.store.need(row, row);
    const viewport = this.viewport();
    if (!viewport) return;
    const first = Math.ceil(viewport.measureScrollOffset() / LINE_HEIGHT);
    const inView = this.linesInView() - 1;
    if (row < first) viewport.scrollToIndex(row);
    else if (row > first + inView) viewport.scrollToIndex(row - inView);
  }

  private linesInView(): number {
    return Math.floor((this.viewport()?.getViewportSize() ?? 0) / LINE_HEIGHT);
  }

  private widthOf(column: number): number {
    return this.heads()[column]!.nativeElement.getBoundingClientRect().width;
  }

  protected sort(by: LineSort): void {
    const { sort, order } = this.params();
    const isSame = (sort ?? 'date') === by;
    this.contexts.setParams({ sort: by === 'date' ? null : by, order: isSame && order !== 'desc' ? 'desc' : null });
  }

  protected sortMark(by: LineSort): string {
    const { sort, order } = this.params();
    return (sort ?? 'date') === by ? (order === 'desc' ? ' ↓' : ' ↑') : '';
  }

  protected filterBy(name: string, value: string): void {
    this.contexts.setParams({ [name]: value.trim() || null, journal: null });
  }

  protected toggleLate(): void {
    this.filterBy('late', this.params()['late'] === '1' ? '' : '1');
  }

  protected addDimension(name: string, value: string): void {
    const held = this.dimensions().map(({ pair }) => pair);
    const pair = `${name}=${value}`;
    if (!held.includes(pair)) this.filterBy('dim', [...held, pair].join(','));
  }

  /** A partner is called by its name, which any of the lines says that are shown. */
  private wordsOf(pair: string): string {
    const attributes = this.view()?.lines.flatMap((line) => line.attributes) ?? [];
    const named = attributes.find(({ name, value }) => pair === `${name}=${value}`);
    const [name, value = ''] = pair.split('=');
    return `${inWords(name!)}: ${named?.text ?? inWords(value)}`;
  }

  protected dropDimension(pair: string): void {
    this.filterBy(
      'dim',
      this.dimensions()
        .map((held) => held.pair)
        .filter((held) => held !== pair)
        .join(','),
    );
  }

  protected exportUrl(format: 'csv' | 'xlsx'): string {
    return this.api.ledgerLinesUrl(this.store.query()!, format);
  }

  protected valueOf(event: Event): string {
    return (event.target as HTMLInputElement).value;
  }
}
