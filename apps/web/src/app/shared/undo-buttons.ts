import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';

/** Undo and redo, each saying what it would take back or do again. */
@Component({
  selector: 'ml-undo-buttons',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button
      class="button"
      type="button"
      aria-label="Undo"
      [disabled]="undoes() === undefined"
      [title]="undoes() === undefined ? 'Nothing to undo' : 'Undo: ' + undoes()"
      (click)="undone.emit()"
    >
      ↶
    </button>
    <button
      class="button"
      type="button"
      aria-label="Redo"
      [disabled]="redoes() === undefined"
      [title]="redoes() === undefined ? 'Nothing to redo' : 'Redo: ' + redoes()"
      (click)="redone.emit()"
    >
      ↷
    </button>
  `,
  styles: `
    :host {
      display: flex;
      gap: 8px;
    }
    .button {
      width: var(--control);
      padding: 0;
      justify-content: center;
    }
  `,
})
export class UndoButtons {
  /** What undo would take back; nothing where it is left out. */
  readonly undoes = input<string>();
  readonly redoes = input<string>();
  readonly undone = output();
  readonly redone = output();
}
