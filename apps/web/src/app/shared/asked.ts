import type { Signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { BehaviorSubject, Subject, type Observable } from 'rxjs';
import { latestAnswer, NO_ANSWER, questionsOf, type Answer } from './latest-answer';

/** A question to the server that follows what it asks about, and how it stands. */
export interface Asked<T> {
  readonly state: Signal<Answer<T>>;
  /** Asks the same once more: after a failure, or when what was answered has moved. */
  readonly again: () => void;
  /** Gives the question up that is under way; the last answer stays. */
  readonly stop: () => void;
}

/**
 * Asks the server what a question says, and anew when it changes; only the latest one counts, and the last answer stays
 * until the next arrives. An undefined question asks nothing. To be called where a component or service is made.
 */
export function asked<Q, T>(question: Signal<Q | undefined>, ask: (question: Q) => Observable<T>): Asked<T> {
  const retries = new BehaviorSubject<void>(undefined);
  const stops = new Subject<void>();
  const answers = latestAnswer(questionsOf(toObservable(question), retries), ask, stops);
  return {
    state: toSignal(answers, { initialValue: NO_ANSWER as Answer<T> }),
    again: () => retries.next(),
    stop: () => stops.next(),
  };
}
