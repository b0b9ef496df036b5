import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';
import type { VersionView } from '@margin-lens/contract';

/** Asks before a version goes; closes with true when it shall. */
@Component({
  selector: 'ml-delete-version-dialog',
  imports: [MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Delete {{ version.name }}?</h2>
    <mat-dialog-content>
      <p>
        Its figures of all entities go with it{{
          version.changes > 0 ? ', after ' + version.changes + ' changes' : ''
        }}. You can undo this right afterwards.
      </p>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="outlined" type="button" [mat-dialog-close]="false" cdkFocusInitial>Cancel</button>
      <button matButton="filled" type="button" [mat-dialog-close]="true" data-testid="delete-version">Delete</button>
    </mat-dialog-actions>
  `,
})
export class DeleteVersionDialog {
  protected readonly version = inject<VersionView>(MAT_DIALOG_DATA);
}
