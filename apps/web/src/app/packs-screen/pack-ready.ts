import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import { Api } from '../shared/api';
import { asked } from '../shared/asked';
import { ErrorState } from '../shared/error-state';
import { PackStore } from './pack-store';

/** Whether the pack can be issued: what is done, what is open, and where it is mended. */
@Component({
  selector: 'ml-pack-ready',
  imports: [ErrorState, MatButtonModule, MatProgressBarModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (state().isLoading) {
      <mat-progress-bar mode="indeterminate" aria-label="Looking whether it can be issued" />
    }
    @if (state().error; as error) {
      <ml-error-state [error]="error" (retry)="asking.again()" />
    } @else if (state().view; as view) {
      <p class="sum" role="status" data-testid="ready">
        <span class="thin">Ready to issue?</span>
        <strong>{{ open() === 0 ? 'Nothing is open' : open() + ' of ' + view.checks.length + ' are open' }}</strong>
      </p>
      <ul>
        @for (each of view.checks; track $index) {
          <li [attr.data-check]="each.check">
            <span [class.favourable]="each.isDone" [class.adverse]="!each.isDone" aria-hidden="true">{{
              each.isDone ? '✓' : '!'
            }}</span>
            <span>
              {{ each.name }}
              <span class="visually-hidden">{{ each.isDone ? 'done' : 'open' }}</span>
              @for (line of each.says; track $index) {
                <small>{{ line }}</small>
              }
            </span>
            @if (!each.isDone) {
              @if (each.path) {
                <a matButton class="plain quiet" [routerLink]="each.path" queryParamsHandling="merge">Open</a>
              } @else {
                <button matButton class="plain quiet" type="button" (click)="store.choose(each.page)">Show</button>
              }
            }
          </li>
        }
      </ul>
    }
  `,
  styles: `
    .sum {
      display: grid;
      margin: 0 0 4px;
      padding: 10px 12px;
      background: var(--brass-soft);
    }
    .sum strong {
      font: 600 18px/1.3 var(--serif);
    }
    .thin,
    small {
      color: var(--ink-2);
      font-size: var(--small);
    }
    small {
      display: block;
    }
    ul {
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: grid;
      grid-template-columns: 16px 1fr auto;
      align-items: start;
      gap: 6px;
      padding: 8px 4px;
      border-bottom: 1px solid var(--rule);
    }
    .favourable {
      color: var(--favourable);
      font-weight: 600;
    }
    .adverse {
      color: var(--adverse);
      font-weight: 600;
    }
  `,
})
export class PackReady {
  protected readonly store = inject(PackStore);
  private readonly api = inject(Api);

  protected readonly asking = asked(this.store.question, ({ pack, context }) => this.api.packReadiness(pack, context));
  protected readonly state = this.asking.state;
  protected readonly open = computed(() => (this.state().view?.checks ?? []).filter(({ isDone }) => !isDone).length);
}
