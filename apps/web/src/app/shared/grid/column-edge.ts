import { booleanAttribute, ChangeDetectionStrategy, Component, ElementRef, inject, input } from '@angular/core';
import { MatIconModule } from '@angular/material/icon';
import type { ColumnSizes } from './column-sizes';

/** The edge of a column's head: drag it for the width, press it twice for the column's own; beside it the pin. */
@Component({
  selector: 'ml-column-edge',
  imports: [MatIconModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  styleUrl: './column-edge.scss',
  template: `
    @if (canPin()) {
      <button
        type="button"
        tabindex="-1"
        class="pin"
        title="Keep in sight (Alt P)"
        [attr.aria-label]="'Keep ' + label() + ' in sight'"
        [attr.aria-pressed]="isPinned()"
        (click)="sizes().togglePin(column(), isUsuallyPinned())"
      >
        <mat-icon svgIcon="pin" />
      </button>
    }
    <span
      class="edge"
      aria-hidden="true"
      title="Drag for the width, press twice for its own (Shift Alt ← →)"
      (pointerdown)="press($event)"
      (pointermove)="drag($event)"
      (pointerup)="release($event)"
      (dblclick)="sizes().reset(column())"
      (click)="$event.stopPropagation()"
    ></span>
  `,
})
export class ColumnEdge {
  readonly sizes = input.required<ColumnSizes>();
  readonly column = input.required<string>();
  readonly label = input('');
  /** The width it was drawn with, where a wider grid shares out the rest; else what it has. */
  readonly px = input<number>();
  readonly canPin = input(false, { transform: booleanAttribute });
  readonly isUsuallyPinned = input(false);

  private readonly head = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private pressed: { x: number; px: number; scale: number } | undefined;

  protected isPinned(): boolean {
    return this.sizes().isPinned(this.column(), this.isUsuallyPinned());
  }

  protected press(event: PointerEvent): void {
    event.preventDefault();
    event.stopPropagation();
    (event.target as HTMLElement).setPointerCapture(event.pointerId);
    const { width } = this.head.parentElement!.getBoundingClientRect();
    const px = this.px() ?? width;
    this.pressed = { x: event.clientX, px, scale: width / px };
  }

  protected drag(event: PointerEvent): void {
    if (!this.pressed) return;
    const { x, px, scale } = this.pressed;
    this.sizes().resize(this.column(), px + (event.clientX - x) / scale);
  }

  protected release(event: PointerEvent): void {
    (event.target as HTMLElement).releasePointerCapture(event.pointerId);
    this.pressed = undefined;
  }
}
