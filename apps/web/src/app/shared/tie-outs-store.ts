import { computed, inject, Injectable } from '@angular/core';
import { asked } from './asked';
import { switchMap, timer } from 'rxjs';
import { Api } from './api';
import { currencyUnit } from './currency-unit';
import { lightOf, type TieOut } from './tie-outs';
import { ContextStore } from './context-store';
import { asAtText } from './view-context';
import { WorkspaceStore } from './workspace-store';

/** Months stepped through within this time are not checked, so that a held key waits for nothing. */
const PAUSE_MS = 400;

/** The tie-outs of the scope at its month; they run again with every revision of the workspace. */
@Injectable({ providedIn: 'root' })
export class TieOutsStore {
  private readonly api = inject(Api);
  private readonly contexts = inject(ContextStore);
  private readonly workspaces = inject(WorkspaceStore);

  private readonly questions = computed(() => {
    const context = this.contexts.context();
    const state = this.workspaces.state();
    if (!context || state.state !== 'loaded') return undefined;
    return { scope: context.scope.code, as_at: asAtText(context.asAt), revision: state.workspace.revision };
  });

  private readonly asking = asked(this.questions, ({ scope, as_at }) =>
    timer(PAUSE_MS).pipe(switchMap(() => this.api.tieOuts({ scope, as_at }))),
  );
  readonly state = this.asking.state;

  /** Every check as the light, the spine and the page count it. */
  readonly checks = computed((): readonly TieOut[] | undefined => {
    const { view } = this.state();
    if (!view) return undefined;
    const unit = currencyUnit(view.scope.currency);
    return view.ties.map((tie) => lightOf(tie, unit));
  });
  readonly open = computed(() => this.checks()?.filter(({ agrees }) => !agrees).length ?? 0);

  retry(): void {
    this.asking.again();
  }
}
