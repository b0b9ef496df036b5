import type { CalendarRule } from '@margin-lens/core';
import type { DraftRow } from '../shared/sheet/sheet-model';
import { cellsOfPeriod, periodOfCells, periodsOfYears, ruleInWords, yearColumns } from './calendar-view';

const APRIL: CalendarRule = { kind: 'months', firstMonth: 4, namedAfter: 'end', adjustments: 1 };
const WEEKS: CalendarRule = {
  kind: 'weeks',
  pattern: '4-5-4',
  endsOn: 6,
  endMonth: 1,
  which: 'nearest',
  namedAfter: 'start',
  week53In: 12,
  adjustments: 0,
};

const savedRow = (id: number, cells: string[]): DraftRow => ({ id, base: cells, cells, isRemoved: false });

describe('a calendar on screen', () => {
  it('says its rule in words', () => {
    expect(ruleInWords(APRIL)).toBe('Months from April, named after the year it ends in');
    expect(ruleInWords(WEEKS)).toBe(
      'Weeks 4-5-4, to the nearest Saturday to the end of January, named after the year it starts in',
    );
  });

  it('keeps the label of a period whose days stay, and takes the new one where they move', () => {
    const held = periodsOfYears(APRIL, 2027, 2027, []).map((row) => ({ ...row, label: `own ${row.number}` }));
    const again = periodsOfYears(APRIL, 2027, 2028, held);
    expect(again.slice(0, 13).map(({ label }) => label)).toEqual(held.map(({ label }) => label));
    expect(again[13]).toMatchObject({ fiscalYear: 2028, label: 'April 2027' });
    const moved = periodsOfYears({ ...APRIL, firstMonth: 5 }, 2027, 2027, held);
    expect(moved[0]!.label).toBe('May 2026');
  });

  it('shows the years side by side with their length, what is new and what is in use', () => {
    // the retail calendar published by the National Retail Federation has 53 weeks in 2023 (reference case 5)
    const rows = periodsOfYears(WEEKS, 2023, 2024, []).map((row, index) => savedRow(index, cellsOfPeriod('R', row)));
    const { numbers, years } = yearColumns([{ ...rows[0]!, base: undefined }, ...rows.slice(1)], ({ id }) => id === 1);
    expect(numbers).toHaveLength(12);
    expect(years.map(({ head, says }) => [head, says])).toEqual([
      ['FY2023', '29 Jan 2023 – 3 Feb 2024, 53 weeks'],
      ['FY2024', '4 Feb 2024 – 1 Feb 2025, 52 weeks'],
    ]);
    expect(years[0]!.cells.map((cell) => cell!.days).at(-1)).toBe(35);
    expect(years[0]!.cells.slice(0, 2).map((cell) => [cell!.isNew, cell!.isUsed])).toEqual([
      [true, false],
      [false, true],
    ]);
  });

  it('reads a period back from its cells', () => {
    const [row] = periodsOfYears(APRIL, 2027, 2027, []);
    expect(periodOfCells(cellsOfPeriod('A', row!))).toEqual(row);
  });
});
