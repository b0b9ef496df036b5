import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { Piece } from '@margin-lens/core/shown';

/** A remark as it is read: figures as they are now, and what became of those that moved. */
@Component({
  selector: 'ml-remark-words',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `@for (piece of pieces(); track $index) {
    @if (piece.isFigure) {
      <span class="quoted" [class.moved]="piece.moved">{{ piece.text }}</span>
      @if (piece.moved) {
        <span class="was">({{ piece.moved }})</span>
      }
    } @else {
      {{ piece.text }}
    }
  }`,
  styleUrl: './remark-words.scss',
})
export class RemarkWords {
  readonly pieces = input.required<readonly Piece[]>();
}
