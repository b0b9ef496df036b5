import type { FastifyInstance } from 'fastify';
import type { TrialBalanceView } from '@margin-lens/contract';
import { asking } from '../../../test/asking';
import {
  ACQUISITIONS,
  casePackage,
  caseFacts,
  caseTable,
  minorOf,
  OWNERSHIP,
  tableOf,
  trialBalance,
  type CaseLine,
} from '../../../test/case04-package';
import { workspaceOf, type PackageFiles } from '../../../test/tiny-package';
import { buildApp } from '../../app';

// Published reference case 4, see test/reference/case04/README.md; no journal is entered by hand in any of it

let app: FastifyInstance;
const ask = asking(() => app);
const serve = async (files: PackageFiles) => {
  app = await buildApp({ databaseFile: await workspaceOf(files), webRoot: '/nonexistent' });
};
afterEach(() => app.close());

/** The trial balance of the group at a month's end, by account. Units: minor units, debit positive. */
async function closings(asAt: string): Promise<Map<string, number>> {
  const url = `/ledger/trial-balance?scope=CON&as_at=${asAt}&view=year_to_date`;
  const { lines } = (await ask<TrialBalanceView>('GET', url)).body;
  return new Map(lines.flatMap(({ kind, id, amounts }) => (kind === 'account' ? [[id, amounts.at(-1)!]] : [])));
}

async function expectCase(folder: string, asAt: string): Promise<void> {
  const found = await closings(asAt);
  const expected = caseTable(folder, 'consolidated_trial_balance.csv').map((row) => [
    row['account'],
    minorOf(row['consolidated_debit_positive']),
  ]);
  expect([...expected.map(([account]) => [account, found.get(String(account)) ?? 0])]).toEqual(expected);
}

const YEAR_END = '2026-12-31';
const paid = (row: { by?: string; of?: string; date?: string; amount: string; nci?: string; fair?: string }) => {
  const { by = 'VEL', of = 'OSK', date = '2025-01-01', amount, nci = 'proportionate', fair = '' } = row;
  return `${by},${of},${date},${amount},${nci},${fair},,,,,,,`;
};
const book = (account: string, amount: string, by = 'VEL', of = 'OSK', date = '2025-01-01') =>
  `${by},${of},${date},,,,book,${account},${account},,${amount},,`;

describe('a subsidiary with outside owners', () => {
  const FOLDERS = ['a1_full_nci_proportionate', 'a2_full_nci_fair_value'];

  it.each(FOLDERS)('is consolidated with goodwill, fair values and unrealised profit: %s', async (folder) => {
    const facts = caseFacts(folder, 'facts.json');
    const isFair = facts['nci_measurement'] === 'fair value';
    const of = (name: string) => String(facts[name]);
    const lines = [
      ...trialBalance(folder, 'VEL', YEAR_END, { '2050': 'OSK', '4050': 'OSK' }),
      ...trialBalance(folder, 'OSK', YEAR_END, { '1150': 'VEL', '4050': 'VEL' }),
    ];
    await serve(
      casePackage(folder, ['VEL', 'OSK'], lines, {
        'ownership.csv': tableOf(OWNERSHIP, 'VEL,OSK,2025-01-01,80,full'),
        'acquisitions.csv': tableOf(
          ACQUISITIONS,
          paid({
            amount: of('consideration'),
            nci: isFair ? 'fair_value' : 'proportionate',
            fair: isFair ? of('nci_fair_value_at_acquisition') : '',
          }),
          book('3000', `-${of('share_capital_at_acquisition')}`),
          book('3200', `-${of('retained_earnings_at_acquisition')}`),
          `VEL,OSK,2025-01-01,,,,fair_value,Plant,1500,6000,${of('plant_fair_value_uplift')},${12 * Number(of('remaining_life_years'))},`,
        ),
        'impairments.csv': tableOf(
          'investor,investee,period,amount',
          `VEL,OSK,FY2026-P12,${of('goodwill_impairment_this_year')}`,
        ),
        'stock_held.csv': tableOf(
          'holder,seller,period,amount,margin,direction,stock_account,cost_account',
          `VEL,OSK,FY2025-P12,${of('upstream_stock_opening_at_transfer_price')},25,upstream,1200,5000`,
          `VEL,OSK,FY2026-P12,${of('upstream_stock_closing')},25,upstream,1200,5000`,
          `OSK,VEL,FY2026-P12,${of('downstream_stock_closing')},30,downstream,1200,5000`,
        ),
        'standing_rules.csv': tableOf(
          'group,rule,kind,side,accounts,partner_accounts,difference_account,outside_account,tolerance',
          'CON,Trade,balances,both,1150,2050,,,',
          'CON,Sales,income_expense,seller,4050,5000,,,',
        ),
      }),
    );
    await expectCase(folder, '2026-12');
  });
});

describe('an acquisition within a year', () => {
  it('brings in the months from then on alone', async () => {
    const folder = 'd_midyear_acquisition';
    const months = caseTable(folder, 'subsidiary_months.csv');
    const lines = [...trialBalance(folder, 'VEL', '2025-12-31'), ...monthly(folder, months)];
    await serve(
      casePackage(folder, ['VEL', 'OSK'], lines, {
        'ownership.csv': tableOf(OWNERSHIP, 'VEL,OSK,2025-09-01,75,full'),
        'acquisitions.csv': tableOf(ACQUISITIONS, paid({ date: '2025-09-01', amount: '684000' })),
      }),
    );
    await expectCase(folder, '2025-12');
  });

  /** The months of the case; what they leave of the balances at the year's end is posted then. */
  function monthly(folder: string, months: ReturnType<typeof caseTable>): CaseLine[] {
    const entity = 'OSK';
    const lines: CaseLine[] = [];
    const post = (date: string, account: string, minor: number) =>
      lines.push({ entity, date, account, amount: (minor / 100).toFixed(2) });
    const closing = caseTable(folder, 'trial_balances.csv').filter((row) => row['entity'] === entity);
    const at = (account: string) => minorOf(closing.find((row) => row['account'] === account)?.['amount_debit_positive']);
    for (const account of ['3000', '3200']) post('2025-01-01', account, at(account));
    post('2025-01-01', '1000', -at('3000') - at('3200'));
    let cash = -at('3000') - at('3200');
    for (const row of months) {
      const amount = minorOf(row['amount_debit_positive']);
      post(`${row['period']}-15`, row['account']!, amount);
      post(`${row['period']}-15`, '1000', -amount);
      cash -= amount;
    }
    for (const account of ['1100', '1200', '1500', '2000', '2300']) {
      post('2025-12-31', account, at(account));
      cash -= at(account);
      post('2025-12-31', '1000', -at(account));
    }
    expect(cash).toBe(at('1000'));
    return lines;
  }
});

describe('a second part that is bought while control stays', () => {
  it('moves the part of others in equity', async () => {
    const folder = 'e_step_acquisition';
    const facts = caseFacts(folder, 'facts.json');
    const half = minorOf(facts['profit_first_half']) / 100;
    // the first half of the profit is earned by June
    const lines = [
      ...trialBalance(folder, 'VEL', YEAR_END),
      ...trialBalance(folder, 'OSK', YEAR_END),
      { entity: 'OSK', date: '2026-06-30', account: '4000', amount: `-${half}` },
      { entity: 'OSK', date: '2026-06-30', account: '1000', amount: `${half}` },
      { entity: 'OSK', date: '2026-12-30', account: '4000', amount: `${half}` },
      { entity: 'OSK', date: '2026-12-30', account: '1000', amount: `-${half}` },
    ];
    await serve(
      casePackage(folder, ['VEL', 'OSK'], opened(lines, folder, 'OSK'), {
        'ownership.csv': tableOf(OWNERSHIP, 'VEL,OSK,2025-01-01,60,full', 'VEL,OSK,2026-07-01,80,full'),
        'acquisitions.csv': tableOf(
          ACQUISITIONS,
          paid({ amount: String(facts['consideration_first']) }),
          book('3000', `-${facts['share_capital']}`),
          book('3200', `-${facts['retained_earnings_at_first_acquisition']}`),
          paid({ date: '2026-07-01', amount: String(facts['consideration_second']) }),
        ),
      }),
    );
    await expectCase(folder, '2026-12');
  });
});

/** Equity stands from the first day of the year on, against cash. */
function opened(lines: readonly CaseLine[], folder: string, entity: string): CaseLine[] {
  const equity = caseTable(folder, 'trial_balances.csv').filter(
    (row) => row['entity'] === entity && ['3000', '3200', '3400'].includes(row['account']!),
  );
  const moved = equity.flatMap(({ account, amount_debit_positive: amount }): CaseLine[] => {
    const back = (-Number(amount)).toFixed(2);
    const at = (date: string, to: string, sum: string) => ({ entity, date, account: to, amount: sum });
    return [
      at('2026-01-01', account!, amount!),
      at('2026-01-01', '1000', back),
      at(YEAR_END, account!, back),
      at(YEAR_END, '1000', amount!),
    ];
  });
  return [...lines, ...moved];
}

describe('tiers', () => {
  it.each([
    ['g1_tiers_effective', 'effective'],
    ['g2_tiers_sequential', 'sequential'],
  ])('are consolidated %s', async (folder, tiers) => {
    const facts = caseFacts(folder, 'facts.json') as unknown as Record<string, string[] & string>;
    const equity = (of: string) => facts[`${of}_equity_at_acquisition`]!;
    const lines = ['VEL', 'OSK', 'NAD'].flatMap((entity) => trialBalance(folder, entity, YEAR_END));
    await serve(
      casePackage(
        folder,
        ['VEL', 'OSK', 'NAD'],
        lines,
        {
          'ownership.csv': tableOf(OWNERSHIP, 'VEL,OSK,2025-01-01,80,full', 'OSK,NAD,2025-01-01,70,full'),
          'acquisitions.csv': tableOf(
            ACQUISITIONS,
            paid({ amount: facts['B_bought_by_A_for']! }),
            book('3000', `-${equity('B')[0]}`),
            book('3200', `-${equity('B')[1]}`),
            paid({ by: 'OSK', of: 'NAD', amount: facts['C_bought_by_B_for']! }),
            book('3000', `-${equity('C')[0]}`, 'OSK', 'NAD'),
            book('3200', `-${equity('C')[1]}`, 'OSK', 'NAD'),
          ),
        },
        tiers,
      ),
    );
    await expectCase(folder, '2026-12');
  });
});

describe('an entity that is sold', () => {
  it.each(['h1_disposal_all', 'h2_disposal_keeping_associate'])(
    'goes with its goodwill, the part of others and the reserve: %s',
    async (folder) => {
      const facts = caseFacts(folder, 'facts.json');
      const isKept = Number(facts['share_kept']) > 0;
      const lines = opened(trialBalance(folder, 'OSK', '2026-09-30'), folder, 'OSK').filter(
        ({ date }) => date !== YEAR_END,
      );
      await serve(
        casePackage(folder, ['VEL', 'OSK'], [...trialBalance(folder, 'VEL', YEAR_END), ...turned(lines)], {
          'ownership.csv': tableOf(
            OWNERSHIP,
            'VEL,OSK,2025-01-01,80,full',
            isKept ? 'VEL,OSK,2026-10-01,30,equity' : 'VEL,OSK,2026-10-01,0,full',
          ),
          'acquisitions.csv': tableOf(
            ACQUISITIONS,
            paid({ amount: String(facts['cost_of_investment']) }),
            book('3000', `-${facts['share_capital']}`),
            book('3200', `-${facts['retained_earnings_at_acquisition']}`),
          ),
          'disposals.csv': tableOf(
            'investor,investee,date,percent_sold,proceeds,kept_fair_value',
            `VEL,OSK,2026-10-01,${100 * Number(facts['share_sold'])},${facts['proceeds']},${isKept ? facts['fair_value_of_interest_kept'] : ''}`,
          ),
        }),
      );
      await expectCase(folder, '2026-12');
    },
  );

  /** What stands from the first day on is taken off the balances of September. */
  const turned = (lines: readonly CaseLine[]): CaseLine[] => {
    const opening = lines.filter(({ date }) => date === '2026-01-01');
    return [
      ...lines,
      ...opening.map((line) => ({ ...line, date: '2026-09-30', amount: (-Number(line.amount)).toFixed(2) })),
    ];
  };
});
