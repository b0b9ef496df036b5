import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';

export interface UndoQuestion {
  fileName: string;
  words: string;
}

/** Asks whether a delivery shall be undone. */
@Component({
  selector: 'ml-undo-dialog',
  imports: [MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Undo {{ question.fileName }}?</h2>
    <mat-dialog-content>
      <p>It brought {{ question.words }}.</p>
      <p>
        All of that goes out of the books again, and what it had changed or removed comes back. It can be brought in
        anew.
      </p>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="outlined" type="button" [mat-dialog-close]="false">Keep it</button>
      <button matButton="filled" type="button" [mat-dialog-close]="true" data-testid="sure">Undo it</button>
    </mat-dialog-actions>
  `,
  styles: `
    p {
      margin-bottom: 8px;
    }
  `,
})
export class UndoDialog {
  protected readonly question = inject<UndoQuestion>(MAT_DIALOG_DATA);
}
