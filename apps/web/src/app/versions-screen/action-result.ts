import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { exactFigure, favourOfChange, type FiscalPeriod, type PlanResult, type SheetRow } from '@margin-lens/core';
import { Chart } from '../shared/chart';
import { CHART_COLOURS, CHART_FRAME, barStyle, type ChartOption } from '@margin-lens/core/drawn';
import { readablePlain } from '@margin-lens/core/shown';
import type { OutlookRange } from './action-outlook';
import { PlanningStore } from './planning-store';

const MONTH = new Intl.DateTimeFormat('en-GB', { month: 'narrow', timeZone: 'UTC' });

/** What an action would make of the selected rows: before and after, by month and in all, and its effect on profit. */
@Component({
  selector: 'ml-action-result',
  imports: [Chart],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './action-result.html',
  styleUrl: './action-result.scss',
})
export class ActionResult {
  readonly planned = input.required<PlanResult>();
  /** The first of the selected rows. */
  readonly row = input.required<SheetRow>();
  /** Months of the sheet. */
  readonly periods = input.required<readonly FiscalPeriod[]>();
  /** Range of a forecast, where it is one. */
  readonly range = input<OutlookRange>();
  private readonly store = inject(PlanningStore);

  /** Before and after of the rows, by month and over the sheet. */
  protected readonly result = computed(() => {
    const [{ was, is, isOneKind, profit }, row, model] = [this.planned(), this.row(), this.store.model()];
    if (!model) return undefined;
    const whole = (figures: readonly number[]) =>
      row.isBalance ? figures.at(-1)! : figures.reduce((a, b) => a + b, 0);
    const text = (amount: number) => exactFigure({ amount, unit: row.unit });
    const change = whole(is) - whole(was);
    return {
      ...{ was, is, isOneKind },
      before: text(whole(was)),
      after: text(whole(is)),
      change: change === 0 ? '–' : text(change),
      percent: whole(was) === 0 ? '' : `${readablePlain(((100 * change) / Math.abs(whole(was))).toFixed(1))} %`,
      favour: favourOfChange(row, change) ?? '',
      profit: exactFigure({ amount: profit, unit: model.input.source.currency }),
      profitFavour: profit === 0 ? '' : profit > 0 ? 'favourable' : 'adverse',
    };
  });
  protected readonly chart = computed((): ChartOption | undefined => {
    const [result, model] = [this.result(), this.store.model()];
    if (!result || !model) return undefined;
    const kind = this.store.place()?.version.kind === 'plan' ? 'plan' : 'forecast';
    const labels = this.periods().map(({ label, start }) => MONTH.format(new Date(`${start}T00:00:00Z`)) || label);
    return {
      ...CHART_FRAME,
      grid: { ...CHART_FRAME.grid, top: 6 },
      xAxis: {
        type: 'category',
        data: labels,
        axisTick: { show: false },
        axisLabel: { fontSize: 10, interval: 0, color: CHART_COLOURS.second },
      },
      yAxis: { type: 'value', show: false, scale: false },
      series: [
        {
          type: 'bar',
          barWidth: '62%',
          data: result.is.map((value, at) => ({
            value,
            itemStyle: barStyle(model.input.frame.own[at] ? kind : 'actual'),
          })),
        },
        ...this.rangeLines(),
        {
          type: 'line',
          data: result.was,
          step: 'middle',
          symbol: 'none',
          lineStyle: { color: CHART_COLOURS.brass, width: 1.5 },
        },
      ],
    };
  });

  private rangeLines(): ChartOption[] {
    const range = this.range();
    if (!range) return [];
    const length = this.store.view()!.periods.length;
    const over = (figures: readonly number[]) =>
      Array.from({ length }, (_, at) => (range.months.includes(at) ? figures[range.months.indexOf(at)] : null));
    return [range.low, range.high].map((figures) => ({
      type: 'line',
      data: over(figures),
      symbol: 'none',
      lineStyle: { color: CHART_COLOURS.second, width: 1, type: 'dotted' },
    }));
  }
}
