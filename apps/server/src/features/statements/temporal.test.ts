import type { FastifyInstance } from 'fastify';
import type { StatementView, TranslationProof } from '@margin-lens/contract';
import { asking } from '../../../test/asking';
import { CASE_LAYOUTS, caseAccounts, caseTable, keyOf, packageOfCase } from '../../../test/case03';
import { workspaceOf, type PackageFiles } from '../../../test/tiny-package';
import { buildApp } from '../../app';

// Published reference case 3, temporal method, see test/reference/case03/README.md: IAS 21.21 to 21.23, ASC 830-10-45
const FOLDER = 'temporal_QUO_USD_to_EUR';
const LEDGER = 'QUO_USD_to_EUR';
const OPENING = '2023-12-31';
const monthEnd = (month: string, back = 0) => {
  const [year, number] = month.split('-').map(Number) as [number, number];
  return new Date(Date.UTC(year, number - back, 0)).toISOString().slice(0, 10);
};
const side = (amount: number) => (amount < 0 ? `,${(-amount).toFixed(2)}` : `${amount.toFixed(2)},`);

/** The ledger of the case with what was bought and what was used of the stock told apart. */
function lines(): string[] {
  const rows = caseTable(LEDGER, 'ledger.csv');
  const opening = caseTable(LEDGER, 'opening.csv').map(
    ({ account, amount }, at) => `QUO,O,opening,${at + 1},2024-01-01,${account},${side(Number(amount))},`,
  );
  const moved = rows.flatMap(({ period, account, movement }, at) => {
    const head = (line: number, amount: number, flow = '') =>
      `QUO,J${period},normal,${line},${monthEnd(period!)},${account},${side(amount)},${flow}`;
    if (account !== '1200') return [head(2 * at + 1, Number(movement))];
    const used = Number(rows.find((each) => each['period'] === period && each['account'] === '5000')!['movement']);
    return [head(2 * at + 1, Number(movement) + used, 'addition'), head(2 * at + 2, -used)];
  });
  // stock that is bought and used in like amounts does not move, and is bought and used all the same
  const still = [...new Set(rows.map(({ period }) => period!))].filter(
    (period) => !rows.some((row) => row['period'] === period && row['account'] === '1200'),
  );
  if (still.length > 0) throw new Error(`No movement of stock in ${still.join(', ')}.`);
  return [...opening, ...moved];
}

function packageOfTemporal(): PackageFiles {
  const all = packageOfCase();
  const stock = caseTable(LEDGER, 'opening.csv').find(({ account }) => account === '1200')!['amount'];
  const layers = caseTable(FOLDER, 'ppe_layers.csv').map((layer, at) => {
    const first = layer['first_depreciation_month']!;
    const date = at === 0 ? OPENING : monthEnd(first, 1);
    return `QUO,1500,P${at},${date},${layer['cost_local']},${layer['historical_rate']},${layer['life_months']},${keyOf(first)},1590,6300`;
  });
  const amounts = caseTable(LEDGER, 'historical.csv').find(({ account }) => account === '3000')!;
  return {
    ...all,
    'entities.csv': 'code,name,currency,calendar,translation\nQUO,Quo,USD,cal,temporal\nTOP,Top,EUR,cal,closing\n',
    'groups.csv': 'code,name,currency,calendar,top_entity,parent_group\n',
    'ownership.csv': 'investor,investee,from,percent,method\n',
    'accounts.csv': [
      'number,name,nature,category,subcategory,role,monetary',
      ...caseAccounts.map(({ account, name, type, temporal_class: kind }) => {
        const role = account === '3200' ? 'retained_earnings' : account === '3999' ? 'rounding' : '';
        const isBalance = type === 'asset' || type === 'liability';
        return [account, name, type, type, type, role, isBalance ? (kind === 'monetary' ? 'yes' : 'no') : ''].join(',');
      }),
      '7900,Exchange gain,income,income,income,exchange_gain,',
    ].join('\n'),
    'asset_layers.csv': [
      'entity,account,layer,date,local_amount,rate,life_months,first_period,accumulated_account,expense_account',
      ...layers,
      `QUO,1200,S0,${OPENING},${stock},0.910800,,,,5000`,
    ].join('\n'),
    'historical.csv': [
      'entity,account,date,currency,local_amount,group_amount',
      `QUO,3000,${OPENING},EUR,-${amounts['local_amount_credit_positive']},-${amounts['presentation_amount_credit_positive']}`,
      `QUO,3200,${OPENING},EUR,-1200000.00,-1083576.00`,
    ].join('\n'),
    'journals.csv': `entity,journal,kind,line,date,account,debit,credit,flow\n${lines().join('\n')}\n`,
  };
}

let app: FastifyInstance;
beforeAll(async () => {
  app = await buildApp({ databaseFile: await workspaceOf(packageOfTemporal()), webRoot: '/nonexistent' });
});
afterAll(() => app.close());
const ask = asking(() => app);

describe('the temporal method', () => {
  it('turns money at closing rates, stock and plant at those of when they came, and the rest is a gain', async () => {
    const expected = caseTable(FOLDER, 'remeasured_trial_balance.csv');
    const gain = { kind: 'accounts', id: 'a7900', label: 'Gain', orientation: 'debit' };
    const rows = [
      ...CASE_LAYOUTS.rowLayout.rows,
      { ...gain, accounts: { include: [{ by: 'account', number: '7900' }] } },
    ];
    const layouts = { ...CASE_LAYOUTS, rowLayout: { ...CASE_LAYOUTS.rowLayout, rows } };
    for (const year of [2024, 2025]) {
      const context = { scope: 'QUO', currency: 'EUR', as_at: `FY${year}-P12` };
      const { status, body } = await ask<StatementView>('POST', '/statements/preview', { ...layouts, context });
      expect(status).toBe(200);
      for (const { id, cells } of body.rows) {
        const months = expected.filter(
          ({ account, period }) => `a${account}` === id && period!.startsWith(String(year)),
        );
        months.forEach((month, at) => {
          // half a cent a rounded term: two a month of what is built from parts, since the beginning
          const terms = 2 * (at + 1 + 12 * (year - 2024)) + 2;
          const off = Math.abs(cells[at]!.amount! - Number(month['presentation_exact']) * 100);
          expect([id, month['period'], off <= terms / 2 + 1e-6]).toEqual([id, month['period'], true]);
        });
      }
      expect(body.trialBalance!.debit).toBe(body.trialBalance!.credit);
    }
  });

  it('holds in a breakdown, too, where what is used follows from the stock, also from beside another entity', async () => {
    const breakdown = JSON.stringify({ of: ['a5000'], down: [{ by: 'flow' }], across: [] });
    const figure = { kind: 'figure', id: 'ytd', span: 'year_to_date', measure: 'by_nature' };
    const expected = caseTable(FOLDER, 'remeasured_trial_balance.csv').find(
      ({ account, period }) => account === '5000' && period === '2024-12',
    )!;
    for (const [scope, column] of [
      ['QUO', figure],
      ['TOP', { ...figure, scope: 'QUO' }],
    ] as const) {
      const layouts = { ...CASE_LAYOUTS, columnLayout: { ...CASE_LAYOUTS.columnLayout, columns: [column] } };
      const context = { scope, currency: 'EUR', as_at: 'FY2024-P12', breakdown };
      const { body } = await ask<StatementView>('POST', '/statements/preview', { ...layouts, context });
      const { cells } = body.rows.find(({ id }) => id === 'a5000')!;
      // half a cent a rounded term, two a month
      expect(Math.abs(cells[0]!.amount! - Number(expected['presentation_exact']) * 100)).toBeLessThanOrEqual(13);
    }
  });

  it('proves the gain of each month on two ways', async () => {
    const expected = caseTable(FOLDER, 'remeasurement_gain_proof.csv');
    const query = new URLSearchParams({ scope: 'QUO', currency: 'EUR', as_at: 'FY2024-P12' });
    const { body } = await ask<TranslationProof>('GET', `/translation?${query}`);
    const { months } = body.entities[0]!;
    expect(months).toHaveLength(12);
    months.forEach((month, at) => {
      const { remeasurement_gain_of_month: gain, opening_net_monetary_x_rate_change: net } = expected[at]!;
      expect(Number(month.netAssets)).toBeCloseTo(Number(net), 8);
      expect(month.difference).toBe('0');
      // what was used and worn is rounded part by part
      expect(Math.abs(Number(month.closing) - Number(month.opening) - Number(gain))).toBeLessThanOrEqual(0.05);
    });
  });
});
