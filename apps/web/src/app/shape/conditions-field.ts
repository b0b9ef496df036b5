import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { DimensionCondition } from '@margin-lens/core';
import type { MakingsView } from '@margin-lens/contract';

const DEMANDS: readonly { has: DimensionCondition['has']; says: string }[] = [
  { has: 'in', says: 'is' },
  { has: 'not_in', says: 'is not' },
  { has: 'any', says: 'has a value' },
  { has: 'none', says: 'has no value' },
];

/** Demands on the dimension values of postings: all of them must hold. */
@Component({
  selector: 'ml-conditions-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (condition of conditions(); track $index; let at = $index) {
      <div class="condition">
        <select
          class="field"
          aria-label="Dimension"
          (change)="put(at, { dimension: $any($event.target).value, has: 'any', values: [] })"
        >
          @for (name of names(); track name) {
            <option [value]="name" [selected]="name === condition.dimension">{{ name }}</option>
          }
        </select>
        <select class="field" aria-label="Demand" (change)="put(at, withDemand(condition, $any($event.target).value))">
          @for (demand of DEMANDS; track demand.has) {
            <option [value]="demand.has" [selected]="demand.has === condition.has">{{ demand.says }}</option>
          }
        </select>
        <button type="button" class="button" aria-label="Take out the demand" (click)="remove(at)">×</button>
        @if (condition.has === 'in' || condition.has === 'not_in') {
          <select
            class="field values"
            multiple
            size="4"
            aria-label="Values"
            (change)="put(at, withValues(condition, $any($event.target)))"
          >
            @for (value of valuesOf(condition.dimension); track value.value) {
              <option [value]="value.value" [selected]="condition.values.includes(value.value)">
                {{ value.name || value.value }}
              </option>
            }
          </select>
        }
      </div>
    }
    @if (names().length > 0) {
      <button type="button" class="button add" (click)="add()">Add a demand</button>
    }
  `,
  styles: `
    .condition {
      display: grid;
      grid-template-columns: 1fr 1fr auto;
      gap: 4px;
      margin-bottom: 4px;
    }
    .field {
      min-width: 0;
    }
    .values {
      grid-column: 1 / -1;
      height: auto;
      padding: 2px 4px;
    }
  `,
})
export class ConditionsField {
  readonly conditions = input.required<readonly DimensionCondition[]>();
  readonly dimensions = input.required<MakingsView['dimensions']>();
  readonly changed = output<DimensionCondition[]>();

  protected readonly DEMANDS = DEMANDS;
  protected names(): string[] {
    return [...this.dimensions().map(({ name }) => name), 'flow', 'partner'];
  }

  protected valuesOf(dimension: string): MakingsView['dimensions'][number]['values'] {
    return this.dimensions().find(({ name }) => name === dimension)?.values ?? [];
  }

  protected withDemand = (condition: DimensionCondition, has: DimensionCondition['has']): DimensionCondition => ({
    ...condition,
    has,
    values: has === 'in' || has === 'not_in' ? condition.values : [],
  });

  protected withValues = (condition: DimensionCondition, field: HTMLSelectElement): DimensionCondition => ({
    ...condition,
    values: [...field.selectedOptions].map(({ value }) => value),
  });

  protected put(at: number, condition: DimensionCondition): void {
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
