import {
  SheetEvaluator,
  type ForecastQuestion,
  type PlanAnswer,
  type PlanQuestion,
  type RowForecast,
  type TotalsQuestion,
} from '@margin-lens/core';

/** What goes to the thread of a planning sheet, and what comes back, in the same order. */
export interface SheetQuestion {
  id: number;
  question: TotalsQuestion | PlanQuestion | ForecastQuestion;
}
export type SheetReply =
  { id: number; answer: Float64Array[] | PlanAnswer | RowForecast[] } | { id: number; error: string };

/** Answers the questions of a sheet one after the other; errors go back as what they say. */
export function answerToSheet() {
  const evaluator = new SheetEvaluator();
  return ({ id, question }: SheetQuestion): { reply: SheetReply; transfer: Transferable[] } => {
    try {
      if (question.do === 'plan') return { reply: { id, answer: evaluator.plan(question) }, transfer: [] };
      if (question.do === 'forecast') return { reply: { id, answer: evaluator.forecast(question) }, transfer: [] };
      const answer = evaluator.totals(question);
      return { reply: { id, answer }, transfer: answer.map(({ buffer }) => buffer as ArrayBuffer) };
    } catch (error) {
      return { reply: { id, error: String(error) }, transfer: [] };
    }
  };
}
