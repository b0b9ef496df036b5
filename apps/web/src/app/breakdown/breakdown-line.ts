import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatDividerModule } from '@angular/material/divider';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import {
  itemOf,
  itemsInWords,
  rowsOf,
  turnItem,
  turnItems,
  turnMeasure,
  type Breakdown,
  type ItemMeasure,
} from '@margin-lens/core';
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

/** What can be chosen of what is broken down. */
interface MenuEntry {
  key: string;
  label: string;
  depth: number;
  /** Undefined where it is nothing that is shown or not. */
  isShown: boolean | undefined;
  isTooMuch: boolean;
  /** Whether a line stands above it. */
  isDivided: boolean;
  next: () => Breakdown;
}

const entry = (
  definition: Breakdown,
  key: string,
  label: string,
  turn: (definition: Breakdown) => Breakdown,
  more: Partial<MenuEntry> = {},
): MenuEntry => ({
  ...{ key, label, depth: 0, isShown: undefined, isDivided: false },
  ...{ isTooMuch: turn(definition) === definition, next: () => turn(definition) },
  ...more,
});

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
          @for (entry of entries(); track entry.key) {
            @if (entry.isDivided) {
              <mat-divider />
            }
            <button
              mat-menu-item
              type="button"
              [role]="entry.isShown === undefined ? 'menuitem' : 'menuitemcheckbox'"
              [attr.aria-checked]="entry.isShown ?? null"
              [disabled]="entry.isTooMuch"
              [style.padding-left.px]="16 + 14 * entry.depth"
              (click)="store.change(entry.next())"
            >
              {{ entry.label }}
              @if (entry.isShown) {
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
  private readonly rows = computed(() => {
    const shown = new Set(rowsOf(this.store.definition() ?? { of: [] }));
    return (this.store.shown()?.rows ?? []).map((row) => ({ ...row, isShown: shown.has(row.id) }));
  });
  /** What of the rows that are shown is measured, how they stand to each other, and which they are. */
  protected readonly entries = computed((): MenuEntry[] => {
    const definition = this.store.definition();
    if (!definition) return [];
    const measured = this.rows().flatMap(({ id, isShown, isMeasured }) => (isShown && isMeasured ? id : []));
    const measures = (measured.length === 0 ? [] : MEASURES).map(({ of, name }) =>
      entry(definition, `measure ${of ?? ''}`, name, (given) => turnMeasure(given, of, measured), {
        isShown: measured.every((id) => definition.of.includes(itemOf(id, of))),
      }),
    );
    const words = definition.items === 'beside' ? 'Below each other' : 'Beside each other';
    const ways = definition.of.length > 1 ? [entry(definition, 'beside', words, turnItems)] : [];
    const above = measures.length + ways.length;
    const rows = this.rows().map(({ id, label, depth, isShown }, at) =>
      entry(definition, `row ${id}`, label, (given) => turnItem(given, id), {
        ...{ depth, isShown, isDivided: at === 0 && above > 0 },
      }),
    );
    return [...measures, ...ways, ...rows];
  });
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
