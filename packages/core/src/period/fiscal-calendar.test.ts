import { testCalendar } from '../../test/properties/random-books';
import {
  daysBetween,
  isIsoDate,
  parsePeriodKey,
  periodOfAsAt,
  periodOfDate,
  periodOfKey,
  shiftYears,
} from './fiscal-calendar';
import { periodName, periodShort, spanName } from './period-name';
import { datesOfSpan, spanOf } from './span';

const calendar = testCalendar();
const at = (key: string) => periodOfKey(calendar, key)!;

describe('periodOfDate', () => {
  it('finds the regular period, never the adjustment period of the same day', () => {
    expect(periodOfDate(calendar, '2025-03-31')?.key).toBe('FY2025-P12');
    expect(periodOfDate(calendar, '2024-02-29')).toBeUndefined();
  });
});

describe('periodOfAsAt', () => {
  it('reads months and period keys', () => {
    expect(periodOfAsAt(calendar, '2026-02')?.key).toBe('FY2026-P11');
    expect(periodOfAsAt(calendar, 'FY2026-P13')?.kind).toBe('adjustment');
    expect(periodOfAsAt(calendar, '2031-01')).toBeUndefined();
    expect(periodOfAsAt(calendar, 'August')).toBeUndefined();
    expect(periodOfAsAt(calendar, '2026-13')).toBeUndefined(); // not January of the next year
    expect(periodOfAsAt(calendar, '2026-00')).toBeUndefined();
  });
});

describe('isIsoDate, parsePeriodKey, daysBetween', () => {
  it('take only days and periods that exist', () => {
    expect(['2024-02-29', '2023-02-29', '2024-2-9', '31.12.2024'].map(isIsoDate)).toEqual([true, false, false, false]);
    // every text of that form around changes of centuries, against the calendar of the language
    const two = (n: number) => String(n).padStart(2, '0');
    for (const year of [1899, 1900, 1999, 2000, 2025, 2028, 2100])
      for (let month = 0; month <= 13; month++)
        for (let day = 0; day <= 32; day++) {
          const text = `${year}-${two(month)}-${two(day)}`;
          const time = Date.parse(text);
          const isThere = !Number.isNaN(time) && new Date(time).toISOString().startsWith(text);
          expect([text, isIsoDate(text)]).toEqual([text, isThere]);
        }
    expect(parsePeriodKey('FY2027-P05')).toEqual({ fiscalYear: 2027, number: 5 });
    expect(parsePeriodKey('2027-05')).toBeUndefined();
    expect(daysBetween('2024-02-01', '2024-02-29')).toBe(29);
  });
});

describe('spanOf', () => {
  const keys = (kind: Parameters<typeof spanOf>[1], key: string) => {
    const span = spanOf(calendar, kind, at(key));
    return span && [calendar.periods[span.from]!.key, calendar.periods[span.to]!.key];
  };

  it('tells P12 and P13 apart', () => {
    expect(keys('year_to_date', 'FY2026-P12')).toEqual(['FY2026-P01', 'FY2026-P12']);
    expect(keys('year_to_date', 'FY2026-P13')).toEqual(['FY2026-P01', 'FY2026-P13']);
    expect(keys('quarter_to_date', 'FY2026-P13')).toEqual(['FY2026-P10', 'FY2026-P13']);
  });

  it('rolls over twelve regular periods and the adjustments between them', () => {
    expect(keys('rolling_12', 'FY2026-P05')).toEqual(['FY2025-P06', 'FY2026-P05']);
    expect(keys('rolling_12', 'FY2025-P11')).toBeUndefined();
  });

  it('counts each day of a span once', () => {
    expect(datesOfSpan(calendar, spanOf(calendar, 'full_year', at('FY2026-P05'))!)).toEqual({
      start: '2025-04-01',
      end: '2026-03-31',
      days: 365,
    });
  });
});

describe('shiftYears', () => {
  it('keeps the period number, and is undefined outside the calendar', () => {
    expect(shiftYears(calendar, at('FY2027-P05'), -1)?.key).toBe('FY2026-P05');
    expect(shiftYears(calendar, at('FY2025-P05'), -1)).toBeUndefined();
  });
});

describe('names', () => {
  it('are calendar months where they are months, and say the year once', () => {
    expect(periodName(at('FY2027-P05'))).toBe('August 2026');
    expect(periodShort(at('FY2027-P13'))).toBe('Adj.');
    expect(spanName(calendar, spanOf(calendar, 'year_to_date', at('FY2027-P05'))!)).toBe('April – August 2026');
    expect(spanName(calendar, spanOf(calendar, 'year_to_date', at('FY2027-P10'))!)).toBe('April 2026 – January 2027');
    expect(spanName(calendar, spanOf(calendar, 'full_year', at('FY2026-P01'))!)).toBe(
      'April 2025 – March 2026 with adjustments',
    );
  });
});
