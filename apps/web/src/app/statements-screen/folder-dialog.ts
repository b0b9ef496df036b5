import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatAutocompleteModule } from '@angular/material/autocomplete';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';

export interface FolderQuestion {
  name: string;
  folder: string;
  folders: readonly string[];
}

/** Asks for the folder of a statement: one that there is, a new one, or none. */
@Component({
  selector: 'ml-folder-dialog',
  imports: [
    MatAutocompleteModule,
    MatButtonModule,
    MatDialogModule,
    MatFormFieldModule,
    MatInputModule,
    ReactiveFormsModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Move {{ data.name }}</h2>
    <mat-dialog-content>
      <form id="folder" (submit)="$event.preventDefault(); move()">
        <mat-form-field>
          <mat-label>Folder</mat-label>
          <input matInput maxlength="60" [formControl]="folder" [matAutocomplete]="folders" />
          <mat-autocomplete #folders="matAutocomplete">
            @for (name of offered(); track name) {
              <mat-option [value]="name">{{ name }}</mat-option>
            }
          </mat-autocomplete>
          <mat-hint>A new name makes a new folder; empty takes it out of its folder.</mat-hint>
        </mat-form-field>
      </form>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="outlined" type="button" mat-dialog-close>Cancel</button>
      <button matButton="filled" type="submit" form="folder">Move</button>
    </mat-dialog-actions>
  `,
  styles: `
    form {
      display: grid;
    }
  `,
})
export class FolderDialog {
  protected readonly data = inject<FolderQuestion>(MAT_DIALOG_DATA);
  private readonly ref = inject<MatDialogRef<FolderDialog, string>>(MatDialogRef);
  protected readonly folder = new FormControl(this.data.folder, { nonNullable: true });
  private readonly typed = toSignal(this.folder.valueChanges, { initialValue: '' });
  protected readonly offered = computed(() =>
    this.data.folders.filter((name) => name.toLowerCase().includes(this.typed().trim().toLowerCase())),
  );

  protected move(): void {
    this.ref.close(this.folder.value.trim());
  }
}
