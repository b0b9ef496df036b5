import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatSelectModule } from '@angular/material/select';
import { MatFormFieldModule } from '@angular/material/form-field';
import { ACTUAL } from '@margin-lens/core';
import type { OpeningSource, PeriodView, VersionView } from '@margin-lens/contract';

/** Chooses the balances that a plan opens with: those of a version at a month; without a choice the actual ones before its first month. */
@Component({
  selector: 'ml-opening-field',
  imports: [MatFormFieldModule, MatSelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-form-field>
      <mat-label>Balances open with</mat-label>
      <mat-select
        [value]="opening()?.version ?? ''"
        (selectionChange)="choose($event.value, period())"
        data-testid="opening"
      >
        <mat-option value="">the actual balances before its first month</mat-option>
        <mat-option [value]="actual">the actual balances of a month</mat-option>
        @for (each of versions(); track each.code) {
          <mat-option [value]="each.code"> the balances of {{ each.name }} </mat-option>
        }
      </mat-select>
    </mat-form-field>
    @if (opening()) {
      <mat-form-field>
        <mat-label>At the end of</mat-label>
        <mat-select
          [value]="period()"
          (selectionChange)="choose(opening()!.version, $event.value)"
          data-testid="opening-month"
        >
          @for (each of months(); track each.key) {
            <mat-option [value]="each.key">{{ each.name }}</mat-option>
          }
        </mat-select>
      </mat-form-field>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 10px;
    }
  `,
})
export class OpeningField {
  /** Versions whose balances may be taken. */
  readonly versions = input.required<readonly VersionView[]>();
  readonly periods = input.required<readonly PeriodView[]>();
  /** Key of the first month of the plan. */
  readonly first = input.required<string>();
  readonly opening = input.required<OpeningSource | null>();
  readonly changed = output<OpeningSource | null>();

  protected readonly actual = ACTUAL;
  protected readonly months = computed(() =>
    this.periods().filter(({ kind, key }) => kind === 'regular' && key < this.first()),
  );
  protected readonly period = computed(() => this.opening()?.period ?? this.months().at(-1)?.key ?? '');

  protected choose(version: string, period: string): void {
    this.changed.emit(version === '' || period === '' ? null : { version, period });
  }
}
