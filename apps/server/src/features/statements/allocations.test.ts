import type { AllocationEffectView, DocumentView, StatementView, TraceView } from '@margin-lens/contract';
import type { AllocationDocument } from '@margin-lens/core';
import { onStore } from '../../../test/opened-store';
import { servedPackage } from '../../../test/served-app';
import { tinyFiles, workspaceOf, type PackageFiles } from '../../../test/tiny-package';
import { buildApp } from '../../app';
import { RIGHTS } from '../../base/viewer';
import { Person } from '../../store/tables';

// Horngren, Datar, Rajan, Cost Accounting: A Managerial Emphasis, ch. 15, Castleford Engineering (from memory, recomputed): two
// support departments, plant maintenance by hours and information systems by computer hours, and two operating departments.

const { ask, serve } = servedPackage();

const OVERHEADS = { maintenance: 600_000, systems: 116_000, machining: 400_000, assembly: 200_000 };
const MAINTENANCE_HOURS = { systems: 1_600, machining: 2_400, assembly: 4_000 };
const COMPUTER_HOURS = { maintenance: 200, machining: 1_600, assembly: 200 };

const account = (number: string) => ({ include: [{ by: 'account' as const, number }] });

function castleford(method: AllocationDocument['method'], of: 'movement' | 'closing' = 'movement'): AllocationDocument {
  const operating = ['machining', 'assembly'];
  return {
    ...{
      schema: 1,
      kind: 'allocation',
      id: method,
      name: method,
      dimension: 'department',
      accounts: account('6000'),
      method,
    },
    steps: [
      {
        ...{ id: 'maintenance', name: 'Maintenance by hours', from: ['maintenance'] },
        to: method === 'direct' ? operating : ['systems', ...operating],
        key: { by: 'accounts', accounts: account('9100'), of },
      },
      {
        ...{ id: 'systems', name: 'Systems by computer hours', from: ['systems'], to: operating },
        key: { by: 'accounts', accounts: account('9200'), of },
      },
    ],
  };
}

function files(...allocations: AllocationDocument[]): PackageFiles {
  const stated = (number: string, hours: Record<string, number>) =>
    Object.entries(hours).map(
      ([department, count]) => `ONE,H${number},,LINE,2026-01-31,,${number},,,${count},${department}`,
    );
  const lines = [
    ...Object.entries(OVERHEADS).map(
      ([department, amount]) => `ONE,J1,,LINE,2026-01-31,,6000,${amount},,,${department}`,
    ),
    `ONE,J1,,LINE,2026-01-31,,1000,,1316000,,`,
    ...stated('9100', MAINTENANCE_HOURS),
    ...stated('9200', COMPUTER_HOURS),
    // February: costs, and nobody's hours
    'ONE,J2,,LINE,2026-02-28,,6000,100,,,maintenance',
    'ONE,J2,,LINE,2026-02-28,,1000,,100,,',
  ];
  const planned = [
    'PLAN,ONE,6000,FY2026-P01,1200,,maintenance',
    'PLAN,ONE,6000,FY2026-P01,100,,machining',
    'PLAN,ONE,9100,FY2026-P01,,3,machining',
    'PLAN,ONE,9100,FY2026-P01,,1,assembly',
  ];
  return tinyFiles({
    'entities.csv': 'code,name,currency,calendar\nONE,One,USD,cal\n',
    'groups.csv': 'code,name,currency,calendar,top_entity,parent_group\nALL,All,EUR,cal,ONE,\n',
    'rates.csv':
      'set,base,quote,period,date,type,rate\n,USD,EUR,FY2026-P01,,average,0.9137\n,USD,EUR,FY2026-P01,,closing,0.9\n',
    'accounts.csv': [
      'number,name,nature,category,subcategory,role,behaviour',
      '1000,Cash,asset,Current,Cash,cash,',
      '3000,Retained earnings,equity,Equity,Reserves,retained_earnings,',
      '6000,Overheads,expense,Costs,Overheads,,',
      '9100,Maintenance hours,statistic,Statistics,Hours,,flow',
      '9200,Computer hours,statistic,Statistics,Hours,,flow',
      '',
    ].join('\n'),
    'dimensions.csv': `dimension,value,name,parent\n${Object.keys(OVERHEADS)
      .map((each) => `department,${each},${each},\n`)
      .join('')}`,
    'versions.csv': 'code,name,kind,from_period,to_period\nPLAN,Plan,plan,FY2026-P01,FY2026-P12\n',
    'figures.csv': `version,entity,account,period,amount,quantity,dim:department\n${planned.join('\n')}\n`,
    'journals.csv': `entity,journal,kind,line,date,period,account,debit,credit,quantity,dim:department\n${lines
      .map((line, at) => line.replace('LINE', String(at + 1)))
      .join('\n')}\n`,
    'layouts/costs.json': JSON.stringify({
      ...{ schema: 1, kind: 'row_layout', id: 'costs', name: 'Costs', purpose: 'free' },
      rows: [{ kind: 'accounts', id: 'costs', label: 'Overheads', orientation: 'debit', accounts: account('6000') }],
    }),
    'layouts/before_after.json': JSON.stringify({
      ...{ schema: 1, kind: 'column_layout', id: 'before_after', name: 'Before and after' },
      columns: [
        { kind: 'figure', id: 'posted', span: 'period', measure: 'by_nature', allocation: 'none' },
        { kind: 'figure', id: 'after', span: 'period', measure: 'by_nature' },
        { kind: 'figure', id: 'plan', span: 'period', measure: 'by_nature', version: 'PLAN' },
      ],
    }),
    'breakdowns/by_department.json': JSON.stringify({
      ...{ schema: 1, kind: 'breakdown', id: 'by_department', name: 'By department', unit: 1 },
      ...{ rows: 'costs', columns: 'before_after' },
      breakdown: { of: ['costs'], down: [{ by: 'department' }], across: [] },
    }),
    ...Object.fromEntries(allocations.map((each) => [`allocations/${each.id}.json`, JSON.stringify(each)])),
  });
}

async function costs(
  allocation: string,
  asAt = '2026-01',
  scope = 'ONE',
  more: Record<string, string> = {},
): Promise<StatementView> {
  const query = new URLSearchParams({ scope, as_at: asAt, allocation, ...more });
  const { status, body } = await ask<StatementView>('GET', `/statements/by_department?${query}`);
  if (status !== 200) throw new Error(JSON.stringify(body));
  return body;
}

/** Whole units of a column by department; the total under the row's own name. */
function column({ rows, columns }: StatementView, id: string): Record<string, number> {
  const at = columns.findIndex((each) => each.id === id);
  return Object.fromEntries(rows.map(({ label, cells }) => [label, Math.round((cells[at]!.amount ?? 0) / 100)]));
}

describe('shared costs are spread', () => {
  it('by the direct method', async () => {
    await serve(files(castleford('direct')));
    const view = await costs('direct');
    expect(column(view, 'posted')).toEqual({ ...OVERHEADS, Overheads: 1_316_000 });
    expect(column(view, 'after')).toEqual({
      ...{ maintenance: 0, systems: 0, machining: 728_111, assembly: 587_889, Overheads: 1_316_000 },
    });
    expect(view.breakdown!.proof).toEqual({ parts: 0, statement: 0 });
    expect(view.narrowed).toContain('costs spread: direct');
    // and not where it is switched off
    expect(column(await costs('none'), 'after')).toEqual({ ...OVERHEADS, Overheads: 1_316_000 });
  });

  it('step by step, in the order that is said', async () => {
    await serve(files(castleford('step_down')));
    const view = await costs('step_down');
    expect(column(view, 'after')).toEqual({
      ...{ maintenance: 0, systems: 0, machining: 789_778, assembly: 526_222, Overheads: 1_316_000 },
    });
    // of a plan by its own hours
    expect(column(view, 'plan')).toMatchObject({ machining: 100 + 900, assembly: 300, Overheads: 1_300 });
  });

  it('not in a month without a key: its costs stay where they are', async () => {
    await serve(files(castleford('step_down')));
    expect(column(await costs('step_down', '2026-02'), 'after')).toMatchObject({ maintenance: 100, Overheads: 100 });
  });

  it('also beside columns of a version that there is not', async () => {
    const { 'versions.csv': _, 'figures.csv': __, ...unplanned } = files(castleford('direct'));
    await serve(unplanned);
    const view = await costs('direct', '2026-01', 'ONE', { columns: 'against_plan' });
    expect(view.columns.map(({ label }) => label)).toContain('Nothing to compare with');
    expect(column(view, 'month')).toMatchObject({ machining: 728_111, assembly: 587_889 });
  });

  it('by what accounts stood at, where that is the key', async () => {
    await serve(files(castleford('step_down', 'closing')));
    expect(column(await costs('step_down', '2026-02'), 'after')).toMatchObject({ machining: 48, assembly: 52 });
  });

  it('in a group of another currency to the unit', async () => {
    await serve(files(castleford('step_down')));
    const view = await costs('step_down', '2026-01', 'ALL');
    expect(view.scope.currency).toBe('EUR');
    expect(view.breakdown!.proof).toEqual({ parts: 0, statement: 0 });
    expect(column(view, 'after')).toMatchObject({ machining: Math.round(789_777.78 * 0.9137) });
  });

  it('traced to what was posted, and to each step with its key', async () => {
    await serve(files(castleford('step_down')));
    const ends = async (row: string): Promise<{ text: string; amount: number }[]> => {
      const down = async (address: string): Promise<{ text: string; amount: number }[]> => {
        const query = new URLSearchParams({ scope: 'ONE', as_at: '2026-01', allocation: 'step_down', address });
        const { body } = await ask<TraceView>('GET', `/statements/by_department/trace?${query}`);
        if (body.postings) return body.postings.lines.map(({ description: text, amount }) => ({ text, amount }));
        return (await Promise.all(body.terms.map(({ address: of }) => (of ? down(of) : [])))).flat();
      };
      return down(`cell~${row}~after`);
    };
    // of the whole nothing is given or taken
    expect((await ends('costs')).map(({ text }) => text)).toEqual(['', '', '', '']);
    // a department that gave all of its costs away says to whom
    const given = await ends('costs.department:maintenance');
    expect(given.reduce((sum, { amount }) => sum + amount, 0)).toBe(0);
    expect(given.map(({ amount }) => amount)).toEqual(expect.arrayContaining([600_000_00, -300_000_00]));
    expect(await ends('costs.department:assembly')).toEqual([
      { text: '', amount: 200_000_00 },
      { text: 'From maintenance, Maintenance by hours: 4,000 of 8,000', amount: 300_000_00 },
      { text: 'From systems, Systems by computer hours: 200 of 1,800', amount: 26_222_22 },
    ]);
  });

  it('is told by value and by step, with the months that have no key', async () => {
    await serve(files(castleford('step_down')));
    const { body } = await ask<AllocationEffectView>('GET', '/allocations/step_down/effect?scope=ONE&as_at=2026-02');
    expect(body.steps.map(({ amount, unspread }) => [amount, unspread])).toEqual([
      [600_000_00, ['February 2026']],
      [236_000_00, []],
    ]);
    const ofValue = new Map(body.values.map(({ value, ...each }) => [value, each]));
    // 100 of February stay where they are
    expect(ofValue.get('maintenance')).toMatchObject({ posted: 600_100_00, moved: [-600_000_00, 0], after: 100_00 });
    expect(ofValue.get('systems')).toMatchObject({ posted: 116_000_00, moved: [120_000_00, -236_000_00], after: 0 });
    // and above a statement that covers the month
    const issuesIn = async (columns: string, more = '') => {
      const query = `scope=ONE&as_at=2026-02&columns=${columns}${more}`;
      const statement = await ask<StatementView>('GET', `/statements/income_statement?${query}`);
      return statement.body.issues.map(({ code, message }) => [code, message]);
    };
    expect(await issuesIn('month_and_year_to_date', '&allocation=step_down')).toEqual([
      ['CORE_ALLOCATION_NO_KEY', expect.stringContaining('no key in February 2026: its costs stay where they are')],
    ]);
    expect(await issuesIn('month_and_year_to_date')).toEqual([]);
    const group = await ask('GET', '/allocations/step_down/effect?scope=ALL&as_at=2026-02');
    expect([group.status, JSON.stringify(group.body)]).toEqual([400, expect.stringContaining('SRV_ALLOCATION_ENTITY')]);
  });

  it('not where it was put away: costs stand as they were posted, and that is said', async () => {
    await serve({
      ...files({ ...castleford('direct'), archived: true }),
      'breakdowns/by_department.json': JSON.stringify({
        ...{ schema: 1, kind: 'breakdown', id: 'by_department', name: 'By department', unit: 1 },
        ...{ rows: 'costs', columns: 'before_after', allocation: 'direct' },
        breakdown: { of: ['costs'], down: [{ by: 'department' }], across: [] },
      }),
    });
    const { status, body } = await ask<StatementView>('GET', '/statements/by_department?scope=ONE&as_at=2026-01');
    expect([status, column(body, 'after')]).toEqual([200, { ...OVERHEADS, Overheads: 1_316_000 }]);
    expect(body.issues.map(({ code }) => code)).toEqual(['CORE_ALLOCATION_GONE']);
  });

  it('refuses costs that come back, the circle named', async () => {
    await serve(files());
    const sound = castleford('step_down');
    const circle = { ...sound, steps: [sound.steps[0]!, { ...sound.steps[1]!, to: ['maintenance', 'machining'] }] };
    const { status, body } = await ask<DocumentView>('POST', '/documents', { document: circle });
    expect(status).toBe(400);
    expect(JSON.stringify(body)).toContain('maintenance → systems → maintenance');
    expect((await ask('POST', '/documents', { document: sound })).status).toBe(200);
  });
});

it('costs are not spread for somebody who may not see all that they are spread over, and no name of it is told', async () => {
  const databaseFile = await workspaceOf(files(castleford('step_down')));
  await onStore(databaseFile, (store) =>
    store.aside(async ({ em }) => {
      const held = { rights: RIGHTS.filter((right) => right !== 'see_totals'), values: { department: ['assembly'] } };
      em.assign(await em.findOneOrFail(Person, { id: 'local' }), held);
    }),
  );
  const app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
  try {
    const query = new URLSearchParams({ scope: 'ONE', as_at: '2026-01', allocation: 'step_down' });
    const reply = await app.inject(`/api/v1/statements/by_department?${query}`);
    const { rows, columns } = reply.json<StatementView>();
    const of = (id: string) => rows[0]!.cells[columns.findIndex((column) => column.id === id)]!;
    expect([rows[0]!.label, of('posted').amount, of('after').reason]).toEqual([
      'assembly',
      200_000_00,
      'not_permitted',
    ]);
    expect(reply.body).not.toMatch(/machining|systems/);
  } finally {
    await app.close();
  }
});
