import { computed, inject, Injectable } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import {
  BehaviorSubject,
  catchError,
  distinct,
  map,
  mergeMap,
  of,
  scan,
  startWith,
  Subject,
  switchMap,
  type Observable,
} from 'rxjs';
import {
  LINES_A_PAGE,
  type ErrorReply,
  type LedgerLineView,
  type LinesQuery,
  type LinesView,
} from '@margin-lens/contract';
import { Api } from '../shared/api';
import { ContextStore } from '../shared/context-store';
import { questionsOf } from '../shared/latest-answer';
import { linesQueryOf } from './ledger-text';

/** Lines that can be scrolled through; what lies beyond is reached by filtering. */
export const LINES_SCROLLED = 1_000_000;
/** Pages asked for at a time. */
const AT_A_TIME = 3;

interface Page {
  lines: LedgerLineView[];
  /** Balance of the account behind each line, where there is one. */
  balances: number[] | undefined;
}

interface LinesState {
  /** The answer that came last: what the filter holds in all. */
  view: LinesView | undefined;
  pages: ReadonlyMap<number, Page>;
  error: ErrorReply | undefined;
  isLoading: boolean;
}

const EMPTY: LinesState = { view: undefined, pages: new Map(), error: undefined, isLoading: true };

function pageOf({ lines, balanceBefore }: LinesView): Page {
  let balance = balanceBefore ?? 0;
  const balances = lines.map(({ debit, credit }) => (balance += debit - credit));
  return { lines, balances: balanceBefore === null ? undefined : balances };
}

/** The lines of the address's filter, fetched page by page as they are scrolled into view. */
@Injectable()
export class LinesStore {
  private readonly api = inject(Api);
  private readonly contexts = inject(ContextStore);
  private readonly wanted = new Subject<number>();
  private readonly retries = new BehaviorSubject<void>(undefined);

  /** The same as long as it asks the same, whatever else changes in the address. */
  readonly query = computed<LinesQuery | undefined>(
    () => {
      const entity = this.contexts.entity();
      return entity && linesQueryOf(this.contexts.params(), entity.code);
    },
    { equal: (a, b) => JSON.stringify(a) === JSON.stringify(b) },
  );

  readonly state = toSignal(
    questionsOf(toObservable(this.query), this.retries).pipe(
      switchMap((query) => this.pages(query)),
      scan((state: LinesState, change) => change(state), EMPTY),
    ),
    { initialValue: EMPTY },
  );

  /** Lines that can be scrolled to. */
  readonly count = computed(() => Math.min(this.state().view?.count ?? 0, LINES_SCROLLED));

  lineAt(index: number): LedgerLineView | undefined {
    return this.state().pages.get(Math.floor(index / LINES_A_PAGE))?.lines[index % LINES_A_PAGE];
  }

  balanceAt(index: number): number | undefined {
    return this.state().pages.get(Math.floor(index / LINES_A_PAGE))?.balances?.[index % LINES_A_PAGE];
  }

  /** Sees to it that the lines from one index to another are there. */
  need(from: number, to: number): void {
    const last = Math.floor(Math.min(to, Math.max(0, this.count() - 1)) / LINES_A_PAGE);
    for (let page = Math.floor(from / LINES_A_PAGE); page <= last; page++) this.wanted.next(page);
  }

  retry(): void {
    this.retries.next();
  }

  /** Changes to the state, page by page; the lines of before stay until the first page of the new filter is there. */
  private pages(query: LinesQuery): Observable<(state: LinesState) => LinesState> {
    let isFirst = true;
    const arrived = (page: number, view: LinesView) => (state: LinesState) => {
      const pages = new Map(isFirst ? [] : state.pages).set(page, pageOf(view));
      isFirst = false;
      return { view, pages, error: undefined, isLoading: false };
    };
    return this.wanted.pipe(
      startWith(0),
      distinct(),
      mergeMap(
        (page) =>
          this.api.ledgerLines({ ...query, skip: String(page * LINES_A_PAGE) }).pipe(
            map((view) => arrived(page, view)),
            catchError((error: ErrorReply) => of((state: LinesState) => ({ ...state, error, isLoading: false }))),
          ),
        AT_A_TIME,
      ),
      startWith((state: LinesState) => ({ ...state, isLoading: true })),
    );
  }
}
