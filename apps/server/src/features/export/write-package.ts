import { createWriteStream } from 'node:fs';
import { mkdir, readdir } from 'node:fs/promises';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import Database from 'better-sqlite3';
import yazl from 'yazl';
import { appError } from '../../app-error';
import { packageFiles } from './package-files';

/** A connection that sees the workspace as it is at this moment, whatever is written meanwhile. */
function openSnapshot(databaseFile: string): Database.Database {
  const db = new Database(databaseFile, { readonly: true });
  db.pragma('busy_timeout = 5000');
  db.exec('begin');
  return db;
}

/**
 * Writes the workspace as a ledger package into a folder, which is made where it is missing.
 * @throws SRV_EXPORT_NOT_EMPTY when there is anything in the folder
 */
export async function writePackage(databaseFile: string, folder: string): Promise<string[]> {
  await mkdir(folder, { recursive: true });
  if ((await readdir(folder)).length > 0) throw appError('SRV_EXPORT_NOT_EMPTY', { folder });
  const db = openSnapshot(databaseFile);
  try {
    const files = packageFiles(db);
    for (const file of files) {
      const target = path.join(folder, file.path);
      await mkdir(path.dirname(target), { recursive: true });
      await pipeline(Readable.from(file.text()), createWriteStream(target));
    }
    return files.map((file) => file.path);
  } finally {
    db.close();
  }
}

/** The workspace as a zipped ledger package, as a stream. */
export function zipPackage(databaseFile: string): Readable {
  const db = openSnapshot(databaseFile);
  const zip = new yazl.ZipFile();
  for (const file of packageFiles(db)) zip.addReadStream(Readable.from(file.text()), file.path);
  zip.end();
  const stream = zip.outputStream as unknown as Readable;
  stream.once('close', () => db.close());
  return stream;
}
