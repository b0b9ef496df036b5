import type { Readiness } from '@margin-lens/contract';
import { booked, casePackage, OWNERSHIP, SMALL_CHART, tableOf, type CaseLine } from '../../../test/case04-package';
import { servedPackage } from '../../../test/served-app';
import { tinyFiles } from '../../../test/tiny-package';

const { ask, serve } = servedPackage();

const post = (entity: string, date: string, account: string, amount: number, partner = ''): CaseLine[] => [
  { entity, date, account, amount: String(amount), partner },
  { entity, date, account: '1000', amount: String(-amount) },
];
const ACCOUNTS = tableOf(
  'number,name,nature,category,subcategory,role,intercompany',
  '1000,Cash,asset,a,a,cash,',
  '1150,Claims on the group,asset,a,a,,yes',
  '1159,Differences,asset,a,a,intercompany_difference,',
  '1200,Stock,asset,a,a,,',
  '2050,Debts to the group,liability,l,l,,yes',
  '3200,Retained earnings,equity,e,e,retained_earnings,',
  '3400,Translation reserve,equity,e,e,translation_reserve,',
  '3999,Rounding,equity,e,e,rounding,',
  '5000,Cost,expense,x,x,,',
);

describe('the readiness of a group', () => {
  it('says entity by entity what is there, and what stands in the way with whom it concerns', async () => {
    await serve(
      casePackage(
        '.',
        ['VEL', 'OSK', 'QUO', 'NAD'],
        [
          ...post('VEL', '2025-08-10', '1150', 30, 'OSK'),
          ...post('VEL', '2025-09-10', '1150', 12),
          ...post('OSK', '2025-08-12', '2050', -20, 'VEL'),
          ...post('QUO', '2025-09-12', '5000', 5),
          ...post('NAD', '2025-09-12', '5000', 5),
        ],
        {
          'accounts.csv': ACCOUNTS,
          'ownership.csv': tableOf(OWNERSHIP, 'VEL,OSK,2025-01-01,80,full', 'VEL,QUO,2025-01-01,100,full'),
          'rates.csv': tableOf('set,base,quote,period,date,type,rate', ',EUR,PLN,FY2025-P08,,closing,4.5'),
          'standing_rules.csv': tableOf(
            'group,rule,kind,side,accounts,partner_accounts,difference_account,outside_account,tolerance',
            'CON,Trade,balances,both,1150,2050,,,',
          ),
          'stock_held.csv': tableOf(
            'holder,seller,period,amount,margin,direction,stock_account,cost_account',
            'VEL,OSK,FY2025-P09,40.00,,upstream,1200,5000',
          ),
        },
        { currencies: { QUO: 'PLN' } },
      ),
    );
    const { entities, findings } = (await ask<Readiness>('GET', '/groups/CON/readiness?as_at=2025-09')).body;
    const states = entities.map(({ code, steps }) => [code, ...steps.map(({ state }) => state)]);
    expect(states).toEqual([
      // delivered, checked, agrees, translated, in the group
      ['VEL', 'done', expect.any(String), 'open', 'none', 'done'],
      ['OSK', 'open', expect.any(String), 'open', 'none', 'open'],
      ['QUO', 'done', expect.any(String), 'none', 'open', 'done'],
    ]);
    const said = (kind: Readiness['findings'][number]['kind']) =>
      findings.filter((each) => each.kind === kind).map(({ says, scope }) => [scope, says]);
    expect(said('delivery')).toEqual([
      ['OSK', expect.stringContaining('OSK entity has no postings in September 2025')],
    ]);
    expect(said('owners').map(([, says]) => says)).toEqual([
      expect.stringContaining('NAD entity is held by nobody'),
      expect.stringContaining('VEL entity in OSK entity from 1 January 2025: what was paid is not said'),
      expect.stringContaining('VEL entity in QUO entity'),
    ]);
    expect(said('rates')).toEqual([['CON', expect.stringContaining('No average rate PLN to EUR')]]);
    expect(said('partners')).toEqual([['CON', expect.stringContaining('1150 Claims on the group, 12.00 EUR')]]);
    expect(said('pairs')).toEqual([['CON', expect.stringContaining('do not agree on Trade: 10.00 EUR')]]);
    expect(said('stock')).toEqual([
      ['CON', expect.stringContaining('goods of OSK entity for 40.00 EUR without a margin')],
    ]);
  });

  // IAS 28.34: statements of an associate are at most three months older
  it('takes what an associate says of its results for a delivery for three months, and what was sold for done', async () => {
    await serve(
      casePackage('.', ['VEL', 'QUO', 'OSK'], booked('VEL', '2025-01-01', '3000', -100), {
        'accounts.csv': SMALL_CHART,
        'ownership.csv': tableOf(
          OWNERSHIP,
          'VEL,QUO,2025-01-01,30,equity',
          'VEL,OSK,2024-01-01,80,full',
          'VEL,OSK,2025-01-01,0,full',
        ),
        'associate_results.csv': tableOf('entity,period,profit,other_reserves,dividend', 'QUO,FY2025-P03,200,,'),
      }),
    );
    const told = async (month: string) => {
      const { entities, findings } = (await ask<Readiness>('GET', `/groups/CON/readiness?as_at=2025-${month}`)).body;
      const associate = entities.find(({ code }) => code === 'QUO')!;
      return {
        delivered: associate.steps[0],
        found: findings.filter(({ scope, kind }) => scope === 'QUO' || kind === 'owners').map(({ says }) => says),
      };
    };
    const says = 'results said to March 2025';
    const lacks = expect.stringContaining('what was paid is not said') as string;
    expect(await told('06')).toEqual({ delivered: { step: 'delivered', state: 'done', says }, found: [lacks] });
    expect(await told('07')).toEqual({
      delivered: { step: 'delivered', state: 'open', says },
      found: [lacks, 'QUO entity has said no results after March 2025.'],
    });
    expect((await told('02')).delivered).toMatchObject({ state: 'open', says: 'no postings in February 2025' });
  });

  it('is asked of groups alone', async () => {
    await serve(tinyFiles({}));
    expect(await ask('GET', '/groups/ONE/readiness?as_at=2026-01')).toMatchObject({ status: 404 });
  });
});
