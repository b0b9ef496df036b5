import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import type { PackContext } from '@margin-lens/contract';
import { quotedText, type ShownUnit } from '@margin-lens/core/shown';
import { Api } from '../shared/api';
import { asked } from '../shared/asked';
import { Choice } from '../shared/choice';
import { ErrorState } from '../shared/error-state';
import { WorkspaceStore } from '../shared/workspace-store';
import { named } from '../shared/choice-lists';

/** In what a figure is looked for. */
export interface FigureQuestion {
  context: PackContext;
  /** What money is read in; as its statement has it where it is left out. */
  unit: ShownUnit | undefined;
}

/** A figure that was chosen: its statement, columns and cell, and what it is now. */
export interface ChosenFigure {
  of: string;
  columns: string;
  /** `row~column`. */
  cell: string;
  amount: number | null;
  shown: string;
}

/** Chooses one figure: a statement, its columns, a row and a column. */
@Component({
  selector: 'ml-figure-dialog',
  imports: [ErrorState, MatButtonModule, MatDialogModule, MatProgressBarModule, Choice],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>A figure</h2>
    <mat-dialog-content>
      <div class="fields">
        <ml-choice
          label="Statement"
          [value]="of()"
          [choices]="statements()"
          (chosen)="choose($event)"
          data-testid="figure-of"
        />
        <ml-choice
          label="Columns"
          [value]="columns()"
          [choices]="layouts()"
          (chosen)="ownColumns.set($event)"
          data-testid="figure-columns"
        />
        @if (state().error; as error) {
          <ml-error-state class="whole" [error]="error" (retry)="asking.again()" />
        } @else {
          <ml-choice
            label="Row"
            [value]="row()"
            [choices]="rows()"
            (chosen)="row.set($event)"
            data-testid="figure-row"
          />
          <ml-choice
            label="Column"
            [value]="column()"
            [choices]="heads()"
            (chosen)="column.set($event)"
            data-testid="figure-column"
          />
        }
      </div>
      @if (state().isLoading) {
        <mat-progress-bar mode="indeterminate" aria-label="Reading the statement" />
      }
      <p class="shown" role="status" data-testid="figure-shown">{{ chosen()?.shown ?? '' }}</p>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="outlined" type="button" mat-dialog-close>Cancel</button>
      <button matButton="filled" type="button" [disabled]="!chosen()" (click)="ref.close(chosen())" data-testid="take">
        Take it
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    .fields {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 10px;
    }
    .whole {
      grid-column: 1 / -1;
    }
    .shown {
      min-height: 1.6em;
      margin: 10px 0 0;
      font: 600 18px/1.4 var(--serif);
    }
  `,
})
export class FigureDialog {
  private readonly data = inject<FigureQuestion>(MAT_DIALOG_DATA);
  protected readonly ref = inject<MatDialogRef<FigureDialog, ChosenFigure>>(MatDialogRef);
  private readonly api = inject(Api);
  private readonly workspaces = inject(WorkspaceStore);

  private readonly workspace = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace : undefined;
  });
  private readonly kept = computed(() => this.workspace()?.statements ?? []);
  protected readonly statements = computed(() => named(this.kept()));
  protected readonly layouts = computed(() => named(this.workspace()?.columnLayouts ?? []));
  private readonly own = signal<string | undefined>(undefined);
  protected readonly of = computed(() => this.own() ?? this.workspace()?.defaults.statement ?? undefined);
  protected readonly ownColumns = signal<string | undefined>(undefined);
  protected readonly columns = computed(
    () => this.ownColumns() ?? this.kept().find(({ id }) => id === this.of())?.columns,
  );
  protected readonly row = signal<string | undefined>(undefined);
  protected readonly column = signal<string | undefined>(undefined);

  private readonly question = computed(() => {
    const [of, columns] = [this.of(), this.columns()];
    return of === undefined || columns === undefined ? undefined : { of, columns };
  });
  protected readonly asking = asked(this.question, ({ of, columns }) =>
    this.api.statement(of, { ...this.data.context, columns }),
  );
  protected readonly state = this.asking.state;
  protected readonly rows = computed(() =>
    (this.state().view?.rows ?? []).flatMap(({ id, label, depth, cells }) =>
      cells.length > 0 ? [{ value: id, name: label, depth }] : [],
    ),
  );
  protected readonly heads = computed(() =>
    (this.state().view?.columns ?? []).map(({ id, label, blockLabel, note }) => ({
      value: id,
      name: [blockLabel, label, note].filter(Boolean).join(' · '),
    })),
  );
  protected readonly chosen = computed((): ChosenFigure | undefined => {
    const { view } = this.state();
    const [of, columns, row, column] = [this.of(), this.columns(), this.row(), this.column()];
    const at = view?.columns.findIndex(({ id }) => id === column) ?? -1;
    const figure = view?.rows.find(({ id }) => id === row)?.cells[at];
    if (!figure || !of || !columns) return undefined;
    const unit = this.data.unit ?? this.kept().find(({ id }) => id === of)?.unit ?? 1;
    return { of, columns, cell: `${row}~${column}`, amount: figure.amount, shown: quotedText(figure, unit) };
  });

  /** Another statement has rows and columns of its own. */
  protected choose(of: string | undefined): void {
    this.own.set(of);
    this.ownColumns.set(undefined);
    this.row.set(undefined);
    this.column.set(undefined);
  }
}
