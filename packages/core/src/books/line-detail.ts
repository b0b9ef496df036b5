import type { DimensionTree } from '../account/dimension-tree';
import type { LineColumns } from '../cube/line-columns';
import type { FiscalCalendar, FiscalPeriod } from '../period/fiscal-calendar';
import { addDays } from '../period/iso-day';
import { isoWeekOf } from '../period/iso-week';
import { dayOfYear, dayShort, fiscalYearName, periodName } from '../period/period-name';
import type { Scope, ScopeEntity } from '../scope/scope';
import type { AgedBy } from './open-items';

/** What journal lines carry that balances do not, by the name that it is asked for like a dimension. */
export const LINE_FIELDS = ['posting_period', 'posting_day', 'document_type', 'due_day'] as const;
export type LineField = (typeof LINE_FIELDS)[number];

/** The day of a posting, as it is asked for. */
export const POSTING_DAY = 'posting_day' satisfies LineField;

/** What the balances of some accounts are told apart by beside their combinations, in the periods of a scope. */
export interface LineDetail {
  fields: readonly LineField[];
  /** Whether journal lines are counted. */
  countsLines: boolean;
  /** Numbers of the accounts. */
  accounts: ReadonlySet<string>;
  agedBy: AgedBy;
  scope: Scope;
}

/** Where what balances do not carry is read. */
export interface LineSource {
  /** Lines of an account of an entity, both as stored, that hold at a revision; of the moment where it is left out. */
  linesOf(entity: number, account: number, revision?: number): LineColumns;
  /** Days of an entity that plans are spread over: its working days, both ends included. */
  workingDays(entity: ScopeEntity, start: string, end: string): readonly string[];
}

/** Whether lines are read, and not months of balances alone. */
export const readsLines = ({ fields, countsLines }: Pick<LineDetail, 'fields' | 'countsLines'>): boolean =>
  countsLines || fields.some((field) => field !== 'posting_period');

/** Text that details share exactly when they tell the same apart. */
export const detailKey = ({ fields, countsLines, accounts, agedBy, scope: { calendar } }: LineDetail): string =>
  [[...fields].sort().join(), countsLines, agedBy, calendar.calendar.code, [...accounts].sort().join()].join('|');

const treesOf = new WeakMap<FiscalCalendar, DimensionTree[]>();

/** Quarters and years that the months of a calendar stand below, and weeks that its days do. */
export function lineTrees(calendar: FiscalCalendar): DimensionTree[] {
  const known = treesOf.get(calendar) ?? [
    { name: 'posting_period', values: periodTree(calendar.periods) },
    { name: 'posting_day', values: dayTree(calendar.periods) },
  ];
  treesOf.set(calendar, known);
  return known;
}

type TreeValues = DimensionTree['values'];

function periodTree(periods: readonly FiscalPeriod[]): TreeValues {
  const above = new Map<string, TreeValues[number]>();
  const months = periods.map((period) => {
    const year = `FY${period.fiscalYear}`;
    const quarter = `${year}-Q${period.quarter}`;
    const name = fiscalYearName(period.fiscalYear);
    above.set(year, { value: year, name, parent: '' });
    above.set(quarter, { value: quarter, name: `Quarter ${period.quarter} ${name}`, parent: year });
    return { value: period.key, name: periodName(period), parent: quarter };
  });
  return [...above.values(), ...months];
}

function dayTree(periods: readonly FiscalPeriod[]): TreeValues {
  const regular = periods.filter(({ kind }) => kind === 'regular');
  const weeks = new Map<string, TreeValues[number]>();
  const days: TreeValues[number][] = [];
  const last = regular.at(-1)?.end ?? '';
  for (let day = regular[0]?.start ?? ''; day !== '' && day <= last; day = addDays(day, 1)) {
    const { year, week, weekday } = isoWeekOf(day);
    const value = `${year}-W${String(week).padStart(2, '0')}`;
    if (!weeks.has(value)) {
      const name = `Week ${week}, ${dayOfYear(day)} – ${dayShort(addDays(day, 7 - weekday))}`;
      weeks.set(value, { value, name, parent: '' });
    }
    days.push({ value: day, name: dayShort(day), parent: value });
  }
  return [...weeks.values(), ...days];
}
