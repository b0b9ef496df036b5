import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';

/** Undo and redo, each saying what it would take back or do again. */
@Component({
  selector: 'ml-undo-buttons',
  imports: [MatButtonModule, MatIconModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button
      matIconButton
      type="button"
      aria-label="Undo"
      [disabled]="undoes() === undefined"
      [title]="undoes() === undefined ? 'Nothing to undo' : 'Undo: ' + undoes()"
      (click)="undone.emit()"
    >
      <mat-icon svgIcon="undo" />
    </button>
    <button
      matIconButton
      type="button"
      aria-label="Redo"
      [disabled]="redoes() === undefined"
      [title]="redoes() === undefined ? 'Nothing to redo' : 'Redo: ' + redoes()"
      (click)="redone.emit()"
    >
      <mat-icon svgIcon="redo" />
    </button>
  `,
  styles: `
    :host {
      display: flex;
      gap: 2px;
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
