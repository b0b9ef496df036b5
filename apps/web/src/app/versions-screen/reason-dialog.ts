import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { named } from '../shared/validators';

export interface ReasonQuestion {
  title: string;
  says: string;
  act: string;
}

/** Asks for a reason before a version goes back. */
@Component({
  selector: 'ml-reason-dialog',
  imports: [MatButtonModule, MatDialogModule, MatFormFieldModule, MatInputModule, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ data.title }}</h2>
    <mat-dialog-content>
      <p>{{ data.says }}</p>
      <form id="reason" (submit)="$event.preventDefault(); give()">
        <mat-form-field>
          <mat-label>Reason</mat-label>
          <input matInput [formControl]="reason" />
        </mat-form-field>
      </form>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="outlined" type="button" mat-dialog-close>Cancel</button>
      <button matButton="filled" type="submit" form="reason" [disabled]="reason.invalid">{{ data.act }}</button>
    </mat-dialog-actions>
  `,
  styles: `
    form {
      display: grid;
      margin-top: 12px;
    }
  `,
})
export class ReasonDialog {
  protected readonly data = inject<ReasonQuestion>(MAT_DIALOG_DATA);
  private readonly ref = inject<MatDialogRef<ReasonDialog, string>>(MatDialogRef);
  protected readonly reason = new FormControl('', { nonNullable: true, validators: named });

  protected give(): void {
    if (this.reason.valid) this.ref.close(this.reason.value.trim());
  }
}
