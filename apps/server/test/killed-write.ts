// Runs one write of the server on a workspace file and ends its own process, as a power cut would, inside the
// transaction: after the given number of statements that write. Without a number it says how many there are.
import Database from 'better-sqlite3';
import { importPackage } from '../src/features/imports/import-package';
import { openPackage } from '../src/features/imports/package-source';
import { LOCAL_PERSON } from '../src/store/people';
import { Store } from '../src/store/store';
import { undoImport } from '../src/store/undo-import';

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

async function bringIn(store: Store): Promise<void> {
  const source = await openPackage(folder);
  await importPackage(store, {
    source,
    fileName: 'delivery',
    digest: await source.digest(),
    person: LOCAL_PERSON,
    onProgress: () => undefined,
    isCancelled: () => false,
    now: () => new Date(),
  });
  source.close();
}

const store = await Store.open(file);
writes = 0;
if (what === 'import') await bringIn(store);
else await store.write(LOCAL_PERSON, { kind: 'undo_import', subject: 'delivery' }, (write) => undoImport(write, 2));
await store.close();
console.log(writes);
