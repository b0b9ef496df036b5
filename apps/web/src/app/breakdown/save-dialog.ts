import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { freshId, type BreakdownDocument } from '@margin-lens/core';
import type { ErrorReply } from '@margin-lens/contract';
import { Api } from '../shared/api';

/** Keeps a breakdown under a name of its own; closes with its id. */
@Component({
  selector: 'ml-save-breakdown-dialog',
  imports: [MatButtonModule, MatDialogModule, MatFormFieldModule, MatInputModule, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Keep this breakdown</h2>
    <mat-dialog-content>
      <form id="save" [formGroup]="form" (ngSubmit)="keep()">
        <mat-form-field>
          <mat-label>Name</mat-label>
          <input matInput formControlName="name" maxlength="200" data-testid="breakdown-name" />
          @if (form.controls.name.hasError('required')) {
            <mat-error>It needs a name.</mat-error>
          }
        </mat-form-field>
        <mat-form-field>
          <mat-label>Folder</mat-label>
          <input matInput formControlName="folder" maxlength="60" />
          <mat-hint>Empty keeps it outside of all folders.</mat-hint>
        </mat-form-field>
        @if (failure(); as error) {
          <p class="issue" role="alert">{{ error.message }} {{ error.hint }}</p>
        }
      </form>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="outlined" type="button" mat-dialog-close>Cancel</button>
      <button matButton="filled" type="submit" form="save" [disabled]="isKeeping()">Keep</button>
    </mat-dialog-actions>
  `,
  styles: `
    form {
      display: grid;
      gap: 10px;
    }
  `,
})
export class SaveBreakdownDialog {
  private readonly data = inject<BreakdownDocument>(MAT_DIALOG_DATA);
  private readonly ref = inject<MatDialogRef<SaveBreakdownDialog, string>>(MatDialogRef);
  private readonly api = inject(Api);
  protected readonly failure = signal<ErrorReply | undefined>(undefined);
  protected readonly isKeeping = signal(false);
  protected readonly form = new FormGroup({
    name: new FormControl(this.data.name, { nonNullable: true, validators: Validators.required }),
    folder: new FormControl(this.data.folder ?? '', { nonNullable: true }),
  });

  protected keep(): void {
    const name = this.form.controls.name.value.trim();
    if (name === '') return this.form.markAllAsTouched();
    const folder = this.form.controls.folder.value.trim();
    const { folder: _, ...document } = this.data;
    this.isKeeping.set(true);
    this.api
      .createDocument({ ...document, id: freshId(name, new Set()), name, ...(folder !== '' && { folder }) })
      .subscribe({
        next: (view) => this.ref.close(view.document.id),
        error: (error: ErrorReply) => {
          this.failure.set(error);
          this.isKeeping.set(false);
        },
      });
  }
}
