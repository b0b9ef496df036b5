import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { InWordsPipe } from './in-words-pipe';
import { WorkspaceStore } from './workspace-store';

/** A value of a dimension; without one where the value is empty. */
export interface DimensionValue {
  dimension: string;
  value: string;
}

/** A button that has a value of a dimension chosen: first the dimension, then the value. */
@Component({
  selector: 'ml-value-menu',
  imports: [InWordsPipe, MatButtonModule, MatIconModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (valued().length > 0) {
      <button matButton="outlined" type="button" [matMenuTriggerFor]="values" [attr.aria-label]="label()">
        {{ text() }}
        <mat-icon iconPositionEnd svgIcon="open" />
      </button>
      <mat-menu #values="matMenu">
        @for (dimension of valued(); track dimension.name) {
          <button mat-menu-item type="button" [matMenuTriggerFor]="valuesOf" [matMenuTriggerData]="{ dimension }">
            {{ dimension.name | inWords }}
          </button>
        }
      </mat-menu>
      <mat-menu #valuesOf="matMenu">
        <ng-template matMenuContent let-dimension="dimension">
          @for (value of dimension.values; track value.value) {
            <button
              mat-menu-item
              type="button"
              (click)="chosen.emit({ dimension: dimension.name, value: value.value })"
            >
              {{ value.name || value.value }}
            </button>
          }
          @if (offersNone()) {
            <button mat-menu-item type="button" (click)="chosen.emit({ dimension: dimension.name, value: '' })">
              Without {{ dimension.name | inWords }}
            </button>
          }
        </ng-template>
      </mat-menu>
    }
  `,
})
export class ValueMenu {
  readonly text = input('Value');
  /** What it is called where its text does not say it all. */
  readonly label = input<string | null>(null);
  /** Whether a dimension can be chosen without a value. */
  readonly offersNone = input(false);
  readonly chosen = output<DimensionValue>();

  private readonly workspaces = inject(WorkspaceStore);
  protected readonly valued = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace.dimensions.filter(({ values }) => values.length > 0) : [];
  });
}
