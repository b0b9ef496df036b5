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
  type PostingContext,
  type ResourceSpec,
  type TableRow,
} from '@margin-lens/core';
import { checkAgainstBooks, checkMasters } from '../workspace/check-masters';
import { deliveryEffect, figureEffect, type DeliveryEffect } from '../../store/delivery-effect';
import { addCombination, combinationsBehind } from '../../store/balances';
import { storeDocument } from '../../store/documents';
import { ImportRun } from '../../store/tables';
import { withdrawn, type Connection, type Store, type Write } from '../../store/store';
import { closedIds } from '../workspace/closed-ids';
import { remapLines } from '../../store/remap-lines';
import { requireExactSums } from '../../store/exact-sums';
import { JournalStore, type EntityFacts } from '../../store/journal-store';
import { StagedFigures } from '../../store/staged-figures';
import { StagedJournals, statementOfLines } from '../../store/staged-journals';
import { currentRows, storeMasterRows, type MasterCounts, type PackageRow } from '../../store/masters';
import { isAttachmentPath, keepAttachments } from './package-attachments';
import { checkDescriptor, isDocumentPath, JSON_FILES, PackageDocuments } from './package-documents';
import type { FindingList, ImportCounts, ImportOutcome, ImportRequest } from './import-request';
import { postingContext, readPostingMasters, type PostingMasters } from '../workspace/posting-masters';
import type { RowSink } from './read-csv';
import { readJournals, readJournalsInThread, type JournalSink } from './read-journals';

/** Journals of this size and more are parsed in a thread of their own; below it, starting one costs more than it saves. */
const THREAD_FROM_BYTES = 4_000_000;

/** Findings shown in full; the rest is counted by code. */
export const FINDINGS_SHOWN = 1000;

class Cancelled extends Error {}

/** Attempts in which others may write while the delivery is read; the next one keeps them waiting instead. */
const ATTEMPTS = 2; // 1 to 5

/**
 * Reads a ledger package into the books, all or nothing: with any error in it, or when cancelled, the workspace stays
 * as it was.
 *
 * Others write meanwhile: its tables are tried in a transaction that is taken back, journals and figures are checked
 * against what that gave and set aside, and then all of it is brought in at once. Where somebody moved what it was
 * checked against in between, it is read again.
 */
export async function importPackage(store: Store, request: ImportRequest): Promise<ImportOutcome> {
  const started = request.now();
  try {
    for (let attempt = 1; ; attempt++) {
      const outcome = await bringIn(store, request, started, attempt > ATTEMPTS);
      if (outcome !== 'moved') return outcome;
    }
  } catch (error) {
    if (error instanceof Cancelled) return { state: 'cancelled' };
    throw error;
  }
}

async function bringIn(
  store: Store,
  request: ImportRequest,
  started: Date,
  keepsOthersWaiting: boolean,
): Promise<ImportOutcome | 'moved'> {
  const act = { kind: 'import', subject: request.fileName } as const;
  const { person } = request;
  const reading = new PackageImport(request, started);
  const { findings } = reading;
  await reading.checkFiles();
  const ground = await store.write(person, act, async (write) => withdrawn(await reading.tryTables(write)));
  if (!ground) return { state: 'refused', findings: listed(findings) };
  const beforehand = (db: Connection) => reading.setAside(db, ground);
  return store.write<ImportOutcome | 'moved'>(
    person,
    act,
    async (write) => {
      if (hasMoved(write, ground)) return withdrawn<'moved'>('moved');
      if (keepsOthersWaiting) await beforehand(write.db);
      const counts = await reading.settle(write, ground);
      if (findings.errors > 0) return withdrawn<ImportOutcome>({ state: 'refused', findings: listed(findings) });
      requireExactSums(write.db);
      if (request.isTrial) {
        const effect = reading.effect(write);
        return withdrawn<ImportOutcome>({ state: 'checked', counts, effect, findings: listed(findings) });
      }
      reading.close();
      const importId = await reading.record(write, counts);
      const seconds = (request.now().getTime() - started.getTime()) / 1000;
      return { state: 'done', importId, revision: write.revision, counts, findings: listed(findings), seconds };
    },
    { at: started, ...(keepsOthersWaiting ? {} : { beforehand }) },
  );
}

/** What a delivery is checked against: master data with its own tables in it, and combinations; as of some revision. */
interface Ground {
  masters: PostingMasters;
  closed: ReadonlySet<string>;
  /** When master data last moved, and the last combination. */
  mastersMovedAt: number;
  lastCombination: number;
  combinations: ReadonlyMap<string, number>;
  /** The statement that made the table of journal lines. */
  lineTable: string;
}

const hasMoved = ({ db, before }: Write, { mastersMovedAt, lastCombination }: Ground): boolean =>
  before.generation.masters !== mastersMovedAt || combinationsBehind(db, lastCombination).length > 0;

const listed = (findings: IssueList): FindingList => ({
  shown: findings.shown,
  errors: findings.errors,
  countByCode: [...findings.countByCode],
});

class PackageImport {
  readonly findings = new IssueList(FINDINGS_SHOWN);
  private readonly paths: ReadonlySet<string>;
  private readonly known = new Map<string, Set<string>>();
  private readonly tables = new Map<ResourceSpec, TableRow[]>();
  /** Combinations that the books have or, under the ids that they will have, the delivery brings. */
  private combinations = new Map<string, number>();
  private stagedJournals: StagedJournals | undefined;
  private stagedFigures: StagedFigures | undefined;
  private journals: JournalStore | undefined;
  private bytesBefore = 0;
  private readonly bytesTotal: number;

  constructor(
    private readonly request: ImportRequest,
    private readonly started: Date,
  ) {
    this.paths = new Set(request.source.files.map((file) => file.path));
    this.bytesTotal = request.source.files.reduce((total, file) => total + file.bytes, 0);
  }

  private readonly report = (found: Issue): void => this.findings.add(found);

  /** Whether all files are there, and as the package says they are. */
  async checkFiles(): Promise<void> {
    this.reportUnknownFiles();
    await checkDescriptor(this.request.source, this.report);
  }

  /**
   * Reads the tables of master data and stores them, to be taken back: what the delivery stands on comes out of it.
   * Nothing where there is an error in them, which would only give more.
   */
  async tryTables(write: Write): Promise<Ground | undefined> {
    const { em, db, before } = write;
    const combinations = new Map(combinationsBehind(db, 0).map(({ id, parts }) => [parts, id]));
    // as they stood before the delivery
    const closed = await closedIds(em);
    for (const resource of RESOURCES) await this.readTable(write, resource);
    if (this.findings.errors > 0) return undefined;
    await checkMasters(em, this.report);
    return {
      ...{ closed, combinations, masters: await readPostingMasters(em), mastersMovedAt: before.generation.masters },
      lastCombination: Math.max(0, ...combinations.values()),
      lineTable: statementOfLines(db),
    };
  }

  /** Reads journals and figures, checks them, and sets them aside. */
  async setAside(db: Connection, ground: Ground): Promise<void> {
    // a delivery sorts and indexes more than any other write
    db.pragma('cache_size = -300000');
    db.pragma('temp.cache_size = -100000');
    this.combinations = new Map(ground.combinations);
    this.nextCombination = ground.lastCombination + 1;
    if (this.paths.has(JOURNALS_FILE)) await this.readJournals(db, ground);
    if (this.paths.has(FIGURES_FILE)) await this.readFigures(db, postingContext(ground.masters));
  }

  /** Brings all of it into the books. */
  async settle(write: Write, { masters, closed, lastCombination }: Ground): Promise<ImportCounts> {
    const documents = new PackageDocuments(write, this.request.source, this.report);
    await documents.readSettings();
    const stored: Record<string, MasterCounts> = {};
    for (const [resource, rows] of this.tables) {
      stored[resource.name] = await storeMasterRows(write, resource, rows);
      if (resource.name === 'attachments')
        await keepAttachments(write.em, this.request.source, resource, rows, this.report);
    }
    for (const [parts, id] of this.combinations) if (id > lastCombination) addCombination(write.db, id, parts);
    const counts: ImportCounts = { ...NONE, masters: stored };
    if (this.stagedJournals) {
      const entities = new Map(masters.entities.map((row) => [row.id, entityFacts(row)]));
      const { replacesChanged = false, isComplete = false } = this.request;
      const policy = { replacesChanged, isComplete, closed };
      const entityOf = (id: number) => entities.get(id)!;
      this.journals = new JournalStore(write, this.stagedJournals, entityOf, policy, this.report);
      Object.assign(counts, this.journals.settle());
    }
    const changed = Object.keys(stored).filter((name) => stored[name]!.added + stored[name]!.changed > 0);
    remapLines(write, changed, postingContext(masters), closed, this.report);
    Object.assign(counts, this.stagedFigures?.settle(write));
    counts.documents = await documents.readDocuments();
    const { mapping } = this.request;
    if (mapping) await storeDocument(write, 'mapping', mapping.id, mapping);
    return counts;
  }

  /** What the delivery changes in the books. */
  effect({ db, revision }: Write): DeliveryEffect {
    const books = this.journals ? deliveryEffect(db, this.journals.firstNew) : { months: [], accounts: [] };
    return { ...books, figures: figureEffect(db, revision) };
  }

  close(): void {
    this.journals?.close();
  }

  /** Notes the delivery itself; returns its id. */
  async record({ em, revision }: Write, counts: ImportCounts): Promise<number> {
    const { fileName, digest, person, now } = this.request;
    const run = em.create(ImportRun, {
      ...{ revision, fileName, digest, person, counts, undone: null },
      startedAt: this.started.toISOString(),
      finishedAt: now().toISOString(),
    });
    await em.flush();
    return run.id;
  }

  private reportUnknownFiles(): void {
    const expected = new Set([
      ...JSON_FILES,
      JOURNALS_FILE,
      FIGURES_FILE,
      ...RESOURCES.map((resource) => resource.file),
    ]);
    for (const path of this.paths) {
      if (!expected.has(path) && !isDocumentPath(path) && !isAttachmentPath(path))
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
    await this.request.source.rows(
      file,
      { ...sink, pause: (bytes) => this.follow(file, rowsSoFar(), bytes) },
      this.report,
    );
    this.bytesBefore += this.bytesOf(file);
  }

  private follow(file: string, rows: number, bytes: number): void {
    const { isCancelled, onProgress } = this.request;
    if (isCancelled()) throw new Cancelled();
    onProgress({ file, rows, bytesRead: this.bytesBefore + bytes, bytesTotal: this.bytesTotal });
  }

  private bytesOf(file: string): number {
    return this.request.source.files.find(({ path }) => path === file)?.bytes ?? 0;
  }

  private async readTable(write: Write, resource: ResourceSpec): Promise<void> {
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
      await checkAgainstBooks(write, resource, rows, this.report);
      if (resource.name === 'attachments')
        await keepAttachments(write.em, this.request.source, resource, rows, this.report);
      await storeMasterRows(write, resource, rows);
      this.tables.set(resource, rows);
    }
    const firstKey = resource.key[0]!;
    const held = await currentRows(write.em, resource);
    this.known.set(resource.name, new Set(held.map((row) => String(row[firstKey]))));
  }

  private readonly combinationId = (parts: string): number => {
    const held = this.combinations.get(parts);
    if (held !== undefined) return held;
    const id = this.nextCombination++;
    this.combinations.set(parts, id);
    return id;
  };
  private nextCombination = 1;

  private async readJournals(db: Connection, { masters, lineTable }: Ground): Promise<void> {
    const { source, threadFromBytes = THREAD_FROM_BYTES, journalsHeld } = this.request;
    const staged = new StagedJournals(db, lineTable, this.combinationId);
    this.stagedJournals = staged;
    const sink: JournalSink = {
      batch: (batch) => staged.take(batch),
      finding: this.report,
      refused: (journal) => staged.noteRefused(journal),
      progress: (rows, bytes) => this.follow(JOURNALS_FILE, rows, bytes),
    };
    const bytes = this.bytesOf(JOURNALS_FILE);
    const isApart = source.location !== undefined && bytes >= threadFromBytes;
    const read = isApart
      ? await readJournalsInThread(source.location!, masters, sink)
      : await readJournals(source, masters, sink, journalsHeld);
    this.bytesBefore += bytes;
    const codes = new Map(masters.entities.map(({ id, code }) => [id, String(code)]));
    staged.finish(read, this.report, (id) => codes.get(id)!);
  }

  private async readFigures(db: Connection, context: PostingContext): Promise<void> {
    const reader = new FigureRowReader(context, this.report);
    const staged = new StagedFigures(db);
    this.stagedFigures = staged;
    let read = 0;
    await this.stream(
      FIGURES_FILE,
      {
        header: (names) => reader.open(names),
        row: (fields, line) => {
          read++;
          const row = reader.read(fields, line);
          if (row) staged.add(row, this.combinationId(row.combination), line);
        },
      },
      () => read,
    );
    staged.finish(this.report);
  }
}

const NONE: Omit<ImportCounts, 'masters'> = {
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

const entityFacts = (row: PackageRow): EntityFacts => {
  const currency = String(row['currency']);
  return { code: String(row['code']), currency, digits: digitsOf(currency) };
};
