import type { FastifyInstance } from 'fastify';
import type { NeededRatesView, SavedTable, SetupTableView, StatementView } from '@margin-lens/contract';
import { periodsOfRule, type CalendarRule } from '@margin-lens/core';
import { asking } from '../../../test/asking';
import { tinyFiles, workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';

// IFRS 10.B92 and B93: dates of statements at most three months apart; IAS 21.46: at the rate of the entity's own period's end
const rule = (firstMonth: number): CalendarRule => ({ kind: 'months', firstMonth, namedAfter: 'end', adjustments: 0 });
const periods = (code: string, firstMonth: number, years: readonly number[]) =>
  years
    .flatMap((year) => periodsOfRule(rule(firstMonth), year))
    .map((p) => [code, p.fiscalYear, p.number, p.label, p.start, p.end, p.kind, p.quarter].join(','));
const rates = ['2026-09', '2026-10', '2026-11', '2026-12', '2027-01', '2027-02', '2027-03'].flatMap((month, at) => {
  const period =
    month < '2027' ? `FY2027-P${String(Number(month.slice(5)) - 3).padStart(2, '0')}` : `FY2027-P1${at - 4}`;
  // September 4.00, October 4.10 … March 4.60; averages 0.05 below
  return [
    `EUR,PLN,${period},,closing,${(4 + at / 10).toFixed(2)}`,
    `EUR,PLN,${period},,average,${(3.95 + at / 10).toFixed(2)}`,
  ];
});
const FILES = tinyFiles({
  'calendars.csv': [
    'calendar,fiscal_year,period,label,start,end,kind,quarter',
    ...periods('april', 4, [2027]),
    ...periods('january', 1, [2026, 2027]),
  ].join('\n'),
  'entities.csv': 'code,name,currency,calendar\nTOP,Top,EUR,april\nSUB,Warta,PLN,january\n',
  'groups.csv': 'code,name,currency,calendar,top_entity,parent_group\nALL,All,EUR,april,TOP,\n',
  'ownership.csv': 'investor,investee,from,percent,method\nTOP,SUB,2020-01-01,100,full\n',
  'accounts.csv': [
    'number,name,nature,category,subcategory,role',
    '1000,Cash,asset,Current,Cash,cash',
    '3000,Retained earnings,equity,Equity,Reserves,retained_earnings',
    '3900,Translation reserve,equity,Equity,Reserves,translation_reserve',
    '4000,Sales,income,Sales,Goods,',
  ].join('\n'),
  'rates.csv': ['base,quote,period,date,type,rate', ...rates].join('\n'),
  'dimensions.csv': 'dimension,value,name,parent\n',
  'versions.csv': 'code,name,kind,from_period,to_period\n',
  'figures.csv': 'version,entity,account,period,amount,quantity\n',
  'journals.csv': [
    'entity,journal,line,date,account,debit,credit',
    ...['2026-10-15', '2026-11-15', '2026-12-15', '2027-01-15'].flatMap((day, at) => [
      `SUB,J${at},1,${day},1000,${at + 1}000.00,`,
      `SUB,J${at},2,${day},4000,,${at + 1}000.00`,
    ]),
  ].join('\n'),
});
const LAYOUTS = {
  document: { schema: 1, kind: 'statement', id: 's', name: 'S', rows: 'r', columns: 'c', unit: 1 },
  rowLayout: {
    ...{ schema: 1, kind: 'row_layout', id: 'r', name: 'R', purpose: 'free' },
    rows: ['Current', 'Sales'].map((heading) => ({
      ...{ kind: 'accounts', id: heading.toLowerCase(), label: heading },
      accounts: { include: [{ by: 'heading', heading }] },
    })),
  },
  columnLayout: {
    ...{ schema: 1, kind: 'column_layout', id: 'c', name: 'C' },
    columns: [
      { kind: 'figure', id: 'closing', span: 'period', measure: 'closing' },
      { kind: 'figure', id: 'month', span: 'period', measure: 'by_nature' },
    ],
  },
};

let app: FastifyInstance;
const ask = asking(() => app);
beforeEach(async () => {
  app = await buildApp({ databaseFile: await workspaceOf(FILES), webRoot: '/nonexistent' });
});
afterEach(() => app.close());

async function shown(asAt: string) {
  const context = { scope: 'ALL', as_at: asAt };
  const { rows, narrowed } = (await ask<StatementView>('POST', '/statements/preview', { ...LAYOUTS, context })).body;
  return { cash: rows[0]!.cells[0]!.amount, sales: rows[1]!.cells[1]!.amount, narrowed };
}
async function map(from: string, to: string): Promise<string[]> {
  const { revision } = (await ask<SetupTableView>('GET', '/setup/tables/calendar_map')).body;
  const payload = { base: revision, put: [['SUB', from, to]], remove: [] };
  return (await ask<SavedTable>('PUT', '/setup/tables/calendar_map', payload)).body.issues.map(({ code }) => code);
}

describe('an entity on another calendar', () => {
  it('comes with its periods of the same end, each at its own rate', async () => {
    // 1,000 + 2,000 + 3,000 zloty at 4.30 of December; 3,000 of December at its average, 4.25
    expect(await shown('2026-12')).toMatchObject({ cash: 139_535, sales: 70_588 });
  });

  it('comes months later where that is said, at the rates of its own months, and the statement tells its date', async () => {
    expect(await map('FY2026-P10', 'FY2027-P10')).toEqual([]); // October counts in January, and so on
    const { cash, sales, narrowed } = await shown('2027-03');
    expect([cash, sales]).toEqual([139_535, 70_588]);
    expect(narrowed).toContain('Warta to 31 December 2026');
    expect((await shown('2027-01')).cash).toBe(24_390); // 1,000 at 4.10 of October
    // the rates that are needed are those of its own months
    const { rates: needed } = (await ask<NeededRatesView>('GET', '/rates/needed?scope=ALL&as_at=2027-03')).body;
    expect(needed.filter(({ type }) => type === 'closing').map(({ period }) => period)).toEqual([
      ...['FY2027-P07', 'FY2027-P08', 'FY2027-P09'],
    ]);
  });

  it('cannot come more than three months later', async () => {
    expect(await map('FY2026-P10', 'FY2027-P11')).toEqual(['CORE_CALENDAR_MAP_FAR']);
    expect(await shown('2026-12')).toMatchObject({ cash: 139_535 });
  });
});
