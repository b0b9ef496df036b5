import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatListModule } from '@angular/material/list';
import { RouterLink, RouterLinkActive } from '@angular/router';
import { openFindings } from '../shared/open-findings';
import { NO_LINES } from '../ledger-screen/ledger-text';
import { BooksCheckStore } from '../shared/books-check-store';
import { NEW_STATEMENT } from '../shared/view-context';
import { TieOutsStore } from '../shared/tie-outs-store';
import { WorkspaceStore } from '../shared/workspace-store';
import { placesFor, type Place } from './places';

/** The places of the application, in words, all in sight at once. Only what exists stands here. */
@Component({
  selector: 'ml-spine',
  imports: [MatListModule, RouterLink, RouterLinkActive],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <nav aria-label="Places">
      @for (group of groups(); track group.name) {
        <h2>{{ group.name }}</h2>
        <mat-nav-list [aria-label]="group.name">
          @for (place of group.places; track place.path) {
            <a
              mat-list-item
              [routerLink]="place.path"
              [queryParams]="LEFT_BEHIND"
              queryParamsHandling="merge"
              routerLinkActive
              #link="routerLinkActive"
              [activated]="link.isActive"
              ariaCurrentWhenActive="page"
            >
              <span class="line"
                >{{ place.name }} <span class="count">{{ countOf(place) || '' }}</span></span
              >
            </a>
          }
        </mat-nav-list>
      }
    </nav>
  `,
  styleUrl: './spine.scss',
})
export class Spine {
  /** Parameters of one list or statement that no other place shares. */
  protected readonly LEFT_BEHIND = { ...NO_LINES, ...NEW_STATEMENT };
  private readonly workspaces = inject(WorkspaceStore);
  private readonly booksCheck = inject(BooksCheckStore);
  private readonly tieOuts = inject(TieOutsStore);

  protected readonly groups = computed(() => {
    const shown = placesFor(this.workspaces.hasBooks());
    return [...new Set(shown.map(({ group }) => group))].map((name) => ({
      name,
      places: shown.filter(({ group }) => group === name),
    }));
  });
  private readonly counts = computed(() => {
    const findings = this.booksCheck.view();
    return {
      findings: findings ? openFindings(findings).length : 0,
      untied: this.tieOuts.open(),
    };
  });

  protected countOf({ counts }: Place): number {
    return counts ? this.counts()[counts] : 0;
  }
}
