import { testCalendar } from '../../test/properties/random-books';
import { checkCalendar } from './check-calendar';
import { buildCalendar } from './fiscal-calendar';

const calendar = testCalendar();

describe('checkCalendar', () => {
  const row = (number: number, start: string, end: string) => ({
    fiscalYear: 2026,
    number,
    label: '',
    start,
    end,
    kind: 'regular' as const,
    quarter: 1,
  });
  const codes = (...rows: ReturnType<typeof row>[]) =>
    checkCalendar(buildCalendar('x', rows), 'calendars.csv').map((found) => found.code);

  it('finds overlaps, gaps and reversed periods', () => {
    expect(checkCalendar(calendar, 'calendars.csv')).toEqual([]);
    expect(codes(row(1, '2026-01-01', '2026-01-31'), row(2, '2026-01-31', '2026-02-28'))).toEqual([
      'CORE_PERIOD_OVERLAP',
    ]);
    expect(codes(row(1, '2026-01-01', '2026-01-31'), row(2, '2026-02-02', '2026-02-28'))).toEqual(['CORE_PERIOD_GAP']);
    expect(codes(row(1, '2026-01-31', '2026-01-01'))).toEqual(['CORE_PERIOD_REVERSED']);
  });
});
