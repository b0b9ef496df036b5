import type Database from 'better-sqlite3';
import type { UsesView } from '@margin-lens/contract';
import { COMBINATION_SEPARATOR, RESOURCES, type ResourceSpec } from '@margin-lens/core';

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
    RESOURCES.find((other) => other.name === name)!,
    column,
  ]),
];

const WORDS: Record<string, string> = {
  entities: 'entities',
  groups: 'groups',
  ownership: 'ownership',
  acquisitions: 'acquisitions',
  period_status: 'period status',
  cash_flow: 'cash flow lines',
  historical: 'historical amounts',
  eliminations: 'eliminations',
};

const countOf = (db: Database.Database, sql: string, ...params: unknown[]): number =>
  (db.prepare(sql).get(...params) as { count: number }).count;

/** Combinations of postings that carry a value of a dimension. */
const combinationsWith = (db: Database.Database, dimension: string, value: string): number[] => {
  const part = `${dimension}=${value}`;
  const rows = db.prepare('select id, parts from combination where instr(parts, ?) > 0').all(part) as {
    id: number;
    parts: string;
  }[];
  return rows.filter(({ parts }) => parts.split(COMBINATION_SEPARATOR).includes(part)).map(({ id }) => id);
};

/** Lines of an account, by the index that there is on it. */
const linesOf = (db: Database.Database, account: number): Use => ({
  what: 'journal lines',
  count: countOf(
    db,
    'select count(*) as count from journal_line l join journal j on j.id = l.journal and j.until is null where l.account = ?',
    account,
  ),
});

const figuresWhere = (db: Database.Database, condition: string): Use => ({
  what: 'figures of versions',
  count: countOf(db, `select count(*) as count from figure where until is null and ${condition}`),
});

/** Balances of postings and figures: far fewer than these, and kept with them. */
const balancesWhere = (db: Database.Database, condition: string): Use => ({
  what: 'balances',
  count: countOf(db, `select count(*) as count from balance where ${condition}`),
});

function layoutsNaming(db: Database.Database, number: string): number {
  const selector = `%"by":"account","number":${JSON.stringify(number)}%`;
  return countOf(
    db,
    "select count(*) as count from document where kind = 'row_layout' and until is null and body like ?",
    selector,
  );
}

/**
 * What stands on a row of master data.
 *
 * Shape: one entry a kind of use, those without any left out; empty when the row can go.
 */
export function usesOf(db: Database.Database, resource: ResourceSpec, key: readonly string[]): Use[] {
  const condition = resource.key.map((column) => `\`${column}\` = ?`).join(' and ');
  const row = db.prepare(`select id from \`${resource.table}\` where until is null and ${condition}`).get(...key) as
    { id: number } | undefined;
  if (!row) return [];
  const found: Use[] = [];
  if (resource.name === 'accounts') {
    found.push(linesOf(db, row.id), figuresWhere(db, `account = ${row.id}`));
    found.push({ what: 'row layouts', count: layoutsNaming(db, key[0]!) });
  } else if (resource.name === 'entities') {
    const journals = 'select count(*) as count from journal where until is null and entity = ?';
    found.push({ what: 'journals', count: countOf(db, journals, row.id) }, figuresWhere(db, `entity = ${row.id}`));
  } else if (resource.name === 'calendars') found.push(balancesWhere(db, `period = ${row.id}`));
  else if (resource.name === 'dimensions') {
    const ids = combinationsWith(db, key[0]!, key[1]!);
    if (ids.length > 0) found.push(balancesWhere(db, `combination in (${ids.join(', ')})`));
    found.push({
      what: 'values below it',
      count: countOf(
        db,
        'select count(*) as count from dimension_value where until is null and dimension = ? and parent = ?',
        ...key,
      ),
    });
  }
  if (isNamedWhole(db, resource, key)) {
    for (const [other, column] of referencesTo(resource)) {
      const count = countOf(
        db,
        `select count(*) as count from \`${other.table}\` where until is null and \`${column}\` = ?`,
        key[0],
      );
      found.push({ what: WORDS[other.name] ?? other.name, count });
    }
  }
  return merged(found.filter(({ count }) => count > 0));
}

/** Others name a calendar by its code alone: its last period is the one whose going would take the calendar away. */
const isNamedWhole = (db: Database.Database, resource: ResourceSpec, key: readonly string[]): boolean =>
  resource.key.length === 1 ||
  (resource.name === 'calendars' &&
    countOf(db, 'select count(*) as count from fiscal_period where until is null and calendar = ?', key[0]) === 1);

function merged(uses: readonly Use[]): Use[] {
  const counts = new Map<string, number>();
  for (const { what, count } of uses) counts.set(what, (counts.get(what) ?? 0) + count);
  return [...counts].map(([what, count]) => ({ what: count === 1 ? oneOf(what) : what, count }));
}

/** Words of which the one is not the many without their last letter. */
const ONE: Record<string, string> = {
  entities: 'entity',
  'period status': 'period status',
  ownership: 'ownership',
  'figures of versions': 'figure of versions',
  'values below it': 'value below it',
};
const oneOf = (many: string): string => ONE[many] ?? many.replace(/s$/, '');

/** Uses as one phrase. @example '12 journal lines, 1 row layout' */
export const usesInWords = (uses: readonly Use[]): string =>
  uses.map(({ what, count }) => `${count.toLocaleString('en-GB')} ${what}`).join(', ');

/** Ids of the rows of a table that postings or figures stand on, from the balances kept of both. */
export function postedIds(db: Database.Database, resource: ResourceSpec): ReadonlySet<number> {
  const column = { accounts: 'account', entities: 'entity', calendars: 'period' }[resource.name];
  if (column) {
    const rows = db.prepare(`select distinct ${column} as id from balance`).all() as { id: number }[];
    return new Set(rows.map(({ id }) => id));
  }
  const parts = db
    .prepare('select parts from combination where id in (select distinct combination from balance)')
    .all() as { parts: string }[];
  const used = new Set(parts.flatMap((row) => row.parts.split(COMBINATION_SEPARATOR)));
  const values = db.prepare('select id, dimension, value from dimension_value where until is null').all() as {
    id: number;
    dimension: string;
    value: string;
  }[];
  return new Set(values.filter(({ dimension, value }) => used.has(`${dimension}=${value}`)).map(({ id }) => id));
}
