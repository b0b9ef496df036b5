import type { EliminationsView } from '@margin-lens/contract';
import { figuresOf } from '../../../test/case04-checks';
import { ACQUISITIONS, casePackage, chart, OWNERSHIP, tableOf, type CaseLine } from '../../../test/case04-package';
import { servedPackage } from '../../../test/served-app';
import type { PackageFiles } from '../../../test/tiny-package';

const { ask, serve } = servedPackage();

const ACCOUNTS = [
  ['1000', 'Cash', 'asset', 'cash'],
  ['1700', 'Shares', 'asset', 'investment_in_subsidiaries'],
  ['3000', 'Capital', 'equity', 'share_capital'],
  ['3200', 'Retained earnings', 'equity', 'retained_earnings'],
  ['3900', 'Others', 'equity', 'non_controlling_interests'],
  ['4000', 'Sales', 'income'],
  ['8000', 'Profit of others', 'equity', 'profit_of_non_controlling_interests'],
] as const;
const GOODWILL = ['1600', 'Goodwill', 'asset', 'goodwill'] as const;

const post = (entity: string, date: string, account: string, amount: number): CaseLine[] => [
  { entity, date, account, amount: String(amount) },
  { entity, date, account: '1000', amount: String(-amount) },
];

/** A subsidiary of 900.00 that is bought for 800.00 with a fifth of others, and earns 50.00 later. */
const files = (accounts: readonly (readonly [string, string, string, string?])[], more: PackageFiles = {}) =>
  casePackage(
    '.',
    ['VEL', 'OSK'],
    [
      ...post('VEL', '2025-06-01', '1700', 800),
      ...post('OSK', '2025-06-01', '3000', -900),
      ...post('OSK', '2025-08-15', '4000', -50),
    ],
    {
      'accounts.csv': chart(...accounts),
      'ownership.csv': tableOf(OWNERSHIP, 'VEL,OSK,2025-07-01,80,full'),
      'acquisitions.csv': tableOf(ACQUISITIONS, 'VEL,OSK,2025-07-01,800,proportionate,,,,,,,,'),
      ...more,
    },
  );
const view = async (asAt: string): Promise<EliminationsView> =>
  (await ask<EliminationsView>('GET', `/groups/CON/eliminations?as_at=${asAt}`)).body;

describe('the list of eliminations', () => {
  // worked by hand: goodwill 800 + 180 − 900 = 80; the part of others in the result 50 × 20 % = 10
  it('says what each does to result, assets and equity, and adds up to the group', async () => {
    await serve(files([...ACCOUNTS, GOODWILL]));
    const { journals, before, gaps } = await view('2025-12');
    expect(gaps).toEqual([]);
    expect(journals.map(({ kind, of }) => [kind, of])).toEqual([
      ['investment', ['OSK entity']],
      ['others', ['OSK entity']],
    ]);
    const [investment, others] = journals;
    expect(investment!.does).toEqual({
      ...{ result: 0, resultOfOthers: 0, assets: -72_000, liabilities: 0, others: 18_000, owners: -90_000 },
    });
    expect(others!.does).toMatchObject({ result: 0, resultOfOthers: 1_000, others: 1_000, owners: -1_000 });
    expect(before).toMatchObject({ result: 5_000, owners: 95_000 });
    expect(investment!.lines.map(({ account, closing, reason }) => [account.number, closing, reason])).toEqual([
      ['3000', 90_000, 'equity_acquired'],
      ['1600', 8_000, 'goodwill'],
      ['1700', -80_000, 'investment'],
      ['3900', -18_000, 'others_at_acquisition'],
    ]);
  });

  it('has what was done to a finished year in retained earnings, and no more in the result', async () => {
    await serve(files([...ACCOUNTS, GOODWILL]));
    const { journals } = await view('2026-03');
    const others = journals.find(({ kind }) => kind === 'others')!;
    expect(others.does).toMatchObject({ resultOfOthers: 0, others: 1_000, owners: -1_000 });
  });

  it('says what is not eliminated, since the chart has no account for it', async () => {
    await serve(files(ACCOUNTS));
    const { journals, gaps } = await view('2025-12');
    expect(journals.map(({ kind }) => kind)).toEqual(['others']);
    expect(gaps).toHaveLength(1);
    expect(gaps[0]).toContain('“goodwill”');
    const { ties } = (
      await ask<{ ties: { check: string; agrees: boolean }[] }>('GET', '/tie-outs?scope=CON&as_at=2025-12')
    ).body;
    expect(ties.find(({ check }) => check === 'eliminations')).toMatchObject({ agrees: false });
  });

  it('holds journals by hand, which go back in the next month or come again where they say so', async () => {
    const line = (journal: string, kind: string, at: number, account: string, amounts: string, month = '10') =>
      `CON,${journal},${kind},${at},FY2025-P${month},VEL,OSK,${account},${amounts},moved,A reason`;
    const byHand = {
      'eliminations.csv': tableOf(
        'group,journal,kind,line,period,entity,partner,account,debit,credit,rule,reason',
        line('E1', 'normal', 1, '4000', '7.00,'),
        line('E1', 'normal', 2, '1000', ',7.00'),
        line('E2', 'reversing', 1, '4000', '3.00,'),
        line('E2', 'reversing', 2, '1000', ',3.00'),
        line('E3', 'recurring', 1, '4000', '1.00,', '08'),
        line('E3', 'recurring', 2, '1000', ',1.00', '08'),
        line('E3', 'recurring', 3, '4000', '0,', '11'),
        line('E3', 'recurring', 4, '1000', ',0', '11'),
      ),
    };
    await serve(files([...ACCOUNTS, GOODWILL], byHand));
    const of = async (asAt: string) =>
      (await view(asAt)).journals.filter(({ kind }) => kind === 'by_hand').map(({ text, does }) => [text, does.result]);
    expect(await of('2025-10')).toEqual([
      ['A reason', -700],
      ['A reason', -300],
      ['A reason', -300],
    ]);
    // August to October of what comes again
    expect(await of('2025-11')).toEqual([
      ['A reason', -700],
      ['A reason', -300],
    ]);
    expect(await of('2025-08')).toEqual([['A reason', -100]]);
  });

  it('is asked of groups alone', async () => {
    await serve(files(ACCOUNTS));
    expect(await ask('GET', '/groups/VEL/eliminations?as_at=2025-12')).toMatchObject({ status: 404 });
  });

  // worked by hand: a plan of 2026 opens with the balances of 2025, goodwill of 80.00 and others' 190.00 among them; of 100.00
  // that are planned others have 20.00
  it('stands in a plan as in the actual books that it opens with', async () => {
    const plan = {
      'versions.csv': tableOf(
        'code,name,kind,from_period,to_period,cut_over,parent,status',
        'PLAN,Plan,plan,FY2026-P01,FY2026-P12,,,draft',
      ),
      'figures.csv': tableOf(
        'version,entity,account,period,amount,quantity',
        'PLAN,OSK,4000,FY2026-P02,100.00,',
        'PLAN,OSK,1000,FY2026-P02,100.00,',
      ),
    };
    await serve(files([...ACCOUNTS, GOODWILL], plan));
    const numbers = ['1000', '1600', '1700', '3000', '3200', '3900', '4000', '8000'];
    const columns = [{ kind: 'figure', id: 'plan', span: 'year_to_date', measure: 'closing', version: 'PLAN' }];
    const layout = { schema: 1, kind: 'column_layout', id: 'c', name: 'C', columns };
    const amounts = [...(await figuresOf(ask, numbers, layout, '2026-03')).get('plan')!.values()];
    // cash −800 + 900 + 50 + 100
    expect(amounts).toEqual([25_000, 8_000, 0, 0, -4_000, -21_000, -10_000, 2_000]);
  });
});

describe('deferred tax', () => {
  const TAXED = [
    ...ACCOUNTS,
    GOODWILL,
    ['1200', 'Stock', 'asset'],
    ['1500', 'Plant', 'asset'],
    ['1800', 'Deferred tax assets', 'asset', 'deferred_tax_assets'],
    ['2300', 'Pensions', 'liability'],
    ['2800', 'Deferred tax liabilities', 'liability', 'deferred_tax_liabilities'],
    ['5000', 'Cost of sales', 'expense'],
    ['6000', 'Depreciation', 'expense'],
    ['7000', 'Gain on assets', 'income'],
    ['8500', 'Deferred tax', 'expense', 'deferred_tax_expense'],
  ] as const;
  const taxed = (rates: Record<string, string>) =>
    tableOf(
      'code,name,currency,calendar,tax_rate',
      ...Object.entries(rates).map(([code, rate]) => `${code},${code} entity,EUR,cal,${rate}`),
    );
  const closingsOf = async (asAt: string) => {
    const { journals } = await view(asAt);
    const sums = new Map<string, number>();
    for (const { account, closing } of journals.flatMap(({ lines }) => lines))
      sums.set(account.number, (sums.get(account.number) ?? 0) + closing);
    return (...numbers: string[]) => numbers.map((number) => sums.get(number) ?? 0);
  };

  // IAS 12, illustrative examples, example 3 (from memory): paid 600; plant 270 with a tax base of 155, stock 174 with 124,
  // pensions 30 with none, net of tax bases 369; tax of 40 %; deferred tax 54, goodwill 150
  it('stands against what is worth beyond the books, and raises goodwill', async () => {
    const item = (name: string, account: string, amount: number, life: string) =>
      `VEL,OSK,2025-07-01,,,,fair_value,${name},${account},6000,${amount},${life},`;
    await serve(
      casePackage(
        '.',
        ['VEL', 'OSK'],
        [...post('VEL', '2025-06-01', '1700', 600), ...post('OSK', '2025-06-01', '3000', -369)],
        {
          'entities.csv': taxed({ VEL: '25', OSK: '40' }),
          'accounts.csv': chart(...TAXED),
          'ownership.csv': tableOf(OWNERSHIP, 'VEL,OSK,2025-07-01,100,full'),
          'acquisitions.csv': tableOf(
            ACQUISITIONS,
            'VEL,OSK,2025-07-01,600,proportionate,,,,,,,,',
            item('Plant', '1500', 115, '10'),
            item('Stock', '1200', 50, ''),
            item('Pensions', '2300', -30, ''),
          ),
        },
      ),
    );
    const { journals, gaps } = await view('2025-07');
    expect(gaps).toEqual([]);
    const investment = journals.find(({ kind }) => kind === 'investment')!;
    const of = (number: string) =>
      investment.lines
        .filter(({ account }) => account.number === number)
        .reduce((sum, { closing }) => sum + closing, 0);
    expect([of('1600'), of('2800'), of('1800')]).toEqual([15_000, -6_600, 1_200]);
    // worked by hand: 11.50 of the plant is used up each month, 4.60 of the tax with it
    const after = await closingsOf('2025-07');
    expect(after('6000', '8500', '2800')).toEqual([1_150, -460, -6_140]);
    expect((await closingsOf('2026-06'))('1500', '2800')).toEqual([0, -2_000]);
  });

  // worked by hand: 40.00 of stock at a margin of 25 % hold 10.00 of profit, taxed at the holder's 30 %
  it('goes with the profit in stock, at the rate of the holder, and with the part of others', async () => {
    await serve(
      files(TAXED, {
        'entities.csv': taxed({ VEL: '30', OSK: '40' }),
        'stock_held.csv': tableOf(
          'holder,seller,period,amount,margin,direction,stock_account,cost_account',
          'VEL,OSK,FY2025-P09,40.00,25,upstream,1200,5000',
          'VEL,OSK,FY2025-P11,0,25,upstream,1200,5000',
        ),
      }),
    );
    expect((await closingsOf('2025-10'))('1200', '5000', '1800', '8500')).toEqual([-1_000, 1_000, 300, -300]);
    // a fifth of 50.00 less 7.00
    expect((await closingsOf('2025-10'))('8000')).toEqual([860]);
    expect((await closingsOf('2025-11'))('1200', '5000', '1800', '8500', '8000')).toEqual([0, 0, 0, 0, 1_000]);
  });

  // worked by hand: a gain of 100.00 over 3 months at 33 %: 33.00, then 22.00, 11.00 and nothing
  it('goes with the gain on what was sold within the group, down to nothing', async () => {
    await serve(
      files(TAXED, {
        'entities.csv': taxed({ VEL: '33', OSK: '0' }),
        'asset_transfers.csv': tableOf(
          'seller,buyer,period,account,proceeds,carrying_amount,life_months,gain_account,expense_account',
          'OSK,VEL,FY2025-P08,1500,300.00,200.00,3,7000,6000',
        ),
      }),
    );
    const found = [];
    for (const month of ['08', '09', '10', '11'])
      found.push((await closingsOf(`2025-${month}`))('1500', '1800', '8500'));
    expect(found).toEqual([
      [-10_000, 3_300, -3_300],
      [-6_667, 2_200, -2_200],
      [-3_333, 1_100, -1_100],
      [0, 0, 0],
    ]);
  });

  it('is missed where no tax rate is said', async () => {
    await serve(
      files(TAXED, {
        'entities.csv': taxed({ VEL: '', OSK: '25' }),
        'stock_held.csv': tableOf(
          'holder,seller,period,amount,margin,direction,stock_account,cost_account',
          'VEL,OSK,FY2025-P09,40.00,25,upstream,1200,5000',
        ),
      }),
    );
    const { gaps } = await view('2025-10');
    expect(gaps).toHaveLength(1);
    expect(gaps[0]).toContain('no deferred tax in one month, since no tax rate is said');
  });
});
