import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import fc from 'fast-check';
import {
  bringIn,
  bringInto,
  newDatabase,
  query,
  tinyFiles,
  workspaceOf,
  writeFolder,
} from '../../../test/tiny-package';
import { onStore, unsound, unsoundIn } from '../../../test/opened-store';
import { someOf } from '../../../test/runs';
import { foreignContext, knownCodes } from '../foreign/foreign-context';
import { openForeign } from '../foreign/foreign-source';
import { inspectFile } from '../foreign/inspect-file';
import { importPackage } from './import-package';

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

async function isSound(file: string): Promise<boolean> {
  const [check] = query<{ integrity_check: string }>(file, 'pragma integrity_check');
  return check!.integrity_check === 'ok' && (await unsound(file)).length === 0;
}

/** Runs a write in a process of its own, which ends itself inside the transaction after so many statements. */
function killed(what: 'import' | 'undo', file: string, folder: string, after?: number) {
  const program = path.join(process.env['MARGIN_LENS_TEST_DIST']!, 'killed-write.js');
  const args = [program, what, file, folder, ...(after === undefined ? [] : [String(after)])];
  return spawnSync(process.execPath, args, { encoding: 'utf8' });
}

const journalsIn = (file: string) =>
  query<{ n: number }>(file, 'select count(*) as n from journal where until is null')[0]!.n;

describe('a process that is killed inside its transaction', () => {
  const JOURNALS = 1_000;

  it.each(['import', 'undo'] as const)(
    'leaves the books as they were, wherever in the %s that is',
    async (what) => {
      const folder = longPackage(JOURNALS);
      const start = async () => {
        const file = await workspaceOf();
        if (what === 'undo') await bringIn(file, folder);
        return file;
      };
      const whole = await start();
      const before = journalsIn(whole);
      const writes = Number(killed(what, whole, folder).stdout);
      expect(writes).toBeGreaterThan(4);
      expect(journalsIn(whole)).toBe(before + (what === 'import' ? JOURNALS : -JOURNALS));
      for (const part of [0, 0.4, 0.8, 1]) {
        const file = await start();
        const { signal } = killed(what, file, folder, Math.max(1, Math.round(part * writes)));
        expect(signal).toBe('SIGKILL'); // it did happen, and before the end
        expect(journalsIn(file)).toBe(before);
        expect(await isSound(file)).toBe(true);
      }
    },
    60_000,
  );
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
        await onStore(await newDatabase(), async (store) => {
          const outcome = await bringInto(store, tinyFiles({ 'journals.csv': bytes }));
          if (outcome.state === 'refused') expect(outcome.findings.shown.length).toBeGreaterThan(0);
          else expect(outcome.state).toBe('done');
          expect(await unsoundIn(store)).toEqual([]);
        });
      }),
      { numRuns: someOf(40) },
    );
  });

  it.each(['01_good.csv', '14_decimal_comma_semicolon.csv', '17_utf16.csv', '58_good.xlsx'])(
    'are looked into and read without an accident (fuzzed %s)',
    async (name) => {
      const good = readFileSync(path.join(CASE, name));
      await onStore(await workspaceOf(), async (store, books) => {
        const context = await foreignContext(books);
        const look = async (bytes: Buffer) => {
          const location = path.join(writeFolder({}), name);
          writeFileSync(location, bytes);
          const found = await inspectFile({ location, fileName: name, known: knownCodes(context), kept: [] });
          if (!('mapping' in found)) return expect(found.findings.length).toBeGreaterThan(0);
          const source = await openForeign(location, name, found.mapping, context);
          const outcome = await importPackage(store, {
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
        };
        await fc.assert(fc.asyncProperty(spoilt(good), look), { numRuns: someOf(25) });
      });
    },
    60_000,
  );
});
