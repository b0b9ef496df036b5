import { ChangeDetectionStrategy, Component, ElementRef, inject, input, output } from '@angular/core';

/** Width by which a key draws the edge, in pixels. */
const STEP = 16;

/** The left edge of a panel beside the sheet, by which it is drawn wider or narrower: by pointer, or with the arrow keys. */
@Component({
  selector: 'ml-panel-edge',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '',
  styles: `
    :host {
      position: absolute;
      inset: 0 auto 0 -3px;
      z-index: 1;
      width: 6px;
      cursor: ew-resize;
      touch-action: none;
    }
  `,
  host: {
    role: 'separator',
    tabindex: '0',
    'aria-orientation': 'vertical',
    '[attr.aria-label]': 'label()',
    '[attr.aria-valuemin]': 'least()',
    '[attr.aria-valuemax]': 'most()',
    '[attr.aria-valuenow]': 'width()',
    '(pointerdown)': 'start($event)',
    '(pointermove)': 'drawTo($event)',
    '(pointerup)': 'end()',
    '(keydown)': 'drawByKey($event)',
  },
})
export class PanelEdge {
  readonly label = input.required<string>();
  /** Width of the panel, and how narrow and wide it may be drawn, in pixels. */
  readonly width = input.required<number>();
  readonly least = input(280);
  readonly most = input(620);
  readonly resized = output<number>();

  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private isDragging = false;

  protected start(event: PointerEvent): void {
    this.isDragging = true;
    this.host.nativeElement.setPointerCapture(event.pointerId);
  }

  protected drawTo({ clientX }: PointerEvent): void {
    if (!this.isDragging) return;
    const { right } = this.host.nativeElement.parentElement!.getBoundingClientRect();
    this.draw(right - clientX);
  }

  protected end(): void {
    this.isDragging = false;
  }

  protected drawByKey(event: KeyboardEvent): void {
    const step = { ArrowLeft: STEP, ArrowRight: -STEP }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    this.draw(this.width() + step);
  }

  private draw(width: number): void {
    this.resized.emit(Math.round(Math.min(this.most(), Math.max(this.least(), width))));
  }
}
