import fc from 'fast-check';
import type { FastifyInstance } from 'fastify';
import type { LibraryView, WorkspaceView } from '@margin-lens/contract';

const MONTHS = ['2024-06', '2025-03', '2025-12', '2026-04', '2026-07', '2026-08', '2027-03'];
/** What nobody means. */
const NONSENSE = ['%', '%E0%A4', 'no_such', '', '__proto__', '*', '~'];

/** What is asked for, of which any part may be left out. */
export type Asked = Record<string, string | undefined>;

/** The address of a question. */
export function addressOf(path: string, asked: Asked): string {
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(asked)) if (value !== undefined) query.set(name, value);
  return `/api/v1${path}?${query}`;
}

/** Asks an application; a fault of ours fails with what was asked for, and what is refused is undefined. */
export const asker =
  (app: () => FastifyInstance) =>
  async <T>(path: string, asked: Asked): Promise<T | undefined> => {
    const url = addressOf(path, asked);
    const { statusCode, body } = await app().inject(url);
    if (statusCode >= 500) throw new Error(`${statusCode} ${url}: ${body}`);
    return statusCode === 200 ? (JSON.parse(body) as T) : undefined;
  };

/** What there is in the demo to be asked for together, whether or not it makes sense. */
export async function questions(ask: ReturnType<typeof asker>) {
  const { groups, entities, versions, dimensions } = (await ask<WorkspaceView>('/workspace', {}))!;
  const { documents } = (await ask<LibraryView>('/documents', {}))!;
  const idsOf = (...kinds: string[]) => documents.filter(({ kind }) => kinds.includes(kind)).map(({ id }) => id);
  const sometimes = (all: readonly string[]) =>
    fc.option(fc.oneof({ arbitrary: fc.constantFrom(...all), weight: 40 }, fc.constantFrom(...NONSENSE)), {
      ...{ nil: undefined, freq: 2 },
    });
  const dimension = dimensions.map(({ name }) => name);
  const demands = dimensions.flatMap(({ name, values }) => [
    `${name}:`,
    ...values.map(({ value }) => `${name}:${value}`),
  ]);
  const fields = [
    'partner',
    'entity',
    'account',
    'flow',
    'document_type',
    'posting_period',
    'posting_day',
    ...dimension,
  ];
  const axis = fc.record({
    by: fc.constantFrom(...fields),
    top: fc.option(fc.constant(2), { nil: undefined, freq: 2 }),
  });
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
      where: sometimes([...demands, `${dimension[0]}:%`]),
    }),
    by: fc.constantFrom('accounts', 'rows', 'entities', 'inputs', ...dimension),
    down: fc.uniqueArray(axis, { minLength: 1, maxLength: 2, selector: ({ by }) => by }),
    across: fc.option(axis, { nil: undefined, freq: 2 }),
    at: fc.nat(),
  });
}
