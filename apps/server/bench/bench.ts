import { once } from 'node:events';
import {
  cpSync,
  createReadStream,
  createWriteStream,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  rmSync,
  statSync,
} from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { monitorEventLoopDelay } from 'node:perf_hooks';
import { createInterface } from 'node:readline';
import { Worker } from 'node:worker_threads';
import Database from 'better-sqlite3';
import {
  attributesOf,
  Evaluation,
  evaluateStatement,
  netOf,
  openStatement,
  type StatementSource,
} from '@margin-lens/core';
import type { ImportRunView } from '@margin-lens/contract';
import { buildApp } from '../src/app';
import { LOCAL_PERSON } from '../src/store/people';
import { Store } from '../src/store/store';
import { importPackage } from '../src/features/imports/import-package';
import { openPackage } from '../src/features/imports/package-source';
import { openKept } from '../src/features/statements/open-statement';
import type { Snapshot } from '../src/features/workspace/snapshot';
import { Workspace } from '../src/features/workspace/workspace';
import { afterWrites, type Ask } from './after-writes';
import { columnar, type Columnar } from './columnar';
import { largeGroup } from './large-group';
import { manyRows, SIXTY_COLUMNS, sixtyRows } from './layouts';
import type { LoadData, UnderLoad } from './under-load';

/** Runs of what is measured by its median. */
const RUNS = 200;
/** The month of the demo books that is not closed. */
const OPEN_MONTH = '2026-08';
const DIMENSIONS = ['department', 'product_line', 'region'];
const SCOPE = { scope: 'LMT', as_at: '2026-08' };
const BREAKDOWNS = {
  'an entity by two dimensions': { scope: 'LMT', fields: ['product_line', 'channel'], most: 150 },
  'a group by two dimensions': { scope: 'LARKMOOR', fields: ['product_line', 'channel'], most: 150 },
  'a group by other fields, dragged there': { scope: 'LARKMOOR', fields: ['entity', 'region'], most: 150 },
  'an entity by week and channel': { scope: 'LMT', fields: ['posting_day', 'channel'], most: 400 },
  'an entity by customer and document type': { scope: 'LMT', fields: ['partner', 'document_type'], most: 400 },
};

const megabytes = (bytes: number) => `${Math.round(bytes / 1e6)} MB`;
const times = (ratio: number) => `${ratio.toPrecision(3)} ×`;
const print = (what: string, measured: string, target = '') =>
  console.log(`${what.padEnd(58)} ${measured.padStart(16)}  ${target}`);

async function median(run: () => unknown, runs = RUNS): Promise<number> {
  const times: number[] = [];
  for (let i = 0; i < runs; i++) {
    const started = performance.now();
    await run();
    times.push(performance.now() - started);
  }
  return times.sort((a, b) => a - b)[Math.floor(runs / 2)]!;
}

async function measureImport(folder: string, file: string): Promise<{ linesPerSecond: number }> {
  const source = await openPackage(folder);
  const store = await Store.open(file);
  let peak = 0;
  const watch = () => (peak = Math.max(peak, process.memoryUsage().rss));
  const started = performance.now();
  const outcome = await importPackage(store, {
    source,
    fileName: 'bench',
    digest: 'bench',
    person: LOCAL_PERSON,
    onProgress: watch,
    isCancelled: () => false,
    now: () => new Date(),
  });
  const seconds = (performance.now() - started) / 1000;
  watch();
  await store.close();
  if (outcome.state !== 'done') throw new Error(`the import is ${outcome.state}`);
  const { lines } = outcome.counts;
  print('Lines', lines.toLocaleString('en'));
  print('First load with all checks', `${Math.round(lines / seconds).toLocaleString('en')} lines/s`, 'target 200,000');
  print('  seconds', seconds.toFixed(1));
  print('  peak memory of the whole process', megabytes(peak));
  print('Workspace file', megabytes(statSync(file).size));
  return { linesPerSecond: lines / seconds };
}

/** Searches once the index of words, which is built behind the books, has reached them. */
async function measureSearch(file: string, get: (url: string) => Promise<string>): Promise<void> {
  const db = new Database(file, { readonly: true });
  const behind = db
    .prepare('select (select max(id) from journal_line) - indexed_to as lines from search_state')
    .pluck();
  const started = performance.now();
  const lines = behind.get() as number;
  while ((behind.get() as number) > 50_000) await new Promise((resolve) => setTimeout(resolve, 200));
  const seconds = (performance.now() - started) / 1000;
  print(
    'Index of words behind the books',
    `${Math.round(lines / Math.max(seconds, 0.001)).toLocaleString('en')} lines/s`,
  );
  db.close();
  for (const [what, q] of [
    ['a common word', 'sales'],
    ['two words', 'freight july'],
    ['an amount', '12,540.00'],
    ['what is not there', 'zeppelin'],
  ] as const) {
    const search = await median(() => get(`/ledger/lines?${new URLSearchParams({ scope: SCOPE.scope, q })}`), 20);
    print(`Search for ${what} over HTTP, median`, `${search.toFixed(0)} ms`, 'target 200 ms');
  }
  const page = await median(
    () => get(`/ledger/lines?${new URLSearchParams({ scope: SCOPE.scope, account: '6400' })}`),
    20,
  );
  print('Page of the lines of an account over HTTP, median', `${page.toFixed(0)} ms`);
}

/** A package of the journals of the open month, once more under other numbers: what comes after the first load. */
async function laterDelivery(folder: string, target: string, prefix: string): Promise<void> {
  mkdirSync(target);
  for (const name of readdirSync(folder))
    if (name !== 'journals.csv') cpSync(path.join(folder, name), path.join(target, name), { recursive: true });
  const out = createWriteStream(path.join(target, 'journals.csv'));
  const lines = createInterface({ input: createReadStream(path.join(folder, 'journals.csv')) });
  let places: { journal: number; date: number } | undefined;
  for await (const line of lines) {
    const cells = line.split(',');
    if (places && !cells[places.date]!.startsWith(OPEN_MONTH)) continue;
    if (places) cells[places.journal] = `${prefix}${cells[places.journal]}`;
    places ??= { journal: cells.indexOf('journal'), date: cells.indexOf('date') };
    if (!out.write(`${cells.join(',')}\n`)) await once(out, 'drain');
  }
  out.end();
  await once(out, 'finish');
}

async function measureLater(folder: string, file: string, temporary: string): Promise<void> {
  const target = path.join(temporary, 'later');
  await laterDelivery(folder, target, 'N');
  const source = await openPackage(target);
  const store = await Store.open(file);
  const started = performance.now();
  const outcome = await importPackage(store, {
    source,
    fileName: 'later',
    digest: 'later',
    person: LOCAL_PERSON,
    onProgress: () => undefined,
    isCancelled: () => false,
    now: () => new Date(),
  });
  const seconds = (performance.now() - started) / 1000;
  await store.close();
  if (outcome.state !== 'done') throw new Error(`the later delivery is ${outcome.state}`);
  const rate = `${Math.round(outcome.counts.lines / seconds).toLocaleString('en')} lines/s`;
  print(`Later delivery of ${outcome.counts.lines.toLocaleString('en')} lines`, rate, 'target 100,000');
}

/** Where the benchmark reads and writes. */
interface Places {
  folder: string;
  file: string;
  temporary: string;
}

/** Why by entity and the statement of the group, over HTTP. */
async function measureGroup(get: (url: string) => Promise<string>): Promise<void> {
  const query = new URLSearchParams({ scope: 'LARKMOOR', as_at: SCOPE.as_at, columns: 'twelve_months' });
  const group = await median(() => get(`/statements/income_statement?${query}`), 50);
  print('Statement of the group over HTTP, median', `${group.toFixed(1)} ms`);
  const asked = new URLSearchParams({
    ...{ scope: 'LMG', as_at: SCOPE.as_at, columns: 'against_plan', by: 'entities' },
    cell: 'gross_profit~ytd_change',
  });
  const why = await median(() => get(`/statements/income_statement/why?${asked}`), 20);
  print('Why by entity over HTTP, median', `${why.toFixed(0)} ms`, 'target 150 ms');
}

/** How long the event loop is held while files are made. */
async function measureExports(get: (url: string) => Promise<string>): Promise<void> {
  const delay = monitorEventLoopDelay({ resolution: 5 });
  const query = new URLSearchParams({ ...SCOPE, columns: 'twelve_months' });
  for (const format of ['pdf', 'xlsx']) {
    await get(`/statements/income_statement/export?${query}&format=${format}`);
    delay.reset();
    delay.enable();
    const ms = await median(() => get(`/statements/income_statement/export?${query}&format=${format}`), 8);
    delay.disable();
    print(`Statement as ${format.toUpperCase()} over HTTP, median`, `${ms.toFixed(0)} ms`);
    print('  longest hold of the event loop', `${(delay.max / 1e6).toFixed(0)} ms`, 'target 50 ms');
  }
}

/** Sums of an entity by values of some dimensions, and by month, in one pass over its rows of the cube. */
async function sumsByValues(snapshot: Snapshot, dimensions: readonly string[], byMonth: boolean): Promise<number> {
  const books = await snapshot.books();
  const entity = snapshot.filled.entity(SCOPE.scope)!;
  const { combinations } = books.balances;
  return median(() => {
    const sums = new Map<string, number>();
    const values = new Map<number, string>();
    books.rows(entity, { version: 'actual', basis: 'reported' })((_, period, __, combination, row, amounts) => {
      let held = values.get(combination);
      if (held === undefined) {
        const attributes = attributesOf(combinations.textOf(combination));
        values.set(combination, (held = dimensions.map((name) => attributes.get(name) ?? '').join('|')));
      }
      const key = byMonth ? `${held}|${period}` : held;
      sums.set(key, (sums.get(key) ?? 0) + netOf(amounts, row));
    });
    return sums.size;
  }, 20);
}

/** Takes the latest delivery out again, and asks for a statement behind it. */
async function measureUndo(ask: (url: string, init?: RequestInit) => Promise<Response>): Promise<void> {
  const { runs } = (await (await ask('/imports')).json()) as { runs: ImportRunView[] };
  const latest = runs.find(({ canUndo }) => canUndo)!;
  const delay = monitorEventLoopDelay({ resolution: 5 });
  delay.enable();
  const started = performance.now();
  await ask(`/import-runs/${latest.id}/undo`, { method: 'POST' });
  const seconds = (performance.now() - started) / 1000;
  delay.disable();
  const { lines } = latest.counts;
  print(
    `Undo of a delivery of ${lines.toLocaleString('en')} lines`,
    `${Math.round(lines / seconds).toLocaleString('en')} lines/s`,
    'target 100,000',
  );
  print('  longest hold of the event loop', `${(delay.max / 1e6).toFixed(0)} ms`, 'target 50 ms');
}

async function measureReading(
  { folder, file, temporary }: Places,
  rivals: Columnar,
  linesPerSecond: number,
): Promise<void> {
  global.gc?.();
  const started = performance.now();
  const app = await buildApp({ databaseFile: file });
  const address = await app.listen({ port: 0, host: '127.0.0.1' });
  const get = async (url: string) => (await fetch(`${address}/api/v1${url}`)).text();
  await get('/workspace');
  print('Start, until the frame has its data', `${Math.round(performance.now() - started)} ms`, 'target 2,000 ms');
  const query = new URLSearchParams({ ...SCOPE, columns: 'twelve_months' });
  const first = performance.now();
  await get(`/statements/income_statement?${query}`);
  print('First statement of an entity (reads its balances)', `${(performance.now() - first).toFixed(1)} ms`);

  const workspace = new Workspace(await Store.open(file));
  const snapshot = await workspace.at(await workspace.viewer(LOCAL_PERSON));
  const opened = await openKept(snapshot, 'income_statement', { ...SCOPE, columns: 'twelve_months' });
  const source: StatementSource = {
    ...opened.source,
    rowLayout: sixtyRows(opened.source.slice.accounts.map(({ number }) => number)),
  };
  const compiled = openStatement(source);
  const engine = await median(() => evaluateStatement(source, new Evaluation(compiled.input)));
  print(
    `Statement in the engine, ${compiled.input.rows.rows.length} rows × ${compiled.input.columns.columns.length} columns, median`,
    `${engine.toFixed(2)} ms`,
    'target 2 ms',
  );
  const wide: StatementSource = {
    ...opened.source,
    rowLayout: manyRows(source.slice.accounts),
    columnLayout: SIXTY_COLUMNS,
  };
  const wideCompiled = openStatement(wide);
  const wideMs = await median(() => evaluateStatement(wide, new Evaluation(wideCompiled.input)), 20);
  print(
    `Statement in the engine, ${wideCompiled.input.rows.rows.length} rows × ${wideCompiled.input.columns.columns.length} columns, median`,
    `${wideMs.toFixed(1)} ms`,
  );
  const http = await median(() => get(`/statements/income_statement?${query}`));
  print('Statement over HTTP, median', `${http.toFixed(1)} ms`, 'target 15 ms');
  const trace = await median(
    () =>
      get(
        `/statements/income_statement/trace?${new URLSearchParams({ ...SCOPE, address: 'movement~6400~FY2027-P05~-1' })}`,
      ),
    50,
  );
  print('Trace to postings over HTTP, median', `${trace.toFixed(1)} ms`, 'target 100 ms');
  await measureGroup(get);
  await measureExports(get);
  await measureSearch(file, get);
  print('Memory after that', megabytes(process.memoryUsage().rss), 'target 1,500 MB');

  const db = new Database(file, { readonly: true });
  const plain = db.prepare(
    'select account, period, sum(debit) - sum(credit) from journal_line where entity = ? group by account, period',
  );
  const sql = await median(() => plain.all(snapshot.filled.entity(SCOPE.scope)!.id), 3);
  print('Plain SQL GROUP BY account, period over the same lines', `${sql.toFixed(0)} ms`);
  print('  the statement in the engine is faster by', `${Math.round(sql / engine).toLocaleString('en')} ×`);
  print('  the statement over HTTP is faster by', `${Math.round(sql / http).toLocaleString('en')} ×`);
  db.close();
  const { accountAndMonth, twoDimensions, threeAndMonth } = rivals;
  const sqlLines = (1000 * rivals.lines) / rivals.loadMs;
  print('Columnar SQL engine, load with types', `${Math.round(sqlLines).toLocaleString('en')} lines/s`);
  print('  sums by account and month', `${accountAndMonth.toFixed(1)} ms`);
  print('  sums by two dimensions, by three and month', `${twoDimensions.toFixed(1)}, ${threeAndMonth.toFixed(1)} ms`);
  print('  the statement in the engine is faster by', times(accountAndMonth / engine), 'target 120 × at 5 million');
  print('  the statement over HTTP is faster by', times(accountAndMonth / http), 'target 12 × at 5 million');
  print('  import against its load', times(linesPerSecond / sqlLines), 'target 0.25');
  const byTwo = await sumsByValues(snapshot, DIMENSIONS.slice(0, 2), false);
  const byThree = await sumsByValues(snapshot, DIMENSIONS, true);
  print('Sums by two dimensions, by three and month, over the cube', `${byTwo.toFixed(1)}, ${byThree.toFixed(1)} ms`);
  print('  faster by', `${times(twoDimensions / byTwo)}, ${times(threeAndMonth / byThree)}`, 'target 1.5 ×');
  const large = largeGroup(snapshot.filled, snapshot.filled.entity(SCOPE.scope)!.calendar);
  const cold = performance.now();
  large.books(0).ofScope(large.scope);
  print(
    `Books of 60 entities in 12 currencies (${large.rows.toLocaleString('en')} balances), cold`,
    `${(performance.now() - cold).toFixed(0)} ms`,
    'target 150 ms',
  );
  let stamp = 0;
  const moved = await median(() => large.books(++stamp).ofScope(large.scope), 9);
  print('  after the rates of one currency changed', `${moved.toFixed(0)} ms`, 'target 25 ms');
  const consolidated = performance.now();
  const { terms } = large.books(stamp).ofScope(large.consolidated).eliminations!;
  print(
    `  consolidated (${terms.length.toLocaleString('en')} lines of eliminations), members known`,
    `${(performance.now() - consolidated).toFixed(0)} ms`,
  );
  const again = await median(() => large.books(++stamp).ofScope(large.consolidated), 5);
  print('  the same after the rates of one currency changed', `${again.toFixed(0)} ms`);
  await snapshot.close();
  await workspace.close();
  const ask = async (method: string, url: string, body?: object) => {
    const init = body && { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) };
    return (await fetch(`${address}/api/v1${url}`, { method, ...init })).json();
  };
  for (const [what, { scope, fields, most }] of Object.entries(BREAKDOWNS)) {
    const [down, across] = fields.map((by) => [{ by }]);
    const breakdown = JSON.stringify({ of: ['net_sales'], down, across });
    const query = new URLSearchParams({ ...SCOPE, scope, columns: 'against_plan', breakdown });
    const started = performance.now();
    await ask('GET', `/statements/income_statement?${query}`);
    const first = performance.now() - started;
    const known = await median(() => ask('GET', `/statements/income_statement?${query}`), 9);
    print(
      `Breakdown of ${what} over HTTP, first and then`,
      `${first.toFixed(0)}, ${known.toFixed(0)} ms`,
      `target ${most} ms`,
    );
  }
  for (const { what, writeMs, statementMs } of await afterWrites(ask as Ask, SCOPE)) {
    print(`Write of ${what} over HTTP, median`, `${writeMs.toFixed(1)} ms`);
    print('  first statement after it', `${statementMs.toFixed(1)} ms`, 'target 5 ms');
    print('  against the columnar engine', times(accountAndMonth / statementMs), 'target 12 × at 5 million');
  }
  const third = path.join(temporary, 'third');
  await laterDelivery(folder, third, 'M');
  const asked = (url: string, init?: RequestInit) => fetch(`${address}/api/v1${url}`, init);
  const delay = monitorEventLoopDelay({ resolution: 5 });
  delay.enable();
  const clients = new Worker(path.join(import.meta.dirname, 'under-load.js'), {
    workerData: { address, databaseFile: file, delivery: third, scope: SCOPE } satisfies LoadData,
  });
  const [load] = (await once(clients, 'message')) as [UnderLoad];
  delay.disable();
  print(
    `50 readers, a writer and a delivery, ${load.seconds.toFixed(0)} s: a read, median`,
    `${load.reads[0].toFixed(0)} ms`,
  );
  print('  99 in 100 reads within', `${load.reads[1].toFixed(0)} ms`, 'target 250 ms');
  print('  99 in 100 writes within', `${load.writes[1].toFixed(0)} ms`, 'target 500 ms');
  print('  writes that were asked to come again', String(load.refused));
  print('  longest hold of the event loop', `${(delay.max / 1e6).toFixed(0)} ms`, 'target 50 ms');
  await measureUndo(asked);
  await app.close();
}

const folder = process.argv[2]!;
const temporary = mkdtempSync(path.join(os.tmpdir(), 'margin-lens-bench-'));
const file = path.join(temporary, 'bench.db');
try {
  const { linesPerSecond } = await measureImport(folder, file);
  await measureLater(folder, file, temporary);
  // in the same run over the same lines, so that how fast the machine is just now does not count
  const rivals = await columnar(path.join(folder, 'journals.csv'), SCOPE.scope, DIMENSIONS);
  await measureReading({ folder, file, temporary }, rivals, linesPerSecond);
} finally {
  rmSync(temporary, { recursive: true, force: true });
}
