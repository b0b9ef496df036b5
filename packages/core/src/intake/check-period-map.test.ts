import { buildCalendar } from '../period/fiscal-calendar';
import { periodsOfRule } from '../period/calendar-rule';
import { checkPeriodMap } from './check-period-map';

const yearsFrom = (code: string, firstMonth: number) =>
  buildCalendar(
    code,
    [2026, 2027].flatMap((year) =>
      periodsOfRule({ kind: 'months', firstMonth, namedAfter: 'end', adjustments: 0 }, year),
    ),
  );
const [own, group] = [yearsFrom('OWN', 1), yearsFrom('GROUP', 4)];
const found = (from: string, to: string, groups = [group]) =>
  checkPeriodMap([{ entity: 'SUB', from, to }], (entity) => (entity === 'SUB' ? own : undefined), groups).map(
    ({ code, params }) => [code, params['other'] ?? params['text']],
  );

describe('periods of other calendars', () => {
  it('may end up to three months apart', () => {
    // December 2026 stands for March 2027, the twelfth month of the group's year to March 2027
    expect(found('FY2026-P12', 'FY2027-P12')).toEqual([]);
    expect(found('FY2026-P11', 'FY2027-P12')).toEqual([['CORE_CALENDAR_MAP_FAR', '2027-03-31']]);
  });

  it('count where they are in the calendar of the group itself', () => {
    expect(found('FY2026-P10', 'FY2026-P12', [own]).map(([code]) => code)).toEqual(['CORE_CALENDAR_MAP_SAME']);
    expect(found('FY2026-P10', 'FY2026-P10', [own])).toEqual([]);
  });

  it('are there on both sides', () => {
    expect(found('FY2031-P12', 'FY2027-P12')).toEqual([['CORE_REFERENCE_UNKNOWN', 'FY2031-P12']]);
    expect(found('FY2026-P12', 'FY2031-P12')).toEqual([['CORE_REFERENCE_UNKNOWN', 'FY2031-P12']]);
  });
});
