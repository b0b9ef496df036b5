import {
  afterEveryRender,
  booleanAttribute,
  DestroyRef,
  Directive,
  effect,
  ElementRef,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { takesLetters } from '../takes-letters';
import { isCellInput, isInputOf } from './cell-input';
import { gridCommand, typedText, typingCommand, writtenText } from './grid-keys';
import type { GridModel } from './grid-model';
import type { Spot } from './grid-place';
import { isKeyboardElsewhere } from '../keyboard-elsewhere';

const NEAREST: ScrollIntoViewOptions = { block: 'nearest', inline: 'nearest' };

/** Where a cell is drawn, for `data-spot`. */
export const placeOf = ({ row, column }: Spot): string => `${row}.${column}`;

/** The place of the cell that holds an element. */
function spotOf(target: EventTarget | null): Spot | undefined {
  const place = target instanceof Element ? target.closest<HTMLElement>('[data-spot]')?.dataset['spot'] : undefined;
  const [row, column] = place?.split('.').map(Number) ?? [];
  return row === undefined || column === undefined ? undefined : { row, column };
}

/**
 * The keyboard, the pointer and the clipboard of a grid.
 *
 * Cells carry `data-spot="row.column"` and `tabindex="-1"`. The grid is one tab stop: it hands the keyboard to the cell
 * that its model stands at, and takes it back while that cell is not drawn, so that no row which scrolls away takes the
 * keyboard along. An element with `data-handle` fills the block when it is dragged.
 */
@Directive({
  selector: '[mlGrid]',
  host: {
    role: 'grid',
    'aria-multiselectable': 'true',
    '[attr.tabindex]': 'hasKeyboard() ? -1 : 0',
    '(keydown)': 'onKey($event)',
    '(mousedown)': 'press($event)',
    '(mousemove)': 'drag($event)',
    '(document:mousedown)': 'pressElsewhere($event)',
    '(document:mouseup)': 'release()',
    '(dblclick)': 'pressTwice($event)',
    '(copy)': 'onClipboard($event)',
    '(cut)': 'onClipboard($event)',
    '(paste)': 'onClipboard($event)',
    '(focusin)': 'enter($event)',
    '(focusout)': 'leave($event)',
  },
})
export class Grid {
  readonly grid = input.required<GridModel>({ alias: 'mlGrid' });
  /** A grid that comes up has the keyboard, unless somebody is at work elsewhere. */
  readonly takesKeyboard = input(false, { transform: booleanAttribute });

  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  protected readonly hasKeyboard = signal(false);
  private pressedAt: MouseEvent | undefined;
  private isPressedElsewhere = false;
  /** The keyboard left for nothing: what it was on went away, or moved. */
  private isLeft = false;
  /** The cell that was asked for is not drawn yet; once it is, it is brought into sight. */
  private isAwaited = false;
  private stop: HTMLElement | undefined;

  constructor() {
    const screen = {
      reveal: (spot: Spot) => this.reveal(spot),
      // from cell to cell the keyboard goes once they are drawn: before, it would have the page laid out twice
      focus: () => {
        if (!this.isOnCell()) this.focus();
      },
    };
    effect(() => {
      this.grid().screen = screen;
    });
    inject(DestroyRef).onDestroy(() => {
      const grid = untracked(this.grid);
      if (grid.screen === screen) grid.screen = undefined;
    });
    let isFirst = true;
    afterEveryRender(() => {
      if (isFirst && this.takesKeyboard() && document.activeElement === document.body) this.focus();
      isFirst = false;
      this.settle();
    });
  }

  private cellAt(spot: Spot): HTMLElement | null {
    return this.host.querySelector<HTMLElement>(`[data-spot="${placeOf(spot)}"]`);
  }

  private isOnCell(): boolean {
    const active = document.activeElement;
    return active !== null && active !== this.host && this.host.contains(active) && spotOf(active) !== undefined;
  }

  private reveal(spot: Spot): void {
    this.cellAt(spot)?.scrollIntoView(NEAREST);
  }

  /** Brings the keyboard to the cell that the model stands at, or to the grid until it is drawn. */
  private focus(isAsked = true): void {
    if (isKeyboardElsewhere()) return;
    const cell = this.cellAt(this.grid().entry());
    this.isAwaited = isAsked && cell === null;
    (cell ?? this.host).focus({ preventScroll: true });
  }

  /** Cells are drawn anew as they scroll: the keyboard stays with the one that it was on. */
  private settle(): void {
    const active = document.activeElement;
    if (this.isLeft && active === document.body) this.focus(false);
    this.isLeft = false;
    if (!this.hasKeyboard() || (active instanceof HTMLInputElement && this.host.contains(active))) return;
    const isOnCell = active instanceof HTMLElement && active.dataset['spot'] !== undefined;
    const isOff = isOnCell && active.dataset['spot'] !== placeOf(this.grid().entry());
    if (active === document.body || isOff) this.focus(false);
    else if (active === this.host && this.cellAt(this.grid().entry())) {
      // a cell that scrolled away and comes back does not take the list along
      if (this.isAwaited) this.grid().reveal(this.grid().entry());
      this.focus();
    }
  }

  protected enter({ target }: FocusEvent): void {
    const hadKeyboard = this.hasKeyboard();
    this.hasKeyboard.set(true);
    this.isLeft = false;
    this.makeStop(target);
    if (target === this.host && !hadKeyboard) {
      this.grid().reveal(this.grid().entry());
      this.focus();
    }
  }

  /** While the grid has the keyboard, the cell that it is on is what Tab reaches. */
  private makeStop(target: EventTarget | null | undefined): void {
    if (this.stop) this.stop.tabIndex = -1;
    this.stop = target instanceof HTMLElement && target.dataset['spot'] !== undefined ? target : undefined;
    if (this.stop) this.stop.tabIndex = 0;
  }

  protected leave({ relatedTarget }: FocusEvent): void {
    if (relatedTarget instanceof Node && this.host.contains(relatedTarget)) return;
    this.hasKeyboard.set(false);
    this.makeStop(undefined);
    this.isLeft = relatedTarget === null && !this.isPressedElsewhere;
  }

  protected onKey(event: KeyboardEvent): void {
    const grid = this.grid();
    const typing = grid.typing();
    if (typing) {
      const letter = isInputOf(event.target, grid) ? undefined : writtenText(event);
      const command = typingCommand(event, typing.hasCaret);
      if (letter !== undefined) grid.typeAhead(letter);
      if (letter !== undefined || (command && grid.obey(command))) event.preventDefault();
      event.stopPropagation();
      return;
    }
    const isOnButton = event.target instanceof HTMLButtonElement && (event.key === 'Enter' || event.key === ' ');
    if ((takesLetters(event.target) && !isCellInput(event.target)) || isOnButton) return;
    const command = gridCommand(event);
    const text = command ? undefined : typedText(event);
    const isDone = grid.acts.own?.(event) || (command ? grid.obey(command) : text !== undefined && grid.typeOver(text));
    if (!isDone) return;
    event.preventDefault();
    event.stopPropagation();
  }

  protected press(event: MouseEvent): void {
    const target = event.target as HTMLElement;
    if (event.button !== 0 || target.closest('input, button, a')) return;
    const grid = this.grid();
    const isHandle = target.closest('[data-handle]') !== null;
    const spot = spotOf(target);
    if (!isHandle && (!spot || !grid.stops(spot.row))) return;
    event.preventDefault();
    this.pressedAt = event;
    grid.commit();
    if (isHandle) grid.dragHandle();
    else if ((event.ctrlKey || event.metaKey) && grid.acts.toggle) grid.acts.toggle(spot!);
    else grid.move(spot!, event.shiftKey);
  }

  /** Extends the block while the pointer moves; a sheet that moves under a pointer at rest extends nothing. */
  protected drag(event: MouseEvent): void {
    const from = this.pressedAt;
    const spot = from && spotOf(event.target);
    if (!spot || !this.grid().growsByPointer || (event.clientX === from.clientX && event.clientY === from.clientY))
      return;
    const grid = this.grid();
    if (grid.isFilling()) grid.dragHandle(spot);
    else grid.reach(spot);
  }

  protected pressElsewhere({ target }: MouseEvent): void {
    this.isPressedElsewhere = !this.host.contains(target as Node);
  }

  protected release(): void {
    this.isPressedElsewhere = false;
    if (this.pressedAt) this.grid().dropHandle();
    this.pressedAt = undefined;
  }

  protected pressTwice(event: MouseEvent): void {
    const spot = spotOf(event.target);
    if (!spot || event.shiftKey || (event.target as HTMLElement).closest('input, button, a')) return;
    if (!this.grid().type()) this.grid().acts.enter?.(spot);
  }

  protected onClipboard(event: ClipboardEvent): void {
    const { clipboardData, type } = event;
    if (!clipboardData || event.target instanceof HTMLInputElement || this.grid().typing()) return;
    if (this.grid()[type as 'copy' | 'cut' | 'paste'](clipboardData)) event.preventDefault();
  }
}
