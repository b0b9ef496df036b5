import { readFileSync } from 'node:fs';
import path from 'node:path';
import type { FastifyInstance } from 'fastify';
import Papa from 'papaparse';
import type { StatementView, WhyView } from '@margin-lens/contract';
import { asking } from '../../../test/asking';
import { tinyFiles, workspaceOf, type PackageFiles } from '../../../test/tiny-package';
import { buildApp } from '../../app';

// Published reference case 2, see test/reference/case02/README.md: variance at constant currency
const FOLDER = path.resolve(__dirname, '../../../test/reference/case02');
type Row = Record<string, string>;
const table = (file: string): Row[] =>
  Papa.parse<Row>(readFileSync(path.join(FOLDER, file), 'utf8').trim(), { header: true }).data;
const INPUT = table('constant_currency.input.csv');
const EXPECTED = table('constant_currency.expected.csv');

/** The case as a group in euro: each row an entity with one posting, and a plan that has rates of its own. */
function packageOfCase(more: PackageFiles = {}): PackageFiles {
  const lines = INPUT.flatMap(({ entity, account, nature, actual_local: amount }) => {
    const [own, cash] =
      nature === 'income'
        ? [
            ['', amount],
            [amount, ''],
          ]
        : [
            [amount, ''],
            ['', amount],
          ];
    return [
      [entity, 'J1', 1, '2026-01-31', account, ...own!].join(','),
      [entity, 'J1', 2, '2026-01-31', '1000', ...cash!].join(','),
    ];
  });
  const foreign = INPUT.filter(({ currency }) => currency !== 'EUR');
  const rates = foreign.flatMap(({ currency, plan_rate: planned, actual_rate: actual }) => [
    `,${currency},EUR,FY2026-P01,average,${actual}`,
    `,${currency},EUR,FY2026-P01,closing,${actual}`,
    `PLANNED,${currency},EUR,FY2026-P01,average,${planned}`,
  ]);
  return tinyFiles({
    'entities.csv': `code,name,currency,calendar\n${INPUT.map(({ entity, currency }) => `${entity},${entity},${currency},cal`).join('\n')}\n`,
    'groups.csv': 'code,name,currency,calendar,top_entity,parent_group\nALL,All,EUR,cal,OSK,\n',
    'ownership.csv': `investor,investee,from,percent,method\n${INPUT.slice(1)
      .map(({ entity }) => `OSK,${entity},2025-01-01,100,full`)
      .join('\n')}\n`,
    'accounts.csv':
      'number,name,nature,category,subcategory,role\n1000,Cash,asset,Cash,Cash,cash\n3100,Retained,equity,Equity,Equity,retained_earnings\n4000,Sales,income,Sales,Sales,\n6000,Rent,expense,Rent,Rent,\n',
    'rates.csv': `set,base,quote,period,type,rate\n${rates.join('\n')}\n`,
    'versions.csv':
      'code,name,kind,from_period,to_period,cut_over,parent,state,rate_set,rank\nPLAN,Plan,plan,FY2026-P01,FY2026-P02,,,approved,PLANNED,1\n',
    'figures.csv': `version,entity,account,period,amount,quantity\n${INPUT.map(
      ({ entity, account, plan_local: amount }) => `PLAN,${entity},${account},FY2026-P01,${amount},`,
    ).join('\n')}\n`,
    'journals.csv': `entity,journal,line,date,account,debit,credit\n${lines.join('\n')}\n`,
    ...more,
  });
}

let app: FastifyInstance | undefined;
const start = async (files: PackageFiles) => {
  app = await buildApp({ databaseFile: await workspaceOf(files), webRoot: '/nonexistent' });
};
afterEach(async () => {
  await app?.close();
  app = undefined;
});
const ask = asking(() => app!);

async function why(scope: string, currency?: string): Promise<WhyView> {
  const context = { scope, as_at: 'FY2026-P01', columns: 'against_plan', ...(currency && { currency }) };
  const { body } = await ask<StatementView>('GET', `/statements/income_statement?${new URLSearchParams(context)}`);
  const result = body.rows.findLast(({ cells }) => cells.length > 0)!;
  const change = body.columns.find(({ id }) => id.endsWith('change'))!;
  const query = new URLSearchParams({ ...context, cell: `${result.id}~${change.id}`, by: 'rates' });
  return (await ask<WhyView>('GET', `/statements/income_statement/why?${query}`)).body;
}
const cents = (text: string | undefined) => Math.round(Number(text) * 100) + 0;
const amounts = ({ terms }: WhyView) => Object.fromEntries(terms.map(({ id, amount }) => [id, amount]));

describe('why by rates', () => {
  it.each(INPUT)(
    '$entity: business at plan rates, and what the rates did, exact to the cent',
    async ({ entity, nature }) => {
      await start(packageOfCase());
      const want = EXPECTED.find((row) => row['entity'] === entity)!;
      const sign = nature === 'expense' ? -1 : 1;
      const view = await why(entity!, 'EUR');
      expect(view.problem).toBeNull();
      expect(view.to - view.from).toBe(sign * cents(want['total_variance_rounded']));
      expect(amounts(view)).toEqual({
        business: sign * cents(want['operational_rounded']) + 0,
        rate: sign * cents(want['fx_rounded']) + 0,
        group: 0,
      });
    },
  );

  it('adds up over the group as effects on profit', async () => {
    await start(packageOfCase());
    const want = EXPECTED.find((row) => row['entity'] === 'GROUP')!;
    const { business, rate, group } = amounts(await why('ALL'));
    // half a cent for each of four rounded entities
    expect(Math.abs(business! - Number(want['operational_variance']) * 100)).toBeLessThanOrEqual(2);
    expect(Math.abs(rate! - Number(want['fx_variance']) * 100)).toBeLessThanOrEqual(2);
    expect(group).toBe(0);
  });

  it('tells apart what came with an entity: it counts on one side alone', async () => {
    const files = packageOfCase();
    const ownership = `${files['ownership.csv']!.toString()}`.replace('OSK,QUO,2025-01-01', 'OSK,QUO,2026-01-15');
    const thisYear = tinyFiles()['calendars.csv']!.toString();
    const [head, ...months] = thisYear
      .trim()
      .split('\n')
      .filter((line) => !line.includes('adjustment'));
    const calendars = [
      head,
      ...months.map((line) => line.replaceAll('2026', '2025').replace('-29', '-28')),
      ...months,
      '',
    ].join('\n');
    const journals = `${files['journals.csv']!.toString()}${INPUT.map(
      ({ entity, account, nature, plan_local: amount }) => {
        const sides = nature === 'income' ? [`,${amount}`, `${amount},`] : [`${amount},`, `,${amount}`];
        return `${entity},J0,1,2025-01-31,${account},${sides[0]}\n${entity},J0,2,2025-01-31,1000,${sides[1]}\n`;
      },
    ).join('')}`;
    const rates = `${files['rates.csv']!.toString()}${INPUT.filter(({ currency }) => currency !== 'EUR')
      .flatMap(({ currency, plan_rate: rate }) =>
        ['average', 'closing'].map((type) => `,${currency},EUR,FY2025-P01,${type},${rate}\n`),
      )
      .join('')}`;
    await start({
      ...files,
      'ownership.csv': ownership,
      'calendars.csv': calendars,
      'journals.csv': journals,
      'rates.csv': rates,
    });
    const context = { scope: 'ALL', as_at: 'FY2026-P01', columns: 'month_and_year_to_date' };
    const { body } = await ask<StatementView>('GET', `/statements/income_statement?${new URLSearchParams(context)}`);
    const columns = body.columns.map(({ id }) => id);
    const change = columns.find((id) => id.endsWith('change'))!;
    const result = body.rows.findLast(({ cells }) => cells.length > 0)!;
    const query = new URLSearchParams({ ...context, cell: `${result.id}~${change}`, by: 'rates' });
    const view = (await ask<WhyView>('GET', `/statements/income_statement/why?${query}`)).body;
    const without = (key: string) =>
      INPUT.filter(({ entity }) => entity !== 'QUO').reduce((sum, { entity, nature }) => {
        const want = EXPECTED.find((row) => row['entity'] === entity)!;
        return sum + (nature === 'expense' ? -1 : 1) * cents(want[key]);
      }, 0);
    const quo = EXPECTED.find((row) => row['entity'] === 'QUO')!;
    expect(amounts(view)).toEqual({
      business: without('operational_rounded'),
      rate: without('fx_rounded'),
      // all that it brought in this January
      group: cents(quo['actual_rounded']),
    });
  });

  it('follows the set of rates that a version is given, which stays when it is renamed', async () => {
    await start(packageOfCase());
    const settings = { name: 'Plan renamed', owner: '', editors: [], opening: null };
    const want = EXPECTED.find((row) => row['entity'] === 'QUO')!;
    expect((await ask('PUT', '/versions/PLAN', settings)).status).toBeLessThan(300);
    expect(amounts(await why('QUO', 'EUR'))['rate']).toBe(cents(want['fx_rounded']));
    // at the usual rates the plan is translated as the actual figures are
    expect((await ask('PUT', '/versions/PLAN', { ...settings, rateSet: '' })).status).toBeLessThan(300);
    const view = await why('QUO', 'EUR');
    expect(amounts(view)).toMatchObject({ rate: 0, business: view.to - view.from });
  });
});
