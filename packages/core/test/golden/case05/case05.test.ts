import { readFileSync } from 'node:fs';
import path from 'node:path';
import fc from 'fast-check';
import {
  addDays,
  allocate,
  buildCalendar,
  countDays,
  daysBetween,
  evaluateStatement,
  parseAmount,
  type ColumnLayout,
  type PeriodRow,
  type RowLayout,
} from '../../../src/index';
import { buildLedgerSlice } from '../../../src/books/ledger-slice';
import { isoWeekOf, isoWeeksIn } from '../../../src/period/iso-week';
import { monthPeriods } from '../../../src/period/month-calendar';
import { weekPeriods, weekYear, type WeekPattern, type WeekRule } from '../../../src/period/week-calendar';
import { workingDaysOf } from '../../../src/period/working-days';

/** Reference case 5; the sources of each file are in its README. */
const text = (name: string) => readFileSync(path.join(__dirname, name), 'utf8');
const json = <T>(name: string): T => JSON.parse(text(name)) as T;

function table(name: string): Record<string, string>[] {
  const [head, ...rows] = text(name)
    .trim()
    .split(/\r?\n/)
    .map((line) => line.split(','));
  return rows.map((cells) => Object.fromEntries(head!.map((column, at) => [column, cells[at]!])));
}

interface RuleFile {
  weeks_per_month_in_each_quarter: number[];
  year_ends_on: 'Saturday' | 'Sunday';
  of_month: number;
  rule: string;
  year_named_after: string;
  week_53_goes_to_period: number;
  years_with_53_weeks: number[];
}

const ruleOf = (file: RuleFile): WeekRule => ({
  pattern: file.weeks_per_month_in_each_quarter.join('-') as WeekPattern,
  endsOn: file.year_ends_on === 'Saturday' ? 6 : 7,
  endMonth: file.of_month,
  which: file.rule.startsWith('last') ? 'last' : 'nearest',
  namedAfter: file.year_named_after.endsWith('ends') ? 'end' : 'start',
  week53In: file.week_53_goes_to_period,
  adjustments: 0,
});

describe('fiscal years of calendar months', () => {
  it('begin in any month and are named after their start or end', () => {
    for (const row of table('fiscal_months.csv')) {
      const rule = {
        firstMonth: Number(row['first_month_of_fiscal_year']),
        namedAfter: row['year_named_after'] as 'start' | 'end',
        adjustments: 1,
      };
      const period = monthPeriods(rule, Number(row['fiscal_year']))[Number(row['period_no']) - 1]!;
      expect([period.start, period.end, String(period.quarter), String(daysBetween(period.start, period.end))]).toEqual(
        [row['start_date'], row['end_date'], row['quarter'], row['days']],
      );
    }
  });

  it('have adjustment periods on their last day', () => {
    const periods = monthPeriods({ firstMonth: 4, namedAfter: 'end', adjustments: 2 }, 2027);
    expect(periods.slice(12).map(({ number, label, start, kind }) => [number, label, start, kind])).toEqual([
      [13, 'Adjustments 1', '2027-03-31', 'adjustment'],
      [14, 'Adjustments 2', '2027-03-31', 'adjustment'],
    ]);
  });
});

describe.each(['retail_445_last_saturday_june', 'retail_544_nearest_sunday_december', 'retail_nrf_454'])(
  '%s',
  (name) => {
    const file = json<RuleFile>(`${name}_rule.json`);
    const rule = ruleOf(file);

    it('has its years, with 53 weeks where they belong', () => {
      const rows = table(`${name}_years.csv`);
      for (const row of rows) {
        expect(weekYear(rule, Number(row['fiscal_year']))).toEqual({
          fiscalYear: Number(row['fiscal_year']),
          start: row['start_date'],
          end: row['end_date'],
          weeks: Number(row['weeks']),
        });
      }
      const years = rows.map((row) => Number(row['fiscal_year']));
      expect(years.filter((year) => weekYear(rule, year).weeks === 53)).toEqual(file.years_with_53_weeks);
    });

    it('has its periods, week 53 in the last', () => {
      for (const row of table(`${name}_periods.csv`)) {
        const year = Number(row['fiscal_year']);
        const period = weekPeriods(rule, year)[Number(row['period_no']) - 1]!;
        expect([period.start, period.end, period.quarter]).toEqual([
          row['start_date'],
          row['end_date'],
          Number(row['quarter']),
        ]);
        expect(daysBetween(period.start, period.end)).toBe(7 * Number(row['weeks']));
        expect(addDays(weekYear(rule, year).start, 7 * (Number(row['first_week']) - 1))).toBe(period.start);
      }
    });
  },
);

/** A calendar's year of one period a week. */
const weeksOfYear = (rule: WeekRule, fiscalYear: number): PeriodRow[] =>
  Array.from({ length: weekYear(rule, fiscalYear).weeks }, (_, at) => {
    const start = addDays(weekYear(rule, fiscalYear).start, 7 * at);
    const quarter = Math.min(4, 1 + Math.floor(at / 13));
    return {
      fiscalYear,
      number: at + 1,
      label: `Week ${at + 1}`,
      start,
      end: addDays(start, 6),
      kind: 'regular',
      quarter,
    };
  });

describe('weeks after a 53-week year', () => {
  it('are compared with the same number, or with one later', () => {
    const rule = ruleOf(json<RuleFile>('retail_nrf_454_rule.json'));
    const lastYear = { kind: 'figure', span: 'period', measure: 'by_nature', yearsBack: 1 } as const;
    const columnLayout: ColumnLayout = {
      schema: 1,
      kind: 'column_layout',
      id: 'weeks',
      name: 'Weeks',
      columns: [
        { ...lastYear, id: 'same_number' },
        { ...lastYear, id: 'shifted', weeks: 'shifted' },
        { ...lastYear, id: 'to_date', span: 'year_to_date', weeks: 'shifted' },
      ],
    };
    const rowLayout: RowLayout = { schema: 1, kind: 'row_layout', id: 'r', name: 'r', purpose: 'free', rows: [] };
    for (const row of table('retail_nrf_454_prior_year_alignment.csv')) {
      const [year, week] = [Number(row['fiscal_year']), Number(row['week'])];
      const calendar = buildCalendar('weeks', [...weeksOfYear(rule, year - 1), ...weeksOfYear(rule, year)]);
      const at = calendar.periods.find(({ fiscalYear, number }) => fiscalYear === year && number === week)!;
      expect(at.start).toBe(row['week_start']);
      const slice = buildLedgerSlice([], calendar, []);
      const currency = { kind: 'currency', code: 'USD', digits: 2 } as const;
      const { columns } = evaluateStatement({ rowLayout, columnLayout, slice, at, currency });
      const held = columns.map(({ span }) => [span!.from, span!.to].map((ordinal) => calendar.periods[ordinal]!));
      expect(held[0]!.map(({ start }) => start)).toEqual(Array(2).fill(row['same_week_number_start']));
      expect(held[1]!.map(({ start }) => start)).toEqual(Array(2).fill(row['shifted_week_start']));
      const first = row['prior_fiscal_year_53_weeks'] === '' ? 1 : 2;
      expect(held[2]!.map(({ number }) => number)).toEqual([first, Number(row['shifted_by_one_week'])]);
    }
  });
});

describe('ISO weeks', () => {
  const written = (day: string) => {
    const { year, week, weekday } = isoWeekOf(day);
    return `${year}-W${String(week).padStart(2, '0')}-${weekday}`;
  };

  it('are those of ISO 8601', () => {
    for (const row of table('iso_weeks.csv')) {
      expect(written(row['date']!)).toBe(row['iso_week_date']);
      expect(isoWeeksIn(Number(row['date']!.slice(0, 4)))).toBe(Number(row['weeks_in_calendar_years_iso_year']));
    }
    const { examples } = json<{ examples: Record<string, string> }>('iso_published_examples.json');
    for (const [day, week] of Object.entries(examples)) expect(written(day)).toBe(week);
  });
});

const holidaysOf = (country: string) =>
  new Set(
    table('public_holidays.csv')
      .filter((row) => row['country'] === country)
      .map((row) => row['date']!),
  );
const ends = (month: string): [string, string] => {
  const [year, number] = month.split('-').map(Number) as [number, number];
  return [`${month}-01`, new Date(Date.UTC(year, number, 0)).toISOString().slice(0, 10)];
};

describe('working days', () => {
  it('are Monday to Friday without public holidays', () => {
    for (const row of table('working_days.csv')) {
      const [start, end] = ends(row['month']!);
      expect(countDays(start, end, holidaysOf(row['country']!))).toEqual({
        days: Number(row['days']),
        weekdays: Number(row['weekdays_mon_fri']),
        workingDays: Number(row['working_days']),
      });
    }
  });

  it('take a month amount by largest remainder', () => {
    const rows = table('spread_over_working_days.csv');
    const keys = new Set(rows.map((row) => `${row['country']} ${row['month']}`));
    for (const key of keys) {
      const of = rows.filter((row) => `${row['country']} ${row['month']}` === key);
      const days = workingDaysOf(...ends(of[0]!['month']!), holidaysOf(of[0]!['country']!));
      const digits = of[0]!['amount']!.split('.')[1]?.length ?? 0;
      const minor = (amount: string) => (parseAmount(amount, digits) as { minor: number }).minor;
      const parts = allocate(
        minor(of[0]!['month_amount']!),
        days.map(() => 1),
      );
      expect(days.map((day, at) => [day, parts[at]])).toEqual(of.map((row) => [row['date'], minor(row['amount']!)]));
    }
  });
});

describe('allocate', () => {
  it('gives parts that add up to the total, whatever the weights (property)', () => {
    const weights = fc.array(fc.integer({ min: -50, max: 1000 }), { minLength: 1, maxLength: 40 });
    fc.assert(
      fc.property(fc.integer({ min: -1e12, max: 1e12 }), weights, (total, given) => {
        fc.pre(given.reduce((a, b) => a + b, 0) !== 0);
        expect(allocate(total, given).reduce((a, b) => a + b, 0)).toBe(total);
        expect(allocate(-total, given)).toEqual(allocate(total, given).map((part) => -part + 0));
      }),
    );
  });

  it('refuses weights that sum to nothing', () => {
    expect(() => allocate(0, [])).toThrow('nothing to spread over');
    expect(() => allocate(10, [1, -1])).toThrow('nothing to spread over');
  });
});
