import { CdkVirtualScrollViewport, ScrollingModule } from '@angular/cdk/scrolling';
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
import { EmptyState } from '../shared/empty-state';
import { Screen } from '../shared/screen';
import { MatIconModule } from '@angular/material/icon';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatButtonModule } from '@angular/material/button';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatMenuModule } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import { catchError, of, switchMap } from 'rxjs';
import type { LineSort } from '@margin-lens/contract';
import { dayShort } from '@margin-lens/core/shown';
import { JournalCard } from '../lens/journal-card';
import { Api } from '../shared/api';
import { ErrorState } from '../shared/error-state';
import { ContextStore } from '../shared/context-store';
import { SelectionSum } from '../shared/selection-sum';
import { amountText, carriedWords, NO_LINES, selectionWords } from './ledger-text';
import { LINES_SCROLLED, LinesStore } from './lines-store';

/** Height of a line, in pixels; the stylesheet says the same. */
export const LINE_HEIGHT = 24;
/** Lines fetched beyond what is in view. */
const AHEAD = 60;
/** Lines that can be selected and summed at once. */
const SELECTED_AT_MOST = 5000;

/** Journal lines of a filter, a line's whole journal beside them, and the sum of what is selected in the foot. */
@Component({
  selector: 'ml-lines-screen',
  imports: [
    EmptyState,
    ErrorState,
    JournalCard,
    MatButtonModule,
    MatCheckboxModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    MatMenuModule,
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
  private readonly selection = inject(SelectionSum);
  protected readonly contexts = inject(ContextStore);
  protected readonly store = inject(LinesStore);
  protected readonly LINE_HEIGHT = LINE_HEIGHT;
  protected readonly NO_LINES = NO_LINES;

  private readonly viewport = viewChild(CdkVirtualScrollViewport);
  private readonly list = viewChild<ElementRef<HTMLElement>>('list');
  protected readonly active = signal(0);
  private readonly anchor = signal<number | undefined>(undefined);

  protected readonly state = this.store.state;
  protected readonly view = computed(() => this.state().view);
  /** One empty item a line; what stands in it is looked up when it is drawn. */
  protected readonly items = computed(() => new Array<undefined>(this.store.count()));
  protected readonly currency = computed(() => this.view()?.scope.currency ?? 'EUR');
  protected readonly hasBalance = computed(() => this.state().pages.values().next().value?.balances !== undefined);
  protected readonly hasAccount = computed(() => this.view()?.account !== null);
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
    const found = `${view.count.toLocaleString('en-GB')} ${view.count === 1 ? 'line' : 'lines'}`;
    const lines = view.isCapped ? `the first ${found} of more; narrow the search` : found;
    const shown =
      view.count > LINES_SCROLLED ? `, the first ${LINES_SCROLLED.toLocaleString('en-GB')} can be scrolled` : '';
    return `${view.scope.name} · ${view.scope.currency} · ${spanWords} · ${lines}${shown}`;
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
      .map((pair) => ({ pair, words: pair.replace('=', ': ').replaceAll('_', ' ') })),
  );
  protected readonly journal = toSignal(
    toObservable(computed(() => Number(this.params()['journal'] ?? 0))).pipe(
      switchMap((id) => (id > 0 ? this.api.journal(id).pipe(catchError(() => of(undefined))) : of(undefined))),
    ),
  );

  constructor() {
    // a new filter begins at its first line
    effect(() => {
      this.store.query();
      untracked(() => {
        this.active.set(0);
        this.anchor.set(undefined);
        this.viewport()?.scrollToIndex(0);
      });
    });
    effect(() => {
      const [from, to] = this.selected();
      const lines = [];
      for (let index = from; index <= Math.min(to, from + SELECTED_AT_MOST); index++) {
        const line = this.store.lineAt(index);
        if (line) lines.push(line);
      }
      this.selection.words.set(this.anchor() === undefined ? '' : selectionWords(lines, this.currency()));
    });
    inject(DestroyRef).onDestroy(() => this.selection.words.set(''));
  }

  private readonly selected = computed((): [from: number, to: number] => {
    const [a, b] = [this.anchor() ?? this.active(), this.active()];
    return a < b ? [a, b] : [b, a];
  });

  protected isSelected(index: number): boolean {
    const [from, to] = this.selected();
    return index >= from && index <= to;
  }

  /** What one line shows; undefined while it is on its way. */
  protected shown(index: number) {
    const line = this.store.lineAt(index);
    if (!line) return undefined;
    const balance = this.store.balanceAt(index);
    return {
      ...line,
      day: dayShort(line.date),
      carries: carriedWords(line),
      debitText: line.debit === 0 ? '' : amountText(line.debit, this.currency()),
      creditText: line.credit === 0 ? '' : amountText(line.credit, this.currency()),
      quantityText: line.quantity === 0 ? '' : String(line.quantity / 10_000),
      balanceText: balance === undefined ? '' : amountText(balance, this.currency()),
    };
  }

  protected scrolled(index: number): void {
    this.store.need(Math.max(0, index - AHEAD), index + 2 * AHEAD);
  }

  protected press(event: MouseEvent, index: number): void {
    this.moveTo(index, event.shiftKey);
  }

  protected open(index: number): void {
    const line = this.store.lineAt(index);
    if (line) this.contexts.setParams({ journal: line.journalId });
  }

  protected close(): void {
    this.contexts.setParams({ journal: null });
    this.list()?.nativeElement.focus();
  }

  protected onKey(event: KeyboardEvent): void {
    const page = Math.floor((this.viewport()?.getViewportSize() ?? 0) / LINE_HEIGHT) - 1;
    const last = this.store.count() - 1;
    const target: Record<string, number> = {
      ArrowUp: this.active() - 1,
      ArrowDown: this.active() + 1,
      PageUp: this.active() - page,
      PageDown: this.active() + page,
      Home: 0,
      End: last,
    };
    const index = target[event.key];
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === 'Enter') this.open(this.active());
    else if (event.key === 'Escape' && this.params()['journal']) this.close();
    else if (event.key === 'Escape') this.anchor.set(undefined);
    else if (index !== undefined) this.moveTo(Math.min(last, Math.max(0, index)), event.shiftKey);
    else return;
    event.preventDefault();
  }

  private moveTo(index: number, extends_: boolean): void {
    // Tab lands on a line, which may go as the list scrolls; from there on the list has the keyboard
    this.list()?.nativeElement.focus({ preventScroll: true });
    this.anchor.set(extends_ ? (this.anchor() ?? this.active()) : undefined);
    this.active.set(index);
    this.store.need(index, index);
    const viewport = this.viewport();
    if (!viewport) return;
    const first = Math.ceil(viewport.measureScrollOffset() / LINE_HEIGHT);
    const inView = Math.floor(viewport.getViewportSize() / LINE_HEIGHT) - 1;
    if (index < first) viewport.scrollToIndex(index);
    else if (index > first + inView) viewport.scrollToIndex(index - inView);
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
    if (name === 'partner' || name === 'flow') return this.filterBy('q', value);
    if (!held.includes(pair)) this.filterBy('dim', [...held, pair].join(','));
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
