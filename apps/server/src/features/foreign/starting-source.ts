import { Readable } from 'node:stream';
import {
  RESOURCES,
  startingSettings,
  startingTables,
  type ForeignContext,
  type StartingBooks,
} from '@margin-lens/core';
import { SETTINGS_FILE } from '../imports/package-documents';
import type { PackageSource } from '../imports/package-source';
import { postingContext } from '../workspace/posting-masters';
import type { PackageRow } from '../../store/masters';
import type { ForeignSource } from './foreign-source';

const columnsOf = (file: string): string[] =>
  RESOURCES.find((resource) => resource.file === file)!.columns.map(({ name }) => name);

/** The master data that a workspace starts with, as the conversion of foreign files needs it. */
export function startingContext(books: StartingBooks): ForeignContext {
  const tables = startingTables(books);
  const rowsOf = (file: string): PackageRow[] => {
    const columns = columnsOf(file);
    return tables
      .get(file)!
      .map((cells, id) => Object.assign({ id }, Object.fromEntries(columns.map((name, at) => [name, cells[at]!]))));
  };
  const postings = postingContext({
    calendars: rowsOf('calendars.csv'),
    entities: rowsOf('entities.csv'),
    partners: [],
    accounts: rowsOf('accounts.csv'),
    account_map: [],
    value_map: [],
    dimensions: [],
    versions: [],
  });
  const calendar = [...postings.entities.values()][0]?.calendar.calendar;
  return { postings, calendar, standBefore: () => 0 };
}

/** A foreign file together with the books it starts, as a whole ledger package. */
export function startingSource(foreign: ForeignSource, books: StartingBooks): ForeignSource {
  const tables = startingTables(books);
  const settings = JSON.stringify(startingSettings(books));
  const rows: PackageSource['rows'] = async (path, sink, report) => {
    const table = tables.get(path);
    if (!table) return foreign.rows(path, sink, report);
    sink.header(columnsOf(path), 1);
    table.forEach((cells, index) => sink.row(cells, index + 2));
  };
  return {
    ...foreign,
    isPartial: false,
    files: [...[SETTINGS_FILE, ...tables.keys()].map((path) => ({ path, bytes: 0 })), ...foreign.files],
    open: (path) =>
      path === SETTINGS_FILE ? Promise.resolve(Readable.from([Buffer.from(settings)])) : foreign.open(path),
    rows,
  };
}
