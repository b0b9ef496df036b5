import { Clipboard } from '@angular/cdk/clipboard';
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
import { FIGURES_TYPE } from '../shared/figures-clipboard';
import { inUnit } from './figures-in-unit';
import { CellInput } from '../shared/grid/cell-input';
import { ColumnEdge } from '../shared/grid/column-edge';
import { ColumnSizes, pinnedPlaces } from '../shared/grid/column-sizes';
import { LABELS } from '../shared/grid/grid-place';
import { Grid, placeOf } from '../shared/grid/grid';
import { GridModel } from '../shared/grid/grid-model';
import type { Block, Spot } from '../shared/grid/grid-place';
import { PlanWatch } from './plan-watch';
import { PlanningStore } from './planning-store';
import { blockEntries, blockText, fillEntries, headedText, pastedEntries } from './sheet-block';
import { editText, isBeside, type CellEntry, type SheetModel } from './sheet-model';
import { columnsInSight, HEAD_PX, mostRows, ROW_PX, rowsInSight, type SheetWindow } from './sheet-window';

/** Width of the small lines, in pixels; the style sheet of the table is fixed by these. */
const SPARK_PX = 68;

/** What is selected: the cell that has the keyboard, and the block around it. */
export interface SheetSelection {
  row: SheetRow;
  column: number;
  rows: readonly SheetRow[];
  columns: readonly number[];
}

/** The planning sheet: rows in a window, typed into as in a spreadsheet. */
@Component({
  selector: 'ml-planning-table',
  imports: [CellInput, ColumnEdge, Grid],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './planning-table.html',
  styleUrl: './planning-table.scss',
})
export class PlanningTable {
  readonly model = input.required<SheetModel>();
  readonly unit = input.required<ShownUnit>();
  readonly selected = output<SheetSelection | undefined>();

  protected readonly store = inject(PlanningStore);
  private readonly scroller = viewChild.required<ElementRef<HTMLElement>>('scroller');

  readonly grid: GridModel = new GridModel(
    {
      rows: () => this.model().rows.length,
      columns: () => this.model().columns.length,
      names: { idOf: (spot) => this.idOf(spot), find: (id) => this.find(id) },
      reveal: (spot) => this.reveal(spot),
      page: () => Math.max(1, Math.floor((this.window().height - HEAD_PX) / ROW_PX) - 1),
    },
    {
      open: (spot, opens) => this.openRow(spot, opens),
      widen: (column, steps) =>
        this.sizes.widen(this.model().columns[column]!.id, this.widths().columns[column]!, steps),
      pin: (column) => this.sizes.togglePin(this.model().columns[column]!.id, this.isLastTotal(column)),
      textOf: ({ row: at, column }) => {
        const row = this.model().rows[at]!;
        return editText(row, this.model().figures(row)[column]!, this.unit());
      },
      write: (text, block) => this.write(text, block),
      clear: (block) => this.enter('Clear', 'cleared', blockEntries(this.model(), block, '0')),
      fill: (source, target) => this.enter('Fill', 'filled', fillEntries(this.model(), source, target, this.unit())),
      undo: () => this.store.undo(),
      redo: () => this.store.redo(),
      copy: (clipboard, block) => {
        clipboard.setData('text/plain', blockText(this.model(), block, this.unit()));
        clipboard.setData(FIGURES_TYPE, blockText(this.model(), block, 1));
      },
      paste: (clipboard, block) => this.paste(clipboard, block),
    },
  );
  private readonly clipboard = inject(Clipboard);
  protected readonly sizes = new ColumnSizes(() => 'planning');
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
  /** Copies the selected block, or all of the sheet, with the labels of its rows and the names of its months. */
  copyHeaded(): void {
    const { rows, columns } = this.model();
    const whole: Block = { top: 0, bottom: rows.length - 1, left: 0, right: columns.length - 1 };
    const heads = this.columns().map(({ title }) => title);
    this.clipboard.copy(headedText(this.model(), this.grid.block() ?? whole, this.unit(), heads));
  }

  protected readonly comparisons = computed(() => this.model().input.comparisons);
  protected readonly lastTotal = computed(() => this.model().columns.findLastIndex(({ grain }) => grain === 'year'));
  protected readonly widths = computed(() => {
    const widths = widthsOf(this.model(), this.unit());
    const columns = this.model().columns.map(({ id }, at) => this.sizes.px(id) ?? widths.columns[at]!);
    return { ...widths, label: this.sizes.px(LABELS) ?? widths.label, columns };
  });
  private readonly sized = computed(() =>
    this.widths().columns.map((px, at) => ({
      px,
      isPinned: this.sizes.isPinned(this.model().columns[at]!.id, this.isLastTotal(at)),
    })),
  );
  /** Where columns that stay in sight do so, as `inset`; null for those that scroll. */
  protected readonly insets = computed(() =>
    pinnedPlaces(this.sized(), this.widths().label).map((at) => at && `auto ${at.right}px auto ${at.left}px`),
  );
  /** Rows are grids of their own, so that one that changes leaves the layout of the others as it is. */
  protected readonly gridColumns = computed(() => {
    const { label, columns, compared } = this.widths();
    const beside = this.comparisons().flatMap(() => [compared, compared]);
    return [label, ...columns, SPARK_PX, ...beside].map((px) => `${px}px`).join(' ');
  });
  protected readonly tableWidth = computed(() => {
    const { label, columns, compared } = this.widths();
    return label + columns.reduce((a, b) => a + b, 0) + SPARK_PX + 2 * compared * this.comparisons().length;
  });
  protected readonly shown = computed(() => rowsInSight(this.window(), this.model().rows.length));
  /** Places of the columns that are drawn. */
  protected readonly drawn = computed(() => columnsInSight(this.window(), this.widths().label, this.sized()));
  /** Rows that scroll out are written anew as those that scroll in: each has a place among as many as can be drawn. */
  protected readonly rows = computed(() => {
    const { from, to } = this.shown();
    const places = mostRows(this.window());
    return this.model()
      .rows.slice(from, to)
      .map((row, index) => ({ row, at: from + index, place: (from + index) % places }));
  });
  constructor() {
    const observer = new ResizeObserver(() => this.onScroll());
    observer.observe(inject<ElementRef<HTMLElement>>(ElementRef).nativeElement);
    inject(DestroyRef).onDestroy(() => observer.disconnect());
    effect(() => {
      const [spot, block, model] = [this.grid.spot(), this.grid.block(), this.model()];
      untracked(() => {
        if (!spot || !block) return this.selected.emit(undefined);
        this.selected.emit({
          row: model.rows[spot.row]!,
          column: spot.column,
          rows: model.rows.slice(block.top, block.bottom + 1),
          columns: model.columns.map((_, at) => at).slice(block.left, block.right + 1),
        });
      });
    });
  }

  private isLastTotal(column: number): boolean {
    return column === this.lastTotal();
  }

  private idOf({ row, column }: Spot): string {
    return `${column}~${this.model().rows[row]!.id}`;
  }

  private find(id: string): Spot | undefined {
    const at = id.indexOf('~');
    const row = this.model().rows.findIndex((each) => each.id === id.slice(at + 1));
    return row < 0 ? undefined : { row, column: Number(id.slice(0, at)) };
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
      if (isBeside(row)) return { text: '', change: '', favour: '' };
      const [own, other] = [model.figures(row)[total] ?? null, model.compared(row, index)[total] ?? null];
      const text = model.text(row, other, this.unit());
      if (own === null || other === null || row.unit.kind === 'ratio') return { text, change: '', favour: '' };
      const change = own - other;
      return { text, change: model.text(row, change, this.unit()), favour: favourOfChange(row, change) ?? '' };
    });
  }

  private readonly watch = inject(PlanWatch);
  /** What is worth a look in a cell of a month; undefined where nothing is. */
  protected watched(row: SheetRow, column: number): string | undefined {
    const { grain, periods } = this.model().columns[column]!;
    return grain === 'month' ? this.watch.of(row, periods[0]!) : undefined;
  }
  protected readonly LABELS = LABELS;
  protected readonly isBeside = isBeside;

  protected line(row: SheetRow): string {
    return lineOf(this.model().figures(row), this.model().columns);
  }

  focus(): void {
    const model = this.model();
    if (this.grid.spot()) this.grid.screen?.focus();
    else
      this.grid.move({
        row: model.rows.findIndex(({ compiled, leaves }) => compiled !== undefined || leaves.length > 0),
        column: model.columns.findIndex((_, at) => !model.isActual(at)),
      });
  }

  /** Goes to the cell of a row; false where the sheet does not show it. */
  show(id: string, column: number): boolean {
    const row = this.model().rows.findIndex((each) => each.id === id);
    if (row < 0) return false;
    this.grid.move({ row, column });
    return true;
  }

  fillRight(): void {
    this.grid.fillRight();
  }

  fillDown(): void {
    this.grid.fillDown();
  }

  protected placeOf = (row: number, column: number) => placeOf({ row, column });

  private reveal({ row, column }: Spot): void {
    const scroller = this.scroller().nativeElement;
    const { label, columns } = this.widths();
    const top = row * ROW_PX;
    if (top < scroller.scrollTop) scroller.scrollTop = top;
    const bottom = HEAD_PX + top + ROW_PX - scroller.clientHeight;
    if (bottom > scroller.scrollTop) scroller.scrollTop = bottom;
    const sized = this.sized();
    if (!sized[column]!.isPinned) {
      const pinnedPx = (from: number, to: number) =>
        sized.slice(from, to).reduce((sum, { px, isPinned }) => sum + (isPinned ? px : 0), 0);
      const left = columns.slice(0, column).reduce((a, b) => a + b, 0);
      const least = label + left + columns[column]! + pinnedPx(column + 1, sized.length) - scroller.clientWidth;
      if (left - pinnedPx(0, column) < scroller.scrollLeft) scroller.scrollLeft = left - pinnedPx(0, column);
      if (least > scroller.scrollLeft) scroller.scrollLeft = least;
    }
    this.onScroll();
  }

  private write(text: string, block: Block): void {
    const entries = blockEntries(this.model(), block, text);
    if (entries.length === 1) this.enter(entries[0]!.row.label, 'typed', entries);
    else this.enter('Fill', 'filled', entries);
  }

  private enter(label: string, how: 'typed' | 'pasted' | 'filled' | 'cleared', entries: readonly CellEntry[]): void {
    const model = this.model();
    const places = entries.length > 1 ? entries.filter(({ row, column }) => model.isEditable(row, column)) : entries;
    this.store.enter(label, how, places);
  }

  private openRow({ row: at }: Spot, opens: boolean): void {
    const row = this.model().rows[at];
    if (row?.opens !== undefined && row.isOpen !== opens) this.toggle(row);
  }

  protected toggle(row: SheetRow): void {
    if (row.opens === undefined) return;
    const id = row.opens;
    this.store.open.update((open) => new Set(open.has(id) ? [...open].filter((each) => each !== id) : [...open, id]));
  }

  /** Writes figures from the clipboard; the block that they cover, where they are more than one. */
  private paste(clipboard: DataTransfer, block: Block): Block | undefined {
    const own = clipboard.getData(FIGURES_TYPE);
    const text = own ? inUnit(own, this.unit()) : clipboard.getData('text/plain');
    const pasted = pastedEntries(this.model(), block, text);
    if (pasted.problem !== undefined) {
      this.store.refuse(pasted.problem);
      return undefined;
    }
    const { entries, size } = pasted;
    this.enter('Paste', 'pasted', entries);
    if (size.rows === 1 && size.columns === 1) return undefined;
    return { ...block, bottom: block.top + size.rows - 1, right: block.left + size.columns - 1 };
  }
}
