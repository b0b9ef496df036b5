import { open } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import yauzl from 'yauzl';
import { issue, type Issue } from '@margin-lens/core';
import { GuardedXml, XmlProblem, type XmlHandlers } from './guarded-xml';
import { fileWrong } from '../base/words';

/** Parts of a workbook, and what they may unpack to. */
const PARTS_AT_MOST = 2_000;
/** A part may unpack to this many times its packed size. */
const RATIO_AT_MOST = 100;
/** Parts below this size are let through whatever their ratio, bytes. */
const ALWAYS_FINE = 1_000_000;
const UNPACKED_AT_MOST = 4_000_000_000; // bytes, 1 to 10 billion
/** How much is looked at to tell a text from a workbook, bytes. */
const HEAD = 4096;

/** Why a workbook is not read, as a finding; thrown, since it comes up anywhere in the reading. */
export class WorkbookProblem extends Error {
  constructor(readonly found: Issue) {
    super(found.code);
  }
}

const sizeWords = (bytes: number) => (bytes < 1e6 ? `${Math.ceil(bytes / 1e3)} kB` : `${Math.round(bytes / 1e6)} MB`);

/**
 * A workbook that is open: a zip archive of XML parts, of which nothing is unpacked before it is asked for.
 * @source ISO/IEC 29500-2 (Open Packaging Conventions); common practice for the limits
 */
export class Workbook {
  private constructor(
    private readonly file: string,
    private readonly zip: yauzl.ZipFile,
    private readonly parts: ReadonlyMap<string, yauzl.Entry>,
  ) {}

  /** @throws WorkbookProblem when it is none, or none that is safe to read */
  static async open(location: string, file: string): Promise<Workbook> {
    const problem = (...args: Parameters<typeof issue>) => new WorkbookProblem(issue(args[0], args[1], { file }));
    const head = await headOf(location);
    if (head.subarray(0, 2).toString('latin1') !== 'PK')
      throw problem('CORE_FILE_TYPE', { ending: '.xlsx', content: head.includes(0) ? fileWrong.noWorkbook : 'text' });
    const damaged = () => problem('CORE_FILE_DAMAGED', {});
    const zip = await new Promise<yauzl.ZipFile>((resolve, reject) =>
      yauzl.open(
        location,
        { lazyEntries: true, autoClose: false, decodeStrings: false, validateEntrySizes: true },
        (error, opened) => (error ? reject(damaged()) : resolve(opened)),
      ),
    );
    const parts = new Map<string, yauzl.Entry>();
    let unpacked = 0;
    try {
      await new Promise<void>((resolve, reject) => {
        zip.on('error', () => reject(damaged()));
        zip.on('end', resolve);
        zip.on('entry', (entry: yauzl.Entry) => {
          const name = String(entry.fileName);
          const { compressedSize, uncompressedSize } = entry;
          unpacked += uncompressedSize;
          const size = { size: sizeWords(uncompressedSize), packed: sizeWords(compressedSize) };
          const isBomb =
            uncompressedSize > ALWAYS_FINE && uncompressedSize > RATIO_AT_MOST * Math.max(1, compressedSize);
          const isOutside = name.startsWith('/') || name.includes('\\') || name.split('/').includes('..');
          const isUnreadable =
            (entry.generalPurposeBitFlag & 1) === 1 || parts.has(name) || parts.size >= PARTS_AT_MOST;
          if (isOutside) return reject(problem('CORE_ARCHIVE_PATH', { name: name.slice(0, 200) }));
          if (isBomb || unpacked > UNPACKED_AT_MOST) return reject(problem('CORE_ARCHIVE_RATIO', size));
          if (isUnreadable) return reject(damaged());
          parts.set(name, entry);
          zip.readEntry();
        });
        zip.readEntry();
      });
    } catch (error) {
      zip.close();
      throw error;
    }
    return new Workbook(file, zip, parts);
  }

  has(part: string): boolean {
    return this.parts.has(part);
  }

  /** Reads a part that is there. @throws WorkbookProblem */
  async read(part: string, handlers: XmlHandlers): Promise<void> {
    const entry = this.parts.get(part);
    if (!entry) throw this.problem('CORE_FILE_DAMAGED', {});
    const stream = await new Promise<Readable>((resolve, reject) =>
      this.zip.openReadStream(entry, (error, opened) => (error ? reject(error) : resolve(opened))),
    ).catch(() => {
      throw this.problem('CORE_FILE_DAMAGED', {});
    });
    try {
      const xml = new GuardedXml(handlers);
      const decoder = new TextDecoder();
      for await (const chunk of stream as AsyncIterable<Buffer>)
        if (!xml.write(decoder.decode(chunk, { stream: true }))) return;
      xml.close();
    } catch (error) {
      if (error instanceof WorkbookProblem) throw error;
      if (!(error instanceof XmlProblem)) throw this.problem('CORE_FILE_DAMAGED', {}); // the stream broke off
      if (error.kind === 'doctype') throw this.problem('CORE_XML_DOCTYPE', { part });
      if (error.kind === 'limit') throw this.problem('CORE_WORKBOOK_LIMIT', { problem: error.message });
      throw this.problem('CORE_FILE_DAMAGED', {});
    } finally {
      stream.destroy();
    }
  }

  problem(...[code, params]: Parameters<typeof issue>): WorkbookProblem {
    return new WorkbookProblem(issue(code, params, { file: this.file }));
  }

  close(): void {
    this.zip.close();
  }
}

async function headOf(location: string): Promise<Buffer> {
  const handle = await open(location);
  const head = Buffer.alloc(HEAD);
  const { bytesRead } = await handle.read(head, 0, HEAD, 0);
  await handle.close();
  return head.subarray(0, bytesRead);
}
