import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, viewChild } from '@angular/core';
import { ContextStore } from '../shared/context-store';
import { ShownStatement } from '../shared/shown-statement';
import { WorkspaceStore } from '../shared/workspace-store';
import { asAtWords, rulerYears, spanBars, type Tick } from './ruler-view';

/** The time strip: what each month holds, which spans the columns cover, and the pin that says as at when. */
@Component({
  selector: 'ml-period-ruler',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './period-ruler.html',
  styleUrl: './period-ruler.scss',
})
export class PeriodRuler {
  private readonly workspaces = inject(WorkspaceStore);
  protected readonly contexts = inject(ContextStore);
  protected readonly shown = inject(ShownStatement);
  private readonly strip = viewChild<ElementRef<HTMLElement>>('strip');
  private isDragging = false;
  /** Letters of a day that no longer fit in their size. */
  protected readonly LONG = 14;

  protected readonly years = computed(() => {
    const state = this.workspaces.state();
    const context = this.contexts.context();
    if (state.state !== 'loaded' || !context) return [];
    const { periods, asAt, scope } = context;
    return rulerYears({ periods, asAt, posted: new Set(scope.posted), versions: state.workspace.versions });
  });
  private readonly ticks = computed(() => this.years().flatMap((year) => year.ticks));

  /** Widths in flex units: an adjustment period is a narrow tick. */
  private readonly offsets = computed(() => {
    let at = 0;
    return [0, ...this.ticks().map((tick) => (at += tick.isAdjustment ? NARROW : 1))];
  });
  protected readonly bars = computed(() => {
    const offsets = this.offsets();
    const whole = offsets[offsets.length - 1] || 1;
    const lit = this.shown.litColumn();
    const ordinals = this.ticks().map((tick) => tick.period.ordinal);
    return spanBars(this.shown.view()?.columns ?? [], ordinals).map((bar) => ({
      ...bar,
      left: (100 * offsets[bar.from]!) / whole,
      width: (100 * (offsets[bar.to + 1]! - offsets[bar.from]!)) / whole,
      isLit: lit !== undefined && bar.columns.includes(lit),
    }));
  });
  protected readonly asAt = computed(() => {
    const context = this.contexts.context();
    return context && asAtWords(context.asAt, context.periods);
  });
  protected readonly pin = computed(() => {
    const offsets = this.offsets();
    const index = this.ticks().findIndex((tick) => tick.isAsAt);
    return index < 0 ? undefined : (50 * (offsets[index]! + offsets[index + 1]!)) / (offsets[offsets.length - 1] || 1);
  });

  protected choose(tick: Tick): void {
    this.contexts.setAsAt(tick.period);
  }

  protected startDrag(event: PointerEvent): void {
    this.isDragging = true;
    (event.target as HTMLElement).setPointerCapture(event.pointerId);
    event.preventDefault();
  }

  protected drag(event: PointerEvent): void {
    const strip = this.strip()?.nativeElement.getBoundingClientRect();
    if (!this.isDragging || !strip) return;
    const offsets = this.offsets();
    const at = ((event.clientX - strip.left) / strip.width) * offsets[offsets.length - 1]!;
    const index = offsets.findIndex((offset) => offset > at) - 1;
    const tick = this.ticks()[Math.max(0, index)];
    if (tick && !tick.isAsAt) this.choose(tick);
  }

  protected endDrag(): void {
    this.isDragging = false;
  }

  protected stepPin(event: KeyboardEvent): void {
    const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (!step) return;
    event.preventDefault();
    this.contexts.stepAsAt(step as 1 | -1);
  }
}

const NARROW = 0.34;
