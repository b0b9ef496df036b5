import { SheetEvaluator, type SheetQuestion } from '@margin-lens/core';

/** Stands for the thread of a planning sheet where there are none: it answers in a later task. */
export function startSheetWorker(): Pick<Worker, 'postMessage' | 'onmessage' | 'onerror' | 'terminate'> {
  const evaluator = new SheetEvaluator();
  const worker: ReturnType<typeof startSheetWorker> = {
    onmessage: null,
    onerror: null,
    terminate: () => (worker.onmessage = null),
    postMessage: (question: SheetQuestion) =>
      void Promise.resolve(evaluator.answer(question)).then((data) =>
        worker.onmessage?.call(worker as Worker, { data } as MessageEvent),
      ),
  };
  return worker;
}
