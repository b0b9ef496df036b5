import { ScrollingModule, CdkVirtualScrollViewport } from '@angular/cdk/scrolling';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  input,
  model,
  output,
  signal,
  untracked,
  viewChild,
  viewChildren,
} from '@angular/core';
import { cellsOfText } from '@margin-lens/core/shown';
import { isNew, type SheetDraft } from './sheet-draft';
import { meetsFilter } from './sheet-filter';
import { ColumnEdge } from '../grid/column-edge';
import { ColumnSizes, pinnedPlaces } from '../grid/column-sizes';
import { CellInput } from '../grid/cell-input';
import { Grid, placeOf } from '../grid/grid';
import { GridModel } from '../grid/grid-model';
import { repeatedSpot, type Block, type Spot } from '../grid/grid-place';
import { pastedBlock, textOfBlock } from '../grid/grid-text';
import type { CellEdit, DraftRow, SheetColumn } from './sheet-model';

/** Finding of a row by column; `''` for the row as a whole. */
export type RowProblems = ReadonlyMap<number, ReadonlyMap<string, string>>;

const GHOST_ID = 0;
let sheets = 0;

/**
 * Rows and columns of text cells, edited as in a spreadsheet, with filters by column. What is typed goes into the draft;
 * the host saves it.
 */
@Component({
  selector: 'ml-sheet',
  imports: [CellInput, ColumnEdge, Grid, ScrollingModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './sheet.html',
  styleUrl: './sheet.scss',
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
  readonly filters = model<Record<string, string>>({});
  /** The row of the active cell; undefined in the empty row at the end. */
  readonly activeRow = output<DraftRow | undefined>();

  protected readonly ROW_HEIGHT = 24;
  /** Heads and filters. */
  private readonly HEADS = 48;
  private readonly number = sheets++;
  private readonly viewportRef = viewChild.required(CdkVirtualScrollViewport);

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
              return at < 0 || isNew(row) || meetsFilter(this.textOf(row, at), text);
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
  protected readonly sizes = new ColumnSizes(() => `sheet.${this.label()}`);
  private readonly heads = viewChildren<ElementRef<HTMLElement>>('head');
  private readonly widths = computed(() =>
    this.columns().map(({ name, width }) => {
      const px = this.sizes.px(name);
      return px === undefined ? width : `${px}px`;
    }),
  );
  protected readonly tracks = computed(() => this.widths().join(' '));
  /** Width in pixels below which the sheet scrolls sideways. */
  protected readonly least = computed(() =>
    this.widths().reduce((sum, width) => sum + Number(/(\d+)px/.exec(width)?.[1] ?? 0), 0),
  );
  /** Where columns that stay in sight do so; they are as wide as they were when they were pinned. */
  protected readonly pinned = computed(() =>
    pinnedPlaces(
      this.columns().map(({ name, width }) => ({
        px: this.sizes.px(name) ?? Number(/(\d+)px/.exec(width)?.[1] ?? 0),
        isPinned: this.sizes.isPinned(name),
      })),
      0,
    ),
  );

  private widthOf(column: number): number {
    return this.heads()[column]!.nativeElement.getBoundingClientRect().width;
  }

  protected readonly grid: GridModel = new GridModel(
    {
      rows: () => this.shown().length,
      columns: () => this.columns().length,
      all: () => this.visible().length,
      chosen: signal<string | undefined>('0.0'),
      reveal: (spot) => this.reveal(spot),
    },
    {
      enter: () => this.grid.type(),
      textOf: ({ row, column }) => {
        const at = this.shown()[row];
        return at && this.isWritable(at, column) ? this.textOf(at, column) : undefined;
      },
      offers: ({ column }) => this.offers(this.columns()[column]!) !== undefined,
      write: (text, block) => this.write(() => text.trim(), block),
      clear: (block) => this.write(() => '', block),
      fill: (source, target) => this.fill(source, target),
      undo: () => this.draft().undo(),
      redo: () => this.draft().redo(),
      copy: (clipboard, block) =>
        clipboard.setData(
          'text/plain',
          textOfBlock(block, (row, column) => this.textOf(this.shown()[row]!, column)),
        ),
      paste: (clipboard, block) => this.paste(clipboard.getData('text/plain'), block),
      widen: (column, steps) => this.sizes.widen(this.columns()[column]!.name, this.widthOf(column), steps),
      pin: (column) => this.sizes.togglePin(this.columns()[column]!.name),
    },
  );

  constructor() {
    effect(() => {
      const row = this.shown()[this.grid.entry().row];
      this.activeRow.emit(row && row.id !== GHOST_ID ? row : undefined);
    });
  }

  protected get viewport(): CdkVirtualScrollViewport {
    return this.viewportRef();
  }

  /** Ids of the rows that the selection touches. */
  selectedIds(): Set<number> {
    const { top, bottom } = this.grid.block() ?? { top: 0, bottom: -1 };
    return new Set(
      this.shown()
        .slice(top, bottom + 1)
        .map(({ id }) => id)
        .filter((id) => id !== GHOST_ID),
    );
  }

  focus(): void {
    this.grid.screen?.focus();
  }

  /** Moves to the empty row at the end. */
  goToEnd(): void {
    this.filters.set({});
    this.grid.move({ row: this.shown().length - 1, column: 0 });
  }

  fillDown(): void {
    this.grid.fillDown();
  }

  protected placeOf = (row: number, column: number) => placeOf({ row, column });
  protected listId = ({ name }: SheetColumn) => `sheet${this.number}-${name}`;
  protected isGhost = ({ id }: DraftRow) => id === GHOST_ID;
  protected offers = ({ choices, suggestions }: SheetColumn) => choices ?? suggestions;

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
    this.grid.choose({ row: 0, column: this.grid.entry().column });
  }

  /** Writes a text from a spreadsheet; the block that it covers. */
  private paste(text: string, at: Block): Block | undefined {
    const cells = cellsOfText(text);
    if (cells.length === 0) return undefined;
    const block = pastedBlock(at, cells);
    this.write((row, column) => {
      const line = cells[(row - block.top) % cells.length]!;
      return line[(column - block.left) % line.length]?.trim();
    }, block);
    return {
      ...block,
      bottom: Math.min(block.bottom, this.shown().length - 1),
      right: Math.min(block.right, this.columns().length - 1),
    };
  }

  private fill(source: Block, target: Block): void {
    this.write((row, column) => {
      const from = repeatedSpot(source, { row, column });
      const isSource = from.row === row && from.column === column;
      return isSource ? undefined : this.textOf(this.shown()[from.row]!, from.column);
    }, target);
  }

  private emptyCells(): string[] {
    return Array<string>(this.cellCount()).fill('');
  }

  /** Writes into a block; rows behind the last one are added where that is allowed. */
  private write(textFor: (row: number, column: number) => string | undefined, block: Block): void {
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

  private reveal({ row }: Spot): void {
    const view = this.viewport;
    const [top, height] = [view.measureScrollOffset('top'), view.getViewportSize()];
    const at = row * this.ROW_HEIGHT;
    if (at < top) view.scrollToOffset(at);
    else if (at + this.ROW_HEIGHT + this.HEADS > top + height)
      view.scrollToOffset(at + this.ROW_HEIGHT + this.HEADS - height);
  }
}
