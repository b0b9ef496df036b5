import { writeFileSync } from 'node:fs';
import path from 'node:path';
import type { FastifyInstance } from 'fastify';
import type {
  LinesView,
  MappingView,
  SavedTable,
  SaveTable,
  SetupTableView,
  StatementView,
  TrialBalanceView,
} from '@margin-lens/contract';
import { asking } from '../../../test/asking';
import { bringIn, newDatabase, newFolder, tinyFiles, workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';

/** An entity that keeps its books in accounts and colours of its own; 7 999 and “gelb” are not mapped. */
const OWN = {
  'entities.csv': 'code,name,currency,calendar\nONE,One,EUR,cal\nTWO,Two,EUR,cal\n',
  'accounts.csv': [
    'number,name,nature,category,subcategory,role',
    '1000,Cash,asset,Current,Cash,cash',
    '1999,Not mapped yet,asset,Current,Clearing,unmapped',
    '3000,Retained earnings,equity,Equity,Reserves,retained_earnings',
    '4000,Sales,income,Sales,Goods,',
    '4100,Hire,income,Sales,Hire,',
    '5000,Rent,expense,Costs,=Rent,',
  ].join('\n'),
  'account_map.csv': 'entity,from,to,valid_from\nTWO,10,1000,\nTWO,"700..709, 720",4000,\n',
  'dimensions.csv': 'dimension,value,name,parent\nteam,red,Red,\nteam,blue,Blue,\n',
  'value_map.csv': 'entity,dimension,from,to\nTWO,team,rot,red\n',
  'versions.csv': 'code,name,kind,from_period,to_period\n',
  'figures.csv': 'version,entity,account,period,amount,quantity\n',
  'journals.csv': [
    'entity,journal,line,date,account,debit,credit,description,dim:team',
    ...['TWO,A,1,2026-01-31,10,100.00,,Till,', 'TWO,A,2,2026-01-31,701,,60.00,Tiles,rot'],
    'TWO,A,3,2026-01-31,720,,40.00,Kilns,gelb',
    ...['TWO,B,1,2026-02-28,7999,30.00,,Van,', 'TWO,B,2,2026-02-28,10,,30.00,Van,'],
    ...['TWO,C,1,2026-03-31,10,10.00,,Till,', 'TWO,C,2,2026-03-31,701,,10.00,Tiles,rot'],
  ].join('\n'),
};

let app: FastifyInstance;
let databaseFile: string;
const ask = asking(() => app);
const serve = async () => {
  app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
};
beforeEach(async () => {
  databaseFile = await workspaceOf(tinyFiles(OWN));
  await serve();
});
afterEach(() => app.close());

async function closings(asAt = '2026-03'): Promise<Record<string, number>> {
  const url = `/ledger/trial-balance?scope=TWO&as_at=${asAt}&view=year_to_date`;
  const { lines } = (await ask<TrialBalanceView>('GET', url)).body;
  return Object.fromEntries(
    lines.flatMap(({ kind, id, amounts }) => (kind === 'account' && amounts.at(-1) ? [[id, amounts.at(-1)!]] : [])),
  );
}
const mapping = async () => (await ask<MappingView>('GET', '/mapping?scope=TWO&as_at=2026-03')).body;
async function save(name: string, change: Partial<SaveTable>): Promise<SavedTable> {
  const { revision } = (await ask<SetupTableView>('GET', `/setup/tables/${name}`)).body;
  const payload = { base: revision, put: [], remove: [], ...change };
  return (await ask<SavedTable>('PUT', `/setup/tables/${name}`, payload)).body;
}
const codesOf = ({ entities }: MappingView) =>
  entities[0]!.codes.map(({ code, to, lines, debit, credit }) => [code, to?.code ?? null, lines, debit - credit]);

describe('accounts and values of an entity’s own', () => {
  it('stand on those of the group; what is not mapped is held apart with its amounts', async () => {
    expect(await closings()).toEqual({ '1000': 8_000, '1999': 3_000, '4000': -11_000 });
    const view = await mapping();
    expect(view.unmapped?.number).toBe('1999');
    expect(view.entities[0]!.hasMap).toBe(true);
    expect(codesOf(view)).toEqual([
      ['gelb', null, 1, -4_000],
      ['7999', null, 1, 3_000],
      ['10', '1000', 3, 8_000],
      ['701', '4000', 2, -7_000],
      ['rot', 'red', 2, -7_000],
      ['720', '4000', 1, -4_000],
    ]);
    const { lines } = (await ask<LinesView>('GET', '/ledger/lines?scope=TWO&as_at=2026-03&account=4000')).body;
    expect(lines.map(({ account, localAccount }) => [account, localAccount])).toEqual([
      ['4000', '701'],
      ['4000', '720'],
      ['4000', '701'],
    ]);
    const file = (await app.inject('/api/v1/ledger/lines/export?scope=TWO&account=4000&to=FY2026-P01&format=csv')).body;
    expect(file.split('\r\n')[1]).toContain('4000,Sales,701,Tiles');
  });

  it('move when they are mapped, with the figures that stand on them', async () => {
    await save('account_map', { put: [['TWO', '7999', '5000', '']] });
    expect(await closings()).toEqual({ '1000': 8_000, '4000': -11_000, '5000': 3_000 });
    await save('value_map', { put: [['TWO', 'team', 'gelb', 'blue', '']] });
    expect(codesOf(await mapping()).filter(([, to]) => to === null)).toEqual([]);
    expect(await byTeam()).toEqual({ red: 7_000, blue: 4_000 });
    // what was mapped by mistake is unmapped again, and nothing is lost
    await save('account_map', { remove: [['TWO', '7999', '']] });
    expect(await closings()).toEqual({ '1000': 8_000, '1999': 3_000, '4000': -11_000 });
  });

  it('go elsewhere from a day on', async () => {
    await save('account_map', { put: [['TWO', '701', '4100', '2026-03-01']] });
    expect(await closings('2026-02')).toEqual({ '1000': 7_000, '1999': 3_000, '4000': -10_000 });
    expect(await closings()).toEqual({ '1000': 8_000, '1999': 3_000, '4000': -10_000, '4100': -1_000 });
  });

  it('do not move in closed months', async () => {
    await ask('PUT', '/periods', { entities: ['TWO'], periods: ['FY2026-P01'], status: 'closed' });
    const { issues } = await save('account_map', { put: [['TWO', '701', '4100', '2026-01-01']] });
    expect(issues.map(({ code, message }) => [code, message])).toEqual([
      ['CORE_MAP_PERIOD_CLOSED', 'Account 701 of TWO has lines in FY2026-P01, which is closed.'],
    ]);
    expect(await closings()).toEqual({ '1000': 8_000, '1999': 3_000, '4000': -11_000 });
    expect((await save('account_map', { put: [['TWO', '701', '4100', '2026-02-01']] })).issues).toEqual([]);
  });

  it('go out and come back as they were delivered', async () => {
    const before = [await closings(), codesOf(await mapping())];
    const zip = (await app.inject('/api/v1/package')).rawPayload;
    await app.close();
    const file = path.join(newFolder(), 'all.zip');
    writeFileSync(file, zip);
    databaseFile = await newDatabase();
    await bringIn(databaseFile, file);
    await serve();
    expect([await closings(), codesOf(await mapping())]).toEqual(before);
  });
});

async function byTeam(): Promise<Record<string, number>> {
  const columns = ['red', 'blue'].map((value) => ({
    ...{ kind: 'figure', id: value, span: 'year_to_date', measure: 'by_nature' },
    where: [{ dimension: 'team', has: 'in', values: [value] }],
  }));
  const layouts = {
    document: { schema: 1, kind: 'statement', id: 's', name: 'S', rows: 'r', columns: 'c', unit: 1 },
    rowLayout: {
      ...{ schema: 1, kind: 'row_layout', id: 'r', name: 'R', purpose: 'free' },
      rows: [
        { kind: 'accounts', id: 'a', label: 'Sales', accounts: { include: [{ by: 'heading', heading: 'Sales' }] } },
      ],
    },
    columnLayout: { schema: 1, kind: 'column_layout', id: 'c', name: 'C', columns },
    context: { scope: 'TWO', as_at: '2026-03' },
  };
  const { rows } = (await ask<StatementView>('POST', '/statements/preview', layouts)).body;
  return Object.fromEntries(rows[0]!.cells.map(({ amount }, at) => [columns[at]!.id, amount!]));
}
