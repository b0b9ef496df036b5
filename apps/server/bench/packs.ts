import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { monitorEventLoopDelay } from 'node:perf_hooks';
import { setTimeout as after } from 'node:timers/promises';
import type { PackRunView, PackTarget, WorkspaceView } from '@margin-lens/contract';
import type { PackPage } from '@margin-lens/core';
import { buildApp } from '../src/app';

/** A pack of many pages for many: entities, groups and values of dimensions of the demo, a PDF for each. */
const PAGES = 30;
const TARGETS = 60;
const TARGET_S = 180;
const TARGET_MB = 1500;
const TARGET_HELD_MS = 50;
const MONTHS = ['2026-08', '2026-07'];
const FIGURES = [
  ...['income_statement', 'balance_sheet', 'cash_flow', 'costs_by_department_and_month'],
  'sales_by_product_and_channel',
];
const DRAWN = ['net_sales', 'gross_profit', 'operating_profit', 'profit'];

const pages: PackPage[] = [
  { kind: 'cover', id: 'cover' },
  { kind: 'contents', id: 'contents', title: 'Contents' },
  ...Array.from({ length: PAGES - 2 }, (_, at): PackPage => {
    const id = `page_${at}`;
    if (at % 6 === 5) return { kind: 'chart', id, of: 'income_statement', row: DRAWN[at % DRAWN.length]! };
    if (at % 11 === 10) return { kind: 'exceptions', id, of: 'income_statement' };
    const of = FIGURES[at % FIGURES.length]!;
    // each page is one of its own, in another unit or in other columns
    const unit = ([1, 1000, 1_000_000] as const)[Math.floor(at / FIGURES.length) % 3]!;
    const isWide = of === 'income_statement' && at % 2 === 1;
    return { kind: 'figures', id, of, differs: { unit }, ...(isWide && { columns: 'twelve_months' }) };
  }),
];

async function main([demo]: string[]): Promise<void> {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'bench-packs-'));
  const databaseFile = path.join(folder, 'workspace.db');
  cpSync(demo!, databaseFile);
  const app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
  const ask = async <T>(method: 'GET' | 'POST', url: string, payload?: object): Promise<T> => {
    const reply = await app.inject({ method, url: `/api/v1${url}`, ...(payload && { payload }) });
    if (reply.statusCode >= 400) throw new Error(reply.body);
    return reply.json<T>();
  };
  let peak = 0;
  const watch = setInterval(() => (peak = Math.max(peak, process.memoryUsage().rss)), 200);
  try {
    const document = { schema: 1, kind: 'pack', id: 'bench', name: 'Bench', unit: 1000, pages };
    await ask('POST', '/documents', { document });
    const { groups, entities, dimensions } = await ask<WorkspaceView>('GET', '/workspace');
    const values = dimensions.flatMap(({ name, values: held }) =>
      held.map(({ value }): PackTarget => ({ dimension: name, value })),
    );
    const scopes = [...groups, ...entities].map(({ code }): PackTarget => ({ scope: code }));
    const all = [...scopes, ...values];
    const started = performance.now();
    const delay = monitorEventLoopDelay({ resolution: 5 });
    delay.enable();
    let made = 0;
    // where there are fewer than wanted, the month before makes up for them
    for (const as_at of MONTHS) {
      const targets = all.slice(0, TARGETS - made);
      if (targets.length === 0) break;
      const request = { context: { scope: 'LARKMOOR', as_at }, format: 'pdf', targets };
      let run = await ask<PackRunView>('POST', '/packs/bench/runs', request);
      while (run.state === 'running') {
        await after(500);
        run = await ask<PackRunView>('GET', `/packs/runs/${run.id}`);
      }
      made += run.made.length;
      for (const { name, why } of run.failed) console.log(`${name}: ${why}`);
    }
    const seconds = (performance.now() - started) / 1000;
    delay.disable();
    console.log(`${pages.length} pages for ${made}, PDF: ${seconds.toFixed(0)} s, at most ${TARGET_S}`);
    console.log(`event loop held for ${(delay.max / 1e6).toFixed(0)} ms, at most ${TARGET_HELD_MS}`);
    console.log(`largest at ${Math.round(peak / 1e6)} MB, at most ${TARGET_MB}`);
  } finally {
    clearInterval(watch);
    await app.close();
    rmSync(folder, { recursive: true, force: true });
  }
}

await main(process.argv.slice(2));
