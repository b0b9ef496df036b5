import { fiscalYearName, newestFirst, parsePeriodKey, periodKey } from '@margin-lens/core';
import type { VersionView } from '@margin-lens/contract';
import type { SheetPlace } from './load-sheet';

/** A year whose shape or season a plan can take: how many years before the sheet, and whose figures. */
export interface BaseYear {
  key: string;
  name: string;
  yearsBack: number;
  version: string;
  /** Every month has figures. */
  isComplete: boolean;
}

/** Years before a sheet that are looked for. */
const YEARS_BACK = 4; // 2 to 10

/** The same period some years before; negative for after. */
export function yearsBefore(key: string, years: number): string {
  const { fiscalYear, number } = parsePeriodKey(key)!;
  return periodKey(fiscalYear - years, number);
}

/**
 * The years that a sheet can take its shape from, the nearest first: their actuals, and where these do not fill the
 * year, the actuals with a forecast behind them.
 */
export function baseYearsOf(
  { version, scope, periods }: Pick<SheetPlace, 'version' | 'scope' | 'periods'>,
  versions: readonly VersionView[],
): BaseYear[] {
  const regular = periods.filter(({ kind }) => kind === 'regular').map(({ key }) => key);
  const posted = new Set(scope.posted);
  return Array.from({ length: YEARS_BACK }, (_, at) => at + 1).flatMap((yearsBack): BaseYear[] => {
    const [from, to] = [yearsBefore(version.from, yearsBack), yearsBefore(version.to, yearsBack)];
    if (!regular.includes(from) || !regular.includes(to)) return [];
    const months = regular.filter((key) => key >= from && key <= to);
    const held = months.filter((key) => posted.has(key));
    const year = [...new Set([from, to].map((key) => fiscalYearName(parsePeriodKey(key)!.fiscalYear)))].join('–');
    const missing = months.find((key) => !posted.has(key));
    const actual = {
      key: `${yearsBack}:actual`,
      name: `${year} actual${missing ? `, ${held.length} of ${months.length} months` : ''}`,
      yearsBack,
      version: 'actual',
      isComplete: missing === undefined,
    };
    const forecasts = versions
      .filter(({ kind, code }) => kind === 'forecast' && code !== version.code)
      .filter((forecast) => missing !== undefined && forecast.from <= missing && forecast.to >= to)
      .sort(newestFirst)
      .map(({ code, name }) => ({
        key: `${yearsBack}:${code}`,
        name: `${year} ${held.length > 0 ? 'actual, then ' : ''}${name}`,
        yearsBack,
        version: code,
        isComplete: true,
      }));
    return [...(held.length > 0 ? [actual] : []), ...forecasts];
  });
}

/** The last complete year of actuals, else one that a forecast completes, else the nearest. */
export const usualBaseYear = (years: readonly BaseYear[]): BaseYear | undefined =>
  years.find(({ isComplete, version }) => isComplete && version === 'actual') ??
  years.find(({ isComplete }) => isComplete) ??
  years[0];
