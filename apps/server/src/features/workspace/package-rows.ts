import {
  buildCalendar,
  naturalDirection,
  type Account,
  type CashFlowRule,
  type Direction,
  type Nature,
  type PeriodRow,
  type StoredPeriods,
} from '@margin-lens/core';
import type { PackageRow } from '../../store/masters';

/** An account of the chart as the engine needs it; what is left empty follows from the nature. */
export function accountOfRow(row: PackageRow): Account {
  const nature = row['nature'] as Nature;
  return {
    number: String(row['number']),
    name: String(row['name']),
    nature,
    heading: String(row['category'] ?? ''),
    subHeading: String(row['subcategory'] ?? ''),
    role: String(row['role'] ?? ''),
    behaviour: row['behaviour'] === 'level' ? 'level' : 'flow',
    better: (row['better'] as Direction) || naturalDirection(nature),
    unit: String(row['unit'] ?? ''),
    decimals: Number(row['decimals'] ?? 0),
  };
}

/** A rule of the indirect cash flow. */
export const cashFlowOfRow = (row: PackageRow): CashFlowRule => ({
  account: String(row['account']),
  flow: String(row['flow'] ?? ''),
  line: String(row['line']),
  factor: Number(row['factor']),
});

/** The calendars of a workspace, by code. */
export function calendarsOfRows(rows: readonly PackageRow[]): Map<string, StoredPeriods> {
  const byCode = new Map<string, { row: PeriodRow; id: number }[]>();
  for (const row of rows) {
    const code = String(row['calendar']);
    const period: PeriodRow = {
      fiscalYear: Number(row['fiscal_year']),
      number: Number(row['period']),
      label: String(row['label']),
      start: String(row['start']),
      end: String(row['end']),
      kind: row['kind'] as PeriodRow['kind'],
      quarter: Number(row['quarter']),
    };
    byCode.set(code, [...(byCode.get(code) ?? []), { row: period, id: row.id }]);
  }
  return new Map(
    [...byCode].map(([code, periods]) => {
      const ids = new Map(periods.map(({ row, id }) => [`${row.fiscalYear}.${row.number}`, id]));
      const calendar = buildCalendar(
        code,
        periods.map(({ row }) => row),
      );
      return [code, { calendar, idOf: (p) => ids.get(`${p.fiscalYear}.${p.number}`)! }];
    }),
  );
}
