import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { CdkDrag, CdkDropList, type CdkDragDrop } from '@angular/cdk/drag-drop';
import { MatMenu, MatMenuModule } from '@angular/material/menu';
import {
  changeColumns,
  changeRows,
  chosenRows,
  copiesOf,
  copiesOfColumns,
  groupRows,
  indentRows,
  insertColumns,
  insertRows,
  moveColumns,
  moveRows,
  nudgeColumns,
  nudgeRows,
  outdentRows,
  outlineOf,
  removeColumns,
  removeRows,
  rowIds,
  rowsFromText,
  type Column,
  type ColumnKind,
  type NameSpace,
  type Row,
  type RowKind,
  type ShownUnit,
} from '@margin-lens/core';
import type { StatementView } from '@margin-lens/contract';
import { CellInput } from '../shared/grid/cell-input';
import { Grid, placeOf } from '../shared/grid/grid';
import { GridModel } from '../shared/grid/grid-model';
import type { Spot } from '../shared/grid/grid-place';
import { copyColumns, copyRows, pastedOf } from './shape-clipboard';
import { shapeHeads, shapeRows } from './shape-table-view';
import { COLUMN_KINDS, ROW_KINDS } from './shape-words';
import { newColumn, newRow } from './shape-edits';
import { ContextStore } from '../shared/context-store';
import { ShapeStore, type Selection } from './shape-store';

/**
 * The statement with the rules of its rows and columns beside the live figures.
 *
 * Arrows go over the labels and the heads, Shift selects several, Alt moves them. What is selected is edited in the
 * panel; a label in place.
 */
@Component({
  selector: 'ml-shape-table',
  imports: [CdkDrag, CdkDropList, CellInput, Grid, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './shape-table.html',
  styleUrl: './shape-table.scss',
})
export class ShapeTable {
  readonly view = input<StatementView>();
  readonly unit = input.required<ShownUnit>();
  readonly light = output<string | undefined>();
  /** The selection is to be edited in the panel. */
  readonly edit = output();
  readonly unread = output<string[]>();

  protected readonly store = inject(ShapeStore);
  private readonly contexts = inject(ContextStore);
  /** Those of the store, which stand there while the table does; at once when they change, so that no key is lost. */
  protected readonly documents = computed(() => this.store.documents()!);
  protected readonly ROW_KINDS = ROW_KINDS;
  protected readonly COLUMN_KINDS = COLUMN_KINDS;
  /** Totals whose rows are folded away here. */
  protected readonly folded = signal<ReadonlySet<string>>(new Set());

  protected readonly names = computed<NameSpace>(() => ({
    own: outlineOf(this.documents().rows.rows).map(({ row }) => ({ id: row.id, label: row.label })),
    others: this.store.makings()?.rowLayouts ?? [],
  }));

  protected readonly rows = computed(() =>
    shapeRows(this.documents(), this.view(), this.names(), this.unit(), this.folded()),
  );
  protected readonly heads = computed(() =>
    shapeHeads(this.documents(), this.view(), this.contexts.context()?.periods ?? []),
  );
  /** Places of the shown heads among the cells of a row. */
  protected readonly places = computed(() => {
    const shown = this.view()?.columns ?? [];
    return this.heads().map(({ id }) => shown.findIndex((head) => head.id === id));
  });

  private readonly selection = this.store.selection;
  protected isChosen(axis: Selection['axis'], id: string): boolean {
    const selection = this.selection();
    return selection?.axis === axis && selection.ids.includes(id);
  }

  protected isUnread(axis: Selection['axis'], id: string): boolean {
    const unread = this.store.unread();
    return unread?.axis === axis && unread.at === id;
  }

  /** The selection as far as it stands there; nothing where an undo took it away. */
  private readonly present = computed(() => {
    const selection = this.selection();
    return selection && this.ordered(selection.axis).includes(selection.at) ? selection : undefined;
  });

  /**
   * The heads are the first row of the grid, the labels its first column; figures between them are not chosen. A series
   * has its first head.
   */
  protected readonly grid: GridModel = new GridModel(
    {
      rows: () => 1 + this.rows().length,
      columns: () => 1 + this.documents().columns.columns.length,
      names: { idOf: (spot) => this.idOf(spot), find: (id) => this.find(id) },
      chosen: linkedSignal(() => {
        const selection = this.present();
        return selection ? `${selection.axis}:${selection.at}` : this.rows()[0] && `rows:${this.rows()[0]!.id}`;
      }),
      next: (from, rows, columns) => nextPlace(from, rows, columns),
      hasNames: true,
    },
    {
      own: (event) => this.ownKey(event),
      moved: (spot) => this.select(spot),
      reached: (spot) => this.select(spot, 'extends'),
      toggle: (spot) => this.select(spot, 'adds'),
      enter: () => this.grid.type(),
      space: (spot) => spot.row > 0 && this.toggleFold(this.rows()[spot.row - 1]!.id),
      textOf: (spot) => this.labelAt(spot),
      write: (text, { top, left }) => this.rename({ row: top, column: left }, text),
      clear: () => this.remove(),
      undo: () => this.store.undo(),
      redo: () => this.store.redo(),
      copy: (clipboard) => this.copy(clipboard),
      paste: (clipboard) => this.paste(clipboard),
    },
  );

  /** The place of a label, or of a head. */
  protected placeOf(axis: Selection['axis'], id: string): string {
    return placeOf(this.find(`${axis}:${id}`)!);
  }

  protected isTyping(axis: Selection['axis'], id: string): boolean {
    const { row, column } = this.find(`${axis}:${id}`)!;
    return this.grid.typing() !== undefined && this.grid.inRow(row).spot === column;
  }

  private placed({ row, column }: Spot): Pick<Selection, 'axis' | 'at'> {
    const axis = row === 0 ? 'columns' : 'rows';
    return { axis, at: this.ordered(axis)[(row === 0 ? column : row) - 1] ?? '' };
  }

  private idOf(spot: Spot): string {
    const { axis, at } = this.placed(spot);
    return `${axis}:${at}`;
  }

  private find(name: string): Spot | undefined {
    const [axis, id] = [name.slice(0, name.indexOf(':')) as Selection['axis'], name.slice(name.indexOf(':') + 1)];
    const at = this.ordered(axis).indexOf(id) + 1;
    if (at === 0) return undefined;
    return axis === 'rows' ? { row: at, column: 0 } : { row: 0, column: at };
  }

  private labelAt(spot: Spot): string {
    const { axis, at } = this.placed(spot);
    const named = axis === 'rows' ? this.rows().find(({ id }) => id === at) : undefined;
    return (named ?? this.heads().find(({ source }) => source === at))?.label ?? '';
  }

  private ordered(axis: Selection['axis']): string[] {
    return axis === 'rows' ? this.rows().map(({ id }) => id) : this.documents().columns.columns.map(({ id }) => id);
  }

  private select(spot: Spot, how?: 'extends' | 'adds'): void {
    const { axis, at } = this.placed(spot);
    const before = this.selection();
    const ids = this.ordered(axis);
    const isSame = before?.axis === axis;
    const anchor = isSame && how === 'extends' ? before.ids[0]! : at;
    const [from, to] = [ids.indexOf(anchor), ids.indexOf(at)].sort((a, b) => a - b) as [number, number];
    const range = ids.slice(from, to + 1);
    const kept =
      isSame && how === 'adds'
        ? [...new Set([...before.ids.filter((each) => each !== at), ...(before.ids.includes(at) ? [] : [at])])]
        : undefined;
    const chosen = kept ?? (ids.indexOf(anchor) > ids.indexOf(at) ? range.reverse() : range);
    this.selection.set({ axis, ids: chosen.length > 0 ? chosen : [at], at });
    this.light.emit(axis === 'columns' ? this.heads().find(({ source }) => source === at)?.id : undefined);
  }

  /** Selects a row or a column, and brings the keyboard to it once it is drawn. */
  private goTo(axis: Selection['axis'], id: string): void {
    const spot = this.find(`${axis}:${id}`);
    if (spot) this.grid.move(spot);
  }

  /** Brings the keyboard to what is selected. */
  focus(): void {
    this.grid.screen?.focus();
  }

  private rename(spot: Spot, text: string): void {
    const { axis, at } = this.placed(spot);
    const ids = new Set([at]);
    if (axis === 'rows')
      this.store.changeRows('Rename a row', (rows) => changeRows(rows, ids, (row) => ({ ...row, label: text })));
    else
      this.store.changeColumns('Rename a column', (columns) =>
        changeColumns(
          columns,
          ids,
          ({ heading: _, ...column }) => (text.trim() === '' ? column : { ...column, heading: text.trim() }) as Column,
        ),
      );
  }

  private ownKey(event: KeyboardEvent): boolean {
    const { key, altKey, ctrlKey, metaKey } = event;
    if (ctrlKey || metaKey) return false;
    const isRows = this.grid.entry().row > 0;
    const act = altKey ? (isRows ? this.altOnRows(key) : this.altOnColumns(key)) : this.plainKey(key, isRows);
    act?.();
    return act !== undefined;
  }

  private plainKey(key: string, isRows: boolean): (() => void) | undefined {
    const axis = isRows ? 'rows' : 'columns';
    const acts: Record<string, () => void> = {
      Home: () => this.goTo(axis, this.ordered(axis)[0]!),
      End: () => this.goTo(axis, this.ordered(axis).at(-1)!),
      Backspace: () => undefined, // takes letters away, never rows
      Insert: () => (isRows ? this.addRow('accounts') : this.addColumn('figure')),
      e: () => this.edit.emit(),
      d: () => this.duplicate(),
      g: () => isRows && this.group(),
    };
    return acts[key.length === 1 ? key.toLowerCase() : key];
  }

  /** The menu of what can be done with what is selected: that of a right click, and one for the toolbar. */
  readonly menu = viewChild.required<MatMenu>('acts');
  protected readonly selectionActs = computed((): { label: string; key: string; run: () => void }[] => {
    const isRows = (this.selection()?.axis ?? 'rows') === 'rows';
    const alt = (key: string) => () => (isRows ? this.altOnRows(key) : this.altOnColumns(key))?.();
    const move = isRows
      ? [
          { label: 'Put into a total', key: 'G', run: () => this.group() },
          { label: 'Move up', key: 'Alt ↑', run: alt('ArrowUp') },
          { label: 'Move down', key: 'Alt ↓', run: alt('ArrowDown') },
          { label: 'Into the total above', key: 'Alt →', run: alt('ArrowRight') },
          { label: 'Out of its total', key: 'Alt ←', run: alt('ArrowLeft') },
        ]
      : [
          { label: 'Move left', key: 'Alt ←', run: alt('ArrowLeft') },
          { label: 'Move right', key: 'Alt →', run: alt('ArrowRight') },
        ];
    return [
      { label: 'Rename', key: 'Enter', run: () => this.grid.type() },
      { label: 'Settings', key: 'E', run: () => this.edit.emit() },
      {
        label: isRows ? 'Add a row below' : 'Add a column behind',
        key: 'Ins',
        run: () => (isRows ? this.addRow('accounts') : this.addColumn('figure')),
      },
      { label: 'Duplicate', key: 'D', run: () => this.duplicate() },
      ...move,
      { label: 'Delete', key: 'Del', run: () => this.remove() },
    ];
  });

  /** Brings the keyboard back to what is selected, unless something is being typed there. */
  settle(): void {
    if (this.grid.typing() === undefined) this.focus();
  }

  /** Selects what is pressed with the other button, unless it is among what is selected. */
  protected choose({ target }: MouseEvent): void {
    const named = (target as HTMLElement).closest<HTMLElement>('[data-row], [data-column]')?.dataset;
    const [axis, id] = named?.['row'] ? (['rows', named['row']] as const) : (['columns', named?.['column']] as const);
    if (id !== undefined && !this.isChosen(axis, id)) this.goTo(axis, id);
  }

  protected toggleFold(id: string): void {
    const folded = new Set(this.folded());
    if (!folded.delete(id)) folded.add(id);
    this.folded.set(folded);
  }

  private altOnRows(key: string): (() => void) | undefined {
    const ids = new Set(this.selection()?.ids);
    const moves: Record<string, [string, (rows: readonly Row[]) => Row[]]> = {
      ArrowUp: ['Move rows up', (rows) => nudgeRows(rows, ids, -1)],
      ArrowDown: ['Move rows down', (rows) => nudgeRows(rows, ids, 1)],
      ArrowRight: ['Indent rows', (rows) => indentRows(rows, ids)],
      ArrowLeft: ['Outdent rows', (rows) => outdentRows(rows, ids)],
    };
    const move = moves[key];
    return move && (() => this.store.changeRows(...move));
  }

  private altOnColumns(key: string): (() => void) | undefined {
    const ids = new Set(this.selection()?.ids);
    const step = { ArrowLeft: -1 as const, ArrowRight: 1 as const }[key];
    if (!step) return undefined;
    return () => this.store.changeColumns('Move columns', (columns) => nudgeColumns(columns, ids, step));
  }

  /** Adds a row behind the selected one, or at the foot of the sheet. */
  addRow(kind: RowKind, isAtFoot = false): void {
    const { rows } = this.documents();
    const selection = this.selection();
    const after = selection?.axis === 'rows' && !isAtFoot ? selection.at : undefined;
    const row = newRow(kind, rows, after);
    const isGroup =
      after !== undefined &&
      outlineOf(rows.rows).some(
        (place) => place.row.id === after && place.row.kind === 'group' && place.row.children.length > 0,
      );
    this.store.changeRows('Add a row', (all) => insertRows(all, [row], after, isGroup ? 'inside' : 'after'));
    this.goTo('rows', row.id);
    if (kind !== 'line' && kind !== 'blank') this.grid.type();
  }

  addColumn(kind: ColumnKind): void {
    const { columns } = this.documents().columns;
    const selection = this.selection();
    const after = selection?.axis === 'columns' ? selection.at : columns.at(-1)?.id;
    const column = newColumn(kind, columns, after);
    this.store.changeColumns('Add a column', (all) => insertColumns(all, [column], after));
    this.goTo('columns', column.id);
  }

  remove(): void {
    const selection = this.selection();
    if (!selection) return;
    const ids = new Set(selection.ids);
    const ordered = this.ordered(selection.axis);
    const places = selection.ids.map((id) => ordered.indexOf(id));
    const next = ordered[Math.max(...places) + 1] ?? ordered[Math.min(...places) - 1];
    if (selection.axis === 'rows') this.store.changeRows('Remove rows', (rows) => removeRows(rows, ids));
    else this.store.changeColumns('Remove columns', (columns) => removeColumns(columns, ids));
    const left = this.ordered(selection.axis);
    const at = next !== undefined && left.includes(next) ? next : left[0];
    if (at === undefined) this.selection.set(undefined);
    else this.goTo(selection.axis, at);
  }

  duplicate(): void {
    const selection = this.selection();
    if (!selection) return;
    const { rows, columns } = this.documents();
    const ids = new Set(selection.ids);
    if (selection.axis === 'rows') {
      const copies = copiesOf(chosenRows(rows.rows, ids), rowIds(rows.rows));
      this.store.changeRows('Duplicate rows', (all) => insertRows(all, copies, selection.at));
      if (copies[0]) this.goTo('rows', copies[0].id);
    } else {
      const copies = copiesOfColumns(
        columns.columns.filter(({ id }) => ids.has(id)),
        columns.columns.map(({ id }) => id),
      );
      this.store.changeColumns('Duplicate columns', (all) => insertColumns(all, copies, selection.at));
      if (copies[0]) this.goTo('columns', copies[0].id);
    }
  }

  group(): void {
    const ids = new Set(this.selection()?.ids);
    const made = newRow('group', this.documents().rows, undefined);
    if (made.kind !== 'group' || ids.size === 0) return;
    this.store.changeRows('Put rows into a total', (rows) => groupRows(rows, ids, made));
    this.goTo('rows', made.id);
    this.grid.type();
  }

  protected drop(event: CdkDragDrop<unknown>): void {
    const rows = this.rows();
    const moved = rows[event.previousIndex];
    if (!moved || event.previousIndex === event.currentIndex) return;
    const ids = this.isChosen('rows', moved.id) ? new Set(this.selection()!.ids) : new Set([moved.id]);
    const target = event.currentIndex > event.previousIndex ? rows[event.currentIndex] : rows[event.currentIndex - 1];
    const isGroup = target?.kind === 'group';
    // between the last row of a total and the next row outside it, the row stays at the level it had
    const rest = rows.filter(({ id }) => !ids.has(id));
    const next = target && rest[rest.findIndex(({ id }) => id === target.id) + 1];
    const isOutside = next && next.depth < target.depth && moved.depth <= next.depth;
    this.store.changeRows('Move rows', (all) =>
      isOutside
        ? moveRows(all, ids, next.id, 'before')
        : target
          ? moveRows(all, ids, target.id, isGroup ? 'inside' : 'after')
          : moveRows(all, ids, undefined, 'before'),
    );
    this.goTo('rows', moved.id);
  }

  protected dropColumn(event: CdkDragDrop<unknown>): void {
    const heads = this.heads();
    const moved = heads[event.previousIndex]?.source;
    const rest = heads.filter((_, index) => index !== event.previousIndex);
    const before = rest[event.currentIndex]?.source;
    if (moved === undefined || moved === before) return;
    const ids = this.isChosen('columns', moved) ? new Set(this.selection()!.ids) : new Set([moved]);
    this.store.changeColumns('Move columns', (columns) => moveColumns(columns, ids, before));
    this.goTo('columns', moved);
  }

  private copy(clipboard: DataTransfer): void {
    const selection = this.selection();
    if (!selection) return;
    const { rows, columns } = this.documents();
    const ids = new Set(selection.ids);
    if (selection.axis === 'rows') copyRows(clipboard, chosenRows(rows.rows, ids), this.names());
    else
      copyColumns(
        clipboard,
        columns.columns.filter(({ id }) => ids.has(id)),
        columns.columns,
      );
  }

  private paste(data: DataTransfer): undefined {
    const pasted = pastedOf(data);
    const { rows, columns } = this.documents();
    const selection = this.selection();
    if (pasted?.columns) {
      const copies = copiesOfColumns(
        pasted.columns,
        columns.columns.map(({ id }) => id),
      );
      const after = selection?.axis === 'columns' ? selection.at : undefined;
      this.store.changeColumns('Paste columns', (all) => insertColumns(all, copies, after));
      return;
    }
    const after = selection?.axis === 'rows' ? selection.at : undefined;
    let added = pasted?.rows && copiesOf(pasted.rows, rowIds(rows.rows));
    if (!added) {
      const read = rowsFromText(data.getData('text/plain'), this.store.makings()?.accounts ?? [], this.names());
      added = read.rows;
      if (read.unread.length > 0) this.unread.emit(read.unread);
    }
    const made = added;
    if (made.length === 0) return;
    this.store.changeRows('Paste rows', (all) => insertRows(all, made, after));
    this.goTo('rows', made[0]!.id);
  }
}

/** Where a step leads: up and down the labels, left and right the heads, and from the first of the one to the other. */
function nextPlace(from: Spot, rows: number, columns: number): Spot {
  if (from.row === 0) return rows > 0 ? { row: 1, column: 0 } : { row: 0, column: Math.max(1, from.column + columns) };
  if (columns > 0 || from.row + rows < 1) return { row: 0, column: 1 };
  return { row: from.row + rows, column: 0 };
}
