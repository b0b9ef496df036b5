// npm test: lint, types, unit tests and the journeys in a real browser; ends with one line `N passed, N failed`.
import { spawn } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { ensureChromium, installPackages, ROOT, run } from './prepare.mjs';

process.env.TZ = 'Asia/Kathmandu'; // neither UTC nor a whole hour from it: nothing may depend on the zone
const totals = { passed: 0, failed: 0 };
const started = Date.now();
const seconds = () => `${((Date.now() - started) / 1000).toFixed(0)} s`;

/** Steps that each pass or fail as a whole, one after the other; what they print comes when each has ended. */
async function inOrder(steps) {
  for (const [name, command, args] of steps) {
    const { code, output } = await new Promise((resolve) => {
      const child = spawn(command, args, { cwd: ROOT });
      let output = '';
      child.stdout.on('data', (text) => (output += text));
      child.stderr.on('data', (text) => (output += text));
      child.on('close', (code) => resolve({ code, output }));
    });
    console.log(`\n== ${name} (${seconds()})\n${output.trim()}`);
    if (code === 0) totals.passed++;
    else {
      totals.failed++;
      console.error(`${name} failed.`);
    }
  }
}

const results = path.join(ROOT, 'var/test-results');
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });

installPackages();
const chromium = ensureChromium();
// two cores: the checks of the sources beside the builds that the journeys need
const BUILD = `import('./scripts/prepare.mjs').then((m) => { m.buildServer(); m.buildWeb(); m.makeDemo(); })`;
await Promise.all([
  inOrder([
    ['Lint', 'npx', ['eslint', '.', '--max-warnings', '0']],
    ['Format', 'npx', ['prettier', '--check', '--log-level', 'warn', '.']],
  ]),
  inOrder([
    ['Build', process.execPath, ['-e', BUILD]],
    ['Types', 'npm', ['run', 'typecheck', '--silent']],
  ]),
]);

console.log(`\n== Unit tests (${seconds()})`);
const jestFile = path.join(results, 'jest.json');
run('npx', ['jest', '--json', '--outputFile', jestFile, '--reporters', 'default']);
try {
  const { numPassedTests, numFailedTests, numRuntimeErrorTestSuites } = JSON.parse(readFileSync(jestFile, 'utf8'));
  totals.passed += numPassedTests;
  totals.failed += numFailedTests + numRuntimeErrorTestSuites;
} catch {
  totals.failed++;
}

console.log(`\n== Journeys in the browser (${seconds()})`);
const playwrightFile = path.join(results, 'playwright.json');
const env = { ...process.env, CHROMIUM: chromium, PLAYWRIGHT_JSON_OUTPUT_NAME: playwrightFile };
run('npx', ['playwright', 'test', '--reporter', 'list,json'], { cwd: path.join(ROOT, 'e2e'), env });
try {
  const { stats, errors } = JSON.parse(readFileSync(playwrightFile, 'utf8'));
  totals.passed += stats.expected;
  totals.failed += stats.unexpected + stats.flaky + errors.length; // errors: what kept journeys from running at all
} catch {
  totals.failed++;
}

console.log(`\nTook ${seconds()}.`);
console.log(`${totals.passed} passed, ${totals.failed} failed`);
process.exit(totals.failed === 0 ? 0 : 1);
