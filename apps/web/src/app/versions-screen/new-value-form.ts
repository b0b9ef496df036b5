import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatSelectModule } from '@angular/material/select';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatButtonModule } from '@angular/material/button';
import { combinationOf, lineKey, type SheetRow, inWords, valuesAsked } from '@margin-lens/core';
import { PlanningStore } from './planning-store';
import { sentenceCase } from '@margin-lens/core/shown';

/** Begins a row for values that the account of a row has no figures of yet. */
@Component({
  selector: 'ml-new-value-form',
  imports: [MatButtonModule, MatFormFieldModule, MatSelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>Plan it by another value</h3>
    @for (dimension of dimensions(); track dimension.name) {
      <mat-form-field>
        <mat-label>{{ dimension.label }}</mat-label>
        <mat-select
          [value]="chosen()[dimension.name] ?? ''"
          (selectionChange)="choose(dimension.name, $event.value)"
          data-testid="new-value"
        >
          <mat-option value="">none</mat-option>
          @for (value of dimension.values; track value.value) {
            <mat-option [value]="value.value">
              {{ value.name || value.value }}
            </mat-option>
          }
        </mat-select>
      </mat-form-field>
    }
    <button
      matButton="outlined"
      type="button"
      [disabled]="problem() !== ''"
      (click)="start()"
      data-testid="start-value"
    >
      Add the row
    </button>
    @if (problem() && hasChoice()) {
      <p class="thin">{{ problem() }}</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 6px;
      justify-items: start;
      margin-top: 14px;
    }
    h3 {
      margin: 0;
      font: 600 var(--text) / 1.3 var(--sans);
    }
    .thin {
      margin: 0;
      color: var(--ink-2);
      font-size: var(--medium);
    }
  `,
})
export class NewValueForm {
  /** A row of an account, or of values below one. */
  readonly row = input.required<SheetRow>();
  private readonly store = inject(PlanningStore);
  protected readonly chosen = signal<Readonly<Record<string, string>>>({});
  protected readonly hasChoice = computed(() => Object.values(this.chosen()).some((value) => value !== ''));
  protected readonly dimensions = computed(() =>
    (this.store.makings()?.dimensions ?? [])
      .filter(({ name }) => this.store.dimensions().includes(name))
      .map(({ name, values }) => ({
        name,
        values,
        label: sentenceCase(inWords(name)),
      })),
  );
  private readonly account = computed(() => this.row().leaves[0]?.account ?? '');
  private readonly combination = computed(() =>
    // with what the filter asks for, without which the new row were no part of the sheet
    combinationOf(
      new Map([
        ...valuesAsked(this.store.part()),
        ...Object.entries(this.chosen()).filter(([, value]) => value !== ''),
      ]),
    ),
  );
  protected readonly problem = computed(() => {
    if (!this.hasChoice()) return 'Choose a value.';
    const line = { account: this.account(), combination: this.combination(), figures: [] };
    if (this.store.ofPart(new Map([['', line]])).size === 0) return 'The filter of the sheet leaves this value out.';
    return this.store.lines().has(lineKey(this.account(), this.combination()))
      ? 'The account has this row already.'
      : '';
  });

  protected choose(dimension: string, value: string): void {
    this.chosen.update((chosen) => ({ ...chosen, [dimension]: value }));
  }

  protected start(): void {
    const [layoutRow, account] = this.row().id.split(':');
    const values = this.store.dimensions().map((name) => this.chosen()[name] ?? '');
    const below = this.store.valuesFirst() ? values.join('/') : account;
    this.store.start(this.account(), this.combination(), [layoutRow!, `${layoutRow}:${below}`]);
    this.chosen.set({});
  }
}
