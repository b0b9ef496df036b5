import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { MatAutocompleteModule, type MatAutocompleteSelectedEvent } from '@angular/material/autocomplete';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { Commands } from './commands';
import { findCommands, type Command } from './find-commands';

const SHOWN = 12;

/** Find a place or do a thing by its name: everything that menus offer, from the keyboard. */
@Component({
  selector: 'ml-command-palette',
  imports: [MatAutocompleteModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label class="visually-hidden" for="palette">Find or do</label>
    <input
      #field
      id="palette"
      type="text"
      autocomplete="off"
      placeholder="A statement, row, account, entity, version, month, place, or what to do"
      [matAutocomplete]="list"
      (input)="text.set($any($event.target).value)"
      (keydown.enter)="take()"
    />
    <mat-autocomplete #list="matAutocomplete" autoActiveFirstOption (optionSelected)="choose($event)">
      @for (command of found(); track command.kind + command.label) {
        <mat-option [value]="command">
          <span class="kind">{{ command.kind }}</span> {{ command.label }}
        </mat-option>
      } @empty {
        <mat-option disabled>Nothing is called “{{ text() }}”</mat-option>
      }
    </mat-autocomplete>
  `,
  styles: `
    input {
      width: 100%;
      padding: 14px 16px;
      border: 0;
      outline: 0;
      background: transparent;
      color: var(--ink);
      font: var(--large) var(--sans);
    }
    .kind {
      display: inline-block;
      width: 96px;
      color: var(--ink-2);
      font-size: var(--small);
    }
  `,
})
export class CommandPalette {
  private readonly commands = inject(Commands);
  private readonly dialog = inject<MatDialogRef<CommandPalette>>(MatDialogRef);

  protected readonly text = signal('');
  protected readonly found = computed(() => findCommands(this.commands.all(), this.text(), SHOWN));

  private taken = false;
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');

  constructor() {
    afterNextRender(() => {
      const field = this.field().nativeElement;
      // at once, not when the dialog has opened: what is typed right behind the key must arrive here
      field.focus();
      // the list below would take the key for itself, and the next words would be added to these
      field.addEventListener('keydown', ({ key }) => key === 'Escape' && this.dialog.close(), { capture: true });
    });
  }

  protected choose({ option }: MatAutocompleteSelectedEvent): void {
    this.take(option.value as Command);
  }

  /**
   * Runs a command once. The list marks its first entry a moment after it is drawn, so Enter right behind
   * the typing may come with none or with one of the list before: then the first that the text finds counts.
   */
  protected take(wanted?: Command): void {
    const found = this.found();
    const command = wanted && found.includes(wanted) ? wanted : found[0];
    if (!command || this.taken) return;
    this.taken = true;
    this.dialog.close();
    command.run();
  }
}
