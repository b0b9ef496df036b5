import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatInputModule } from '@angular/material/input';
import { MatFormFieldModule } from '@angular/material/form-field';
import type { Materiality } from '@margin-lens/core';

/** Limits beyond which a variance is an exception: an amount in whole units of currency, and a percentage. */
@Component({
  selector: 'ml-limits-field',
  imports: [MatFormFieldModule, MatInputModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-form-field>
      <mat-label>Exception beyond, amount</mat-label>
      <input
        matInput
        type="number"
        min="0"
        placeholder="usual"
        #amount
        [value]="limits()?.amount ?? ''"
        (input)="put(amount.value, percent.value)"
      />
    </mat-form-field>
    <mat-form-field>
      <mat-label>and percent</mat-label>
      <input
        matInput
        type="number"
        min="0"
        placeholder="usual"
        #percent
        [value]="percentText()"
        (input)="put(amount.value, percent.value)"
      />
    </mat-form-field>
  `,
  styles: `
    :host {
      display: grid;
      grid-column: 1 / -1;
      grid-template-columns: 1fr 1fr;
      align-items: end;
      gap: 10px;
    }
  `,
})
export class LimitsField {
  readonly limits = input<Materiality>();
  /** The limits as they were typed; nothing when both fields are empty. */
  readonly changed = output<Materiality | undefined>();

  protected readonly percentText = computed(() => {
    const limits = this.limits();
    return limits ? String(Number((limits.percent * 100).toFixed(6))) : '';
  });

  protected put(amount: string, percent: string): void {
    if (amount.trim() === '' && percent.trim() === '') this.changed.emit(undefined);
    else
      this.changed.emit({ amount: Math.max(0, Number(amount) || 0), percent: Math.max(0, Number(percent) || 0) / 100 });
  }
}
