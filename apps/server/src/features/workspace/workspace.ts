import type { EntityManager } from '@mikro-orm/better-sqlite';
import {
  ACTUAL_ID,
  Books,
  CashBalances,
  type Balances,
  type CashSource,
  type DerivedCash,
  DatedAmounts,
  KeptBooks,
  type RateTable,
  partsKey,
  type Generation,
  type Part,
  DOCUMENT_KINDS,
  readsLines,
  workingDaysOf,
  type LineDetail,
  type LineSource,
  type ScopeEntity,
  USUAL_STYLE,
} from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { endIfStopped } from '../../base/stop';
import { Turns } from '../../base/turns';
import { sightOf, type Right, type Viewer } from '../../base/viewer';
import { CubeKeeper } from '../../store/cube-keeper';
import { currentDocuments } from '../../store/documents';
import type { AskedLines } from '../../store/line-keeper';
import { datedAmounts } from '../../store/dated-amounts';
import { rateTable } from '../../store/rates';
import { LOCAL_PERSON } from '../../store/people';
import { ReadingThread } from '../../store/reading-thread';
import type { Act } from '../../store/revision';
import { SearchIndex } from '../../store/search-index';
import type { Moment, Store, Transaction, Withdrawn, Write } from '../../store/store';
import { accountsForCash, askedCash } from './cash-accounts';
import { CompletionReader } from './completion-reader';
import { daysOffOf, NONE_OFF } from './days-off';
import { FiguresThread } from './figures-thread';
import { readGroups } from './read-in-turns';
import { Snapshot, type OpenBooks } from './snapshot';
import {
  readDocuments,
  readMasters,
  readStructure,
  WorkspaceModel,
  type Documents,
  type Masters,
  type Structure,
} from './workspace-model';

/** A snapshot that is to be closed by who opened it. */
export type OpenedSnapshot = Snapshot & Pick<Moment, 'close'>;

/** A write under way, with the workspace as it stands before it. */
export interface WorkspaceWrite extends Write {
  snapshot: Snapshot;
}

type BooksMoment = Pick<Moment, 'db' | 'revision' | 'generation'>;

/** Moments of some parts that are kept ready: the latest, and those before it that requests may still read. */
const MOMENTS_KEPT = 3; // 2 to 10

/** Keeps what is made from some parts of the workspace for as long as they do not move. */
class Kept<T> {
  private readonly held = new Map<string, T>();
  private readonly parts: readonly Part[];

  constructor(...parts: readonly Part[]) {
    this.parts = parts;
  }

  at(generation: Generation, make: () => T): T {
    const key = partsKey(generation, this.parts);
    const known = this.held.get(key);
    if (known) return known;
    const made = make();
    this.held.set(key, made);
    if (made instanceof Promise) made.catch(() => this.held.delete(key));
    if (this.held.size > MOMENTS_KEPT) this.held.delete(this.held.keys().next().value!);
    return made;
  }
}

/** The one door to a workspace: it is read at a moment, and written one person's action at a time. */
export class Workspace {
  private readonly masters = new Kept<Promise<Masters>>('masters');
  private readonly documents = new Kept<Promise<Documents>>('documents');
  private readonly structures = new Kept<Promise<Structure>>('ownership');
  private readonly rates = new Kept<Promise<RateTable>>('rates', 'masters');
  private readonly dated = new Kept<DatedAmounts>('ledger', 'masters', 'rates');
  private readonly frozenRates = new Map<string, RateTable>();
  private readonly models = new Kept<Promise<WorkspaceModel>>('masters', 'documents', 'ownership');
  private readonly books = new Kept<{ accrual: KeptBooks; cash: KeptBooks }>('masters');
  /** Of requests: those that came at once are begun one after the other, and so are the figures that they ask for. */
  readonly turns = new Turns();
  private indexedAt: number | undefined;

  /** For queries that read many rows. */
  readonly reading: ReadingThread;
  readonly search: SearchIndex;
  readonly cubes: CubeKeeper;
  /** For figures that take long. */
  readonly figures: FiguresThread;
  private readonly completions: CompletionReader;

  /** @param answeredAtOnce lines and figures up to which no thread answers for figures; see there */
  constructor(
    private readonly store: Store,
    answeredAtOnce?: number,
  ) {
    this.reading = new ReadingThread(store.file);
    this.search = new SearchIndex(store.file, this.reading);
    this.cubes = new CubeKeeper(store.file);
    this.figures = new FiguresThread(store.file, this.cubes, answeredAtOnce);
    this.completions = new CompletionReader(this.cubes.texts);
  }

  /** Keeps the index of words behind the ledger; one process a workspace does so. */
  keepIndexed(): void {
    this.indexedAt = -1;
  }

  /** Has books opened before anybody asks for a figure, and then those of the thread, which finds what was kept of them. */
  async warm(): Promise<void> {
    await this.read(await this.viewer(LOCAL_PERSON), async (snapshot) => {
      await readGroups(snapshot);
      await this.figures.warm(snapshot);
    });
  }

  async close(): Promise<void> {
    await Promise.all([this.search, this.reading, this.figures, this.cubes].map((each) => each.close()));
    await this.store.close();
  }

  /** A person as who asks. @throws SRV_PERSON_UNKNOWN */
  async viewer(id: string): Promise<Viewer> {
    const person = await this.store.person(id);
    if (!person) throw appError('SRV_PERSON_UNKNOWN', { id });
    const { name, rights, entities, values, style } = person;
    return {
      ...{ id, name, style: style ?? USUAL_STYLE },
      rights: rights === 'all' ? rights : new Set(rights as Right[]),
      entities: entities === 'all' ? entities : new Set(entities),
      values: new Map(Object.entries(values).map(([dimension, held]) => [dimension, new Set(held)])),
    };
  }

  /**
   * The workspace for a viewer as it is now, or as it was at an earlier revision; to be closed.
   * @throws SRV_REVISION_UNKNOWN
   */
  async at(viewer: Viewer, asOf?: number): Promise<OpenedSnapshot> {
    const moment = await this.store.moment(asOf);
    try {
      if (!moment) throw appError('SRV_REVISION_UNKNOWN', { revision: asOf! });
      const { generation, em } = moment;
      if (asOf === undefined) this.index(generation);
      const model = await this.modelAt(em, generation, asOf);
      const opened: OpenBooks = {
        books: () => this.booksAt(moment, model, viewer),
        inDetail: (...asked) => this.inDetail(moment, model, ...asked),
        prepareCash: (entities) => this.prepareCash(moment, model, entities),
        matching: (rules) => this.completions.matching(moment, model, rules),
      };
      return Object.assign(new Snapshot(viewer, moment, model, opened), { close: moment.close });
    } catch (error) {
      await moment?.close();
      throw error;
    }
  }

  /** Reads at the moment of now, or as it was at an earlier revision, and closes it. @throws SRV_REVISION_UNKNOWN */
  async read<T>(viewer: Viewer, work: (snapshot: Snapshot) => T | Promise<T>, asOf?: number): Promise<T> {
    const snapshot = await this.at(viewer, asOf);
    try {
      return await work(snapshot);
    } finally {
      await snapshot.close();
    }
  }

  /**
   * Does what one action of a person does, as one revision in one transaction; an error takes all of it back, and so does
   * a work that gives `withdrawn(…)`. What it stands on is read inside the transaction, where nobody else can move it.
   */
  write<T>(viewer: Viewer, act: Act, work: (write: WorkspaceWrite) => Promise<T | Withdrawn<T>>): Promise<T> {
    return this.store.write(viewer.id, act, async (write) => {
      const { generation, revision } = write.before;
      const model = await this.modelAt(write.em, generation);
      const before = { ...write, revision, newest: revision, generation };
      const snapshot = new Snapshot(viewer, before, model, {
        books: () => this.booksBefore(model, viewer),
        inDetail: (...asked) => this.inDetail(before, model, ...asked),
        prepareCash: (entities) => this.prepareCash(before, model, entities),
        matching: (rules) => this.completions.matching(before, model, rules),
      });
      return work({ ...write, snapshot });
    });
  }

  /** Writes what is a person's own and no revision of the workspace. */
  aside<T>(work: (transaction: Transaction) => Promise<T>): Promise<T> {
    return this.store.aside(work);
  }

  private async booksAt(moment: Moment, model: WorkspaceModel, viewer: Viewer): Promise<Books> {
    const { em, db, revision, newest, generation } = moment;
    const asOf = revision === newest ? undefined : revision;
    const rates = await this.ratesAt(em, model, generation, asOf);
    const cube = await this.cubes.at({ db, revision: newest });
    const frozen = model.versions.flatMap(({ settings }) => settings.frozenAt ?? []);
    await this.cubes.prepare(db, cube, [revision, ...frozen]);
    const earlier = new Map<number | undefined, RateTable>();
    for (const at of frozen) earlier.set(at, await this.ratesOfRevision(em, model, at));
    const ratesAt = (at?: number) => earlier.get(at) ?? rates;
    // many may have come at once, or waited for the same cube: the server answers others between them
    await this.turns.next();
    endIfStopped();
    const cubeAt = (at = revision) => {
      // whatever is read begins here
      endIfStopped();
      return at === newest ? cube : this.cubes.before(db, cube, at);
    };
    const { combinations } = this.cubes;
    const { ownership } = generation;
    const dated = this.dated.at(generation, () => new DatedAmounts(rates.hasSpot ? datedAmounts(db, revision) : []));
    const balances: Balances = {
      ...{ combinations, cubeAt, ratesAt, dated, stated: model.stated, layers: model.layers, ownership },
    };
    const kept = this.books.at(generation, () => ({ accrual: new KeptBooks(), cash: new KeptBooks() }));
    const sight = sightOf(viewer);
    const cash = new CashBalances(balances, this.cashSource(moment, model, balances));
    const onCash = new Books(model, cash, kept.cash, sight, { cash });
    const books = new Books(model, balances, kept.accrual, sight, { onCash: () => onCash });
    return this.completions.complete(books, moment, model, frozen);
  }

  /** Where the cash basis is derived from, at the moment or at a revision that a locked version reads. */
  private cashSource(moment: BooksMoment, model: WorkspaceModel, { cubeAt }: Balances): CashSource {
    const { db, revision } = moment;
    const { lines, cash } = this.cubes;
    const accounts = accountsForCash(model);
    return {
      ledgerAt: moment.generation.ledger,
      derivedOf: (entity, at = revision) => cash.derived(db, askedCash(moment, entity, at), accounts),
      linesOf: (entity, account, at = revision) =>
        lines.lines(db, { entity, account, revision: at, moved: cubeAt(at).movedAt(ACTUAL_ID, entity) }),
    };
  }

  /** Has ready what the cash basis of entities moves, by their ids. */
  private async prepareCash(
    moment: BooksMoment,
    model: WorkspaceModel,
    entities: readonly number[],
  ): Promise<(entity: number) => DerivedCash> {
    const { cash } = this.cubes;
    const accounts = accountsForCash(model);
    const asked = (entity: number) => askedCash(moment, entity, moment.revision);
    await cash.prepare(entities.map(asked), accounts);
    return (entity) => cash.derived(moment.db, asked(entity), accounts);
  }

  /** Has the lines ready that a detail of books is read from. */
  private async inDetail(
    { db, revision, generation }: BooksMoment,
    model: WorkspaceModel,
    books: Books,
    detail: LineDetail,
    entities: readonly ScopeEntity[],
  ): Promise<Books> {
    const { lines } = this.cubes;
    const asked = (entity: number, account: number, at = revision): AskedLines => ({
      ...{ entity, account, revision: at, moved: books.balances.cubeAt(at).movedAt(ACTUAL_ID, entity) },
    });
    const accounts = [...detail.accounts].map((number) => model.accountIds.get(number)!);
    if (readsLines(detail)) await lines.prepare(entities.flatMap(({ id }) => accounts.map((each) => asked(id, each))));
    const daysOff = detail.fields.includes('posting_day') ? await daysOffOf(entities, model) : new Map();
    const source: LineSource = {
      linesOf: (entity, account, at) => lines.lines(db, asked(entity, account, at)),
      workingDays: ({ code }, start, end) => workingDaysOf(start, end, daysOff.get(code) ?? NONE_OFF),
    };
    return books.inDetail(detail, model.entities, source, generation.rates);
  }

  /** The books that a write stands on: nothing of what it has written itself is in them. */
  private async booksBefore(model: WorkspaceModel, viewer: Viewer): Promise<Books> {
    const moment = (await this.store.moment())!;
    try {
      return await this.booksAt(moment, model, viewer);
    } finally {
      await moment.close();
    }
  }

  private ratesAt(
    em: EntityManager,
    { settings }: WorkspaceModel,
    generation: Generation,
    asOf?: number,
  ): Promise<RateTable> {
    return this.rates.at(generation, () => rateTable(em, settings?.reporting_currency ?? '', asOf));
  }

  /** Rates as a locked version reads them: what held at a revision stays so. */
  private async ratesOfRevision(em: EntityManager, { settings }: WorkspaceModel, revision: number): Promise<RateTable> {
    const reporting = settings?.reporting_currency ?? '';
    const key = `${reporting}|${revision}`;
    const table = this.frozenRates.get(key) ?? (await rateTable(em, reporting, revision));
    this.frozenRates.set(key, table);
    return table;
  }

  private modelAt(em: EntityManager, generation: Generation, asOf?: number): Promise<WorkspaceModel> {
    return this.models.at(generation, async () => {
      const masters = await this.masters.at(generation, () => readMasters(em, asOf));
      const documents = await this.documents.at(generation, async () =>
        readDocuments(await currentDocuments(em, DOCUMENT_KINDS, asOf)),
      );
      const structure = await this.structures.at(generation, () => readStructure(em, asOf));
      return new WorkspaceModel(masters, documents, structure);
    });
  }

  private index({ ledger }: Generation): void {
    if (this.indexedAt === undefined || this.indexedAt === ledger) return;
    this.indexedAt = ledger;
    this.search.catchUp().catch(console.error);
  }
}
