import { Directive, ElementRef, inject } from '@angular/core';
import { MatDialog } from '@angular/material/dialog';

/** Presses its button by Ctrl S, from wherever on the screen but in a dialog; what stands in a field is taken first. */
@Directive({ selector: 'button[mlSaveKey]', host: { '(window:keydown)': 'onKey($event)' } })
export class SaveKey {
  private readonly button = inject<ElementRef<HTMLButtonElement>>(ElementRef).nativeElement;

  private readonly dialogs = inject(MatDialog).openDialogs;

  protected onKey(event: KeyboardEvent): void {
    if (!(event.ctrlKey || event.metaKey) || event.shiftKey || event.key.toLowerCase() !== 's') return;
    event.preventDefault();
    if (this.dialogs.length > 0) return;
    const focused = document.activeElement;
    if (focused instanceof HTMLInputElement || focused instanceof HTMLTextAreaElement) {
      focused.blur();
      focused.focus();
    }
    // what the field has changed may have made it a button that can be pressed
    setTimeout(() => this.button.click());
  }
}
