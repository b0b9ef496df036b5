import type Database from 'better-sqlite3';
import {
  digitsOf,
  FIGURES_FILE,
  FigureRowReader,
  issue,
  IssueList,
  JOURNALS_FILE,
  RESOURCES,
  TableChecker,
  type Issue,
  type IssueCode,
  type Mapping,
  type PostingContext,
  type ResourceSpec,
  type TableRow,
} from '@margin-lens/core';
import { newRevision } from '../../store/new-revision';
import type { PackageRow } from '../workspace/package-rows';
import { BalanceLedger } from '../../store/balance-ledger';
import { checkAgainstBooks, checkMasters, rowsOf } from './check-masters';
import { deliveryEffect, figureEffect, type DeliveryEffect } from '../../store/delivery-effect';
import { storeDocument } from '../../store/document-store';
import { requireExactSums } from '../../store/exact-sums';
import { FigureStore } from '../../store/figure-store';
import { forEachLine } from '../../store/journal-batch';
import { JournalStore, type EntityFacts } from '../../store/journal-store';
import { currentRows, storeMasterRows, type MasterCounts } from '../../store/master-store';
import { isDocumentPath, JSON_FILES, PackageDocuments } from './package-documents';
import type { PackageSource } from './package-source';
import { postingContext, type PostingMasters } from './posting-masters';
import type { RowSink } from './read-csv';
import { readJournals, readJournalsInThread, type JournalSink } from './read-journals';

/** Journals of this size and more are parsed in a thread of their own; below it, starting one costs more than it saves. */
const THREAD_FROM_BYTES = 4_000_000;

/** Findings shown in full; the rest is counted by code. */
export const FINDINGS_SHOWN = 1000;

export interface ImportProgress {
  file: string;
  /** Rows read of this file, and lines of journals in all. */
  rows: number;
  bytesRead: number;
  bytesTotal: number;
}

export interface ImportCounts {
  journals: number;
  lines: number;
  unchangedJournals: number;
  changedJournals: number;
  removedJournals: number;
  figures: number;
  changedFigures: number;
  unchangedFigures: number;
  documents: number;
  masters: Record<string, MasterCounts>;
}

export type ImportOutcome =
  | { state: 'done'; importId: number; revision: number; counts: ImportCounts; findings: FindingList; seconds: number }
  | { state: 'checked'; counts: ImportCounts; effect: DeliveryEffect; findings: FindingList }
  | { state: 'refused'; findings: FindingList }
  | { state: 'cancelled' };

export interface FindingList {
  shown: Issue[];
  errors: number;
  countByCode: [IssueCode, number][];
}

export interface ImportRequest {
  source: PackageSource;
  fileName: string;
  digest: string;
  person: string;
  onProgress(progress: ImportProgress): void;
  isCancelled(): boolean;
  now(): Date;
  /** Read and check everything, say what it would change, and leave the books as they are. */
  isTrial?: boolean;
  /** Replace journals that come with other content than they have in the books, instead of refusing them. */
  replacesChanged?: boolean;
  /** Take out normal journals of the months it touches that the delivery leaves out. */
  isComplete?: boolean;
  /** How the foreign file that the source stands for was read; kept with the delivery. */
  mapping?: Mapping;
  /** Size of journals.csv from which a second thread parses it; for tests. */
  threadFromBytes?: number;
}

class Cancelled extends Error {}

/** The earlier delivery of the very same files, if there was one. */
export function earlierImport(
  db: Database.Database,
  digest: string,
): { finishedAt: string; person: string } | undefined {
  return db
    .prepare(
      'select finished_at as finishedAt, person from import_run where digest = ? and undone is null order by id desc limit 1',
    )
    .get(digest) as { finishedAt: string; person: string } | undefined;
}

/**
 * Reads a ledger package into the books, all or nothing: with any error in it, or when cancelled, the database stays
 * as it was.
 *
 * `db` is a connection of its own, since one transaction spans the whole delivery.
 */
export async function importPackage(db: Database.Database, request: ImportRequest): Promise<ImportOutcome> {
  const started = request.now();
  db.exec('begin immediate');
  try {
    const run = new PackageImport(db, request, started);
    const counts = await run.read();
    if (run.findings.errors > 0) {
      db.exec('rollback');
      return { state: 'refused', findings: listed(run.findings) };
    }
    requireExactSums(db);
    if (request.isTrial) {
      const effect = run.effect();
      db.exec('rollback');
      return { state: 'checked', counts, effect, findings: listed(run.findings) };
    }
    run.close();
    const importId = run.record(counts);
    db.exec('commit');
    const seconds = (request.now().getTime() - started.getTime()) / 1000;
    return { state: 'done', importId, revision: run.revision, counts, findings: listed(run.findings), seconds };
  } catch (error) {
    if (db.inTransaction) db.exec('rollback');
    if (error instanceof Cancelled) return { state: 'cancelled' };
    throw error;
  }
}

const listed = (findings: IssueList): FindingList => ({
  shown: findings.shown,
  errors: findings.errors,
  countByCode: [...findings.countByCode],
});

class PackageImport {
  readonly findings = new IssueList(FINDINGS_SHOWN);
  readonly revision: number;
  private readonly paths: ReadonlySet<string>;
  private readonly known = new Map<string, Set<string>>();
  private readonly masters: Record<string, MasterCounts> = {};
  private readonly combinations: Map<string, number>;
  private readonly insertCombination: Database.Statement;
  private readonly closed: ReadonlySet<string>;
  private journals: JournalStore | undefined;
  private bytesBefore = 0;
  private readonly bytesTotal: number;

  constructor(
    private readonly db: Database.Database,
    private readonly request: ImportRequest,
    private readonly started: Date,
  ) {
    this.paths = new Set(request.source.files.map((file) => file.path));
    this.bytesTotal = request.source.files.reduce((total, file) => total + file.bytes, 0);
    this.revision = newRevision(db, request.person, `import ${request.fileName}`, started);
    this.closed = closedPeriods(db);
    const stored = db.prepare('select id, parts from combination').all() as { id: number; parts: string }[];
    this.combinations = new Map(stored.map(({ id, parts }) => [parts, id]));
    this.insertCombination = db.prepare('insert into combination (parts) values (?)');
  }

  close(): void {
    this.journals?.close();
  }

  /** What the delivery changes in the books. */
  effect(): DeliveryEffect {
    const books = this.journals ? deliveryEffect(this.db, this.journals.firstNew) : { months: [], accounts: [] };
    return { ...books, figures: figureEffect(this.db, this.revision) };
  }

  private readonly report = (found: Issue): void => this.findings.add(found);

  async read(): Promise<ImportCounts> {
    this.reportUnknownFiles();
    const documents = new PackageDocuments(this.db, this.request.source, this.revision, this.report);
    await documents.readSettings();
    for (const resource of RESOURCES) await this.readTable(resource);
    const counts = { ...this.emptyCounts(), masters: this.masters };
    if (this.findings.errors > 0) return counts;
    checkMasters(this.db, this.report);
    const masters: PostingMasters = {
      calendars: rowsOf(this.db, 'calendars'),
      entities: rowsOf(this.db, 'entities'),
      accounts: rowsOf(this.db, 'accounts'),
      dimensions: rowsOf(this.db, 'dimensions'),
      versions: rowsOf(this.db, 'versions'),
    };
    const balances = new BalanceLedger(this.db, this.revision);
    if (this.paths.has(JOURNALS_FILE)) Object.assign(counts, await this.readJournals(masters, balances));
    Object.assign(counts, await this.readFigures(postingContext(masters), balances));
    balances.flush();
    counts.documents = await documents.readDocuments();
    const { mapping } = this.request;
    if (mapping) storeDocument(this.db, 'mapping', mapping.id, mapping, this.revision);
    return counts;
  }

  /** Notes the delivery itself; returns its id. */
  record(counts: ImportCounts): number {
    const { fileName, digest, person, now } = this.request;
    const made = this.db
      .prepare(
        `insert into import_run (revision, file_name, digest, person, started_at, finished_at, counts)
         values (?, ?, ?, ?, ?, ?, ?)`,
      )
      .run(
        this.revision,
        fileName,
        digest,
        person,
        this.started.toISOString(),
        now().toISOString(),
        JSON.stringify(counts),
      );
    return Number(made.lastInsertRowid);
  }

  private emptyCounts(): Omit<ImportCounts, 'masters'> {
    return {
      journals: 0,
      lines: 0,
      unchangedJournals: 0,
      changedJournals: 0,
      removedJournals: 0,
      figures: 0,
      changedFigures: 0,
      unchangedFigures: 0,
      documents: 0,
    };
  }

  private reportUnknownFiles(): void {
    const expected = new Set([
      ...JSON_FILES,
      JOURNALS_FILE,
      FIGURES_FILE,
      ...RESOURCES.map((resource) => resource.file),
    ]);
    for (const path of this.paths) {
      if (!expected.has(path) && !isDocumentPath(path))
        this.report(issue('CORE_PACKAGE_FILE_UNKNOWN', { file: path }, { file: path }));
    }
    if (this.request.source.isPartial) return;
    const required = [
      ...RESOURCES.filter((resource) => resource.required).map((resource) => resource.file),
      JOURNALS_FILE,
    ];
    for (const file of required) {
      if (!this.paths.has(file)) this.report(issue('CORE_PACKAGE_FILE_MISSING', { file }, { file }));
    }
  }

  /** Streams one file through a sink that follows progress and cancellation. */
  private async stream(file: string, sink: Omit<RowSink, 'pause'>, rowsSoFar: () => number): Promise<void> {
    const { source, onProgress, isCancelled } = this.request;
    const pause = (bytes: number) => {
      if (isCancelled()) throw new Cancelled();
      onProgress({ file, rows: rowsSoFar(), bytesRead: this.bytesBefore + bytes, bytesTotal: this.bytesTotal });
    };
    await source.rows(file, { ...sink, pause }, this.report);
    this.bytesBefore += source.files.find((entry) => entry.path === file)?.bytes ?? 0;
  }

  private async readTable(resource: ResourceSpec): Promise<void> {
    const rows: TableRow[] = [];
    if (this.paths.has(resource.file)) {
      const checker = new TableChecker(resource, this.report, this.known);
      await this.stream(
        resource.file,
        {
          header: (names) => checker.open(names),
          row: (fields, line) => {
            const row = checker.check(fields, line);
            if (row) rows.push(row);
          },
        },
        () => rows.length,
      );
      checkAgainstBooks(this.db, resource, rows, this.report);
      this.masters[resource.name] = storeMasterRows(this.db, resource, rows, this.revision);
    }
    const firstKey = resource.key[0]!;
    this.known.set(resource.name, new Set(currentRows(this.db, resource).map((row) => String(row[firstKey]))));
  }

  private combinationId(parts: string): number {
    const held = this.combinations.get(parts);
    if (held !== undefined) return held;
    const id = Number(this.insertCombination.run(parts).lastInsertRowid);
    this.combinations.set(parts, id);
    return id;
  }

  private async readJournals(masters: PostingMasters, balances: BalanceLedger): Promise<Partial<ImportCounts>> {
    const { source, onProgress, isCancelled } = this.request;
    const entities = new Map(masters.entities.map((row) => [row.id, entityFacts(row)]));
    const { replacesChanged = false, isComplete = false } = this.request;
    const policy = { replacesChanged, isComplete, closed: this.closed };
    const store = new JournalStore(this.db, this.revision, balances, (id) => entities.get(id)!, policy);
    this.journals = store;
    const combinationIds: number[] = [];
    const sink: JournalSink = {
      batch: (batch) => {
        for (const parts of batch.combinations) combinationIds.push(this.combinationId(parts));
        forEachLine(batch, (line) => {
          const found = store.add(line, combinationIds[line.combination]!);
          if (found) this.report(found);
        });
      },
      finding: this.report,
      refused: (journal) => store.noteRefused(journal),
      progress: (rows, bytes) => {
        if (isCancelled()) throw new Cancelled();
        onProgress({ file: JOURNALS_FILE, rows, bytesRead: this.bytesBefore + bytes, bytesTotal: this.bytesTotal });
      },
    };
    const bytes = source.files.find((file) => file.path === JOURNALS_FILE)?.bytes ?? 0;
    if (source.location !== undefined && bytes >= (this.request.threadFromBytes ?? THREAD_FROM_BYTES))
      await readJournalsInThread(source.location, masters, sink);
    else await readJournals(source, masters, sink);
    this.bytesBefore += bytes;
    store.finish(this.report);
    return store.counts;
  }

  private async readFigures(context: PostingContext, balances: BalanceLedger): Promise<Partial<ImportCounts>> {
    if (!this.paths.has(FIGURES_FILE)) return {};
    const reader = new FigureRowReader(context, this.report);
    const store = new FigureStore(this.db, this.revision, balances);
    let read = 0;
    await this.stream(
      FIGURES_FILE,
      {
        header: (names) => reader.open(names),
        row: (fields, line) => {
          read++;
          const row = reader.read(fields, line);
          const found = row && store.add(row, this.combinationId(row.combination), line);
          if (found) this.report(found);
        },
      },
      () => read,
    );
    return store.counts;
  }
}

/** Closed periods as `entity|period` of their ids. */
function closedPeriods(db: Database.Database): ReadonlySet<string> {
  const rows = db
    .prepare(
      `select e.id as entity, p.id as period from period_status s
       join entity e on e.code = s.entity and e.until is null
       join fiscal_period p on p.calendar = e.calendar and p.until is null
         and printf('FY%d-P%02d', p.fiscal_year, p.period) = s.period
       where s.until is null and s.status = 'closed'`,
    )
    .all() as { entity: number; period: number }[];
  return new Set(rows.map(({ entity, period }) => `${entity}|${period}`));
}

const entityFacts = (row: PackageRow): EntityFacts => {
  const currency = String(row['currency']);
  return { code: String(row['code']), currency, digits: digitsOf(currency) };
};
