import { readFileSync } from 'node:fs';
import path from 'node:path';
import type { FastifyInstance } from 'fastify';
import Papa from 'papaparse';
import type { TrialBalanceView } from '@margin-lens/contract';
import { asking } from '../../../test/asking';
import { tinyFiles, workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';

// Published reference case 4 c, a joint operation, see test/reference/case04/README.md: IFRS 11.20
type Row = Record<string, string>;
const FOLDER = path.resolve(__dirname, '../../../test/reference/case04/c_proportionate');
const table = (file: string) =>
  Papa.parse<Row>(readFileSync(path.join(FOLDER, file), 'utf8').trim(), { header: true }).data;
const shared = table('trial_balances.csv');
const full = table('joint_operation_full.csv');
const minor = (amount: string) => Math.round(Number(amount) * 100);
const ROLES: Row = { '1000': 'cash', '3200': 'retained_earnings', '3999': 'rounding' };
const chart = new Map(shared.map((row) => [row['account']!, row]));

/** The books of an entity as one journal of December: the case has trial balances alone. */
const journal = (rows: readonly Row[]) =>
  rows.map(({ entity, account, amount_debit_positive: amount }, at) => {
    const side = amount!.startsWith('-') ? `,${amount!.slice(1)}` : `${amount},`;
    return [entity, 'TB', at + 1, '2026-12-31', account, side].join(',');
  });

const RULES = {
  'entities.csv': 'code,name,currency,calendar\nVEL,Holder,EUR,cal\nTCP,Joint operation,EUR,cal\n',
  'groups.csv': 'code,name,currency,calendar,top_entity,parent_group\nCON,Group,EUR,cal,VEL,\n',
  'accounts.csv': [
    'number,name,nature,category,subcategory,role',
    ...[...chart.values()].map(({ account, account_name: name, type }) =>
      [account, `"${name}"`, type, type, type, ROLES[account!] ?? ''].join(','),
    ),
  ].join('\n'),
  'dimensions.csv': 'dimension,value,name,parent\n',
  'versions.csv': 'code,name,kind,from_period,to_period\n',
  'figures.csv': 'version,entity,account,period,amount,quantity\n',
};
const packageOf = (ownership: readonly string[], journals: readonly string[]) =>
  tinyFiles({
    ...RULES,
    'ownership.csv': ['investor,investee,from,percent,method', ...ownership].join('\n'),
    'journals.csv': ['entity,journal,line,date,account,debit,credit', ...journals].join('\n'),
  });

let app: FastifyInstance;
const ask = asking(() => app);
const serve = async (ownership: readonly string[], journals: readonly string[]) => {
  app = await buildApp({ databaseFile: await workspaceOf(packageOf(ownership, journals)), webRoot: '/nonexistent' });
};
afterEach(() => app.close());

async function closings(scope: string, asAt: string): Promise<Map<string, number>> {
  const url = `/ledger/trial-balance?scope=${scope}&as_at=${asAt}&view=year_to_date`;
  const { lines } = (await ask<TrialBalanceView>('GET', url)).body;
  return new Map(lines.flatMap(({ kind, id, amounts }) => (kind === 'account' ? [[id, amounts.at(-1)!]] : [])));
}

describe('a joint operation', () => {
  it('comes in with its part, line by line, and what rounding leaves on an account of its own', async () => {
    const holder = shared.filter(({ entity }) => entity === 'VEL');
    await serve(['VEL,TCP,2025-12-31,50,proportionate'], [...journal(holder), ...journal(full)]);
    const found = await closings('CON', '2026-12');
    for (const account of chart.keys()) {
      const rows = shared.filter((row) => row['account'] === account);
      const expected = rows.reduce((sum, row) => sum + minor(row['amount_debit_positive']!), 0);
      expect([account, found.get(account) ?? 0]).toEqual([account, expected]);
    }
  });

  // worked by hand: of cash of 1,000.01 first a quarter counts, then a half, then a fifth; 100.00 came in between, and what
  // rounding leaves in March stands on 3999
  it('comes with the part that is bought, and goes with the part that is sold', async () => {
    const line = (month: string, account: string, side: string, at: number) =>
      `TCP,J${month},${at},2026-${month}-15,${account},${side}`;
    const posted = (month: string, from: string, amount: string) => [
      line(month, '1000', `${amount},`, 1),
      line(month, from, `,${amount}`, 2),
    ];
    await serve(
      [
        'VEL,TCP,2025-12-31,25,proportionate',
        'VEL,TCP,2026-03-01,50,proportionate',
        'VEL,TCP,2026-05-01,20,proportionate',
      ],
      [...posted('01', '3000', '1000.01'), ...posted('04', '4000', '100.00')],
    );
    const of = async (month: string) => {
      const found = await closings('CON', `2026-${month}`);
      return ['1000', '3000', '3200', '3999', '4000'].map((account) => found.get(account) ?? 0);
    };
    expect(await of('02')).toEqual([25_000, -25_000, 0, 0, 0]);
    expect(await of('03')).toEqual([50_001, -50_000, 0, -1, 0]);
    expect(await of('04')).toEqual([55_001, -50_000, 0, -1, -5_000]);
    // of 550.01 three fifths go, 330.01, and of capital 300.00; the result of 50.00 was earned while a half was held
    expect(await of('05')).toEqual([22_000, -20_000, 3_001, -1, -5_000]);
  });
});
