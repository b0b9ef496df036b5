import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatDividerModule } from '@angular/material/divider';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { itemOf, itemsInWords, rowsOf, turnItem, turnItems, turnMeasure, type ItemMeasure } from '@margin-lens/core';
import { setDemand } from '@margin-lens/core/shown';
import { ContextStore } from '../shared/context-store';
import { questionOf } from '../statement/statement-store';
import { AxisList } from './axis-list';
import { BreakdownStore } from './breakdown-store';
import { FilterDialog, type FilterAnswer, type FilterQuestion } from './filter-dialog';

const MEASURES: readonly { of: ItemMeasure | undefined; name: string }[] = [
  { of: undefined, name: 'Figure' },
  { of: 'quantity', name: 'Quantity' },
  { of: 'per_unit', name: 'Per unit' },
  { of: 'lines', name: 'Journal lines' },
];

/** The sentence over a breakdown: what by what across what, and what of it alone; each part of it can be changed. */
@Component({
  selector: 'ml-breakdown-line',
  imports: [AxisList, MatButtonModule, MatDividerModule, MatIconModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="line" data-testid="breakdown-line">
      <button matButton type="button" class="plain quiet what" [matMenuTriggerFor]="items" data-testid="what">
        {{ what() }}
        <mat-icon iconPositionEnd svgIcon="open" />
      </button>
      <mat-menu #items="matMenu">
        <ng-template matMenuContent>
          @for (measure of measures(); track measure.of) {
            <button
              mat-menu-item
              type="button"
              role="menuitemcheckbox"
              [attr.aria-checked]="measure.isShown"
              [disabled]="measure.isTooMuch"
              (click)="measureBy(measure.of)"
            >
              {{ measure.name }}
              @if (measure.isShown) {
                <mat-icon svgIcon="check" />
              }
            </button>
          }
          @if (areSeveral()) {
            <button mat-menu-item type="button" (click)="beside()">
              {{ areBeside() ? 'Below each other' : 'Beside each other' }}
            </button>
          }
          @if (measures().length > 0 || areSeveral()) {
            <mat-divider />
          }
          @for (row of rows(); track row.id) {
            <button
              mat-menu-item
              type="button"
              role="menuitemcheckbox"
              [attr.aria-checked]="row.isShown"
              [disabled]="row.isTooMuch"
              [style.padding-left.px]="16 + 14 * row.depth"
              (click)="turn(row.id)"
            >
              {{ row.label }}
              @if (row.isShown) {
                <mat-icon svgIcon="check" />
              }
            </button>
          }
        </ng-template>
      </mat-menu>
      <ml-axis-list side="down" place="line" />
      <span class="thin">·</span>
      <ml-axis-list side="across" place="line" />
      @for (demand of demands(); track demand.by) {
        <span class="demand">
          <button matButton type="button" class="plain quiet" (click)="ask(demand.by)">{{ demand.words }}</button>
          <button matIconButton type="button" [attr.aria-label]="'No more: ' + demand.words" (click)="drop(demand.by)">
            <mat-icon svgIcon="close" />
          </button>
        </span>
      }
      <button matButton type="button" class="plain quiet" [matMenuTriggerFor]="filters" data-testid="filter">
        Filter
        <mat-icon iconPositionEnd svgIcon="open" />
      </button>
      <mat-menu #filters="matMenu">
        @for (field of filterable(); track field.by) {
          <button mat-menu-item type="button" (click)="ask(field.by)">{{ field.name }}…</button>
        }
      </mat-menu>
      @if (store.marked().length > 1) {
        <button
          matButton
          type="button"
          class="plain quiet"
          [title]="onlyMarked() ? 'F' : 'These are not values of one field below the same value'"
          [disabled]="!onlyMarked()"
          (click)="store.change(onlyMarked()!)"
          data-testid="only-these"
        >
          Only these {{ store.marked().length }}
        </button>
      }
      <button
        matButton
        type="button"
        class="plain quiet"
        title="X"
        [disabled]="!canSwap()"
        (click)="store.swap()"
        data-testid="swap"
      >
        Swap
      </button>
    </p>
  `,
  styles: `
    .line {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 0 8px;
      min-height: 28px;
      margin: 0 14px 4px;
    }
    .what {
      font-weight: 600;
    }
    .thin {
      color: var(--ink-2);
    }
    .demand {
      display: inline-flex;
      align-items: center;
    }
  `,
})
export class BreakdownLine {
  private readonly contexts = inject(ContextStore);
  private readonly dialog = inject(MatDialog);
  protected readonly store = inject(BreakdownStore);

  protected readonly what = computed(() => {
    const labels = new Map(this.rows().map(({ id, label }) => [id, label]));
    return itemsInWords(this.store.definition()?.of ?? [], (row) => labels.get(row));
  });
  protected readonly rows = computed(() => {
    const definition = this.store.definition();
    if (!definition) return [];
    const shown = new Set(rowsOf(definition));
    return (this.store.shown()?.rows ?? []).map((row) => ({
      ...row,
      isShown: shown.has(row.id),
      isTooMuch: turnItem(definition, row.id) === definition,
    }));
  });
  /** Rows that are shown and can be measured. */
  private readonly measured = computed(() =>
    this.rows().flatMap(({ id, isShown, isMeasured }) => (isShown && isMeasured ? id : [])),
  );
  /** What can be measured of the rows that are shown. */
  protected readonly measures = computed(() => {
    const [definition, measured] = [this.store.definition(), this.measured()];
    if (!definition || measured.length === 0) return [];
    return MEASURES.map((measure) => ({
      ...measure,
      isShown: measured.every((of) => definition.of.includes(itemOf(of, measure.of))),
      isTooMuch: turnMeasure(definition, measure.of, measured) === definition,
    }));
  });
  protected readonly areSeveral = computed(() => (this.store.definition()?.of.length ?? 0) > 1);
  protected readonly areBeside = computed(() => this.store.definition()?.items === 'beside');
  /** With only what is marked left. */
  protected readonly onlyMarked = computed(() => this.store.only(this.store.marked()));
  protected readonly canSwap = computed(() => {
    const { down = [], across = [] } = this.store.definition() ?? {};
    return down.length + across.length > 0;
  });
  protected readonly filterable = computed(() =>
    this.store.fields().filter(({ values, isOfLines }) => values > 0 || isOfLines),
  );
  protected readonly demands = computed(() => {
    const named = this.store.shown()?.demands ?? [];
    return (this.store.definition()?.where ?? []).map(({ dimension: by }, at) => ({ by, words: named[at] ?? by }));
  });

  protected turn(row: string): void {
    this.store.change(turnItem(this.store.definition()!, row));
  }

  protected measureBy(measure: ItemMeasure | undefined): void {
    this.store.change(turnMeasure(this.store.definition()!, measure, this.measured()));
  }

  protected beside(): void {
    this.store.change(turnItems(this.store.definition()!));
  }

  protected ask(by: string): void {
    const definition = this.store.definition();
    const context = this.contexts.context();
    const field = this.store.fields().find((each) => each.by === by);
    if (!definition || !context || !field) return;
    const demand = definition.where?.find(({ dimension }) => dimension === by);
    const data: FilterQuestion = { statement: context.statement, context: questionOf(context), field, demand };
    this.dialog
      .open<FilterDialog, FilterQuestion, FilterAnswer>(FilterDialog, { width: '440px', data })
      .afterClosed()
      .subscribe((answer) => {
        if (answer) this.store.change(setDemand(definition, by, answer.demand));
      });
  }

  protected drop(by: string): void {
    const definition = this.store.definition();
    if (definition) this.store.change(setDemand(definition, by, undefined));
  }
}
