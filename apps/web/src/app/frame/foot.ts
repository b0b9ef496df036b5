import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDividerModule } from '@angular/material/divider';
import { MatMenuModule } from '@angular/material/menu';
import { ContextStore } from '../shared/context-store';
import { currencyUnit } from '../shared/currency-unit';
import { SelectionSum } from '../shared/selection-sum';
import { ShownStatement } from '../shared/shown-statement';
import { tieOutsOf } from '../shared/tie-outs';
import { WorkspaceStore } from '../shared/workspace-store';
import { momentInWords } from '../shared/moment';
import { Beside } from '../shared/beside';
import { placesBeside } from './places-beside';
import { readablePlain } from '@margin-lens/core/shown';

const STATEMENT_KEYS: readonly [key: string, does: string][] = [
  ['↑↓←→', 'move'],
  ['Enter', 'trace'],
  ['R', 'remark'],
  ['Esc', 'back'],
  [', .', 'month'],
];

const BREAKDOWN_KEYS: readonly [key: string, does: string][] = [
  ['↑↓←→', 'move'],
  ['Enter', 'trace'],
  ['Space', 'open'],
  ['+ −', 'levels'],
  ['B', 'by another field'],
  ['F', 'only these'],
  ['X', 'swap'],
];

const CHART_KEYS: readonly [key: string, does: string][] = [
  ['↑↓', 'row'],
  ['C', 'table'],
  [', .', 'month'],
];

const SHAPE_KEYS: readonly [key: string, does: string][] = [
  ['Enter', 'rename'],
  ['E', 'settings'],
  ['Ins', 'add'],
  ['Alt ↑↓←→', 'move'],
  ['Ctrl C V', 'copy, paste'],
  ['Ctrl Enter', 'keep'],
];

const LINES_KEYS: readonly [key: string, does: string][] = [
  ['↑↓', 'move'],
  ['Shift ↑↓', 'select'],
  ['Enter', 'journal'],
  ['Esc', 'back'],
];

const SHEET_KEYS: readonly [key: string, does: string][] = [
  ['Enter', 'edit'],
  ['Shift ↑↓', 'select'],
  ['Ctrl D', 'fill down'],
  ['Del', 'clear'],
  ['Ctrl Z', 'undo'],
];

const PLAN_KEYS: readonly [key: string, does: string][] = [
  ['0–9 =', 'type, work out'],
  ['F2', 'edit'],
  ['Shift ↑↓←→', 'select'],
  ['Ctrl R D', 'fill'],
  ['Del', 'clear'],
  ['Alt ↓', 'open'],
  ['Ctrl C V', 'copy, paste'],
  ['Ctrl Z', 'undo'],
];

const PACK_KEYS: readonly [key: string, does: string][] = [
  ['↑↓', 'page'],
  ['Alt ↑↓', 'move'],
  ['Ins', 'add'],
  ['Del', 'take out'],
  ['Enter', 'change'],
  ['Ctrl Z', 'undo'],
];

const KEYS_BY_PATH: Record<string, typeof SHEET_KEYS> = {
  '/ledger/lines': LINES_KEYS,
  '/setup/accounts': SHEET_KEYS,
  '/setup/entities': SHEET_KEYS,
  '/setup/dimensions': SHEET_KEYS,
};

/** The keys that work here, then what proves the figures. */
@Component({
  selector: 'ml-foot',
  imports: [MatButtonModule, MatDividerModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (key of keysHere(); track key[0]) {
      <span class="does"
        ><span class="key">{{ key[0] }}</span> {{ key[1] }}</span
      >
    }
    <button matButton type="button" class="plain quiet does" (click)="keys.emit()">
      <span class="key">?</span> all keys
    </button>
    <button
      matButton
      type="button"
      class="plain quiet does"
      [matMenuTriggerFor]="places"
      data-testid="side-by-side"
      title="Another place beside this one"
    >
      Side by side
    </button>
    <mat-menu #places="matMenu">
      @for (group of groups(); track $index) {
        @if ($index > 0) {
          <mat-divider />
        }
        @for (place of group; track place.path) {
          <button mat-menu-item type="button" (click)="putBeside(place.path)">{{ place.name }}</button>
        }
      }
    </mat-menu>
    <span class="spring"></span>
    <span class="proof" data-testid="proof" role="status">
      @for (part of proof(); track part.text) {
        @if (part.cell; as cell) {
          <button
            matButton
            type="button"
            class="plain quiet open"
            title="Show the account"
            (click)="contexts.select(cell)"
          >
            {{ part.text }}
          </button>
        } @else {
          <span [class.open]="!part.agrees">{{ part.text }}</span>
        }
      }
    </span>
  `,
  styleUrl: './foot.scss',
})
export class Foot {
  readonly keys = output();

  private readonly shown = inject(ShownStatement);
  private readonly beside = inject(Beside);
  protected readonly contexts = inject(ContextStore);
  private readonly workspaces = inject(WorkspaceStore);

  private readonly selection = inject(SelectionSum);
  private readonly isStatement = computed(() => this.contexts.showsFigures());
  protected readonly groups = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? placesBeside(state.workspace) : [];
  });
  protected putBeside(path: string): void {
    this.beside.open(path);
  }

  protected readonly keysHere = computed(() =>
    this.isStatement()
      ? this.contexts.context()?.isShaped
        ? SHAPE_KEYS
        : this.contexts.context()?.isCharted
          ? CHART_KEYS
          : this.shown.view()?.breakdown
            ? BREAKDOWN_KEYS
            : STATEMENT_KEYS
      : this.contexts.path().startsWith('/versions/')
        ? PLAN_KEYS
        : this.contexts.showsPack()
          ? PACK_KEYS
          : (KEYS_BY_PATH[this.contexts.path()] ?? []),
  );
  protected readonly proof = computed(() => {
    const view = this.shown.view();
    const state = this.workspaces.state();
    const summed = this.selection.words();
    if (summed && this.contexts.path().startsWith('/ledger')) return [{ text: summed, agrees: true, cell: undefined }];
    if (!view || !this.isStatement() || state.state !== 'loaded') return [];
    const checks = tieOutsOf(view, currencyUnit(view.scope.currency)).filter((check) => check.name !== 'Trial balance');
    const at = state.workspace.lastImportAt;
    return [
      ...checks.map(({ brief, agrees, cell }) => ({ text: brief, agrees, cell })),
      { text: `ledger of ${at ? momentInWords(at) : '–'}`, agrees: true, cell: undefined },
      { text: `evaluated in ${readablePlain(String(view.evaluatedInMs))} ms`, agrees: true, cell: undefined },
    ];
  });
}
