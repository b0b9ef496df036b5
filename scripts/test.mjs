// npm test: lint, types, unit tests and the journeys in a real browser; says where its time went, and ends with one
// line `N passed, N failed`.
import { spawn } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { ensureChromium, fetchPackages, missingTools, ROOT } from './prepare.mjs';

process.env.TZ = 'Asia/Kathmandu'; // neither UTC nor a whole hour from it: nothing may depend on the zone
/** No step may take longer than this, ms: a hung one is ended, and counts as failed. Four times what one takes. */
const STEP_LIMIT = 2_400_000;
const SLOWEST_SHOWN = 8;

const totals = { passed: 0, failed: 0 };
const times = [];
const slowest = [];
const started = Date.now();
const secondsSince = (at) => (Date.now() - at) / 1000;

/** Runs a step to its end or its limit; `output` is what it said, or nothing when it says it at once. */
function runStep(name, command, args, { isShownAtOnce = false, ...options } = {}) {
  const begun = Date.now();
  return new Promise((resolve) => {
    const stdio = isShownAtOnce ? ['ignore', 'inherit', 'inherit'] : ['ignore', 'pipe', 'pipe'];
    const child = spawn(command, args, { cwd: ROOT, stdio, detached: true, ...options });
    let output = '';
    child.stdout?.on('data', (text) => (output += text));
    child.stderr?.on('data', (text) => (output += text));
    const timer = setTimeout(() => {
      output += `\n${name} did not end within ${STEP_LIMIT / 1000} s.`;
      console.error(`${name} did not end within ${STEP_LIMIT / 1000} s.`);
      process.kill(-child.pid, 'SIGKILL'); // with all it has started
    }, STEP_LIMIT);
    child.on('close', (code) => {
      clearTimeout(timer);
      times.push([name, secondsSince(begun)]);
      resolve({ code: code ?? 1, output });
    });
  });
}

/** A promise with what fulfils it. */
function deferred() {
  let resolve;
  const promise = new Promise((fulfil) => (resolve = fulfil));
  return { promise, resolve };
}

/**
 * Steps that each pass or fail as a whole, two at a time; what they print comes when each has ended. A step may name
 * another that it comes after.
 */
async function twoAtATime(steps) {
  const left = [...steps];
  const ended = new Map(steps.map(([name]) => [name, deferred()]));
  const lane = async () => {
    for (let step = left.shift(); step; step = left.shift()) {
      const [name, command, args, after] = step;
      if (after) await ended.get(after).promise;
      const { code, output } = await runStep(name, command, args);
      ended.get(name).resolve();
      console.log(`\n== ${name} (${secondsSince(started).toFixed(0)} s)\n${output.trim()}`);
      if (code === 0) totals.passed++;
      else {
        totals.failed++;
        console.error(`${name} failed.`);
      }
    }
  };
  await Promise.all([lane(), lane()]);
}

/** A step whose tests are counted from the file that it writes; one that ends badly without a failed test has failed, too. */
async function counted(name, file, read, command, args, options) {
  console.log(`\n== ${name} (${secondsSince(started).toFixed(0)} s)`);
  const { code } = await runStep(name, command, args, { isShownAtOnce: true, ...options });
  try {
    const { passed, failed, failures, files } = read(JSON.parse(readFileSync(file, 'utf8')));
    totals.passed += passed;
    totals.failed += failed === 0 && code !== 0 ? 1 : failed;
    failedTests.push(...failures);
    slowest.push([name, files.sort(([, a], [, b]) => b - a).slice(0, SLOWEST_SHOWN)]);
  } catch {
    totals.failed++;
  }
}

/** Tests that failed, by name: what each of them said stands far above. */
const failedTests = [];

const readJest = ({ numPassedTests, numFailedTests, numRuntimeErrorTestSuites, testResults }) => ({
  passed: numPassedTests,
  failed: numFailedTests + numRuntimeErrorTestSuites,
  failures: testResults
    .filter(({ status }) => status === 'failed')
    .flatMap(({ name, assertionResults }) => {
      const tests = assertionResults.filter(({ status }) => status === 'failed').map(({ fullName }) => fullName);
      return (tests.length > 0 ? tests : ['did not run']).map((test) => `${path.relative(ROOT, name)}: ${test}`);
    }),
  files: testResults.map(({ name, startTime, endTime }) => [path.relative(ROOT, name), (endTime - startTime) / 1000]),
});

/** Journeys that passed at their second try only: a race, in them or in the application, that is to be found. */
const secondTries = [];
const titlesOf = (specs, state) =>
  specs.filter(({ tests }) => tests.some(({ status }) => status === state)).map(({ title }) => title);

const specsIn = (suite) => [...suite.specs, ...(suite.suites ?? []).flatMap(specsIn)];
const readPlaywright = ({ stats, errors, suites }) => {
  const specs = suites.flatMap(specsIn);
  secondTries.push(...titlesOf(specs, 'flaky'));
  const secondsOf = ({ tests }) =>
    tests.flatMap(({ results }) => results).reduce((sum, { duration }) => sum + duration, 0);
  return {
    passed: stats.expected + stats.flaky,
    failed: stats.unexpected + errors.length, // errors: what kept journeys from running at all
    failures: titlesOf(specs, 'unexpected'),
    files: specs.map((spec) => [spec.title, secondsOf(spec) / 1000]),
  };
};

const results = path.join(ROOT, 'var/test-results');
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });

fetchPackages();
times.push(['Install', secondsSince(started)]);
const chromium = ensureChromium();
const prepared = (...steps) => [
  '-e',
  `import('./scripts/prepare.mjs').then((m) => { ${steps.map((step) => `m.${step}();`).join(' ')} })`,
];
// two cores, the longest first: the checks of the sources beside what the tests need
await twoAtATime([
  ['Driver', process.execPath, prepared('makeDriver')],
  ['Web application', process.execPath, prepared('buildWeb')],
  ['Types', 'npm', ['run', 'typecheck', '--silent']],
  ['Lint', 'npx', ['eslint', '.', '--max-warnings', '0']],
  ['Format', 'npx', ['prettier', '--check', '--log-level', 'warn', '.']],
  ['Circles', 'npm', ['run', 'circles', '--silent']],
  ['Unused', 'npm', ['run', 'unused', '--silent']],
  ['Server and demo', process.execPath, prepared('buildServer', 'makeDemo', 'importDemo'), 'Driver'],
]);

const jestFile = path.join(results, 'jest.json');
const jest = ['jest', '--json', '--outputFile', jestFile, '--reporters', 'default'];
await counted('Unit tests', jestFile, readJest, 'npx', jest);

const playwrightFile = path.join(results, 'playwright.json');
const env = { ...process.env, CHROMIUM: chromium, PLAYWRIGHT_JSON_OUTPUT_NAME: playwrightFile };
const playwright = ['playwright', 'test', '--reporter', 'list,json'];
await counted('Journeys in the browser', playwrightFile, readPlaywright, 'npx', playwright, {
  cwd: path.join(ROOT, 'e2e'),
  env,
});

const row = ([name, seconds]) => `${seconds.toFixed(1).padStart(7)} s  ${name}`;
console.log(`\nTook ${secondsSince(started).toFixed(0)} s:\n${times.map(row).join('\n')}`);
for (const [name, files] of slowest) console.log(`\nSlowest of “${name}”:\n${files.map(row).join('\n')}`);

if (failedTests.length > 0) console.error(`\nFailed:\n${failedTests.map((name) => `  ${name}`).join('\n')}`);
if (secondTries.length > 0) console.error(`\nPassed at their second try only: ${secondTries.join('; ')}.`);
const missing = missingTools();
for (const { tool, debian } of missing) {
  console.error(`\nNot all was proved: ${tool} is not installed (Debian: apt-get install ${debian}).`);
}
// where everything must be proved, a proof that was left out has failed
if (process.env.CI) totals.failed += missing.length;
console.log(`\n${totals.passed} passed, ${totals.failed} failed`);
process.exit(totals.failed === 0 ? 0 : 1);
