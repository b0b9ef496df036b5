import {
  ChangeDetectionStrategy,
  ChangeDetectorRef,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { CdkDrag, CdkDropList, type CdkDragDrop } from '@angular/cdk/drag-drop';
import { MatMenuModule } from '@angular/material/menu';
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
import { copyColumns, copyRows, pastedOf } from './shape-clipboard';
import { shapeHeads, shapeRows } from './shape-table-view';
import { COLUMN_KINDS, ROW_KINDS } from './shape-words';
import { newColumn, newRow, type Documents } from './shape-edits';
import { ShapeStore, type Selection } from './shape-store';

/**
 * The statement with the rules of its rows and columns beside the live figures.
 *
 * One tab stop: arrows go over the labels and the heads, Shift selects several, Alt moves them. What is selected is
 * edited in the panel; a label in place.
 */
@Component({
  selector: 'ml-shape-table',
  imports: [CdkDrag, CdkDropList, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './shape-table.html',
  styleUrl: './shape-table.scss',
  host: {
    '(copy)': 'copy($event)',
    '(cut)': 'cut($event)',
    '(paste)': 'paste($event)',
    '(focusin)': 'onFocus(true, $event)',
    '(focusout)': 'onFocus(false, $event)',
  },
})
export class ShapeTable {
  readonly documents = input.required<Documents>();
  readonly view = input<StatementView>();
  readonly unit = input.required<ShownUnit>();
  readonly light = output<string | undefined>();
  /** The selection is to be edited in the panel. */
  readonly edit = output();
  readonly unread = output<string[]>();

  protected readonly store = inject(ShapeStore);
  private readonly changes = inject(ChangeDetectorRef);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  protected readonly ROW_KINDS = ROW_KINDS;
  protected readonly COLUMN_KINDS = COLUMN_KINDS;
  /** Row or column whose words are edited in place. */
  protected readonly editing = signal<string | undefined>(undefined);

  /** Totals whose rows are folded away here. */
  protected readonly folded = signal<ReadonlySet<string>>(new Set());

  protected readonly names = computed<NameSpace>(() => ({
    own: outlineOf(this.documents().rows.rows).map(({ row }) => ({ id: row.id, label: row.label })),
    others: this.store.makings()?.rowLayouts ?? [],
  }));

  protected readonly rows = computed(() =>
    shapeRows(this.documents(), this.view(), this.names(), this.unit(), this.folded()),
  );
  protected readonly heads = computed(() => shapeHeads(this.documents(), this.view()));
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

  /** The selection as far as it stands there; nothing where an undo took it away. */
  private readonly present = computed(() => {
    const selection = this.selection();
    return selection && this.ordered(selection.axis).includes(selection.at) ? selection : undefined;
  });

  /** What Tab reaches: the selected label or head, else the first label. */
  protected isEntry(axis: Selection['axis'], id: string): boolean {
    const selection = this.present();
    if (selection) return selection.axis === axis && selection.at === id;
    return axis === 'rows' && this.rows()[0]?.id === id;
  }

  constructor() {
    // an undo takes the row away that has the keyboard; then what stands there has it
    effect(() => {
      this.documents();
      if (this.holdsKeyboard)
        setTimeout(() => {
          if (document.activeElement === document.body) this.focus();
        });
    });
  }

  private holdsKeyboard = false;
  protected onFocus(isIn: boolean, { relatedTarget }: FocusEvent): void {
    // what goes away with the keyboard on it is left for nothing
    this.holdsKeyboard = isIn || relatedTarget === null;
  }

  private ordered(axis: Selection['axis']): string[] {
    return axis === 'rows' ? this.rows().map(({ id }) => id) : this.documents().columns.columns.map(({ id }) => id);
  }

  select(axis: Selection['axis'], id: string, extends_ = false, adds = false): void {
    const before = this.selection();
    const ids = this.ordered(axis);
    const isSame = before?.axis === axis;
    const anchor = isSame && extends_ ? before.ids[0]! : id;
    const [from, to] = [ids.indexOf(anchor), ids.indexOf(id)].sort((a, b) => a - b) as [number, number];
    const range = ids.slice(from, to + 1);
    const kept =
      isSame && adds
        ? [...new Set([...before.ids.filter((each) => each !== id), ...(before.ids.includes(id) ? [] : [id])])]
        : undefined;
    const chosen = kept ?? (ids.indexOf(anchor) > ids.indexOf(id) ? range.reverse() : range);
    this.selection.set({ axis, ids: chosen.length > 0 ? chosen : [id], at: id });
    this.light.emit(axis === 'columns' ? this.heads().find(({ source }) => source === id)?.id : undefined);
    this.focus();
  }

  /** Brings the keyboard to what is selected, once it is drawn. */
  focus(): void {
    setTimeout(() => {
      if (this.editing() !== undefined) return;
      const entry = this.host.nativeElement.querySelector<HTMLElement>('[data-entry]');
      entry?.focus({ preventScroll: true });
      entry?.scrollIntoView({ block: 'nearest', inline: 'nearest' });
    });
  }

  protected press(event: MouseEvent, axis: Selection['axis'], id: string): void {
    if (this.editing() === id) return;
    this.editing.set(undefined);
    this.select(axis, id, event.shiftKey, event.ctrlKey || event.metaKey);
  }

  protected startEditing(id: string): void {
    this.editing.set(id);
    this.changes.detectChanges(); // drawn at once, so that no key that follows is lost
    if (!this.enterField()) setTimeout(() => this.enterField()); // a row that was only just made
  }

  /** Brings the keyboard to the label that is edited, with all of it selected; false while it is not drawn. */
  private enterField(): boolean {
    const input = this.host.nativeElement.querySelector<HTMLInputElement>('input.in-place');
    input?.focus();
    input?.select();
    return input !== null;
  }

  protected endEditing(event: Event, text: string | undefined, next: 0 | 1 = 0): void {
    const id = this.editing();
    const selection = this.selection();
    event.stopPropagation();
    event.preventDefault();
    this.editing.set(undefined);
    if (id === undefined || !selection) return;
    if (text !== undefined) {
      if (selection.axis === 'rows')
        this.store.changeRows('Rename a row', (rows) =>
          changeRows(rows, new Set([id]), (row) => ({ ...row, label: text })),
        );
      else this.rename(id, text);
    }
    if (next) this.move(next);
    else this.focus();
  }

  private rename(id: string, text: string): void {
    this.store.changeColumns('Rename a column', (columns) =>
      changeColumns(
        columns,
        new Set([id]),
        ({ heading: _, ...column }) => (text.trim() === '' ? column : { ...column, heading: text.trim() }) as Column,
      ),
    );
  }

  protected textOf(event: Event): string {
    return (event.target as HTMLInputElement).value;
  }

  protected onKey(event: KeyboardEvent): void {
    if (this.editing() !== undefined) return;
    const act = this.actionOf(event);
    if (!act) return;
    event.preventDefault();
    event.stopPropagation();
    act();
  }

  private actionOf(event: KeyboardEvent): (() => void) | undefined {
    const { key, altKey, shiftKey } = event;
    const selection = this.present() ?? { axis: 'rows' as const, ids: [], at: this.rows()[0]?.id ?? '' };
    const isRows = selection.axis === 'rows';
    if (event.ctrlKey || event.metaKey) {
      if (key.toLowerCase() !== 'z') return undefined;
      return () => (shiftKey ? this.store.redo() : this.store.undo());
    }
    if (altKey) return isRows ? this.altOnRows(key) : this.altOnColumns(key);
    const steps: Record<string, () => void> = {
      ArrowUp: () => isRows && this.move(-1, shiftKey),
      ArrowDown: () => (isRows ? this.move(1, shiftKey) : this.select('rows', this.rows()[0]?.id ?? '')),
      ArrowLeft: () => !isRows && this.move(-1, shiftKey),
      ArrowRight: () =>
        isRows ? this.select('columns', this.documents().columns.columns[0]!.id) : this.move(1, shiftKey),
      Home: () => this.select(selection.axis, this.ordered(selection.axis)[0]!),
      End: () => this.select(selection.axis, this.ordered(selection.axis).at(-1)!),
      Enter: () => this.startEditing(selection.at),
      F2: () => this.startEditing(selection.at),
      Insert: () => (isRows ? this.addRow('accounts') : this.addColumn('figure')),
      Delete: () => this.remove(),
      e: () => this.edit.emit(),
      d: () => this.duplicate(),
      g: () => isRows && this.group(),
      ' ': () => isRows && this.toggleFold(selection.at),
    };
    return steps[key.length === 1 ? key.toLowerCase() : key];
  }

  protected toggleFold(id: string): void {
    const folded = new Set(this.folded());
    if (!folded.delete(id)) folded.add(id);
    this.folded.set(folded);
    this.focus();
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
    return move && (() => (this.store.changeRows(...move), this.focus()));
  }

  private altOnColumns(key: string): (() => void) | undefined {
    const ids = new Set(this.selection()?.ids);
    const step = { ArrowLeft: -1 as const, ArrowRight: 1 as const }[key];
    if (!step) return undefined;
    return () => {
      this.store.changeColumns('Move columns', (columns) => nudgeColumns(columns, ids, step));
      this.focus();
    };
  }

  private move(step: 1 | -1, extends_ = false): void {
    const { axis, at } = this.selection() ?? { axis: 'rows' as const, at: '' };
    const ids = this.ordered(axis);
    const next = ids[ids.indexOf(at) + step];
    if (next !== undefined) this.select(axis, next, extends_);
    else if (axis === 'rows' && step < 0) this.select('columns', this.documents().columns.columns[0]!.id);
    else this.focus();
  }

  addRow(kind: RowKind): void {
    const { rows } = this.documents();
    const selection = this.selection();
    const after = selection?.axis === 'rows' ? selection.at : undefined;
    const row = newRow(kind, rows, after);
    const isGroup =
      after !== undefined &&
      outlineOf(rows.rows).some(
        (place) => place.row.id === after && place.row.kind === 'group' && place.row.children.length > 0,
      );
    this.store.changeRows('Add a row', (all) => insertRows(all, [row], after, isGroup ? 'inside' : 'after'));
    this.select('rows', row.id);
    if (kind !== 'line' && kind !== 'blank') this.startEditing(row.id);
  }

  addColumn(kind: ColumnKind): void {
    const { columns } = this.documents().columns;
    const selection = this.selection();
    const after = selection?.axis === 'columns' ? selection.at : columns.at(-1)?.id;
    const column = newColumn(kind, columns, after);
    this.store.changeColumns('Add a column', (all) => insertColumns(all, [column], after));
    this.select('columns', column.id);
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
    else this.select(selection.axis, at);
  }

  duplicate(): void {
    const selection = this.selection();
    if (!selection) return;
    const { rows, columns } = this.documents();
    const ids = new Set(selection.ids);
    if (selection.axis === 'rows') {
      const copies = copiesOf(chosenRows(rows.rows, ids), rowIds(rows.rows));
      this.store.changeRows('Duplicate rows', (all) => insertRows(all, copies, selection.at));
      if (copies[0]) this.select('rows', copies[0].id);
    } else {
      const copies = copiesOfColumns(
        columns.columns.filter(({ id }) => ids.has(id)),
        columns.columns.map(({ id }) => id),
      );
      this.store.changeColumns('Duplicate columns', (all) => insertColumns(all, copies, selection.at));
      if (copies[0]) this.select('columns', copies[0].id);
    }
  }

  group(): void {
    const ids = new Set(this.selection()?.ids);
    const made = newRow('group', this.documents().rows, undefined);
    if (made.kind !== 'group' || ids.size === 0) return;
    this.store.changeRows('Put rows into a total', (rows) => groupRows(rows, ids, made));
    this.select('rows', made.id);
    this.startEditing(made.id);
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
    this.select('rows', moved.id);
  }

  protected dropColumn(event: CdkDragDrop<unknown>): void {
    const heads = this.heads();
    const moved = heads[event.previousIndex]?.source;
    const rest = heads.filter((_, index) => index !== event.previousIndex);
    const before = rest[event.currentIndex]?.source;
    if (moved === undefined || moved === before) return;
    const ids = this.isChosen('columns', moved) ? new Set(this.selection()!.ids) : new Set([moved]);
    this.store.changeColumns('Move columns', (columns) => moveColumns(columns, ids, before));
    this.select('columns', moved);
  }

  protected copy(event: ClipboardEvent): void {
    const selection = this.selection();
    if (!selection || !event.clipboardData || this.editing() !== undefined) return;
    const { rows, columns } = this.documents();
    const ids = new Set(selection.ids);
    if (selection.axis === 'rows') copyRows(event.clipboardData, chosenRows(rows.rows, ids), this.names());
    else
      copyColumns(
        event.clipboardData,
        columns.columns.filter(({ id }) => ids.has(id)),
        columns.columns,
      );
    event.preventDefault();
  }

  protected cut(event: ClipboardEvent): void {
    this.copy(event);
    if (event.defaultPrevented) this.remove();
  }

  protected paste(event: ClipboardEvent): void {
    const data = event.clipboardData;
    if (!data || this.editing() !== undefined) return;
    const pasted = pastedOf(data);
    const { rows, columns } = this.documents();
    const selection = this.selection();
    event.preventDefault();
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
    this.select('rows', made[0]!.id);
  }
}
