import { ScrollingModule, CdkVirtualScrollViewport } from '@angular/cdk/scrolling';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  Injector,
  input,
  model,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { isNew, type SheetDraft } from './sheet-draft';
import {
  blockOf,
  cellsOfText,
  isInside,
  pastedBlock,
  textOfBlock,
  typedText,
  type CellEdit,
  type DraftRow,
  type SheetColumn,
  type Spot,
} from './sheet-model';

/** Finding of a row by column; `''` for the row as a whole. */
export type RowProblems = ReadonlyMap<number, ReadonlyMap<string, string>>;

const GHOST_ID = 0;
const STEPS: Record<string, readonly [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
  PageUp: [-20, 0],
  PageDown: [20, 0],
};

let sheets = 0;

/**
 * Rows and columns of text cells, edited as in a spreadsheet: type over, F2, Enter, Tab, Delete, ranges by shift and
 * mouse, copy, cut and paste of blocks, filling down by the handle or Alt ↓, undo and redo, filters by column. What is
 * typed goes into the draft; the host saves it.
 */
@Component({
  selector: 'ml-sheet',
  imports: [ScrollingModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './sheet.html',
  styleUrl: './sheet.scss',
  host: { '(document:mouseup)': 'release()' },
})
export class Sheet {
  readonly draft = input.required<SheetDraft>();
  readonly columns = input.required<readonly SheetColumn[]>();
  readonly label = input.required<string>();
  /** Cells of a row, shown or not. */
  readonly cellCount = input.required<number>();
  readonly problems = input<RowProblems>(new Map());
  /** Offers an empty row at the end, which becomes a row once something is written in it. */
  readonly canAdd = input(true);
  /** Rows that are shown besides the filters by column. */
  readonly onlyRows = input<((row: DraftRow) => boolean) | undefined>(undefined);
  readonly hasFilters = input(true);
  readonly filters = model<Record<string, string>>({});
  /** The row of the active cell; undefined in the empty row at the end. */
  readonly activeRow = output<DraftRow | undefined>();

  protected readonly ROW_HEIGHT = 24;
  private readonly number = sheets++;
  private readonly injector = inject(Injector);
  private readonly grid = viewChild.required<ElementRef<HTMLElement>>('grid');
  private readonly viewportRef = viewChild.required(CdkVirtualScrollViewport);
  private readonly editor = viewChild<ElementRef<HTMLInputElement>>('editor');

  protected readonly active = signal<Spot>({ row: 0, column: 0 });
  private readonly anchor = signal<Spot>({ row: 0, column: 0 });
  protected readonly editing = signal<string | undefined>(undefined);
  private dragging: 'select' | 'fill' | undefined;

  /** Rows by identity, so that a row stays while what it was filtered by is changed. */
  private readonly visibleIds = computed(() => {
    const [filters, only] = [this.filters(), this.onlyRows()];
    this.draft().structure();
    const wanted = Object.entries(filters).filter(([, text]) => text !== '');
    return untracked(() =>
      this.draft()
        .rows()
        .filter(
          (row) =>
            (only?.(row) ?? true) &&
            wanted.every(([name, text]) => {
              const at = this.columns().findIndex((column) => column.name === name);
              return at < 0 || isNew(row) || this.textOf(row, at).toLowerCase().includes(text.toLowerCase());
            }),
        )
        .map(({ id }) => id),
    );
  });
  readonly visible = computed(() => {
    const byId = new Map(
      this.draft()
        .rows()
        .map((row) => [row.id, row]),
    );
    return this.visibleIds().flatMap((id) => byId.get(id) ?? []);
  });
  private readonly ghost = computed((): DraftRow => ({
    id: GHOST_ID,
    base: undefined,
    cells: this.emptyCells(),
    isRemoved: false,
  }));
  protected readonly shown = computed(() => (this.canAdd() ? [...this.visible(), this.ghost()] : this.visible()));
  protected readonly tracks = computed(() =>
    this.columns()
      .map(({ width }) => width)
      .join(' '),
  );
  /** Width in pixels below which the sheet scrolls sideways. */
  protected readonly least = computed(() =>
    this.columns().reduce((sum, { width }) => sum + Number(/(\d+)px/.exec(width)?.[1] ?? 0), 0),
  );
  private readonly block = computed(() => blockOf(this.anchor(), this.active()));

  constructor() {
    effect(() => {
      const row = this.shown()[this.active().row];
      this.activeRow.emit(row && row.id !== GHOST_ID ? row : undefined);
    });
  }

  protected get viewport(): CdkVirtualScrollViewport {
    return this.viewportRef();
  }

  /** Ids of the rows that the selection touches. */
  selectedIds(): Set<number> {
    const { top, bottom } = this.block();
    return new Set(
      this.shown()
        .slice(top, bottom + 1)
        .map(({ id }) => id)
        .filter((id) => id !== GHOST_ID),
    );
  }

  focus(): void {
    this.grid().nativeElement.focus({ preventScroll: true });
  }

  /** Moves to the empty row at the end. */
  goToEnd(): void {
    this.filters.set({});
    this.move({ row: this.shown().length - 1, column: 0 }, false);
    this.focus();
  }

  protected cellId = (row: number, column: number) => `sheet${this.number}-${row}-${column}`;
  protected listId = ({ name }: SheetColumn) => `sheet${this.number}-${name}`;
  protected isGhost = ({ id }: DraftRow) => id === GHOST_ID;
  protected offers = ({ choices, suggestions }: SheetColumn) => choices ?? suggestions;
  protected isActive = (row: number, column: number) => this.active().row === row && this.active().column === column;
  protected isSelected = (row: number, column: number) => isInside(this.block(), row, column);
  protected isCorner = (row: number, column: number) => row === this.block().bottom && column === this.block().right;

  protected textOf(row: DraftRow, at: number): string {
    const column = this.columns()[at]!;
    return column.shows ? (row.id === GHOST_ID ? '' : column.shows(row)) : (row.cells[column.at] ?? '');
  }

  protected isWritable(row: DraftRow, at: number): boolean {
    const column = this.columns()[at]!;
    return !column.shows && !(column.isKey && row.base !== undefined) && !row.isRemoved;
  }

  protected isCellChanged(row: DraftRow, at: number): boolean {
    const { shows, at: place } = this.columns()[at]!;
    return row.id !== GHOST_ID && !shows && row.base?.[place] !== row.cells[place] && row.cells[place] !== '';
  }

  protected problemOf({ id }: DraftRow, column: string): string {
    const found = this.problems().get(id);
    return found?.get(column) ?? (this.columns()[0]!.name === column ? found?.get('') : undefined) ?? '';
  }

  protected filterBy(name: string, event: Event): void {
    this.filters.update((filters) => ({ ...filters, [name]: (event.target as HTMLInputElement).value }));
    this.move({ row: 0, column: this.active().column }, false);
  }

  protected press(event: MouseEvent, row: number, column: number): void {
    if (event.button !== 0) return;
    if (this.editing() !== undefined) this.commit();
    event.preventDefault();
    this.dragging = 'select';
    this.move({ row, column }, event.shiftKey);
    this.focus();
  }

  protected pressHandle(event: MouseEvent): void {
    event.preventDefault();
    event.stopPropagation();
    this.dragging = 'fill';
    const { top, left, right } = this.block();
    this.anchor.set({ row: top, column: left });
    this.active.set({ row: this.block().bottom, column: right });
  }

  protected drag(event: MouseEvent, row: number, column: number): void {
    if (!this.dragging || event.buttons === 0) return;
    this.active.set({ row, column: this.dragging === 'fill' ? this.block().right : column });
  }

  protected release(): void {
    if (this.dragging === 'fill') this.fillDown();
    this.dragging = undefined;
  }

  protected onKey(event: KeyboardEvent): void {
    if (this.editing() !== undefined) return this.typeAhead(event);
    const { key, shiftKey, altKey } = event;
    const isControl = event.ctrlKey || event.metaKey;
    const step = STEPS[key];
    if (isControl && key.toLowerCase() === 'z') this.step(shiftKey ? 'redo' : 'undo');
    else if (isControl && key.toLowerCase() === 'a') this.selectAll();
    else if (altKey && key === 'ArrowDown') this.fillDown();
    else if (step) this.moveBy(isControl ? step.map((n) => n * 1_000_000) : step, shiftKey);
    else if (key === 'Home') this.move({ row: isControl ? 0 : this.active().row, column: 0 }, shiftKey);
    else if (key === 'End')
      this.move(
        { row: isControl ? this.shown().length - 1 : this.active().row, column: this.columns().length - 1 },
        shiftKey,
      );
    else if (key === 'Enter' || key === 'F2') this.beginEdit();
    else if (key === 'Tab') {
      const at = this.active().column + (shiftKey ? -1 : 1);
      if (at < 0 || at >= this.columns().length) return;
      this.move({ row: this.active().row, column: at }, false);
    } else if (key === 'Delete' || key === 'Backspace') this.write(() => '');
    else if (key === 'Escape') this.anchor.set(this.active());
    else {
      const text = typedText(event);
      if (text === undefined) return;
      this.beginEdit(text);
    }
    event.preventDefault();
    event.stopPropagation();
  }

  /** What is typed before the field of the cell has the focus goes into it. */
  private typeAhead(event: KeyboardEvent): void {
    const text = typedText(event);
    if (text === undefined) return;
    this.editing.update((typed) => typed + text);
    event.preventDefault();
  }

  protected onEditorKey(event: KeyboardEvent): void {
    event.stopPropagation();
    const { key, shiftKey } = event;
    if (key === 'Escape') this.editing.set(undefined);
    else if (key === 'Enter' && (event.ctrlKey || event.metaKey)) this.commit(true);
    else if (key === 'Enter') {
      this.commit();
      this.moveBy([shiftKey ? -1 : 1, 0], false);
    } else if (key === 'Tab') {
      this.commit();
      this.moveBy([0, shiftKey ? -1 : 1], false);
    } else return;
    event.preventDefault();
    this.focus();
  }

  /** Opens the active cell; a text takes the place of what it holds. */
  protected beginEdit(text?: string): void {
    const row = this.shown()[this.active().row];
    if (!row || !this.isWritable(row, this.active().column)) return;
    this.editing.set(text ?? this.textOf(row, this.active().column));
    afterNextRender(
      () => {
        const field = this.editor()?.nativeElement;
        field?.focus({ preventScroll: true });
        if (text === undefined) field?.select();
        else field?.setSelectionRange(field.value.length, field.value.length);
      },
      { injector: this.injector },
    );
  }

  /** Takes what was typed into the active cell, or into every cell that is selected. */
  protected commit(intoAll = false): void {
    const text = this.editor()?.nativeElement.value.trim();
    if (this.editing() === undefined || text === undefined) return;
    this.editing.set(undefined);
    const { row, column } = this.active();
    this.write(() => text, intoAll ? this.block() : blockOf({ row, column }, { row, column }));
  }

  protected copy(event: ClipboardEvent): void {
    if (this.editing() !== undefined) return;
    event.clipboardData?.setData(
      'text/plain',
      textOfBlock(this.block(), (row, column) => this.textOf(this.shown()[row]!, column)),
    );
    event.preventDefault();
  }

  protected cut(event: ClipboardEvent): void {
    this.copy(event);
    this.write(() => '');
  }

  protected paste(event: ClipboardEvent): void {
    const cells = cellsOfText(event.clipboardData?.getData('text/plain') ?? '');
    event.preventDefault();
    if (cells.length === 0) return;
    const block = pastedBlock(this.block(), cells);
    const height = cells.length;
    this.write((row, column) => {
      const line = cells[(row - block.top) % height]!;
      return line[(column - block.left) % line.length]?.trim();
    }, block);
    const last = {
      row: Math.min(block.bottom, this.shown().length - 1),
      column: Math.min(block.right, this.columns().length - 1),
    };
    this.anchor.set({ row: block.top, column: block.left });
    this.active.set(last);
  }

  /** Repeats the first row of the selection in the rows below it. */
  fillDown(): void {
    const { top } = this.block();
    const first = this.shown()[top]!;
    this.write((row, column) => (row === top ? undefined : this.textOf(first, column)));
  }

  private emptyCells(): string[] {
    return Array<string>(this.cellCount()).fill('');
  }

  private step(which: 'undo' | 'redo'): void {
    this.draft()[which]();
  }

  private selectAll(): void {
    this.anchor.set({ row: 0, column: 0 });
    this.active.set({ row: this.visible().length - 1, column: this.columns().length - 1 });
  }

  /** Writes into a block, the selection unless another is given; rows behind the last one are added where that is allowed. */
  private write(textFor: (row: number, column: number) => string | undefined, block = this.block()): void {
    const rows = this.visible();
    const edits: CellEdit[] = [];
    const added: string[][] = [];
    for (let at = block.top; at <= block.bottom; at++) {
      const row = rows[at];
      const cells = this.emptyCells();
      for (let column = block.left; column <= Math.min(block.right, this.columns().length - 1); column++) {
        const text = textFor(at, column);
        const { shows, at: place } = this.columns()[column]!;
        if (text === undefined || shows) continue;
        if (!row) cells[place] = text;
        else if (this.isWritable(row, column)) edits.push({ row, column: place, text });
      }
      if (!row && this.canAdd() && cells.some((text) => text !== '')) added.push(cells);
    }
    this.draft().edit(edits);
    if (added.length > 0) this.draft().add(added);
  }

  private moveBy([rows, columns]: readonly number[], isExtending: boolean): void {
    const { row, column } = this.active();
    this.move({ row: row + rows!, column: column + columns! }, isExtending);
  }

  private move({ row, column }: Spot, isExtending: boolean): void {
    const spot = {
      row: Math.max(0, Math.min(this.shown().length - 1, row)),
      column: Math.max(0, Math.min(this.columns().length - 1, column)),
    };
    this.active.set(spot);
    if (!isExtending) this.anchor.set(spot);
    this.reveal(spot);
  }

  private reveal({ row, column }: Spot): void {
    const view = this.viewport;
    const [top, height] = [view.measureScrollOffset('top'), view.getViewportSize()];
    const heads = this.hasFilters() ? 48 : 24;
    const at = row * this.ROW_HEIGHT;
    if (at < top) view.scrollToOffset(at);
    else if (at + this.ROW_HEIGHT + heads > top + height) view.scrollToOffset(at + this.ROW_HEIGHT + heads - height);
    afterNextRender(
      () => {
        const cell = this.grid().nativeElement.querySelector(`#${this.cellId(row, column)}`);
        cell?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
      },
      { injector: this.injector },
    );
  }
}
