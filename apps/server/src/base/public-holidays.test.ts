import { readFileSync } from 'node:fs';
import path from 'node:path';
import { publicHolidays } from './public-holidays';

/** Reference case 5, public_holidays.csv: own rules, equal to Debian python3-holidays 0.10.1. */
const rows = readFileSync(
  path.resolve(__dirname, '../../../../packages/core/test/golden/case05/public_holidays.csv'),
  'utf8',
)
  .trim()
  .split(/\r?\n/)
  .slice(1)
  .map((line) => line.split(','));

describe('publicHolidays', () => {
  it.each([
    ['DE', undefined],
    ['GB', 'ENG'],
  ])('of %s %s in 2025 are those of the case', async (country, region) => {
    const expected = rows.filter(([code]) => code === country).map(([, , date]) => date);
    const found = await publicHolidays(country, region, 2025);
    expect([...new Set(found.map(({ date }) => date))]).toEqual(expected);
  });

  it('are none where the country is not known', async () => {
    expect(await publicHolidays('XX', undefined, 2025)).toEqual([]);
  });
});
