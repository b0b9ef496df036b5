import { afterNextRender, Directive, ElementRef, inject, input, type OnInit } from '@angular/core';
import type { GridModel } from './grid-model';

/** Times of typing by the inputs that are of them. */
const times = new WeakMap<EventTarget, number>();

/** Whether what is typed goes into an element: an input that is still there when the next cell is typed into takes nothing. */
export const isInputOf = (target: EventTarget | null, grid: GridModel): boolean =>
  target !== null && times.has(target) && times.get(target) === grid.typing()?.time;

/** Whether an element is the input of a cell, also of one that is left. */
export const isCellInput = (target: EventTarget | null): boolean => target !== null && times.has(target);

/** The bare input of a cell, there only while it is typed into. */
@Directive({
  selector: 'input[mlCellInput]',
  host: {
    type: 'text',
    autocomplete: 'off',
    spellcheck: 'false',
    '[value]': 'grid().typing()?.text ?? ""',
    '(input)': 'retype()',
    '(blur)': 'commit()',
  },
})
export class CellInput implements OnInit {
  readonly grid = input.required<GridModel>({ alias: 'mlCellInput' });
  private readonly field = inject<ElementRef<HTMLInputElement>>(ElementRef).nativeElement;

  constructor() {
    afterNextRender(() => {
      this.field.focus({ preventScroll: true });
      if (this.grid().typing()?.isSelected) this.field.select();
      else this.field.setSelectionRange(this.field.value.length, this.field.value.length);
    });
  }

  ngOnInit(): void {
    times.set(this.field, this.grid().typing()?.time ?? 0);
  }

  protected retype(): void {
    if (isInputOf(this.field, this.grid())) this.grid().retype(this.field.value);
  }

  protected commit(): void {
    if (isInputOf(this.field, this.grid())) this.grid().commit();
  }
}
