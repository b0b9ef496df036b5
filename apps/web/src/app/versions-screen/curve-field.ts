import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { exactFigure, redraw, type SheetRow, type ShownUnit } from '@margin-lens/core';
import { CHART_COLOURS, CHART_FRAME, type ChartOption } from '@margin-lens/core/drawn';
import { Chart, type DrawnPoint } from '../shared/chart';
import { typedNumber } from '../shared/typed-amount';
import { editText, typedUnits } from './sheet-model';

/** How far beyond its figures a curve can be drawn. */
const ROOM = 1.4; // 1.1 to 3

/** The curve of a row over months, drawn by its points or typed; the total stays. */
@Component({
  selector: 'ml-curve-field',
  imports: [Chart, MatFormFieldModule, MatInputModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ml-chart [option]="chart()" [label]="says()" isDrawn (drawn)="draw($event)" data-testid="curve" />
    <p>Drag a month, or type it; the others take the difference, and {{ total() }} in all stay.</p>
    <div class="months">
      @for (name of names(); track $index; let at = $index) {
        <mat-form-field>
          <mat-label>{{ name }}</mat-label>
          <input matInput #typed inputmode="decimal" [value]="text(at)" (change)="type(at, typed.value)" />
        </mat-form-field>
      }
    </div>
  `,
  styles: `
    ml-chart {
      height: 150px;
      cursor: ns-resize;
    }
    p {
      margin: 0 0 8px;
      color: var(--ink-2);
      font-size: var(--medium);
    }
    .months {
      display: grid;
      grid-template-columns: 1fr 1fr 1fr;
      gap: 8px;
    }
  `,
})
export class CurveField {
  readonly row = input.required<SheetRow>();
  /** Figures as they stand, and as they are drawn. Units: minor units of the row's own reading. */
  readonly before = input.required<readonly number[]>();
  readonly figures = input.required<readonly number[]>();
  /** Names of the months. */
  readonly names = input.required<readonly string[]>();
  readonly unit = input.required<ShownUnit>();
  readonly changed = output<readonly number[]>();

  protected readonly total = computed(() => {
    const amount = this.before().reduce((sum, figure) => sum + figure, 0);
    return exactFigure({ amount, unit: this.row().unit });
  });
  protected readonly says = computed(() => `The curve of ${this.row().label} by month`);
  private readonly scale = computed(() => {
    const [least, most] = [Math.min(0, ...this.before()), Math.max(0, ...this.before())];
    return { min: ROOM * least, max: ROOM * most || 1 };
  });
  protected readonly chart = computed((): ChartOption => ({
    ...CHART_FRAME,
    grid: { ...CHART_FRAME.grid, top: 10 },
    xAxis: {
      type: 'category',
      data: [...this.names()],
      axisTick: { show: false },
      axisLabel: { fontSize: 10, color: CHART_COLOURS.second },
    },
    yAxis: { type: 'value', show: false, ...this.scale() },
    series: [
      {
        type: 'line',
        data: [...this.before()],
        symbol: 'none',
        lineStyle: { color: CHART_COLOURS.second, width: 1, type: 'dashed' },
      },
      {
        type: 'line',
        data: [...this.figures()],
        symbol: 'circle',
        symbolSize: 10,
        lineStyle: { color: CHART_COLOURS.ink, width: 2 },
        itemStyle: { color: CHART_COLOURS.ink },
      },
    ],
  }));

  protected text(at: number): string {
    return editText(this.row(), this.figures()[at]!, this.unit());
  }

  protected draw({ at, value }: DrawnPoint): void {
    // drawn figures are as round as they are shown
    const { shownUnit } = typedUnits(this.row(), this.unit());
    if (at >= 0 && at < this.figures().length) this.put(at, Math.round(value / shownUnit) * shownUnit);
  }

  protected type(at: number, text: string): void {
    const figure = Math.round(typedNumber(text) * typedUnits(this.row(), this.unit()).shownUnit);
    if (Number.isFinite(figure)) this.put(at, figure);
  }

  private put(at: number, to: number): void {
    this.changed.emit(redraw(this.figures(), at, to));
  }
}
