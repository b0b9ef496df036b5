import type { FastifyInstance } from 'fastify';
import type { EliminationsView, PairDocuments, PairsView, StatementView } from '@margin-lens/contract';
import { asking } from '../../../test/asking';
import { ACQUISITIONS, casePackage, chart, OWNERSHIP, tableOf, type CaseLine } from '../../../test/case04-package';
import { workspaceOf, type PackageFiles } from '../../../test/tiny-package';
import { buildApp } from '../../app';

let app: FastifyInstance;
const ask = asking(() => app);
afterEach(() => app.close());

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
const serve = async (of: PackageFiles) => {
  app = await buildApp({ databaseFile: await workspaceOf(of), webRoot: '/nonexistent' });
};
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

  it('holds journals by hand, which go back in the next month where they say so', async () => {
    const line = (journal: string, kind: string, at: number, account: string, amounts: string) =>
      `CON,${journal},${kind},${at},FY2025-P10,VEL,OSK,${account},${amounts},moved,A reason`;
    const byHand = {
      'eliminations.csv': tableOf(
        'group,journal,kind,line,period,entity,partner,account,debit,credit,rule,reason',
        line('E1', 'normal', 1, '4000', '7.00,'),
        line('E1', 'normal', 2, '1000', ',7.00'),
        line('E2', 'reversing', 1, '4000', '3.00,'),
        line('E2', 'reversing', 2, '1000', ',3.00'),
      ),
    };
    await serve(files([...ACCOUNTS, GOODWILL], byHand));
    const of = async (asAt: string) =>
      (await view(asAt)).journals.filter(({ kind }) => kind === 'by_hand').map(({ text, does }) => [text, does.result]);
    expect(await of('2025-10')).toEqual([
      ['A reason', -700],
      ['A reason', -300],
    ]);
    expect(await of('2025-11')).toEqual([['A reason', -700]]);
  });

  it('is asked of groups alone', async () => {
    await serve(files(ACCOUNTS));
    expect(await ask('GET', '/groups/VEL/eliminations?as_at=2025-12')).toMatchObject({ status: 404 });
  });

  // worked by hand: of 30.00 that the parent claims of two, each has booked its own part but for 1.00
  it('meets what entities have with each other pair by pair, though an account has several partners', async () => {
    const claim = (entity: string, account: string, amount: number, partner: string): CaseLine[] => [
      { entity, date: '2025-09-10', account, amount: String(amount), partner },
      { entity, date: '2025-09-10', account: '1000', amount: String(-amount) },
    ];
    const packed = casePackage(
      '.',
      ['VEL', 'OSK', 'QUO'],
      [
        ...claim('VEL', '1150', 10, 'OSK'),
        ...claim('VEL', '1150', 20, 'QUO'),
        ...claim('VEL', '1150', 400, 'ELSE'),
        ...claim('OSK', '2050', -10, 'VEL'),
        ...claim('QUO', '2050', -19, 'VEL'),
      ],
      {
        'accounts.csv': chart(
          ...ACCOUNTS,
          ['1150', 'Claims', 'asset'],
          ['1159', 'Differences', 'asset', 'intercompany_difference'],
          ['2050', 'Debts', 'liability'],
        ),
        'partners.csv': tableOf('code,name,kind', 'ELSE,Someone else,customer'),
        'ownership.csv': tableOf(OWNERSHIP, 'VEL,OSK,2025-01-01,100,full', 'VEL,QUO,2025-01-01,100,full'),
        'standing_rules.csv': tableOf(
          'group,rule,kind,side,accounts,partner_accounts,difference_account,outside_account,tolerance',
          'CON,Trade,balances,both,1150,2050,,,0.50',
        ),
      },
    );
    await serve(packed);
    const { pairs } = (await ask<PairsView>('GET', '/groups/CON/pairs?as_at=2025-09')).body;
    expect(
      pairs.map(({ other, own, theirs, difference, state }) => [other.code, own, theirs, difference, state]),
    ).toEqual([
      ['QUO', 2_000, -1_900, 100, 'open'],
      ['OSK', 1_000, -1_000, 0, 'agrees'],
    ]);
    const query = new URLSearchParams({ as_at: '2025-09', rule: 'Trade', one: 'VEL', other: 'QUO' });
    const { documents } = (await ask<PairDocuments>('GET', `/groups/CON/pairs/documents?${query}`)).body;
    expect(documents.map(({ state, own, theirs }) => [state, own, theirs])).toEqual([
      ['alone', 2_000, 0],
      ['alone', 0, -1_900],
    ]);
    expect(documents[0]!.advice).toContain('QUO entity has not booked');
    // what is with others stays
    const { journals } = await view('2025-09');
    const claims = journals.flatMap(({ lines }) => lines).filter(({ account }) => account.number === '1150');
    expect(claims.reduce((sum, { closing }) => sum + closing, 0)).toBe(-3_000);
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
    const payload = {
      document: { schema: 1, kind: 'statement', id: 's', name: 'S', rows: 'r', columns: 'c', unit: 1 },
      rowLayout: {
        ...{ schema: 1, kind: 'row_layout', id: 'r', name: 'R', purpose: 'free' },
        rows: numbers.map((number) => ({
          ...{ kind: 'accounts', id: `a${number}`, label: number, orientation: 'debit' },
          accounts: { include: [{ by: 'account', number }] },
        })),
      },
      columnLayout: {
        ...{ schema: 1, kind: 'column_layout', id: 'c', name: 'C' },
        columns: [{ kind: 'figure', id: 'plan', span: 'year_to_date', measure: 'closing', version: 'PLAN' }],
      },
      context: { scope: 'CON', as_at: '2026-03' },
    };
    const { rows } = (await ask<StatementView>('POST', '/statements/preview', payload)).body;
    const amounts = rows.map(({ cells }) => cells[0]!.amount ?? 0);
    // cash −800 + 900 + 50 + 100
    expect(amounts).toEqual([25_000, 8_000, 0, 0, -4_000, -21_000, -10_000, 2_000]);
  });
});
