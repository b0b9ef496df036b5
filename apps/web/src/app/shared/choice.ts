import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';

export interface Choices<T> {
  value: T;
  name: string;
  depth?: number;
}

/** A field in which one of several is chosen, or none where that has a name. */
@Component({
  selector: 'ml-choice',
  imports: [MatFormFieldModule, MatSelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-form-field>
      <mat-label>{{ label() }}</mat-label>
      <mat-select [value]="place()" [disabled]="choices().length === 0" (valueChange)="choose($event)">
        @if (none()) {
          <mat-option [value]="-1">{{ none() }}</mat-option>
        }
        @for (each of choices(); track $index) {
          <mat-option [value]="$index" [style.padding-left.px]="16 + 12 * (each.depth ?? 0)">{{
            each.name
          }}</mat-option>
        }
      </mat-select>
    </mat-form-field>
  `,
  styles: `
    :host {
      display: grid;
    }
  `,
})
export class Choice<T> {
  readonly label = input.required<string>();
  readonly value = input.required<T | undefined>();
  readonly choices = input.required<readonly Choices<T>[]>();
  /** What it is called to choose none; without it one has to be chosen. */
  readonly none = input('');
  readonly chosen = output<T | undefined>();

  /** Place of what is chosen: a select takes a value that is not there for nothing chosen. */
  protected readonly place = computed(() => {
    const at = this.choices().findIndex(({ value }) => value === this.value());
    return at < 0 && !this.none() ? undefined : at;
  });

  protected choose(at: number): void {
    this.chosen.emit(this.choices()[at]?.value);
  }
}
