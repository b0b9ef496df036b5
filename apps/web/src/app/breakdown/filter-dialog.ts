import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatRadioModule } from '@angular/material/radio';
import type { Filter } from '@margin-lens/core';
import type { StatementContext } from '@margin-lens/contract';
import { Api } from '../shared/api';
import { asked } from '../shared/asked';
import type { OfferedField } from './breakdown-store';

export interface FilterQuestion {
  statement: string;
  context: StatementContext;
  field: OfferedField;
  demand: Filter | undefined;
}

/** What is asked of a field; nothing where the demand is undefined. */
export interface FilterAnswer {
  demand: Omit<Filter, 'dimension'> | undefined;
}

const WAYS: readonly { has: Filter['has']; name: string }[] = [
  { has: 'in', name: 'Only these' },
  { has: 'not_in', name: 'All but these' },
  { has: 'between', name: 'From … to' },
  { has: 'contains', name: 'With a text in it' },
  { has: 'top', name: 'The largest' },
  { has: 'any', name: 'With any value' },
  { has: 'none', name: 'Without a value' },
];

/** Whether a demand is on a text or a number, and names no values. */
const isOfText = (has: Filter['has']): boolean => has === 'between' || has === 'contains' || has === 'top';

/** How many values count where nothing is said yet. */
const USUAL_COUNT = 10;

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
        @if (has() === 'between') {
          <div class="ends">
            <mat-form-field>
              <mat-label>From</mat-label>
              <input
                matInput
                name="from"
                [type]="isDay ? 'date' : 'text'"
                [value]="from()"
                (input)="from.set($any($event.target).value)"
              />
            </mat-form-field>
            <mat-form-field>
              <mat-label>To</mat-label>
              <input
                matInput
                name="to"
                [type]="isDay ? 'date' : 'text'"
                [value]="to()"
                (input)="to.set($any($event.target).value)"
              />
            </mat-form-field>
          </div>
          <p class="thin">{{ hint() }}</p>
        }
        @if (has() === 'contains') {
          <mat-form-field>
            <mat-label>Text in the code or name</mat-label>
            <input matInput name="text" [value]="from()" (input)="from.set($any($event.target).value)" />
          </mat-form-field>
        }
        @if (has() === 'top') {
          <mat-form-field>
            <mat-label>How many</mat-label>
            <input
              matInput
              type="number"
              name="count"
              min="1"
              max="9999"
              [value]="count()"
              (input)="count.set($any($event.target).value)"
            />
          </mat-form-field>
          <p class="thin">By the figure that the breakdown is ordered by, of what meets all other filters.</p>
        }
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
      <button matButton="filled" type="submit" form="filter" [disabled]="!canTake()">Filter</button>
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
    .ends {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 8px;
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
  protected readonly has = signal<Filter['has']>(
    this.data.demand?.has ?? (this.data.field.by === 'posting_day' ? 'between' : 'in'),
  );
  protected readonly text = signal('');
  private readonly ends = this.data.demand && isOfText(this.data.demand.has) ? this.data.demand.values : [];
  protected readonly chosen = signal<ReadonlySet<string>>(
    new Set(this.ends.length > 0 ? [] : this.data.demand?.values),
  );
  /** The first value of a range, or the text that is looked for. */
  protected readonly from = signal(this.ends[0] ?? '');
  protected readonly to = signal(this.ends[1] ?? '');
  protected readonly count = signal(
    this.data.demand?.has === 'top' ? this.data.demand.values[0]! : String(USUAL_COUNT),
  );
  protected readonly isDay = this.data.field.by === 'posting_day';
  protected readonly hint = computed(() => {
    if (this.isDay) return 'Both included. Without a first day, balances and open items are as at the last.';
    const [first] = (this.answer().view?.values ?? []).filter(({ name, value }) => name !== value);
    const example = first ? ` The code of ${first.name} is ${first.value}.` : '';
    return `Codes, both included; an end that is left open has none.${example}`;
  });
  protected readonly canTake = computed(() => {
    if (this.isNamed()) return this.chosen().size > 0;
    if (this.has() === 'top') return /^[1-9]\d{0,3}$/.test(this.count());
    return !isOfText(this.has()) || this.from() !== '' || (this.has() === 'between' && this.to() !== '');
  });
  protected readonly isNamed = computed(() => this.has() === 'in' || this.has() === 'not_in');
  protected readonly ways = computed(() =>
    this.answer().view?.none === null ? WAYS.filter(({ has }) => has !== 'any' && has !== 'none') : WAYS,
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
    const has = this.has();
    const texts =
      has === 'between' ? [this.from().trim(), this.to().trim()] : [has === 'top' ? this.count() : this.from().trim()];
    this.close({ has, values: this.isNamed() ? [...this.chosen()] : isOfText(has) ? texts : [] });
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
