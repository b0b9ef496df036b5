import { readFileSync } from 'node:fs';
import path from 'node:path';
import { allocate, buildCalendar, formatMinor, parseAmount } from '../../../src/index';
import { uplift } from '../../../src/version/uplift';
import { phasingWeights, type PhasingSource } from '../../../src/version/phase';
import { monthPeriods } from '../../../src/period/month-calendar';
import { tryAllocate } from '../../../src/money/allocate';
import { readTable } from '../read-table';

/** Reference case 06 (see README.md here): computed with Python fractions; published examples of the largest remainder. */
const file = (name: string) => path.join(__dirname, name);
const table = (name: string) => readTable(file(name));
const json = <T>(name: string) => JSON.parse(readFileSync(file(name), 'utf8')) as T;
const minor = (text: string, digits = 2) => (parseAmount(text, digits) as { minor: number }).minor;
const weightsOf = (row: Record<string, string>) => Array.from({ length: 12 }, (_, at) => Number(row[`w${at + 1}`]));
const months = (row: Record<string, string>) => Array.from({ length: 12 }, (_, at) => row[`m${at + 1}`]);

const weights = new Map(table('input/weights.csv').map((row) => [row['weight_set']!, weightsOf(row)]));

/** Twelve months, and nothing else that a shape could be taken from. */
const YEAR: PhasingSource = {
  periods: buildCalendar('months', monthPeriods({ firstMonth: 1, namedAfter: 'end', adjustments: 0 }, 2025)).periods,
  baseYear: [],
  present: [],
  growth: 0,
  profile: [],
  holidays: new Set(),
};

describe('spreading a year', () => {
  it.each(table('expected/spread_annual.csv').map((row) => [row['weight_set']!, row['total']!, row] as const))(
    '%s, %s',
    (set, total, row) => {
      expect(allocate(minor(total), weights.get(set)!).map((part) => formatMinor(part, 2))).toEqual(months(row));
    },
  );

  it.each(table('expected/small.csv').map((row) => [row['weights']!, row['total']!, row] as const))(
    '%s, %s',
    (text, total, row) => {
      const digits = Number(row['decimals']);
      const parts = allocate(minor(total, digits), text.split(' ').map(Number));
      expect(parts.map((part) => formatMinor(part, digits)).join(' ')).toBe(row['parts']);
    },
  );

  it('agrees with the published examples of the largest remainder', () => {
    const { cases } = json<{ cases: { name: string; total: number; weights: string[]; parts: number[] }[] }>(
      'expected/published_largest_remainder.json',
    );
    for (const { total, weights, parts } of cases) expect(allocate(total, weights.map(Number))).toEqual(parts);
  });

  it('in two steps, each adding up (the pool is the first total of the year)', () => {
    const rows = table('expected/two_step.csv');
    const shares = allocate(
      minor('120000.00'),
      rows.map((row) => Number(row['driver'])),
    );
    expect(shares.map((share) => formatMinor(share, 2))).toEqual(rows.map((row) => row['share']));
    rows.forEach((row, at) =>
      expect(allocate(shares[at]!, [3, 2, 2]).map((part) => formatMinor(part, 2))).toEqual([
        row['product_weight_3'],
        row['product_weight_2a'],
        row['product_weight_2b'],
      ]),
    );
  });

  it('is refused without weights or over weights that sum to nothing', () => {
    for (const { total, weights } of json<{ total: string; weights: string[] }[]>('expected/errors.json')) {
      expect(tryAllocate(minor(total), weights.map(Number))).toBeUndefined();
      expect(() => allocate(minor(total), weights.map(Number))).toThrow();
    }
  });
});

describe('weights of months', () => {
  const holidays = new Set(
    readTable(path.join(__dirname, '../case05/public_holidays.csv'))
      .filter((row) => row['country'] === 'DE')
      .map((row) => row['date']!),
  );
  const source = { ...YEAR, holidays };

  it('by days and by working days are those of the calendar', () => {
    expect(phasingWeights('days', source)).toEqual(weights.get('calendar_days'));
    expect(phasingWeights('working_days', source)).toEqual(weights.get('working_days_DE_2025'));
    expect(phasingWeights('even', source)).toEqual(weights.get('even'));
  });
});

describe('uplift', () => {
  const base = minor(table('input/uplift_base.csv')[0]!['base_month_amount']!);
  const lastYear = weights.get('last_year_seasonality')!.map((amount) => Math.round(amount * 100));
  const shown = (parts: readonly number[]) => parts.map((part) => formatMinor(part, 2));

  it.each(table('expected/uplift.csv').map((row) => [row['method']!, row['percent']!, row] as const))(
    '%s, %s %%',
    (method, text, row) => {
      const percent = Number(text);
      const flatBase = Array.from({ length: 12 }, () => base);
      if (method.startsWith('compound_from_unrounded'))
        expect(shown(uplift(flatBase, { percent, from: 'base', compounding: true }))).toEqual(months(row));
      else if (method.startsWith('fixed annual total'))
        expect(shown(allocate(base * 12, phasingWeights('growing', { ...YEAR, growth: percent })))).toEqual(
          months(row),
        );
      else if (method.startsWith('last year x (1+x)^n'))
        expect(shown(uplift(lastYear, { percent, from: 'each', compounding: true }))).toEqual(months(row));
      else if (method.endsWith('flat'))
        expect(shown(uplift(lastYear, { percent, from: 'each', compounding: false }))).toEqual(months(row));
      else expect(method).toContain('comparison only'); // the method that is not ours
    },
  );
});
