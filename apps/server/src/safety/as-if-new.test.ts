import { copyFileSync, existsSync } from 'node:fs';
import path from 'node:path';
import fc from 'fast-check';
import type { FastifyInstance } from 'fastify';
import type { FiguresView, SetupTableView } from '@margin-lens/contract';
import { addressOf, asker, questions } from '../../test/demo-questions';
import { demoWorkspace } from '../../test/demo-workspace';
import { newFolder } from '../../test/tiny-package';
import { buildApp } from '../app';

/** The same questions every time; others, and more of them, by `npm run bench -- --properties`. */
const QUESTIONS = process.env['WHOLE_PROPERTIES'] ? { numRuns: 80 } : { numRuns: 14, seed: 20_261_202 };

let app: FastifyInstance;
// before any test, whose time it would take
const DEMO = demoWorkspace();
const opened = (databaseFile: string) =>
  buildApp({ databaseFile, webRoot: '/nonexistent', answeredAtOnce: Number.POSITIVE_INFINITY });
const ask = asker(() => app);

beforeAll(async () => {
  app = await opened(DEMO);
});
afterAll(() => app.close());

async function write(method: 'POST' | 'PUT', url: string, payload: object): Promise<void> {
  const { statusCode, body } = await app.inject({ method, url: `/api/v1${url}`, payload });
  if (statusCode !== 200) throw new Error(`${statusCode} ${url}: ${body}`);
}

/** Changes a row of a table of the setup: the first that meets a test. */
async function change(name: string, isMeant: (cells: string[]) => boolean, to: (cells: string[]) => string[]) {
  const { revision, rows } = (await ask<SetupTableView>(`/setup/tables/${name}`, {}))!;
  const { cells } = rows.find((row) => isMeant(row.cells))!;
  await write('PUT', `/setup/tables/${name}`, { base: revision, put: [to(cells)], remove: [] });
}

const NOTHING = { partner: '', document: '', currency: '', currencyAmount: '' };

/** One of each kind of what moves figures: postings, rates, structure, trees and plans. */
const WRITES: readonly (() => Promise<void>)[] = [
  () =>
    write('POST', '/adjustments', {
      ...{ entity: 'LMU', date: '2026-08-15', period: '', reason: 'Rent not yet invoiced', reverses: true },
      lines: [
        {
          account: '7400',
          description: 'Rent',
          debit: '1234.50',
          credit: '',
          values: { department: 'sales' },
          ...NOTHING,
        },
        { account: '2400', description: 'Rent', debit: '', credit: '1234.50', values: {}, ...NOTHING },
      ],
    }),
  () =>
    change(
      'rates',
      ([set, , quote, period, , type]) =>
        set === '' && quote === 'USD' && period === 'FY2027-P05' && type === 'average',
      (cells) => cells.with(-1, '1.2345'),
    ),
  () =>
    change(
      'ownership',
      ([, investee]) => investee === 'LMJ',
      (cells) => cells.with(3, '85'),
    ),
  () =>
    change(
      'dimensions',
      ([dimension, value]) => dimension === 'channel' && value === 'online',
      (cells) => cells.with(3, 'retail'),
    ),
  async () => {
    const span = { from: 'FY2027-P07', to: 'FY2027-P08' };
    const { lines, periods } = (await ask<FiguresView>('/figures', { version: 'FORECAST_2', scope: 'LMG', ...span }))!;
    const { account, combination, figures } = lines[0]!;
    const cell = { account, combination, period: periods[0]!, before: figures[0]!, after: 2 * figures[0]! };
    await write('PUT', '/versions/FORECAST_2/figures', { scope: 'LMG', how: 'typed', label: '', cells: [cell] });
  },
];

/** What each of these moves, among other things. */
const MOVED = [
  addressOf('/statements/income_statement', { scope: 'LARKMOOR', as_at: '2026-08', columns: 'entities_of_group' }),
  addressOf('/statements/balance_sheet', { scope: 'LARKMOOR', as_at: '2026-08' }),
  addressOf('/statements/sales_by_product_and_channel', { scope: 'LARKMOOR', as_at: '2026-08' }),
  addressOf('/statements/income_by_month', { scope: 'LMG', as_at: '2026-10', version: 'FORECAST_2' }),
];

/** Opens what is written by now as a server does that has just started. */
async function openedAnew(): Promise<FastifyInstance> {
  const copy = path.join(newFolder(), 'copy.db');
  for (const part of ['', '-wal']) if (existsSync(DEMO + part)) copyFileSync(DEMO + part, copy + part);
  return opened(copy);
}

/** An answer but for how long it took. */
const told = (body: string): string => body.replace(/"evaluatedInMs":[\d.e-]+/g, '');

/** What an application says to some questions, which it can answer. */
async function answersTo(urls: readonly string[]): Promise<string[]> {
  const answers = [];
  for (const url of urls) {
    const { statusCode, body } = await app.inject(url);
    if (statusCode !== 200) throw new Error(`${statusCode} ${url}: ${body}`);
    // every write has a revision of its own
    answers.push(told(body).replace(/"revision":\d+/g, ''));
  }
  return answers;
}

it('whatever was asked and written before, answers are those of a server that has just started', async () => {
  const sampled = fc.sample(await questions(ask), QUESTIONS);
  const drawn = sampled.flatMap(({ page, context, down }) => {
    const breakdown = JSON.stringify({ of: ['net_sales'], down, across: [] });
    return [
      addressOf(`/statements/${page}`, context),
      addressOf('/statements/income_statement', { ...context, breakdown }),
    ];
  });
  const urls = [...MOVED, ...drawn];
  for (const url of urls) await app.inject(url);
  let moved = await answersTo(MOVED);
  for (const each of WRITES) {
    await each();
    const by = await answersTo(MOVED);
    expect(by).not.toEqual(moved);
    moved = by;
  }
  const before = [];
  for (const url of urls) before.push(await app.inject(url));
  const anew = await openedAnew();
  for (const [at, url] of urls.entries()) {
    const { statusCode, body } = await anew.inject(url);
    expect([url, before[at]!.statusCode, told(before[at]!.body)]).toEqual([url, statusCode, told(body)]);
  }
  await anew.close();
});
