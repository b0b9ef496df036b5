import { mkdirSync } from 'node:fs';
import path from 'node:path';
import { defineConfig, MikroORM, type Options } from '@mikro-orm/better-sqlite';
import type Database from 'better-sqlite3';
import { databaseError } from './database-error';
import { MIGRATION_NAMES } from './migrations/names';
import { TABLES } from './tables';

/** Connections at most: one that writes, and one for each request that reads at a moment of its own. */
const CONNECTIONS = 32; // 2 to 100

/** What every connection is told. Nothing ever waits inside SQLite for another one: that would hold the thread up. */
export function prepare(db: Database.Database): void {
  db.pragma('journal_mode = WAL');
  db.pragma('synchronous = FULL');
  db.pragma('busy_timeout = 0');
  db.pragma('cache_size = -32768');
  db.pragma('temp_store = FILE');
}

/** How the library is set up for a workspace file, also by who brings its tables up to date. */
export const ormConfig = (dbName: string): Options =>
  defineConfig({
    dbName,
    entities: TABLES,
    // the index of words, which no entity describes
    schemaGenerator: { skipTables: [/^line_words/, 'search_state'] },
    metadataCache: { enabled: false },
    // connected below, so that a file that cannot be opened is let go of
    connect: false,
    pool: {
      min: 0,
      // what is in memory is one connection's own
      max: dbName === ':memory:' ? 1 : CONNECTIONS,
      afterCreate: (db: unknown, done: (error: Error | null, db: unknown) => void) => {
        try {
          prepare(db as Database.Database);
          done(null, db);
        } catch (error) {
          done(error as Error, db);
        }
      },
    },
  });

/** Whether migrations are missing in a file; a file of a later version has more than we know. */
async function isBehind(orm: MikroORM): Promise<boolean> {
  const tables = "select 1 from sqlite_master where name = 'mikro_orm_migrations'";
  if ((await orm.em.execute(tables)).length === 0) return true;
  const done = await orm.em.execute<{ name: string }[]>('select name from mikro_orm_migrations');
  const names = new Set(done.map(({ name }) => name));
  return MIGRATION_NAMES.some((name) => !names.has(name));
}

/**
 * Opens a workspace file, making it and bringing its tables up to date where needed. One file is one workspace.
 * @throws SRV_DISK_FULL and SRV_DATABASE_… with the cause in plain words; nothing stays open then
 */
export async function openOrm(file: string): Promise<MikroORM> {
  let orm: MikroORM | undefined;
  try {
    if (file !== ':memory:') mkdirSync(path.dirname(path.resolve(file)), { recursive: true });
    orm = await MikroORM.init(ormConfig(file));
    await orm.connect();
    if (await isBehind(orm)) {
      await orm.close(true);
      // loaded where it is needed: most files are up to date
      const { migrated } = await import('./migrate');
      orm = await migrated(ormConfig(file));
    }
    return orm;
  } catch (error) {
    await orm?.close(true);
    throw databaseError(error, file) ?? error;
  }
}
