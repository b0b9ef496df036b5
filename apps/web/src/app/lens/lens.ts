import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  Injector,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { PanelEdge } from '../shared/panel-edge';
import { MatIconModule } from '@angular/material/icon';
import { MatButtonModule } from '@angular/material/button';
import type { CellView, StatementView } from '@margin-lens/contract';
import { allRows, exactFigure, newAxis } from '@margin-lens/core/shown';
import { ContextStore } from '../shared/context-store';
import { TabRow } from '../shared/tab-row';
import { questionOf } from '../statement/statement-store';
import { RemarksPanel } from '../remarks/remarks-panel';
import { RemarksStore } from '../remarks/remarks-store';
import { placesOf, quotablesOf, toExplainOf } from './lens-remarks';
import { BreakdownStore } from '../breakdown/breakdown-store';
import { FieldRanks, type RankedField } from './field-ranks';
import { LensStore } from './lens-store';
import { sentenceOf, unitAfter } from './lens-text';
import { RowChart } from './row-chart';
import { TracePath } from './trace-path';
import { Why } from './why';

type Tab = 'ranks' | 'trace' | 'why' | 'chart' | 'remarks';

/**
 * Explains the selected figure, level by level, down to the whole journal.
 *
 * Enter goes a level down, Backspace up, Escape leaves for the sheet and then closes. The path stands in the URL.
 */
@Component({
  selector: 'ml-lens',
  imports: [FieldRanks, PanelEdge, MatButtonModule, MatIconModule, RemarksPanel, RowChart, TabRow, TracePath, Why],
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
  private readonly breakdowns = inject(BreakdownStore);
  private readonly remarksPanel = viewChild(RemarksPanel);
  private readonly tracePath = viewChild(TracePath);
  private readonly injector = inject(Injector);

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
  protected readonly toExplain = computed(() => {
    const context = this.contexts.context();
    return context && toExplainOf(this.view(), this.cell(), context);
  });
  protected readonly quotables = computed(() => {
    const question = this.question();
    return question ? quotablesOf(this.view(), this.cell(), question) : [];
  });
  protected readonly unit = computed(() => this.contexts.context()?.unit ?? 1);
  protected readonly rowId = computed(() => this.cell().split('~')[0]!);
  protected readonly asked = signal<Tab>('trace');
  protected readonly tabs = computed((): { tab: Tab; name: string }[] => [
    { tab: 'ranks', name: 'Break down' },
    { tab: 'trace', name: 'Trace' },
    ...(this.change() ? [{ tab: 'why' as const, name: 'Why' }] : []),
    ...(this.view().breakdown ? [] : [{ tab: 'chart' as const, name: 'Chart' }]),
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

  constructor() {
    effect(() => {
      const context = this.contexts.context();
      if (!context || !this.head()) return;
      const { revision } = this.view();
      this.store.ask({ statement: context.statement, context: questionOf(context), revision, path: this.path() });
    });
  }

  /** Turns to what the figure could be broken down by. */
  showRanks(): void {
    this.asked.set('ranks');
  }

  protected breakDown(field: RankedField): void {
    const { breakdown, id } = this.view();
    if (breakdown) return this.breakdowns.add(field);
    const of = [this.rowId().split('.')[0]!];
    this.contexts.breakDown(id, { of, down: [newAxis(field)], across: [] });
  }

  /** Turns to the remarks, the keyboard in a new one. */
  showRemarks(): void {
    this.asked.set('remarks');
    afterNextRender({ read: () => this.remarksPanel()?.focus() }, { injector: this.injector });
  }

  /** Brings the keyboard to the first term, as soon as it is there. */
  focusTerms(): void {
    afterNextRender({ read: () => this.tracePath()?.focusTerms() }, { injector: this.injector });
  }

  protected open(address: string): void {
    this.contexts.setTrace([...this.path().slice(1), address]);
  }

  protected goUpTo(level: number): void {
    this.contexts.setTrace(this.path().slice(1, level + 1));
  }

  protected onKey(event: KeyboardEvent): void {
    if (event.key !== 'Escape') return;
    this.left.emit();
    event.preventDefault();
    event.stopPropagation();
  }
}

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
