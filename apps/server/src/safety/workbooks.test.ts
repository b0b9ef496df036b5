import { createWriteStream } from 'node:fs';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { FastifyInstance } from 'fastify';
import yazl from 'yazl';
import type { ImportJobView } from '@margin-lens/contract';
import { newFolder, workspaceOf } from '../../test/tiny-package';
import { buildApp } from '../app';

/** The longest that a hostile file may take, ms, on a busy machine. */
const PATIENCE_MS = 45_000;

const RELS = `<Relationships><Relationship Id="r1" Target="worksheets/sheet1.xml"/></Relationships>`;
const BOOK = `<workbook xmlns:r="x"><sheets><sheet name="S" sheetId="1" r:id="r1"/></sheets></workbook>`;
const sheet = (rows: string) => `<worksheet><sheetData>${rows}</sheetData></worksheet>`;

/** A text, or pieces that are made as they are packed. */
type Part = string | (() => Iterable<string>);

function* repeated(start: string, piece: string, times: number, end: string): Generator<string> {
  yield start;
  const block = piece.repeat(1000);
  for (let at = 0; at < times / 1000; at++) yield block;
  yield end;
}

async function workbookOf(parts: Record<string, Part>): Promise<string> {
  const zip = new yazl.ZipFile();
  const all: Record<string, Part> = { 'xl/_rels/workbook.xml.rels': RELS, 'xl/workbook.xml': BOOK, ...parts };
  for (const [name, part] of Object.entries(all))
    zip.addReadStream(
      typeof part === 'string' ? Readable.from([Buffer.from(part)]) : Readable.from(buffers(part())),
      name,
      { compressionLevel: 1 },
    );
  zip.end();
  const file = path.join(newFolder(), 'hostile.xlsx');
  await pipeline(zip.outputStream, createWriteStream(file));
  return file;
}

function* buffers(pieces: Iterable<string>): Generator<Buffer> {
  for (const piece of pieces) yield Buffer.from(piece);
}

const one = (part: Part): Record<string, Part> => ({ 'xl/worksheets/sheet1.xml': part });
const HEAD = '<row><c t="str"><v>account</v></c><c t="str"><v>values</v></c><c t="str"><v>FY2026-P01</v></c></row>';

/** Workbooks that held a server up, or took its memory, with other readers. */
const HOSTILE: Record<string, Record<string, Part>> = {
  'a row far beyond the last': one(sheet('<row r="2000000000"><c r="A2000000000"><v>1</v></c></row>')),
  'a cell far beyond the last': one(sheet('<row r="1"><c r="ZZZZZZ3"><v>1</v></c></row>')),
  'columns said without end': one(
    `<worksheet><cols><col min="1" max="2000000000"/></cols><sheetData>${HEAD}</sheetData></worksheet>`,
  ),
  'a merge of everything': one(
    `<worksheet><sheetData>${HEAD}</sheetData><mergeCells><mergeCell ref="A1:XFD1048576"/></mergeCells></worksheet>`,
  ),
  '100,000 columns': one(() =>
    repeated('<worksheet><sheetData><row>', '<c t="str"><v>h</v></c>', 100_000, '</row></sheetData></worksheet>'),
  ),
  'the last cell of many rows': one(() =>
    repeated('<worksheet><sheetData>', '<row><c r="XFD1"><v>1</v></c></row>', 100_000, '</sheetData></worksheet>'),
  ),
  'tags in tags': one(() => repeated('<worksheet>', '<a>', 1_000_000, '')),
  'a text that does not end': one(() =>
    repeated('<worksheet><sheetData><row><c t="str"><v>', 'x1y2z3w4', 2_000_000, ''),
  ),
  'an attribute that does not end': one(() => repeated('<worksheet a="', 'q9w8e7r6', 2_000_000, '')),
  'shared texts without end': {
    ...one(sheet(HEAD)),
    'xl/sharedStrings.xml': () => repeated('<sst><si><t>', 'k1j2h3g4', 2_000_000, '</t></si></sst>'),
  },
  'entities in entities': one('<!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;&a;">]><worksheet>&b;</worksheet>'),
  'what is no XML': one('<worksheet><sheetData></worksheet>'),
  'styles and texts that there are not': one(sheet(`${HEAD}<row><c t="s" s="99999999"><v>99999999</v></c></row>`)),
};

describe('hostile workbooks', () => {
  let app: FastifyInstance;
  let url: string;
  beforeAll(async () => {
    app = await buildApp({ databaseFile: await workspaceOf(), webRoot: '/nonexistent' });
    url = await app.listen({ port: 0, host: '127.0.0.1' });
  });
  afterAll(() => app.close());

  const formOf = async (file: string) => {
    const form = new FormData();
    form.set('file', new Blob([await readFile(file)]), 'hostile.xlsx');
    return form;
  };

  /** How long the server takes to answer something else meanwhile. */
  async function longestPause(until: Promise<unknown>): Promise<number> {
    let [longest, isOver] = [0, false];
    void until.finally(() => (isOver = true));
    while (!isOver) {
      const at = performance.now();
      await fetch(`${url}/api/v1/health`);
      longest = Math.max(longest, performance.now() - at);
      await new Promise((resolve) => setTimeout(resolve, 5));
    }
    return longest;
  }

  it.each(Object.keys(HOSTILE))('with %s neither hold the server up nor stay', async (name) => {
    const file = await workbookOf(HOSTILE[name]!);
    const started = performance.now();
    const sent = fetch(`${url}/api/v1/versions/PLAN/sheet?scope=ONE`, { method: 'POST', body: await formOf(file) });
    const pause = await longestPause(sent);
    const reply = await sent;
    expect([name, reply.status < 500]).toEqual([name, true]);
    expect(pause).toBeLessThan(PATIENCE_MS / 3);

    const job = (await (
      await fetch(`${url}/api/v1/imports`, { method: 'POST', body: await formOf(file) })
    ).json()) as ImportJobView;
    let view = job;
    while (['preparing', 'reading'].includes(view.state)) {
      await new Promise((resolve) => setTimeout(resolve, 20));
      view = (await (await fetch(`${url}/api/v1/imports/${job.id}`)).json()) as ImportJobView;
    }
    expect([name, ['refused', 'mapping'].includes(view.state)]).toEqual([name, true]);
    await fetch(`${url}/api/v1/imports/${job.id}`, { method: 'DELETE' });
    expect(performance.now() - started).toBeLessThan(PATIENCE_MS);
  });
});
