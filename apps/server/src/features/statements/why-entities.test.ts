import type { FastifyInstance } from 'fastify';
import type { StatementView, WhyView } from '@margin-lens/contract';
import { asking } from '../../../test/asking';
import { type PackageFiles, tinyFiles, workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';
import { CONTROLLER } from '../../../test/opened-store';
import { Store } from '../../store/store';
import type { Viewer } from '../../base/viewer';
import { Workspace } from '../workspace/workspace';
import { whyView } from './why-view';

let app: FastifyInstance | undefined;
const start = async (change: PackageFiles = {}) => {
  const databaseFile = await workspaceOf(tinyFiles({ ...GROUP, ...change }));
  app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
};
afterEach(async () => {
  await app?.close();
  app = undefined;
});

const ask = asking(() => app!);

/** One (EUR) holds 80 % of Two (JPY) from February on; Two sells for 163,270 yen in January and 170,000 in February. */
const sale = (journal: string, day: string, yen: number) => [
  `TWO,${journal},,1,${day},,1000,${yen},,,Sales,`,
  `TWO,${journal},,2,${day},,4000,,${yen},,Sales,`,
];
const GROUP: PackageFiles = {
  'ownership.csv': 'investor,investee,from,percent,method\nONE,TWO,2026-02-01,80,full\n',
  'rates.csv': 'base,quote,period,type,rate\nEUR,JPY,FY2026-P01,average,163.27\nEUR,JPY,FY2026-P02,average,170.00\n',
  'figures.csv': [
    'version,entity,account,period,amount,quantity',
    'PLAN,ONE,4000,FY2026-P01,900.00,',
    'PLAN,ONE,4000,FY2026-P02,100.00,',
    'PLAN,TWO,4000,FY2026-P01,163270,',
    'PLAN,TWO,4000,FY2026-P02,85000,',
    '',
  ].join('\n'),
  'journals.csv': `${tinyFiles()['journals.csv']!.toString()}${[...sale('T1', '2026-01-31', 163_270), ...sale('T2', '2026-02-28', 170_000)].join('\n')}\n`,
};

async function why(span: 'month' | 'year', scope = 'ONE'): Promise<WhyView> {
  const context = { scope, as_at: 'FY2026-P02', columns: 'against_plan' };
  const { body } = await ask<StatementView>('GET', `/statements/income_statement?${new URLSearchParams(context)}`);
  const result = body.rows.findLast(({ cells }) => cells.length > 0)!;
  const change = body.columns.filter(({ id }) => id.endsWith('change'))[span === 'month' ? 0 : 1]!;
  const query = new URLSearchParams({ ...context, cell: `${result.id}~${change.id}`, by: 'entities' });
  return (await ask<WhyView>('GET', `/statements/income_statement/why?${query}`)).body;
}

describe('why by entities', () => {
  // February: One has −300 of rent against 100 of planned sales; Two 170,000 ÷ 170 = 1,000 against 85,000 ÷ 170 = 500
  it('puts the entities together in the reporting currency, and adds up to their change', async () => {
    await start();
    const view = await why('month');
    expect(view).toMatchObject({
      from: 60_000,
      to: 70_000,
      unit: { kind: 'currency', code: 'EUR', digits: 2 },
      problem: null,
    });
    expect(view.terms.map(({ label, amount, favour }) => [label, amount, favour])).toEqual([
      ['Two', 50_000, 'favourable'],
      ['One', -40_000, 'adverse'],
    ]);
    expect(view.row).toBe('Profit for the period, All');
    expect(view.basis).toContain('This is the figure of All');
    expect(view.basis).toContain('with eliminations, in EUR');
    // the very figure that the group shows, and told apart alike when it is looked at itself
    expect(await why('month', 'ALL')).toMatchObject({ row: 'Profit for the period', from: 60_000, to: 70_000 });
    expect((await why('month', 'TWO')).problem).toBe(
      'Two heads no group, so that there are no entities to tell it apart by.',
    );
  });

  it('counts a subsidiary from the day on that it is held, each month at its own rate', async () => {
    await start();
    // One: 1,000 − 300 against 900 + 100; Two from February on: 1,000 against 500
    expect(await why('year')).toMatchObject({ from: 100_000 + 50_000, to: 70_000 + 100_000 });
    await app!.close();
    await start({ 'ownership.csv': 'investor,investee,from,percent,method\nONE,TWO,2026-01-01,80,full\n' });
    // and January, 163,270 ÷ 163.27 = 1,000 on both sides
    expect(await why('year')).toMatchObject({ from: 100_000 + 150_000, to: 70_000 + 200_000 });
  });

  it('keeps the months of a subsidiary that was sold since', async () => {
    const holdings =
      'investor,investee,from,percent,method\nONE,TWO,2026-01-01,80,full\nONE,TWO,2026-02-15,0,full\nONE,THREE,2026-01-01,100,full\n';
    await start({
      'ownership.csv': holdings,
      'entities.csv': `${tinyFiles()['entities.csv']!.toString()}THREE,Three,EUR,cal\n`,
    });
    // One as before; of Two only January, 1,000 on both sides: control is lost within February
    expect(await why('year')).toMatchObject({ from: 100_000 + 100_000, to: 70_000 + 100_000 });
  });

  it('is told to nobody who may not see all entities', async () => {
    const databaseFile = await workspaceOf(tinyFiles(GROUP));
    const workspace = new Workspace(await Store.open(databaseFile));
    const viewer: Viewer = { ...CONTROLLER, name: 'Reader', rights: new Set(['read']), entities: new Set(['ONE']) };
    const asked = {
      scope: 'ONE',
      as_at: 'FY2026-P02',
      columns: 'against_plan',
      cell: 'goods~ytd_change',
      by: 'entities',
    };
    const view = await workspace.read(viewer, (snapshot) => whyView(snapshot, 'income_statement', asked));
    expect(view).toMatchObject({ terms: [], problem: 'You may not see all entities of All.' });
    expect(JSON.stringify(view)).not.toContain('Two');
    const ofGroup = workspace.read(viewer, (snapshot) =>
      whyView(snapshot, 'income_statement', { ...asked, scope: 'ALL' }),
    );
    await expect(ofGroup).rejects.toMatchObject({ code: 'SRV_SCOPE_NOT_PERMITTED' });
    await workspace.close();
  });

  it('says which rates are missing, rather than leave the months out', async () => {
    await start({ 'rates.csv': 'base,quote,period,type,rate\nEUR,JPY,FY2026-P01,average,163.27\n' });
    const { terms, problem } = await why('month');
    expect(terms).toEqual([]);
    expect(problem).toBe(
      'The figure of All cannot be told: no average rate JPY to EUR for February 2026. Bring rates in under Deliveries, or choose a span that ends sooner.',
    );
  });

  it('has nothing to tell apart for an entity that stands alone, or in a group that is not consolidated', async () => {
    await start({ 'ownership.csv': 'investor,investee,from,percent,method\nONE,TWO,2026-02-01,30,equity\n' });
    expect((await why('month')).problem).toBe('All consolidates one entity alone.');
  });
});
