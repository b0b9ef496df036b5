import { afterNextRender, Directive, ElementRef, inject, input } from '@angular/core';
import type { GridModel } from './grid-model';

/** The bare input of a cell, there only while it is typed into. */
@Directive({
  selector: 'input[mlCellInput]',
  host: {
    type: 'text',
    autocomplete: 'off',
    spellcheck: 'false',
    '[value]': 'grid().typing()?.text ?? ""',
    '(input)': 'grid().retype(field.value)',
    '(blur)': 'grid().commit()',
  },
})
export class CellInput {
  readonly grid = input.required<GridModel>({ alias: 'mlCellInput' });
  protected readonly field = inject<ElementRef<HTMLInputElement>>(ElementRef).nativeElement;

  constructor() {
    afterNextRender(() => {
      this.field.focus({ preventScroll: true });
      if (this.grid().typing()?.isSelected) this.field.select();
      else this.field.setSelectionRange(this.field.value.length, this.field.value.length);
    });
  }
}
