import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { switchMap } from 'rxjs';
import type { ErrorReply } from '@margin-lens/contract';
import { ClosingApi, withOwner } from '../month-end-screen/closing-api';
import { asked } from '../shared/asked';
import { ErrorState } from '../shared/error-state';
import { IssueChecks } from '../shared/issue-checks';
import { PackStore } from './pack-store';
import { PacksApi } from './packs-api';

/** Whether the pack can be issued: what is done, what is open, with whom, and where it is mended. */
@Component({
  selector: 'ml-pack-ready',
  imports: [ErrorState, IssueChecks, MatProgressBarModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (state().isLoading) {
      <mat-progress-bar mode="indeterminate" aria-label="Looking whether it can be issued" />
    }
    @if (failure(); as failure) {
      <p class="adverse" role="alert">{{ failure.message }} {{ failure.hint }}</p>
    }
    @if (state().error; as error) {
      <ml-error-state [error]="error" (retry)="asking.again()" />
    } @else if (state().view; as view) {
      <ml-issue-checks [checks]="view.checks" (pageChosen)="store.choose($event)" (named)="name($event)" />
    }
  `,
  styles: '.adverse { color: var(--adverse); }',
})
export class PackReady {
  protected readonly store = inject(PackStore);
  private readonly api = inject(PacksApi);
  private readonly closing = inject(ClosingApi);

  protected readonly asking = asked(this.store.question, ({ pack, context }) => this.api.packReadiness(pack, context));
  protected readonly state = this.asking.state;
  protected readonly failure = signal<ErrorReply | undefined>(undefined);

  /** Names who looks after a check, in all packs and at each month's end. */
  protected name({ check, owner }: { check: string; owner: string }): void {
    const context = this.store.question()?.context;
    if (!context) return;
    this.failure.set(undefined);
    this.closing
      .closing({ scope: context.scope, as_at: context.as_at })
      .pipe(switchMap(({ revision, list }) => this.closing.saveList(withOwner({ base: revision, list }, check, owner))))
      .subscribe({ next: () => this.asking.again(), error: (error: ErrorReply) => this.failure.set(error) });
  }
}
