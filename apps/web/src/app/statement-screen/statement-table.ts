import { Clipboard } from '@angular/cdk/clipboard';
import { NgTemplateOutlet } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  output,
  type TemplateRef,
} from '@angular/core';
import { MatDividerModule } from '@angular/material/divider';
import { MatMenuModule } from '@angular/material/menu';
import { blockText, ownReadings, type RowOrder, type ShownUnit } from '@margin-lens/core/shown';
import type { StatementView } from '@margin-lens/contract';
import type { RemarkState } from '../remarks/remark-text';
import { FIGURES_TYPE } from '../shared/figures-clipboard';
import { ColumnEdge } from '../shared/grid/column-edge';
import { ColumnSizes, pinnedPlaces } from '../shared/grid/column-sizes';
import { LABELS } from '../shared/grid/grid-place';
import { Grid, placeOf } from '../shared/grid/grid';
import { GridModel } from '../shared/grid/grid-model';
import type { Block, Spot } from '../shared/grid/grid-place';
import { WIDTH } from '../statement/column-widths';
import type { ShownStatementTable } from '../statement/statement-view';
import { InWordsPipe } from '../shared/in-words-pipe';

/**
 * The statement as a real table: Enter traces, Space folds and lays open.
 *
 * Selection is by ids (`row~column`), so that it stays where it was when the figures change.
 */
@Component({
  selector: 'ml-statement-table',
  imports: [InWordsPipe, ColumnEdge, Grid, MatDividerModule, MatMenuModule, NgTemplateOutlet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './statement-table.html',
  styleUrl: './statement-table.scss',
})
export class StatementTable {
  readonly table = input.required<ShownStatementTable>();
  readonly view = input.required<StatementView>();
  readonly unit = input.required<ShownUnit>();
  readonly selected = input<string>();
  /** Widths and pins; totals that end a table are pinned until a person says otherwise. */
  readonly sizes = input(new ColumnSizes(() => 'statement'));
  protected readonly LABELS = LABELS;

  readonly dimensions = input<readonly string[]>([]);
  readonly opened = input<readonly string[]>([]);
  readonly folded = input<readonly string[]>([]);
  readonly order = input<RowOrder>();
  /** Whether lines can be put in order of a column here. */
  readonly canOrder = input(false);
  /** Where remarks are, by row and by `row~column`. */
  readonly remarked = input<ReadonlyMap<string, RemarkState>>(new Map());

  /** Stand in the corner over the labels, where axes are said: across the page, and down it. */
  readonly corner = input<{ across: TemplateRef<unknown>; down: TemplateRef<unknown> }>();

  readonly orderBy = output<string>();
  readonly fold = output<string>();
  /** Opens a value of a breakdown, or closes it. */
  readonly turn = output<string>();
  readonly breakDown = output<{ row: string }>();
  readonly layOpen = output<{ row: string; by: string | undefined }>();
  readonly select = output<string>();
  readonly trace = output<string>();
  readonly light = output<string | undefined>();

  private readonly clipboard = inject(Clipboard);
  protected readonly WIDTH = WIDTH;
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

  protected readonly grid: GridModel = new GridModel(
    {
      rows: () => this.table().rows.length,
      columns: () => this.table().columns.length,
      stops: (row) => (this.table().rows[row]?.cells.length ?? 0) > 0,
      names: { idOf: (spot) => this.idOf(spot), find: (id) => this.spotAt(id) },
      chosen: this.chosen,
    },
    {
      moved: (spot) => this.choose(this.idOf(spot)),
      enter: (spot) => this.trace.emit(this.idOf(spot)),
      space: (spot) => this.unfold(spot),
      copy: (clipboard, block) => this.copy(clipboard, block),
      widen: (column, steps) => {
        const { head, width } = this.table().columns[column]!;
        this.sizes().widen(head.id, width, steps);
      },
      pin: (column) => this.sizes().togglePin(this.table().columns[column]!.head.id, this.isUsuallyPinned(column)),
    },
  );
  /** Ids of the rows of a block that is selected over several of them. */
  readonly rowsInBlock = computed<readonly string[]>(
    () => {
      const { top = 0, bottom = 0 } = this.grid.block() ?? {};
      return top === bottom
        ? []
        : this.table()
            .rows.slice(top, bottom + 1)
            .map(({ id }) => id);
    },
    { equal: (a, b) => a.join() === b.join() },
  );
  /** Where columns that stay in sight do so. */
  protected readonly pinned = computed(() => {
    const columns = this.table().columns.map(({ head, width }, at) => ({
      px: width,
      isPinned: this.sizes().isPinned(head.id, this.isUsuallyPinned(at)),
    }));
    return pinnedPlaces(columns, this.table().labelWidth);
  });

  /** Totals stay in sight where one ends the table; where more follows, as in a worksheet, they would cover it. */
  protected isUsuallyPinned(column: number): boolean {
    const { columns } = this.table();
    const isTotal = (each: (typeof columns)[number] | undefined) => each?.head.kind === 'total';
    return isTotal(columns[column]) && isTotal(columns.at(-1));
  }

  private spotAt(id: string): Spot | undefined {
    const [rowId, columnId] = id.split('~');
    const { rows, columns } = this.table();
    const row = rows.findIndex((each) => each.id === rowId);
    const column = columns.findIndex(({ head }) => head.id === columnId);
    return row < 0 || column < 0 || rows[row]!.cells.length === 0 ? undefined : { row, column };
  }

  constructor() {
    effect(() => this.light.emit(this.lit()));
    effect(() => {
      const spot = this.grid.spot();
      if (spot) queueMicrotask(() => this.grid.reveal(spot));
    });
  }

  private readonly lit = computed(() => {
    const spot = this.grid.spot();
    return spot && this.table().columns[spot.column]!.head.id;
  });

  /** How lines stand in order of a column, for the reader of a screen. */
  protected sortOf(column: string): 'ascending' | 'descending' | null {
    const order = this.order();
    if (order?.column !== column) return null;
    return order.first === 'largest' ? 'descending' : 'ascending';
  }

  protected openedBy(row: string): string | undefined {
    return this.opened()
      .find((each) => each.startsWith(`${row}:`))
      ?.slice(row.length + 1);
  }

  /** Space on a cell folds its total, or lays its accounts open. */
  private unfold(spot: Spot): void {
    const row = this.table().rows[spot.row]!;
    if (row.branch) this.turn.emit(row.branch.key);
    else if (row.canFold) this.fold.emit(row.id);
    else if (row.canOpen) this.layOpen.emit({ row: row.id, by: this.openedBy(row.id) ? undefined : 'accounts' });
  }

  /** A row's name selects the row where it was selected last, else its first figure. */
  protected pressLabel(event: MouseEvent, row: number): void {
    if (event.button !== 0 || !this.grid.stops(row)) return;
    event.preventDefault();
    this.grid.move({ row, column: this.grid.entry().column }, event.shiftKey);
  }

  private choose(id: string): void {
    this.underWay.push(id);
    this.select.emit(id);
  }

  /** Id of the selected cell, or of the one that Tab reaches. */
  selectedId(): string {
    return this.idOf(this.grid.entry());
  }

  /** Brings the keyboard to the selected cell. */
  focusSelected(): void {
    this.grid.reveal(this.grid.entry());
    this.grid.screen?.focus();
  }

  protected placeOf = (row: number, column: number) => placeOf({ row, column });

  private idOf({ row, column }: Spot): string {
    const { rows, columns } = this.table();
    return `${rows[row]!.id}~${columns[column]!.head.id}`;
  }

  /** Copies the selected block, or all of the table, with the labels of its rows and the heads of its columns. */
  copyHeaded(): void {
    const { rows, columns, page } = this.table();
    const whole: Block = { top: 0, bottom: rows.length - 1, left: 0, right: columns.length - 1 };
    this.clipboard.copy(blockText(page, this.grid.block() ?? whole, this.unit(), true));
  }

  private copy(clipboard: DataTransfer, block: Block): void {
    clipboard.setData('text/plain', blockText(this.table().page, block, this.unit()));
    clipboard.setData(FIGURES_TYPE, ownReadings(this.table().page, block));
  }
}
