import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { open as openFile, readdir, stat } from 'node:fs/promises';
import path from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import yauzl from 'yauzl';
import type { Issue } from '@margin-lens/core';
import { appError } from '../../base/app-error';
import { readCsv, type RowSink } from './read-csv';
import { fileWrong } from '../../base/words';

/** The files of a delivery, by their path inside the package. Any file can be opened at any time, as a stream. */
export interface PackageSource {
  /** The folder or zip file itself; undefined when its rows are made from a foreign file. */
  location: string | undefined;
  files: readonly { path: string; bytes: number }[];
  open(path: string): Promise<Readable>;
  /** Streams the rows of a table. */
  rows(path: string, sink: RowSink, report: (found: Issue) => void): Promise<void>;
  /** True when it brings one table only, into books that are there already. */
  isPartial?: boolean;
  /** SHA-256 over names and contents, in hex. */
  digest(): Promise<string>;
  close(): void;
}

/** Files above the datapackage, such as a single folder around everything, do not belong to the paths. */
function commonFolder(paths: readonly string[]): string {
  const anchor = paths.find((p) => /(^|\/)(entities|accounts|journals)\.csv$/.test(p)) ?? '';
  const folder = anchor.includes('/') ? anchor.slice(0, anchor.lastIndexOf('/') + 1) : '';
  return paths.every((p) => p.startsWith(folder)) ? folder : '';
}

const isHidden = (name: string) => name.split('/').some((part) => part.startsWith('.') || part === '__MACOSX');

/**
 * Opens a ledger package: a folder, or a zip file.
 * @throws SRV_PACKAGE_UNREADABLE when it is neither
 */
export async function openPackage(location: string): Promise<PackageSource> {
  const name = path.basename(location);
  const found = await stat(location).catch(() => undefined);
  if (!found) throw appError('SRV_PACKAGE_UNREADABLE', { name, problem: fileWrong.missing });
  return found.isDirectory() ? openFolder(location) : openZip(location, name);
}

const rowsOf =
  (open: PackageSource['open']): PackageSource['rows'] =>
  async (name, sink, report) =>
    readCsv(name, await open(name), sink, report);

async function openFolder(folder: string): Promise<PackageSource> {
  const entries = await readdir(folder, { recursive: true, withFileTypes: true });
  const listed = entries
    .filter((entry) => entry.isFile())
    .map((entry) => path.relative(folder, path.join(entry.parentPath, entry.name)).split(path.sep).join('/'))
    .filter((name) => !isHidden(name))
    .sort();
  const root = commonFolder(listed);
  const files = await Promise.all(
    listed.map(async (name) => ({ path: name.slice(root.length), bytes: (await stat(path.join(folder, name))).size })),
  );
  const open = async (name: string): Promise<Readable> =>
    createReadStream(path.join(folder, root + name), { highWaterMark: 1 << 20 });
  return {
    location: folder,
    files,
    open,
    rows: rowsOf(open),
    digest: () => digestOf(files, open),
    close: () => undefined,
  };
}

/** A file of a zip may unpack to this many times its packed size; CSV of ledgers comes to 5 to 30 times. */
const RATIO_AT_MOST = 200;
/** Files below this size are let through whatever their ratio, bytes. */
const ALWAYS_FINE = 1_000_000;
const ENTRIES_AT_MOST = 5_000;

/** What keeps an entry from being unpacked. */
function problemOfEntry({ compressedSize, uncompressedSize, generalPurposeBitFlag }: yauzl.Entry, before: number) {
  if (before >= ENTRIES_AT_MOST) return fileWrong.tooManyFiles(ENTRIES_AT_MOST);
  if ((generalPurposeBitFlag & 1) === 1) return fileWrong.encrypted;
  const isBomb = uncompressedSize > ALWAYS_FINE && uncompressedSize > RATIO_AT_MOST * Math.max(1, compressedSize);
  return isBomb ? fileWrong.bomb(Math.round(uncompressedSize / compressedSize)) : undefined;
}

async function openZip(location: string, name: string): Promise<PackageSource> {
  const unreadable = (problem: unknown) =>
    appError('SRV_PACKAGE_UNREADABLE', { name, problem: problem instanceof Error ? problem.message : String(problem) });
  const handle = await openFile(location);
  const signature = Buffer.alloc(2);
  await handle.read(signature, 0, 2, 0);
  await handle.close();
  if (signature.toString('latin1') !== 'PK') throw unreadable(fileWrong.noZip);

  const zip = await new Promise<yauzl.ZipFile>((resolve, reject) =>
    yauzl.open(location, { lazyEntries: true, autoClose: false, validateEntrySizes: true }, (error, opened) =>
      error ? reject(unreadable(error)) : resolve(opened),
    ),
  );
  const entries = new Map<string, yauzl.Entry>();
  await new Promise<void>((resolve, reject) => {
    zip.on('entry', (entry: yauzl.Entry) => {
      const problem =
        problemOfEntry(entry, entries.size) ?? (entries.has(entry.fileName) ? fileWrong.nameTwice : undefined);
      if (problem) return reject(unreadable(`${entry.fileName.slice(0, 100)}: ${problem}`));
      if (!entry.fileName.endsWith('/') && !isHidden(entry.fileName)) entries.set(entry.fileName, entry);
      zip.readEntry();
    });
    zip.on('end', resolve);
    zip.on('error', (error) => reject(unreadable(error)));
    zip.readEntry();
  });
  const names = [...entries.keys()].sort();
  const root = commonFolder(names);
  const files = names.map((entry) => ({ path: entry.slice(root.length), bytes: entries.get(entry)!.uncompressedSize }));
  const open = (entry: string): Promise<Readable> =>
    new Promise((resolve, reject) =>
      zip.openReadStream(entries.get(root + entry)!, (error, stream) =>
        error ? reject(unreadable(error)) : resolve(stream),
      ),
    );
  return { location, files, open, rows: rowsOf(open), digest: () => digestOf(files, open), close: () => zip.close() };
}

/** The same files give the same digest, as a folder or in a zip. */
async function digestOf(files: PackageSource['files'], open: PackageSource['open']): Promise<string> {
  const hash = createHash('sha256');
  for (const file of files) {
    hash.update(`${file.path}\0${file.bytes}\0`);
    await pipeline(await open(file.path), async function (source: AsyncIterable<Buffer>) {
      for await (const chunk of source) hash.update(chunk);
    });
  }
  return hash.digest('hex');
}
