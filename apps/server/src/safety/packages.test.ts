import { once } from 'node:events';
import { createWriteStream, readdirSync, readFileSync, truncateSync, writeFileSync } from 'node:fs';
import http from 'node:http';
import os from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import Database from 'better-sqlite3';
import yazl from 'yazl';
import { bringIn, newDatabase, newFolder, query, tinyFiles, workspaceOf, writeFolder } from '../../test/tiny-package';
import { buildApp } from '../app';
import { writePackage } from '../features/export/write-package';
import { openPackage } from '../features/imports/package-source';

const codesOf = (outcome: Awaited<ReturnType<typeof bringIn>>) =>
  outcome.state === 'refused' ? outcome.findings.shown.map(({ code }) => code) : [outcome.state];

describe('a package that goes out', () => {
  it('survives a reader who goes away, and leaves nothing behind', async () => {
    const app = await buildApp({ databaseFile: await workspaceOf(), webRoot: '/nonexistent' });
    const url = await app.listen({ port: 0, host: '127.0.0.1' });
    for (let at = 0; at < 3; at++) {
      const request = http.get(`${url}/api/v1/package`);
      request.on('error', () => undefined);
      if (at === 0)
        await new Promise((resolve) => setTimeout(resolve, 20)); // before it is made
      else await once(request, 'response');
      request.destroy();
    }
    const whole = await fetch(`${url}/api/v1/package`);
    const body = Buffer.from(await whole.arrayBuffer());
    expect(Number(whole.headers.get('content-length'))).toBe(body.length);
    const file = path.join(newFolder(), 'whole.zip');
    writeFileSync(file, body);
    expect((await bringIn(await newDatabase(), file)).state).toBe('done');
    await app.close();
    const left = path.join(os.tmpdir(), 'margin-lens-uploads', String(process.pid));
    expect(readdirSync(left).filter((name) => name.startsWith('package-'))).toEqual([]);
  });

  it('holds nothing in the database while a reader stalls: the log can be emptied', async () => {
    const databaseFile = await workspaceOf();
    const app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
    const url = await app.listen({ port: 0, host: '127.0.0.1' });
    const request = http.get(`${url}/api/v1/package`);
    const [stalled] = (await once(request, 'response')) as [http.IncomingMessage];
    stalled.pause();
    const db = new Database(databaseFile);
    db.exec("update entity set name = name || '!'");
    // a transaction of a reader that is still open would leave its part of the log, and say busy
    expect(db.pragma('wal_checkpoint(TRUNCATE)')).toEqual([{ busy: 0, log: 0, checkpointed: 0 }]);
    db.close();
    request.on('error', () => undefined);
    request.destroy();
    await app.close();
  });

  it('says of each file how long it is and what is in it, and is refused when that does not hold', async () => {
    const folder = path.join(newFolder(), 'package');
    await writePackage(await workspaceOf(), folder);
    expect(codesOf(await bringIn(await newDatabase(), folder))).toEqual(['done']);
    const journals = path.join(folder, 'journals.csv');
    const text = readFileSync(journals, 'utf8');
    // cut off between two journals, so that every journal that is left balances
    truncateSync(journals, text.indexOf('ONE,J2'));
    expect(codesOf(await bringIn(await newDatabase(), folder))).toEqual(['CORE_PACKAGE_FILE_CHANGED']);
    writeFileSync(journals, text);
    expect(codesOf(await bringIn(await newDatabase(), folder))).toEqual(['done']);
  });
});

/** A zip file with one entry that is made of the same block over and over. */
async function zipOf(name: string, block: string, times: number): Promise<string> {
  const zip = new yazl.ZipFile();
  const blocks = function* () {
    for (let at = 0; at < times; at++) yield Buffer.from(block);
  };
  zip.addReadStream(Readable.from(blocks()), name);
  zip.end();
  const file = path.join(newFolder(), 'bomb.zip');
  await pipeline(zip.outputStream, createWriteStream(file));
  return file;
}

describe('a package that comes in', () => {
  it('is not unpacked when a file of it would come to hundreds of times its size', async () => {
    const bomb = await zipOf('journals.csv', '0'.repeat(1 << 20), 40);
    await expect(openPackage(bomb)).rejects.toThrow(/would unpack to \d+ times its size/);
  });

  it('is refused when a document of it is too large to be one', async () => {
    const file = await newDatabase();
    const body = JSON.stringify({ note: 'x'.repeat(6_000_000) });
    const codes = codesOf(await bringIn(file, tinyFiles({ 'layouts/large.json': body })));
    expect(codes).toEqual(['CORE_PACKAGE_JSON_INVALID']);
    expect(query(file, 'select count(*) as n from journal')).toEqual([{ n: 0 }]);
  });

  it('is refused at a quotation mark that is never closed, before memory is full of it', async () => {
    const rows = 'ONE,J1,,1,2026-01-31,,1000,1.00,,,x,\n'.repeat(400_000);
    const files = writeFolder(
      tinyFiles({
        'journals.csv': `entity,journal,kind,line,date,period,account,debit,credit,quantity,description,dim:team\nONE,"J1${rows}`,
      }),
    );
    expect(codesOf(await bringIn(await newDatabase(), files))).toEqual(['CORE_TABLE_ROW_LONG']);
  });
});
