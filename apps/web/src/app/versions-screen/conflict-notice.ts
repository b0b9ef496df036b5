import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { FigureWords } from './figure-words';
import type { Conflict } from './step-sender';

/** What is to be done with figures that somebody else changed at the same time. */
export interface Settlement {
  conflicts: readonly Conflict[];
  take: 'theirs' | 'mine';
}

/** Figures that somebody else changed while they were changed here: settled all at once, or one by one. */
@Component({
  selector: 'ml-conflict-notice',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="says" role="alert" data-testid="conflict">
      <span>{{ words() }}</span>
      <button matButton="outlined" type="button" (click)="settle.emit({ conflicts: conflicts(), take: 'theirs' })">
        Keep theirs
      </button>
      <button matButton="outlined" type="button" (click)="settle.emit({ conflicts: conflicts(), take: 'mine' })">
        Keep mine
      </button>
      @if (conflicts().length > 1) {
        <button matButton="outlined" type="button" [attr.aria-expanded]="isOpen()" (click)="isOpen.set(!isOpen())">
          One by one
        </button>
      }
    </div>
    @if (isOpen()) {
      <div class="list" tabindex="0" role="region" aria-label="Figures changed by both">
        <table>
          <thead>
            <tr>
              <th scope="col">Figure</th>
              <th scope="col">Theirs</th>
              <th scope="col">Mine</th>
              <th scope="col"><span class="visually-hidden">Settle</span></th>
            </tr>
          </thead>
          <tbody>
            @for (line of lines(); track line.key) {
              <tr>
                <th scope="row">{{ line.place }}</th>
                <td>{{ line.theirs }}</td>
                <td>{{ line.mine }}</td>
                <td>
                  <button
                    matButton
                    type="button"
                    class="plain"
                    (click)="settle.emit({ conflicts: [line.conflict], take: 'theirs' })"
                  >
                    theirs
                  </button>
                  <button
                    matButton
                    type="button"
                    class="plain"
                    (click)="settle.emit({ conflicts: [line.conflict], take: 'mine' })"
                  >
                    mine
                  </button>
                </td>
              </tr>
            }
          </tbody>
        </table>
      </div>
    }
  `,
  styleUrl: './conflict-notice.scss',
})
export class ConflictNotice {
  readonly conflicts = input.required<readonly Conflict[]>();
  readonly figures = input.required<FigureWords>();
  readonly settle = output<Settlement>();
  protected readonly isOpen = signal(false);

  protected readonly words = computed(() => {
    const conflicts = this.conflicts();
    const people = [...new Set(conflicts.map(({ person }) => person || 'Someone else'))].join(' and ');
    if (conflicts.length === 1) return `${people} changed ${this.figures().place(conflicts[0]!)} meanwhile.`;
    return `${people} meanwhile changed ${conflicts.length} figures that you changed too. Theirs are shown.`;
  });
  protected readonly lines = computed(() => {
    const { place, amount } = this.figures();
    return this.conflicts().map((conflict) => ({
      key: JSON.stringify([conflict.account, conflict.combination, conflict.period]),
      place: place(conflict),
      theirs: amount(conflict, conflict.now),
      mine: amount(conflict, conflict.after),
      conflict,
    }));
  });
}
