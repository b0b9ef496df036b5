import * as v from 'valibot';
import { NATURES } from '../account/nature';
import { CalendarRuleSchema, periodsOfRule } from '../period/calendar-rule';
import type { PeriodRow } from '../period/fiscal-calendar';
import { RESOURCES } from '../intake/resources';
import type { WorkspaceSettings } from '../intake/workspace-settings';

/** Code of the one calendar that a workspace starts with. */
const STARTING_CALENDAR = 'MAIN';
/** Code of the only entity of a file that names none. */
export const STARTING_ENTITY = 'MAIN';
/** Most fiscal years that a workspace starts with. */
const YEARS_AT_MOST = 60;

const Year = v.pipe(v.number(), v.integer(), v.minValue(1900), v.maxValue(2200));
const Text = v.pipe(v.string(), v.trim(), v.minLength(1));

/** An account that comes with a foreign file. */
export const StartingAccountSchema = v.object({
  number: Text,
  name: v.string(),
  nature: v.union([v.picklist(NATURES), v.literal('')]),
  heading: v.string(),
  subHeading: v.string(),
  role: v.string(),
});

/** What an empty workspace must be told besides the figures of a foreign file. */
export const StartingBooksSchema = v.object({
  name: Text,
  entities: v.pipe(v.array(v.object({ code: Text, name: Text, currency: v.string() })), v.minLength(1)),
  calendar: CalendarRuleSchema,
  /** First and last fiscal year that the calendar is made for. */
  years: v.pipe(
    v.object({ from: Year, to: Year }),
    v.check(({ from, to }) => from <= to && to - from < YEARS_AT_MOST, 'The years do not follow each other.'),
  ),
  accounts: v.array(StartingAccountSchema),
});
export type StartingBooks = v.InferOutput<typeof StartingBooksSchema>;

/** Periods of the calendar that the workspace starts with. */
const startingPeriods = ({ calendar, years }: Pick<StartingBooks, 'calendar' | 'years'>): PeriodRow[] =>
  Array.from({ length: years.to - years.from + 1 }, (_, index) => periodsOfRule(calendar, years.from + index)).flat();

/** What the settings of the workspace start as. */
export const startingSettings = ({ name, entities, calendar }: StartingBooks): WorkspaceSettings => ({
  name,
  reporting_currency: entities[0]!.currency,
  fiscal_year_naming: calendar.namedAfter === 'start' ? 'starts' : 'ends',
});

/**
 * The tables of a ledger package that the workspace starts with.
 *
 * Shape: by file, rows of cells in the order of the columns of that table.
 */
export function startingTables(books: StartingBooks): ReadonlyMap<string, string[][]> {
  const rows: Record<string, Record<string, string>[]> = {
    'calendars.csv': startingPeriods(books).map((period) => ({
      calendar: STARTING_CALENDAR,
      fiscal_year: String(period.fiscalYear),
      period: String(period.number),
      label: period.label,
      start: period.start,
      end: period.end,
      kind: period.kind,
      quarter: String(period.quarter),
    })),
    'entities.csv': books.entities.map((entity) => ({ ...entity, calendar: STARTING_CALENDAR })),
    'accounts.csv': books.accounts.map(accountRow),
  };
  return tableRows(rows);
}

/** An account as its table has it. */
export const accountRow = ({
  number,
  name,
  nature,
  heading,
  subHeading,
  role,
}: StartingBooks['accounts'][number]): Record<string, string> => ({
  number,
  name: name || number,
  nature,
  category: heading,
  subcategory: subHeading,
  role,
});

/** Rows of tables of a ledger package by file, as cells in the order of the columns of each. */
export const tableRows = (rows: Record<string, Record<string, string>[]>): ReadonlyMap<string, string[][]> =>
  new Map(
    Object.entries(rows).map(([file, table]) => {
      const { columns } = RESOURCES.find((resource) => resource.file === file)!;
      return [file, table.map((row) => columns.map(({ name }) => row[name] ?? ''))];
    }),
  );
