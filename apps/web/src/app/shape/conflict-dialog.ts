import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';
import type { KeptView } from '@margin-lens/contract';
import { momentInWords } from '../shared/moment';

export interface ConflictQuestion {
  name: string;
  conflict: Extract<KeptView, { state: 'conflict' }>;
}
export type ConflictAnswer = 'merged' | 'mine' | 'copy' | undefined;

/** Someone else kept another state meanwhile: who, what, and what to do about it. */
@Component({
  selector: 'ml-conflict-dialog',
  imports: [MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ data.conflict.person }} changed {{ data.name }} meanwhile</h2>
    <mat-dialog-content>
      <p class="thin">{{ moment(data.conflict.at) }}</p>
      <div class="sides">
        @for (side of sides; track side.name) {
          <section>
            <h3>{{ side.name }}</h3>
            <ul>
              @for (change of side.changes; track change.what + change.id) {
                <li>
                  {{ change.what }} <strong>{{ change.label }}</strong>
                  @if (change.settings.length > 0) {
                    <span class="thin">{{ change.settings.join(', ') }}</span>
                  }
                </li>
              }
            </ul>
          </section>
        }
      </div>
      @if (data.conflict.conflicts.length > 0) {
        <p>Both changed {{ data.conflict.conflicts.join(', ') }}; brought together, your state stands there.</p>
      } @else {
        <p>The two do not touch the same settings.</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="outlined" type="button" [mat-dialog-close]="undefined">Not yet</button>
      <button matButton="outlined" type="button" [mat-dialog-close]="'copy'">Save mine as a copy</button>
      <button matButton="filled" type="button" [mat-dialog-close]="'merged'">Bring both together</button>
    </mat-dialog-actions>
  `,
  styles: `
    .sides {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 16px;
      margin: 8px 0;
    }
    h3 {
      font: 600 var(--text) var(--sans);
    }
    ul {
      margin: 4px 0;
      padding-left: 16px;
    }
    .thin {
      color: var(--ink-2);
    }
  `,
})
export class ConflictDialog {
  protected readonly data = inject<ConflictQuestion>(MAT_DIALOG_DATA);
  protected readonly moment = momentInWords;
  protected readonly sides = [
    { name: `By ${this.data.conflict.person}`, changes: this.data.conflict.theirs },
    { name: 'By you', changes: this.data.conflict.mine },
  ];
}
