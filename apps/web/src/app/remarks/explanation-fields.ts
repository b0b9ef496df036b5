import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, model } from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { digitsOf, parseAmount, type Explanation, type ExplanationKind } from '@margin-lens/core';
import { exactFigure } from '@margin-lens/core/shown';
import { Choice } from '../shared/choice';
import { currencyUnit } from '../shared/currency-unit';
import { plainAmount } from '../shared/typed-amount';
import { KIND_WORDS, type ToExplain } from './explanation-words';

const KINDS = (Object.keys(KIND_WORDS) as ExplanationKind[]).map((value) => ({ value, name: KIND_WORDS[value] }));

/** What a variance is: a matter of timing with the month that gives it back, one that stays, or one that does not come again. */
@Component({
  selector: 'ml-explanation-fields',
  imports: [Choice, MatFormFieldModule, MatInputModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ml-choice
      label="The variance is"
      [value]="value()?.kind"
      [choices]="KINDS"
      none="Not said"
      (chosen)="chooseKind($event)"
      data-testid="kind"
    />
    @if (value(); as value) {
      <mat-form-field>
        <mat-label>Effect on profit, {{ of().currency }}</mat-label>
        <input
          matInput
          #amount
          inputmode="decimal"
          [value]="typed()"
          (input)="type(amount.value)"
          data-testid="effect"
        />
        @if (!isValid()) {
          <mat-hint class="adverse">No amount; write 1,234.50 or (1,234.50)</mat-hint>
        }
      </mat-form-field>
      @if (value.kind === 'timing') {
        <ml-choice
          label="Comes back in"
          [value]="value.returns || undefined"
          [choices]="months()"
          none="Not known"
          (chosen)="put({ returns: $event ?? '' })"
          data-testid="returns"
        />
      }
    }
  `,
  styles: `
    :host {
      display: grid;
      width: 100%;
      gap: 6px;
    }
    .adverse {
      color: var(--adverse);
    }
  `,
})
export class ExplanationFields {
  readonly of = input.required<ToExplain>();
  readonly value = model<Explanation | undefined>();
  protected readonly KINDS = KINDS;

  protected readonly months = computed(() => this.of().later.map(({ key, name }) => ({ value: key, name })));
  /** The amount as it stands in its field. */
  protected readonly typed = linkedSignal({
    source: () => this.value()?.kind,
    computation: () => this.shown(this.value()?.amount ?? 0),
  });
  readonly isValid = computed(() => this.value() === undefined || this.minorOf(this.typed()) !== undefined);

  protected chooseKind(kind: ExplanationKind | undefined): void {
    const { effect, month } = this.of();
    const begun = this.value() ?? { amount: effect, in: month, returns: '' };
    this.value.set(kind && { ...begun, kind, returns: kind === 'timing' ? begun.returns : '' });
  }

  protected type(text: string): void {
    this.typed.set(text);
    const amount = this.minorOf(text);
    if (amount !== undefined) this.put({ amount });
  }

  protected put(part: Partial<Explanation>): void {
    this.value.update((value) => value && { ...value, ...part });
  }

  private shown(amount: number): string {
    return exactFigure({ amount, unit: currencyUnit(this.of().currency) });
  }

  private minorOf(text: string): number | undefined {
    const parsed = parseAmount(plainAmount(text), digitsOf(this.of().currency));
    return 'minor' in parsed ? parsed.minor : undefined;
  }
}
