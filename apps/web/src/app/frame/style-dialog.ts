import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { NonNullableFormBuilder, ReactiveFormsModule } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { type MatDialog, MatDialogModule } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { type WritingStyle, writingStyle } from '@margin-lens/core/shown';
import type { ErrorReply } from '@margin-lens/contract';
import { Api } from '../shared/api';

const NUMBERS: readonly { style: WritingStyle['numbers']; sample: string }[] = [
  { style: 'point', sample: '1,234,567.50' },
  { style: 'comma', sample: '1.234.567,50' },
  { style: 'space', sample: '1\u00a0234\u00a0567,50' },
  { style: 'apostrophe', sample: '1’234’567.50' },
];
const DAYS: readonly { style: WritingStyle['days']; sample: string }[] = [
  { style: 'dmy', sample: '31 Aug 2026, typed as 31.8.2026' },
  { style: 'mdy', sample: 'Aug 31, 2026, typed as 8/31/2026' },
  { style: 'ymd', sample: '2026-08-31' },
];

/** How the person reads and types numbers and days; the page is loaded anew, since all of it is written so. */
@Component({
  selector: 'ml-style-dialog',
  imports: [MatButtonModule, MatDialogModule, MatFormFieldModule, MatSelectModule, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Numbers and days</h2>
    <mat-dialog-content>
      <p>How you read, type, paste and take out figures. Files of the ledger package keep their open format.</p>
      <form id="style" [formGroup]="form" (ngSubmit)="save()">
        <mat-form-field>
          <mat-label>Numbers</mat-label>
          <mat-select formControlName="numbers" cdkFocusInitial>
            @for (each of numbers; track each.style) {
              <mat-option [value]="each.style">{{ each.sample }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <mat-form-field>
          <mat-label>Days</mat-label>
          <mat-select formControlName="days">
            @for (each of days; track each.style) {
              <mat-option [value]="each.style">{{ each.sample }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
      </form>
      @if (failure(); as error) {
        <p class="adverse" role="alert">{{ error.message }} {{ error.hint }}</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="outlined" type="button" mat-dialog-close>Cancel</button>
      <button matButton="filled" type="submit" form="style" [disabled]="isSaving()">Save</button>
    </mat-dialog-actions>
  `,
  styles: `
    p {
      margin: 0 0 12px;
    }
    form {
      display: grid;
      gap: 12px;
    }
    .adverse {
      color: var(--adverse);
    }
  `,
})
export class StyleDialog {
  private readonly api = inject(Api);
  protected readonly numbers = NUMBERS;
  protected readonly days = DAYS;
  protected readonly form = inject(NonNullableFormBuilder).group({ ...writingStyle() });
  protected readonly isSaving = signal(false);
  protected readonly failure = signal<ErrorReply | undefined>(undefined);

  protected save(): void {
    this.isSaving.set(true);
    this.api.writeStyle(this.form.getRawValue()).subscribe({
      next: () => location.reload(),
      error: (error: ErrorReply) => {
        this.isSaving.set(false);
        this.failure.set(error);
      },
    });
  }
}

export const openStyleDialog = (dialog: MatDialog): void => void dialog.open(StyleDialog, { width: '420px' });
