import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output } from '@angular/core';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { LongAnswer } from './long-answer';
import { ContextStore } from './context-store';
import { EntityChoice } from './entity-choice';
import { ErrorState } from './error-state';
import type { Failure } from './server-calls';

/**
 * The shell of a screen: title, one line that says what is shown, actions, progress, and what went wrong in place of what
 * could not be read. Actions stand in `slot="actions"`, all else is the screen; without a heading there is nothing yet.
 */
@Component({
  selector: 'ml-screen',
  imports: [EntityChoice, ErrorState, LongAnswer, MatProgressBarModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="page">
      @if (isLoading() && !lacksEntity()) {
        <mat-progress-bar class="loading" mode="indeterminate" [attr.aria-label]="reading()" />
      }
      @if (canStop()) {
        <ml-long-answer
          [reading]="reading()"
          [isLoading]="isLoading()"
          [isStopped]="isStopped()"
          [hasAnswer]="!!heading()"
          (stopped)="stopped.emit()"
          (retry)="retry.emit()"
        />
      }
      @if (lacksEntity()) {
        <header>
          <h1>{{ heading() }}</h1>
        </header>
        <ml-entity-choice />
      } @else if (error(); as error) {
        <ml-error-state [error]="error" (retry)="retry.emit()" />
      } @else if (heading()) {
        <header>
          <div class="title">
            <h1>{{ heading() }}</h1>
            <p data-testid="subtitle" [title]="says()">{{ says() }}</p>
            <ng-content select="[slot=note]" />
          </div>
          <ng-content select="[slot=actions]" />
        </header>
        <ng-content />
      }
    </section>
  `,
  styleUrl: './screen.scss',
})
export class Screen {
  /** Title of the screen, and of the window. */
  readonly heading = input<string | undefined>('');
  /** What is shown, in words. */
  readonly says = input('');
  /** What is being done while it loads, for who cannot see the bar. */
  readonly reading = input('Reading');
  readonly isLoading = input(false);
  /** Whether what takes long can be given up, and whether it was. */
  readonly canStop = input(false);
  readonly isStopped = input(false);
  /** Whether it shows what entities keep, one of them at a time; of a group one is to be chosen first. */
  readonly isOfEntity = input(false);
  /** Stands in place of the screen; a screen that stays usable shows its error itself. */
  readonly error = input<Failure>();
  readonly retry = output();
  readonly stopped = output();

  private readonly contexts = inject(ContextStore);
  protected readonly lacksEntity = computed(
    () => this.isOfEntity() && this.contexts.context() !== undefined && !this.contexts.entity(),
  );

  constructor() {
    effect(() => {
      const heading = this.heading();
      if (heading) document.title = `${heading} – Margin Lens`;
    });
  }
}
