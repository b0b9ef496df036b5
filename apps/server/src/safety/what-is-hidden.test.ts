import type { FastifyInstance } from 'fastify';
import { onStore } from '../../test/opened-store';
import { tinyFiles, workspaceOf } from '../../test/tiny-package';
import { buildApp } from '../app';
import { RIGHTS } from '../base/viewer';
import { Person } from '../store/tables';

// what TWO has posted, in words and amounts that nothing else has: 7,373 yen are 57.60 at 128
const FILES = tinyFiles({
  'journals.csv': `${[
    String(tinyFiles()['journals.csv']).trim(),
    'TWO,T1,,1,2026-01-31,,1000,7373,,,Confidential,',
    'TWO,T1,,2,2026-01-31,,4000,,7373,,Confidential,',
  ]
    .join('\n')
    .replace(/^entity.*$/m, (head) => `${head},document_type`)
    .replace(/^TWO.*$/gm, (line) => `${line},confidential`)
    .replace(/^ONE.*$/gm, (line) => `${line},invoice`)}\n`,
  'ownership.csv': 'investor,investee,from,percent,method\nONE,TWO,2026-01-01,100,full\n',
  'rates.csv': ['base,quote,period,type,rate', ...rates('average'), ...rates('closing')].join('\n'),
});
const POSTED = /confidential|7,?373\b/i;
/** As it comes into the group, in cents or in full. */
const TURNED = /\b57\.60\b|\b57,60\b|\b5760\b/;

function rates(type: string): string[] {
  return ['FY2026-P01', 'FY2026-P02'].map((period) => `EUR,JPY,${period},${type},128`);
}

interface Operation {
  parameters?: { in: string; name: string }[];
}

const BY_ENTITY = JSON.stringify({
  ...{ of: ['sales'], down: [{ by: 'entity' }, { by: 'account' }], across: [], open: ['+2'] },
  where: [{ dimension: 'entity', has: 'in', values: ['ONE', 'TWO'] }],
});

const BY_LINES = JSON.stringify({
  ...{ of: ['sales'], down: [{ by: 'document_type' }, { by: 'posting_day' }], across: [{ by: 'posting_period' }] },
  open: ['+2'],
});

/** What is asked of a route by the name of a parameter; the group and both entities in turn are its scope. */
const ASKED: Record<string, readonly string[]> = {
  ...{ scope: ['ALL', 'TWO', 'ONE'], code: ['ALL', 'TWO', 'PLAN'], as_at: ['2026-02'], month: ['2026-01'] },
  columns: ['entities_of_group', 'group_worksheet'],
  ...{ format: ['csv'], view: ['entities'], account: ['4000'], q: ['Confidential'], version: ['actual'] },
  ...{ rule: ['Trade'], one: ['ONE'], other: ['TWO'], statement: ['income_statement'], id: ['income_statement', '1'] },
  ...{ name: ['accounts', 'eliminations'], kind: ['statement'], entity: ['TWO'], person: ['local'], layout: ['free'] },
  address: ['movement~4000~FY2026-P01~-1', 'movement~4000~FY2026-P01~-1~member:TWO'],
  // the statement itself, and its sales by entity, the other one asked for by name
  breakdown: ['', BY_ENTITY, BY_LINES],
  ...{ cell: ['sales.entity:TWO~ytd'], field: ['entity', 'document_type'] },
};

describe('who may see one entity of a group', () => {
  let app: FastifyInstance;
  afterEach(() => app.close());

  async function openFor(entities: string[] | undefined, totals: boolean): Promise<void> {
    const databaseFile = await workspaceOf(FILES);
    await onStore(databaseFile, (store) =>
      store.aside(async ({ em }) => {
        const rights = RIGHTS.filter((right) => right !== 'see_totals' || totals);
        em.assign(await em.findOneOrFail(Person, { id: 'local' }), { rights, ...(entities && { entities }) });
      }),
    );
    app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
  }

  /**
   * The routes that are read whose answers hold what was posted, or turned, whatever of the above they are asked; all of
   * them, or so many as are enough.
   */
  async function routesThatTell(enough = Infinity): Promise<{ asked: number; posted: string[]; turned: string[] }> {
    const { paths } = (await app.inject('/api/docs/json')).json<{ paths: Record<string, Record<string, Operation>> }>();
    const [posted, turned] = [new Set<string>(), new Set<string>()];
    let asked = 0;
    for (const [path, { get }] of Object.entries(paths)) {
      if (!get || path.includes('events') || Math.min(posted.size, turned.size) >= enough) continue;
      const names = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => name!);
      const queries = (get.parameters ?? []).filter((each) => each.in === 'query').map(({ name }) => name);
      for (const values of allOf([...names, ...queries])) {
        const url = path.replace(/\{(\w+)\}/g, (_, name: string) => encodeURIComponent(values[name] ?? '1'));
        const query = new URLSearchParams(
          queries.flatMap((name): [string, string][] => (values[name] ? [[name, values[name]]] : [])),
        );
        const { body } = await app.inject(`${url}?${query}`);
        asked++;
        // what was asked for may be said again
        const told = body.replaceAll(values['q'] ?? '\u0000', '');
        if (POSTED.test(told)) posted.add(path);
        if (TURNED.test(told)) turned.add(path);
      }
    }
    return { asked, posted: [...posted], turned: [...turned] };
  }

  it('reads nothing of another in any answer, neither posted nor turned', async () => {
    await openFor(['ONE'], false);
    const { asked, ...told } = await routesThatTell();
    expect(told).toEqual({ posted: [], turned: [] });
    expect(asked).toBeGreaterThan(100);
  });

  it('reads nothing that another posted where totals may be told', async () => {
    await openFor(['ONE'], true);
    expect((await routesThatTell()).posted).toEqual([]);
  });

  it('would find it: whoever may see all is told of it on many routes', async () => {
    await openFor(undefined, true);
    const { posted, turned } = await routesThatTell(3);
    expect(posted.length).toBeGreaterThan(2);
    expect(turned.length).toBeGreaterThan(2);
  });
});

/** All ways to give values to names that have some. */
function allOf(names: readonly string[]): Record<string, string>[] {
  return names.reduce<Record<string, string>[]>(
    (all, name) =>
      all.flatMap((values) =>
        (ASKED[name] ?? [undefined]).map((value) => ({ ...values, ...(value !== undefined && { [name]: value }) })),
      ),
    [{}],
  );
}
