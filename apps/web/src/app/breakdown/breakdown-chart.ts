import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { breakdownOption, chartedValues, chartOf, chartsOf, heightOf } from '@margin-lens/core/drawn';
import { type ChartKind, type ShownUnit } from '@margin-lens/core/shown';
import type { StatementView } from '@margin-lens/contract';
import { Chart, type PickedItem } from '../shared/chart';
import { BreakdownStore } from './breakdown-store';

const NAMES: Record<ChartKind, string> = {
  bars: 'Bars',
  stacked: 'Stacked',
  heat_map: 'Heat map',
  pareto: 'Ranked with their sum',
  treemap: 'Areas',
  lines: 'Lines',
  stacked_months: 'Stacked',
};

/**
 * The values of a breakdown as a chart; what is pressed is selected in the table, and what is selected there is marked, several
 * values, too.
 */
@Component({
  selector: 'ml-breakdown-chart',
  imports: [Chart, MatButtonToggleModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (values(); as values) {
      <mat-button-toggle-group
        aria-label="Kind of chart"
        [value]="kind()"
        (change)="store.draw($event.value)"
        data-testid="chart-kinds"
      >
        @for (each of kinds(); track each) {
          <mat-button-toggle [value]="each">{{ NAMES[each] }}</mat-button-toggle>
        }
      </mat-button-toggle-group>
      <ml-chart
        class="chart"
        [style.height.px]="height()"
        [option]="option()!"
        [label]="label()"
        (picked)="pick($event)"
        data-testid="breakdown-chart"
      />
    } @else {
      <p class="thin">There is nothing to draw: add a field to break the figures down by.</p>
    }
  `,
  styles: `
    :host {
      display: block;
      padding: 4px 14px 10px;
    }
    .chart {
      margin-top: 8px;
    }
    .thin {
      color: var(--ink-2);
    }
  `,
})
export class BreakdownChart {
  readonly view = input.required<StatementView>();
  readonly unit = input.required<ShownUnit>();
  /** Address of the selected cell. */
  readonly cell = input<string>();
  readonly select = output<string>();

  protected readonly store = inject(BreakdownStore);
  protected readonly NAMES = NAMES;
  protected readonly values = computed(() => chartedValues(this.view()));
  protected readonly kinds = computed((): ChartKind[] => {
    const values = this.values();
    return values ? chartsOf(values) : [];
  });
  protected readonly kind = computed(() => chartOf(this.values()!, this.store.definition()?.chart));
  protected readonly height = computed(() => heightOf(this.kind(), this.values()!));
  protected readonly option = computed(() => {
    const values = this.values();
    return values && breakdownOption(this.kind(), values, this.unit(), this.chosen());
  });
  /** Rows that are marked: several, or that of the selected cell. */
  private readonly chosen = computed(() => {
    const [row] = this.cell()?.split('~') ?? [];
    const marked = this.store.marked();
    return marked.length > 0 || row === undefined ? marked : [row];
  });
  protected readonly label = computed(
    () => `${this.view().breakdown?.sentence ?? ''} as ${NAMES[this.kind()].toLowerCase()}`,
  );

  protected pick({ item, isAdded }: PickedItem): void {
    const { row } = item as { row?: string };
    const values = this.values();
    if (row === undefined || !values) return;
    if (isAdded) return this.store.mark(row, this.chosen());
    this.store.marked.set([]);
    this.select.emit(`${row}~${values.column}`);
  }
}
