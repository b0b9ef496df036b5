// Runs one write of the server on a workspace file and ends its own process, as a power cut would, inside the
// transaction: after the given number of statements that write. Without a number it says how many there are.
import Database from 'better-sqlite3';
import { openConnection } from '../src/store/open-connection';
import { importPackage } from '../src/features/imports/import-package';
import { openPackage } from '../src/features/imports/package-source';
import { undoImport } from '../src/store/undo-import';
import { LOCAL_VIEWER } from '../src/base/viewer';

const [what, file, folder, killAfter = 'never'] = process.argv.slice(2) as [string, string, string, string?];

let writes = 0;
const statement = Object.getPrototypeOf(new Database(':memory:').prepare('select 1')) as {
  run(...parameters: unknown[]): unknown;
};
const { run } = statement;
statement.run = function (this: Database.Statement, ...parameters) {
  const result = run.apply(this, parameters);
  if (this.database.inTransaction && ++writes === Number(killAfter)) process.kill(process.pid, 'SIGKILL');
  return result;
};

async function bringIn(): Promise<void> {
  const source = await openPackage(folder);
  const db = openConnection(file);
  await importPackage(db, {
    source,
    fileName: 'delivery',
    digest: await source.digest(),
    person: 'Tester',
    onProgress: () => undefined,
    isCancelled: () => false,
    now: () => new Date(),
  });
  db.close();
  source.close();
}

if (what === 'import') await bringIn();
else undoImport(file, LOCAL_VIEWER, 2);
console.log(writes);
