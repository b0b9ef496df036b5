import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { concatMap, map, of, type Observable } from 'rxjs';
import { freshId, type ColumnLayout, type Document, type RowLayout } from '@margin-lens/core';
import type { ErrorReply, ListedDocument } from '@margin-lens/contract';
import { Api } from '../shared/api';
import { ContextStore } from '../shared/context-store';
import { named } from '../shared/validators';
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
  imports: [MatButtonModule, MatDialogModule, MatFormFieldModule, MatInputModule, MatSelectModule, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>New statement</h2>
    <mat-dialog-content>
      <form id="new-statement" [formGroup]="form" (ngSubmit)="make()">
        <mat-form-field>
          <mat-label>Name</mat-label>
          <input matInput formControlName="name" cdkFocusInitial />
        </mat-form-field>
        <mat-form-field>
          <mat-label>Rows</mat-label>
          <mat-select formControlName="rows">
            @for (beginning of BEGINNINGS; track beginning.value) {
              <mat-option [value]="beginning.value">{{ beginning.name }}</mat-option>
            }
            @for (layout of layouts('row_layout'); track layout.id) {
              <mat-option [value]="layout.id">{{ layout.name }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <mat-form-field>
          <mat-label>Columns</mat-label>
          <mat-select formControlName="columns">
            <mat-option value="new">Year to date, to begin with</mat-option>
            @for (layout of layouts('column_layout'); track layout.id) {
              <mat-option [value]="layout.id">{{ layout.name }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        @if (error(); as error) {
          <p role="alert">{{ error.message }} {{ error.hint }}</p>
        }
      </form>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="outlined" type="button" mat-dialog-close>Cancel</button>
      <button matButton="filled" type="submit" form="new-statement" [disabled]="form.invalid || isMaking()">
        Create
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    form {
      display: grid;
      gap: 8px;
    }
    [role='alert'] {
      color: var(--adverse);
    }
  `,
})
export class NewStatementDialog {
  private readonly api = inject(Api);
  private readonly contexts = inject(ContextStore);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly dialog = inject<MatDialogRef<NewStatementDialog>>(MatDialogRef);

  protected readonly BEGINNINGS = BEGINNINGS;
  protected readonly form = inject(NonNullableFormBuilder).group({
    name: ['', named],
    rows: BEGINNINGS[0]!.value,
    columns: 'new',
  });
  protected readonly isMaking = signal(false);
  protected readonly error = signal<ErrorReply | undefined>(undefined);
  private readonly listed = signal<readonly ListedDocument[]>([]);
  protected readonly layouts = (kind: ListedDocument['kind']) =>
    computed(() => this.listed().filter((document) => document.kind === kind && !document.archived))();

  constructor() {
    this.api.library().subscribe(({ documents }) => this.listed.set(documents));
  }

  protected make(): void {
    if (this.form.invalid || this.isMaking()) return;
    const { name, rows, columns } = this.form.getRawValue();
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
