import type { EntityManager } from '@mikro-orm/better-sqlite';
import {
  checkCalendar,
  checkGroups,
  checkGroupTables,
  checkOwnership,
  checkPeriodMap,
  checkRates,
  digitsOf,
  GROUP_RESOURCES,
  type GroupRow,
  ROLES,
  SINGLE_ROLES,
  formatMinor,
  issue,
  parseAmount,
  type Issue,
  type ResourceSpec,
  type TableRow,
  inWords,
} from '@margin-lens/core';
import { entitiesWithJournals, linesOutside } from '../../store/ledger-facts';
import { expected } from '../../base/words';
import { resourceOf, rowsOf, type PackageRow } from '../../store/masters';
import type { Transaction } from '../../store/store';
import { calendarsOfRows } from './package-rows';

type Report = (found: Issue) => void;

/** Checks rows that are about to be stored against what the books already stand on. */
export async function checkAgainstBooks(
  books: Transaction,
  resource: ResourceSpec,
  rows: readonly TableRow[],
  report: Report,
): Promise<void> {
  const cellOf = ({ cells }: TableRow, column: string) =>
    cells[resource.columns.findIndex(({ name }) => name === column)]!;
  if (resource.name === 'entities') await checkEntities(books, rows, cellOf, report);
  if (resource.name === 'calendars') await checkPeriods(books, rows, cellOf, report);
  if (resource.name === 'accounts') noteUnknownRoles(rows, cellOf, report);
  if (resource.name === 'attributes') await checkAttributes(books, rows, cellOf, report);
  if (resource.name === 'rates') checkRates(resource, rows).forEach(report);
}

type CellOf = (row: TableRow, column: string) => string;

function noteUnknownRoles(rows: readonly TableRow[], cellOf: CellOf, report: Report): void {
  const known = Object.keys(ROLES).join(', ');
  for (const row of rows) {
    const [account, role] = [cellOf(row, 'number'), cellOf(row, 'role')];
    const place = { file: 'accounts.csv', line: row.line, column: 'role' };
    if (role !== '' && !ROLES[role]) report(issue('CORE_ACCOUNT_ROLE_UNKNOWN', { account, role, known }, place));
  }
}

/** Attributes are of values that there are. */
async function checkAttributes(
  { em }: Transaction,
  rows: readonly TableRow[],
  cellOf: CellOf,
  report: Report,
): Promise<void> {
  const known = new Set((await rowsOf(em, 'dimensions')).map((row) => `${row['dimension']}\u0000${row['value']}`));
  for (const row of rows) {
    const [dimension, value] = [cellOf(row, 'dimension'), cellOf(row, 'value')];
    if (known.has(`${dimension}\u0000${value}`)) continue;
    const place = { file: 'attributes.csv', line: row.line, column: 'value' };
    report(
      issue(
        'CORE_REFERENCE_UNKNOWN',
        { what: expected.valueOf(dimension), text: value, file: 'dimensions.csv' },
        place,
      ),
    );
  }
}

async function checkEntities(
  { em, db }: Transaction,
  rows: readonly TableRow[],
  cellOf: CellOf,
  report: Report,
): Promise<void> {
  const used = entitiesWithJournals(db);
  const held = (await rowsOf(em, 'entities')).filter(({ id }) => used.has(id));
  const before = new Map(held.map((row) => [row['code'], row]));
  for (const row of rows) {
    const entity = cellOf(row, 'code');
    const was = before.get(entity);
    if (!was) continue;
    const place = (column: string) => ({ file: 'entities.csv', line: row.line, column });
    const [currency, calendar] = [cellOf(row, 'currency'), cellOf(row, 'calendar')];
    if (was['currency'] !== currency)
      report(
        issue(
          'CORE_ENTITY_CURRENCY_CHANGED',
          { entity, before: String(was['currency']), now: currency },
          place('currency'),
        ),
      );
    if (was['calendar'] !== calendar)
      report(
        issue(
          'CORE_ENTITY_CALENDAR_CHANGED',
          { entity, before: String(was['calendar']), now: calendar },
          place('calendar'),
        ),
      );
  }
}

/** Days of a period that hold postings cannot leave it. */
async function checkPeriods(
  { em, db }: Transaction,
  rows: readonly TableRow[],
  cellOf: CellOf,
  report: Report,
): Promise<void> {
  const stored = new Map(
    (await rowsOf(em, 'calendars')).map((row) => [`${row['calendar']}|${row['fiscal_year']}|${row['period']}`, row]),
  );
  for (const row of rows) {
    const [calendar, year, number] = ['calendar', 'fiscal_year', 'period'].map((name) => cellOf(row, name));
    const was = stored.get(`${calendar}|${Number(year)}|${Number(number)}`);
    const [start, end] = [cellOf(row, 'start'), cellOf(row, 'end')];
    if (!was || (was['start'] === start && was['end'] === end)) continue;
    const { date, lines } = linesOutside(db, was.id, start!, end!);
    if (lines === 0) continue;
    const params = { period: `FY${year}-P${number!.padStart(2, '0')}`, calendar: calendar!, lines, date: date! };
    report(issue('CORE_PERIOD_DATES_IN_USE', params, { file: 'calendars.csv', line: row.line, column: 'start' }));
  }
}

/** Checks what only the tables as a whole can show, once they are stored. */
export async function checkMasters(em: EntityManager, report: Report): Promise<void> {
  const calendars = calendarsOfRows(await rowsOf(em, 'calendars'));
  for (const { calendar } of calendars.values()) checkCalendar(calendar, 'calendars.csv').forEach(report);
  checkRoles(await rowsOf(em, 'accounts'), report);
  const shares = (await rowsOf(em, 'ownership')).map((row) => ({
    investor: String(row['investor']),
    investee: String(row['investee']),
    from: String(row['from']),
    percent: Number(row['percent']),
  }));
  checkOwnership(shares, 'ownership.csv').forEach(report);
  const tables: Record<string, GroupRow[]> = {};
  for (const { name } of [...GROUP_RESOURCES, resourceOf('source_links'), resourceOf('attachments')])
    tables[name] = (await rowsOf(em, name)).map(textsOf);
  checkGroupTables(tables, shares).forEach(report);
  const entityRows = await rowsOf(em, 'entities');
  const groups = await rowsOf(em, 'groups');
  checkGroups(groups.map(textsOf), new Set(entityRows.map((row) => String(row['code'])))).forEach(report);
  const groupCalendars = new Set(groups.map((row) => String(row['calendar'])));
  const calendarOf = (code: unknown) => calendars.get(String(code))?.calendar;
  checkPeriodMap(
    tables['calendar_map']!,
    (entity) => calendarOf(entityRows.find((row) => row['code'] === entity)?.['calendar']),
    [...groupCalendars].flatMap((code) => calendarOf(code) ?? []),
  ).forEach(report);
  checkEliminations(groups, await rowsOf(em, 'eliminations'), report);
}

/** A row with its cells as text. */
const textsOf = (row: PackageRow): GroupRow =>
  Object.fromEntries(Object.entries(row).map(([column, cell]) => [column, String(cell ?? '')]));

function checkRoles(accounts: readonly PackageRow[], report: Report): void {
  for (const row of accounts) {
    const [account, role, nature] = [String(row['number']), String(row['role'] ?? ''), String(row['nature'])];
    if (role === '') continue;
    const natures: readonly string[] = ROLES[role] ?? [];
    if (natures.length === 0 || natures.includes(nature)) continue;
    const params = { account, role: inWords(role), nature, natures: natures.join(' or ') };
    report(issue('CORE_ACCOUNT_ROLE_NATURE', params, { file: 'accounts.csv', column: 'role' }));
  }
  for (const role of SINGLE_ROLES) {
    const [first, second] = accounts.filter((row) => row['role'] === role);
    if (!second) continue;
    const params = {
      role: inWords(role),
      first: String(first!['number']),
      second: String(second['number']),
    };
    report(issue('CORE_ACCOUNT_ROLE_TWICE', params, { file: 'accounts.csv', column: 'role' }));
  }
}

function checkEliminations(groups: readonly PackageRow[], eliminations: readonly PackageRow[], report: Report): void {
  const currencyOf = new Map(groups.map((row) => [String(row['code']), String(row['currency'])]));
  const sums = new Map<string, { group: string; journal: string; total: number }>();
  for (const row of eliminations) {
    const [group, journal] = [String(row['group']), String(row['journal'])];
    // the lines of a month come to zero by themselves
    const key = [group, journal, row['period']].join('|');
    const digits = digitsOf(currencyOf.get(group) ?? '');
    const side = (text: unknown) => {
      const parsed = parseAmount(String(text || '0'), digits);
      return 'minor' in parsed ? parsed.minor : 0;
    };
    const sum = sums.get(key) ?? { group, journal, total: 0 };
    sum.total += side(row['debit']) - side(row['credit']);
    sums.set(key, sum);
  }
  for (const { group, journal, total } of sums.values()) {
    if (total === 0) continue;
    const currency = currencyOf.get(group) ?? '';
    const params = { group, journal, currency, difference: formatMinor(total, digitsOf(currency)) };
    report(issue('CORE_ELIMINATION_UNBALANCED', params, { file: 'eliminations.csv' }));
  }
}
