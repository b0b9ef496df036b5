import { computed, signal } from '@angular/core';
import type { CellEdit, Cells, DraftRow } from './sheet-model';

const sameCells = (a: Cells, b: Cells) => a.every((text, at) => text === b[at]);

export const isNew = ({ base }: DraftRow): boolean => base === undefined;

/** True for a row that saving would add, change or take out. */
export const isChanged = ({ base, cells, isRemoved }: DraftRow): boolean =>
  isRemoved ? base !== undefined : base === undefined || !sameCells(base, cells);

/** Rows under edit, with undo and redo; each change keeps the list it found. */
export class SheetDraft {
  private readonly lists = signal<readonly (readonly DraftRow[])[]>([[]]);
  private readonly at = signal(0);
  private nextId = 1;

  readonly rows = computed(() => this.lists()[this.at()]!);
  readonly changed = computed(() => this.rows().filter(isChanged));
  readonly canUndo = computed(() => this.at() > 0);
  readonly canRedo = computed(() => this.at() < this.lists().length - 1);
  /** Changes when rows come or go. */
  readonly structure = computed(() =>
    this.rows()
      .map(({ id }) => id)
      .join(' '),
  );

  /** Begins anew from what is saved. */
  reset(rows: readonly Cells[]): void {
    this.lists.set([rows.map((cells): DraftRow => ({ id: this.nextId++, base: cells, cells, isRemoved: false }))]);
    this.at.set(0);
  }

  /** Writes cells, all in one step. */
  edit(edits: readonly CellEdit[]): void {
    const byRow = new Map<number, [number, string][]>();
    for (const { row, column, text } of edits)
      if (row.cells[column] !== text) byRow.set(row.id, [...(byRow.get(row.id) ?? []), [column, text]]);
    if (byRow.size === 0) return;
    this.push(
      this.rows().map((row) => {
        const changes = byRow.get(row.id);
        if (!changes) return row;
        const cells = [...row.cells];
        for (const [column, text] of changes) cells[column] = text;
        return { ...row, cells };
      }),
    );
  }

  /** Adds rows at the end, or behind a row. */
  add(rows: readonly Cells[], behind?: number): void {
    const made = rows.map((cells) => this.made(cells));
    const held = this.rows();
    const at = behind === undefined ? held.length : held.findIndex(({ id }) => id === behind) + 1;
    this.push([...held.slice(0, at), ...made, ...held.slice(at)]);
  }

  /** Marks saved rows for taking out, or takes the mark off where all have it; new rows go at once. */
  toggleRemoved(ids: ReadonlySet<number>): void {
    const held = this.rows();
    const chosen = held.filter(({ id, base }) => ids.has(id) && base !== undefined);
    const isRemoved = !chosen.every((row) => row.isRemoved);
    this.push(
      held
        .filter((row) => !(ids.has(row.id) && row.base === undefined))
        .map((row) => (ids.has(row.id) ? { ...row, isRemoved } : row)),
    );
  }

  /** Makes the rows of a part exactly those wanted, all in one step; rows are told apart by their key. */
  arrange(isPart: (cells: Cells) => boolean, wanted: readonly Cells[], keyOf: (cells: Cells) => string): void {
    const left = new Map(wanted.map((cells) => [keyOf(cells), cells]));
    const kept = this.rows().flatMap((row): DraftRow[] => {
      if (!isPart(row.cells)) return [row];
      const cells = left.get(keyOf(row.cells));
      left.delete(keyOf(row.cells));
      if (cells) return [{ ...row, cells, isRemoved: false }];
      return row.base === undefined ? [] : [{ ...row, cells: row.base, isRemoved: true }];
    });
    this.push([...kept, ...[...left.values()].map((cells) => this.made(cells))]);
  }

  undo(): void {
    if (this.canUndo()) this.at.update((at) => at - 1);
  }

  redo(): void {
    if (this.canRedo()) this.at.update((at) => at + 1);
  }

  private made(cells: Cells): DraftRow {
    return { id: this.nextId++, base: undefined, cells, isRemoved: false };
  }

  private push(rows: readonly DraftRow[]): void {
    this.lists.update((lists) => [...lists.slice(0, this.at() + 1), rows]);
    this.at.update((at) => at + 1);
  }
}
