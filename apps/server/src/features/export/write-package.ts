import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, readdir, rename, rm, rmdir } from 'node:fs/promises';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import yazl from 'yazl';
import type { WrittenFile } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { Store } from '../../store/store';
import type { PackageFile } from './package-file';
import { packageContent } from './package-files';

/** Writes a file of a package; its size and hash as it was written. */
async function writeFile(folder: string, file: PackageFile): Promise<WrittenFile> {
  const target = path.join(folder, file.path);
  await mkdir(path.dirname(target), { recursive: true });
  const hash = createHash('sha256');
  let bytes = 0;
  const pieces = async function* () {
    for await (const part of file.text()) {
      const piece = Buffer.from(part as string);
      hash.update(piece);
      bytes += piece.length;
      yield piece;
    }
  };
  await pipeline(Readable.from(pieces()), createWriteStream(target));
  return { path: file.path, bytes, sha256: hash.digest('hex') };
}

async function writeFiles(databaseFile: string, folder: string): Promise<string[]> {
  const store = await Store.open(databaseFile);
  const moment = (await store.moment())!;
  try {
    const { files, describe } = await packageContent(moment);
    const written: WrittenFile[] = [];
    for (const file of files) written.push(await writeFile(folder, file));
    // last, since it proves the others
    const descriptor = await writeFile(folder, describe(written));
    return [descriptor, ...written].map((file) => file.path);
  } finally {
    await moment.close();
    await store.close();
  }
}

/**
 * Writes the workspace as a ledger package into a folder, which is made where it is missing: beside it first, so that
 * one that was cut off never bears the name.
 * @throws SRV_EXPORT_NOT_EMPTY when there is anything in the folder
 */
export async function writePackage(databaseFile: string, folder: string): Promise<string[]> {
  const found = await readdir(folder).catch(() => undefined);
  if (found && found.length > 0) throw appError('SRV_EXPORT_NOT_EMPTY', { folder });
  const target = path.resolve(folder);
  const beside = `${target}.${process.pid}.part`;
  await rm(beside, { recursive: true, force: true });
  await mkdir(beside, { recursive: true });
  try {
    const files = await writeFiles(databaseFile, beside);
    if (found) await rmdir(target);
    await rename(beside, target);
    return files;
  } finally {
    await rm(beside, { recursive: true, force: true });
  }
}

/** Writes the workspace as a zipped ledger package; `folder` is a place of its own for what is made on the way. */
export async function writeZip(databaseFile: string, folder: string, target: string): Promise<void> {
  const files = await writePackage(databaseFile, folder);
  const zip = new yazl.ZipFile();
  for (const file of files) zip.addFile(path.join(folder, file), file);
  zip.end();
  await pipeline(zip.outputStream, createWriteStream(target));
}
