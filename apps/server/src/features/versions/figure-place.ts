import { periodOfKey, type FiscalPeriod } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import type { Entity, WorkspaceModel } from '../workspace/workspace-model';
import { figureWrong } from '../../base/version-words';

/**
 * The period of a key in the calendar of an entity.
 * @throws SRV_FIGURE_PLACE when there is none
 */
export function periodIn(entity: Pick<Entity, 'calendar'>, key: string): FiscalPeriod {
  const period = periodOfKey(entity.calendar.calendar, key);
  if (!period) throw appError('SRV_FIGURE_PLACE', { problem: figureWrong.periodUnknown(key) });
  return period;
}

/** Whether an account counts instead of holding money. */
export const isStatistic = (model: WorkspaceModel, number: string): boolean =>
  model.accounts.find((account) => account.number === number)?.nature === 'statistic';
