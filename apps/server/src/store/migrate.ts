import { MikroORM, type Options } from '@mikro-orm/better-sqlite';
import { Migrator } from '@mikro-orm/migrations';
import { MIGRATIONS } from './migrations/index';

/** Opens a workspace file and brings its tables up to date. */
export async function migrated(config: Options): Promise<MikroORM> {
  const orm = await MikroORM.init({
    ...config,
    extensions: [Migrator],
    migrations: { migrationsList: MIGRATIONS, snapshot: false, disableForeignKeys: false, silent: true },
  });
  try {
    await orm.connect();
    await orm.getMigrator().up();
    return orm;
  } catch (error) {
    await orm.close(true);
    throw error;
  }
}
