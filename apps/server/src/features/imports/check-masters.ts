import type Database from 'better-sqlite3';
import {
  checkCalendar,
  checkOwnership,
  checkRates,
  digitsOf,
  formatMinor,
  issue,
  parseAmount,
  RESOURCES,
  type Issue,
  type ResourceSpec,
  type TableRow,
} from '@margin-lens/core';
import { calendarsOfRows, type PackageRow } from '../workspace/package-rows';
import { currentRows } from '../../store/master-store';

type Report = (found: Issue) => void;

/** Roles that one account of the chart can have. */
const SINGLE_ROLES = ['retained_earnings', 'translation_reserve'];

export const rowsOf = (db: Database.Database, name: string): PackageRow[] =>
  currentRows(
    db,
    RESOURCES.find((resource) => resource.name === name)!,
  );

/** Checks rows that are about to be stored against what the books already stand on. */
export function checkAgainstBooks(
  db: Database.Database,
  resource: ResourceSpec,
  rows: readonly TableRow[],
  report: Report,
): void {
  const cellOf = ({ cells }: TableRow, column: string) =>
    cells[resource.columns.findIndex(({ name }) => name === column)]!;
  if (resource.name === 'entities') checkEntities(db, rows, cellOf, report);
  if (resource.name === 'calendars') checkPeriods(db, rows, cellOf, report);
  if (resource.name === 'rates') checkRates(resource, rows).forEach(report);
}

type CellOf = (row: TableRow, column: string) => string;

function checkEntities(db: Database.Database, rows: readonly TableRow[], cellOf: CellOf, report: Report): void {
  const used = db
    .prepare(
      'select e.code, e.currency, e.calendar from entity e where e.until is null and exists (select 1 from journal j where j.entity = e.id)',
    )
    .all() as { code: string; currency: string; calendar: string }[];
  const before = new Map(used.map((row) => [row.code, row]));
  for (const row of rows) {
    const entity = cellOf(row, 'code');
    const was = before.get(entity);
    if (!was) continue;
    const place = (column: string) => ({ file: 'entities.csv', line: row.line, column });
    const [currency, calendar] = [cellOf(row, 'currency'), cellOf(row, 'calendar')];
    if (was.currency !== currency)
      report(issue('CORE_ENTITY_CURRENCY_CHANGED', { entity, before: was.currency, now: currency }, place('currency')));
    if (was.calendar !== calendar)
      report(issue('CORE_ENTITY_CALENDAR_CHANGED', { entity, before: was.calendar, now: calendar }, place('calendar')));
  }
}

/** Days of a period that hold postings cannot leave it. */
function checkPeriods(db: Database.Database, rows: readonly TableRow[], cellOf: CellOf, report: Report): void {
  const stored = new Map(
    rowsOf(db, 'calendars').map((row) => [`${row['calendar']}|${row['fiscal_year']}|${row['period']}`, row]),
  );
  const outside = db.prepare(
    `select min(l.date) as date, count(*) as lines from journal_line l join journal j on j.id = l.journal and j.until is null
     where l.period = ? and l.date not between ? and ?`,
  );
  for (const row of rows) {
    const [calendar, year, number] = ['calendar', 'fiscal_year', 'period'].map((name) => cellOf(row, name));
    const was = stored.get(`${calendar}|${Number(year)}|${Number(number)}`);
    const [start, end] = [cellOf(row, 'start'), cellOf(row, 'end')];
    if (!was || (was['start'] === start && was['end'] === end)) continue;
    const { date, lines } = outside.get(was.id, start, end) as { date: string | null; lines: number };
    if (lines === 0) continue;
    const params = { period: `FY${year}-P${number!.padStart(2, '0')}`, calendar: calendar!, lines, date: date! };
    report(issue('CORE_PERIOD_DATES_IN_USE', params, { file: 'calendars.csv', line: row.line, column: 'start' }));
  }
}

/** Checks what only the tables as a whole can show, once they are stored. */
export function checkMasters(db: Database.Database, report: Report): void {
  for (const { calendar } of calendarsOfRows(rowsOf(db, 'calendars')).values())
    checkCalendar(calendar, 'calendars.csv').forEach(report);
  checkRoles(db, report);
  const shares = rowsOf(db, 'ownership').map((row) => ({
    investor: String(row['investor']),
    investee: String(row['investee']),
    from: String(row['from']),
    percent: Number(row['percent']),
  }));
  checkOwnership(shares, 'ownership.csv').forEach(report);
  checkEliminations(db, report);
}

function checkRoles(db: Database.Database, report: Report): void {
  const accounts = rowsOf(db, 'accounts');
  for (const role of SINGLE_ROLES) {
    const [first, second] = accounts.filter((row) => row['role'] === role);
    if (!second) continue;
    const params = {
      role: role.replaceAll('_', ' '),
      first: String(first!['number']),
      second: String(second['number']),
    };
    report(issue('CORE_ACCOUNT_ROLE_TWICE', params, { file: 'accounts.csv', column: 'role' }));
  }
}

function checkEliminations(db: Database.Database, report: Report): void {
  const currencyOf = new Map(rowsOf(db, 'groups').map((row) => [String(row['code']), String(row['currency'])]));
  const sums = new Map<string, { group: string; journal: string; total: number }>();
  for (const row of rowsOf(db, 'eliminations')) {
    const [group, journal] = [String(row['group']), String(row['journal'])];
    const digits = digitsOf(currencyOf.get(group) ?? '');
    const side = (text: unknown) => {
      const parsed = parseAmount(String(text || '0'), digits);
      return 'minor' in parsed ? parsed.minor : 0;
    };
    const sum = sums.get(`${group}|${journal}`) ?? { group, journal, total: 0 };
    sum.total += side(row['debit']) - side(row['credit']);
    sums.set(`${group}|${journal}`, sum);
  }
  for (const { group, journal, total } of sums.values()) {
    if (total === 0) continue;
    const currency = currencyOf.get(group) ?? '';
    const params = { group, journal, currency, difference: formatMinor(total, digitsOf(currency)) };
    report(issue('CORE_ELIMINATION_UNBALANCED', params, { file: 'eliminations.csv' }));
  }
}
