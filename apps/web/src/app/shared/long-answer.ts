import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { takeUntilDestroyed, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { fromEvent, map, of, switchMap, timer } from 'rxjs';

/** How often it is said how long an answer takes, in milliseconds; before the first time nothing is. */
const SECOND = 1_000;

/** An answer that takes long: for how many seconds it has, and a way to give it up; and what stands there when it was. */
@Component({
  selector: 'ml-long-answer',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (isLong()) {
      <div class="says" role="status" data-testid="long-answer">
        <span>{{ reading() }}</span>
        <span class="seconds" aria-hidden="true">{{ seconds() }} s</span>
        <button matButton="outlined" type="button" title="Escape" (click)="stopped.emit()">Stop</button>
      </div>
    } @else if (isStopped()) {
      <div class="says" role="status" data-testid="stopped">
        <span>Stopped.{{ hasAnswer() ? ' What stands here was asked for before.' : '' }}</span>
        <button matButton="outlined" type="button" (click)="retry.emit()">Go on</button>
      </div>
    }
  `,
  styles: `
    .says {
      position: absolute;
      bottom: 14px;
      left: 50%;
      z-index: 5;
      display: flex;
      align-items: center;
      gap: var(--gap);
      padding: 5px 6px 5px 14px;
      background: var(--sheet);
      border: 1px solid var(--rule);
      border-radius: var(--radius);
      box-shadow: var(--raised);
      transform: translateX(-50%);
      white-space: nowrap;
    }
    .seconds {
      min-width: 34px;
      color: var(--ink-2);
      font-variant-numeric: tabular-nums;
      text-align: right;
    }
  `,
})
export class LongAnswer {
  /** What is being done. */
  readonly reading = input.required<string>();
  readonly isLoading = input.required<boolean>();
  readonly isStopped = input.required<boolean>();
  /** Whether an earlier answer stands there. */
  readonly hasAnswer = input.required<boolean>();
  readonly stopped = output();
  readonly retry = output();

  protected readonly seconds = toSignal(
    toObservable(this.isLoading).pipe(
      switchMap((isLoading) => (isLoading ? timer(SECOND, SECOND).pipe(map((past) => past + 1)) : of(0))),
    ),
    { initialValue: 0 },
  );
  protected readonly isLong = computed(() => this.isLoading() && this.seconds() > 0);

  constructor() {
    fromEvent<KeyboardEvent>(document, 'keydown', { capture: true })
      .pipe(takeUntilDestroyed())
      .subscribe((event) => this.onKey(event));
  }

  /** Escape gives up what takes long before it closes anything on the page; a menu above it is closed first. */
  private onKey(event: KeyboardEvent): void {
    const isAbove = event.target instanceof Element && event.target.closest('.cdk-overlay-container') !== null;
    if (event.key !== 'Escape' || !this.isLong() || isAbove) return;
    event.preventDefault();
    event.stopPropagation();
    this.stopped.emit();
  }
}
