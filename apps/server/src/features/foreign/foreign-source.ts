import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import type { UnmatchedView } from '@margin-lens/contract';
import {
  fileOf,
  DIMENSION_PREFIX,
  foreignConverter,
  issue,
  missingTargets,
  RESOURCES,
  targetsOf,
  type ForeignContext,
  type Issue,
  type Mapping,
  type RowConverter,
} from '@margin-lens/core';
import type { PackageSource } from '../imports/package-source';
import { AccountsOfFile } from './accounts-of-file';
import { checkHeader } from './check-header';
import { readForeign } from './read-foreign';

/** SHA-256 of a file, in hex. */
export async function digestOfFile(location: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(location), async (source: AsyncIterable<Buffer>) => {
    for await (const chunk of source) hash.update(chunk);
  });
  return hash.digest('hex');
}

/** A code that the workspace does not have, of an account with what is posted to it, debit positive. */
export interface Unmatched extends Omit<UnmatchedView, 'classification'> {
  stand: number;
}

export interface ForeignSource extends PackageSource {
  /** Codes of the rows read that the workspace does not have. */
  unmatched(): Unmatched[];
}

/**
 * A foreign file as one table of a ledger package: its rows are converted by the mapping on the way.
 *
 * `context` is asked when the rows are read, so that it sees the books of that moment.
 */
export async function openForeign(
  location: string,
  fileName: string,
  mapping: Mapping,
  context: ForeignContext,
): Promise<ForeignSource> {
  let converter: RowConverter | undefined;
  const accounts = new AccountsOfFile(mapping, (number) => !context.postings.accounts.has(number));
  const path = fileOf(mapping.purpose);
  const rows: PackageSource['rows'] = async (_path, sink, report) => {
    let isTaken = false;
    const header = (names: string[], line: number) => {
      const found = [...checkHeader(fileName, names, line), ...unmapped(fileName, names, mapping, context)];
      found.forEach(report);
      if (found.length > 0) return;
      converter = foreignConverter(fileName, mapping, names, context, report);
      accounts.begin(names, converter.header);
      isTaken = sink.header([...converter.header], line);
    };
    const take = (fields: string[], line: number) => {
      accounts.made(fields, line);
      // where the header was refused, the codes that are missing are told all the same
      if (isTaken) sink.row(fields, line);
    };
    await readForeign(
      location,
      fileName,
      mapping,
      {
        header,
        row: (cells, line) => {
          accounts.read(cells, line);
          for (const fields of converter?.convert(cells, line) ?? []) take(fields, line);
        },
        pause: sink.pause,
      },
      report,
    );
    for (const { fields, line } of converter?.rest() ?? []) take(fields, line);
    converter?.finish();
  };
  return {
    location: undefined,
    isPartial: true,
    files: [{ path, bytes: (await stat(location)).size }],
    open: () => Promise.resolve(createReadStream(location)),
    rows,
    digest: () => digestOfFile(location),
    close: () => undefined,
    unmatched: () =>
      [...(converter?.unmatched ?? [])].flatMap(([target, texts]) =>
        [...texts].map(([text, count]) => ({
          ...{ target, text, count },
          ...(target === 'account' ? accounts.of(text) : { name: '', stand: 0 }),
        })),
      ),
  };
}

/** A foreign file with tables of a ledger package beside it. */
export function withTables(foreign: ForeignSource, tables: ReadonlyMap<string, string[][]>): ForeignSource {
  return {
    ...foreign,
    files: [...[...tables.keys()].map((path) => ({ path, bytes: 0 })), ...foreign.files],
    rows: async (path, sink, report) => {
      const table = tables.get(path);
      if (!table) return foreign.rows(path, sink, report);
      sink.header(columnsOfFile(path), 1);
      table.forEach((cells, index) => sink.row(cells, index + 2));
    },
  };
}

/** Names of the columns of a table of a ledger package. */
export const columnsOfFile = (file: string): string[] =>
  RESOURCES.find((resource) => resource.file === file)!.columns.map(({ name }) => name);

/** Required targets without a column, and columns of the mapping that the file does not have. */
function unmapped(file: string, names: readonly string[], mapping: Mapping, context: ForeignContext): Issue[] {
  const columns = names.join(', ');
  const targets = targetsOf(mapping.purpose, [...context.postings.dimensions.keys()]);
  const labelOf = (name: string) => targets.find((target) => target.name === name)?.label.toLowerCase() ?? name;
  const absent = Object.entries(mapping.columns).filter(([, column]) => !names.includes(column));
  return [
    ...missingTargets(mapping).map((alternatives) => alternatives.map(labelOf).join(' or ')),
    ...absent.map(([target]) => labelOf(target)),
  ].map((what) => issue('CORE_FOREIGN_UNMAPPED', { what, columns }, { file }));
}

/** Findings of the package check in the words of the file they came from: its name and its columns. */
export function inOwnWords(found: Issue, fileName: string, mapping: Mapping): Issue {
  if (!found.place) return found;
  const { column } = found.place;
  const own =
    column && (mapping.columns[column] ?? (/^(debit|credit)$/.test(column) ? mapping.columns['amount'] : undefined));
  const place = { ...found.place, file: fileName, ...(own ? { column: own } : {}) };
  if (found.code !== 'CORE_REFERENCE_UNKNOWN') return { ...found, place };
  // a person can mend it where the columns are put right
  const { what = '', text = '' } = found.params;
  const isAddable = column === 'account' || column?.startsWith(DIMENSION_PREFIX);
  return issue(isAddable ? 'CORE_FOREIGN_CODE_NEW' : 'CORE_FOREIGN_CODE_UNKNOWN', { what, text }, place);
}
