import { inject, Injectable } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import {
  BehaviorSubject,
  catchError,
  combineLatest,
  distinctUntilChanged,
  filter,
  map,
  of,
  scan,
  startWith,
  switchMap,
  tap,
} from 'rxjs';
import type { ErrorReply, StatementContext, StatementView } from '@margin-lens/contract';
import { Api } from '../shared/api';
import { asAtText, ContextStore, type ViewContext } from '../shared/context-store';
import { ShownStatement } from '../shared/shown-statement';

export interface StatementState {
  /** The last statement that arrived; it stays on screen while the next is on its way. */
  view: StatementView | undefined;
  error: ErrorReply | undefined;
  isLoading: boolean;
}

/** The question that a context asks of the server. */
export const questionOf = (context: ViewContext): StatementContext => ({
  scope: context.scope.code,
  as_at: asAtText(context.asAt),
  columns: context.columns,
});

/** Fetches the statement of the URL's context; only the latest question counts. */
@Injectable()
export class StatementStore {
  private readonly api = inject(Api);
  private readonly shown = inject(ShownStatement);
  private readonly contexts = inject(ContextStore);
  private readonly retries = new BehaviorSubject<void>(undefined);

  private readonly state$ = combineLatest([toObservable(this.contexts.context), this.retries]).pipe(
    map(([context]) => context),
    filter((context) => context !== undefined),
    map((context) => ({ id: context.statement, question: questionOf(context) })),
    distinctUntilChanged((a, b) => JSON.stringify(a) === JSON.stringify(b) && !this.hasFailed),
    switchMap(({ id, question }) =>
      this.api.statement(id, question).pipe(
        map((view): Partial<StatementState> => ({ view, error: undefined, isLoading: false })),
        catchError((error: ErrorReply) => of<Partial<StatementState>>({ error, isLoading: false })),
        startWith<Partial<StatementState>>({ isLoading: true }),
      ),
    ),
    scan((state: StatementState, change) => ({ ...state, ...change }), EMPTY),
    tap(({ view, error }) => {
      this.hasFailed = error !== undefined;
      this.shown.view.set(error ? undefined : view);
    }),
  );
  private hasFailed = false;

  readonly state = toSignal(this.state$, { initialValue: { view: undefined, error: undefined, isLoading: true } });

  retry(): void {
    this.retries.next();
  }
}

const EMPTY: StatementState = { view: undefined, error: undefined, isLoading: true };
