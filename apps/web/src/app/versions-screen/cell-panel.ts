import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { exactFigure, type SheetRow } from '@margin-lens/core';
import { NewValueForm } from './new-value-form';
import { PlanWatch, type SheetSpot } from './plan-watch';
import { PlanningStore } from './planning-store';
import type { SheetSelection } from './planning-table';
import { isBeside, type SheetModel } from './sheet-model';

/** What the selected cell is: its exact figure, its grain, what stood there last year, and the sum of the block. */
@Component({
  selector: 'ml-cell-panel',
  imports: [MatButtonModule, NewValueForm],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (cell(); as cell) {
      <h2>{{ cell.row }}</h2>
      <p class="thin">{{ cell.column }}</p>
      <p class="big" [class.negative]="cell.isNegative">{{ cell.exact || 'No figure' }}</p>
      <dl>
        <dt>The cell covers</dt>
        <dd>{{ cell.grain }}</dd>
        @for (line of cell.beside; track line.name) {
          <dt>{{ line.name }}</dt>
          <dd>{{ line.text }}</dd>
        }
        @if (cell.blockSum) {
          <dt>Sum of {{ cell.cells }} cells</dt>
          <dd>{{ cell.blockSum }}</dd>
        }
      </dl>
      <p class="thin">{{ cell.how }}</p>
      @if (mayEdit()) {
        <h3>Typing</h3>
        <p class="thin">
          =1200*1.02 is worked out · (500) is negative · 1000/month, 3000/quarter and 12000/year convert to what the
          cell covers · Ctrl Enter fills all that is selected.
        </p>
      }
      @if (newValueOf(); as row) {
        <ml-new-value-form [row]="row" />
      }
    } @else {
      <p class="thin">Select a cell.</p>
    }
    @if (warnings().length > 0 || outOfBalance()) {
      <h3>Worth a look</h3>
      <ul data-testid="warnings">
        @if (outOfBalance(); as words) {
          <li>
            <button matButton class="entry" type="button" (click)="balance.emit()">{{ words }}</button>
          </li>
        }
        @for (warning of warnings(); track warning.key) {
          <li>
            <button matButton class="entry" type="button" (click)="go.emit(warning)">
              {{ warning.words }}
            </button>
          </li>
        }
      </ul>
    }
  `,
  styles: `
    :host {
      display: block;
      padding: 12px 14px;
    }
    h2 {
      margin: 0;
      font: 600 var(--large) / 1.3 var(--serif);
    }
    h3 {
      margin: 14px 0 4px;
      font: 600 var(--text) / 1.3 var(--sans);
    }
    .thin {
      margin: 0;
      color: var(--ink-2);
      font-size: var(--medium);
    }
    .big {
      margin: 8px 0 10px;
      font: 600 var(--figure) / 1.1 var(--serif);
      font-variant-numeric: lining-nums tabular-nums;
    }
    dl {
      display: grid;
      grid-template-columns: 1fr auto;
      gap: 3px 10px;
      margin: 0 0 10px;
    }
    dt {
      color: var(--ink-2);
    }
    ul {
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li button {
      padding: 3px 0;
      border: 0;
      background: none;
      color: var(--ink);
      font: inherit;
      font-size: var(--medium);
      text-align: left;
      cursor: pointer;
    }
    li button:hover {
      text-decoration: underline;
    }
    dd {
      margin: 0;
      text-align: right;
      font-variant-numeric: tabular-nums;
    }
  `,
})
export class CellPanel {
  readonly selection = input<SheetSelection>();
  /** Asks for the cell of a row's or an account's month. */
  readonly go = output<SheetSpot>();
  /** Asks for the action that balances the plan. */
  readonly balance = output();
  private readonly store = inject(PlanningStore);
  protected readonly mayEdit = computed(() => this.store.place()?.version.mayEdit === true);

  private readonly watch = inject(PlanWatch);
  protected readonly warnings = computed(() => this.watch.warnings().slice(0, WARNINGS_SHOWN));
  protected readonly outOfBalance = this.watch.outOfBalance;

  /** The selected row, where it is an account or values of one, and the sheet is planned by dimensions. */
  protected readonly newValueOf = computed(() => {
    const [selection, place] = [this.selection(), this.store.place()];
    const row = this.store.model()?.rows.find(({ id }) => id === selection?.row.id);
    return place?.version.mayEdit &&
      this.store.dimensions().length > 0 &&
      row &&
      row.leaves.length === 1 &&
      row.kind !== 'layout'
      ? row
      : undefined;
  });

  protected readonly cell = computed(() => {
    const [selection, model] = [this.selection(), this.store.model()];
    if (!selection || !model) return undefined;
    const row = model.rows.find(({ id }) => id === selection.row.id);
    const column = model.columns[selection.column];
    if (!row || !column) return undefined;
    const figure = model.figures(row)[selection.column] ?? null;
    const text = (amount: number | null) => (amount === null ? '' : exactFigure({ amount, unit: row.unit }));
    const alike = selection.rows.every(({ unit }) => JSON.stringify(unit) === JSON.stringify(row.unit));
    const figures = selection.rows.flatMap((each) => selection.columns.map((at) => model.figures(each)[at] ?? 0));
    const periods = this.store.place()!.periods;
    const names = column.periods.map(
      (at) => periods.find(({ ordinal }) => ordinal === this.store.ordinals()[at])!.name,
    );
    const months = names.length === 1 ? names[0]! : `${names[0]} to ${names.at(-1)}`;
    return {
      row: row.label,
      column: months,
      exact: text(figure),
      isNegative: (figure ?? 0) < 0,
      grain: names.length === 1 ? 'one month' : `${names.length} months`,
      beside: model.input.comparisons.map(({ name }, index) => ({
        name,
        text: text(model.compared(isBeside(row) ? row.of : row, index)[selection.column] ?? null) || '–',
      })),
      blockSum:
        alike && figures.length > 1 && row.unit.kind !== 'ratio' ? text(figures.reduce((a, b) => a + b, 0)) : '',
      cells: figures.length,
      how: howWords(model, row, selection.column, names.length),
    };
  });
}

/** Warnings listed at most. */
const WARNINGS_SHOWN = 8; // 3 to 50

function howWords(model: SheetModel, row: SheetRow, column: number, months: number): string {
  if (isBeside(row)) return `It stands here for comparison with ${row.of.label}.`;
  const { leaves: held, isBalance, isLevel } = row;
  const leaves = held.length;
  if (leaves === 0) return 'It follows from other figures.';
  if (model.isActual(column)) return 'Actual: it is changed by postings, not here.';
  if (!model.isEditable(row, column)) return 'It is not changed here.';
  if (isLevel) return 'A level: what is typed holds until the next month in which it changes.';
  if (isBalance) return 'A closing figure: what is typed changes the movement of the month.';
  const spread = [...(months > 1 ? ['its months'] : []), ...(leaves > 1 ? [`its ${leaves} accounts`] : [])];
  return spread.length === 0
    ? 'What is typed is the figure of the month.'
    : `What is typed is spread over ${spread.join(' and ')}, in proportion to what they hold.`;
}
