import {
  ACTUAL,
  exceptionRange,
  type ExceptionRange,
  type ExceptionSpan,
  type FiscalPeriod,
  type Scope,
} from '@margin-lens/core';
import { newestForecast } from './surroundings-of';
import type { Snapshot } from '../workspace/snapshot';

/** What can be compared of a span in a scope; undefined where nothing is there yet. @param version that is read in place of what was posted */
export async function comparableRange(
  snapshot: Snapshot,
  scope: Scope,
  at: FiscalPeriod,
  span: ExceptionSpan,
  version: string | undefined,
): Promise<ExceptionRange | undefined> {
  // a version holds its months, whatever was posted
  if (version !== undefined && version !== ACTUAL) return { span, upTo: at };
  const { holdsData } = (await snapshot.books()).ofScope(scope);
  const forecast = newestForecast(snapshot.filled, at, ACTUAL);
  return exceptionRange(scope.calendar.calendar, at, span, {
    holdsData: (ordinal) => holdsData[ordinal] === 1,
    forecast: snapshot.filled.version(forecast)?.kind === 'forecast' ? forecast : undefined,
  });
}
