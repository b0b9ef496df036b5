import { readFileSync } from 'node:fs';
import path from 'node:path';
import type { FastifyInstance } from 'fastify';
import Papa from 'papaparse';
import type { StatementView, TraceView } from '@margin-lens/contract';
import { digitsOf } from '@margin-lens/core';
import { asking } from '../../../test/asking';
import { workspaceOf, type PackageFiles } from '../../../test/tiny-package';
import { buildApp } from '../../app';

// Published reference case 3, see test/reference/case03/README.md: IAS 21.40, each month at its average rate
const FOLDER = path.resolve(__dirname, '../../../test/reference/case03');
const CASES = ['NAD_JPY_to_EUR', 'QUO_USD_to_KWD', 'TCP_KWD_to_EUR', 'OSK_EUR_to_JPY'] as const;
type Row = Record<string, string>;
const table = (...file: string[]): Row[] =>
  Papa.parse<Row>(readFileSync(path.join(FOLDER, ...file), 'utf8').trim(), { header: true }).data;

const parts = (name: string) => {
  const [entity, from, , to] = name.split('_') as [string, string, string, string];
  return { entity, from, to };
};
const accounts = table('accounts.csv').filter(({ account }) => !['3900', '3999'].includes(account!));
const days = (month: string) => {
  const [year, number] = month.split('-').map(Number) as [number, number];
  return new Date(Date.UTC(year, number, 0)).getUTCDate();
};
const months = [2024, 2025].flatMap((year) =>
  Array.from({ length: 12 }, (_, at) => `${year}-${String(at + 1).padStart(2, '0')}`),
);
const keyOf = (month: string) => `FY${month.replace('-', '-P')}`;

/** The ledgers of the case as a package; NAD holds TCP, and the two are a group in euro. */
function packageOfCase(): PackageFiles {
  const lines = CASES.flatMap((name) =>
    table(name, 'ledger.csv').map(({ entity, period, account, movement }, at) => {
      const [debit, credit] = movement!.startsWith('-') ? ['', movement!.slice(1)] : [movement!, ''];
      return [entity, `J${period}`, at + 1, `${period}-${days(period!)}`, account, debit, credit].join(',');
    }),
  );
  const rates = CASES.flatMap((name) =>
    table(name, 'rates.csv')
      .filter(({ rate_type }) => rate_type === 'average')
      .map((row) =>
        [row['from_currency'], row['to_currency'], keyOf(row['period']!), 'average', row['rate']].join(','),
      ),
  );
  return {
    'workspace.json': JSON.stringify({ name: 'Translation', reporting_currency: 'EUR' }),
    'calendars.csv': [
      'calendar,fiscal_year,period,label,start,end,kind,quarter',
      ...months.map((month) => {
        const [year, number] = month.split('-').map(Number) as [number, number];
        return `cal,${year},${number},${month},${month}-01,${month}-${days(month)},regular,${Math.ceil(number / 3)}`;
      }),
    ].join('\n'),
    'entities.csv': `code,name,currency,calendar\n${CASES.map(parts)
      .map(({ entity, from }) => `${entity},${entity},${from},cal`)
      .join('\n')}`,
    'groups.csv': 'code,name,currency,calendar,top_entity,parent_group\nPAIR,Pair,EUR,cal,NAD,\n',
    'ownership.csv': 'investor,investee,from,percent,method\nNAD,TCP,2024-01-01,100,full\n',
    'accounts.csv': [
      'number,name,nature,category,subcategory,role',
      ...accounts.map(({ account, name, type }) =>
        [account, name, type, type, type, account === '3200' ? 'retained_earnings' : ''].join(','),
      ),
    ].join('\n'),
    'rates.csv': `base,quote,period,type,rate\n${rates.join('\n')}`,
    'journals.csv': `entity,journal,line,date,account,debit,credit\n${lines.join('\n')}`,
  };
}

let app: FastifyInstance;
beforeAll(async () => {
  app = await buildApp({ databaseFile: await workspaceOf(packageOfCase()), webRoot: '/nonexistent' });
});
afterAll(() => app.close());
const ask = asking(() => app);

/** Every account as a row of its own, read debit positive, in months and in the year to date. */
const LAYOUTS = {
  document: { schema: 1, kind: 'statement', id: 's', name: 'S', rows: 'r', columns: 'c', unit: 1 },
  rowLayout: {
    ...{ schema: 1, kind: 'row_layout', id: 'r', name: 'R', purpose: 'free' },
    rows: accounts.map(({ account, name }) => ({
      ...{ kind: 'accounts', id: `a${account}`, label: name, orientation: 'debit' },
      accounts: { include: [{ by: 'account', number: account }] },
    })),
  },
  columnLayout: {
    ...{ schema: 1, kind: 'column_layout', id: 'c', name: 'C' },
    columns: [
      { kind: 'series', id: 'months', by: 'month', measure: 'by_nature', total: false },
      { kind: 'figure', id: 'ytd', span: 'year_to_date', measure: 'by_nature' },
    ],
  },
};
const shown = async (scope: string, year: number, currency?: string): Promise<StatementView> => {
  const context = { scope, as_at: `FY${year}-P12`, ...(currency && { currency }) };
  const reply = await ask<StatementView>('POST', '/statements/preview', { ...LAYOUTS, context });
  if (reply.status !== 200) throw new Error(JSON.stringify(reply.body));
  return reply.body;
};

/** Expected amounts of an account over the months of a year, in minor units. */
function expected(name: (typeof CASES)[number], account: string, year: number): number[] {
  const steps = 10 ** digitsOf(parts(name).to);
  return table(name, 'pl_movement_by_month.csv')
    .filter((row) => row['account'] === account && row['period']!.startsWith(String(year)))
    .map((row) => Math.round(Number(row['presentation_rounded']) * steps));
}
const results = accounts.filter(({ type }) => type === 'income' || type === 'expense').map(({ account }) => account!);
const sum = (amounts: readonly number[]) => amounts.reduce((a, b) => a + b, 0);
const row = (view: StatementView, account: string) =>
  view.rows.find(({ id }) => id === `a${account}`)!.cells.map(({ amount, reason }) => amount ?? reason);

describe('a statement in another currency', () => {
  it.each(CASES)('%s: each month at its average rate, and the year the sum of the rounded months', async (name) => {
    const { entity, to } = parts(name);
    for (const year of [2024, 2025]) {
      const view = await shown(entity, year, to);
      expect(view.scope).toMatchObject({ code: entity, currency: to });
      for (const account of results) {
        const amounts = expected(name, account, year);
        expect(amounts).toHaveLength(12);
        expect([account, row(view, account)]).toEqual([account, [...amounts, sum(amounts)]]);
      }
    }
  });

  it('has balances that say what they wait for, and nothing that is not balanced is called proved', async () => {
    const view = await shown('NAD', 2024, 'EUR');
    const cash = view.rows.find(({ id }) => id === 'a1000')!.cells.at(-1)!;
    const origin = { kind: 'balances', entity: 'NAD', from: 'JPY', to: 'EUR' };
    expect(cash).toMatchObject({ amount: null, reason: 'not_translated', origin });
    expect(view.trialBalance).toBeNull();
    // in its own currency it is as ever
    const own = await shown('NAD', 2024);
    expect(own.rows.find(({ id }) => id === 'a1000')!.cells.at(-1)!.amount).not.toBeNull();
    expect(own.trialBalance).not.toBeNull();
    expect(await shown('NAD', 2024, 'JPY')).toMatchObject({ rows: own.rows });
  });
});

describe('a group', () => {
  it('is the sum of its entities, each in the currency of the group', async () => {
    for (const year of [2024, 2025]) {
      const view = await shown('PAIR', year);
      expect(view.scope).toEqual({ code: 'PAIR', name: 'Pair', currency: 'EUR' });
      for (const account of results) {
        const [nad, tcp] = [expected('NAD_JPY_to_EUR', account, year), expected('TCP_KWD_to_EUR', account, year)];
        const both = nad.map((amount, at) => amount + tcp[at]!);
        expect([account, row(view, account)]).toEqual([account, [...both, sum(both)]]);
      }
    }
  });

  it('explains a figure by entity, by rate and down to the journal lines', async () => {
    const trace = async (address: string) => {
      const query = new URLSearchParams({ scope: 'PAIR', as_at: 'FY2024-P12', columns: 'twelve_months', address });
      return (await ask<TraceView>('GET', `/statements/income_statement/trace?${query}`)).body;
    };
    const month = await trace('movement~6000~FY2024-P01~1');
    expect(month).toMatchObject({ operation: 'members', figure: { amount: 2_892_489 + 12_476_368 } });
    expect(month.terms.map(({ label, figure }) => [label.kind === 'entity' && label.entity, figure.amount])).toEqual([
      ['NAD', 2_892_489],
      ['TCP', 12_476_368],
    ]);
    const nad = await trace(month.terms[0]!.address);
    expect(nad).toMatchObject({ operation: 'scaled', rate: { from: 'JPY', to: 'EUR', rate: '0.00636143', rest: 0 } });
    const [yen] = nad.terms;
    expect(yen!.figure).toEqual({ amount: 4_546_917, unit: { kind: 'currency', code: 'JPY', digits: 0 } });
    const lines = await trace(yen!.address);
    expect(lines).toMatchObject({ operation: 'postings', postings: { count: 1, total: 4_546_917 } });
  });
});
