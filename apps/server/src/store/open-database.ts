import { mkdirSync } from 'node:fs';
import path from 'node:path';
import { defineConfig, MikroORM } from '@mikro-orm/better-sqlite';
import { Migrator } from '@mikro-orm/migrations';
import { MIGRATIONS } from './migrations/index';
import { databaseError } from './database-error';
import { TABLES } from './tables';

const ormConfig = (dbName: string) =>
  defineConfig({
    dbName,
    entities: TABLES,
    extensions: [Migrator],
    migrations: { migrationsList: MIGRATIONS, snapshot: false, disableForeignKeys: false, silent: true },
    // the index of words, the drafts and their steps, which no entity describes
    schemaGenerator: { skipTables: [/^line_words/, 'search_state', 'draft', 'step'] },
    metadataCache: { enabled: false },
    // connected below, so that a file that cannot be opened is let go of
    connect: false,
  });

/**
 * Opens a workspace file, making it and bringing its tables up to date where needed. One file is one workspace.
 * @throws SRV_DISK_FULL and SRV_DATABASE_… with the cause in plain words; nothing stays open then
 */
export async function openDatabase(file: string): Promise<MikroORM> {
  let orm: MikroORM | undefined;
  try {
    if (file !== ':memory:') mkdirSync(path.dirname(path.resolve(file)), { recursive: true });
    orm = await MikroORM.init(ormConfig(file));
    await orm.connect();
    const connection = orm.em.getConnection();
    await connection.execute('PRAGMA journal_mode = WAL');
    await connection.execute('PRAGMA synchronous = FULL');
    await connection.execute('PRAGMA busy_timeout = 5000');
    await connection.execute('PRAGMA cache_size = -65536');
    await orm.getMigrator().up();
    return orm;
  } catch (error) {
    await orm?.close(true);
    throw databaseError(error, file) ?? error;
  }
}
