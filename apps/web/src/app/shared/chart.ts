import {
  afterNextRender,
  booleanAttribute,
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
import type { ChartOption } from '@margin-lens/core/drawn';
import type { EChartsType } from 'echarts/core';

/** Where a point of a chart was drawn to. */
export interface DrawnPoint {
  /** Place on the axis of categories. */
  at: number;
  value: number;
}

/** What was pressed in a chart: an item of its data, alone or beside what was pressed before. */
export interface PickedItem {
  item: unknown;
  isAdded: boolean;
}

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
  readonly picked = output<PickedItem>();
  /** Whether its points are drawn to other places, along the axis of values. */
  readonly isDrawn = input(false, { transform: booleanAttribute });
  readonly drawn = output<DrawnPoint>();
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
        chart.on('click', ({ data: item, event }) => {
          const { ctrlKey, metaKey, shiftKey } = (event?.event as MouseEvent | undefined) ?? {};
          this.picked.emit({ item, isAdded: !!(ctrlKey || metaKey || shiftKey) });
        });
        if (this.isDrawn()) this.followPointer(chart);
        this.chart.set(chart);
      });
    });
    effect(() => this.chart()?.setOption({ animation: false, ...this.option() }, { notMerge: true }));
  }

  /** Draws the point that the pointer was pressed at, as long as it is. */
  private followPointer(chart: EChartsType): void {
    let at: number | undefined;
    const tell = (event: { offsetX: number; offsetY: number }) => {
      const [place, value] = chart.convertFromPixel({ gridIndex: 0 }, [event.offsetX, event.offsetY]) as number[];
      at ??= Math.round(place!);
      this.drawn.emit({ at, value: value! });
    };
    const pointer = chart.getZr();
    pointer.on('mousedown', tell);
    pointer.on('mousemove', (event) => {
      if (at !== undefined) tell(event);
    });
    pointer.on('mouseup', () => (at = undefined));
    pointer.on('globalout', () => (at = undefined));
  }
}
