import {
  afterNextRender,
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  Injector,
  input,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { PanelEdge } from '../shared/panel-edge';
import { takesLetters } from '../shared/takes-letters';
import { MatIconModule } from '@angular/material/icon';
import { MatButtonModule } from '@angular/material/button';
import type { CellView, StatementView } from '@margin-lens/contract';
import { exactFigure } from '@margin-lens/core/shown';
import { ContextStore } from '../shared/context-store';
import { TabRow } from '../shared/tab-row';
import { questionOf } from '../statement/statement-store';
import { allRows } from '@margin-lens/core/shown';
import { RemarksPanel } from '../remarks/remarks-panel';
import { RemarksStore } from '../remarks/remarks-store';
import { placesOf, quotablesOf } from './lens-remarks';
import { JournalCard } from './journal-card';
import { LensStore, type LensStep } from './lens-store';
import { type Crumb, crumbsOf, sentenceOf, unitAfter } from './lens-text';
import { RowChart } from './row-chart';
import { TraceLevel } from './trace-level';
import { Why } from './why';

type Tab = 'trace' | 'why' | 'chart' | 'remarks';

/**
 * Explains the selected figure, level by level, down to the whole journal.
 *
 * Enter goes a level down, Backspace up, Escape leaves for the sheet and then closes. The path stands in the URL.
 */
@Component({
  selector: 'ml-lens',
  imports: [PanelEdge, JournalCard, MatButtonModule, MatIconModule, RemarksPanel, RowChart, TabRow, TraceLevel, Why],
  providers: [LensStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './lens.html',
  styleUrl: './lens.scss',
  host: { role: 'complementary', 'aria-label': 'Lens', '(keydown)': 'onKey($event)' },
})
export class Lens {
  readonly cell = input.required<string>();
  readonly view = input.required<StatementView>();
  /** Its own width in pixels. */
  readonly width = input.required<number>();
  readonly closed = output();
  readonly left = output();
  readonly resized = output<number>();

  private readonly contexts = inject(ContextStore);
  protected readonly store = inject(LensStore);
  private readonly remarks = inject(RemarksStore);
  private readonly remarksPanel = viewChild(RemarksPanel);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly injector = inject(Injector);
  private readonly wantsFocus = signal(false);

  protected readonly state = this.store.state;
  private readonly path = computed(() => [`cell~${this.cell()}`, ...(this.contexts.context()?.trace ?? [])]);

  /** The selected cell's place and figure, from the statement itself, so that it stands at once. */
  protected readonly head = computed(() => {
    const [rowId, columnId] = this.cell().split('~');
    const { columns } = this.view();
    const row = allRows(this.view()).find(({ id }) => id === rowId);
    const index = columns.findIndex(({ id }) => id === columnId);
    const cell = row?.cells[index];
    const column = columns[index];
    if (!row || !cell || !column) return undefined;
    const number = cell.amount === null && !cell.word ? 'No figure' : exactFigure(cell);
    return {
      place: [row.label, column.blockLabel, column.label].filter(Boolean).join(' · '),
      number,
      unit: unitAfter(cell),
      sentence: sentenceOf(cell, percentBeside(columns, row.cells, index)),
      favour: cell.favour,
      dates: column.dates,
    };
  });
  /** The difference that Why explains: the selected one, or the one beside a selected percentage. */
  protected readonly change = computed(() => {
    const [rowId, columnId] = this.cell().split('~');
    const { columns } = this.view();
    const selected = columns.find(({ id }) => id === columnId);
    if (selected?.kind === 'difference') return this.cell();
    const beside =
      selected?.kind === 'percent_change'
        ? columns.find(({ block, kind }) => block === selected.block && kind === 'difference')
        : undefined;
    return beside && `${rowId}~${beside.id}`;
  });
  /** How many remarks the row and its cells have. */
  private readonly remarked = computed(() => this.remarks.remarks().filter(({ row }) => row === this.rowId()).length);
  protected readonly remarkPage = computed(() => {
    const { scope, asAt, id } = this.view();
    return { scope: scope.code, period: asAt.key, statement: id };
  });
  protected readonly remarkPlaces = computed(() => placesOf(this.view(), this.cell()));
  protected readonly quotables = computed(() => {
    const question = this.question();
    return question ? quotablesOf(this.view(), this.cell(), question) : [];
  });
  protected readonly unit = computed(() => this.contexts.context()?.unit ?? 1);
  protected readonly rowId = computed(() => this.cell().split('~')[0]!);
  protected readonly asked = signal<Tab>('trace');
  protected readonly tabs = computed((): { tab: Tab; name: string }[] => [
    { tab: 'trace', name: 'Trace' },
    ...(this.change() ? [{ tab: 'why' as const, name: 'Why' }] : []),
    { tab: 'chart', name: 'Chart' },
    { tab: 'remarks', name: this.remarked() > 0 ? `Remarks ${this.remarked()}` : 'Remarks' },
  ]);
  /** The tab that was asked for, where the selected cell has it. */
  protected readonly tab = computed(() =>
    this.tabs().some(({ tab }) => tab === this.asked()) ? this.asked() : 'trace',
  );
  protected readonly question = computed(() => {
    const context = this.contexts.context();
    return context && questionOf(context);
  });
  protected readonly crumbs = computed<Crumb[]>(() => crumbsOf(this.state().steps.slice(0, -1)));
  protected readonly last = computed<LensStep | undefined>(() => this.state().steps[this.state().steps.length - 1]);

  constructor() {
    effect(() => {
      const context = this.contexts.context();
      if (!context || !this.head()) return;
      const { revision } = this.view();
      this.store.ask({ statement: context.statement, context: questionOf(context), revision, path: this.path() });
    });
    // after rendering: the terms must be those of the level that has arrived
    afterRenderEffect(() => {
      if (this.state().isLoading || !this.wantsFocus()) return;
      untracked(() => this.wantsFocus.set(false));
      this.focusFirst();
    });
  }

  /** Turns to the remarks, the keyboard in a new one. */
  showRemarks(): void {
    this.asked.set('remarks');
    afterNextRender({ read: () => this.remarksPanel()?.focus() }, { injector: this.injector });
  }

  /** Brings the keyboard to the first term, as soon as it is there. */
  focusTerms(): void {
    this.wantsFocus.set(true);
  }

  protected open(address: string): void {
    this.wantsFocus.set(true);
    this.contexts.setTrace([...this.path().slice(1), address]);
  }

  protected goUpTo(level: number): void {
    this.wantsFocus.set(true);
    this.contexts.setTrace(this.path().slice(1, level + 1));
  }

  protected onKey(event: KeyboardEvent): void {
    if (isTyping(event)) return;
    if (event.key === 'Backspace' && this.path().length > 1) this.goUpTo(this.path().length - 2);
    else if (event.key === 'Escape') this.left.emit();
    else if (event.key === 'ArrowDown') this.moveFocus(1);
    else if (event.key === 'ArrowUp') this.moveFocus(-1);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  private terms(): HTMLElement[] {
    return [...this.host.nativeElement.querySelectorAll<HTMLElement>('[data-term]')];
  }

  private moveFocus(step: 1 | -1): void {
    const terms = this.terms();
    const at = terms.indexOf(document.activeElement as HTMLElement);
    terms[Math.min(terms.length - 1, Math.max(0, at + step))]?.focus();
  }

  private focusFirst(): void {
    const first = this.terms()[0] ?? this.host.nativeElement.querySelector<HTMLElement>('[data-lens-body]');
    first?.focus();
  }
}

/** Keys that a field takes for itself; Escape leaves it. */
const isTyping = ({ target, key }: KeyboardEvent): boolean => key !== 'Escape' && takesLetters(target);

/** For a change in money, the cell of the percentage that stands with it in the same block. */
function percentBeside(
  columns: StatementView['columns'],
  cells: StatementView['rows'][number]['cells'],
  index: number,
): CellView | undefined {
  const { kind, block } = columns[index]!;
  if (kind !== 'difference') return undefined;
  return cells[columns.findIndex((column) => column.block === block && column.kind === 'percent_change')];
}
