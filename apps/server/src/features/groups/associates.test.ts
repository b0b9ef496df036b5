import type { PostedView } from '@margin-lens/contract';
import { closings, expectCase } from '../../../test/case04-checks';
import {
  ACQUISITIONS,
  book,
  casePackage,
  caseFacts,
  caseTable,
  chart,
  minorOf,
  OWNERSHIP,
  paid,
  tableOf,
  trialBalance,
  YEAR_END,
  type CaseLine,
} from '../../../test/case04-package';
import { servedPackage } from '../../../test/served-app';

// Published reference case 4, see test/reference/case04/README.md; no journal is entered by hand in any of it

const { ask, serve } = servedPackage();

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
    await expectCase(ask, folder, '2026-12');
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
      const found = await closings(ask, `2026-0${row['year']}`);
      expect([row['year'], found.get('1750') ?? 0]).toEqual([row['year'], minorOf(row['closing_carrying'])]);
    }
  });

  // worked by hand: 400.00 for 40 %; of a profit of 100.00 it has 40.00; of a quarter of it that is sold for 150.00 the holder's
  // books gain 50.00, the group 150.00 − 440.00 / 4 = 40.00; of 100.00 more it has 30.00
  it('is carried at less when a part is sold, with a gain above what it was carried at', async () => {
    const post = (date: string, account: string, amount: number): CaseLine[] => [
      { entity: 'VEL', date, account, amount: String(amount) },
      { entity: 'VEL', date, account: '1000', amount: String(-amount) },
    ];
    await serve(
      casePackage(
        'b_equity_method',
        ['VEL', 'QUO'],
        [
          ...post('2026-01-01', '1750', 400),
          ...post('2026-03-01', '1750', -100),
          { entity: 'VEL', date: '2026-03-01', account: '4700', amount: '-50' },
          { entity: 'VEL', date: '2026-03-01', account: '1000', amount: '50' },
        ],
        {
          'accounts.csv': chart(
            ['1000', 'Cash', 'asset', 'cash'],
            ['1750', 'Shares in associates', 'asset', 'investment_in_associates'],
            ['3200', 'Retained earnings', 'equity', 'retained_earnings'],
            ['3400', 'Translation reserve', 'equity', 'translation_reserve'],
            ['4600', 'Share of profit', 'income', 'share_of_associates_profit'],
            ['4700', 'Gain', 'income', 'disposal_gain'],
          ),
          'ownership.csv': tableOf(OWNERSHIP, 'VEL,QUO,2026-01-01,40,equity', 'VEL,QUO,2026-03-01,30,equity'),
          'acquisitions.csv': tableOf(ACQUISITIONS, paid({ of: 'QUO', date: '2026-01-01', amount: '400' })),
          'disposals.csv': tableOf(
            'investor,investee,date,percent_sold,proceeds,kept_fair_value',
            'VEL,QUO,2026-03-01,10,150,',
          ),
          'associate_results.csv': tableOf(RESULTS, 'QUO,FY2026-P02,100,,', 'QUO,FY2026-P04,100,,'),
        },
      ),
    );
    const found = [];
    for (const month of ['02', '03', '04']) {
      const told = await closings(ask, `2026-${month}`);
      found.push(['1750', '4600', '4700'].map((account) => told.get(account) ?? 0));
    }
    expect(found).toEqual([
      [44_000, -4_000, 0],
      [33_000, -4_000, -4_000],
      [36_000, -7_000, -4_000],
    ]);
  });
});

describe('an associate in another currency', () => {
  // worked by hand: 30 % for 100.00 at 4, which are 400.00 in its currency, 100.00 of them goodwill; of 200.00 it has 60.00, or
  // 15.00; at 5 it is worth 460.00 / 5 = 92.00. Of 100.00 paid out 30.00 come back, 6.00 at 5: 430.00 / 5 = 86.00
  const pln = (date: string, account: string, amount: number): CaseLine[] => [
    { entity: 'QUO', date, account, amount: String(amount) },
    { entity: 'QUO', date, account: '1000', amount: String(-amount) },
  ];
  const rate = (period: string, type: string, value: number) => `,EUR,PLN,${period},,${type},${value}`;

  it.each<[string, CaseLine[], Record<string, string>]>([
    [
      'by what is said of it',
      [],
      {
        'associate_results.csv': tableOf(
          'entity,period,profit,other_reserves,dividend',
          'QUO,FY2026-P01,200,0,0',
          'QUO,FY2026-P02,0,0,100',
        ),
      },
    ],
    [
      'by its books',
      [...pln('2025-06-01', '3000', -1_000), ...pln('2026-01-15', '4000', -200), ...pln('2026-02-15', '3150', 100)],
      {},
    ],
  ])('is worth what the rate makes of all of it, goodwill with it: %s', async (_, lines, files) => {
    const cost = { entity: 'VEL', date: '2026-01-01' };
    await serve(
      casePackage(
        'b_equity_method',
        ['VEL', 'QUO'],
        [{ ...cost, account: '1750', amount: '100' }, { ...cost, account: '1000', amount: '-100' }, ...lines],
        {
          'accounts.csv': chart(
            ['1000', 'Cash', 'asset', 'cash'],
            ['1750', 'Shares in associates', 'asset', 'investment_in_associates'],
            ['3000', 'Share capital', 'equity', 'share_capital'],
            ['3150', 'Dividends', 'equity', 'dividends'],
            ['3200', 'Retained earnings', 'equity', 'retained_earnings'],
            ['3400', 'Translation reserve', 'equity', 'translation_reserve'],
            ['3999', 'Rounding', 'equity', 'rounding'],
            ['4000', 'Sales', 'income'],
            ['4600', 'Share of profit', 'income', 'share_of_associates_profit'],
            ['4650', 'Dividends of associates', 'income', 'associate_dividend_income'],
          ),
          'ownership.csv': tableOf(OWNERSHIP, 'VEL,QUO,2026-01-01,30,equity'),
          'acquisitions.csv': tableOf(ACQUISITIONS, paid({ of: 'QUO', date: '2026-01-01', amount: '100' })),
          'rates.csv': tableOf(
            'set,base,quote,period,date,type,rate',
            ...['FY2025-P06', 'FY2025-P12'].flatMap((period) => [
              rate(period, 'average', 4),
              rate(period, 'closing', 4),
            ]),
            ...[rate('FY2026-P01', 'average', 4), rate('FY2026-P01', 'closing', 5)],
            ...[rate('FY2026-P02', 'average', 5), rate('FY2026-P02', 'closing', 5)],
          ),
          ...files,
        },
        { currencies: { QUO: 'PLN' } },
      ),
    );
    const found = [];
    for (const month of ['01', '02']) {
      const told = await closings(ask, `2026-${month}`);
      found.push(['1750', '4600', '4650', '3400'].map((account) => told.get(account) ?? 0));
    }
    // the holder books the dividend itself, which is taken off its income
    expect(found).toEqual([
      [9_200, -1_500, 0, 2_300],
      [8_600, -1_500, 600, 2_300],
    ]);
  });

  // worked by hand: of 100.00 more 30 % are 30.00
  it('is read anew when something is posted in its books alone', async () => {
    const lines: CaseLine[] = [
      { entity: 'QUO', date: '2026-01-15', account: '4000', amount: '-200' },
      { entity: 'QUO', date: '2026-01-15', account: '1000', amount: '200' },
    ];
    await serve(
      casePackage('b_equity_method', ['VEL', 'QUO'], lines, {
        'accounts.csv': chart(
          ['1000', 'Cash', 'asset', 'cash'],
          ['1750', 'Shares in associates', 'asset', 'investment_in_associates'],
          ['3200', 'Retained earnings', 'equity', 'retained_earnings'],
          ['3400', 'Translation reserve', 'equity', 'translation_reserve'],
          ['4000', 'Sales', 'income'],
          ['4600', 'Share of profit', 'income', 'share_of_associates_profit'],
        ),
        'ownership.csv': tableOf(OWNERSHIP, 'VEL,QUO,2026-01-01,30,equity'),
        'acquisitions.csv': tableOf(ACQUISITIONS, paid({ of: 'QUO', date: '2026-01-01', amount: '0' })),
      }),
    );
    expect((await closings(ask, '2026-01')).get('1750')).toBe(6_000);
    const line = (account: string, debit: string, credit: string) => ({ account, description: '', debit, credit });
    const posted = await ask<PostedView>('POST', '/adjustments', {
      ...{ entity: 'QUO', date: '2026-01-20', period: '', reason: 'More sales', reverses: false },
      lines: [line('1000', '100.00', ''), line('4000', '', '100.00')],
    });
    expect(posted.body.issues).toEqual([]);
    expect((await closings(ask, '2026-01')).get('1750')).toBe(9_000);
  });
});

describe('a joint operation', () => {
  // worked by hand: of 20.00 of profit in goods that one of two holders sold to it half is earned, with the other holder
  it('holds goods with its part of the profit that the group made on them', async () => {
    const lines: CaseLine[] = [
      { entity: 'VEL', date: '2026-01-10', account: '4000', amount: '-100' },
      { entity: 'VEL', date: '2026-01-10', account: '1000', amount: '100' },
      { entity: 'TCP', date: '2026-01-10', account: '1200', amount: '100' },
      { entity: 'TCP', date: '2026-01-10', account: '1000', amount: '-100' },
    ];
    await serve(
      casePackage('c_proportionate', ['VEL', 'TCP'], lines, {
        'accounts.csv': chart(
          ['1000', 'Cash', 'asset', 'cash'],
          ['1200', 'Stock', 'asset'],
          ['3200', 'Retained earnings', 'equity', 'retained_earnings'],
          ['3999', 'Rounding', 'equity', 'rounding'],
          ['4000', 'Sales', 'income'],
          ['5000', 'Cost of sales', 'expense'],
        ),
        'ownership.csv': tableOf(OWNERSHIP, 'VEL,TCP,2025-01-01,50,proportionate'),
        'stock_held.csv': tableOf(
          'holder,seller,period,amount,margin,direction,stock_account,cost_account',
          'TCP,VEL,FY2026-P01,100,20,downstream,1200,5000',
        ),
      }),
    );
    const told = await closings(ask, '2026-01');
    expect([told.get('1200'), told.get('5000')]).toEqual([5_000 - 1_000, 1_000]);
  });

  // worked by hand: half of an equity of 600.00 for 500.00; half of an item of 100.00 beyond the books, less 25 % tax, is 37.50,
  // so that 162.50 are goodwill; of the item 5.00 are used up in each of ten months, with 1.25 of the tax. After two of them it
  // is carried at 300.00 + 30.00 + 162.50 = 492.50, so that 520.00 bring 27.50, of which the holder's books have 20.00
  it('is bought with its part of what items were worth, which is used up, and with goodwill, and goes with them', async () => {
    const lines: CaseLine[] = [
      { entity: 'VEL', date: '2026-01-01', account: '1760', amount: '500' },
      { entity: 'VEL', date: '2026-01-01', account: '1000', amount: '-500' },
      { entity: 'TCP', date: '2025-06-01', account: '1000', amount: '600' },
      { entity: 'TCP', date: '2025-06-01', account: '3000', amount: '-600' },
      { entity: 'VEL', date: '2026-03-01', account: '1000', amount: '520' },
      { entity: 'VEL', date: '2026-03-01', account: '1760', amount: '-500' },
      { entity: 'VEL', date: '2026-03-01', account: '4700', amount: '-20' },
    ];
    await serve(
      casePackage('c_proportionate', ['VEL', 'TCP'], lines, {
        'accounts.csv': chart(
          ['1000', 'Cash', 'asset', 'cash'],
          ['1500', 'Plant', 'asset'],
          ['1760', 'Joint operations', 'asset', 'investment_in_joint_operations'],
          ['1800', 'Goodwill', 'asset', 'goodwill'],
          ['2500', 'Deferred tax', 'liability', 'deferred_tax_liabilities'],
          ['3000', 'Share capital', 'equity', 'share_capital'],
          ['3200', 'Retained earnings', 'equity', 'retained_earnings'],
          ['3999', 'Rounding', 'equity', 'rounding'],
          ['4700', 'Gain', 'income', 'disposal_gain'],
          ['6000', 'Depreciation', 'expense'],
          ['7000', 'Deferred tax expense', 'expense', 'deferred_tax_expense'],
        ),
        'ownership.csv': tableOf(
          OWNERSHIP,
          'VEL,TCP,2026-01-01,50,proportionate',
          'VEL,TCP,2026-03-01,0,proportionate',
        ),
        'acquisitions.csv': tableOf(
          ACQUISITIONS,
          paid({ of: 'TCP', date: '2026-01-01', amount: '500' }),
          'VEL,TCP,2026-01-01,,,,fair_value,Plant,1500,6000,100,10,',
        ),
        'entities.csv': tableOf(
          'code,name,currency,calendar,tax_rate',
          'VEL,VEL entity,EUR,cal,0',
          'TCP,TCP entity,EUR,cal,25',
        ),
      }),
    );
    const told = async (month: string) => {
      const found = await closings(ask, month);
      return ['1000', '1500', '1760', '1800', '2500', '3000', '4700', '6000', '7000'].map(
        (each) => found.get(each) ?? 0,
      );
    };
    expect(await told('2026-01')).toEqual([-50_000 + 30_000, 4_500, 0, 16_250, -1_125, 0, 0, 500, -125]);
    expect(await told('2026-03')).toEqual([2_000, 0, 0, 0, 0, 0, -2_750, 1_000, -250]);
  });

  // worked by hand: half of an equity of 600.00 for 300.00 leaves nothing
  it('that was held before the first period is taken against the equity that its books open with', async () => {
    const opening = { date: '2024-01-01', kind: 'opening' as const };
    const lines: CaseLine[] = [
      { ...opening, entity: 'VEL', account: '1760', amount: '300' },
      { ...opening, entity: 'VEL', account: '3200', amount: '-300' },
      { ...opening, entity: 'TCP', account: '1000', amount: '600' },
      { ...opening, entity: 'TCP', account: '3000', amount: '-600' },
    ];
    await serve(
      casePackage('c_proportionate', ['VEL', 'TCP'], lines, {
        'accounts.csv': chart(
          ['1000', 'Cash', 'asset', 'cash'],
          ['1760', 'Joint operations', 'asset', 'investment_in_joint_operations'],
          ['1800', 'Goodwill', 'asset', 'goodwill'],
          ['3000', 'Share capital', 'equity', 'share_capital'],
          ['3200', 'Retained earnings', 'equity', 'retained_earnings'],
          ['3999', 'Rounding', 'equity', 'rounding'],
        ),
        'ownership.csv': tableOf(OWNERSHIP, 'VEL,TCP,2023-12-31,50,proportionate'),
        'acquisitions.csv': tableOf(ACQUISITIONS, paid({ of: 'TCP', date: '2023-12-31', amount: '300' })),
      }),
    );
    const told = await closings(ask, '2024-02');
    expect(['1000', '1760', '1800', '3000', '3200'].map((each) => told.get(each) ?? 0)).toEqual([
      30_000, 0, 0, 0, -30_000,
    ]);
  });

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
    await expectCase(ask, folder, '2026-12');
  });
});
