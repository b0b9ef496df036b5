import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { catchError, concatMap, from, map, of, scan, startWith } from 'rxjs';
import type { ErrorReply, TieOutsView } from '@margin-lens/contract';
import { Api } from '../shared/api';
import { asked } from '../shared/asked';
import { ContextStore } from '../shared/context-store';
import { asAtText, scopeOf } from '../shared/view-context';
import { CHECK_WORDS } from '../shared/tie-outs';
import { WorkspaceStore } from '../shared/workspace-store';

/** What came of an entity or group. */
interface Outcome {
  code: string;
  view?: TieOutsView;
  problem?: string;
}

/** Every entity and group at one month: how many of its tie-outs agree, and which do not; each shown as soon as it is checked. */
@Component({
  selector: 'ml-tie-outs-of-all',
  imports: [MatButtonModule, MatProgressBarModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (left() > 0) {
      <mat-progress-bar mode="determinate" [value]="100 - (100 * left()) / rows().length" aria-label="Checking" />
    }
    <div class="scroll">
      <table data-testid="of-all">
        <thead>
          <tr>
            <th scope="col"><span class="visually-hidden">Agrees</span></th>
            <th scope="col">Entity or group</th>
            <th scope="col" class="number">Agree</th>
            <th scope="col">What does not</th>
          </tr>
        </thead>
        <tbody>
          @for (row of rows(); track row.code) {
            <tr [class.open]="row.state === 'open'">
              <td class="sign" [class.favourable]="row.state === 'ties'" [class.adverse]="row.state === 'open'">
                <span aria-hidden="true">{{ row.sign }}</span>
                <span class="visually-hidden">{{ row.says }}</span>
              </td>
              <th scope="row" class="name" [style.padding-left.px]="row.indent">
                <button matButton type="button" class="plain" (click)="open(row.code)">{{ row.name }}</button>
              </th>
              <td class="number">{{ row.count }}</td>
              <td>{{ row.off }}</td>
            </tr>
          }
        </tbody>
      </table>
    </div>
  `,
  styleUrl: './tie-outs-screen.scss',
})
export class TieOutsOfAll {
  private readonly api = inject(Api);
  private readonly contexts = inject(ContextStore);
  private readonly workspaces = inject(WorkspaceStore);

  private readonly question = computed(() => {
    const [context, state] = [this.contexts.context(), this.workspaces.state()];
    if (!context || state.state !== 'loaded') return undefined;
    const { scopes, revision } = state.workspace;
    return { codes: scopes.map(({ code }) => code), as_at: asAtText(context.asAt), revision };
  });
  private readonly asking = asked(this.question, ({ codes, as_at }) =>
    from(codes).pipe(
      concatMap((code) =>
        this.api.tieOuts({ scope: code, as_at }).pipe(
          map((view): Outcome => ({ code, view })),
          catchError((error: ErrorReply) => of<Outcome>({ code, problem: error.message })),
        ),
      ),
      scan((found, outcome) => new Map(found).set(outcome.code, outcome), new Map<string, Outcome>()),
      startWith(new Map<string, Outcome>()),
    ),
  );

  protected readonly rows = computed(() => {
    const state = this.workspaces.state();
    if (state.state !== 'loaded') return [];
    const found = this.asking.state().view;
    return state.workspace.scopes.map(({ code, depth }) => ({
      code,
      name: scopeOf(state.workspace, code)?.name ?? code,
      indent: depth * INDENT,
      ...shownOf(found?.get(code)),
    }));
  });
  protected readonly left = computed(() => this.rows().filter(({ state }) => state === 'asked').length);

  protected open(code: string): void {
    this.contexts.setParams({ scope: code, currency: null, all: null });
  }
}

/** Pixels that a level of the tree of scopes is set in. */
const INDENT = 16; // 8 to 24

type State = 'asked' | 'ties' | 'open' | 'failed';
const SIGNS: Record<State, string> = { asked: '', ties: '✓', open: '!', failed: '?' };
const SAYS: Record<State, string> = {
  asked: 'is being checked',
  ties: 'agrees',
  open: 'does not agree',
  failed: 'could not be checked',
};

function shownOf(outcome: Outcome | undefined) {
  const ties = outcome?.view?.ties ?? [];
  const off = ties.filter(({ agrees }) => !agrees);
  const state: State = !outcome ? 'asked' : outcome.problem ? 'failed' : off.length > 0 ? 'open' : 'ties';
  return {
    state,
    sign: SIGNS[state],
    says: SAYS[state],
    count: outcome?.view ? `${ties.length - off.length} of ${ties.length}` : '',
    off:
      outcome?.problem ??
      off.map(({ check, subjectName }) => [CHECK_WORDS[check], subjectName].filter(Boolean).join(', ')).join(' · '),
  };
}
