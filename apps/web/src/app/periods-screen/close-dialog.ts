import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';

/** What would be closed, or opened, of all entities. */
export interface CloseQuestion {
  /** Name of the last period. */
  period: string;
  entities: number;
  /** Periods of entities that change. */
  changes: number;
  opens: boolean;
}

/** Asks before periods of all entities are closed or opened. */
@Component({
  selector: 'ml-close-dialog',
  imports: [MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ asked.opens ? 'Open' : 'Close' }} {{ asked.period }} for all entities?</h2>
    <mat-dialog-content>
      @if (asked.opens) {
        <p>{{ asked.period }} takes postings again in {{ asked.entities }} entities. Months before stay closed.</p>
      } @else {
        <p>
          {{ asked.period }} and all months of the year before it are closed in {{ asked.entities }} entities; what is
          closed already stays so. A closed period takes no postings until it is opened again.
        </p>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="outlined" type="button" [mat-dialog-close]="false">Cancel</button>
      <button matButton="filled" type="button" [mat-dialog-close]="true" data-testid="sure">
        {{ asked.opens ? 'Open' : 'Close' }} {{ asked.changes }} {{ asked.changes === 1 ? 'period' : 'periods' }}
      </button>
    </mat-dialog-actions>
  `,
})
export class CloseDialog {
  protected readonly asked = inject<CloseQuestion>(MAT_DIALOG_DATA);
}
