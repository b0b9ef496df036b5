import { inject, Injectable, signal } from '@angular/core';
import { catchError, forkJoin, map, of, type Observable, shareReplay, Subject, switchMap, tap } from 'rxjs';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { ErrorReply, JournalView, PostingView, StatementContext, TraceView } from '@margin-lens/contract';
import { Api } from '../shared/api';

export type LensStep = { kind: 'level'; level: TraceView } | { kind: 'journal'; journal: JournalView };

export interface LensQuestion {
  statement: string;
  context: StatementContext;
  /** Revision of the books, so that nothing is shown that has changed since. */
  revision: number;
  /** Addresses from the cell down; a journal is `journal~id`. */
  path: readonly string[];
}

export interface LensState {
  steps: LensStep[];
  error: ErrorReply | undefined;
  isLoading: boolean;
}

const STEPS_KEPT = 400;

/** Fetches the levels of a path, each once. */
@Injectable()
export class LensStore {
  private readonly api = inject(Api);
  private readonly held = new Map<string, Observable<LensStep>>();
  private readonly questions = new Subject<LensQuestion>();
  private asked: LensQuestion | undefined;

  readonly state = signal<LensState>({ steps: [], error: undefined, isLoading: true });

  constructor() {
    this.questions
      .pipe(
        tap(() => this.state.update((state) => ({ ...state, isLoading: true }))),
        switchMap((question) =>
          forkJoin(question.path.map((address) => this.step(question, address))).pipe(
            map((steps): LensState => ({ steps, error: undefined, isLoading: false })),
            catchError((error: ErrorReply) => of<LensState>({ steps: [], error, isLoading: false })),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((state) => this.state.set(state));
  }

  ask(question: LensQuestion): void {
    if (JSON.stringify(question) === JSON.stringify(this.asked)) return;
    this.asked = question;
    this.questions.next(question);
  }

  /** The next page of a long list of lines, put behind those already there. */
  more(): void {
    const { asked } = this;
    const last = this.state().steps[this.state().steps.length - 1];
    if (!asked || last?.kind !== 'level' || !last.level.postings) return;
    const { lines } = last.level.postings;
    this.api.trace(asked.statement, asked.context, last.level.address, lines.length).subscribe({
      next: (page) => this.append(last.level.address, page.postings?.lines ?? []),
      error: (error: ErrorReply) => this.state.update((state) => ({ ...state, error })),
    });
  }

  private append(address: string, lines: readonly PostingView[]): void {
    this.state.update((state) => ({
      ...state,
      steps: state.steps.map((step) =>
        step.kind === 'level' && step.level.address === address && step.level.postings
          ? {
              kind: 'level',
              level: {
                ...step.level,
                postings: { ...step.level.postings, lines: [...step.level.postings.lines, ...lines] },
              },
            }
          : step,
      ),
    }));
  }

  private step({ statement, context, revision }: LensQuestion, address: string): Observable<LensStep> {
    // files come to hang on a journal while it is looked at
    if (address.startsWith('journal~')) return this.fetch(statement, context, address);
    const key = JSON.stringify([statement, context, revision, address]);
    const held = this.held.get(key);
    if (held) return held;
    if (this.held.size > STEPS_KEPT) this.held.clear();
    const fetched = this.fetch(statement, context, address).pipe(
      tap({ error: () => this.held.delete(key) }),
      shareReplay({ bufferSize: 1, refCount: false }),
    );
    this.held.set(key, fetched);
    return fetched;
  }

  private fetch(statement: string, context: StatementContext, address: string): Observable<LensStep> {
    const [kind, id] = address.split('~');
    if (kind === 'journal')
      return this.api.journal(Number(id)).pipe(map((journal): LensStep => ({ kind: 'journal', journal })));
    return this.api.trace(statement, context, address, 0).pipe(map((level): LensStep => ({ kind: 'level', level })));
  }
}
