import { defineEntity, p, PrimaryKeyProp } from '@mikro-orm/core';
import { RESOURCES, type DocumentKind, type ResourceSpec, type WritingStyle } from '@margin-lens/core';
import type { Revision } from './revision';
import { Changeable, ChangeableSchema, Revisioned, RevisionedSchema, tableOf, type Made } from './revisioned';

/** One row a write of the workspace: who, when, what, which parts it moved, and the moment after it. */
export const RevisionRow = defineEntity({
  name: 'RevisionRow',
  tableName: 'workspace_revision',
  indexes: [{ name: 'revision_subject', properties: ['kind', 'subject', 'id'] }],
  properties: {
    id: p.integer().primary().autoincrement(),
    at: p.string(),
    person: p.string(),
    kind: p.string().$type<Revision['kind']>(),
    subject: p.string(),
    details: p.json<Revision['details']>(),
    touches: p.json<Revision['touches']>(),
    generation: p.json<Revision['generation']>(),
  },
});

/** Who works in the workspace. Rights, entities and values are JSON: `"all"`, or those that the person has. */
export class Person extends Changeable {
  id!: string;
  name!: string;
  rights!: 'all' | string[];
  entities!: 'all' | string[];
  /** Values that may be seen of a dimension, by its name; dimensions that are not named may be seen whole. */
  values!: Record<string, string[]>;
  /** How they write numbers and days; null for the usual way. */
  style!: WritingStyle | null;
}
const PersonTable = tableOf(Person, {
  extends: ChangeableSchema,
  tableName: 'person',
  properties: {
    id: p.string().primary(),
    name: p.string().unique(),
    rights: p.json(),
    entities: p.json(),
    values: p.json(),
    style: p.json().nullable(),
  },
});

/** A statement that a person keeps at hand. */
export class ShelfEntry extends Changeable {
  [PrimaryKeyProp]?: ['person', 'statement'];
  person!: string;
  statement!: string;
  isFavourite!: boolean;
  /** Moment at which the person last opened it; empty where they never did. */
  openedAt!: string;
}
const ShelfTable = tableOf(ShelfEntry, {
  extends: ChangeableSchema,
  tableName: 'shelf_entry',
  properties: {
    person: p.string().primary(),
    statement: p.string().primary(),
    isFavourite: p.boolean(),
    openedAt: p.string(),
  },
});

/** A delivery that was read into the books. */
export class ImportRun extends Changeable {
  id!: number;
  revision!: number;
  fileName!: string;
  digest!: string;
  person!: string;
  startedAt!: string;
  finishedAt!: string;
  counts!: object;
  /** Revision that undid it. */
  undone: number | null = null;
}
const ImportRunTable = tableOf(ImportRun, {
  extends: ChangeableSchema,
  tableName: 'import_run',
  indexes: [{ properties: ['digest'] }],
  properties: {
    id: p.integer().primary().autoincrement(),
    revision: p.integer(),
    fileName: p.string(),
    digest: p.string(),
    person: p.string(),
    startedAt: p.string(),
    finishedAt: p.string(),
    counts: p.json().columnType('text'),
    undone: p.integer().nullable(),
  },
});

/** Layouts, statements, settings, remarks, mappings and marks, as JSON. */
export class StoredDocument extends Revisioned {
  declare [PrimaryKeyProp]?: 'rowId';
  rowId!: number;
  kind!: string;
  id!: string;
  body!: string;
}
const StoredDocumentTable = tableOf(StoredDocument, {
  extends: RevisionedSchema,
  tableName: 'document',
  uniques: [{ properties: ['kind', 'id', 'since'] }],
  properties: { rowId: p.integer().primary().autoincrement(), kind: p.string(), id: p.string(), body: p.text() },
});

/** A person's own state of a document, until it is kept. `base` is the revision of the shared one that it stands on. */
export class StoredDraft extends Changeable {
  declare [PrimaryKeyProp]?: 'rowId';
  rowId!: number;
  person!: string;
  kind!: DocumentKind;
  id!: string;
  body!: string;
  base!: number;
  at!: string;
}
const StoredDraftTable = tableOf(StoredDraft, {
  extends: ChangeableSchema,
  tableName: 'draft',
  uniques: [{ properties: ['person', 'kind', 'id'] }],
  properties: {
    rowId: p.integer().primary().autoincrement(),
    person: p.string(),
    kind: p.string(),
    id: p.string(),
    body: p.text(),
    base: p.integer(),
    at: p.string(),
  },
});

/** A step of a person's work on a document: what it was and became. */
export class StoredStep extends Changeable {
  declare [PrimaryKeyProp]?: 'seq';
  seq!: number;
  action!: string;
  person!: string;
  kind!: DocumentKind;
  id!: string;
  label!: string;
  before!: string;
  after!: string;
  at!: string;
  state!: 'done' | 'undone' | 'passed_over' | 'ended' | 'reversal';
  /** Step that this one takes back or does again. */
  reverses: string | null = null;
}
const StoredStepTable = tableOf(StoredStep, {
  extends: ChangeableSchema,
  tableName: 'step',
  uniques: [{ properties: ['person', 'action', 'kind', 'id'] }],
  indexes: [{ name: 'step_document', properties: ['person', 'kind', 'id', 'seq'] }],
  properties: {
    seq: p.integer().primary().autoincrement(),
    action: p.string(),
    person: p.string(),
    kind: p.string(),
    id: p.string(),
    label: p.string(),
    before: p.text(),
    after: p.text(),
    at: p.string(),
    state: p.string(),
    reverses: p.string().nullable(),
  },
});

/** A row of master data, with the columns of its table. `id` is the same for every revision of the same key. */
export class MasterRow extends Revisioned {
  row_id!: number;
  id!: number;
  [column: string]: unknown;
}

const MASTERS = new Map(RESOURCES.map((resource) => [resource.name, masterTable(resource)] as const));

/** The table of a resource of the ledger package, kept as delivered. */
export const masterOf = ({ name }: Pick<ResourceSpec, 'name'>): Made<MasterRow> => MASTERS.get(name)!;

function masterTable({ table, columns, key }: ResourceSpec): Made<MasterRow> {
  const column = (type: string) => (type === 'integer' ? p.integer().nullable() : p.text());
  // a class by the name of the table, since one class is one table
  const made = { [table]: class extends MasterRow {} }[table]!;
  return tableOf<MasterRow>(made, {
    extends: RevisionedSchema,
    tableName: table,
    uniques: [{ properties: [...key, 'since'] }],
    properties: {
      row_id: p.integer().primary().autoincrement(),
      id: p.integer(),
      ...Object.fromEntries(columns.map(({ name, type }) => [name, column(type)])),
    },
  });
}

const validity = { since: p.integer(), until: p.integer().nullable() };

/** The distinct tuples of partner, flow and dimension values that postings carry. */
const Combination = defineEntity({
  name: 'Combination',
  properties: { id: p.integer().primary().autoincrement(), parts: p.text().unique() },
});

/** The head of a journal; its lines are read and written in bulk. */
export class Journal extends Revisioned {
  id!: number;
  entity!: number;
  fiscalYear!: number;
  number!: string;
  /** 0 normal, 1 opening, 2 closing. */
  kind!: number;
}
const JournalTable = tableOf(Journal, {
  extends: RevisionedSchema,
  tableName: 'journal',
  indexes: [
    { name: 'journal_since', properties: ['since'] },
    {
      name: 'journal_until',
      expression: 'create index `journal_until` on `journal` (`until`) where `until` is not null',
    },
  ],
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
    kind: p.integer(),
  },
});

/** Amounts in minor units of the entity's currency, quantity in 1/10,000; `basis` 0 books, 1 adjustment, 2 cash. */
const JournalLine = defineEntity({
  name: 'JournalLine',
  uniques: [{ name: 'journal_line_of_journal', properties: ['journal', 'line'] }],
  indexes: [
    { name: 'journal_line_of_account', properties: ['account', 'entity', 'period'] },
    {
      name: 'journal_line_local',
      expression:
        "create index `journal_line_local` on `journal_line` (`entity`) where `local_account` <> '' or `local_values` <> ''",
    },
  ],
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
    documentType: p.text().default(''),
    due: p.text().default(''),
    settles: p.text().default(''),
    localAccount: p.text().default(''),
    localValues: p.text().default(''),
    sourceLine: p.integer(),
  },
});

/** A file that is attached to journals or documents, by the SHA-256 of its bytes in hex. */
export const AttachmentFile = defineEntity({
  name: 'AttachmentFile',
  properties: { sha256: p.text().primary(), bytes: p.blob().$type<Buffer>() },
});

/** The revision that first posted to a month of an entity. */
const FirstPosting = defineEntity({
  name: 'FirstPosting',
  properties: { entity: p.integer().primary(), period: p.integer().primary(), revision: p.integer() },
});

/** Figures of plans, forecasts and branches: movements, debit positive. */
const VersionFigure = defineEntity({
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
  RevisionedSchema,
  ChangeableSchema,
  RevisionRow,
  PersonTable,
  ShelfTable,
  ImportRunTable,
  StoredDocumentTable,
  StoredDraftTable,
  StoredStepTable,
  ...MASTERS.values(),
  Combination,
  JournalTable,
  JournalLine,
  AttachmentFile,
  FirstPosting,
  VersionFigure,
  Balance,
];
