import type { FastifyInstance } from 'fastify';
import type { PairsView, StatementView, TraceView, TrialBalanceView } from '@margin-lens/contract';
import { STANDARD_COLUMNS } from '@margin-lens/core';
import { asking } from '../../../test/asking';
import {
  ACQUISITIONS,
  casePackage,
  caseFacts,
  caseTable,
  chart,
  chartOf,
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

/** Rules of the case by the kinds of eliminations that stand for them. */
const KINDS: Record<string, string> = {
  investment: 'investment',
  'fair value': 'fair_value',
  'unrealised profit': 'stock_profit',
  nci: 'others',
  'intercompany sales': 'income_expense',
  'intercompany balances': 'balances',
  dividend: 'dividend',
  impairment: 'impairment',
  step: 'step',
};

/** The worksheet of the group, one row an account. Amounts by column, debit positive. */
async function worksheetOf(folder: string, asAt: string) {
  const accounts = [...chartOf(folder).keys()];
  const payload = {
    document: { schema: 1, kind: 'statement', id: 's', name: 'S', rows: 'r', columns: 'group_worksheet', unit: 1 },
    rowLayout: {
      ...{ schema: 1, kind: 'row_layout', id: 'r', name: 'R', purpose: 'free' },
      rows: accounts.map((account) => ({
        ...{ kind: 'accounts', id: `a${account}`, label: account, orientation: 'debit' },
        accounts: { include: [{ by: 'account', number: account }] },
      })),
    },
    columnLayout: STANDARD_COLUMNS.find(({ id }) => id === 'group_worksheet'),
    context: { scope: 'CON', as_at: asAt },
  };
  const reply = await ask<StatementView>('POST', '/statements/preview', payload);
  expect(reply.status).toBe(200);
  const { columns, rows } = reply.body;
  return new Map(
    columns.map(({ id }, at) => [
      id,
      new Map(rows.map((row) => [row.id.slice(1), Math.round(row.cells[at]!.amount ?? 0) + 0])),
    ]),
  );
}

/** All that is expected of a case: the trial balance and the worksheet, each of its columns in balance. */
async function expectCase(folder: string, asAt: string): Promise<void> {
  const found = await closings(asAt);
  const sheet = await worksheetOf(folder, asAt);
  const column = (id: string) => sheet.get(id)!;
  const [group, sum, eliminated] = ['group', 'sum', 'eliminations.total'].map(column);
  const isCutOtherwise = /^[dh]/.test(folder);
  for (const row of caseTable(folder, 'consolidated_trial_balance.csv')) {
    const account = row['account']!;
    const expected = (name: string) => [account, name, minorOf(row[name])];
    const shown = (name: string, amount: number | undefined) => [account, name, amount ?? 0];
    expect(shown('consolidated_debit_positive', found.get(account))).toEqual(expected('consolidated_debit_positive'));
    expect(shown('consolidated_debit_positive', group!.get(account))).toEqual(expected('consolidated_debit_positive'));
    if (isCutOtherwise) continue;
    expect(shown('sum_of_entities', sum!.get(account))).toEqual(expected('sum_of_entities'));
    expect(shown('eliminations', eliminated!.get(account))).toEqual(expected('eliminations'));
  }
  for (const [id, amounts] of sheet) {
    const total = [...amounts.values()].reduce((all, amount) => all + amount, 0);
    expect([id, total]).toEqual([id, 0]);
  }
  for (const [account, amount] of group!) expect(amount).toBe(sum!.get(account)! + eliminated!.get(account)!);
  if (!isCutOtherwise) expectRules(folder, sheet);
}

/** What each rule of the case does to each account. */
function expectRules(folder: string, sheet: ReadonlyMap<string, ReadonlyMap<string, number>>): void {
  const rules = new Map<string, Map<string, number>>();
  for (const { rule, account, debit, credit } of caseTable(folder, 'elimination_journals.csv')) {
    const amounts = rules.get(rule!) ?? new Map<string, number>();
    rules.set(rule!, amounts.set(account!, (amounts.get(account!) ?? 0) + minorOf(debit) - minorOf(credit)));
  }
  for (const [rule, amounts] of rules) {
    // of associates and joint operations several rules are one kind
    if (/^[bc]/.test(folder) && rule !== 'intercompany balances' && rule !== 'intercompany sales') continue;
    const told = sheet.get(`eliminations.eliminations_${KINDS[rule]}`)!;
    for (const [account, amount] of amounts)
      expect([rule, account, told.get(account)]).toEqual([rule, account, amount]);
  }
}

const YEAR_END = '2026-12-31';
const paid = (row: { by?: string; of?: string; date?: string; amount: string; nci?: string; fair?: string }) => {
  const { by = 'VEL', of = 'OSK', date = '2025-01-01', amount, nci = 'proportionate', fair = '' } = row;
  return `${by},${of},${date},${amount},${nci},${fair},,,,,,,`;
};
const book = (account: string, amount: string, by = 'VEL', of = 'OSK', date = '2025-01-01') =>
  `${by},${of},${date},,,,book,${account},${account},,${amount},,`;

/** The package of case a1 or a2. */
function firstCase(folder: string): PackageFiles {
  const facts = caseFacts(folder, 'facts.json');
  const isFair = facts['nci_measurement'] === 'fair value';
  const of = (name: string) => String(facts[name]);
  const lines = [
    ...trialBalance(folder, 'VEL', YEAR_END, { '2050': 'OSK', '4050': 'OSK' }),
    ...trialBalance(folder, 'OSK', YEAR_END, { '1150': 'VEL', '4050': 'VEL' }),
  ];
  return casePackage(folder, ['VEL', 'OSK'], lines, {
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
  });
}

describe('a subsidiary with outside owners', () => {
  const FOLDERS = ['a1_full_nci_proportionate', 'a2_full_nci_fair_value'];

  it.each(FOLDERS)('is consolidated with goodwill, fair values and unrealised profit: %s', async (folder) => {
    await serve(firstCase(folder));
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
    const at = (account: string) =>
      minorOf(closing.find((row) => row['account'] === account)?.['amount_debit_positive']);
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
        { tiers },
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

describe('an associate', () => {
  const RESULTS = 'entity,period,profit,other_reserves,dividend';

  it('is one line, with its part of profits less what was paid out', async () => {
    const folder = 'b_equity_method';
    const facts = caseFacts(folder, 'facts.json') as unknown as Record<string, string>;
    const [[profit, dividend]] = facts['earlier_years_profit_and_dividend'] as unknown as [[string, string]];
    const stock = (holder: string, seller: string, amount: string, margin: string) =>
      `${holder},${seller},FY2026-P12,${amount},${100 * Number(margin)},${seller === 'VEL' ? 'downstream' : 'upstream'},1200,5000`;
    await serve(
      casePackage(folder, ['VEL', 'QUO'], trialBalance(folder, 'VEL', YEAR_END), {
        'ownership.csv': tableOf(OWNERSHIP, 'VEL,QUO,2025-01-01,30,equity'),
        'acquisitions.csv': tableOf(
          ACQUISITIONS,
          paid({ of: 'QUO', amount: facts['cost']! }),
          `VEL,QUO,2025-01-01,,,,fair_value,Plant,1500,6000,${facts['of_which_plant_uplift']},${12 * Number(facts['life_years'])},`,
        ),
        'associate_results.csv': tableOf(
          RESULTS,
          `QUO,FY2025-P12,${profit},,${dividend}`,
          `QUO,FY2026-P12,${facts['profit_this_year']},,${facts['dividend_this_year']}`,
        ),
        'stock_held.csv': tableOf(
          'holder,seller,period,amount,margin,direction,stock_account,cost_account',
          stock('QUO', 'VEL', facts['downstream_stock_held_by_associate']!, facts['downstream_margin']!),
          stock('VEL', 'QUO', facts['upstream_stock_held_by_group']!, facts['upstream_margin']!),
        ),
      }),
    );
    await expectCase(folder, '2026-12');
  });

  // the years of the case as months: how long they last makes no difference
  it('is never carried below nothing, and makes up for losses first', async () => {
    const rows = caseTable('b_equity_method', 'loss_limit.csv');
    const cost = rows[0]!['opening_carrying']!;
    await serve(
      casePackage(
        'b_equity_method',
        ['VEL', 'QUO'],
        [
          { entity: 'VEL', date: '2026-01-01', account: '1750', amount: cost },
          { entity: 'VEL', date: '2026-01-01', account: '1000', amount: `-${cost}` },
        ],
        {
          'ownership.csv': tableOf(OWNERSHIP, 'VEL,QUO,2026-01-01,30,equity'),
          'acquisitions.csv': tableOf(ACQUISITIONS, paid({ of: 'QUO', date: '2026-01-01', amount: cost })),
          'associate_results.csv': tableOf(
            RESULTS,
            ...rows.map(
              (row) => `QUO,FY2026-P0${row['year']},${row['associate_profit']},,${row['associate_dividend']}`,
            ),
          ),
        },
      ),
    );
    for (const row of rows) {
      const found = await closings(`2026-0${row['year']}`);
      expect([row['year'], found.get('1750') ?? 0]).toEqual([row['year'], minorOf(row['closing_carrying'])]);
    }
  });
});

describe('a joint operation', () => {
  it('is taken in part, and what the group has with it is taken off in part', async () => {
    const folder = 'c_proportionate';
    const facts = caseFacts(folder, 'facts.json');
    const full = caseTable(folder, 'joint_operation_full.csv').map(
      ({ account, amount_debit_positive: amount }): CaseLine => ({
        ...{ entity: 'TCP', date: YEAR_END, account: account!, amount: amount! },
        partner: account === '2050' ? 'VEL' : '',
      }),
    );
    const cost = caseTable(folder, 'trial_balances.csv').find(
      ({ entity, account }) => entity === 'VEL' && account === '1760',
    )!['amount_debit_positive']!;
    const capital = full.find(({ account }) => account === '3000')!.amount;
    expect(facts['share']).toBe('0.50');
    await serve(
      casePackage(
        folder,
        ['VEL', 'TCP'],
        [...trialBalance(folder, 'VEL', YEAR_END, { '1150': 'TCP', '4050': 'TCP' }), ...full],
        {
          'ownership.csv': tableOf(OWNERSHIP, 'VEL,TCP,2025-01-01,50,proportionate'),
          'acquisitions.csv': tableOf(
            ACQUISITIONS,
            paid({ of: 'TCP', amount: cost }),
            book('3000', capital, 'VEL', 'TCP'),
          ),
          'standing_rules.csv': tableOf(
            'group,rule,kind,side,accounts,partner_accounts,difference_account,outside_account,tolerance',
            'CON,Trade,balances,both,1150,2050,,1100,',
            'CON,Sales,income_expense,seller,4050,5000,,4000,',
          ),
        },
      ),
    );
    await expectCase(folder, '2026-12');
  });
});

describe('balances between entities that do not meet', () => {
  const folder = 'f_intercompany_mismatch';
  const cases = caseTable(folder, 'balances.csv').map((row) => [row['case']!, row] as const);

  it.each(cases)('are taken off in full, with the difference on an account of its own: %s', async (name, row) => {
    const of = (column: string) => row[column]!;
    const [creditor, debtor] = [of('creditor'), of('debtor')];
    const currency = of('transaction_currency');
    const side = (
      entity: string,
      account: string,
      amount: string,
      partner: string,
      currencyAmount: string,
    ): CaseLine[] => {
      const back = amount.startsWith('-') ? amount.slice(1) : `-${amount}`;
      const line = { entity, date: YEAR_END };
      return [
        { ...line, account, amount, partner, currency, currencyAmount },
        { ...line, account: '1000', amount: back },
      ];
    };
    const owed = of('debtor_book_amount_functional');
    const lines = [
      ...side(
        creditor,
        '1150',
        of('creditor_book_amount_functional'),
        debtor,
        of('creditor_amount_in_transaction_currency'),
      ),
      ...(Number(owed) === 0
        ? []
        : side(debtor, '2050', `-${owed}`, creditor, `-${of('debtor_amount_in_transaction_currency')}`)),
    ];
    const entities = [...new Set(['VEL', creditor, debtor])];
    const rate = (type: string) => `,USD,EUR,FY2026-P12,,${type},${of('closing_rate_foreign_to_group')}`;
    await serve(
      casePackage(
        folder,
        entities,
        lines,
        {
          'accounts.csv': chart(
            ['1000', 'Cash', 'asset', 'cash'],
            ['1150', 'Intercompany receivables', 'asset'],
            ['1159', 'Intercompany difference', 'asset', 'intercompany_difference'],
            ['2050', 'Intercompany payables', 'liability'],
            ['3200', 'Retained earnings', 'equity', 'retained_earnings'],
            ['3400', 'Translation reserve', 'equity', 'translation_reserve'],
            ['3999', 'Rounding', 'equity', 'rounding'],
          ),
          'ownership.csv': tableOf(OWNERSHIP, ...entities.slice(1).map((code) => `VEL,${code},2025-01-01,100,full`)),
          'rates.csv': tableOf('set,base,quote,period,date,type,rate', rate('closing'), rate('average')),
          'standing_rules.csv': tableOf(
            'group,rule,kind,side,accounts,partner_accounts,difference_account,outside_account,tolerance',
            'CON,Trade,balances,both,1150,2050,,,5.00',
          ),
        },
        { currencies: { [creditor]: of('creditor_functional'), [debtor]: of('debtor_functional') } },
      ),
    );
    const found = await closings('2026-12');
    const expected = caseTable(folder, 'differences.csv').find((each) => each['case'] === name)!;
    const shown = ['1150', '2050', '1159'].map((account) => found.get(account) ?? 0);
    expect(shown).toEqual([0, 0, minorOf(expected['difference'])]);
    const { pairs } = (await ask<PairsView>('GET', '/groups/CON/pairs?as_at=2026-12')).body;
    expect(pairs).toHaveLength(1);
    const [pair] = pairs;
    expect(pair).toMatchObject({
      ...{ one: { code: creditor }, other: { code: debtor } },
      own: minorOf(expected['receivable_in_group_currency']),
      theirs: -minorOf(expected['payable_in_group_currency']) + 0,
      difference: minorOf(expected['difference']),
      booking: minorOf(expected['booking_difference']),
      rate: minorOf(expected['currency_difference']),
    });
    const isOpen = expected['status_at_tolerance_5.00'] === 'to be resolved';
    expect(pair!.state === 'open').toBe(isOpen);
  });
});

describe('goodwill', () => {
  const table = caseTable('.', 'i_goodwill_table.csv').map((row) => [row['case']!, row] as const);

  it.each(table)('is what was paid, with the part of others, above net assets: %s', async (_, row) => {
    const isFair = row['nci_measurement'] === 'fair value';
    const others = Number(row['nci_share']);
    const prior = row['previously_held_fair_value'] ?? '';
    const spent = String(Number(row['consideration']) + Number(prior || 0));
    const post = (entity: string, account: string, amount: string): CaseLine[] => [
      { entity, date: '2025-06-01', account, amount },
      { entity, date: '2025-06-01', account: '1000', amount: amount.startsWith('-') ? amount.slice(1) : `-${amount}` },
    ];
    const net = row['identifiable_net_assets']!;
    await serve(
      casePackage('.', ['VEL', 'OSK'], [...post('VEL', '1700', spent), ...post('OSK', '3000', `-${net}`)], {
        'accounts.csv': chart(
          ['1000', 'Cash', 'asset', 'cash'],
          ['1600', 'Goodwill', 'asset', 'goodwill'],
          ['1700', 'Investments', 'asset', 'investment_in_subsidiaries'],
          ['3000', 'Share capital', 'equity', 'share_capital'],
          ['3200', 'Retained earnings', 'equity', 'retained_earnings'],
          ['3900', 'Others', 'equity', 'non_controlling_interests'],
          ['4800', 'Bargain purchase', 'income', 'bargain_purchase_gain'],
          ['8000', 'Profit of others', 'equity', 'profit_of_non_controlling_interests'],
        ),
        'ownership.csv': tableOf(OWNERSHIP, `VEL,OSK,2025-07-01,${100 - 100 * others},full`),
        'acquisitions.csv': tableOf(
          ACQUISITIONS,
          `VEL,OSK,2025-07-01,${row['consideration']},${isFair ? 'fair_value' : 'proportionate'},${row['nci_fair_value']},,,,,,,${prior}`,
        ),
      }),
    );
    const found = await closings('2025-12');
    const shown = ['3900', '1600', '4800', '1700', '3000'].map((account) => found.get(account) ?? 0);
    const [nci, goodwill, gain] = ['nci_at_acquisition', 'goodwill', 'bargain_purchase_gain'].map((column) =>
      minorOf(row[column]),
    );
    expect(shown).toEqual([-nci! + 0, goodwill, -gain! + 0, 0, 0]);
  });
});

describe('the trace of a group', () => {
  const folder = 'a1_full_nci_proportionate';

  it('goes from each balance of the group through eliminations to what they were found from', async () => {
    await serve(firstCase(folder));
    const seen = new Set<string>();
    const operations = new Set<string>();
    const walk = async (address: string): Promise<void> => {
      if (seen.has(address)) return;
      seen.add(address);
      const level = await trace(address);
      operations.add(level.operation);
      const sum = level.terms.reduce((all, { sign, figure }) => all + sign * (figure.amount ?? 0), 0);
      if (['sum', 'members', 'eliminations'].includes(level.operation))
        expect([address, sum]).toEqual([address, level.figure.amount]);
      for (const term of level.terms) await walk(term.address);
    };
    for (const account of ['1600', '1500', '3200', '3900', '8000', '1159', '4500']) {
      const known = chartOf(folder).has(account);
      if (known) await walk(`closing~${account}~FY2026-P12~1`);
    }
    for (const operation of ['members', 'eliminations', 'elimination', 'postings'])
      expect(operations).toContain(operation);
  });

  it('names what an elimination is for, with its entities and what it was found from', async () => {
    await serve(firstCase(folder));
    const level = await trace('movement~8000~FY2026-P12~1');
    const eliminations = await trace(level.terms[0]?.address ?? level.address);
    const [line] = eliminations.terms;
    expect(line!.label).toMatchObject({ kind: 'elimination', of: 'others', reason: 'others_share_of_result' });
    const below = await trace(line!.address);
    expect(below.operation).toBe('elimination');
    // the accounts of the subsidiary's result in that month
    const numbers = below.terms.map(({ label }) => label.kind === 'entity' && label.number);
    expect(numbers).toEqual(['4000', '4050', '5000', '6000', '6500', '7000']);
  });

  const trace = async (address: string) => {
    const query = new URLSearchParams({ scope: 'CON', as_at: 'FY2026-P12', address });
    const reply = await ask<TraceView>('GET', `/statements/income_statement/trace?${query}`);
    expect([address, reply.status]).toEqual([address, 200]);
    return reply.body;
  };
});
