import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import { catchError, map, of } from 'rxjs';
import type { IssueCheck } from '@margin-lens/contract';
import { Api } from './api';

/** What has to be so before figures are issued: what is done, what is open, with whom, and where it is mended. */
@Component({
  selector: 'ml-issue-checks',
  imports: [MatButtonModule, MatMenuModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="sum" role="status" data-testid="ready" [class.ready]="open() === 0">
      <span class="thin">Ready to issue?</span>
      <strong>{{ open() === 0 ? 'Nothing is open' : open() + ' of ' + checks().length + ' are open' }}</strong>
    </p>
    <ul>
      @for (each of checks(); track $index) {
        <li [attr.data-check]="each.check">
          <span [class.favourable]="each.isDone" [class.adverse]="!each.isDone" aria-hidden="true">{{
            each.isDone ? '✓' : '!'
          }}</span>
          <span>
            @if (each.isDone) {
              {{ each.name }}
            } @else if (each.path) {
              <a matButton class="plain" [routerLink]="each.path" queryParamsHandling="merge">{{ each.name }}</a>
            } @else {
              <button matButton class="plain" type="button" (click)="pageChosen.emit(each.page)">
                {{ each.name }}
              </button>
            }
            <span class="visually-hidden">{{ each.isDone ? 'done' : 'open' }}</span>
            @for (line of each.says; track $index) {
              <small>{{ line }}</small>
            }
          </span>
          @if (each.page === '') {
            <button
              matButton
              class="plain quiet"
              type="button"
              title="Who looks after it"
              [matMenuTriggerFor]="owners"
              [attr.aria-label]="'Owner of: ' + each.name"
            >
              <span [class.thin]="each.owner === ''">{{ each.owner || 'nobody yet' }}</span>
            </button>
            <mat-menu #owners="matMenu">
              @for (person of people(); track person) {
                <button mat-menu-item type="button" (click)="named.emit({ check: each.check, owner: person })">
                  {{ person }}
                </button>
              }
              <button mat-menu-item type="button" (click)="named.emit({ check: each.check, owner: '' })">Nobody</button>
            </mat-menu>
          }
        </li>
      }
    </ul>
  `,
  styleUrl: './issue-checks.scss',
})
export class IssueChecks {
  readonly checks = input.required<readonly IssueCheck[]>();
  /** The page of a pack that an open check is of. */
  readonly pageChosen = output<string>();
  /** Who is to look after a check; empty for nobody. */
  readonly named = output<{ check: IssueCheck['check']; owner: string }>();

  protected readonly people = toSignal(
    inject(Api)
      .people()
      .pipe(
        map((people) => people.map(({ name }) => name)),
        catchError(() => of<string[]>([])),
      ),
    { initialValue: [] },
  );
  protected readonly open = computed(() => this.checks().filter(({ isDone }) => !isDone).length);
}
