import fc from 'fast-check';
import { periodsOfRule, ruleOfCalendar, type CalendarRule } from './calendar-rule';
import { WEEK_PATTERNS } from './week-calendar';
import { runs } from '../../test/runs';

const month = fc.integer({ min: 1, max: 12 });
const common = { namedAfter: fc.constantFrom('end', 'start'), adjustments: fc.integer({ min: 0, max: 3 }) } as const;
const rules: fc.Arbitrary<CalendarRule> = fc.oneof(
  fc.record({ kind: fc.constant('months'), firstMonth: month, ...common } as const),
  fc.record({
    kind: fc.constant('weeks'),
    pattern: fc.constantFrom(...WEEK_PATTERNS),
    endsOn: fc.constantFrom(1, 2, 3, 4, 5, 6, 7),
    endMonth: month,
    which: fc.constantFrom('last', 'nearest'),
    week53In: month,
    ...common,
  } as const),
);

const YEARS = [2023, 2024, 2025, 2026, 2027, 2028, 2029];

describe('ruleOfCalendar', () => {
  it('finds a rule that gives the very same days, for any calendar made by one', () => {
    fc.assert(
      fc.property(rules, (rule) => {
        const rows = YEARS.flatMap((year) => periodsOfRule(rule, year));
        const found = ruleOfCalendar(rows)!;
        expect(YEARS.flatMap((year) => periodsOfRule(found, year))).toEqual(rows);
      }),
      runs(60),
    );
  });

  it('finds none for days that no rule gives', () => {
    const rows = periodsOfRule({ kind: 'months', firstMonth: 4, namedAfter: 'end', adjustments: 0 }, 2027);
    expect(ruleOfCalendar([{ ...rows[0]!, end: '2026-04-29' }, ...rows.slice(1)])).toBeUndefined();
    expect(ruleOfCalendar([])).toBeUndefined();
  });
});
