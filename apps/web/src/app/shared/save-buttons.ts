import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { SaveKey } from './save-key';

/** Discards or saves what was changed on a sheet, and says how much that is. */
@Component({
  selector: 'ml-save-buttons',
  imports: [SaveKey, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button matButton="outlined" type="button" [disabled]="changed() === 0" (click)="discarded.emit()">Discard</button>
    <button
      matButton="filled"
      type="button"
      mlSaveKey
      data-testid="save"
      [disabled]="changed() === 0 || isHeld()"
      (click)="saved.emit()"
    >
      {{ changed() === 0 ? 'Save' : 'Save ' + changed() }}
    </button>
  `,
  styles: `
    :host {
      display: contents;
    }
  `,
})
export class SaveButtons {
  /** Rows or values that are changed. */
  readonly changed = input.required<number>();
  /** Nothing can be saved now: something is wrong, or it is being saved. */
  readonly isHeld = input(false);
  readonly discarded = output();
  readonly saved = output();
}
