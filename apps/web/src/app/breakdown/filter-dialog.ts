import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatRadioModule } from '@angular/material/radio';
import type { DimensionCondition } from '@margin-lens/core';
import type { StatementContext } from '@margin-lens/contract';
import { Api } from '../shared/api';
import { asked } from '../shared/asked';
import type { OfferedField } from './breakdown-store';

export interface FilterQuestion {
  statement: string;
  context: StatementContext;
  field: OfferedField;
  demand: DimensionCondition | undefined;
}

/** What is asked of a field; nothing where the demand is undefined. */
export interface FilterAnswer {
  demand: Omit<DimensionCondition, 'dimension'> | undefined;
}

const WAYS: readonly { has: DimensionCondition['has']; name: string }[] = [
  { has: 'in', name: 'Only these' },
  { has: 'not_in', name: 'All but these' },
  { has: 'any', name: 'With any value' },
  { has: 'none', name: 'Without a value' },
];

/** Pixels that a level of a tree of values is set in. */
const INDENT = 14; // 8 to 24

/** Asks which values of a field count. */
@Component({
  selector: 'ml-filter-dialog',
  imports: [MatButtonModule, MatCheckboxModule, MatDialogModule, MatFormFieldModule, MatInputModule, MatRadioModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ data.field.name }}</h2>
    <mat-dialog-content>
      <form id="filter" (submit)="$event.preventDefault(); take()">
        <mat-radio-group aria-label="Which count" [value]="has()" (change)="has.set($event.value)">
          @for (way of ways(); track way.has) {
            <mat-radio-button [value]="way.has">{{ way.name }}</mat-radio-button>
          }
        </mat-radio-group>
        @if (isNamed()) {
          <mat-form-field>
            <input
              matInput
              type="search"
              placeholder="Search"
              aria-label="Search values"
              [value]="text()"
              (input)="text.set($any($event.target).value)"
            />
          </mat-form-field>
          @if (answer().error; as error) {
            <p class="issue" role="alert">{{ error.message }} {{ error.hint }}</p>
          }
          <div class="values" role="group" [attr.aria-label]="'Values of ' + data.field.name">
            @for (each of found(); track each.value) {
              <mat-checkbox
                [style.margin-left.px]="each.indent"
                [checked]="chosen().has(each.value)"
                (change)="turn(each.value)"
              >
                {{ each.name }}
              </mat-checkbox>
            } @empty {
              <p class="thin">{{ answer().isLoading ? 'Reading the values…' : 'No value is called so.' }}</p>
            }
          </div>
        }
      </form>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button matButton="outlined" type="button" mat-dialog-close>Cancel</button>
      @if (data.demand) {
        <button matButton="outlined" type="button" (click)="close(undefined)">All of them</button>
      }
      <button matButton="filled" type="submit" form="filter" [disabled]="isNamed() && chosen().size === 0">
        Filter
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    form {
      display: grid;
      gap: 8px;
    }
    mat-radio-group {
      display: flex;
      flex-wrap: wrap;
      gap: 0 14px;
    }
    .values {
      display: grid;
      align-content: start;
      height: 260px;
      overflow: auto;
      border: 1px solid var(--rule);
      border-radius: var(--radius);
    }
    .thin {
      margin: 8px;
      color: var(--ink-2);
    }
  `,
})
export class FilterDialog {
  protected readonly data = inject<FilterQuestion>(MAT_DIALOG_DATA);
  private readonly ref = inject<MatDialogRef<FilterDialog, FilterAnswer>>(MatDialogRef);
  private readonly api = inject(Api);

  private readonly asking = asked(signal(this.data).asReadonly(), ({ statement, context, field }) =>
    this.api.fieldValues(statement, { ...context, field: field.by }),
  );
  protected readonly answer = this.asking.state;
  protected readonly has = signal<DimensionCondition['has']>(this.data.demand?.has ?? 'in');
  protected readonly text = signal('');
  protected readonly chosen = signal<ReadonlySet<string>>(new Set(this.data.demand?.values));
  protected readonly isNamed = computed(() => this.has() === 'in' || this.has() === 'not_in');
  protected readonly ways = computed(() =>
    this.answer().view?.none === null ? WAYS.filter(({ has }) => has === 'in' || has === 'not_in') : WAYS,
  );
  protected readonly found = computed(() => {
    const values = this.answer().view?.values ?? [];
    const parents = new Map(values.map(({ value, parent }) => [value, parent]));
    const depthOf = (value: string): number => {
      const parent = parents.get(value) ?? '';
      return parent === '' || !parents.has(parent) ? 0 : 1 + depthOf(parent);
    };
    const words = this.text().toLowerCase().trim();
    return inTree(values)
      .filter(({ name, value }) => `${name} ${value}`.toLowerCase().includes(words))
      .map((each) => ({ ...each, indent: words === '' ? INDENT * depthOf(each.value) : 0 }));
  });

  protected turn(value: string): void {
    this.chosen.update((chosen) => {
      const next = new Set(chosen);
      if (!next.delete(value)) next.add(value);
      return next;
    });
  }

  protected take(): void {
    this.close({ has: this.has(), values: this.isNamed() ? [...this.chosen()] : [] });
  }

  protected close(demand: FilterAnswer['demand']): void {
    this.ref.close({ demand });
  }
}

/** Values with what stands below each behind it. */
function inTree<T extends { value: string; parent: string }>(values: readonly T[]): T[] {
  const known = new Set(values.map(({ value }) => value));
  const below = (parent: string): T[] =>
    values
      .filter((each) => (known.has(each.parent) ? each.parent : '') === parent)
      .flatMap((each) => [each, ...below(each.value)]);
  return below('');
}
