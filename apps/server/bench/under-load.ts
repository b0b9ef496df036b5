import { spawn } from 'node:child_process';
import { once } from 'node:events';
import path from 'node:path';
import { parentPort, workerData } from 'node:worker_threads';
import type { FiguresView, VersionView } from '@margin-lens/contract';

const READERS = 50;
/** Between an answer and the next question of a reader, and between two figures of the writer, milliseconds. */
const PAUSE = 1000;
const TYPING = 300;

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

export interface UnderLoad {
  /** Milliseconds; each as [median, 99 in 100]. */
  reads: [number, number];
  writes: [number, number];
  /** Writes that were asked to come again, since the delivery was being written. */
  refused: number;
  seconds: number;
}

/** What the clients are given; they are a thread of their own, so that their work does not count as the server's. */
export interface LoadData {
  address: string;
  databaseFile: string;
  /** Folder of a package. */
  delivery: string;
  scope: Record<string, string>;
}

const at = (times: readonly number[], part: number) =>
  [...times].sort((a, b) => a - b)[Math.min(times.length - 1, Math.floor(times.length * part))] ?? NaN;
const both = (times: readonly number[]): [number, number] => [at(times, 0.5), at(times, 0.99)];

/**
 * Fifty people read statements, a second after the one before, and one types figures of a plan, for as long as a delivery
 * is brought in by another process.
 */
async function underLoad({ address, databaseFile, delivery, scope }: LoadData): Promise<UnderLoad> {
  const ask = (url: string, init?: RequestInit) => fetch(`${address}/api/v1${url}`, init);
  const versions = (await (await ask('/versions')).json()) as VersionView[];
  const plan = versions.find(({ kind, state }) => kind === 'plan' && state === 'draft')!;
  const place = `version=${plan.code}&scope=${scope['scope']}&from=${plan.from}&to=${plan.from}`;
  const figures = (await (await ask(`/figures?${place}`)).json()) as FiguresView;
  const { account, combination, figures: held } = figures.lines[0]!;
  const lens = path.join(import.meta.dirname, 'lens.js');
  const started = performance.now();
  const importing = spawn(process.execPath, [lens, 'import', delivery, '--db', databaseFile], { stdio: 'ignore' });
  let isOver = false;
  const over = once(importing, 'exit').then(() => (isOver = true));
  const [reads, writes]: [number[], number[]] = [[], []];
  let refused = 0;
  const reader = async (number: number) => {
    await pause((PAUSE * number) / READERS);
    const query = new URLSearchParams({ ...scope, columns: number % 2 ? 'twelve_months' : 'against_plan' });
    while (!isOver) {
      const begun = performance.now();
      await (await ask(`/statements/income_statement?${query}`)).text();
      reads.push(performance.now() - begun);
      await pause(PAUSE);
    }
  };
  const writer = async () => {
    for (let [now, n] = [held[0]!, 1]; !isOver; n++) {
      const cells = [{ account, combination, period: plan.from, before: now, after: n * 100 }];
      const body = JSON.stringify({ scope: scope['scope'], how: 'typed', label: '', cells });
      const init = { method: 'PUT', headers: { 'content-type': 'application/json' }, body };
      const begun = performance.now();
      const { ok } = await ask(`/versions/${plan.code}/figures`, init);
      if (ok) writes.push(performance.now() - begun);
      else refused++;
      if (ok) now = n * 100;
      await pause(TYPING);
    }
  };
  await Promise.all([over, writer(), ...Array.from({ length: READERS }, (_, number) => reader(number))]);
  const seconds = (performance.now() - started) / 1000;
  return { reads: both(reads), writes: both(writes), refused, seconds };
}

parentPort!.postMessage(await underLoad(workerData as LoadData));
