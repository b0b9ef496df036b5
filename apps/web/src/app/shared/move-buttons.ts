import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';

/** Moves an item of a list earlier or later, and takes it away. */
@Component({
  selector: 'ml-move-buttons',
  imports: [MatButtonModule, MatIconModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button matIconButton type="button" aria-label="Earlier" [disabled]="isFirst()" (click)="moved.emit(-1)">
      <mat-icon svgIcon="up" />
    </button>
    <button matIconButton type="button" aria-label="Later" [disabled]="isLast()" (click)="moved.emit(1)">
      <mat-icon svgIcon="down" />
    </button>
    <button matIconButton type="button" [attr.aria-label]="'Take the ' + what() + ' away'" (click)="removed.emit()">
      <mat-icon svgIcon="close" />
    </button>
  `,
  styles: `
    :host {
      display: flex;
    }
  `,
})
export class MoveButtons {
  /** What the item is called. @example 'step' */
  readonly what = input.required<string>();
  readonly isFirst = input.required<boolean>();
  readonly isLast = input.required<boolean>();
  readonly moved = output<-1 | 1>();
  readonly removed = output();
}
