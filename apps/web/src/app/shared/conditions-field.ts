import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { MatIconModule } from '@angular/material/icon';
import { MatSelectModule } from '@angular/material/select';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatButtonModule } from '@angular/material/button';
import type { NamedCondition } from '@margin-lens/core';
import type { MakingsView } from '@margin-lens/contract';
import { InWordsPipe } from './in-words-pipe';

const CONDITIONS: readonly { has: NamedCondition['has']; says: string }[] = [
  { has: 'in', says: 'is' },
  { has: 'not_in', says: 'is not' },
  { has: 'any', says: 'has a value' },
  { has: 'none', says: 'has no value' },
];

/** Conditions on the dimension values of postings: all of them must hold. */
@Component({
  selector: 'ml-conditions-field',
  imports: [InWordsPipe, MatButtonModule, MatFormFieldModule, MatIconModule, MatSelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (condition of conditions(); track $index; let at = $index) {
      <div class="condition">
        <mat-form-field>
          <mat-select
            [value]="condition.dimension"
            aria-label="Dimension"
            (selectionChange)="put(at, { dimension: $event.value, has: 'any', values: [] })"
          >
            @for (name of names(); track name) {
              <mat-option [value]="name">{{ name | inWords }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <mat-form-field>
          <mat-select
            [value]="condition.has"
            aria-label="Condition"
            (selectionChange)="put(at, withCondition(condition, $event.value))"
          >
            @for (each of CONDITIONS; track each.has) {
              <mat-option [value]="each.has">{{ each.says }}</mat-option>
            }
          </mat-select>
        </mat-form-field>
        <button matIconButton type="button" aria-label="Delete the condition" (click)="remove(at)">
          <mat-icon svgIcon="close" />
        </button>
        @if (condition.has === 'in' || condition.has === 'not_in') {
          <mat-form-field class="values">
            <mat-select
              multiple
              [value]="condition.values"
              aria-label="Values"
              (selectionChange)="put(at, withValues(condition, $event.value))"
            >
              @for (value of valuesOf(condition.dimension); track value.value) {
                <mat-option [value]="value.value">
                  {{ value.name || value.value }}
                </mat-option>
              }
            </mat-select>
          </mat-form-field>
        }
      </div>
    }
    @if (names().length > 0) {
      <button matButton="outlined" type="button" class="add" (click)="add()">Add a condition</button>
    }
  `,
  styles: `
    .condition {
      display: grid;
      grid-template-columns: 1fr 1fr auto;
      gap: 4px;
      margin-bottom: 4px;
    }
    .values {
      grid-column: 1 / -1;
      height: auto;
      padding: 2px 4px;
    }
  `,
})
export class ConditionsField {
  readonly conditions = input.required<readonly NamedCondition[]>();
  readonly dimensions = input.required<MakingsView['dimensions']>();
  /** What postings carry beside dimensions. */
  readonly more = input<readonly string[]>(['flow', 'partner']);
  readonly changed = output<NamedCondition[]>();

  protected readonly CONDITIONS = CONDITIONS;
  protected names(): string[] {
    return [...this.dimensions().map(({ name }) => name), ...this.more()];
  }

  protected valuesOf(dimension: string): MakingsView['dimensions'][number]['values'] {
    return this.dimensions().find(({ name }) => name === dimension)?.values ?? [];
  }

  protected withCondition = (condition: NamedCondition, has: NamedCondition['has']): NamedCondition => ({
    ...condition,
    has,
    values: has === 'in' || has === 'not_in' ? condition.values : [],
  });

  protected withValues = (condition: NamedCondition, values: string[]): NamedCondition => ({
    ...condition,
    values,
  });

  protected put(at: number, condition: NamedCondition): void {
    this.changed.emit(this.conditions().map((each, index) => (index === at ? condition : each)));
  }

  protected remove(at: number): void {
    this.changed.emit(this.conditions().filter((_, index) => index !== at));
  }

  protected add(): void {
    const dimension = this.names()[0]!;
    this.changed.emit([...this.conditions(), { dimension, has: 'any', values: [] }]);
  }
}
