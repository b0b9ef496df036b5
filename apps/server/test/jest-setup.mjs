// Once a run of Jest: the threads and the command line as bundles, so that no test compiles them, and a folder for all files.
import { execFileSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import bundlePackages from '../../../jest.bundles.mjs';

const SERVER = path.resolve(import.meta.dirname, '..');

export default async function () {
  await bundlePackages();
  process.env.MARGIN_LENS_TEST_DIST = path.join(SERVER, 'dist/test');
  process.env.MARGIN_LENS_TEST_FILES = mkdtempSync(path.join(os.tmpdir(), 'margin-lens-tests-'));
  execFileSync(
    process.execPath,
    ['build.mjs', 'dist/test', 'killed-write=test/killed-write.ts', 'killed-run=test/killed-run.ts'],
    {
      cwd: SERVER,
      stdio: 'inherit',
    },
  );
}
