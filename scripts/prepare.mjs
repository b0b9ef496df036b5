// Shared by the commands: install what is missing, build what has changed, and say what a person must do themselves.
import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  copyFileSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = path.resolve(path.dirname(fileURLToPath(import.meta.url)), '..');
const STATE = path.join(ROOT, 'var', 'state');

export function fail(message) {
  console.error(message);
  process.exit(1);
}

export function run(command, args, options = {}) {
  const { status, error } = spawnSync(command, args, { cwd: ROOT, stdio: 'inherit', ...options });
  if (error) fail(`${command} could not be started: ${error.message}`);
  return status ?? 1;
}

const must = (what, command, args, options) => {
  if (run(command, args, options) !== 0) fail(`${what} did not succeed; see above.`);
};

const has = (command) => spawnSync(command, ['--version'], { stdio: 'ignore' }).status === 0;

function filesBelow(folder) {
  const at = path.join(ROOT, folder);
  if (!existsSync(at)) return [];
  if (!statSync(at).isDirectory()) return [at];
  return readdirSync(at, { recursive: true, withFileTypes: true })
    .filter(
      (entry) =>
        entry.isFile() &&
        !/[\\/](node_modules|dist|\.angular|test|testing)([\\/]|$)|\.(test|spec)\.ts$/.test(
          path.join(entry.parentPath, entry.name),
        ),
    )
    .map((entry) => path.join(entry.parentPath, entry.name))
    .sort();
}

/** A digest of sources, by which a step knows that it has been done. */
function digestOf(folders) {
  const hash = createHash('sha256');
  for (const file of folders.flatMap(filesBelow)) hash.update(path.relative(ROOT, file)).update(readFileSync(file));
  return hash.digest('hex');
}

/** Does a step unless the same sources went through it before and its result is still there; two at once wait for each other. */
function once(name, folders, result, step) {
  const file = path.join(STATE, name);
  const digest = digestOf(folders);
  const isDone = () => existsSync(path.join(ROOT, result)) && existsSync(file) && readFileSync(file, 'utf8') === digest;
  if (isDone()) return;
  mkdirSync(STATE, { recursive: true });
  alone(`${file}.lock`, () => {
    if (isDone()) return;
    step();
    writeFileSync(file, digest);
  });
}

/** Runs a step while no other process does; a lock that a process has left behind is taken. */
function alone(lock, step) {
  while (!isTaken(lock)) Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 200);
  try {
    step();
  } finally {
    rmSync(lock, { force: true });
  }
}

function isTaken(lock) {
  try {
    writeFileSync(lock, String(process.pid), { flag: 'wx' });
    return true;
  } catch {
    const holder = holderOf(lock);
    if (holder > 0 && !isAlive(holder)) rmSync(lock, { force: true });
    return false;
  }
}

/** The process that holds a lock; none where it has just been let go, or is being taken. */
function holderOf(lock) {
  try {
    return Number(readFileSync(lock, 'utf8'));
  } catch {
    return 0;
  }
}

function isAlive(pid) {
  try {
    return process.kill(pid, 0);
  } catch {
    return false;
  }
}

export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    fail(`Node 20.19 or newer is needed; this is ${process.versions.node}.`);
}

/** Packages as they are published: none of them runs anything here; the database driver alone is made, see below. */
export function fetchPackages() {
  checkNode();
  once('install', ['package-lock.json', 'package.json'], 'node_modules/.package-lock.json', () => {
    console.log('Installing packages…');
    must('npm install', 'npm', ['install', '--ignore-scripts', '--no-audit', '--no-fund']);
  });
}

const DRIVER = 'node_modules/better-sqlite3/build/Release/better_sqlite3.node';

/** Where the driver of this version for this machine is kept once it is made: it is two minutes of a compiler's work. */
function keptDriver() {
  const { version } = JSON.parse(readFileSync(path.join(ROOT, 'node_modules/better-sqlite3/package.json'), 'utf8'));
  const cache = process.env.XDG_CACHE_HOME ?? path.join(os.homedir(), '.cache');
  const name = [version, process.platform, process.arch, process.versions.modules].join('-');
  return path.join(cache, 'margin-lens', `better-sqlite3-${name}.node`);
}

/** Fetches or compiles the database driver where it is not there yet. */
export function makeDriver() {
  const driver = path.join(ROOT, DRIVER);
  if (existsSync(driver)) return;
  const kept = keptDriver();
  if (existsSync(kept)) {
    copyWhole(kept, driver);
    return;
  }
  console.log('Making the database driver…');
  const status = run('npm', ['rebuild', 'better-sqlite3']);
  const missing = ['python3', 'make', 'g++'].filter((tool) => !has(tool));
  if (status !== 0 && missing.length > 0) {
    fail(
      `The database driver is compiled where no binary can be fetched. Install ${missing.join(', ')} (Debian: apt-get install ${missing.join(' ')}) and try again.`,
    );
  }
  if (status !== 0) fail('Making the database driver did not succeed; see above.');
  copyWhole(driver, kept);
}

/** Copies a file so that nobody sees a part of it. */
function copyWhole(from, to) {
  mkdirSync(path.dirname(to), { recursive: true });
  const unfinished = `${to}.${process.pid}`;
  copyFileSync(from, unfinished);
  renameSync(unfinished, to);
}

export function installPackages() {
  fetchPackages();
  makeDriver();
}

export function buildServer() {
  const sources = [
    'packages/core/src',
    'packages/contract/src',
    'apps/server/src',
    'apps/server/bench',
    'apps/server/build.mjs',
  ];
  once('server', sources, 'apps/server/dist/main.js', () => {
    console.log('Building the server…');
    must('The build of the server', process.execPath, ['build.mjs'], { cwd: path.join(ROOT, 'apps/server') });
  });
}

export function buildWeb() {
  const sources = [
    'packages/core/src',
    'packages/contract/src',
    'apps/web/src',
    'apps/web/public',
    'apps/web/angular.json',
    'apps/web/build.mjs',
  ];
  once('web', sources, 'apps/web/dist/index.html', () => {
    console.log('Building the web application…');
    must('The build of the web application', 'npm', ['run', 'build', '-w', '@margin-lens/web', '--silent']);
  });
}

/** The demo ledger package; `folder` is below var. */
export function makeDemo(folder = 'var/demo-package', args = []) {
  once(
    `demo-${path.basename(folder)}${args.join('')}`,
    ['demo/src', 'packages/core/src'],
    `${folder}/journals.csv`,
    () => {
      console.log('Making the demo ledger…');
      must('Making the demo ledger', process.execPath, ['--import', 'tsx', 'demo/src/main.ts', folder, ...args]);
    },
  );
}

/** Brings the demo package into a workspace file of its own. */
export function importDemo(database = 'var/demo.db') {
  once('demo-import', ['demo/src', 'packages/core/src', 'apps/server/src'], database, () => {
    for (const ending of ['', '-wal', '-shm']) spawnSync('rm', ['-f', path.join(ROOT, database + ending)]);
    must('Bringing in the demo ledger', process.execPath, [
      'apps/server/dist/lens.js',
      'import',
      'var/demo-package',
      '--db',
      database,
    ]);
  });
}

/** Programs with which tests prove what they cannot prove alone, and the packages that bring them. */
const TOOLS = [
  { tool: 'pdftotext', debian: 'poppler-utils' },
  { tool: 'qpdf', debian: 'qpdf' },
  { tool: 'soffice', debian: 'libreoffice-calc-nogui' },
  // its parts for documents and slides have no command of their own
  { tool: '/usr/lib/libreoffice/program/libswlo.so', debian: 'libreoffice-writer-nogui' },
  { tool: '/usr/lib/libreoffice/program/libsdlo.so', debian: 'libreoffice-impress-nogui' },
];

/** Those of them that this machine does not have. */
export const missingTools = () =>
  TOOLS.filter(
    ({ tool }) => spawnSync('sh', ['-c', `command -v ${tool} || test -e ${tool}`], { stdio: 'ignore' }).status !== 0,
  );

/** Installs Debian packages. */
function installDebian(packages) {
  const apt = ['-o', 'DPkg::Lock::Timeout=900'];
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  execFileSync('apt-get', [...apt, 'update', '-qq'], { stdio: 'inherit' });
  const install = [...apt, 'install', '-y', '-qq', '--no-install-recommends', ...packages];
  execFileSync('apt-get', install, { stdio: ['ignore', 'ignore', 'inherit'], env });
}

/** Installs what is missing of the programs that tests prove with. */
export function installTools() {
  const missing = missingTools();
  if (missing.length > 0) installDebian(missing.map(({ debian }) => debian));
}

/** Chromium for the tests in a real browser, from Debian's packages where that is allowed. */
export function ensureChromium() {
  const at = process.env.CHROMIUM ?? '/usr/bin/chromium-headless-shell';
  if (existsSync(at)) return at;
  console.log('Installing chromium-headless-shell…');
  try {
    installDebian(['chromium-headless-shell']);
  } catch {
    fail(
      'The tests in the browser need chromium, and it may not be installed here. Install it (Debian: apt-get install chromium-headless-shell) or set CHROMIUM to its path.',
    );
  }
  return at;
}
