import { NgTemplateOutlet } from '@angular/common';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { MatMenuModule } from '@angular/material/menu';
import { blockText, ownReadings, type Block, type ShownUnit } from '@margin-lens/core/shown';
import type { StatementView } from '@margin-lens/contract';
import type { RemarkState } from '../remarks/remark-text';
import { FIGURES_TYPE } from '../shared/figures-clipboard';
import { WIDTH } from '../statement/column-widths';
import type { ShownStatementTable } from '../statement/statement-view';

const NEAREST: ScrollIntoViewOptions = { block: 'nearest', inline: 'nearest' };

interface Spot {
  row: number;
  column: number;
}

/** The place of the cell that holds an element. */
function spotOf(target: EventTarget | null): Spot | undefined {
  const place = target instanceof HTMLElement ? target.dataset['spot'] : undefined;
  const [row, column] = place?.split('.').map(Number) ?? [];
  return row === undefined || column === undefined ? undefined : { row, column };
}

/**
 * The statement as a real table: one tab stop, arrows move, Shift selects a block, Enter traces.
 *
 * Selection is by ids (`row~column`), so that it stays where it was when the figures change.
 */
@Component({
  selector: 'ml-statement-table',
  imports: [MatMenuModule, NgTemplateOutlet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './statement-table.html',
  styleUrl: './statement-table.scss',
  host: { '(copy)': 'copy($event)' },
})
export class StatementTable {
  readonly table = input.required<ShownStatementTable>();
  readonly view = input.required<StatementView>();
  readonly unit = input.required<ShownUnit>();
  readonly selected = input<string>();

  readonly dimensions = input<readonly string[]>([]);
  readonly opened = input<readonly string[]>([]);
  readonly folded = input<readonly string[]>([]);
  /** Where remarks are, by row and by `row~column`. */
  readonly remarked = input<ReadonlyMap<string, RemarkState>>(new Map());

  readonly fold = output<string>();
  readonly layOpen = output<{ row: string; by: string | undefined }>();
  readonly select = output<string>();
  readonly trace = output<string>();
  readonly light = output<string | undefined>();

  protected readonly WIDTH = WIDTH;
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly anchor = signal<Spot | undefined>(undefined);
  private pressedAt: PointerEvent | undefined;

  /** Cells chosen that the address has not followed to yet, in order. */
  private underWay: (string | undefined)[] = [];
  /** The selected cell: that of the address, or the one chosen since, which the address is about to follow. */
  private readonly chosen = linkedSignal<string | undefined, string | undefined>({
    source: () => this.selected(),
    computation: (selected, previous) => {
      const at = this.underWay.indexOf(selected);
      this.underWay = at < 0 ? [] : this.underWay.slice(at + 1);
      return this.underWay.length > 0 ? previous?.value : selected;
    },
  });
  protected readonly spot = computed(() => this.spotAt(this.chosen()));

  private spotAt(id: string | undefined): Spot | undefined {
    const [rowId, columnId] = (id ?? '').split('~');
    const { rows, columns } = this.table();
    const row = rows.findIndex((each) => each.id === rowId);
    const column = columns.findIndex(({ head }) => head.id === columnId);
    return row < 0 || column < 0 || rows[row]!.cells.length === 0 ? undefined : { row, column };
  }

  /** The cell that was selected last, by its id; it is where the keyboard comes back to. */
  private readonly lastChosen = linkedSignal<string | undefined, string | undefined>({
    source: () => this.chosen(),
    computation: (chosen, previous) => chosen ?? previous?.value,
  });
  /** The cell that Tab reaches: the selected one, else the one that was, else the first that can be selected. */
  protected readonly entry = computed<Spot>(
    () => this.spotAt(this.lastChosen()) ?? { row: Math.max(0, this.nextRow(-1, 1)), column: 0 },
  );
  protected readonly block = computed<Block | undefined>(() => {
    const [a, b] = [this.spot(), this.anchor() ?? this.spot()];
    return a && b
      ? {
          top: Math.min(a.row, b.row),
          bottom: Math.max(a.row, b.row),
          left: Math.min(a.column, b.column),
          right: Math.max(a.column, b.column),
        }
      : undefined;
  });

  constructor() {
    // a statement that comes up has the keyboard, unless somebody is at work elsewhere
    afterNextRender(() => {
      if (document.activeElement === document.body) this.focusSelected();
    });
    effect(() => this.light.emit(this.lit()));
    effect(() => {
      const spot = this.spot();
      if (spot) queueMicrotask(() => this.cellAt(spot)?.scrollIntoView(NEAREST));
    });
  }

  private readonly lit = computed(() => {
    const spot = this.spot();
    return spot && this.table().columns[spot.column]!.head.id;
  });

  protected openedBy(row: string): string | undefined {
    return this.opened()
      .find((each) => each.startsWith(`${row}:`))
      ?.slice(row.length + 1);
  }

  /** Space on a cell folds its total, or lays its accounts open. */
  private unfold(spot: Spot): void {
    const row = this.table().rows[spot.row]!;
    if (row.canFold) this.fold.emit(row.id);
    else if (row.canOpen) this.layOpen.emit({ row: row.id, by: this.openedBy(row.id) ? undefined : 'accounts' });
  }

  protected isInBlock(row: number, column: number): boolean {
    const block = this.block();
    return !!block && row >= block.top && row <= block.bottom && column >= block.left && column <= block.right;
  }

  /** A row's name selects the row where it was selected last, else its first figure. */
  protected pressLabel(event: PointerEvent, row: number): void {
    if (event.button !== 0 || this.table().rows[row]!.cells.length === 0) return;
    event.preventDefault();
    this.moveTo({ row, column: this.entry().column }, event.shiftKey);
  }

  protected press(event: PointerEvent, row: number, column: number): void {
    if (event.button !== 0) return;
    this.pressedAt = event;
    this.moveTo({ row, column }, event.shiftKey);
  }

  /** Extends the block while the pointer moves; a sheet that moves under a pointer at rest extends nothing. */
  protected drag(event: PointerEvent, row: number, column: number): void {
    const from = this.pressedAt;
    if (from && (event.clientX !== from.clientX || event.clientY !== from.clientY)) this.moveTo({ row, column }, true);
  }

  protected release(): void {
    this.pressedAt = undefined;
  }

  protected onKey(event: KeyboardEvent): void {
    // the focused cell, not the address: the next key may come before the address has followed
    const spot = spotOf(event.target) ?? this.entry();
    const lastColumn = this.table().columns.length - 1;
    const moves: Record<string, () => Spot> = {
      ArrowUp: () => ({ ...spot, row: this.nextRow(spot.row, -1) }),
      ArrowDown: () => ({ ...spot, row: this.nextRow(spot.row, 1) }),
      ArrowLeft: () => ({ ...spot, column: Math.max(0, spot.column - 1) }),
      ArrowRight: () => ({ ...spot, column: Math.min(lastColumn, spot.column + 1) }),
      Home: () => ({ ...spot, column: 0 }),
      End: () => ({ ...spot, column: lastColumn }),
    };
    const hasModifier = event.ctrlKey || event.metaKey || event.altKey;
    if (hasModifier) return;
    if (event.key === 'Enter') this.trace.emit(this.idOf(spot));
    else if (event.key === ' ') this.unfold(spot);
    else if (moves[event.key]) this.moveTo(moves[event.key]!(), event.shiftKey, spot);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  /** The next row in a direction that has cells; the same row at the end. */
  private nextRow(from: number, step: 1 | -1): number {
    const { rows } = this.table();
    for (let row = from + step; row >= 0 && row < rows.length; row += step) if (rows[row]!.cells.length > 0) return row;
    return from;
  }

  private moveTo(spot: Spot, keepsAnchor: boolean, before = this.spot()): void {
    this.anchor.set(keepsAnchor ? (this.anchor() ?? before ?? spot) : undefined);
    const id = this.idOf(spot);
    this.underWay.push(id);
    this.chosen.set(id);
    this.select.emit(id);
    queueMicrotask(() => this.focusSpot(spot));
  }

  /** Id of the selected cell, or of the one that Tab reaches. */
  selectedId(): string {
    return this.idOf(this.entry());
  }

  /** Brings the keyboard to the selected cell. */
  focusSelected(): void {
    this.focusSpot(this.entry());
  }

  private cellAt({ row, column }: Spot): HTMLElement | null {
    return this.host.nativeElement.querySelector<HTMLElement>(`[data-spot="${row}.${column}"]`);
  }

  private focusSpot(spot: Spot): void {
    const cell = this.cellAt(spot);
    cell?.focus({ preventScroll: true });
    cell?.scrollIntoView(NEAREST);
  }

  private idOf({ row, column }: Spot): string {
    const { rows, columns } = this.table();
    return `${rows[row]!.id}~${columns[column]!.head.id}`;
  }

  protected copy(event: ClipboardEvent): void {
    const block = this.block();
    if (!block) return;
    event.clipboardData?.setData('text/plain', blockText(this.table().page, block, this.unit()));
    event.clipboardData?.setData(FIGURES_TYPE, ownReadings(this.table().page, block));
    event.preventDefault();
  }
}
