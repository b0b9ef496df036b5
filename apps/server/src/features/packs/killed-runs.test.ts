import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { unsound } from '../../../test/opened-store';
import { newFolder, query, tinyFiles, workspaceOf } from '../../../test/tiny-package';

const PACK = {
  ...{ schema: 1, kind: 'pack', id: 'monthly', name: 'Monthly' },
  pages: [
    { kind: 'cover', id: 'cover' },
    { kind: 'figures', id: 'income', of: 'income_statement' },
  ],
};

/** Runs a server in a process of its own, with a folder of its own for temporary files. */
function server(file: string, temporary: string, killAfter?: number) {
  const program = path.join(process.env['MARGIN_LENS_TEST_DIST']!, 'killed-run.js');
  const args = [program, file, ...(killAfter === undefined ? [] : [String(killAfter)])];
  return spawnSync(process.execPath, args, { encoding: 'utf8', env: { ...process.env, TMPDIR: temporary } });
}

/** Files that stand somewhere in a folder. */
const filesIn = (folder: string): string[] =>
  existsSync(folder)
    ? readdirSync(folder, { recursive: true, withFileTypes: true }).flatMap((entry) =>
        entry.isFile() ? entry.name : [],
      )
    : [];

describe('packs for many, whose server is killed', () => {
  it('leave nothing half done: no archive, a sound workspace, and nothing at the next start', async () => {
    const file = await workspaceOf(tinyFiles({ 'packs/monthly.json': JSON.stringify(PACK) }));
    const documents = () => query(file, 'select kind, id, body from document where until is null order by 1, 2');
    const before = documents();
    const temporary = newFolder();
    for (const made of [0, 1, 4]) {
      expect(server(file, temporary, made).signal).toBe('SIGKILL');
      expect(filesIn(temporary).filter((name) => name.endsWith('.zip'))).toEqual([]);
      expect(await unsound(file)).toEqual([]);
    }
    expect(filesIn(temporary)).toContain('files.zip.part'); // it did happen while one was written
    expect(server(file, temporary).status).toBe(0);
    expect(filesIn(temporary)).toEqual([]);
    expect(documents()).toEqual(before);
  });
});
