import { limitsIn, type FiscalPeriod, type Materiality, type Scope } from '@margin-lens/core';
import type { Snapshot } from '../workspace/snapshot';
import { ratePair } from '../../base/group-words';

/** Limits of a workspace that has set none: an amount in whole units of the reporting currency, and percent. */
const USUAL = { amount: 10_000, percent: 5 };

/** The limits of the workspace, and the two currencies between which a rate was looked for in vain. */
export interface UsualLimits {
  limits: Materiality;
  missingRate: string | null;
}

/**
 * The limits of the workspace in minor units of a scope's currency: those said in the reporting currency, at the
 * average rate of the month or the last one before it. Where no rate is known, the percentage alone decides.
 */
export async function usualLimits(snapshot: Snapshot, { currency }: Scope, at: FiscalPeriod): Promise<UsualLimits> {
  const { settings } = snapshot.model;
  const reporting = settings?.reporting_currency ?? currency.code;
  const isSame = reporting === currency.code;
  const rates = (await snapshot.books()).balances.ratesAt();
  const rate = isSame ? undefined : (rates.last('average', reporting, currency.code, at.key) ?? 'missing');
  return {
    limits: limitsIn(settings?.materiality ?? USUAL, rate, currency.digits),
    missingRate: rate === 'missing' ? ratePair(reporting, currency.code) : null,
  };
}
