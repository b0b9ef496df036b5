import fc from 'fast-check';
import type { FastifyInstance } from 'fastify';
import { someOf } from '../../test/runs';
import { workspaceOf } from '../../test/tiny-package';
import { buildApp } from '../app';

/** What is asked is the same every time. */
const SEED = 20_261_127;

interface Operation {
  parameters?: { in: string; name: string }[];
  requestBody?: object;
}
type Paths = Record<string, Record<string, Operation>>;

interface Route {
  method: string;
  path: string;
  operation: Operation;
}

interface Request {
  method: string;
  path: string;
  params: string[];
  query: Record<string, string>;
  body: unknown;
  type: string;
}

/** What people, programs and attackers put into an address: known codes, near ones, and none at all. */
const word = fc.oneof(
  fc.constantFrom(
    'ONE',
    'TWO',
    'ALL',
    'PLAN',
    'actual',
    'income_statement',
    'balance_sheet',
    'month_ends',
    'row_layout',
    'statement',
    'accounts',
    'team',
    '4000',
    '2026-02',
    '2026-13',
    '2026-00',
    'FY2026-P01',
    'FY2026-P99',
    'csv',
    'xlsx',
    'pdf',
    'json',
    '1',
    '0',
    '-1',
    '1e300',
    '99999999999999999999',
    'NaN',
    'constructor',
    '__proto__',
    'toString',
    '../../etc/passwd',
    '%00',
    "' or 1=1 --",
    '{',
    '[]',
    '“',
    '=1+1',
    '',
    ' ',
    'true',
    'null',
    'cell~profit~ytd',
    'movement~4000~FY2026-P01~-1~scope:TWO',
    '~~~~',
    'x'.repeat(3000),
  ),
  fc.string({ maxLength: 20 }),
  fc.string({ unit: 'binary', maxLength: 8 }),
);

const leaf = fc.oneof(word, fc.integer(), fc.double(), fc.boolean(), fc.constant(null));
const FIELDS = [
  'scope',
  'code',
  'name',
  'kind',
  'id',
  'document',
  'base',
  'cells',
  'drafts',
  'dropped',
  'steps',
  'rows',
  'key',
  'put',
  'remove',
  'lines',
  'account',
  'period',
  'periods',
  'entities',
  'status',
  'how',
  'label',
  'from',
  'to',
  'columns',
  'statement',
  'text',
  'mapping',
  'again',
  'isComplete',
  'state',
  'settings',
];
const body = fc.letrec<{ value: unknown }>((tie) => ({
  value: fc.oneof(
    { depthSize: 'small' },
    leaf,
    fc.array(tie('value'), { maxLength: 4 }),
    fc.dictionary(fc.oneof(fc.constantFrom(...FIELDS), fc.string({ maxLength: 5 })), tie('value'), { maxKeys: 6 }),
  ),
})).value;

describe('every route, asked anything', () => {
  let app: FastifyInstance;
  // books of their own: what is asked of every route may take the only delivery back
  beforeEach(async () => (app = await buildApp({ databaseFile: await workspaceOf(), webRoot: '/nonexistent' })));
  afterEach(() => app.close());

  it('answers with what it is asked for or with words, and never with a fault of its own', async () => {
    const { paths } = (await app.inject('/api/docs/json')).json<{ paths: Paths }>();
    const routes = Object.entries(paths).flatMap(([path, methods]) =>
      Object.entries(methods).map(([method, operation]) => ({ method: method.toUpperCase(), path, operation })),
    );
    expect(routes.length).toBeGreaterThan(60);
    const requestOf = ({ method, path, operation }: Route): fc.Arbitrary<Request> => {
      const names = (operation.parameters ?? []).filter((each) => each.in === 'query').map(({ name }) => name);
      return fc.record({
        method: fc.constant(method),
        path: fc.constant(path),
        params: fc.array(word, { minLength: 4, maxLength: 4 }),
        query:
          names.length === 0
            ? fc.constant({})
            : fc.dictionary(fc.constantFrom(...names), word, { maxKeys: names.length }),
        body: operation.requestBody || method !== 'GET' ? body : fc.constant(undefined),
        type: fc.constantFrom(
          'application/json',
          'application/json',
          'application/json',
          'multipart/form-data; boundary=x',
          'multipart/form-data',
          'text/plain',
        ),
      });
    };
    for (const route of routes) {
      await fc.assert(
        fc.asyncProperty(requestOf(route), async ({ method, path, params, query, body: sent, type }) => {
          let at = 0;
          const url = path.replace(/\{\w+\}/g, () => encodeURIComponent(params[at++ % params.length]!));
          const isRead = method === 'GET';
          const reply = await app.inject({
            method: method as 'GET',
            url: `${url}?${new URLSearchParams(query)}`,
            ...(isRead ? {} : { payload: JSON.stringify(sent ?? null), headers: { 'content-type': type } }),
          });
          expect([
            method,
            url.slice(0, 200),
            reply.statusCode,
            reply.statusCode >= 500 ? reply.body.slice(0, 300) : '',
          ]).toEqual([method, url.slice(0, 200), reply.statusCode, '']);
          if (reply.statusCode >= 400)
            expect(reply.json<{ message: string }>().message).not.toMatch(/\bat .*:\d+:\d+|SQLITE/);
        }),
        { numRuns: someOf(12), seed: SEED },
      );
    }
  });

  it('takes a good write with one part of it replaced by anything, or refuses it with words', async () => {
    const get = async (url: string) => (await app.inject(`/api/v1${url}`)).json<Record<string, unknown>>();
    const { document: rows, base } = await get('/documents/row_layout/income_by_heading');
    const { document: statement } = await get('/documents/statement/income_statement');
    const { document: columns } = await get('/documents/column_layout/month_ends');
    const cell = { account: '5000', combination: '\u001f', period: 'FY2026-P01', before: 0, after: 100 };
    const [line, other] = [
      { account: '5000', description: '', debit: '1.00', credit: '' },
      { account: '1000', description: '', debit: '', credit: '1.00' },
    ];
    const span = { from: 'FY2026-P01', to: 'FY2026-P12' };
    const context = { scope: 'ONE', as_at: '2026-02' };
    const writes: [method: 'PUT' | 'POST', url: string, body: object][] = [
      ['PUT', '/versions/PLAN/figures', { scope: 'ONE', how: 'typed', label: 'x', cells: [cell] }],
      [
        'POST',
        '/versions',
        { name: 'New', kind: 'plan', ...span, cutOver: '', parent: '', copyOf: 'PLAN', opening: null },
      ],
      [
        'PUT',
        '/versions/PLAN',
        { name: 'Plan', owner: '', editors: [{ person: 'A', entities: [], departments: [] }], opening: null },
      ],
      [
        'POST',
        '/adjustments',
        { entity: 'ONE', date: '2026-02-15', period: '', reason: 'x', reverses: true, lines: [line, other] },
      ],
      ['POST', '/documents/row_layout/income_by_heading/keep', { document: rows, base }],
      ['POST', '/documents', { document: columns }],
      ['PUT', '/documents/drafts', { drafts: [{ document: rows, base, seen: '' }], dropped: [], steps: [] }],
      ['POST', '/statements/preview', { document: statement, rowLayout: rows, columnLayout: columns, context }],
      ['PUT', '/periods', { entities: ['ONE'], periods: ['FY2026-P01'], status: 'closed' }],
      ['PUT', '/setup/tables/entities', { base: 99, put: [['TWO', 'Two', 'JPY', 'cal']], remove: [] }],
      ['POST', '/setup/tables/accounts/uses', { key: ['4000'] }],
    ];
    const write = fc.constantFrom(...writes).chain(([method, url, good]) =>
      fc.record({
        method: fc.constant(method),
        url: fc.constant(url),
        payload: fc.constantFrom(...placesOf(good)).chain((place) => body.map((value) => replaced(good, place, value))),
      }),
    );
    await fc.assert(
      fc.asyncProperty(write, async ({ method, url, payload }) => {
        const reply = await app.inject({ method, url: `/api/v1${url}`, payload: payload as object });
        expect([url, reply.statusCode >= 500 ? reply.body : '']).toEqual([url, '']);
      }),
      { numRuns: someOf(750), seed: SEED },
    );
    expect((await get(`/statements/income_statement?scope=ONE&as_at=2026-02`))['rows']).toBeDefined();
  });
});

type Place = (string | number)[];

/** The ways to every part of a value. */
function placesOf(value: unknown): Place[] {
  if (typeof value !== 'object' || value === null) return [[]];
  return Object.entries(value).flatMap(([key, part]) => [[key], ...placesOf(part).map((place) => [key, ...place])]);
}

function replaced(value: unknown, [first, ...rest]: Place, by: unknown): unknown {
  if (first === undefined) return by;
  if (Array.isArray(value)) return value.map((part, at) => (String(at) === first ? replaced(part, rest, by) : part));
  const parts = value as Record<string, unknown>;
  return { ...parts, [first]: replaced(parts[first], rest, by) };
}
