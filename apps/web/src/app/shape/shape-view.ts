import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  HostListener,
  inject,
  input,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { Screen } from '../shared/screen';
import { MatIconModule } from '@angular/material/icon';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatMenuModule } from '@angular/material/menu';
import { catchError, concatMap, EMPTY, from, last, map, of, switchMap, type Observable } from 'rxjs';
import type { Document, ProposedPurpose } from '@margin-lens/core';
import type { ErrorReply, KeptView, StatementContext } from '@margin-lens/contract';
import { ContextStore } from '../shared/context-store';
import { ShownStatement } from '../shared/shown-statement';
import { UndoButtons } from '../shared/undo-buttons';
import { WorkspaceStore } from '../shared/workspace-store';
import { Api } from '../shared/api';
import { ConflictDialog, type ConflictAnswer, type ConflictQuestion } from './conflict-dialog';
import { KeepDialog, type KeepAnswer, type KeepQuestion } from './keep-dialog';
import { ShapePanel } from './shape-panel';
import { ShapeStore } from './shape-store';
import { ShapeTable } from './shape-table';
import { SaveKey } from '../shared/save-key';

/** Shape: the statement with its rules on the live figures, the panel beside it, undo and redo, and Keep. */
@Component({
  selector: 'ml-shape-view',
  imports: [
    SaveKey,
    MatButtonModule,
    MatButtonToggleModule,
    MatIconModule,
    MatMenuModule,
    Screen,
    ShapePanel,
    ShapeTable,
    UndoButtons,
  ],
  providers: [ShapeStore],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './shape-view.html',
  styleUrls: ['../shared/screen-frame.scss', './shape-view.scss'],
})
export class ShapeView {
  readonly statement = input.required<string>();
  readonly context = input.required<StatementContext>();
  readonly left = output();

  protected readonly store = inject(ShapeStore);
  protected readonly contexts = inject(ContextStore);
  private readonly shown = inject(ShownStatement);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly dialog = inject(MatDialog);
  protected readonly api = inject(Api);
  protected readonly table = viewChild(ShapeTable);
  private readonly panel = viewChild(ShapePanel);

  protected readonly answer = this.store.answer;
  protected readonly unit = computed(() => this.store.documents()?.statement.unit ?? 1);
  protected readonly failure = signal<ErrorReply | undefined>(undefined);
  protected readonly unread = signal<string[]>([]);
  protected readonly isKeeping = signal(false);
  protected readonly subtitle = computed(() => {
    const documents = this.store.documents();
    if (!documents) return '';
    const used = (count: number) => (count === 0 ? 'used here alone' : `used by ${count} more`);
    const { rows, columns } = this.store.uses();
    return `Rows ${documents.rows.name}, ${used(rows.length)} · Columns ${documents.columns.name}, ${used(columns.length)}`;
  });
  protected readonly state = computed(() => {
    const changed = this.store.changed().length;
    if (changed === 0) return 'As it is kept';
    return {
      none: 'Draft',
      saving: 'Saving the draft…',
      saved: 'Draft saved, seen by you alone',
      failed: 'The draft could not be saved',
      elsewhere: 'The draft was changed in another window',
    }[this.store.draftState()];
  });

  constructor() {
    effect(() => {
      const [statement, context] = [this.statement(), this.context()];
      untracked(() => this.store.open(statement, context));
    });
    let hasFocused = false;
    effect(() => {
      if (hasFocused || !this.table()) return;
      hasFocused = true;
      this.table()!.focus();
    });
  }

  protected light(column: string | undefined): void {
    this.shown.litColumn.set(column);
  }

  protected edit(): void {
    this.panel()?.focusFirst();
  }

  @HostListener('keydown', ['$event'])
  protected onKey(event: KeyboardEvent): void {
    if (event.key === 'Escape') {
      event.preventDefault();
      this.table()?.focus();
      return;
    }
    if (!(event.ctrlKey || event.metaKey)) return;
    if (event.key.toLowerCase() === 'z') {
      if (event.shiftKey) this.store.redo();
      else this.store.undo();
    } else if (event.key === 'Enter') this.keep();
    else return;
    event.preventDefault();
  }

  protected keep(): void {
    const documents = this.store.documents();
    if (!documents || this.store.changed().length === 0 || this.isKeeping()) return;
    const changed = this.store.changed();
    const effects = (['rows', 'columns'] as const)
      .filter((key) => changed.includes(key) && this.store.uses()[key].length > 0)
      .map((key) => ({ name: documents[key].name, uses: this.store.uses()[key].map(({ name }) => name) }));
    this.failure.set(undefined);
    if (effects.length === 0) return this.keepAll();
    const data: KeepQuestion = { effects, suggestedName: `${documents.statement.name}, own layouts` };
    this.dialog
      .open<KeepDialog, KeepQuestion, KeepAnswer>(KeepDialog, { width: '480px', data })
      .afterClosed()
      .subscribe((answer) => {
        if (answer?.how === 'keep') this.keepAll();
        if (answer?.how === 'copy') this.keepCopy(answer.name);
        this.table()?.focus();
      });
  }

  private keepAll(): void {
    this.isKeeping.set(true);
    from(this.store.toKeep())
      .pipe(
        concatMap((document) => this.store.keepOne(document).pipe(switchMap((kept) => this.settled(document, kept)))),
        last(undefined, undefined),
        switchMap(() => this.store.reopen()),
        catchError((error: ErrorReply) => this.failed(error)),
      )
      .subscribe({
        next: () => this.workspaces.reload(),
        complete: () => this.isKeeping.set(false),
      });
  }

  /** Asks what to do when someone else kept another state, and does it. */
  private settled(document: Document, kept: KeptView): Observable<unknown> {
    if (kept.state === 'kept') return of(kept);
    const data: ConflictQuestion = { name: document.name, conflict: kept };
    return this.dialog
      .open<ConflictDialog, ConflictQuestion, ConflictAnswer>(ConflictDialog, { width: '640px', data })
      .afterClosed()
      .pipe(
        switchMap((answer) => {
          if (answer === 'merged') return this.store.keepOne(kept.merged, kept.base);
          if (answer === 'copy')
            return this.store
              .keepAsCopies(`${this.store.documents()!.statement.name}, mine`)
              .pipe(map((made) => this.contexts.openStatement(made.id)));
          return EMPTY;
        }),
      );
  }

  private keepCopy(name: string): void {
    this.isKeeping.set(true);
    this.store
      .keepAsCopies(name)
      .pipe(catchError((error: ErrorReply) => this.failed(error)))
      .subscribe({
        next: (made) => {
          this.workspaces.reload();
          this.contexts.openStatement(made.id);
        },
        complete: () => this.isKeeping.set(false),
      });
  }

  private failed(error: ErrorReply): Observable<never> {
    this.failure.set(error);
    this.isKeeping.set(false);
    return EMPTY;
  }

  /** Puts proposed rows in the place of those of the layout. */
  protected propose(purpose: ProposedPurpose): void {
    this.api.proposal({ purpose }).subscribe({
      next: ({ id: _id, name: _name, ...proposed }) =>
        this.store.change('Propose rows from the chart', (documents) => ({
          ...documents,
          rows: { ...proposed, id: documents.rows.id, name: documents.rows.name },
        })),
      error: (error: ErrorReply) => this.failure.set(error),
    });
  }
}
