import { Readable } from 'node:stream';
import {
  additionTables,
  startingSettings,
  startingTables,
  type Additions,
  type ForeignContext,
  type StartingBooks,
} from '@margin-lens/core';
import { SETTINGS_FILE } from '../imports/package-documents';
import { postingContext } from '../workspace/posting-masters';
import type { PackageRow } from '../../store/masters';
import { columnsOfFile, withTables, type ForeignSource } from './foreign-source';

/** Rows of a table as they are stored; none where it is not among the tables. */
export const packageRows = (tables: ReadonlyMap<string, string[][]>, file: string): PackageRow[] => {
  const columns = columnsOfFile(file);
  return (tables.get(file) ?? []).map((cells, id) =>
    Object.assign({ id }, Object.fromEntries(columns.map((name, at) => [name, cells[at]!]))),
  );
};

/** The master data that a workspace starts with, as the conversion of foreign files needs it. */
export function startingContext(books: StartingBooks, additions: Additions): ForeignContext {
  const tables = new Map([...additionTables(additions), ...startingTables(books)]);
  const rowsOf = (file: string) => packageRows(tables, file);
  const postings = postingContext({
    calendars: rowsOf('calendars.csv'),
    entities: rowsOf('entities.csv'),
    partners: [],
    accounts: rowsOf('accounts.csv'),
    account_map: [],
    value_map: [],
    dimensions: rowsOf('dimensions.csv'),
    versions: [],
  });
  const calendar = [...postings.entities.values()][0]?.calendar.calendar;
  return { postings, calendar, standBefore: () => 0, entityNames: new Map() };
}

/** A foreign file together with the books it starts, as a whole ledger package. */
export function startingSource(foreign: ForeignSource, books: StartingBooks): ForeignSource {
  const whole = withTables(foreign, startingTables(books));
  const settings = JSON.stringify(startingSettings(books));
  return {
    ...whole,
    isPartial: false,
    files: [{ path: SETTINGS_FILE, bytes: 0 }, ...whole.files],
    open: (path) =>
      path === SETTINGS_FILE ? Promise.resolve(Readable.from([Buffer.from(settings)])) : foreign.open(path),
  };
}
