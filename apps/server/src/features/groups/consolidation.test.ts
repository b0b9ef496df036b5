import type { TraceView } from '@margin-lens/contract';
import { STANDARD_COLUMNS } from '@margin-lens/core';
import { closings, expectCase, expectCashFlow, figuresOf } from '../../../test/case04-checks';
import {
  ACQUISITIONS,
  book,
  booked,
  casePackage,
  caseFacts,
  caseTable,
  chart,
  chartOf,
  minorOf,
  OWNERSHIP,
  paid,
  SMALL_CHART,
  tableOf,
  trialBalance,
  YEAR_END,
  type CaseLine,
} from '../../../test/case04-package';
import { servedPackage } from '../../../test/served-app';
import type { PackageFiles } from '../../../test/tiny-package';

// Published reference case 4, see test/reference/case04/README.md; no journal is entered by hand in any of it

const { ask, serve } = servedPackage();

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
    await expectCase(ask, folder, '2026-12');
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
    await expectCase(ask, folder, '2025-12');
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
    await expectCase(ask, folder, '2026-12');
  });
});

describe('a step before the first period', () => {
  // worked by hand: 60 % for 700.00 of net assets of 1,000.00: goodwill 100.00, others 400.00; a quarter more for 300.00, of
  // which others had 250.00; the books open with 50.00 more, of which others have 15 %
  it('is taken at its opening, with goodwill of the day of control', async () => {
    const opening = (entity: string, account: string, amount: number) => booked(entity, '2024-01-01', account, amount);
    await serve(
      casePackage(
        '.',
        ['VEL', 'OSK'],
        [...opening('VEL', '1700', 1_000), ...opening('OSK', '3000', -1_000), ...opening('OSK', '3200', -50)],
        {
          'accounts.csv': SMALL_CHART,
          'ownership.csv': tableOf(OWNERSHIP, 'VEL,OSK,2022-01-01,60,full', 'VEL,OSK,2023-01-01,85,full'),
          'acquisitions.csv': tableOf(
            ACQUISITIONS,
            paid({ date: '2022-01-01', amount: '700' }),
            book('3000', '-1000', 'VEL', 'OSK', '2022-01-01'),
            paid({ date: '2023-01-01', amount: '300' }),
          ),
        },
      ),
    );
    const found = await closings(ask, '2024-01');
    const shown = ['1600', '1700', '3000', '3200', '3500', '3900'].map((account) => found.get(account) ?? 0);
    expect(shown).toEqual([10_000, 0, 0, -4_250, 5_000, -15_750]);
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
    await expectCase(ask, folder, '2026-12');
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
      await expectCase(ask, folder, '2026-12');
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

describe('a group within the group', () => {
  it('is a column of the worksheet, consolidated by itself', async () => {
    const groups = tableOf(
      'code,name,currency,calendar,top_entity,parent_group,tiers',
      'CON,Group,EUR,cal,VEL,,',
      'SUB,Part,EUR,cal,OSK,CON,',
    );
    const lines = [
      ...booked('VEL', '2025-02-01', '1700', 800),
      ...booked('OSK', '2025-01-01', '3000', -900),
      ...booked('OSK', '2025-02-01', '1700', 300),
      ...booked('NAD', '2025-01-01', '3000', -200),
    ];
    await serve(
      casePackage('.', ['VEL', 'OSK', 'NAD'], lines, {
        'accounts.csv': SMALL_CHART,
        'groups.csv': groups,
        'ownership.csv': tableOf(OWNERSHIP, 'VEL,OSK,2025-02-01,100,full', 'OSK,NAD,2025-02-01,100,full'),
        'acquisitions.csv': tableOf(
          ACQUISITIONS,
          paid({ date: '2025-02-01', amount: '800' }),
          paid({ by: 'OSK', of: 'NAD', date: '2025-02-01', amount: '300' }),
        ),
      }),
    );
    const layout = STANDARD_COLUMNS.find(({ id }) => id === 'group_worksheet');
    const found = await figuresOf(ask, ['1000', '1600', '1700', '3000'], layout, '2025-03');
    // worked by hand: 300.00 was paid for 200.00; the part has its own shares no more, and its own capital alone
    expect([...found.get('subgroups.SUB')!]).toEqual([
      ['1000', 80_000],
      ['1600', 10_000],
      ['1700', 0],
      ['3000', -90_000],
    ]);
  });
});

describe('a comparison of like with like', () => {
  const facts = () =>
    casePackage(
      '.',
      ['VEL', 'OSK'],
      [
        ...booked('VEL', '2024-12-01', '1700', 800),
        ...booked('VEL', '2025-03-05', '4000', -10),
        ...booked('OSK', '2024-12-01', '3000', -900),
        ...booked('OSK', '2025-03-05', '4000', -20),
        ...booked('OSK', '2025-08-05', '4000', -30),
        ...booked('VEL', '2026-03-05', '4000', -40),
      ],
      {
        'accounts.csv': SMALL_CHART,
        'ownership.csv': tableOf(OWNERSHIP, 'VEL,OSK,2025-01-01,80,full', 'VEL,OSK,2025-10-01,0,full'),
        'acquisitions.csv': tableOf(ACQUISITIONS, paid({ date: '2025-01-01', amount: '800' })),
      },
    );

  // what an entity earned is left out in months in which it does not count a year on; leaving it out is no sale
  it('has no gain for an entity that it leaves out', async () => {
    await serve(facts());
    const then = { kind: 'figure', span: 'year_to_date', measure: 'movement', yearsBack: 1 };
    const columns = [
      { kind: 'figure', id: 'now', span: 'year_to_date', measure: 'movement' },
      { ...then, id: 'then' },
      { ...then, id: 'like', likeFor: 'now' },
    ];
    const layout = { schema: 1, kind: 'column_layout', id: 'c', name: 'C', columns };
    const found = await figuresOf(ask, ['4000', '7900'], layout, '2026-12');
    const [sales, gains] = ['4000', '7900'].map((account) => ['then', 'like'].map((id) => found.get(id)!.get(account)));
    expect(sales).toEqual([-6_000, -1_000]);
    // worked by hand: net assets of 950.00 and goodwill of 80.00 go with 190.00 of others, for nothing; the 800.00 that were
    // paid stand again, since the holder's books still have them
    expect(gains).toEqual([4_000, 0]);
  });
});

describe('an asset that is sold within the group', () => {
  // worked by hand: of a gain of 60.00 over 6 months 10.00 come back in each of July, August and September; the rest is
  // earned in October, when the buyer leaves
  it('has earned what was not given back yet when one of the two leaves', async () => {
    await serve(
      casePackage(
        '.',
        ['VEL', 'OSK'],
        [...booked('VEL', '2025-06-10', '7000', -60), ...booked('OSK', '2025-06-10', '1500', 100)],
        {
          'accounts.csv': SMALL_CHART,
          'ownership.csv': tableOf(OWNERSHIP, 'VEL,OSK,2025-01-01,100,full', 'VEL,OSK,2025-10-01,0,full'),
          'asset_transfers.csv': tableOf(
            'seller,buyer,period,account,proceeds,carrying_amount,life_months,gain_account,expense_account',
            'VEL,OSK,FY2025-P06,1500,100,40,6,7000,6000',
          ),
        },
      ),
    );
    const found = [];
    for (const month of ['06', '09', '10', '12']) {
      const told = await closings(ask, `2025-${month}`);
      found.push(['1500', '6000', '7000'].map((account) => told.get(account) ?? 0));
    }
    expect(found).toEqual([
      [4_000, 0, 0],
      [7_000, -3_000, 0],
      [0, -3_000, -3_000],
      [0, -3_000, -3_000],
    ]);
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
    // months are read as far as something is posted
    const later = booked('VEL', '2025-12-01', '3200', -1);
    await serve(
      casePackage('.', ['VEL', 'OSK'], [...post('VEL', '1700', spent), ...post('OSK', '3000', `-${net}`), ...later], {
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
    const found = await closings(ask, '2025-12');
    const shown = ['3900', '1600', '4800', '1700', '3000'].map((account) => found.get(account) ?? 0);
    const [nci, goodwill, gain] = ['nci_at_acquisition', 'goodwill', 'bargain_purchase_gain'].map((column) =>
      minorOf(row[column]),
    );
    expect(shown).toEqual([-nci! + 0, goodwill, -gain! + 0, 0, 0]);
    await expectCashFlow(ask, '2025-12');
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
