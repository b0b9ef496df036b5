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
import { MatDialog, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { Router } from '@angular/router';
import { take } from 'rxjs';
import { SETUP_TABS } from '../setup-screen/setup-text';
import { NO_LINES } from '../ledger-screen/ledger-text';
import { Api } from '../shared/api';
import { asAtText, ContextStore } from '../shared/context-store';
import { WorkspaceStore } from '../shared/workspace-store';
import { UNIT_CHOICES } from './top-bar';

interface Command {
  kind: string;
  label: string;
  run(): void;
}

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
      placeholder="A statement, entity, month, column layout, or what to do"
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
  private readonly contexts = inject(ContextStore);
  private readonly workspaces = inject(WorkspaceStore);
  private readonly router = inject(Router);
  private readonly api = inject(Api);
  private readonly dialogs = inject(MatDialog);
  private readonly dialog = inject<MatDialogRef<CommandPalette>>(MatDialogRef);

  protected readonly text = signal('');
  private readonly commands = computed(() => this.allCommands());
  protected readonly found = computed(() => {
    const words = this.text().toLowerCase().split(/\s+/).filter(Boolean);
    const matches = ({ kind, label }: Command) =>
      words.every((word) => `${kind} ${label}`.toLowerCase().includes(word));
    return this.commands().filter(matches).slice(0, SHOWN);
  });

  private taken = false;
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');

  constructor() {
    // at once, not when the dialog has opened: what is typed right behind the key must arrive here
    afterNextRender(() => this.field().nativeElement.focus());
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

  /** The dialog of a new statement opens when this one is gone. */
  private openLater(): void {
    this.dialogs.afterAllClosed.pipe(take(1)).subscribe(() => {
      void import('../library-screen/new-statement-dialog').then(({ NewStatementDialog }) =>
        this.dialogs.open(NewStatementDialog, { width: '460px', enterAnimationDuration: 0 }),
      );
    });
  }

  private allCommands(): Command[] {
    const state = this.workspaces.state();
    if (state.state !== 'loaded') return [];
    const { statements, entities, columnLayouts } = state.workspace;
    const { contexts } = this;
    const context = contexts.context();
    const make = (kind: string, label: string, run: () => void): Command => ({ kind, label, run });
    return [
      ...statements.map(({ id, name }) => make('Statement', name, () => contexts.openStatement(id))),
      ...entities.map(({ code, name }) => make('Scope', `${name} (${code})`, () => contexts.setScope(code))),
      ...columnLayouts.map(({ id, name }) => make('Columns', name, () => contexts.setColumns(id))),
      ...(context ? this.contextCommands(context) : []),
      make('Books', 'Trial balance', () => contexts.goTo('/ledger', NO_LINES)),
      make('Report', 'Library of statements, rows and columns', () => contexts.goTo('/library', NO_LINES)),
      make('Report', 'New statement', () => this.openLater()),
      ...(context
        ? [
            make('Report', context.isShaped ? 'Read this statement' : 'Shape this statement', () =>
              contexts.setShaped(!context.isShaped),
            ),
            make('Report', context.isCharted ? 'Read this statement as a table' : 'Charts of this statement', () =>
              contexts.toggleCharts(),
            ),
          ]
        : []),
      make('Plan', 'Versions', () => contexts.goTo('/versions', NO_LINES)),
      make('Plan', 'Exceptions: variances to explain', () => contexts.goTo('/exceptions', NO_LINES)),
      make('Books', 'Tie-outs', () => contexts.goTo('/tie-outs', NO_LINES)),
      make('Books', 'Books check', () => contexts.goTo('/books-check', NO_LINES)),
      make('Books', 'Adjustments', () => contexts.goTo('/adjustments', NO_LINES)),
      make('Books', 'Open and close periods', () => contexts.goTo('/periods', NO_LINES)),
      make('Books', 'Take the whole workspace out as a ledger package', () => location.assign(this.api.packageUrl())),
      make('Books', 'Journal lines', () => contexts.goTo('/ledger/lines', NO_LINES)),
      make('Books', 'Compare two deliveries of one month', () => contexts.goTo('/deliveries/compare', NO_LINES)),
      ...SETUP_TABS.map(({ path, label }) => make('Setup', label, () => contexts.goTo(`/setup/${path}`, NO_LINES))),
      make(
        'Books',
        'Bring in a delivery',
        () => void this.router.navigate(['/deliveries'], { queryParamsHandling: 'merge' }),
      ),
    ];
  }

  private contextCommands({
    statement,
    scope,
    asAt,
    columns,
    unit,
    periods,
  }: NonNullable<ReturnType<ContextStore['context']>>): Command[] {
    const { contexts } = this;
    const query = { scope: scope.code, as_at: asAtText(asAt), columns };
    const save = (format: 'xlsx' | 'csv' | 'pdf') => () =>
      location.assign(this.api.exportUrl(statement, query, format, unit));
    return [
      { kind: 'Export', label: 'Spreadsheet (XLSX)', run: save('xlsx') },
      { kind: 'Export', label: 'Pages for paper (PDF)', run: save('pdf') },
      { kind: 'Export', label: 'Text (CSV)', run: save('csv') },
      ...UNIT_CHOICES.map(({ unit: choice, label }) => ({
        kind: 'In',
        label: `${scope.currency} ${label}`,
        run: () => contexts.setUnit(choice),
      })),
      ...[...periods]
        .reverse()
        .map((period) => ({ kind: 'As at', label: period.name, run: () => contexts.setAsAt(period) })),
    ];
  }
}
