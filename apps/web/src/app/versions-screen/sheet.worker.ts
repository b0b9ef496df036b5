import { SheetEvaluator, type SheetQuestion } from '@margin-lens/core';

const evaluator = new SheetEvaluator();

addEventListener('message', ({ data }: MessageEvent<SheetQuestion>) => {
  const totals = evaluator.answer(data);
  postMessage(totals, { transfer: totals.map(({ buffer }) => buffer) });
});
