import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import type { LoanPart, Series } from '@margin-lens/core';
import { Choice, type Choices } from '../shared/choice';
import type { ActionForm } from './action-form';

type TextField = Extract<
  keyof ActionForm,
  'start' | 'step' | 'yearly' | 'life' | 'payments' | 'begins' | 'joiners' | 'leavers' | 'raise' | 'raiseAfter'
>;

const RULES: readonly Choices<Series['by']>[] = [
  { value: 'step', name: 'a step each month' },
  { value: 'annuity', name: 'a loan in equal payments' },
  { value: 'declining_balance', name: 'a loan in equal repayments' },
  { value: 'straight_line', name: 'straight-line depreciation' },
  { value: 'payroll', name: 'payroll: people at a rate' },
];

const PARTS: readonly Choices<LoanPart>[] = [
  { value: 'interest', name: 'the interest' },
  { value: 'repayment', name: 'the repayment' },
  { value: 'payment', name: 'both' },
];

const FIELDS: Record<Series['by'], readonly (readonly [TextField, string, hint?: string])[]> = {
  step: [
    ['start', 'First month'],
    ['step', 'Step'],
  ],
  annuity: [
    ['start', 'Balance'],
    ['payments', 'Payments left, months'],
    ['yearly', 'Interest a year, percent'],
  ],
  declining_balance: [
    ['start', 'Balance'],
    ['step', 'Repaid a month'],
    ['yearly', 'Interest a year, percent'],
  ],
  straight_line: [
    ['start', 'Cost'],
    ['step', 'Residual value'],
    ['life', 'Months of life'],
    ['begins', 'Begins after months'],
  ],
  payroll: [
    ['start', 'People there'],
    ['step', 'Cost of each a month'],
    ['joiners', 'Joiners, one number a month', '0 2 0 1'],
    ['leavers', 'Leavers, one number a month', '0 0 3'],
    ['raise', 'Raise, percent'],
    ['raiseAfter', 'Raised after months'],
  ],
};

/** What a series follows: its rule, and what that needs. */
@Component({
  selector: 'ml-series-fields',
  imports: [Choice, MatFormFieldModule, MatInputModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ml-choice
      class="wide"
      label="Rule"
      [value]="form().series"
      [choices]="RULES"
      (chosen)="changed.emit({ series: $event!, start: '', step: '' })"
      data-testid="series-rule"
    />
    @if (isLoan()) {
      <ml-choice
        class="wide"
        label="The row shows"
        [value]="form().loanPart"
        [choices]="PARTS"
        (chosen)="changed.emit({ loanPart: $event! })"
      />
    }
    @for (field of fields(); track field[0]) {
      <mat-form-field [class.wide]="field[2]">
        <mat-label>{{ field[1] }}</mat-label>
        <input
          matInput
          #typed
          [placeholder]="field[2] ?? ''"
          [value]="form()[field[0]]"
          (input)="change(field[0], typed.value)"
        />
      </mat-form-field>
    }
    @if (form().series === 'payroll') {
      <p class="wide">Who joins counts from its month on, who leaves to the end of it.</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 9px 8px;
    }
    .wide {
      grid-column: 1 / -1;
    }
    p {
      margin: 0;
      color: var(--ink-2);
      font-size: var(--medium);
    }
  `,
})
export class SeriesFields {
  readonly form = input.required<ActionForm>();
  readonly changed = output<Partial<ActionForm>>();

  protected readonly RULES = RULES;
  protected readonly PARTS = PARTS;
  protected readonly fields = computed(() => FIELDS[this.form().series]);
  protected readonly isLoan = computed(() => ['annuity', 'declining_balance'].includes(this.form().series));

  protected change(field: TextField, text: string): void {
    this.changed.emit({ [field]: text });
  }
}
