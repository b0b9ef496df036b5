import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink, RouterLinkActive } from '@angular/router';
import { openFindings } from '../books-check-screen/books-check-text';
import { NO_LINES } from '../ledger-screen/ledger-text';
import { NEW_STATEMENT } from '../shared/context-store';
import { BooksCheckStore } from '../shared/books-check-store';
import { TieOutsStore } from '../shared/tie-outs-store';
import { WorkspaceStore } from '../shared/workspace-store';

/** The places of the application, in words. Only what exists stands here. */
@Component({
  selector: 'ml-spine',
  imports: [RouterLink, RouterLinkActive],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <nav aria-label="Places">
      @if (statements().length > 0) {
        <h2>Report</h2>
        @for (statement of statements(); track statement.id) {
          <a
            [routerLink]="['/statements', statement.id]"
            [queryParams]="NEW_STATEMENT"
            queryParamsHandling="merge"
            routerLinkActive="here"
            [routerLinkActiveOptions]="exactPath"
            ariaCurrentWhenActive="page"
            [title]="statement.name"
            >{{ statement.name }}</a
          >
        }
        <a
          routerLink="/library"
          [queryParams]="LEDGER_ONLY"
          queryParamsHandling="merge"
          routerLinkActive="here"
          ariaCurrentWhenActive="page"
          title="Library"
          >Library</a
        >
      }
      @if (statements().length > 0) {
        <h2>Plan</h2>
        <a
          routerLink="/versions"
          [queryParams]="LEDGER_ONLY"
          queryParamsHandling="merge"
          routerLinkActive="here"
          ariaCurrentWhenActive="page"
          title="Versions"
          >Versions</a
        >
        <a
          routerLink="/exceptions"
          [queryParams]="LEDGER_ONLY"
          queryParamsHandling="merge"
          routerLinkActive="here"
          ariaCurrentWhenActive="page"
          title="Exceptions"
          >Exceptions</a
        >
      }
      <h2>Books</h2>
      @if (statements().length > 0) {
        <a
          routerLink="/ledger"
          [queryParams]="LEDGER_ONLY"
          queryParamsHandling="merge"
          routerLinkActive="here"
          ariaCurrentWhenActive="page"
          title="Ledger"
          >Ledger</a
        >
        <a
          routerLink="/books-check"
          [queryParams]="LEDGER_ONLY"
          queryParamsHandling="merge"
          routerLinkActive="here"
          ariaCurrentWhenActive="page"
          title="Books check"
          >Books check <span class="count">{{ toLookAt() || '' }}</span></a
        >
        <a
          routerLink="/tie-outs"
          [queryParams]="LEDGER_ONLY"
          queryParamsHandling="merge"
          routerLinkActive="here"
          ariaCurrentWhenActive="page"
          title="Tie-outs"
          >Tie-outs <span class="count">{{ untied() || '' }}</span></a
        >
        <a
          routerLink="/adjustments"
          [queryParams]="LEDGER_ONLY"
          queryParamsHandling="merge"
          routerLinkActive="here"
          ariaCurrentWhenActive="page"
          title="Adjustments"
          >Adjustments</a
        >
        <a
          routerLink="/periods"
          [queryParams]="LEDGER_ONLY"
          queryParamsHandling="merge"
          routerLinkActive="here"
          ariaCurrentWhenActive="page"
          title="Periods"
          >Periods</a
        >
      }
      @if (statements().length > 0) {
        <a
          routerLink="/setup"
          [queryParams]="LEDGER_ONLY"
          queryParamsHandling="merge"
          routerLinkActive="here"
          ariaCurrentWhenActive="page"
          title="Setup"
          >Setup</a
        >
      }
      <a
        routerLink="/deliveries"
        queryParamsHandling="merge"
        routerLinkActive="here"
        ariaCurrentWhenActive="page"
        title="Deliveries"
      >
        Deliveries
      </a>
    </nav>
  `,
  styleUrl: './spine.scss',
})
export class Spine {
  private readonly workspaces = inject(WorkspaceStore);
  /** Parameters of one line list that the trial balance does not share. */
  protected readonly LEDGER_ONLY = NO_LINES;
  protected readonly NEW_STATEMENT = NEW_STATEMENT;
  protected readonly exactPath = {
    paths: 'exact',
    queryParams: 'ignored',
    fragment: 'ignored',
    matrixParams: 'ignored',
  } as const;
  private readonly booksCheck = inject(BooksCheckStore);
  protected readonly toLookAt = computed(() => {
    const { view } = this.booksCheck.state();
    return view ? openFindings(view).length : 0;
  });
  private readonly tieOuts = inject(TieOutsStore);
  protected readonly untied = computed(
    () => this.tieOuts.state().view?.ties.filter(({ agrees }) => !agrees).length ?? 0,
  );
  protected readonly statements = computed(() => {
    const state = this.workspaces.state();
    return state.state === 'loaded' ? state.workspace.statements : [];
  });
}
