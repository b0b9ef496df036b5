import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog, MatDialogModule } from '@angular/material/dialog';
import type { CanDeactivateFn } from '@angular/router';
import { map, type Observable } from 'rxjs';

/** A screen that can hold what is not saved yet. */
export interface HoldsUnsaved {
  unsaved(): number;
}

@Component({
  selector: 'ml-unsaved-dialog',
  imports: [MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Leave without saving?</h2>
    <mat-dialog-content><p>What was changed here and not saved is lost.</p></mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="outlined" type="button" [mat-dialog-close]="true">Leave</button>
      <button matButton="filled" class="stay" type="button" [mat-dialog-close]="false">Stay</button>
    </mat-dialog-actions>
  `,
  styles: '.stay { margin-left: 8px; }',
})
export class UnsavedDialog {}

/** Asks before a screen with unsaved changes is left for another one. */
export const unsavedGuard: CanDeactivateFn<HoldsUnsaved> = (
  screen,
  _route,
  current,
  next,
): boolean | Observable<boolean> => {
  const isSameScreen = current.url.split('?')[0] === next.url.split('?')[0];
  if (isSameScreen || screen.unsaved() === 0) return true;
  return inject(MatDialog)
    .open<UnsavedDialog, void, boolean>(UnsavedDialog, { width: '420px' })
    .afterClosed()
    .pipe(map((leaves) => leaves === true));
};
