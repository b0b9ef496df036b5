import { defineEntity, p, type EntitySchema } from '@mikro-orm/core';
import { RESOURCES, type ResourceSpec } from '@margin-lens/core';

/**
 * The tables of a workspace. Nothing is updated in place: rows carry the workspace revision they came with (`since`)
 * and the one that ended them (`until`, null while they hold).
 */
const validity = { since: p.integer(), until: p.integer().nullable() };

/** One row a write of the workspace: who, when, what. */
export const WorkspaceRevision = defineEntity({
  name: 'WorkspaceRevision',
  properties: { id: p.integer().primary().autoincrement(), at: p.string(), person: p.string(), action: p.string() },
});

/** A delivery that was read into the books. `counts` is JSON. */
export const ImportRun = defineEntity({
  name: 'ImportRun',
  indexes: [{ properties: ['digest'] }],
  properties: {
    id: p.integer().primary().autoincrement(),
    revision: p.integer(),
    fileName: p.string(),
    digest: p.string(),
    person: p.string(),
    startedAt: p.string(),
    finishedAt: p.string(),
    counts: p.text(),
    /** Revision that undid it. */
    undone: p.integer().nullable(),
  },
});

/** Layouts, statements and the workspace settings, as JSON. */
export const StoredDocument = defineEntity({
  name: 'StoredDocument',
  tableName: 'document',
  uniques: [{ properties: ['kind', 'id', 'since'] }],
  properties: {
    rowId: p.integer().primary().autoincrement(),
    kind: p.string(),
    id: p.string(),
    body: p.text(),
    ...validity,
  },
});

/**
 * A table of the ledger package, kept as delivered. `id` is the same for every revision of the same key, so that
 * postings can refer to it.
 */
function packageTable({ table, columns, key }: ResourceSpec): EntitySchema {
  const column = (type: string) => (type === 'integer' ? p.integer().nullable() : p.text());
  return defineEntity({
    name: table,
    tableName: table,
    uniques: [{ properties: [...key, 'since'] }],
    properties: {
      row_id: p.integer().primary().autoincrement(),
      id: p.integer(),
      ...Object.fromEntries(columns.map(({ name, type }) => [name, column(type)])),
      ...validity,
    },
  } as never) as unknown as EntitySchema;
}

/** The distinct tuples of partner, flow and dimension values that postings carry. */
export const Combination = defineEntity({
  name: 'Combination',
  properties: { id: p.integer().primary().autoincrement(), parts: p.text().unique() },
});

export const Journal = defineEntity({
  name: 'Journal',
  uniques: [
    { properties: ['entity', 'fiscalYear', 'number', 'since'] },
    {
      name: 'journal_current_number',
      expression:
        'create unique index `journal_current_number` on `journal` (`entity`, `fiscal_year`, `number`) where `until` is null',
    },
  ],
  properties: {
    id: p.integer().primary().autoincrement(),
    entity: p.integer(),
    fiscalYear: p.integer(),
    number: p.text(),
    /** 0 normal, 1 opening, 2 closing. */
    kind: p.integer(),
    ...validity,
  },
});

/** Amounts in minor units of the entity's currency, quantity in 1/10,000; `basis` 0 books, 1 adjustment, 2 cash. */
export const JournalLine = defineEntity({
  name: 'JournalLine',
  uniques: [{ name: 'journal_line_of_journal', properties: ['journal', 'line'] }],
  indexes: [{ name: 'journal_line_of_account', properties: ['account', 'entity', 'period'] }],
  properties: {
    id: p.integer().primary().autoincrement(),
    journal: p.integer(),
    line: p.integer(),
    date: p.text(),
    entity: p.integer(),
    period: p.integer(),
    account: p.integer(),
    basis: p.integer(),
    debit: p.bigint('number'),
    credit: p.bigint('number'),
    currency: p.text(),
    currencyAmount: p.bigint('number').nullable(),
    quantity: p.bigint('number'),
    combination: p.integer(),
    description: p.text(),
    document: p.text(),
    sourceLine: p.integer(),
  },
});

/** The revision that first posted to a month of an entity. */
export const FirstPosting = defineEntity({
  name: 'FirstPosting',
  properties: { entity: p.integer().primary(), period: p.integer().primary(), revision: p.integer() },
});

/** Figures of plans, forecasts and branches: movements, debit positive. */
export const VersionFigure = defineEntity({
  name: 'VersionFigure',
  tableName: 'figure',
  indexes: [
    { name: 'figure_since', properties: ['version', 'since'] },
    { name: 'figure_until', properties: ['version', 'until'] },
  ],
  uniques: [{ name: 'figure_key', properties: ['version', 'entity', 'account', 'period', 'combination', 'since'] }],
  properties: {
    id: p.integer().primary().autoincrement(),
    version: p.integer(),
    entity: p.integer(),
    account: p.integer(),
    period: p.integer(),
    combination: p.integer(),
    amount: p.bigint('number'),
    quantity: p.bigint('number'),
    ...validity,
  },
});

/** Sums of postings as of now, kept in the transaction that posts. Version 0 is actual. */
export const Balance = defineEntity({
  name: 'Balance',
  properties: {
    version: p.integer().primary(),
    entity: p.integer().primary(),
    period: p.integer().primary(),
    account: p.integer().primary(),
    combination: p.integer().primary(),
    basis: p.integer().primary(),
    entryKind: p.integer().primary(),
    debit: p.bigint('number'),
    credit: p.bigint('number'),
    quantity: p.bigint('number'),
  },
});

export const TABLES = [
  WorkspaceRevision,
  ImportRun,
  StoredDocument,
  ...RESOURCES.map(packageTable),
  Combination,
  Journal,
  JournalLine,
  FirstPosting,
  VersionFigure,
  Balance,
];
