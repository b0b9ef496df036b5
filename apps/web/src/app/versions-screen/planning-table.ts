import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { favourOfChange, type SheetRow, type ShownUnit } from '@margin-lens/core';
import { columnView, lineOf, widthsOf, type ColumnView } from './planning-table-view';
import { FIGURES_TYPE, inUnit } from '../shared/figures-clipboard';
import { KeysHelp } from '../shared/keys-help';
import { PlanningStore } from './planning-store';
import { sheetCommand, typingCommand, type SheetCommand } from './sheet-keys';
import { blockEntries, blockText, fillEntries, pastedEntries, type Block, type Span } from './sheet-block';
import { editText, type CellEntry, type SheetModel } from './sheet-model';
import { columnsInSight, HEAD_PX, mostRows, ROW_PX, rowsInSight, type SheetWindow } from './sheet-window';

/** Width of the small lines, in pixels; the style sheet of the table is fixed by these. */
const SPARK_PX = 68;

interface Place {
  row: number;
  column: number;
}

/** What is selected: the cell that has the keyboard, and the block around it. */
export interface SheetSelection {
  row: SheetRow;
  column: number;
  rows: readonly SheetRow[];
  columns: readonly number[];
}

/** The planning sheet: rows in a window, one input that sits on the active cell, and the habits of a spreadsheet. */
@Component({
  selector: 'ml-planning-table',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './planning-table.html',
  styleUrl: './planning-table.scss',
})
export class PlanningTable {
  readonly model = input.required<SheetModel>();
  readonly unit = input.required<ShownUnit>();
  readonly selected = output<SheetSelection | undefined>();

  protected readonly store = inject(PlanningStore);
  private readonly help = inject(KeysHelp);
  private readonly scroller = viewChild.required<ElementRef<HTMLElement>>('scroller');
  private readonly entry = viewChild.required<ElementRef<HTMLInputElement>>('entry');

  private readonly activeId = signal<{ row: string; column: number } | undefined>(undefined);
  private readonly anchor = signal<Place | undefined>(undefined);
  /** What is being typed; undefined while the keyboard moves about. */
  protected readonly typing = signal<{ text: string; caret: boolean } | undefined>(undefined);
  protected readonly filling = signal<Place | undefined>(undefined);
  private readonly window = signal<SheetWindow>(
    { top: 0, left: 0, width: 1280, height: 800 },
    { equal: (a, b) => a.top === b.top && a.left === b.left && a.width === b.width && a.height === b.height },
  );

  protected readonly columns = computed((): ColumnView[] => {
    const model = this.model();
    const periods = this.store.place()?.periods ?? [];
    const ordinals = this.store.ordinals();
    return model.columns.map((column, at) =>
      columnView(column, periods, ordinals, model.isActual(at), this.store.place()!.version.kind),
    );
  });
  protected readonly comparisons = computed(() => this.model().input.comparisons);
  protected readonly lastTotal = computed(() => this.model().columns.findLastIndex(({ grain }) => grain === 'year'));
  protected readonly widths = computed(() => widthsOf(this.model(), this.unit()));
  /** Rows are grids of their own, so that one that changes leaves the layout of the others as it is. */
  protected readonly gridColumns = computed(() => {
    const { label, columns, compared } = this.widths();
    const beside = this.comparisons().flatMap(() => [compared, compared]);
    return [label, ...columns, SPARK_PX, ...beside].map((px) => `${px}px`).join(' ');
  });
  /** The sum of all columns, so that the input sits exactly on its cell. */
  protected readonly tableWidth = computed(() => {
    const { label, columns, compared } = this.widths();
    return label + columns.reduce((a, b) => a + b, 0) + SPARK_PX + 2 * compared * this.comparisons().length;
  });
  protected readonly shown = computed(() => rowsInSight(this.window(), this.model().rows.length));
  /** Places of the columns that are drawn. */
  protected readonly drawn = computed(() => columnsInSight(this.window(), this.widths().label, this.widths().columns));
  /** Rows that scroll out are written anew as those that scroll in: each has a place among as many as can be drawn. */
  protected readonly rows = computed(() => {
    const { from, to } = this.shown();
    const places = mostRows(this.window());
    return this.model()
      .rows.slice(from, to)
      .map((row, index) => ({ row, at: from + index, place: (from + index) % places }));
  });
  protected readonly active = computed((): Place | undefined => {
    const id = this.activeId();
    const row = this.model().rows.findIndex((each) => each.id === id?.row);
    return id && row >= 0 ? { row, column: Math.min(id.column, this.model().columns.length - 1) } : undefined;
  });
  protected readonly block = computed(() => {
    const active = this.active();
    if (!active) return undefined;
    const to = this.filling() ?? this.anchor() ?? active;
    const span = (a: number, b: number) => ({ from: Math.min(a, b), to: Math.max(a, b) });
    const start = this.filling() ? (this.anchor() ?? active) : active;
    const rows = span(Math.min(active.row, start.row, to.row), Math.max(active.row, start.row, to.row));
    const columns = span(
      Math.min(active.column, start.column, to.column),
      Math.max(active.column, start.column, to.column),
    );
    return { rows, columns };
  });
  /** Where the input sits, in pixels inside the table. */
  protected readonly seat = computed(() => {
    const active = this.active();
    if (!active) return undefined;
    const { label, columns } = this.widths();
    const left = label + columns.slice(0, active.column).reduce((a, b) => a + b, 0);
    return { left, top: HEAD_PX + active.row * ROW_PX, width: columns[active.column]! };
  });
  protected readonly entryLabel = computed(() => {
    const active = this.active();
    if (!active) return 'Cell';
    const row = this.model().rows[active.row]!;
    const text = this.model().texts(row, this.unit())[active.column];
    return `${row.label}, ${this.columns()[active.column]!.title}: ${text || 'empty'}`;
  });

  constructor() {
    const observer = new ResizeObserver(() => this.onScroll());
    observer.observe(inject<ElementRef<HTMLElement>>(ElementRef).nativeElement);
    inject(DestroyRef).onDestroy(() => observer.disconnect());
    effect(() => {
      const [active, block, model] = [this.active(), this.block(), this.model()];
      untracked(() => {
        if (!active || !block) return this.selected.emit(undefined);
        const columns = Array.from(
          { length: block.columns.to - block.columns.from + 1 },
          (_, at) => block.columns.from + at,
        );
        this.selected.emit({
          row: model.rows[active.row]!,
          column: active.column,
          rows: model.rows.slice(block.rows.from, block.rows.to + 1),
          columns,
        });
      });
    });
  }

  protected onScroll(): void {
    const { scrollTop, scrollLeft, clientWidth, clientHeight } = this.scroller().nativeElement;
    this.window.set({ top: scrollTop, left: scrollLeft, width: clientWidth, height: clientHeight });
  }

  protected textsOf(row: SheetRow): readonly string[] {
    return this.model().texts(row, this.unit());
  }

  /** Each comparison's total, how far the version is from it, and whether that helps. */
  protected comparedTexts(row: SheetRow): { text: string; change: string; favour: string }[] {
    const model = this.model();
    const total = this.lastTotal();
    return this.comparisons().map((_, index) => {
      const [own, other] = [model.figures(row)[total] ?? null, model.compared(row, index)[total] ?? null];
      const text = model.text(row, other, this.unit());
      if (own === null || other === null || row.unit.kind === 'ratio') return { text, change: '', favour: '' };
      const change = own - other;
      return { text, change: model.text(row, change, this.unit()), favour: favourOfChange(row, change) ?? '' };
    });
  }

  protected line(row: SheetRow): string {
    return lineOf(this.model().figures(row), this.model().columns);
  }

  protected isIn(row: number, column: number): boolean {
    const block = this.block();
    return (
      !!block &&
      row >= block.rows.from &&
      row <= block.rows.to &&
      column >= block.columns.from &&
      column <= block.columns.to
    );
  }

  focus(): void {
    if (!this.active())
      this.moveTo(
        {
          row: this.model().rows.findIndex(({ compiled, leaves }) => compiled !== undefined || leaves.length > 0),
          column: Math.max(
            0,
            this.model().columns.findIndex((_, at) => !this.model().isActual(at)),
          ),
        },
        false,
      );
    this.entry().nativeElement.focus({ preventScroll: true });
  }

  /** Goes to the cell of a row; false where the sheet does not show it. */
  show(id: string, column: number): boolean {
    const row = this.model().rows.findIndex((each) => each.id === id);
    if (row < 0) return false;
    this.moveTo({ row, column }, false);
    this.entry().nativeElement.focus({ preventScroll: true });
    return true;
  }

  /** Goes to a cell; with `extend` the block grows to it. */
  private moveTo(place: Place, extend: boolean): void {
    const { rows, columns } = this.model();
    const within = {
      row: Math.max(0, Math.min(place.row, rows.length - 1)),
      column: Math.max(0, Math.min(place.column, columns.length - 1)),
    };
    if (!rows[within.row]) return;
    if (extend) this.anchor.set(within);
    else {
      this.anchor.set(undefined);
      this.activeId.set({ row: rows[within.row]!.id, column: within.column });
    }
    this.bringIntoView(within);
  }

  private bringIntoView({ row, column }: Place): void {
    const scroller = this.scroller().nativeElement;
    const { label, columns } = this.widths();
    const top = row * ROW_PX;
    if (top < scroller.scrollTop) scroller.scrollTop = top;
    const bottom = HEAD_PX + top + ROW_PX - scroller.clientHeight;
    if (bottom > scroller.scrollTop) scroller.scrollTop = bottom;
    const left = columns.slice(0, column).reduce((a, b) => a + b, 0);
    if (left < scroller.scrollLeft) scroller.scrollLeft = left;
    const fixed = column === columns.length - 1 ? 0 : columns[columns.length - 1]!; // the last total stays in sight
    const right = label + left + columns[column]! + fixed - scroller.clientWidth;
    if (right > scroller.scrollLeft) scroller.scrollLeft = right;
    this.onScroll();
  }

  protected onPointer(event: MouseEvent): void {
    const place = placeOf(event.target);
    if (!place) return;
    event.preventDefault();
    this.commit();
    if (event.detail === 2 && !event.shiftKey) return this.startTyping(true);
    this.moveTo(place, event.shiftKey);
    this.entry().nativeElement.focus({ preventScroll: true });
  }

  protected onDrag(event: MouseEvent): void {
    if (event.buttons !== 1) return;
    const place = placeOf(event.target);
    if (!place || !this.active()) return;
    if (this.filling()) this.filling.set(place);
    else this.moveTo(place, true);
  }

  protected startFill(event: MouseEvent): void {
    const block = this.block();
    if (!block) return;
    event.preventDefault();
    event.stopPropagation();
    this.filling.set({ row: block.rows.to, column: block.columns.to });
  }

  protected endFill(): void {
    if (!this.filling()) return;
    const target = this.block()!;
    this.filling.set(undefined);
    const source = this.block()!;
    this.fill(source, target);
    this.anchor.set({ row: target.rows.to, column: target.columns.to });
  }

  private fill(source: Block, target: Block): void {
    this.enter('Fill', 'filled', fillEntries(this.model(), source, target, this.unit()));
  }

  /** Fills the selection from its first column, as spreadsheets do; one column from the one to its left. */
  fillRight(): void {
    const block = this.block();
    if (block) this.fillFrom({ ...block, columns: firstOf(block.columns) }, block);
  }

  /** Fills the selection from its first row; one row from the one above it. */
  fillDown(): void {
    const block = this.block();
    if (block) this.fillFrom({ ...block, rows: firstOf(block.rows) }, block);
  }

  private fillFrom(source: Block, target: Block): void {
    if (source.rows.from >= 0 && source.columns.from >= 0) this.fill(source, target);
  }

  /** Writes what is being typed into every cell of the selection. */
  private fillTyped(): void {
    const [typing, block] = [this.typing(), this.block()];
    this.stopTyping();
    if (typing && block) this.enter('Fill', 'filled', blockEntries(this.model(), block, typing.text));
  }

  private enter(label: string, how: 'typed' | 'pasted' | 'filled' | 'cleared', entries: readonly CellEntry[]): void {
    const model = this.model();
    const places = entries.length > 1 ? entries.filter(({ row, column }) => model.isEditable(row, column)) : entries;
    this.store.enter(label, how, places);
  }

  protected onInput(text: string): void {
    this.typing.update((now) => ({ text, caret: now?.caret ?? false }));
  }

  private startTyping(caret: boolean): void {
    const active = this.active();
    if (!active) return;
    const row = this.model().rows[active.row]!;
    const field = this.entry().nativeElement;
    field.value = editText(row, this.model().figures(row)[active.column]!, this.unit());
    this.typing.set({ text: field.value, caret });
    field.focus({ preventScroll: true });
    field.select();
  }

  protected commit(): void {
    const [typing, active] = [this.typing(), this.active()];
    this.stopTyping();
    if (!typing || !active) return;
    const row = this.model().rows[active.row]!;
    this.enter(row.label, 'typed', [{ row, column: active.column, text: typing.text }]);
  }

  private stopTyping(): void {
    this.typing.set(undefined);
    this.entry().nativeElement.value = '';
  }

  protected onKey(event: KeyboardEvent): void {
    const typing = this.typing();
    const command = typing ? typingCommand(event, typing.caret) : sheetCommand(event);
    if (!command) {
      if (typing) event.stopPropagation();
      return;
    }
    if (command.do === 'clear_block' && !this.anchor()) return;
    this.obey(command);
    event.preventDefault();
    event.stopPropagation();
  }

  private obey(command: SheetCommand): void {
    switch (command.do) {
      case 'step':
        if (command.commits) this.commit();
        return this.step(command.rows, command.columns, command.extends);
      case 'go': {
        const { row = this.cursor().row, column } = command;
        return this.moveTo({ row, column }, command.extends);
      }
      case 'select_all':
        return this.selectAll();
      case 'edit':
        return this.startTyping(true);
      case 'stop_typing':
        return this.stopTyping();
      case 'clear_block':
        return this.anchor.set(undefined);
      case 'clear':
        return this.clear();
      case 'fill_right':
        return this.fillRight();
      case 'fill_down':
        return this.fillDown();
      case 'fill_typed':
        return this.fillTyped();
      case 'help':
        return this.help.open();
      case 'open':
        return this.toggleActive(command.opens);
      case 'undo':
        return this.store.undo();
      case 'redo':
        return this.store.redo();
    }
  }

  private cursor(): Place {
    return this.anchor() ?? this.active() ?? { row: 0, column: 0 };
  }

  private step(rows: number, columns: number, extend: boolean): void {
    const from = extend ? this.cursor() : (this.active() ?? { row: 0, column: 0 });
    this.moveTo({ row: from.row + rows, column: from.column + columns }, extend);
  }

  private selectAll(): void {
    const { rows, columns } = this.model();
    this.moveTo({ row: 0, column: 0 }, false);
    this.moveTo({ row: rows.length - 1, column: columns.length - 1 }, true);
  }

  clear(): void {
    const block = this.block();
    if (block) this.enter('Clear', 'cleared', blockEntries(this.model(), block, '0'));
  }

  private toggleActive(opens: boolean): void {
    const active = this.active();
    const row = active && this.model().rows[active.row];
    if (row?.opens !== undefined && row.isOpen !== opens) this.toggle(row);
  }

  protected toggle(row: SheetRow): void {
    if (row.opens === undefined) return;
    const id = row.opens;
    this.store.open.update((open) => new Set(open.has(id) ? [...open].filter((each) => each !== id) : [...open, id]));
  }

  protected onCopy(event: ClipboardEvent): void {
    const block = this.block();
    if (this.typing() || !block) return;
    event.preventDefault();
    event.clipboardData?.setData('text/plain', blockText(this.model(), block, this.unit()));
    event.clipboardData?.setData(FIGURES_TYPE, blockText(this.model(), block, 1));
    if (event.type === 'cut') this.clear();
  }

  protected onPaste(event: ClipboardEvent): void {
    const [block, active] = [this.block(), this.active()];
    if (this.typing() || !block || !active) return;
    event.preventDefault();
    const data = event.clipboardData;
    const own = data?.getData(FIGURES_TYPE);
    const pasted = pastedEntries(
      this.model(),
      block,
      own ? inUnit(own, this.unit()) : (data?.getData('text/plain') ?? ''),
    );
    if (pasted.problem !== undefined) return this.store.refuse(pasted.problem);
    const { entries, size } = pasted;
    this.enter('Paste', 'pasted', entries);
    if (size.rows > 1 || size.columns > 1)
      this.anchor.set({ row: block.rows.from + size.rows - 1, column: block.columns.from + size.columns - 1 });
  }
}

/** The first place of a span that is filled from; of a single place the one before it. */
const firstOf = ({ from, to }: Span): Span => {
  const first = to > from ? from : from - 1;
  return { from: first, to: first };
};

function placeOf(target: EventTarget | null): Place | undefined {
  const cell = (target as HTMLElement | null)?.closest<HTMLElement>('[data-cell]');
  const [row, column] = cell?.dataset['cell']?.split(',').map(Number) ?? [];
  return row === undefined || column === undefined ? undefined : { row, column };
}
