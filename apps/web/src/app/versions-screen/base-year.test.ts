import type { VersionView } from '@margin-lens/contract';
import { SAMPLE_WORKSPACE, samplePeriods } from '../testing/sample-view';
import { baseYearsOf, usualBaseYear, yearsBefore } from './base-year';

// a plan of FY2028 in the middle of FY2027: twelve months of FY2026 are posted, and five of FY2027
const periods = samplePeriods([2025, 2026, 2027, 2028]);
const months = (year: number, count: number) =>
  Array.from({ length: count }, (_, at) => `FY${year}-P${String(at + 1).padStart(2, '0')}`);
const version = (code: string, kind: VersionView['kind'], from: string, to: string) =>
  ({ code, name: code, kind, from, to }) as VersionView;
const plan = version('PLAN', 'plan', 'FY2028-P01', 'FY2028-P12');
const forecast = version('F2', 'forecast', 'FY2027-P06', 'FY2027-P12');
const place = (posted: string[]) => ({
  version: plan,
  scope: { ...SAMPLE_WORKSPACE.entities[0]!, posted },
  periods,
});
const found = (posted: string[], versions: VersionView[] = [plan, forecast]) => baseYearsOf(place(posted), versions);

describe('the years that a plan can take its shape from', () => {
  it('are those with actuals, and the running one completed by a forecast', () => {
    const all = found([...months(2026, 12), ...months(2027, 5)]);
    expect(all.map(({ key, name, isComplete }) => [key, name, isComplete])).toEqual([
      ['1:actual', 'FY27 actual, 5 of 12 months', false],
      ['1:F2', 'FY27 actual, then F2', true],
      ['2:actual', 'FY26 actual', true],
    ]);
    expect(usualBaseYear(all)?.key).toBe('2:actual');
  });

  it('is one that a forecast completes where no year of actuals is whole, else the nearest', () => {
    expect(usualBaseYear(found(months(2027, 5)))?.key).toBe('1:F2');
    expect(usualBaseYear(found(months(2027, 5), [plan]))?.key).toBe('1:actual');
    // a forecast from September on does not complete a year without any actuals
    expect(usualBaseYear(found([]))).toBeUndefined();
  });

  it('is completed by the newest forecast, one that is no draft first', () => {
    const of = (code: string, rank: number, state: VersionView['state']) => ({
      ...forecast,
      code,
      name: code,
      rank,
      state,
    });
    const all = found(months(2027, 5), [of('F1', 1, 'approved'), of('F3', 3, 'draft'), of('F2', 2, 'approved')]);
    expect(all.map(({ key }) => key)).toEqual(['1:actual', '1:F2', '1:F1', '1:F3']);
    expect(usualBaseYear(all)?.key).toBe('1:F2');
  });

  it('takes no forecast that ends before the year does', () => {
    const short = version('F1', 'forecast', 'FY2027-P03', 'FY2027-P09');
    expect(found(months(2027, 5), [plan, short]).map(({ key }) => key)).toEqual(['1:actual']);
  });
});

it('counts years back in keys', () => {
  expect([yearsBefore('FY2028-P05', 2), yearsBefore('FY2028-P05', -1)]).toEqual(['FY2026-P05', 'FY2029-P05']);
});
