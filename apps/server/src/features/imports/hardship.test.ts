import { spawn } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import Database from 'better-sqlite3';
import fc from 'fast-check';
import { bringIn, newDatabase, query, tinyFiles, writeFolder } from '../../../test/tiny-package';
import { checkIntegrity } from '../checks/check-integrity';
import { foreignContext, knownCodes } from '../foreign/foreign-context';
import { openForeign } from '../foreign/foreign-source';
import { inspectFile } from '../foreign/inspect-file';
import { openImportConnection } from './import-connection';
import { importPackage } from './import-package';

const LENS = path.resolve(__dirname, '../../lens.ts');
const TSX = createRequire(__filename).resolve('tsx');
const CASE = path.resolve(__dirname, '../../../../../packages/core/test/golden/case10/files');

/** A package with enough journals that reading it takes a while. */
function longPackage(journals: number): string {
  const head = 'entity,journal,line,date,account,debit,credit,description';
  const rows = Array.from({ length: journals }, (_, i) => {
    const date = `2026-${String(1 + (i % 12)).padStart(2, '0')}-15`;
    return `ONE,L${i},1,${date},1000,${i + 1}.00,,Sale ${i}\nONE,L${i},2,${date},4000,,${i + 1}.00,Sale ${i}`;
  });
  return writeFolder(tinyFiles({ 'journals.csv': [head, ...rows, ''].join('\n') }));
}

function isSound(file: string): boolean {
  const db = new Database(file);
  try {
    return (
      (db.pragma('integrity_check') as { integrity_check: string }[])[0]!.integrity_check === 'ok' &&
      checkIntegrity(db).every(({ agrees }) => agrees)
    );
  } finally {
    db.close();
  }
}

describe('an import that is killed', () => {
  const JOURNALS = 25_000;

  it('leaves the books as they were or complete, whenever it happens', async () => {
    const folder = longPackage(JOURNALS);
    const ends = new Set<number>();
    for (const afterMs of [700, 1100, 1500, 1900, 2300]) {
      const file = await newDatabase();
      await bringIn(file, tinyFiles());
      const before = query<{ n: number }>(file, 'select count(*) as n from journal where until is null')[0]!.n;
      const child = spawn(process.execPath, ['--import', TSX, LENS, 'import', folder, '--db', file], {
        stdio: 'ignore',
      });
      await new Promise<void>((resolve) => {
        const timer = setTimeout(() => child.kill('SIGKILL'), afterMs);
        child.on('exit', () => {
          clearTimeout(timer);
          resolve();
        });
      });
      const { n } = query<{ n: number }>(file, 'select count(*) as n from journal where until is null')[0]!;
      expect([before, before + JOURNALS]).toContain(n);
      expect(isSound(file)).toBe(true);
      ends.add(n);
    }
    expect(ends.size).toBeGreaterThan(0);
  }, 60_000);
});

/** A file with some bytes replaced, put in or taken out. */
const spoilt = (bytes: Buffer): fc.Arbitrary<Buffer> =>
  fc
    .array(
      fc.record({
        at: fc.nat(bytes.length),
        cut: fc.integer({ min: 0, max: 8 }),
        put: fc.oneof(
          fc.uint8Array({ maxLength: 4 }),
          fc
            .constantFrom('"', ',', '\n', '\r', ';', '\0', '-', '(', '9'.repeat(40), 'é')
            .map((text) => Buffer.from(text)),
        ),
      }),
      { minLength: 1, maxLength: 5 },
    )
    .map((edits) =>
      edits.reduce(
        (text, { at, cut, put }) => Buffer.concat([text.subarray(0, at), put, text.subarray(at + cut)]),
        bytes,
      ),
    );

describe('damaged files', () => {
  it('are brought in or refused with findings, and never break the reading (fuzzed package)', async () => {
    const journals = Buffer.from(String(tinyFiles()['journals.csv']));
    await fc.assert(
      fc.asyncProperty(spoilt(journals), async (bytes) => {
        const file = await newDatabase();
        const outcome = await bringIn(file, tinyFiles({ 'journals.csv': bytes }));
        if (outcome.state === 'refused') expect(outcome.findings.shown.length).toBeGreaterThan(0);
        else expect(outcome.state).toBe('done');
        expect(isSound(file)).toBe(true);
      }),
      { numRuns: 40 },
    );
  }, 60_000);

  it.each(['01_good.csv', '14_decimal_comma_semicolon.csv', '17_utf16.csv', '58_good.xlsx'])(
    'are looked into and read without an accident (fuzzed %s)',
    async (name) => {
      const good = readFileSync(path.join(CASE, name));
      const file = await newDatabase();
      await bringIn(file, tinyFiles());
      await fc.assert(
        fc.asyncProperty(spoilt(good), async (bytes) => {
          const location = path.join(writeFolder({}), name);
          writeFileSync(location, bytes);
          const db = openImportConnection(file);
          try {
            const found = await inspectFile({
              location,
              fileName: name,
              known: knownCodes(foreignContext(db)),
              kept: [],
            });
            if (!('mapping' in found)) return expect(found.findings.length).toBeGreaterThan(0);
            const source = await openForeign(location, name, found.mapping, () => foreignContext(db));
            const outcome = await importPackage(db, {
              source,
              fileName: name,
              digest: 'x',
              person: 'x',
              isTrial: true,
              onProgress: () => undefined,
              isCancelled: () => false,
              now: () => new Date(),
            });
            expect(['checked', 'refused']).toContain(outcome.state);
          } finally {
            db.close();
          }
        }),
        { numRuns: 25 },
      );
    },
    60_000,
  );
});
