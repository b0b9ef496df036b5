import { MikroORM } from '@mikro-orm/better-sqlite';
import Database from 'better-sqlite3';
import { askingVersions } from '../../test/asking-versions';
import { servedApp } from '../../test/served-app';
import { query } from '../../test/tiny-package';
import { databaseError } from './database-error';
import { ormConfig } from './open-orm';

/** What a connection is told before it writes, by which SQLite itself fails as it would on a disk. */
let limits = '';
jest.mock('./take-lock', () => {
  const actual = jest.requireActual<typeof import('./take-lock')>('./take-lock');
  return {
    ...actual,
    takeLock: (db: Database.Database): void => {
      db.exec(limits === '' ? LIMITLESS : limits);
      actual.takeLock(db);
    },
  };
});
const LIMITLESS = 'pragma query_only = 0; pragma max_page_count = 1073741823';

const { served, ask } = servedApp();
const { make } = askingVersions(ask);
let logged: unknown[];
beforeEach(() => {
  logged = [];
  served.app.log.error = (error: unknown) => void logged.push(error);
});
afterEach(() => (limits = ''));

const write = () => make({ kind: 'plan', cutOver: '' }) as Promise<{ status: number; body: Refusal }>;
type Refusal = { code: string; message: string; hint: string };
/** More rows than any page holds. */
const ROWS_OF_A_PAGE = 200;
const versions = () => query(served.databaseFile, 'select code from version where until is null').length;

describe('a write that the disk or the file refuses', () => {
  it.each([
    ['a full disk', 'pragma max_page_count = 1', 'SRV_DISK_FULL', 'The disk is full.'],
    [
      'a file that may only be read',
      'pragma query_only = 1',
      'SRV_DATABASE_READ_ONLY',
      'Nothing can be written: the workspace file may only be read.',
    ],
  ])('says so of %s, with a remedy, and changes nothing', async (_, sql, code, message) => {
    limits = sql;
    // a full disk still has room in the pages that are there
    let before = versions();
    let reply = await write();
    for (; reply.status === 200 && before < ROWS_OF_A_PAGE; reply = await write()) before = versions();
    const { status, body } = reply;
    expect([status, body.code, body.message]).toEqual([503, code, message]);
    expect(body.hint).toContain('Nothing was changed.');
    expect(versions()).toBe(before);
    limits = '';
    expect((await write()).status).toBe(200);
  });

  it('says so of a file that someone else is writing, and works again when they are done', async () => {
    const other = new Database(served.databaseFile);
    other.exec('begin immediate');
    let turns = 0;
    const turning = setInterval(() => turns++, 20);
    const { status, body } = await write();
    clearInterval(turning);
    // the server went on with other work while the write waited
    expect(turns).toBeGreaterThan(10);
    expect([status, body.code]).toEqual([503, 'SRV_DATABASE_BUSY']);
    other.exec('rollback');
    other.close();
    expect((await write()).status).toBe(200);
  });

  it('always logs the cause', async () => {
    limits = 'pragma query_only = 1';
    await write();
    expect(logged.map((error) => (error as { code?: string }).code)).toEqual(['SQLITE_READONLY']);
  });
});

describe('more requests at once than there are connections', () => {
  it('are told so when none was let go of in time', async () => {
    const config = ormConfig(':memory:');
    const orm = await MikroORM.init({ ...config, pool: { ...config.pool, acquireTimeoutMillis: 20 } });
    const [first, second] = [orm.em.fork(), orm.em.fork()];
    await first.begin();
    const error = await second.begin().catch((thrown: unknown) => thrown);
    expect(databaseError(error)).toMatchObject({ code: 'SRV_TOO_MANY_AT_ONCE', status: 503 });
    await first.rollback();
    await orm.close(true);
  });
});
