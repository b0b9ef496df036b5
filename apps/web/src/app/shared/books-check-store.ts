import { computed, inject, Injectable } from '@angular/core';
import { asked } from './asked';
import { switchMap, timer } from 'rxjs';
import type { BooksCheckQuery, Seen } from '@margin-lens/contract';
import { Api } from './api';
import { ContextStore } from './context-store';
import { asAtText } from './view-context';
import { WorkspaceStore } from './workspace-store';

/** Months stepped through within this time are not checked, so that a held key waits for nothing. */
const PAUSE_MS = 400;

/** What the books of the scope should be looked at for; the light in the top bar and the page show the same. */
@Injectable({ providedIn: 'root' })
export class BooksCheckStore {
  private readonly api = inject(Api);
  private readonly contexts = inject(ContextStore);
  private readonly workspaces = inject(WorkspaceStore);

  private readonly question = computed<(BooksCheckQuery & { revision: number }) | undefined>(() => {
    const [context, entity] = [this.contexts.context(), this.contexts.entity()];
    const state = this.workspaces.state();
    // books of one entity are checked; a group has none of its own
    if (!context || !entity || state.state !== 'loaded') return undefined;
    return { scope: entity.code, as_at: asAtText(context.asAt), revision: state.workspace.revision };
  });

  private readonly asking = asked(this.question, ({ scope, as_at }) =>
    timer(PAUSE_MS).pipe(switchMap(() => this.api.booksCheck({ scope, as_at }))),
  );
  readonly state = this.asking.state;
  /** What was found in the entity that is looked at, if it is one. */
  readonly view = computed(() => (this.question() ? this.state().view : undefined));

  mark(seen: Seen): void {
    this.api.markSeen(seen).subscribe({ next: () => this.retry(), error: () => this.retry() });
  }

  retry(): void {
    this.asking.again();
  }
}
