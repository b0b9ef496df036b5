import type { UsesView } from '@margin-lens/contract';
import { COMBINATION_SEPARATOR, RESOURCES, type ResourceSpec, countText } from '@margin-lens/core';
import { combinationsBehind, idsWithBalances } from '../../store/balances';
import { currentDocuments } from '../../store/documents';
import { countBalances, countFigures, countJournals, countLines } from '../../store/ledger-facts';
import { currentRows, resourceOf, type PackageRow } from '../../store/masters';
import type { Transaction } from '../../store/store';
import { usedAs } from '../../base/words';

type Use = UsesView['uses'][number];

/** Columns that name rows of another table without being declared as such. */
const LOOSE_REFERENCES: Record<string, readonly [string, string][]> = {
  groups: [['groups', 'parent_group']],
  versions: [['versions', 'parent']],
};

/** Tables and columns that hold the first key of a resource. */
const referencesTo = (resource: ResourceSpec): [ResourceSpec, string][] => [
  ...RESOURCES.flatMap((other) =>
    other.columns
      .filter(({ refers }) => refers === resource.name)
      .map(({ name }): [ResourceSpec, string] => [other, name]),
  ),
  ...(LOOSE_REFERENCES[resource.name] ?? []).map(([name, column]): [ResourceSpec, string] => [
    resourceOf(name),
    column,
  ]),
];

/** Combinations that carry a value of a dimension. */
const combinationsWith = (db: Transaction['db'], dimension: string, value: string): number[] =>
  combinationsBehind(db, 0)
    .filter(({ parts }) => parts.split(COMBINATION_SEPARATOR).includes(`${dimension}=${value}`))
    .map(({ id }) => id);

async function layoutsNaming(em: Transaction['em'], number: string): Promise<number> {
  const selector = `"by":"account","number":${JSON.stringify(number)}`;
  return (await currentDocuments(em, ['row_layout'])).filter(({ body }) => body.includes(selector)).length;
}

/**
 * What stands on a row of master data.
 *
 * Shape: one entry a kind of use, those without any left out; empty when the row can go.
 */
export async function usesOf({ em, db }: Transaction, resource: ResourceSpec, key: readonly string[]): Promise<Use[]> {
  const rows = await currentRows(em, resource);
  const isKey = (row: PackageRow) => resource.key.every((column, at) => String(row[column] ?? '') === (key[at] ?? ''));
  const row = rows.find(isKey);
  if (!row) return [];
  const found: Use[] = [];
  if (resource.name === 'accounts') {
    found.push({ what: 'journal_lines', count: countLines(db, row.id) });
    found.push({ what: 'figures', count: countFigures(db, 'account', row.id) });
    found.push({ what: 'row_layouts', count: await layoutsNaming(em, key[0]!) });
  } else if (resource.name === 'entities') {
    found.push({ what: 'journals', count: countJournals(db, row.id) });
    found.push({ what: 'figures', count: countFigures(db, 'entity', row.id) });
  } else if (resource.name === 'calendars')
    found.push({ what: 'balances', count: countBalances(db, 'period', [row.id]) });
  else if (resource.name === 'dimensions') {
    const [dimension, value] = [key[0]!, key[1]!];
    const isOther = (each: PackageRow) => each['dimension'] === dimension && each['value'] === value && !isKey(each);
    // a value that hangs elsewhere at other times stays
    if (!rows.some(isOther)) {
      const ids = combinationsWith(db, dimension, value);
      found.push({ what: 'balances', count: countBalances(db, 'combination', ids) });
      const below = rows.filter((each) => each['dimension'] === dimension && each['parent'] === value);
      found.push({ what: 'values_below', count: below.length });
    }
  }
  if (isNamedWhole(resource, rows, key))
    for (const [other, column] of referencesTo(resource)) {
      const naming = (await currentRows(em, other)).filter((each) => each[column] === key[0]);
      found.push({ what: other.name, count: naming.length });
    }
  return merged(found.filter(({ count }) => count > 0));
}

/** Others name a calendar by its code alone: its last period is the one whose going would take the calendar away. */
const isNamedWhole = (resource: ResourceSpec, rows: readonly PackageRow[], key: readonly string[]): boolean =>
  resource.key.length === 1 ||
  (resource.name === 'calendars' && rows.filter((row) => row['calendar'] === key[0]).length === 1);

function merged(uses: readonly Use[]): Use[] {
  const counts = new Map<string, number>();
  for (const { what, count } of uses) counts.set(what, (counts.get(what) ?? 0) + count);
  return [...counts].map(([what, count]) => ({ what: usedAs(what, count), count }));
}

/** Uses as one phrase. @example '12 journal lines, 1 row layout' */
export const usesInWords = (uses: readonly Use[]): string =>
  uses.map(({ what, count }) => `${countText(count)} ${what}`).join(', ');

/** Ids of the rows of a table that postings or figures stand on, from the balances kept of both. */
export async function postedIds({ em, db }: Transaction, resource: ResourceSpec): Promise<ReadonlySet<number>> {
  const column = (
    { accounts: 'account', entities: 'entity', calendars: 'period' } as Record<string, 'account' | 'entity' | 'period'>
  )[resource.name];
  if (column) return idsWithBalances(db, column);
  if (resource.name !== 'dimensions') return new Set();
  const held = idsWithBalances(db, 'combination');
  const used = new Set(
    combinationsBehind(db, 0).flatMap(({ id, parts }) => (held.has(id) ? parts.split(COMBINATION_SEPARATOR) : [])),
  );
  const values = await currentRows(em, resourceOf('dimensions'));
  return new Set(values.filter((row) => used.has(`${row['dimension']}=${row['value']}`)).map(({ id }) => id));
}
