import type { EntityManager } from '@mikro-orm/better-sqlite';
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
import { BalanceLedger } from '../../store/balance-ledger';
import { checkAgainstBooks, checkMasters } from '../workspace/check-masters';
import { deliveryEffect, figureEffect, type DeliveryEffect } from '../../store/delivery-effect';
import { combinationId, combinationsBehind } from '../../store/balances';
import { storeDocument } from '../../store/documents';
import { ImportRun } from '../../store/tables';
import { withdrawn, type Store, type Write } from '../../store/store';
import { calendarsOfRows } from '../workspace/package-rows';
import { requireExactSums } from '../../store/exact-sums';
import { FigureStore } from '../../store/figure-store';
import { forEachLine } from '../../store/journal-batch';
import { JournalStore, type EntityFacts } from '../../store/journal-store';
import { currentRows, rowsOf, storeMasterRows, type MasterCounts, type PackageRow } from '../../store/masters';
import { isDocumentPath, JSON_FILES, PackageDocuments } from './package-documents';
import type { PackageSource } from './package-source';
import { postingContext, readPostingMasters, type PostingMasters } from '../workspace/posting-masters';
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

/**
 * Reads a ledger package into the books, all or nothing: with any error in it, or when cancelled, the workspace stays
 * as it was.
 */
export async function importPackage(store: Store, request: ImportRequest): Promise<ImportOutcome> {
  const started = request.now();
  const act = { kind: 'import', subject: request.fileName } as const;
  try {
    return await store.write<ImportOutcome>(
      request.person,
      act,
      async (write) => {
        // a delivery sorts and indexes more than any other write
        write.db.pragma('cache_size = -300000');
        const run = new PackageImport(write, request, started);
        const counts = await run.read();
        if (run.findings.errors > 0)
          return withdrawn<ImportOutcome>({ state: 'refused', findings: listed(run.findings) });
        requireExactSums(write.db);
        if (request.isTrial)
          return withdrawn<ImportOutcome>({
            state: 'checked',
            counts,
            effect: run.effect(),
            findings: listed(run.findings),
          });
        run.close();
        const importId = await run.record(counts);
        const seconds = (request.now().getTime() - started.getTime()) / 1000;
        return { state: 'done', importId, revision: write.revision, counts, findings: listed(run.findings), seconds };
      },
      started,
    );
  } catch (error) {
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
  private readonly paths: ReadonlySet<string>;
  private readonly known = new Map<string, Set<string>>();
  private readonly masters: Record<string, MasterCounts> = {};
  private readonly combinations: Map<string, number>;
  private journals: JournalStore | undefined;
  private bytesBefore = 0;
  private readonly bytesTotal: number;

  constructor(
    private readonly write: Write,
    private readonly request: ImportRequest,
    private readonly started: Date,
  ) {
    this.paths = new Set(request.source.files.map((file) => file.path));
    this.bytesTotal = request.source.files.reduce((total, file) => total + file.bytes, 0);
    this.combinations = new Map(combinationsBehind(write.db, 0).map(({ id, parts }) => [parts, id]));
  }

  close(): void {
    this.journals?.close();
  }

  /** What the delivery changes in the books. */
  effect(): DeliveryEffect {
    const { db, revision } = this.write;
    const books = this.journals ? deliveryEffect(db, this.journals.firstNew) : { months: [], accounts: [] };
    return { ...books, figures: figureEffect(db, revision) };
  }

  private readonly report = (found: Issue): void => this.findings.add(found);

  async read(): Promise<ImportCounts> {
    const { em } = this.write;
    this.reportUnknownFiles();
    const documents = new PackageDocuments(this.write, this.request.source, this.report);
    await documents.readSettings();
    // as they stood before the delivery
    const closed = await closedPeriods(em);
    for (const resource of RESOURCES) await this.readTable(resource);
    const counts = { ...this.emptyCounts(), masters: this.masters };
    if (this.findings.errors > 0) return counts;
    await checkMasters(em, this.report);
    const masters = await readPostingMasters(em);
    const balances = new BalanceLedger(this.write);
    if (this.paths.has(JOURNALS_FILE)) Object.assign(counts, await this.readJournals(masters, balances, closed));
    Object.assign(counts, await this.readFigures(postingContext(masters), balances));
    balances.flush();
    counts.documents = await documents.readDocuments();
    const { mapping } = this.request;
    if (mapping) await storeDocument(this.write, 'mapping', mapping.id, mapping);
    return counts;
  }

  /** Notes the delivery itself; returns its id. */
  async record(counts: ImportCounts): Promise<number> {
    const { em, revision } = this.write;
    const { fileName, digest, person, now } = this.request;
    const run = em.create(ImportRun, {
      ...{ revision, fileName, digest, person, counts, undone: null },
      startedAt: this.started.toISOString(),
      finishedAt: now().toISOString(),
    });
    await em.flush();
    return run.id;
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
      await checkAgainstBooks(this.write, resource, rows, this.report);
      this.masters[resource.name] = await storeMasterRows(this.write, resource, rows);
    }
    const firstKey = resource.key[0]!;
    const held = await currentRows(this.write.em, resource);
    this.known.set(resource.name, new Set(held.map((row) => String(row[firstKey]))));
  }

  private combinationId(parts: string): number {
    const held = this.combinations.get(parts);
    if (held !== undefined) return held;
    const id = combinationId(this.write.db, parts);
    this.combinations.set(parts, id);
    return id;
  }

  private async readJournals(
    masters: PostingMasters,
    balances: BalanceLedger,
    closed: ReadonlySet<string>,
  ): Promise<Partial<ImportCounts>> {
    const { source, onProgress, isCancelled } = this.request;
    const entities = new Map(masters.entities.map((row) => [row.id, entityFacts(row)]));
    const { replacesChanged = false, isComplete = false } = this.request;
    const policy = { replacesChanged, isComplete, closed };
    const store = new JournalStore(this.write, balances, (id) => entities.get(id)!, policy);
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
    const store = new FigureStore(this.write, balances);
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
async function closedPeriods(em: EntityManager): Promise<ReadonlySet<string>> {
  const calendars = calendarsOfRows(await rowsOf(em, 'calendars'));
  const entities = new Map((await rowsOf(em, 'entities')).map((row) => [row['code'], row]));
  const closed = (await rowsOf(em, 'period_status')).filter((row) => row['status'] === 'closed');
  return new Set(
    closed.flatMap((row) => {
      const entity = entities.get(row['entity']);
      const calendar = entity && calendars.get(String(entity['calendar']));
      const period = calendar?.calendar.periods.find(({ key }) => key === row['period']);
      return period ? [`${entity!.id}|${calendar!.idOf(period)}`] : [];
    }),
  );
}

const entityFacts = (row: PackageRow): EntityFacts => {
  const currency = String(row['currency']);
  return { code: String(row['code']), currency, digits: digitsOf(currency) };
};
