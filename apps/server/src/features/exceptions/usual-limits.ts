import type { EntityManager } from '@mikro-orm/better-sqlite';
import { limitsIn, type FiscalPeriod, type Materiality } from '@margin-lens/core';
import { averageRates } from '../workspace/average-rates';
import type { Entity, WorkspaceModel } from '../workspace/workspace-model';

/** Limits of a workspace that has set none: an amount in whole units of the reporting currency, and percent. */
const USUAL = { amount: 10_000, percent: 5 };

/**
 * The limits of the workspace in minor units of an entity's currency: those said in the reporting currency, at the
 * average rate of the month or the last one before it; as they are said where no rate is known.
 */
export async function usualLimits(
  em: EntityManager,
  { settings }: WorkspaceModel,
  { currency }: Entity,
  at: FiscalPeriod,
): Promise<Materiality> {
  const reporting = settings?.reporting_currency ?? currency.code;
  const rate = reporting === currency.code ? 1 : await lastAverageRate(em, reporting, currency.code, at.key);
  return limitsIn(settings?.materiality ?? USUAL, rate, currency.digits);
}

/** Units of `to` for one of `from`, in the last period up to one that has an average rate either way. */
async function lastAverageRate(
  em: EntityManager,
  from: string,
  to: string,
  period: string,
): Promise<number | undefined> {
  const rates = [...((await averageRates(em, from)).get(to) ?? [])].filter(([key]) => key <= period);
  const last = rates.sort(([a], [b]) => (a < b ? -1 : 1)).at(-1)?.[1];
  return last && (last.isInverse ? Number(last.rate) : 1 / Number(last.rate));
}
