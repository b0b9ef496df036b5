import fc from 'fast-check';
import type { FastifyInstance } from 'fastify';
import type { FigureView, LinesView, StatementView, TraceView, WhyView } from '@margin-lens/contract';
import { asker, questions, type Asked } from '../../test/demo-questions';
import { demoWorkspace } from '../../test/demo-workspace';
import { buildApp } from '../app';

/** The same questions every time, for as long as this, ms; others, and all of them, by `npm run bench -- --properties`. */
const LIMIT = process.env['WHOLE_PROPERTIES'] ? {} : { seed: 20_261_201, interruptAfterTimeLimit: 6_000 };
const QUESTIONS = 400;

let app: FastifyInstance;
const ask = asker(() => app);
// before any test, whose time it would take
const DEMO = demoWorkspace();

beforeAll(async () => {
  app = await buildApp({ databaseFile: DEMO, webRoot: '/nonexistent', answeredAtOnce: Infinity });
});
afterAll(() => app.close());

/** Fails with what was asked for where two figures of it, in the steps of what is shown, are not the same. */
function agree(what: string, asked: Asked, figure: number | null | undefined, same: number | null | undefined): void {
  const isSame = figure === same || Math.abs((figure ?? NaN) - (same ?? NaN)) < 1e-6;
  if (!isSame) throw new Error(`${what}: ${figure} is not ${same}, ${JSON.stringify(asked)}`);
}

const pickedFrom = <T>(all: readonly T[], at: number): T | undefined => all[at % Math.max(1, all.length)];

/** Follows a figure some levels down, a term at each: every level comes to what stood above it. */
async function follow(path: string, asked: Asked, cell: string, shown: FigureView, at: number): Promise<void> {
  let next: { address: string; figure: FigureView } | undefined = { address: `cell~${cell}`, figure: shown };
  for (let depth = 0; next && depth < 6; depth++) {
    const traced: Asked = { ...asked, address: next.address };
    const trace: TraceView | undefined = await ask<TraceView>(`${path}/trace`, traced);
    // what is told has a place, and is told again
    if (next.figure.amount !== null) agree('figure', traced, trace?.figure.amount, next.figure.amount);
    if (!trace) return;
    const { figure, sum, postings, terms } = trace;
    if (sum !== null && figure.amount !== null) agree('sum', traced, sum, figure.amount);
    if (postings) agree('postings', traced, postings.total, figure.amount);
    if (depth === 0) await linesAddUp(traced, trace);
    next = pickedFrom(
      terms.filter((term) => term.figure.amount),
      at,
    );
  }
}

/** The journal lines that a cell is said to be of come to it, where they are of its currency. */
async function linesAddUp(asked: Asked, { lines, figure: { amount, unit } }: TraceView): Promise<void> {
  if (!lines || amount === null || unit.kind !== 'currency') return;
  const { only, ...rest } = lines;
  const ledger = await ask<LinesView>('/ledger/lines', { ...rest, ...(only !== '' && { only }) });
  if (ledger?.scope.currency === unit.code)
    agree('lines', asked, Math.abs(ledger.debit - ledger.credit), Math.abs(amount));
}

/** The parts of a breakdown come to their totals, and these to the statement. */
function addsUp(asked: Asked, view: StatementView | undefined): void {
  const { parts, statement } = view?.breakdown?.proof ?? {};
  agree('parts', asked, parts ?? 0, 0);
  agree('statement', asked, statement ?? 0, 0);
}

it('whatever is asked of the demo is refused with a reason, or answered alike wherever it is asked for', async () => {
  const property = fc.asyncProperty(await questions(ask), async ({ page, context, by, down, across, at }) => {
    const path = `/statements/${page}`;
    const view = await ask<StatementView>(path, context);
    addsUp(context, view);
    const row = pickedFrom(view?.rows.filter(({ cells }) => cells.some(({ amount }) => amount)) ?? [], at);
    const column = pickedFrom(view?.columns ?? [], at);
    if (!view || !row || !column) return;
    const cell = `${row.id}~${column.id}`;
    await follow(path, context, cell, row.cells[view.columns.indexOf(column)]!, at);
    const why = await ask<WhyView>(`${path}/why`, { ...context, cell, by });
    if (why?.problem === null && why.terms.length > 0)
      agree(
        `why by ${by}`,
        { ...context, cell },
        why.terms.reduce((sum, term) => sum + term.amount, why.from),
        why.to,
      );
    const breakdown = JSON.stringify({ of: [row.id.split('.')[0]], down, across: across ? [across] : [] });
    const broken = await ask<StatementView>(path, { ...context, breakdown });
    addsUp({ ...context, page, breakdown }, broken);
  });
  await fc.assert(property, { numRuns: QUESTIONS, ...LIMIT });
});
