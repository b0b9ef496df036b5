import { answerToSheet, type SheetQuestion } from '../versions-screen/sheet-answer';

/** Stands for the thread of a planning sheet where there are none: it answers in a later task. */
export function startSheetWorker(): Pick<Worker, 'postMessage' | 'onmessage' | 'onerror' | 'terminate'> {
  const answer = answerToSheet();
  const worker: ReturnType<typeof startSheetWorker> = {
    onmessage: null,
    onerror: null,
    terminate: () => (worker.onmessage = null),
    postMessage: (question: SheetQuestion) =>
      void Promise.resolve(answer(question).reply).then((data) =>
        worker.onmessage?.call(worker as Worker, { data } as MessageEvent),
      ),
  };
  return worker;
}
