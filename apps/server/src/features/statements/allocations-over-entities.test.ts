import type {
  AllocationEffectView,
  DocumentView,
  SetupTableView,
  StatementView,
  TraceView,
} from '@margin-lens/contract';
import type { AllocationDocument } from '@margin-lens/core';
import { adjust } from '../../../test/adjusting';
import { onStore } from '../../../test/opened-store';
import { servedPackage } from '../../../test/served-app';
import { tinyFiles, type PackageFiles } from '../../../test/tiny-package';
import { RIGHTS } from '../../base/viewer';
import { Person } from '../../store/tables';

// Horngren, Datar, Rajan, Cost Accounting: A Managerial Emphasis, ch. 15, Castleford Engineering (from memory, recomputed), its
// departments as companies that keep books of their own. That companies settle what one bears for another by accounts with
// each other, so that the books of each stay in balance, is common practice.

const { ask, serve, served } = servedPackage();

const OVERHEADS = { MNT: 600_000, SYS: 116_000, MCH: 400_000, ASM: 200_000 };
const ENTITIES = Object.keys(OVERHEADS) as (keyof typeof OVERHEADS)[];
const HOURS = { 9100: { SYS: 1_600, MCH: 2_400, ASM: 4_000 }, 9200: { MNT: 200, MCH: 1_600, ASM: 200 } };
/** After costs were spread step by step, as the handbook has it. */
const STEPPED = { MNT: 0, SYS: 0, MCH: 789_778, ASM: 526_222 };

const account = (...numbers: string[]) => ({ include: numbers.map((number) => ({ by: 'account' as const, number })) });

const RULE: AllocationDocument = {
  ...{ schema: 1, kind: 'allocation', id: 'services', name: 'Services', dimension: 'entity' },
  clearing: { receivable: '1500', payable: '2500' },
  ...{ accounts: account('6000'), method: 'step_down' },
  steps: [
    {
      ...{ id: 'maintenance', name: 'Maintenance by hours', from: ['MNT'], to: ['SYS', 'MCH', 'ASM'] },
      key: { by: 'accounts', accounts: account('9100'), of: 'movement' },
    },
    {
      ...{ id: 'systems', name: 'Systems by computer hours', from: ['SYS'], to: ['MCH', 'ASM'] },
      key: { by: 'accounts', accounts: account('9200'), of: 'movement' },
    },
  ],
};

function files(change: PackageFiles = {}): PackageFiles {
  const costs = ENTITIES.flatMap((entity) => [
    `${entity},J1,,1,2026-01-31,,6000,${OVERHEADS[entity]},,,plant`,
    `${entity},J1,,2,2026-01-31,,1000,,${OVERHEADS[entity]},,`,
  ]);
  const hours = Object.entries(HOURS).flatMap(([number, of]) =>
    Object.entries(of).map(([entity, count]) => `${entity},H${number},,1,2026-01-31,,${number},,,${count},`),
  );
  const planned = [
    'PLAN,MNT,6000,FY2026-P01,1200,',
    'PLAN,MCH,6000,FY2026-P01,100,',
    'PLAN,MCH,9100,FY2026-P01,,3',
    'PLAN,ASM,9100,FY2026-P01,,1',
  ];
  const row = (id: string, purpose: string, orientation: string, ...numbers: string[]) =>
    JSON.stringify({
      ...{ schema: 1, kind: 'row_layout', id, name: id, purpose },
      rows: [{ kind: 'accounts', id, label: id, orientation, accounts: account(...numbers) }],
    });
  const statement = (id: string, columns: string) =>
    JSON.stringify({ schema: 1, kind: 'statement', id, name: id, rows: id, columns, unit: 1 });
  return tinyFiles({
    'entities.csv': `code,name,currency,calendar\n${ENTITIES.map((code) => `${code},Works ${code},USD,cal\n`).join('')}EUR,Euro,EUR,cal\n`,
    'groups.csv': 'code,name,currency,calendar,top_entity,parent_group\nALL,All,USD,cal,MNT,\n',
    'ownership.csv': `investor,investee,from,percent,method\n${['SYS', 'MCH', 'ASM']
      .map((code) => `MNT,${code},2025-01-01,100,full\n`)
      .join('')}`,
    'standing_rules.csv':
      'group,rule,kind,side,accounts,partner_accounts,difference_account,outside_account,tolerance\nALL,sisters,balances,both,1500,2500,,,\n',
    'partners.csv': 'code,name,kind,entity\nD-200,Machining Ltd,customer,MCH\n',
    'accounts.csv': [
      'number,name,nature,category,subcategory,role,behaviour',
      '1000,Cash,asset,Current,Cash,cash,',
      '1500,Owed by sister companies,asset,Current,Sisters,,',
      '2500,Owed to sister companies,liability,Current,Sisters,,',
      '3000,Retained earnings,equity,Equity,Reserves,retained_earnings,',
      '6000,Overheads,expense,Costs,Overheads,,',
      '9100,Maintenance hours,statistic,Statistics,Hours,,flow',
      '9200,Computer hours,statistic,Statistics,Hours,,flow',
      '',
    ].join('\n'),
    'dimensions.csv': 'dimension,value,name,parent\nplace,plant,Plant,\n',
    'versions.csv': 'code,name,kind,from_period,to_period\nPLAN,Plan,plan,FY2026-P01,FY2026-P12\n',
    'figures.csv': `version,entity,account,period,amount,quantity\n${planned.join('\n')}\n`,
    'journals.csv': `entity,journal,kind,line,date,period,account,debit,credit,quantity,dim:place\n${[...costs, ...hours].join('\n')}\n`,
    'layouts/costs.json': row('costs', 'free', 'debit', '6000'),
    'layouts/owed.json': row('owed', 'free', 'debit', '1500', '2500'),
    'layouts/receivable.json': row('receivable', 'free', 'debit', '1500'),
    'layouts/position.json': JSON.stringify({
      ...{ schema: 1, kind: 'row_layout', id: 'position', name: 'Position', purpose: 'balance_sheet' },
      rows: [
        {
          kind: 'accounts',
          id: 'assets',
          label: 'Assets',
          orientation: 'debit',
          accounts: account('1000', '1500', '2500'),
        },
        { kind: 'accounts', id: 'equity', label: 'Equity', orientation: 'credit', accounts: account('3000') },
        {
          ...{ kind: 'accounts', id: 'result', label: 'Result', orientation: 'credit', reads: 'closing' },
          accounts: { include: [{ by: 'nature', nature: 'expense' }] },
        },
      ],
    }),
    'statements/position.json': statement('position', 'both'),
    'layouts/both.json': JSON.stringify({
      ...{ schema: 1, kind: 'column_layout', id: 'both', name: 'Both' },
      columns: [
        { kind: 'figure', id: 'posted', span: 'period', measure: 'by_nature', allocation: 'none' },
        { kind: 'figure', id: 'after', span: 'period', measure: 'by_nature' },
        { kind: 'figure', id: 'plan', span: 'period', measure: 'by_nature', version: 'PLAN' },
      ],
    }),
    'statements/costs.json': statement('costs', 'both'),
    'statements/owed.json': statement('owed', 'both'),
    'statements/receivable.json': statement('receivable', 'both'),
    'allocations/services.json': JSON.stringify(RULE),
    ...change,
  });
}

/** Whole units of the first column of that id, by row. */
async function read(statement: string, more: Record<string, string> = {}): Promise<StatementView> {
  const query = new URLSearchParams({ scope: 'MNT', as_at: '2026-01', allocation: 'services', ...more });
  const { status, body } = await ask<StatementView>('GET', `/statements/${statement}?${query}`);
  if (status !== 200) throw new Error(JSON.stringify(body));
  return body;
}

const whole = (amount: number | null) => (amount === null ? null : Math.round(amount / 100));

function cellOf({ rows, columns }: StatementView, row: string, column: string) {
  const at = columns.findIndex(({ id }) => id === column);
  return rows.find(({ id }) => id === row)?.cells[at];
}

const amountIn = (view: StatementView, row: string, column: string) => whole(cellOf(view, row, column)?.amount ?? null);

async function ofEntities(statement: string, column: string, asAt = '2026-01') {
  const found: Record<string, number | null> = {};
  for (const scope of ENTITIES)
    found[scope] = amountIn(await read(statement, { scope, as_at: asAt }), statement, column);
  return found;
}

describe('costs spread over entities', () => {
  it('go step by step to the figures of the handbook, in the statement of each', async () => {
    await serve(files());
    expect(await ofEntities('costs', 'posted')).toEqual(OVERHEADS);
    expect(await ofEntities('costs', 'after')).toEqual(STEPPED);
    // of a plan by its own hours: 3 of 4 and 1 of 4
    expect(await ofEntities('costs', 'plan')).toEqual({ MNT: 0, SYS: null, MCH: 100 + 900, ASM: 300 });
  });

  it('are owed to who bore them, so that the books of each stay in balance', async () => {
    await serve(files());
    const owed = await ofEntities('owed', 'after');
    const expected = ENTITIES.map((each) => [each, OVERHEADS[each] - STEPPED[each]]);
    expect(owed).toEqual(Object.fromEntries(expected));
    for (const scope of ENTITIES) {
      const view = await read('position', { scope });
      const [assets, equity, result] = ['assets', 'equity', 'result'].map((row) => amountIn(view, row, 'after'));
      expect([scope, assets, equity! + result!]).toEqual([scope, -OVERHEADS[scope] + owed[scope]!, assets]);
      expect(result).toBe(-STEPPED[scope] || 0);
    }
  });

  it('change nothing in a group that has all of them, and add up by entity and by partner', async () => {
    await serve(files());
    const columns = ['posted', 'after'];
    const costs = await read('costs', { scope: 'ALL' });
    expect(columns.map((each) => amountIn(costs, 'costs', each))).toEqual([1_316_000, 1_316_000]);
    expect(amountIn(await read('owed', { scope: 'ALL' }), 'owed', 'after')).toBe(0);
    // a standing rule takes what they owe each other out of the group, with nothing left
    expect(amountIn(await read('receivable', { scope: 'MNT' }), 'receivable', 'after')).toBe(600_000);
    expect(amountIn(await read('receivable', { scope: 'ALL' }), 'receivable', 'after')).toBe(0);
    const by = (field: string, of: string, where: object[] = []) =>
      read(of, { scope: 'ALL', breakdown: JSON.stringify({ of: [of], down: [{ by: field }], across: [], where }) });
    const parts = await by('entity', 'costs');
    expect(
      Object.fromEntries(ENTITIES.map((each) => [each, amountIn(parts, `costs.entity:${each}`, 'after') ?? 0])),
    ).toEqual(STEPPED);
    expect(parts.breakdown!.proof).toEqual({ parts: 0, statement: 0 });
    // what costs carried goes with them
    expect(amountIn(await by('place', 'costs'), 'costs.place:plant', 'after')).toBe(1_316_000);
    const ofMaintenance = await by('partner', 'owed', [{ dimension: 'entity', has: 'in', values: ['MNT'] }]);
    expect(amountIn(ofMaintenance, 'owed.partner:MCH', 'after')).toBe(180_000);
    expect(amountIn(ofMaintenance, 'owed.partner:ASM', 'after')).toBe(300_000);
  });

  it('are traced to what was posted, and to each step with its key, in costs and in what is owed', async () => {
    await serve(files());
    const ends = async (statement: string, address: string): Promise<{ text: string; amount: number }[]> => {
      const query = new URLSearchParams({ scope: 'ASM', as_at: '2026-01', allocation: 'services', address });
      const { body } = await ask<TraceView>('GET', `/statements/${statement}/trace?${query}`);
      expect(body.sum ?? body.figure.amount).toBe(body.figure.amount);
      if (body.postings) return body.postings.lines.map(({ description: text, amount }) => ({ text, amount }));
      const below = body.terms.map(({ address: of }) => (of ? ends(statement, of) : []));
      return (await Promise.all(below)).flat();
    };
    const maintenance = 'From Works MNT, Maintenance by hours: 4,000 of 8,000';
    const systems = 'From Works SYS, Systems by computer hours: 200 of 1,800';
    expect(await ends('costs', 'cell~costs~after')).toEqual([
      { text: '', amount: 200_000_00 },
      { text: maintenance, amount: 300_000_00 },
      { text: systems, amount: 26_222_22 },
    ]);
    expect(await ends('owed', 'cell~owed~after')).toEqual([
      { text: maintenance, amount: -300_000_00 },
      { text: systems, amount: -26_222_22 },
    ]);
  });

  it('are told by entity and by step, whichever of them is looked at', async () => {
    await serve(files());
    for (const scope of ['ASM', 'ALL']) {
      const url = `/allocations/services/effect?scope=${scope}&as_at=2026-01`;
      const { body } = await ask<AllocationEffectView>('GET', url);
      expect(body.steps.map(({ amount }) => whole(amount))).toEqual([600_000, 236_000]);
      expect(body.scope).toMatchObject({ name: '4 entities', currency: 'USD' });
      expect(body.values.map(({ value, after }) => [value, whole(after)])).toEqual(Object.entries(STEPPED));
      expect(body.values[1]).toMatchObject({ name: 'Works SYS', moved: [120_000_00, -236_000_00] });
    }
  });

  it('follow what another entity posts, and leave one alone that is not named', async () => {
    await serve(files());
    expect(amountIn(await read('costs', { scope: 'ASM' }), 'costs', 'after')).toBe(STEPPED.ASM);
    expect(amountIn(await read('costs', { scope: 'EUR' }), 'costs', 'after')).toBe(null);
    expect((await adjust(ask, '2026-01-31', '6000', '8000', 'MNT')).status).toBe(200);
    // half of what it costs less at once, and of the fifth of it that systems take over 200 of 1,800
    expect(amountIn(await read('costs', { scope: 'ASM' }), 'costs', 'after')).toBe(STEPPED.ASM - 4_000 - 178);
  });

  it('stay where they are, which is said, once an entity keeps books in another currency', async () => {
    const change = { steps: [{ ...RULE.steps[0]!, to: [...RULE.steps[0]!.to, 'NEW'] }] };
    const entities = String(files()['entities.csv']);
    await serve(
      files({
        'entities.csv': `${entities}NEW,New,USD,cal\n`,
        'allocations/services.json': JSON.stringify({ ...RULE, ...change }),
      }),
    );
    expect(amountIn(await read('costs', { scope: 'ASM' }), 'costs', 'after')).not.toBe(OVERHEADS.ASM);
    const { body: table } = await ask<SetupTableView>('GET', '/setup/tables/entities');
    const cells = table.rows.find((row) => row.cells.includes('NEW'))!.cells;
    const put = [cells.map((cell) => (cell === 'USD' ? 'EUR' : cell))];
    const saved = await ask('PUT', '/setup/tables/entities', { base: table.revision, put, remove: [] });
    expect(saved.status).toBe(200);
    const view = await read('costs', { scope: 'ASM' });
    expect(amountIn(view, 'costs', 'after')).toBe(OVERHEADS.ASM);
    expect(view.issues.map(({ code }) => code)).toEqual(['CORE_ALLOCATION_UNLIKE']);
    const effect = await ask('GET', '/allocations/services/effect?scope=ASM&as_at=2026-01');
    expect([effect.status, JSON.stringify(effect.body)]).toEqual([400, expect.stringContaining('differ in currency')]);
  });

  it('are not read by who may not see all of the entities', async () => {
    await serve(files());
    await onStore(served.databaseFile, (store) =>
      store.aside(async ({ em }) => {
        const held = { rights: RIGHTS.filter((right) => right !== 'set_up'), entities: ['ASM'] };
        em.assign(await em.findOneOrFail(Person, { id: 'local' }), held);
      }),
    );
    const view = await read('costs', { scope: 'ASM' });
    expect(cellOf(view, 'costs', 'after')).toMatchObject({ amount: null, reason: 'not_permitted' });
    expect(amountIn(view, 'costs', 'posted')).toBe(OVERHEADS.ASM);
    const effect = await ask('GET', '/allocations/services/effect?scope=ASM&as_at=2026-01');
    expect([effect.status, JSON.stringify(effect.body)]).toEqual([
      403,
      expect.stringContaining('SRV_ALLOCATION_HIDDEN'),
    ]);
    expect(JSON.stringify([view, effect.body])).not.toMatch(/MNT|SYS|MCH/);
  });
});

describe('an allocation over entities is refused', () => {
  it.each([
    [
      'without an account to owe by',
      { clearing: { receivable: '1500', payable: '' } },
      'does not say by which accounts entities owe each other',
    ],
    [
      'with one of costs',
      { clearing: { receivable: '6000', payable: '2500' } },
      'by account 6000, which is none of assets or liabilities',
    ],
    [
      'between books that are not alike',
      { steps: [{ ...RULE.steps[0]!, to: ['EUR'] }] },
      'Works MNT and Euro, whose books differ in currency or calendar',
    ],
    [
      'where costs come back',
      { steps: [RULE.steps[0]!, { ...RULE.steps[1]!, to: ['MNT'] }] },
      'Works MNT → Works SYS → Works MNT',
    ],
    ['with an entity that there is not', { steps: [{ ...RULE.steps[0]!, to: ['XXX'] }] }, 'XXX'],
  ])('%s', async (_, change, told) => {
    const broken = { ...RULE, ...change };
    await serve(files());
    const { status, body } = await ask<DocumentView>('POST', '/documents', { document: broken });
    expect([status, JSON.stringify(body)]).toEqual([400, expect.stringContaining(told)]);
    // and in a package
    await expect(serve(files({ 'allocations/services.json': JSON.stringify(broken) }))).rejects.toThrow();
  });
});
