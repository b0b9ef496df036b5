import fc from 'fast-check';
import type { FastifyInstance } from 'fastify';
import type { LibraryView, StatementView, TraceView, WorkspaceView } from '@margin-lens/contract';
import { demoWorkspace } from '../../test/demo-workspace';
import { buildApp } from '../app';

/** The same questions every time, for as long as this, ms; others, and all of them, by `npm run bench -- --properties`. */
const LIMIT = process.env['WHOLE_PROPERTIES'] ? {} : { seed: 20_261_201, interruptAfterTimeLimit: 6_000 };
const QUESTIONS = 400;
const MONTHS = ['2024-06', '2025-03', '2025-12', '2026-04', '2026-07', '2026-08', '2027-03'];

let app: FastifyInstance;
// before any test, whose time it would take
const DEMO = demoWorkspace();

beforeAll(async () => {
  app = await buildApp({ databaseFile: DEMO, webRoot: '/nonexistent', answeredAtOnce: Infinity });
});
afterAll(() => app.close());

/** What is asked for, of which any part may be left out. */
type Asked = Record<string, string | undefined>;

/** The answer; a fault of ours fails with what was asked for. */
async function ask<T>(path: string, asked: Asked): Promise<T | undefined> {
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(asked)) if (value !== undefined) query.set(name, value);
  const url = `/api/v1${path}?${query}`;
  const { statusCode, body } = await app.inject(url);
  if (statusCode >= 500) throw new Error(`${statusCode} ${url}: ${body}`);
  return statusCode === 200 ? (JSON.parse(body) as T) : undefined;
}

/** What there is in the demo to be asked for together, whether or not it makes sense. */
async function questions() {
  const { groups, entities, versions, dimensions } = (await ask<WorkspaceView>('/workspace', {}))!;
  const { documents } = (await ask<LibraryView>('/documents', {}))!;
  const idsOf = (...kinds: string[]) => documents.filter(({ kind }) => kinds.includes(kind)).map(({ id }) => id);
  const sometimes = (all: readonly string[]) => fc.option(fc.constantFrom(...all), { nil: undefined, freq: 2 });
  const dimension = dimensions.map(({ name }) => name);
  const demands = dimensions.flatMap(({ name, values }) => values.map(({ value }) => `${name}:${value}`));
  return fc.record({
    page: fc.constantFrom(...idsOf('statement', 'breakdown')),
    context: fc.record({
      scope: fc.constantFrom(...[...groups, ...entities].map(({ code }) => code)),
      as_at: fc.constantFrom(...MONTHS),
      columns: sometimes(idsOf('column_layout')),
      version: sometimes(versions.map(({ code }) => code)),
      against: sometimes(versions.map(({ code }) => code)),
      currency: sometimes(['EUR', 'USD', 'PLN', 'JPY']),
      basis: sometimes(['reported', 'books', 'cash']),
      allocation: sometimes([...idsOf('allocation'), 'none']),
      organised: sometimes(['then']),
      where: sometimes(demands),
    }),
    by: fc.constantFrom('accounts', 'rows', 'entities', 'inputs', ...dimension),
    down: fc.constantFrom('partner', 'entity', 'version', ...dimension),
    at: fc.nat(),
  });
}

const pickedFrom = <T>(all: readonly T[], at: number): T | undefined => all[at % Math.max(1, all.length)];

it('whatever is asked of the demo is answered, or refused with a reason', async () => {
  const property = fc.asyncProperty(await questions(), async ({ page, context, by, down, at }) => {
    const path = `/statements/${page}`;
    const view = await ask<StatementView>(path, context);
    const row = pickedFrom(view?.rows.filter(({ cells }) => cells.some(({ amount }) => amount)) ?? [], at);
    const column = pickedFrom(view?.columns ?? [], at);
    if (!row || !column) return;
    const cell = `${row.id}~${column.id}`;
    let address: string | undefined = `cell~${cell}`;
    for (let depth = 0; address !== undefined && depth < 3; depth++) {
      const trace: TraceView | undefined = await ask<TraceView>(`${path}/trace`, { ...context, address });
      address = pickedFrom(trace?.terms.flatMap((term) => term.address ?? []) ?? [], at);
    }
    await ask(`${path}/why`, { ...context, cell, by });
    const breakdown = JSON.stringify({ of: [row.id.split('.')[0]], down: [{ by: down }], across: [] });
    await ask(path, { ...context, breakdown });
  });
  await fc.assert(property, { numRuns: QUESTIONS, ...LIMIT });
});
