import { divideRounded } from '../money/round';

/** A plan and an actual in local currency, and their rates: presentation units for one local unit. */
export interface LocalFigures {
  plan: number;
  planRate: number;
  actual: number;
  actualRate: number;
}

/** The variance in presentation currency, split into what business and what the rate did; no third term. */
export interface CurrencySplit {
  plan: number;
  actual: number;
  actualAtPlanRate: number;
  total: number;
  operational: number;
  currency: number;
}

/** @source reference definition 18 */
export function currencySplit({ plan, planRate, actual, actualRate }: LocalFigures): CurrencySplit {
  const [p, a, at] = [plan * planRate, actual * actualRate, actual * planRate];
  return { plan: p, actual: a, actualAtPlanRate: at, total: a - p, operational: at - p, currency: a - at };
}

/**
 * The split in whole minor units: total and operational are differences of rounded amounts, and currency is what is left.
 *
 * Units: figures of `split` in wholes; out in minor units, `digits` of them.
 * @source reference definition 18
 */
export function roundedSplit(split: CurrencySplit, digits: number): CurrencySplit {
  const [plan, actual, actualAtPlanRate] = [split.plan, split.actual, split.actualAtPlanRate].map((amount) =>
    divideRounded(Math.round(amount * 10 ** (digits + NOISE_DIGITS)), 10 ** NOISE_DIGITS),
  ) as [number, number, number];
  const total = actual - plan;
  const operational = actualAtPlanRate - plan;
  return { plan, actual, actualAtPlanRate, total, operational, currency: total - operational };
}

/** Decimals behind the minor unit that are taken for real; beyond them is noise of binary fractions. */
const NOISE_DIGITS = 4;
