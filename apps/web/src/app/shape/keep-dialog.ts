import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { FormControl, ReactiveFormsModule } from '@angular/forms';
import { MatInputModule } from '@angular/material/input';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';
import { named } from '../shared/validators';

export interface KeepQuestion {
  /** What would change beside the statement: a layout and the statements that use it. */
  effects: { name: string; uses: string[] }[];
  suggestedName: string;
}
export type KeepAnswer = { how: 'keep' } | { how: 'copy'; name: string } | undefined;

/** Says what else a change would reach, before it is kept. */
@Component({
  selector: 'ml-keep-dialog',
  imports: [MatButtonModule, MatDialogModule, MatFormFieldModule, MatInputModule, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Other statements would change</h2>
    <mat-dialog-content>
      @for (effect of question.effects; track effect.name) {
        <p>
          <strong>{{ effect.name }}</strong> is used by {{ effect.uses.length }}
          {{ effect.uses.length === 1 ? 'other' : 'others' }}: {{ effect.uses.join(', ') }}.
        </p>
      }
      <mat-form-field>
        <mat-label>Or save this statement as a copy, with layouts of its own, called</mat-label>
        <input matInput [formControl]="copyName" />
      </mat-form-field>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="outlined" type="button" [mat-dialog-close]="undefined">Not yet</button>
      <button
        matButton="outlined"
        type="button"
        [disabled]="copyName.invalid"
        [mat-dialog-close]="{ how: 'copy', name: copyName.value.trim() }"
      >
        Save as a copy
      </button>
      <button matButton="filled" type="button" [mat-dialog-close]="{ how: 'keep' }" cdkFocusInitial>
        Keep for all
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    p {
      margin-bottom: 8px;
    }

    mat-form-field {
      width: 100%;
    }
  `,
})
export class KeepDialog {
  protected readonly question = inject<KeepQuestion>(MAT_DIALOG_DATA);
  protected readonly copyName = new FormControl(this.question.suggestedName, { nonNullable: true, validators: named });
}
