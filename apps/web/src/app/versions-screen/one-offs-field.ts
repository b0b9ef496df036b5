import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import {
  exactFigure,
  likelyOneOffs,
  rowFigures,
  topRows,
  type FigureLines,
  type OneOff,
  type SheetFrame,
  type SheetRow,
  type ShownUnit,
} from '@margin-lens/core';
import { Choice } from '../shared/choice';
import { editText, typedUnits } from './sheet-model';
import { typedNumber } from '../shared/typed-amount';

/** A one-off that is taken off a row of the base year, and why. */
export interface TakenOff extends OneOff {
  row: SheetRow;
  reason: string;
}

interface Listed extends TakenOff {
  isTaken: boolean;
  /** As it is typed; of one that was proposed too. */
  text: string;
}

/** One-offs of the year whose shape is taken: those that stand out are proposed, others are named, each with its reason. */
@Component({
  selector: 'ml-one-offs-field',
  imports: [Choice, MatButtonModule, MatCheckboxModule, MatFormFieldModule, MatIconModule, MatInputModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <fieldset data-testid="one-offs">
      <legend>Without one-offs</legend>
      @if (listed().length === 0) {
        <p>No month stands out from the others.</p>
      }
      @for (each of listed(); track $index; let at = $index) {
        <div class="one">
          <mat-checkbox [checked]="each.isTaken" (change)="put(at, { isTaken: $event.checked })">
            {{ nameOf(each) }}
          </mat-checkbox>
          @if (each.isTaken) {
            <mat-form-field class="amount">
              <mat-label>Amount</mat-label>
              <input matInput #amount inputmode="decimal" [value]="each.text" (input)="retype(at, amount.value)" />
            </mat-form-field>
            <mat-form-field class="reason">
              <mat-label>Reason</mat-label>
              <input
                matInput
                #reason
                maxlength="60"
                [value]="each.reason"
                (input)="put(at, { reason: reason.value })"
              />
            </mat-form-field>
          }
        </div>
      }
      <!-- made anew with each that is added, so that it asks for another -->
      @for (count of [listed().length]; track count) {
        <ml-choice
          label="Month"
          [value]="undefined"
          [choices]="monthChoices()"
          none="another month…"
          (chosen)="add($event)"
        />
      }
    </fieldset>
  `,
  styles: `
    fieldset {
      display: grid;
      gap: 4px;
      margin: 0;
      padding: 0;
      border: 0;
    }
    legend,
    p {
      margin: 0 0 4px;
      padding: 0;
      color: var(--ink-2);
      font-size: var(--medium);
    }
    .one {
      display: grid;
      grid-template-columns: 110px 1fr;
      gap: 4px 8px;
    }
    mat-checkbox {
      grid-column: 1 / -1;
    }
  `,
})
export class OneOffsField {
  /** Selected rows; those that others hold count with these. */
  readonly rows = input.required<readonly SheetRow[]>();
  /** Lines of the base year, by the months of the sheet. */
  readonly lines = input.required<FigureLines>();
  readonly frame = input.required<SheetFrame>();
  /** Months that the shape is taken of, by their place in the sheet. */
  readonly months = input.required<readonly number[]>();
  /** Names of the months of the base year, by their place in the sheet. */
  readonly names = input.required<readonly string[]>();
  readonly unit = input.required<ShownUnit>();
  readonly changed = output<readonly TakenOff[]>();

  private readonly tops = computed(() => topRows(this.rows().filter(({ leaves }) => leaves.length > 0)));
  private readonly figures = computed(
    () =>
      new Map(this.tops().map((row) => [row, rowFigures(this.lines(), { ...row, isBalance: false }, this.frame())])),
  );
  protected readonly listed = linkedSignal((): readonly Listed[] =>
    [...this.figures()].flatMap(([row, figures]) =>
      likelyOneOffs(this.months().map((month) => figures[month]!)).map(({ month, amount }) =>
        this.listing(row, this.months()[month]!, amount, false),
      ),
    ),
  );
  protected readonly monthChoices = computed(() =>
    this.tops().length === 1 ? this.months().map((month) => ({ value: month, name: this.names()[month] ?? '' })) : [],
  );

  protected nameOf({ row, month, amount }: Listed): string {
    const held = this.figures().get(row)?.[month] ?? 0;
    const text = (figure: number) => exactFigure({ amount: figure, unit: row.unit });
    const label = this.tops().length > 1 ? `${row.label}, ` : '';
    return `${label}${this.names()[month]}: ${text(held)}, usual ${text(held - amount)}`;
  }

  protected add(month: number | undefined): void {
    const [row] = this.tops();
    if (month === undefined || !row) return;
    this.list([...this.listed(), this.listing(row, month, 0, true)]);
  }

  protected retype(at: number, text: string): void {
    const amount = Math.round(typedNumber(text) * typedUnits(this.listed()[at]!.row, this.unit()).shownUnit);
    this.put(at, { text, ...(Number.isFinite(amount) && { amount }) });
  }

  protected put(at: number, change: Partial<Listed>): void {
    this.list(this.listed().map((each, place) => (place === at ? { ...each, ...change } : each)));
  }

  private list(listed: readonly Listed[]): void {
    this.listed.set(listed);
    this.changed.emit(
      listed
        .filter(({ isTaken, amount }) => isTaken && amount !== 0)
        .map(({ row, month, amount, reason }) => ({ row, month, amount, reason })),
    );
  }

  private listing(row: SheetRow, month: number, amount: number, isTaken: boolean): Listed {
    return { row, month, amount, isTaken, reason: '', text: editText(row, amount, this.unit()) };
  }
}
