import { BehaviorSubject, Subject } from 'rxjs';
import { latestAnswer, type Answer } from './latest-answer';

/** A question that is under way, and what becomes of it. */
function asked() {
  const questions = new BehaviorSubject('first');
  const stops = new Subject<void>();
  const replies = new Map<string, Subject<string>>();
  const states: Answer<string>[] = [];
  const ask = (question: string) => {
    const reply = new Subject<string>();
    replies.set(question, reply);
    return reply;
  };
  latestAnswer(questions, ask, stops).subscribe((state) => states.push(state));
  return {
    questions,
    stops,
    reply: (question: string) => replies.get(question)!.next(`answer to ${question}`),
    isWaitedFor: (question: string) => replies.get(question)!.observed,
    state: () => states.at(-1)!,
  };
}

describe('the answer to the latest question', () => {
  it('is given up when that is asked for; the last one stays, and the next question is asked as any other', () => {
    const { questions, stops, reply, isWaitedFor, state } = asked();
    reply('first');
    questions.next('second');
    expect(state()).toMatchObject({ view: 'answer to first', isLoading: true, isStopped: false });
    stops.next();
    expect(isWaitedFor('second')).toBe(false);
    expect(state()).toMatchObject({ view: 'answer to first', isLoading: false, isStopped: true });
    questions.next('third');
    expect(state()).toMatchObject({ isLoading: true, isStopped: false });
    reply('third');
    expect(state()).toMatchObject({ view: 'answer to third', isLoading: false, isStopped: false });
  });

  it('stays where it is there already when giving up is asked for', () => {
    const { stops, reply, state } = asked();
    reply('first');
    stops.next();
    expect(state()).toMatchObject({ view: 'answer to first', isLoading: false, isStopped: false });
  });
});
