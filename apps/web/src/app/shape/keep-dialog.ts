import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';
import type { KeptView } from '@margin-lens/contract';
import { momentInWords } from '../shared/moment';

export interface KeepQuestion {
  /** What would change beside the statement: a layout and the statements that use it. */
  effects: { name: string; uses: string[] }[];
  suggestedName: string;
}
export type KeepAnswer = { how: 'keep' } | { how: 'copy'; name: string } | undefined;

/** Says what else a change would reach, before it is kept. */
@Component({
  selector: 'ml-keep-dialog',
  imports: [MatDialogModule],
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
      <label>
        Or save this statement as a copy, with layouts of its own, called
        <input class="field" #name [value]="question.suggestedName" (input)="copyName.set(name.value)" />
      </label>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button class="button" type="button" [mat-dialog-close]="undefined">Not yet</button>
      <button
        class="button"
        type="button"
        [disabled]="copyName().trim() === ''"
        [mat-dialog-close]="{ how: 'copy', name: copyName().trim() }"
      >
        Save as a copy
      </button>
      <button class="button primary" type="button" [mat-dialog-close]="{ how: 'keep' }" cdkFocusInitial>
        Keep for all
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    p {
      margin-bottom: 8px;
    }
    label {
      display: grid;
      gap: 4px;
      margin-top: 12px;
      color: var(--ink-2);
    }
    .button + .button {
      margin-left: 8px;
    }
  `,
})
export class KeepDialog {
  protected readonly question = inject<KeepQuestion>(MAT_DIALOG_DATA);
  protected readonly copyName = signal(this.question.suggestedName);
}

export interface ConflictQuestion {
  name: string;
  conflict: Extract<KeptView, { state: 'conflict' }>;
}
export type ConflictAnswer = 'merged' | 'mine' | 'copy' | undefined;

/** Someone else kept another state meanwhile: who, what, and what to do about it. */
@Component({
  selector: 'ml-conflict-dialog',
  imports: [MatDialogModule],
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
      <button class="button" type="button" [mat-dialog-close]="undefined">Not yet</button>
      <button class="button" type="button" [mat-dialog-close]="'copy'">Save mine as a copy</button>
      <button class="button primary" type="button" [mat-dialog-close]="'merged'">Bring both together</button>
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
      font: 600 13.5px var(--sans);
    }
    ul {
      margin: 4px 0;
      padding-left: 16px;
    }
    .thin {
      color: var(--ink-2);
    }
    .button + .button {
      margin-left: 8px;
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
