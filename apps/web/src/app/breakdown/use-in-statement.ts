import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { map, of, switchMap } from 'rxjs';
import { freshId, type Column, type ColumnLayout } from '@margin-lens/core';
import { inWords } from '@margin-lens/core/shown';
import type { ErrorReply } from '@margin-lens/contract';
import { Api } from '../shared/api';
import { ContextStore } from '../shared/context-store';
import { WorkspaceStore } from '../shared/workspace-store';
import { StatementStore } from '../statement/statement-store';
import { BreakdownStore } from './breakdown-store';

/** Takes what a breakdown tells apart into a statement of the same rows: below a row of it, or as its columns. */
@Component({
  selector: 'ml-use-in-statement',
  imports: [MatButtonModule, MatIconModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (statements().length > 0 && (below() || across())) {
      <button matButton="outlined" type="button" [matMenuTriggerFor]="uses" data-testid="use-in-statement">
        Use
        <mat-icon iconPositionEnd svgIcon="open" />
      </button>
      <mat-menu #uses="matMenu">
        @if (below(); as row) {
          <button mat-menu-item type="button" [matMenuTriggerFor]="rows">Its values below “{{ row.label }}” of</button>
        }
        @if (across(); as axis) {
          <button mat-menu-item type="button" [matMenuTriggerFor]="columns">{{ axis.name }} as columns of</button>
        }
      </mat-menu>
      <mat-menu #rows="matMenu">
        @for (each of statements(); track each.id) {
          <button mat-menu-item type="button" (click)="layOpen(each.id)">{{ each.name }}</button>
        }
      </mat-menu>
      <mat-menu #columns="matMenu">
        @for (each of statements(); track each.id) {
          <button mat-menu-item type="button" (click)="asColumns(each.id)">{{ each.name }}</button>
        }
      </mat-menu>
    }
    @if (failure(); as error) {
      <span class="adverse" role="alert">{{ error.message }} {{ error.hint }}</span>
    }
  `,
})
export class UseInStatement {
  private readonly breakdowns = inject(BreakdownStore);
  private readonly shown = inject(StatementStore);
  private readonly contexts = inject(ContextStore);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly api = inject(Api);
  protected readonly failure = signal<ErrorReply | undefined>(undefined);

  private readonly workspace = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace : undefined;
  });
  private readonly view = computed(() => this.shown.state().view);
  /** Those that have the rows which are broken down. */
  protected readonly statements = computed(() =>
    (this.workspace()?.statements ?? []).filter(({ rows }) => rows === this.view()?.rowLayout.id),
  );
  private readonly dimensions = computed(() => new Set(this.workspace()?.dimensions.map(({ name }) => name)));

  /** The row whose values can stand below it: of accounts, by their top values alone. */
  protected readonly below = computed(() => {
    const { of = [], rows = [], definition } = this.breakdowns.shown() ?? {};
    const [axis] = definition?.down ?? [];
    const [row, another] = of;
    const isLaidOpen = axis !== undefined && (axis.by === 'account' || this.dimensions().has(axis.by));
    const opens = rows.some(({ id, opens: can }) => id === row?.id && can);
    return row && !another && isLaidOpen && opens ? row : undefined;
  });
  /** The dimension whose values can stand as columns: that across the page, else that down it. */
  protected readonly across = computed(() => {
    const { down = [], across = [] } = this.breakdowns.definition() ?? {};
    const axis = [...across, ...down].find(({ by }) => this.dimensions().has(by));
    return axis && { by: axis.by, name: this.breakdowns.nameOf(axis.by) };
  });

  protected layOpen(statement: string): void {
    const row = this.below();
    const [axis] = this.breakdowns.definition()?.down ?? [];
    if (!row || !axis) return;
    const by = axis.by === 'account' ? 'accounts' : axis.by;
    this.contexts.goTo(`/statements/${statement}`, { breakdown: null, cell: null, open: `${row.id}:${by}` });
  }

  /** Goes to columns of the dimension's values, over the span of the first column that is looked at; kept where there are none. */
  protected asColumns(statement: string): void {
    const [view, axis] = [this.view(), this.across()];
    if (!view || !axis) return;
    this.failure.set(undefined);
    this.api
      .document('column_layout', view.columnLayout.id)
      .pipe(
        switchMap(({ document }) => {
          const columns = columnsOf(document as ColumnLayout, axis);
          const known = this.workspace()?.columnLayouts.find(({ name }) => name === columns.name);
          return known ? of(known.id) : this.api.createDocument(columns).pipe(map((made) => made.document.id));
        }),
      )
      .subscribe({
        next: (columns) => {
          this.workspaces.reload();
          this.contexts.goTo(`/statements/${statement}`, { breakdown: null, cell: null, open: null, columns });
        },
        error: (error: ErrorReply) => this.failure.set(error),
      });
  }
}

type Figure = Extract<Column, { kind: 'figure' }>;

/** One column for each value of a dimension, over the span of the first figure of this year among columns. */
function columnsOf({ columns }: ColumnLayout, { by, name }: { by: string; name: string }): ColumnLayout {
  const figures = columns.filter((column): column is Figure => column.kind === 'figure');
  const first = figures.find(({ yearsBack = 0, version }) => yearsBack === 0 && version === undefined) ?? figures[0];
  const span = first?.span ?? 'year_to_date';
  const series: Column = {
    ...{ kind: 'series', id: 'values', by: 'dimension', dimension: by, total: true },
    ...{ span, measure: first?.measure ?? 'by_nature' },
  };
  const called = `By ${name.toLowerCase()}, ${inWords(span)}`;
  return { schema: 1, kind: 'column_layout', id: freshId(called, new Set()), name: called, columns: [series] };
}
