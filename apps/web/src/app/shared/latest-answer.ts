import {
  catchError,
  combineLatest,
  distinctUntilChanged,
  filter,
  map,
  NEVER,
  of,
  race,
  scan,
  startWith,
  switchMap,
  take,
  type Observable,
} from 'rxjs';
import type { ErrorReply } from '@margin-lens/contract';

/** Where a question to the server stands. */
export interface Answer<T> {
  /** The last answer that arrived; it stays on screen while the next is on its way. */
  view: T | undefined;
  error: ErrorReply | undefined;
  isLoading: boolean;
  /** The latest question was given up before its answer was there. */
  isStopped?: boolean;
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

/** Asks the server; only the latest question counts, and it is given up when that is asked for. */
export const latestAnswer = <Q, T>(
  questions: Observable<Q>,
  ask: (question: Q) => Observable<T>,
  stops: Observable<void> = NEVER,
): Observable<Answer<T>> =>
  questions.pipe(
    switchMap((question) =>
      race(
        ask(question).pipe(
          map((view): Partial<Answer<T>> => ({ view, error: undefined, isLoading: false })),
          catchError((error: ErrorReply) => of<Partial<Answer<T>>>({ error, isLoading: false })),
        ),
        stops.pipe(
          take(1),
          map((): Partial<Answer<T>> => ({ isLoading: false, isStopped: true })),
        ),
      ).pipe(startWith<Partial<Answer<T>>>({ isLoading: true, isStopped: false })),
    ),
    scan((state: Answer<T>, change) => ({ ...state, ...change }), NO_ANSWER),
  );
