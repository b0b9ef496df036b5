import { setTimeout as delay } from 'node:timers/promises';
import type { EntityManager, MikroORM } from '@mikro-orm/better-sqlite';
import type Database from 'better-sqlite3';
import { FIRST_GENERATION, movedTo, type Generation, type Part } from '@margin-lens/core';
import { OneByOne } from '../base/one-by-one';
import { openOrm } from './open-orm';
import { findPerson } from './people';
import type { Act } from './revision';
import { RevisionRow, type Person } from './tables';
import { Locked, takeLock } from './take-lock';

/** How long a write waits for another process or thread that writes, one that was prepared for, and how long between two looks. */
const WAIT_MS = 1_500; // 100 to 1,900: a write answers within two seconds
const PREPARED_WAIT_MS = 60_000; // 5,000 to 600,000
const LOOK_MS = 20;

/** A connection to the workspace file, for the bulk paths of the store. */
export type Connection = Database.Database;

/** A transaction: records by its entity manager, bulk paths by its connection. */
export interface Transaction {
  em: EntityManager;
  db: Connection;
}

/** The workspace at one moment. Whatever is read through it is of that moment, until it is closed. */
export interface Moment extends Transaction {
  /** 0 when nothing was ever written. */
  revision: number;
  /** The latest revision that the connection sees: the one that is read, unless that is an earlier one. */
  newest: number;
  generation: Generation;
  close(): Promise<void>;
}

/** A write under way: one revision, one transaction. */
export interface Write extends Transaction {
  revision: number;
  /** The moment before it. */
  before: Pick<Moment, 'revision' | 'generation'>;
  /** Parts that it has moved; whatever writes rows adds to them. */
  touches: Set<Part>;
  /** Says what the write is about once that is known: what is found inside its transaction is not asked for before it. */
  describe(found: Partial<Pick<Act, 'subject' | 'details'>>): void;
}

export interface WriteOptions {
  at?: Date;
  /**
   * Sets rows aside in temporary tables of the connection, for as long as it takes: others still write meanwhile. It
   * neither reads nor writes anything else; other writes of this store wait, so whoever reads for long has a store of its own.
   */
  beforehand?: (db: Connection) => Promise<void>;
}

/** What a work gives back that found that nothing is to be written. */
export class Withdrawn<T> {
  constructor(readonly result: T) {}
}
export const withdrawn = <T>(result: T): Withdrawn<T> => new Withdrawn(result);

class RolledBack extends Error {
  constructor(readonly result: unknown) {
    super();
  }
}

/** A workspace file: read at moments, and written one person's action at a time. */
export class Store {
  private readonly writes = new OneByOne();
  /** Moments that are being read. */
  private readonly moments = new Set<Pick<Moment, 'close'>>();

  private constructor(
    readonly file: string,
    private readonly orm: MikroORM,
  ) {}

  /** @throws SRV_DISK_FULL and SRV_DATABASE_… with the cause in plain words */
  static async open(file: string): Promise<Store> {
    return new Store(file, await openOrm(file));
  }

  /** Closes the file; whoever still reads a moment of it does so no more. */
  async close(): Promise<void> {
    await Promise.all([...this.moments].map((moment) => moment.close()));
    await this.orm.close(true);
  }

  person(id: string): Promise<Person | null> {
    return findPerson(this.orm.em.fork() as EntityManager, id);
  }

  /** The workspace as it is now, or what is known of an earlier revision, if there was such a one; to be closed. */
  async moment(asOf?: number): Promise<Moment | undefined> {
    const em = this.orm.em.fork() as EntityManager;
    await em.begin();
    const db = await connectionOf(em);
    const close = async () => {
      if (!this.moments.delete(open)) return;
      db.pragma('query_only = 0');
      await em.rollback();
    };
    const open = { close };
    this.moments.add(open);
    try {
      db.pragma('query_only = 1');
      // the first look fixes what is seen
      const at = generationOf(db, asOf);
      if (!at) await close();
      return at && { em, db, ...at, newest: asOf === undefined ? at.revision : generationOf(db)!.revision, close };
    } catch (error) {
      await close();
      throw error;
    }
  }

  /**
   * Does what one person's action does, as one revision in one transaction; an error takes all of it back, and so does
   * a work that gives `withdrawn(…)`.
   * @throws what the work throws; the database's own error where another writes for long, the disk is full and the like
   */
  write<T>(
    person: string,
    act: Act,
    work: (write: Write) => Promise<T | Withdrawn<T>>,
    { at = new Date(), beforehand }: WriteOptions = {},
  ): Promise<T> {
    return this.transaction(async ({ em, db }) => {
      const before = generationOf(db)!;
      const { kind, subject, details = {} } = act;
      // nobody else can take the number: the lock is ours
      const row = em.create(RevisionRow, {
        ...{ id: before.revision + 1, person, kind, subject, details, touches: [], generation: before.generation },
        at: at.toISOString(),
      });
      const describe: Write['describe'] = (found) => void em.assign(row, found);
      const write: Write = { em, db, revision: row.id, before, touches: new Set(), describe };
      const result = await work(write);
      row.touches = [...write.touches];
      row.generation = movedTo(before.generation, write.touches, row.id);
      return result;
    }, beforehand);
  }

  /** Writes what is a person's own and no revision of the workspace: drafts, steps. */
  aside<T>(work: (transaction: Transaction) => Promise<T>): Promise<T> {
    return this.transaction(work);
  }

  private transaction<T>(work: Work<T>, beforehand?: WriteOptions['beforehand']): Promise<T> {
    return this.writes.do(() => this.inTurn(work, beforehand));
  }

  /** Others that write this file are threads and processes: they are waited for outside SQLite, so that this thread goes on. */
  private async inTurn<T>(work: Work<T>, beforehand: WriteOptions['beforehand']): Promise<T> {
    try {
      return await (this.orm.em.fork() as EntityManager).transactional(async (em) => {
        const db = await connectionOf(em);
        await beforehand?.(db);
        await lockOf(db, beforehand ? PREPARED_WAIT_MS : WAIT_MS);
        const result = await work({ em, db });
        if (result instanceof Withdrawn) throw new RolledBack(result.result);
        return result;
      });
    } catch (error) {
      if (error instanceof RolledBack) return error.result as T;
      throw error;
    }
  }
}

type Work<T> = (transaction: Transaction) => Promise<T | Withdrawn<T>>;

/** Takes the lock of the writer, which may be somebody else's for a while. @throws SQLite's own error when it stays so */
async function lockOf(db: Connection, waitMs: number): Promise<void> {
  const until = Date.now() + waitMs;
  for (;;) {
    try {
      return takeLock(db);
    } catch (error) {
      if (!(error instanceof Locked)) throw error;
      if (Date.now() > until) throw error.cause;
      await delay(LOOK_MS);
    }
  }
}

/** The connection that a transaction runs on. */
async function connectionOf(em: EntityManager): Promise<Database.Database> {
  const transaction = em.getTransactionContext<{ client: { acquireConnection(): Promise<Database.Database> } }>()!;
  return transaction.client.acquireConnection();
}

/** The last revision, or an earlier one, with the moment after it; undefined where there is no such revision. */
function generationOf(db: Database.Database, asOf?: number): Pick<Moment, 'revision' | 'generation'> | undefined {
  const row = db
    .prepare('select id, generation from workspace_revision where id <= ? order by id desc limit 1')
    .get(asOf ?? Number.MAX_SAFE_INTEGER) as { id: number; generation: string } | undefined;
  if (row && (asOf === undefined || row.id === asOf))
    return { revision: row.id, generation: JSON.parse(row.generation) as Generation };
  return asOf === undefined ? { revision: 0, generation: FIRST_GENERATION } : undefined;
}
