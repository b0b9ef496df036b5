import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import type { ChartOption } from '@margin-lens/core/shown';
import type { EChartsType } from 'echarts/core';

/** A chart, drawn as SVG; the library is loaded when the first one is shown. */
@Component({
  selector: 'ml-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<div #box class="box" role="img" [attr.aria-label]="label()"></div>`,
  styles: `
    :host {
      display: block;
    }
    .box {
      width: 100%;
      height: 100%;
    }
  `,
})
export class Chart {
  readonly option = input.required<ChartOption>();
  /** What the chart says, in words. */
  readonly label = input.required<string>();
  /** What was pressed: an item of the data. */
  readonly picked = output<unknown>();
  private readonly box = viewChild.required<ElementRef<HTMLElement>>('box');
  private readonly chart = signal<EChartsType | undefined>(undefined);

  constructor() {
    const destroyed = inject(DestroyRef);
    afterNextRender(() => {
      void import('./echarts-parts').then(({ init }) => {
        const element = this.box().nativeElement;
        if (!element.isConnected) return;
        const chart = init(element, null, { renderer: 'svg' });
        const watch = new ResizeObserver(() => chart.resize());
        watch.observe(element);
        destroyed.onDestroy(() => {
          watch.disconnect();
          chart.dispose();
        });
        chart.on('click', ({ data }) => this.picked.emit(data));
        this.chart.set(chart);
      });
    });
    effect(() => this.chart()?.setOption({ animation: false, ...this.option() }, { notMerge: true }));
  }
}
