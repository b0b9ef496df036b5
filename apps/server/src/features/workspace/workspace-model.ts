import type { EntityManager } from '@mikro-orm/better-sqlite';
import * as v from 'valibot';
import {
  digitsOf,
  DocumentSchema,
  RESOURCES,
  type Account,
  type CashFlowRule,
  type ColumnLayout,
  type DimensionTree,
  type Document,
  type FiscalPeriod,
  type LedgerSlice,
  type RowLayout,
  type StatementDocument,
  type Unit,
  type WorkspaceSettings,
} from '@margin-lens/core';
import type { OpeningSource, VersionEditor, VersionState } from '@margin-lens/contract';
import { BooksReader } from './books-reader';
import { accountOfRow, calendarsOfRows, cashFlowOfRow, type PackageRow, type StoredCalendar } from './package-rows';

export interface Entity {
  id: number;
  code: string;
  name: string;
  currency: Unit & { kind: 'currency' };
  calendar: StoredCalendar;
}

export interface Version {
  id: number;
  code: string;
  name: string;
  kind: string;
  fromPeriod: string;
  toPeriod: string;
  cutOver: string;
  parent: string;
  state: VersionState;
  rank: number;
  settings: StoredVersionSettings;
}

/** What is kept about a version beside its row of the package. */
export interface StoredVersionSettings {
  owner: string;
  editors: VersionEditor[];
  /** What a plan opens with, where it is not the actual balances before its first month. */
  opening?: OpeningSource;
  /** Revision that a locked version reads everything at. */
  frozenAt?: number;
  /** Code of the locked version that this one revises. */
  revises?: string;
}

const NO_SETTINGS: StoredVersionSettings = { owner: '', editors: [] };
/** Kind of the documents that hold the settings of versions, by code. */
export const VERSION_SETTINGS = 'version_settings';

/** A stored document that cannot be read, and why. */
export interface SetAside {
  kind: string;
  id: string;
  problem: string;
}

/** The workspace at one revision: master data and documents, and the books of entities as they are asked for. */
export class WorkspaceModel {
  readonly books = new BooksReader(this);
  private readonly accountById: ReadonlyMap<number, string>;
  readonly accountIds: ReadonlyMap<string, number>;

  constructor(
    readonly revision: number,
    readonly settings: WorkspaceSettings | undefined,
    readonly entities: readonly Entity[],
    readonly accounts: readonly Account[],
    accountIds: readonly number[],
    readonly versions: readonly Version[],
    readonly documents: readonly Document[],
    /** The dimensions with their values, in the order they were first delivered. */
    readonly trees: readonly DimensionTree[],
    readonly cashFlow: readonly CashFlowRule[],
    private readonly closed: readonly { entity: string; period: string }[],
    readonly lastPostedAt: string | undefined,
    /** Documents that their schema does not take: nothing reads them, and they are named where they are asked for. */
    readonly setAside: readonly SetAside[],
  ) {
    this.accountById = new Map(accounts.map((account, index) => [accountIds[index]!, account.number]));
    this.accountIds = new Map(accounts.map((account, index) => [account.number, accountIds[index]!]));
  }

  /** Names of the dimensions. */
  get dimensions(): string[] {
    return this.trees.map(({ name }) => name);
  }

  /** Values that postings can carry in a dimension, or as partner; undefined where there is no such dimension. */
  valuesOf(dimension: string): string[] | undefined {
    if (dimension === 'partner') return this.entities.map(({ code }) => code);
    return this.trees.find(({ name }) => name === dimension)?.values.map(({ value }) => value);
  }

  /** The last period of an entity that is closed, if any is. */
  lastClosed({ code, calendar: { calendar } }: Entity): FiscalPeriod | undefined {
    const keys = new Set(this.closed.filter(({ entity }) => entity === code).map(({ period }) => period));
    return calendar.periods.findLast(({ key, kind }) => kind === 'regular' && keys.has(key));
  }

  entity(code: string): Entity | undefined {
    return this.entities.find((entity) => entity.code === code);
  }

  version(code: string): Version | undefined {
    return this.versions.find((version) => version.code === code);
  }

  documentsOf(kind: 'statement'): StatementDocument[];
  documentsOf(kind: 'row_layout'): RowLayout[];
  documentsOf(kind: 'column_layout'): ColumnLayout[];
  documentsOf(kind: Document['kind']): Document[] {
    return this.documents.filter((document) => document.kind === kind);
  }

  /** The actual books of an entity, basis books and adjustment. */
  slice(em: EntityManager, entity: Entity): Promise<LedgerSlice> {
    return this.books.read(em, entity);
  }

  accountNumber(id: number): string | undefined {
    return this.accountById.get(id);
  }
}

/** The revision that the workspace is at now; 0 when nothing was ever written. */
export async function currentRevision(em: EntityManager): Promise<number> {
  const [row] = await em
    .getConnection()
    .execute<{ id: number | null }[]>('select max(id) as id from workspace_revision');
  return row?.id ?? 0;
}

/** Kinds of documents that statements are made of. */
const LAYOUT_KINDS = ['row_layout', 'column_layout', 'statement'];

/** Reads the workspace as it is now. */
export async function loadWorkspace(em: EntityManager): Promise<WorkspaceModel> {
  const connection = em.getConnection();
  const rowsOf = (name: string): Promise<PackageRow[]> => {
    const { table } = RESOURCES.find((resource) => resource.name === name)!;
    return connection.execute<PackageRow[]>(`select * from \`${table}\` where until is null order by id`);
  };
  const calendars = calendarsOfRows(await rowsOf('calendars'));
  const accountRows = (await rowsOf('accounts')).sort((a, b) => (String(a['number']) < String(b['number']) ? -1 : 1));
  const stored = await connection.execute<{ kind: string; id: string; body: string }[]>(
    'select kind, id, body from document where until is null order by row_id',
  );
  const versionSettings = new Map(
    stored
      .filter(({ kind }) => kind === VERSION_SETTINGS)
      .map(({ id, body }) => [id, JSON.parse(body) as StoredVersionSettings]),
  );
  const settings = stored.find(({ kind }) => kind === 'workspace');
  const read = stored
    .filter(({ kind }) => LAYOUT_KINDS.includes(kind))
    .map((row) => ({ ...row, ...documentOf(row.body) }));
  const setAside = read.flatMap(({ kind, id, problem }) => (problem === undefined ? [] : [{ kind, id, problem }]));
  for (const { kind, id, problem } of setAside)
    console.error(`The ${kind} ${id} cannot be read and is set aside: ${problem}`);
  const [last] = await connection.execute<{ at: string | null }[]>('select max(finished_at) as at from import_run');
  return new WorkspaceModel(
    await currentRevision(em),
    settings && (JSON.parse(settings.body) as WorkspaceSettings),
    (await rowsOf('entities')).map((row) => entityOfRow(row, calendars)),
    accountRows.map(accountOfRow),
    accountRows.map((row) => row.id),
    (await rowsOf('versions')).map((row) => versionOfRow(row, versionSettings)),
    read.flatMap(({ document }) => document ?? []),
    treesOfRows(await rowsOf('dimensions')),
    (await rowsOf('cash_flow')).map(cashFlowOfRow),
    (await rowsOf('period_status'))
      .filter((row) => row['status'] === 'closed')
      .map((row) => ({ entity: String(row['entity']), period: String(row['period']) })),
    last?.at ?? undefined,
    setAside,
  );
}

/** A document as it was kept, older forms read as today's; or what keeps it from being read. */
export function documentOf(
  body: string,
): { document: Document; problem?: never } | { document?: never; problem: string } {
  const parsed = v.safeParse(v.pipe(v.string(), v.parseJson(), DocumentSchema), body);
  if (parsed.success) return { document: parsed.output };
  const [first] = parsed.issues;
  return { problem: `${v.getDotPath(first) ?? 'the document'}: ${first.message}` };
}

function treesOfRows(rows: readonly PackageRow[]): DimensionTree[] {
  const trees = new Map<string, DimensionTree['values'][number][]>();
  for (const row of rows) {
    const name = String(row['dimension']);
    const value = { value: String(row['value']), name: String(row['name']), parent: String(row['parent'] ?? '') };
    trees.set(name, [...(trees.get(name) ?? []), value]);
  }
  return [...trees].map(([name, values]) => ({ name, values }));
}

function entityOfRow(row: PackageRow, calendars: ReadonlyMap<string, StoredCalendar>): Entity {
  const code = String(row['currency']);
  return {
    id: row.id,
    code: String(row['code']),
    name: String(row['name']),
    currency: { kind: 'currency', code, digits: digitsOf(code) },
    calendar: calendars.get(String(row['calendar']))!,
  };
}

const versionOfRow = (row: PackageRow, settings: ReadonlyMap<string, StoredVersionSettings>): Version => ({
  id: row.id,
  code: String(row['code']),
  name: String(row['name']),
  kind: String(row['kind']),
  fromPeriod: String(row['from_period']),
  toPeriod: String(row['to_period']),
  cutOver: String(row['cut_over'] ?? ''),
  parent: String(row['parent'] ?? ''),
  state: (String(row['state'] ?? '') || 'draft') as VersionState,
  rank: Number(row['rank'] ?? 0),
  settings: settings.get(String(row['code'])) ?? NO_SETTINGS,
});

/**
 * Ordinals of the periods in which an entity has postings, without reading its books: the balances are kept in the
 * order of entity and period, so each period costs one look.
 */
export async function postedPeriods(em: EntityManager, { id, calendar }: Entity): Promise<FiscalPeriod[]> {
  const { calendar: fiscal, idOf } = calendar;
  const looks = fiscal.periods.map(
    (period) =>
      `select ${idOf(period)} as id where exists (select 1 from balance where version = 0 and entity = ${id} and period = ${idOf(period)} and basis in (0, 1) and entry_kind in (0, 1))`,
  );
  const found = await em.getConnection().execute<{ id: number }[]>(looks.join(' union all '));
  const ids = new Set(found.map((row) => row.id));
  return fiscal.periods.filter((period) => ids.has(idOf(period)));
}
