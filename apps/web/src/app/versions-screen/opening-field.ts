import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { ACTUAL } from '@margin-lens/core';
import type { OpeningSource, PeriodView, VersionView } from '@margin-lens/contract';

/** Chooses the balances that a plan opens with: those of a version at a month; without a choice the actual ones before its first month. */
@Component({
  selector: 'ml-opening-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <label>
      Balances open with
      <select class="field" #version (change)="choose(version.value, period())" data-testid="opening">
        <option value="" [selected]="!opening()">the actual balances before its first month</option>
        <option [value]="actual" [selected]="opening()?.version === actual">the actual balances of a month</option>
        @for (each of versions(); track each.code) {
          <option [value]="each.code" [selected]="opening()?.version === each.code">
            the balances of {{ each.name }}
          </option>
        }
      </select>
    </label>
    @if (opening()) {
      <label>
        At the end of
        <select class="field" #month (change)="choose(opening()!.version, month.value)" data-testid="opening-month">
          @for (each of months(); track each.key) {
            <option [value]="each.key" [selected]="each.key === period()">{{ each.name }}</option>
          }
        </select>
      </label>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 10px;
    }
    label {
      display: grid;
      gap: 3px;
      color: var(--ink-2);
      font-size: 13px;
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
