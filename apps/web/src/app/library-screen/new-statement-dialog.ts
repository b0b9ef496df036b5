import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { concatMap, map, of, type Observable } from 'rxjs';
import { freshId, type ColumnLayout, type Document, type RowLayout } from '@margin-lens/core';
import type { ErrorReply, ListedDocument } from '@margin-lens/contract';
import { Api } from '../shared/api';
import { ContextStore } from '../shared/context-store';
import { WorkspaceStore } from '../shared/workspace-store';

type Purpose = 'income' | 'balance_sheet' | 'cash_flow';

/** Rows to begin with, beside the layouts that there are. */
const BEGINNINGS: readonly { value: string; name: string }[] = [
  { value: 'propose:income', name: 'Income statement, proposed from the chart' },
  { value: 'propose:balance_sheet', name: 'Balance sheet, proposed from the chart' },
  { value: 'propose:cash_flow', name: 'Cash flow, proposed from the chart' },
  { value: 'empty', name: 'No rows yet' },
];

/** Asks for a name, rows and columns, makes the statement and opens it in Shape. */
@Component({
  selector: 'ml-new-statement-dialog',
  imports: [MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>New statement</h2>
    <mat-dialog-content>
      <form id="new-statement" (submit)="make($event)">
        <label
          >Name <input class="field" name="name" cdkFocusInitial #name [value]="''" (input)="typed.set(name.value)"
        /></label>
        <label>
          Rows
          <select class="field" name="rows" #rows>
            @for (beginning of BEGINNINGS; track beginning.value) {
              <option [value]="beginning.value">{{ beginning.name }}</option>
            }
            @for (layout of layouts('row_layout'); track layout.id) {
              <option [value]="layout.id">{{ layout.name }}</option>
            }
          </select>
        </label>
        <label>
          Columns
          <select class="field" name="columns" #columns>
            <option value="new">Year to date, to begin with</option>
            @for (layout of layouts('column_layout'); track layout.id) {
              <option [value]="layout.id">{{ layout.name }}</option>
            }
          </select>
        </label>
        @if (error(); as error) {
          <p role="alert">{{ error.message }} {{ error.hint }}</p>
        }
      </form>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button class="button" type="button" mat-dialog-close>Not now</button>
      <button
        class="button primary"
        type="submit"
        form="new-statement"
        [disabled]="typed().trim() === '' || isMaking()"
      >
        Make it
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    label {
      display: grid;
      gap: 3px;
      margin-bottom: 10px;
      color: var(--ink-2);
    }
    [role='alert'] {
      color: var(--adverse);
    }
    .button + .button {
      margin-left: 8px;
    }
  `,
})
export class NewStatementDialog {
  private readonly api = inject(Api);
  private readonly contexts = inject(ContextStore);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly dialog = inject<MatDialogRef<NewStatementDialog>>(MatDialogRef);

  protected readonly BEGINNINGS = BEGINNINGS;
  protected readonly typed = signal('');
  protected readonly isMaking = signal(false);
  protected readonly error = signal<ErrorReply | undefined>(undefined);
  private readonly listed = signal<readonly ListedDocument[]>([]);
  protected readonly layouts = (kind: ListedDocument['kind']) =>
    computed(() => this.listed().filter((document) => document.kind === kind && !document.archived))();

  constructor() {
    this.api.library().subscribe(({ documents }) => this.listed.set(documents));
  }

  protected make(event: Event): void {
    event.preventDefault();
    const form = new FormData(event.target as HTMLFormElement);
    const [name, rows, columns] = ['name', 'rows', 'columns'].map((key) => String(form.get(key))) as [
      string,
      string,
      string,
    ];
    if (name.trim() === '' || this.isMaking()) return;
    this.isMaking.set(true);
    this.rowsOf(rows, name)
      .pipe(
        concatMap((rowId) => this.columnsOf(columns, name).pipe(map((columnId) => [rowId, columnId] as const))),
        concatMap(([rowId, columnId]) =>
          this.api.createDocument({
            schema: 1,
            kind: 'statement',
            id: freshId(name, new Set()),
            name: name.trim(),
            rows: rowId,
            columns: columnId,
            unit: 1000,
          }),
        ),
      )
      .subscribe({
        next: ({ document }) => {
          this.workspaces.reload();
          this.dialog.close();
          this.contexts.openStatement(document.id, true);
        },
        error: (error: ErrorReply) => {
          this.error.set(error);
          this.isMaking.set(false);
        },
      });
  }

  private created(document: Document): Observable<string> {
    return this.api.createDocument(document).pipe(map((view) => view.document.id));
  }

  private rowsOf(choice: string, name: string): Observable<string> {
    const purpose = /^propose:(.+)$/.exec(choice)?.[1] as Purpose | undefined;
    const own = `${name.trim()}, rows`;
    if (purpose)
      return this.api
        .proposal({ purpose })
        .pipe(concatMap((layout) => this.created({ ...layout, id: freshId(own, new Set()), name: own })));
    if (choice !== 'empty') return of(choice);
    const empty: RowLayout = {
      schema: 1,
      kind: 'row_layout',
      id: freshId(own, new Set()),
      name: own,
      purpose: 'free',
      rows: [],
    };
    return this.created(empty);
  }

  private columnsOf(choice: string, name: string): Observable<string> {
    if (choice !== 'new') return of(choice);
    const own = `${name.trim()}, columns`;
    const columns: ColumnLayout = {
      schema: 1,
      kind: 'column_layout',
      id: freshId(own, new Set()),
      name: own,
      columns: [{ kind: 'figure', id: 'ytd', span: 'year_to_date', measure: 'by_nature' }],
    };
    return this.created(columns);
  }
}
