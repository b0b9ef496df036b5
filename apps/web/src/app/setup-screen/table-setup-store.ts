import { computed, inject, Injectable, signal, type WritableSignal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { catchError, EMPTY, map, of, Subject, switchMap, type Observable } from 'rxjs';
import type {
  ErrorReply,
  IssueView,
  SavedTable,
  SetupTableName,
  SetupTableView,
  TableChangeView,
  UsesView,
} from '@margin-lens/contract';
import { typedPlain } from '@margin-lens/core/shown';
import { SetupApi } from '../shared/setup-api';
import { SheetDraft } from '../shared/sheet/sheet-draft';
import type { RowProblems } from '../shared/sheet/sheet';
import type { Cells, DraftRow } from '../shared/sheet/sheet-model';
import { readTypedDay } from '../shared/typed-day';
import { plainNumber } from '../shared/typed-amount';
import { inTreeOrder } from './value-tree';
import { WorkspaceStore } from '../shared/workspace-store';

interface Asked {
  name: SetupTableName;
  key: string[];
}

/** Rows in the order of the screen. */
const rowsOf = (table: SetupTableView): Cells[] => {
  const { name, rows } = table;
  const cells = rows.map((row) => asTyped(table, row.cells));
  return name === 'dimensions' ? inTreeOrder(cells) : cells;
};

/** Cells as whoever reads would type them; what files write stays as it is where it is read the same by all. */
const asTyped = ({ columns }: SetupTableView, cells: Cells): Cells =>
  cells.map((text, at) => (NUMBERS.has(columns[at]!.type) ? typedPlain(text) : text));

/** Cells as files write them; what is no number or day is left for the server to say so. */
const asWritten = ({ columns }: SetupTableView, cells: Cells): string[] =>
  cells.map((text, at) => {
    const { type } = columns[at]!;
    if (NUMBERS.has(type)) return plainNumber(text) ?? text;
    return type === 'date' ? (readTypedDay(text) ?? text) : text;
  });

const NUMBERS: ReadonlySet<string> = new Set(['decimal', 'percent']);

/** One table under edit: as it is saved, the draft over it, and what came of saving. */
@Injectable()
export class TableSetupStore {
  private readonly api = inject(SetupApi);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly loads = new Subject<SetupTableName>();
  private readonly asked = new Subject<Asked | undefined>();

  readonly draft = new SheetDraft();
  readonly table = signal<SetupTableView | undefined>(undefined);
  readonly error = signal<ErrorReply | undefined>(undefined);
  /** Why where-used or the history could not be read; the draft stays. */
  readonly lookError = signal<ErrorReply | undefined>(undefined);
  readonly isLoading = signal(true);
  readonly issues = signal<readonly IssueView[]>([]);
  readonly notes = signal<readonly string[]>([]);
  readonly savedCount = signal<number | undefined>(undefined);
  readonly uses = signal<({ key: string[] } & UsesView) | undefined>(undefined);
  readonly history = signal<readonly TableChangeView[] | undefined>(undefined);
  private readonly put = signal<readonly DraftRow[]>([]);

  /** Findings by row and column, as the sheet marks them. */
  readonly problems = computed((): RowProblems => {
    const found = new Map<number, Map<string, string>>();
    for (const { line, column = '', message } of this.issues()) {
      const row = line === undefined ? undefined : this.put()[line - 1];
      if (row) found.set(row.id, (found.get(row.id) ?? new Map<string, string>()).set(column, message));
    }
    return found;
  });

  private readonly posted = computed(
    () =>
      new Set(
        this.table()
          ?.rows.filter(({ isPosted }) => isPosted)
          .map(({ cells }) => this.keyText(cells)),
      ),
  );

  constructor() {
    const failed = <T>(told: WritableSignal<ErrorReply | undefined>) =>
      catchError<T, Observable<never>>((error: ErrorReply) => {
        this.isLoading.set(false);
        told.set(error);
        return EMPTY;
      });
    this.loads
      .pipe(
        switchMap((name) => this.api.setupTable(name).pipe(failed(this.error))),
        takeUntilDestroyed(),
      )
      .subscribe((table) => this.take(table));
    this.asked
      .pipe(
        switchMap((asked) => (asked ? this.usesOf(asked).pipe(failed(this.lookError)) : of(undefined))),
        takeUntilDestroyed(),
      )
      .subscribe((uses) => this.uses.set(uses));
  }

  load(name: SetupTableName): void {
    this.isLoading.set(true);
    this.error.set(undefined);
    this.loads.next(name);
  }

  keyOf(cells: Cells): string[] {
    const table = this.table();
    return table?.key.map((name) => cells[table.columns.findIndex((column) => column.name === name)] ?? '') ?? [];
  }

  isPosted(row: DraftRow): boolean {
    return row.base !== undefined && this.posted().has(this.keyText(row.base));
  }

  /** Sends what has changed; nothing is saved when something in it is wrong. */
  save(): void {
    const table = this.table();
    const changed = this.draft.changed();
    if (!table || changed.length === 0) return;
    const put = changed.filter(({ isRemoved }) => !isRemoved);
    const remove = changed.filter(({ isRemoved }) => isRemoved).map((row) => this.keyOf(row.base!));
    this.put.set(put);
    this.isLoading.set(true);
    this.savedCount.set(undefined);
    this.api
      .saveSetupTable(table.name, {
        base: table.revision,
        put: put.map(({ cells }) => asWritten(table, cells)),
        remove,
      })
      .subscribe({
        next: (saved) => this.takeSaved(saved, changed.length),
        error: (error: ErrorReply) => {
          this.isLoading.set(false);
          this.issues.set([{ code: error.code, severity: 'error', message: error.message, hint: error.hint }]);
        },
      });
  }

  discard(): void {
    const table = this.table();
    this.draft.reset(table ? rowsOf(table) : []);
    this.issues.set([]);
  }

  /** Asks where a row is used. */
  askUses(row: DraftRow | undefined): void {
    const name = this.table()?.name;
    this.lookError.set(undefined);
    this.uses.set(undefined);
    this.asked.next(name && row?.base ? { name, key: this.keyOf(row.base) } : undefined);
  }

  loadHistory(): void {
    const name = this.table()?.name;
    if (!name) return;
    this.lookError.set(undefined);
    this.api.setupHistory(name).subscribe({
      next: (history) => this.history.set(history),
      error: (error: ErrorReply) => this.lookError.set(error),
    });
  }

  /** Takes the rows of a change back into the draft as they were before it; saving makes it so. */
  bringBack({ rows: changed }: TableChangeView): void {
    const typed = (cells: Cells | null) => cells && asTyped(this.table()!, cells);
    const rows = changed.map(({ before, after }) => ({ before: typed(before), after: typed(after) }));
    const held = new Map(this.draft.rows().map((row) => [this.keyText(row.cells), row]));
    const edits = rows.flatMap(({ before }) => {
      const row = before && held.get(this.keyText(before));
      return row ? before.map((text, column) => ({ row, column, text })) : [];
    });
    this.draft.edit(edits);
    const gone = rows.flatMap(({ before }) => (before && !held.has(this.keyText(before)) ? [before] : []));
    if (gone.length > 0) this.draft.add(gone);
    const came = rows.flatMap(({ before, after }) => (before ? [] : (held.get(this.keyText(after!))?.id ?? [])));
    if (came.length > 0) this.draft.toggleRemoved(new Set(came));
  }

  private usesOf({ name, key }: Asked) {
    return this.api.usesOf(name, key).pipe(map((found) => ({ key, ...found })));
  }

  private keyText(cells: Cells): string {
    return JSON.stringify(this.keyOf(cells));
  }

  private take(table: SetupTableView): void {
    this.table.set(table);
    this.isLoading.set(false);
    this.issues.set([]);
    this.draft.reset(rowsOf(table));
  }

  private takeSaved({ issues, notes, table }: SavedTable, count: number): void {
    this.isLoading.set(false);
    this.issues.set(issues);
    if (issues.some(({ severity }) => severity === 'error')) return;
    this.take(table);
    this.issues.set(issues);
    this.notes.set(notes);
    this.savedCount.set(count);
    this.history.set(undefined);
    this.workspaces.reload();
  }
}
