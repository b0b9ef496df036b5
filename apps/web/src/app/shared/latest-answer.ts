import {
  catchError,
  combineLatest,
  distinctUntilChanged,
  filter,
  map,
  of,
  scan,
  startWith,
  switchMap,
  type Observable,
} from 'rxjs';
import type { ErrorReply } from '@margin-lens/contract';

/** Where a question to the server stands. */
export interface Answer<T> {
  /** The last answer that arrived; it stays on screen while the next is on its way. */
  view: T | undefined;
  error: ErrorReply | undefined;
  isLoading: boolean;
}

export const NO_ANSWER = { view: undefined, error: undefined, isLoading: true } as const;

/** Questions that differ from the one before, and the same one again when it is to be tried anew. */
export const questionsOf = <Q>(questions: Observable<Q | undefined>, retries: Observable<void>): Observable<Q> =>
  combineLatest([
    questions.pipe(
      filter((question) => question !== undefined),
      distinctUntilChanged((a, b) => JSON.stringify(a) === JSON.stringify(b)),
    ),
    retries,
  ]).pipe(map(([question]) => question));

/** Asks the server; only the latest question counts. */
export const latestAnswer = <Q, T>(
  questions: Observable<Q>,
  ask: (question: Q) => Observable<T>,
): Observable<Answer<T>> =>
  questions.pipe(
    switchMap((question) =>
      ask(question).pipe(
        map((view): Partial<Answer<T>> => ({ view, error: undefined, isLoading: false })),
        catchError((error: ErrorReply) => of<Partial<Answer<T>>>({ error, isLoading: false })),
        startWith<Partial<Answer<T>>>({ isLoading: true }),
      ),
    ),
    scan((state: Answer<T>, change) => ({ ...state, ...change }), NO_ANSWER),
  );
