import { readFile } from 'node:fs/promises';
import yauzl from 'yauzl';
import { issue, type Issue } from '@margin-lens/core';

/** A part of a workbook may unpack to this many times its packed size at most. */
const LARGEST_RATIO = 100;
/** Parts below this size are let through whatever their ratio, bytes. */
const ALWAYS_FINE = 1_000_000;
/** How much of each part is looked at for a document type, bytes. */
const HEAD = 4096;

const sizeWords = (bytes: number) => (bytes < 1e6 ? `${Math.ceil(bytes / 1e3)} kB` : `${Math.round(bytes / 1e6)} MB`);

const openBuffer = (buffer: Buffer): Promise<yauzl.ZipFile> =>
  new Promise((resolve, reject) =>
    yauzl.fromBuffer(buffer, { lazyEntries: true, decodeStrings: false }, (error, zip) =>
      error ? reject(error) : resolve(zip),
    ),
  );

const headOf = (zip: yauzl.ZipFile, entry: yauzl.Entry): Promise<string> =>
  new Promise((resolve, reject) =>
    zip.openReadStream(entry, (error, stream) => {
      if (error) return reject(error);
      let text = '';
      stream.on('data', (chunk: Buffer) => {
        text += chunk.toString('latin1');
        if (text.length >= HEAD) stream.destroy();
      });
      stream.on('close', () => resolve(text.slice(0, HEAD)));
      stream.on('error', reject);
    }),
  );

/**
 * The finding about a workbook that is not safe or not possible to read, before any of it is unpacked; undefined when
 * it is fine. A workbook is a zip archive of XML parts.
 * @source ISO/IEC 29500-2 (Open Packaging Conventions); common practice for the limits
 */
export async function checkWorkbook(location: string, file: string): Promise<Issue | undefined> {
  const buffer = await readFile(location);
  if (buffer.subarray(0, 2).toString('latin1') !== 'PK') {
    const isText = !buffer.subarray(0, HEAD).includes(0);
    return issue('CORE_FILE_TYPE', { ending: '.xlsx', content: isText ? 'text' : 'no workbook' }, { file });
  }
  try {
    const zip = await openBuffer(buffer);
    return await new Promise<Issue | undefined>((resolve, reject) => {
      zip.on('error', reject);
      zip.on('end', () => resolve(undefined));
      zip.on('entry', (entry: yauzl.Entry) => {
        checkEntry(zip, entry, file).then((found) => (found ? resolve(found) : zip.readEntry()), reject);
      });
      zip.readEntry();
    });
  } catch {
    return issue('CORE_FILE_DAMAGED', {}, { file });
  }
}

async function checkEntry(zip: yauzl.ZipFile, entry: yauzl.Entry, file: string): Promise<Issue | undefined> {
  const name = String(entry.fileName);
  if (name.startsWith('/') || name.includes('\\') || name.split('/').includes('..'))
    return issue('CORE_ARCHIVE_PATH', { name }, { file });
  const { compressedSize, uncompressedSize } = entry;
  if (uncompressedSize > ALWAYS_FINE && uncompressedSize > LARGEST_RATIO * Math.max(1, compressedSize)) {
    const params = { size: sizeWords(uncompressedSize), packed: sizeWords(compressedSize) };
    return issue('CORE_ARCHIVE_RATIO', params, { file });
  }
  if (!/\.(xml|rels)$/.test(name)) return undefined;
  return /<!(DOCTYPE|ENTITY)/i.test(await headOf(zip, entry))
    ? issue('CORE_XML_DOCTYPE', { part: name }, { file })
    : undefined;
}
