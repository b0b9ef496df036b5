import type { FastifyInstance } from 'fastify';
import type {
  ExceptionsView,
  RemarksView,
  RemarkText,
  RemarkView,
  StatementView,
  WhyView,
} from '@margin-lens/contract';
import { asking } from '../../../test/asking';
import { pdfText } from '../../../test/pdf-text';
import { itWith } from '../../../test/tools';
import { tinyFiles, workspaceOf } from '../../../test/tiny-package';
import { buildApp } from '../../app';

let app: FastifyInstance;
beforeEach(async () => {
  const figures =
    'version,entity,account,period,amount,quantity\nPLAN,ONE,4000,FY2026-P01,900.00,\nPLAN,ONE,4000,FY2026-P02,100.00,\n';
  const databaseFile = await workspaceOf(
    tinyFiles({
      'figures.csv': figures,
      'workspace.json': JSON.stringify({
        name: 'Tiny',
        reporting_currency: 'EUR',
        materiality: { amount: 50, percent: 5 },
      }),
    }),
  );
  app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
});
afterEach(() => app.close());

const ask = asking(() => app);
const exceptions = async (more: Record<string, string> = {}) =>
  (
    await ask<ExceptionsView>(
      'GET',
      `/exceptions?${new URLSearchParams({ scope: 'ONE', as_at: 'FY2026-P02', statement: 'income_statement', ...more })}`,
    )
  ).body;

describe('exceptions', () => {
  // by hand: sales 1,000 against 900 + 100 to date; rent 300 against nothing; result 700 against 1,000
  it('are what exceeds both limits, ranked by the effect on profit, with their part of the result', async () => {
    const view = await exceptions();
    expect(view).toMatchObject({
      of: { code: 'actual' },
      against: { code: 'PLAN' },
      limits: { amount: 5000, percent: 0.05 },
      span: 'year_to_date',
    });
    expect(view.exceptions.map(({ label, change, effect, favour }) => ({ label, change, effect, favour }))).toEqual([
      { label: '=Rent', change: -30_000, effect: -30_000, favour: 'adverse' },
    ]);
    expect(view.exceptions[0]).toMatchObject({ percent: null, share: 1, trend: [0, -30_000] });
    expect(view.flat.map(({ label, change }) => [label, change])).toEqual([['Goods', 0]]);
    expect(view.unplanned.map(({ label }) => label)).toEqual(['5000 Rent']);
  });

  // by hand: costs net of income were planned at −1,000 and came to −700, which takes 300 off the profit
  it('of a row of income and costs together are judged by what the change does to profit', async () => {
    const rows = {
      ...{ schema: 1, kind: 'row_layout', id: 'net_rows', name: 'Net', purpose: 'income' },
      rows: [
        {
          ...{ kind: 'accounts', id: 'net', label: 'Costs, net', orientation: 'debit' },
          accounts: { include: ['expense', 'income'].map((nature) => ({ by: 'nature', nature })) },
        },
      ],
    };
    await ask('POST', '/documents', { document: rows });
    const statement = {
      schema: 1,
      kind: 'statement',
      id: 'net',
      name: 'Net',
      rows: 'net_rows',
      columns: 'against_plan',
      unit: 1,
    };
    await ask('POST', '/documents', { document: statement });
    const view = await exceptions({ statement: 'net' });
    expect(view.exceptions).toMatchObject([
      { label: 'Costs, net', base: -100_000, actual: -70_000, change: 30_000, effect: -30_000, favour: 'adverse' },
    ]);
  });

  it('are held against the same months: up to the last that is there, and of a month to come nothing', async () => {
    const march = await exceptions({ as_at: 'FY2026-P03' });
    const february = await exceptions();
    expect(march).toMatchObject({ span: 'year_to_date', range: { span: 'year_to_date', upTo: { key: 'FY2026-P02' } } });
    expect(march.exceptions).toEqual(february.exceptions);
    const alone = await exceptions({ as_at: 'FY2026-P03', span: 'period' });
    expect(alone).toMatchObject({ range: null, lacks: 'of', exceptions: [], flat: [], noActuals: [], result: null });
    // nothing is forecast of the year
    const year = await exceptions({ span: 'full_year' });
    expect(year).toMatchObject({ span: 'full_year', range: { span: 'year_to_date' }, of: { code: 'actual' } });
    expect(year.exceptions).toEqual(february.exceptions);
  });

  // by hand: sales 1,000 and 250 to come against 900, 100 and 200; rent 300, and nothing is forecast of it
  it('of a year are what is there with what is forecast of the rest', async () => {
    const databaseFile = await workspaceOf(
      tinyFiles({
        'versions.csv': [
          'code,name,kind,from_period,to_period',
          'PLAN,Plan,plan,FY2026-P01,FY2026-P12',
          'F1,Forecast 1,forecast,FY2026-P01,FY2026-P12',
          '',
        ].join('\n'),
        'figures.csv': [
          'version,entity,account,period,amount,quantity',
          'PLAN,ONE,4000,FY2026-P01,900.00,',
          'PLAN,ONE,4000,FY2026-P02,100.00,',
          'PLAN,ONE,4000,FY2026-P03,200.00,',
          'F1,ONE,4000,FY2026-P03,250.00,',
          '',
        ].join('\n'),
      }),
    );
    await app.close();
    app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
    const year = await exceptions({ span: 'full_year' });
    expect(year).toMatchObject({
      range: { span: 'full_year', upTo: { key: 'FY2026-P02' } },
      of: { code: 'F1' },
      against: { code: 'PLAN' },
    });
    const goods = [...year.exceptions, ...year.flat].find(({ label }) => label === 'Goods')!;
    expect([goods.actual, goods.base]).toEqual([125_000, 120_000]);
  });

  it('of one month are others, and accounts with a plan and no actuals are named', async () => {
    const view = await exceptions({ span: 'period' });
    expect(view.exceptions.map(({ label, effect }) => [label, effect])).toEqual([
      ['=Rent', -30_000],
      ['Goods', -10_000],
    ]);
    expect(view.noActuals.map(({ label }) => label)).toEqual(['4000 Sales']);
    const shares = view.exceptions.reduce((sum, { share }) => sum + share!, 0);
    expect(shares).toBeCloseTo(1, 12);
  });

  it('of an entity in another currency are beyond the limits at the average rate, as a round figure', async () => {
    const settings = { name: 'Tiny', reporting_currency: 'EUR', materiality: { amount: 50, percent: 5 } };
    const rates = 'base,quote,period,type,rate\nEUR,JPY,FY2026-P01,average,163.27\nEUR,JPY,FY2026-P03,average,170.00\n';
    const files = tinyFiles({ 'workspace.json': JSON.stringify(settings), 'rates.csv': rates });
    const databaseFile = await workspaceOf(files);
    await app.close();
    app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
    // 50 × 163.27 = 8,163.50 yen, of which two digits are kept; the rate of a later month does not count
    expect((await exceptions({ scope: 'TWO' })).limits).toEqual({ amount: 8200, percent: 0.05 });
    expect((await exceptions()).limits.amount).toBe(5000);
  });

  it('are none against a version of other months, or against none, which would be all that was posted', async () => {
    const versions = 'code,name,kind,from_period,to_period\nNEXT,Next,plan,FY2027-P01,FY2027-P12\n';
    const figures = 'version,entity,account,period,amount,quantity\n';
    const databaseFile = await workspaceOf(tinyFiles({ 'versions.csv': versions, 'figures.csv': figures }));
    await app.close();
    app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
    const nothing = { range: null, result: null, exceptions: [], flat: [], unplanned: [] };
    const next = { code: 'NEXT' };
    expect(await exceptions()).toMatchObject({ against: null, lacks: 'against', ...nothing });
    expect(await exceptions({ against: 'NEXT' })).toMatchObject({ against: next, lacks: 'against', ...nothing });
    expect(await exceptions({ version: 'NEXT' })).toMatchObject({ of: next, lacks: 'of', ...nothing });
    const query = 'scope=ONE&as_at=FY2026-P02&columns=against_plan';
    const { columns } = (await ask<StatementView>('GET', `/statements/income_statement?${query}`)).body;
    expect(columns.slice(0, 2).map(({ held }) => held?.held)).toEqual([0, 1]);
  });

  it('are held against no version that there is not', async () => {
    expect(await exceptions({ as_at: 'FY2026-P02', against: 'NONE' })).toMatchObject({ code: 'SRV_VERSION_UNKNOWN' });
  });
});

describe('a statement against the plan', () => {
  it('reads the usual plan of the month, or the one that is asked for', async () => {
    const query = new URLSearchParams({ scope: 'ONE', as_at: 'FY2026-P02', columns: 'against_plan' });
    const { body } = await ask<StatementView>('GET', `/statements/income_statement?${query}`);
    expect(body.compared).toEqual({ code: 'PLAN', name: 'Plan' });
    const amounts = body.rows[0]!.cells.map(({ amount }) => amount);
    // month 0 against 100 (gone, no percentage); to date 1,000 against 1,000; the year's plan 1,000, of which nothing remains
    expect(amounts).toEqual([10_000, 0, -10_000, null, 100_000, 100_000, 0, 0, 100_000, 0]);
  });
});

describe('a comparison finer than the plan', () => {
  it('says that the plan is at a higher level, rather than that nothing is planned', async () => {
    const query = new URLSearchParams({
      scope: 'ONE',
      as_at: 'FY2026-P02',
      columns: 'against_plan',
      where: 'team:red',
    });
    const { rows } = (await ask<StatementView>('GET', `/statements/income_statement?${query}`)).body;
    const reasons = rows[0]!.cells.slice(4, 7).map(({ amount, reason }) => reason ?? amount);
    expect(reasons).toEqual(['planned_higher', 100_000, 'planned_higher']);
    // without a team, the plan is what it is; rent has no plan at all, which is nothing, not a higher level
    const without = (
      await ask<StatementView>(
        'GET',
        `/statements/income_statement?${query.toString().replace('team%3Ared', 'team%3A')}`,
      )
    ).body;
    expect(without.rows[0]!.cells[4]!.amount).toBe(100_000);
    expect(rows.find(({ label }) => label === '=Rent')!.cells[4]!.amount).toBe(0);
  });
});

describe('remarks', () => {
  const remark = (more: Partial<RemarkText> = {}): RemarkText => ({
    scope: 'ONE',
    period: 'FY2026-P02',
    statement: 'income_statement',
    row: 'costs',
    column: '',
    columns: '',
    text: 'Rent was not planned: {q1}',
    quotes: [
      {
        key: 'q1',
        cell: 'rent~now_change',
        context: { columns: 'exceptions_year_to_date' },
        amount: -30_000,
        shown: '(300)',
      },
    ],
    state: 'open',
    carries: '',
    ...more,
  });
  const list = async (asAt: string) =>
    (await ask<RemarksView>('GET', `/remarks?scope=ONE&as_at=${asAt}&statement=income_statement`)).body;

  it('are written, changed with who and when, answered, and taken out', async () => {
    const { body: written } = await ask<RemarkView>('POST', '/remarks', remark());
    expect(written).toMatchObject({ author: 'Controller', state: 'open', text: 'Rent was not planned: {q1}' });
    await ask('PUT', `/remarks/${written.id}`, remark({ text: 'Paid in advance', state: 'answered' }));
    expect((await list('FY2026-P02')).remarks).toMatchObject([
      { id: written.id, state: 'answered', text: 'Paid in advance', author: 'Controller' },
    ]);
    expect((await ask('DELETE', `/remarks/${written.id}`)).status).toBe(204);
    expect((await list('FY2026-P02')).remarks).toEqual([]);
    expect((await ask('PUT', `/remarks/${written.id}`, remark())).body).toMatchObject({ code: 'SRV_REMARK_UNKNOWN' });
    // brought back as it was last, once
    expect((await ask('POST', `/remarks/${written.id}/bring-back`)).status).toBe(204);
    expect((await list('FY2026-P02')).remarks).toMatchObject([
      { id: written.id, text: 'Paid in advance', author: written.author, writtenAt: written.writtenAt },
    ]);
    expect((await ask('POST', `/remarks/${written.id}/bring-back`)).status).toBe(404);
    await ask('DELETE', `/remarks/${written.id}`);
    expect((await ask('POST', '/remarks', remark({ text: '  ' }))).status).toBe(400);
  });

  it('quote figures live: as the exceptions page, or a cell of a statement, has them now', async () => {
    const cell = (columns: string, id: string, more: object = {}) => ({
      key: 'q1',
      cell: id,
      context: { columns, ...more },
      amount: 1,
      shown: '0',
    });
    const quotes = [
      cell('exceptions_year_to_date', 'goods~now_base'),
      cell('exceptions_period', 'goods~now_percent'),
      cell('against_plan', 'goods~month_base'),
      cell('against_plan', 'goods~month', { version: 'PLAN' }),
      cell('gone', 'goods~month'),
      cell('against_plan', 'gone~month'),
    ];
    await ask('POST', '/remarks', remark({ quotes }));
    const [found] = (await list('FY2026-P02')).remarks;
    // by hand: planned sales are 900 and 100; February had none, so that its percentage is a word
    expect(found!.live.map((figure) => figure && (figure.word ?? figure.amount))).toEqual([
      100_000,
      'gone',
      10_000,
      10_000,
      null,
      null,
    ]);
    await ask('PUT', '/versions/PLAN/figures', {
      scope: 'ONE',
      how: 'typed',
      label: '',
      cells: [{ account: '4000', combination: '\u001f', period: 'FY2026-P02', before: -10_000, after: -12_000 }],
    });
    expect((await list('FY2026-P02')).remarks[0]!.live[0]!.amount).toBe(102_000);
  });

  itWith(
    'pdftotext',
    'go along on paper where they are wanted, below the table, in the order of its rows',
    async () => {
      const paper = async (more: string) => {
        const url = `/api/v1/statements/income_statement/export?scope=ONE&as_at=FY2026-P02&format=pdf&unit=1${more}`;
        return pdfText((await app.inject(url)).rawPayload);
      };
      const quote = { ...remark().quotes[0]!, cell: 'rent~now_base', shown: '0', amount: 1 };
      await ask('POST', '/remarks', remark({ row: 'profit', text: 'Of the result' }));
      await ask('POST', '/remarks', remark({ row: 'sales', text: 'Planned were {q1} of rent', quotes: [quote] }));
      await ask('POST', '/remarks', remark({ row: 'gone', text: 'Of another row' }));
      expect(await paper('')).not.toContain('Remarks');
      const text = await paper('&remarks=1');
      // rent is in no plan, so that the figure quoted is nothing now, and was said to be 0 then
      expect(text).toMatch(
        /Remarks\s+Sales: Planned were 0 \(was 0\) of rent \(Controller, .*\)\s+Profit.*: Of the result/,
      );
      expect(text).not.toContain('Of another row');
    },
  );

  it('are proposals for the next month, until they are carried on', async () => {
    const { body: written } = await ask<RemarkView>('POST', '/remarks', remark());
    const march = await list('FY2026-P03');
    expect([march.before, march.proposals.map(({ id }) => id)]).toEqual(['February 2026', [written.id]]);
    await ask('POST', '/remarks', remark({ period: 'FY2026-P03', carries: written.id }));
    expect(await list('FY2026-P03')).toMatchObject({ remarks: [{ carries: written.id }], proposals: [] });
  });
});

describe('why', () => {
  const why = async (cell: string, by: string) => {
    const query = new URLSearchParams({ scope: 'ONE', as_at: 'FY2026-P02', columns: 'against_plan', cell, by });
    return (await ask<WhyView>('GET', `/statements/income_statement/why?${query}`)).body;
  };

  // by hand: the month's result is −300 of rent against planned sales of 100
  it('ranks the accounts that explain a change, and adds up to it', async () => {
    const { body } = await ask<StatementView>(
      'GET',
      `/statements/income_statement?${new URLSearchParams({ scope: 'ONE', as_at: 'FY2026-P02', columns: 'against_plan' })}`,
    );
    const result = body.rows.findLast(({ cells }) => cells.length > 0)!;
    const view = await why(`${result.id}~month_change`, 'accounts');
    expect(view).toMatchObject({ ofNotation: 'actual', baseNotation: 'plan' });
    expect(view).toMatchObject({ of: 'Actual', base: 'Plan', from: 10_000, to: -30_000, problem: null });
    expect(view.terms.map(({ label, amount, favour }) => [label, amount, favour])).toEqual([
      ['5000 Rent', -30_000, 'adverse'],
      ['4000 Sales', -10_000, 'adverse'],
    ]);
  });

  // the plan has sales without a team, and nothing of any team
  it('by a dimension that one side lacks is said, and nothing is told apart', async () => {
    const { body } = await ask<StatementView>(
      'GET',
      `/statements/income_statement?${new URLSearchParams({ scope: 'ONE', as_at: 'FY2026-P02', columns: 'against_plan' })}`,
    );
    const result = body.rows.findLast(({ cells }) => cells.length > 0)!;
    expect(await why(`${result.id}~month_change`, 'team')).toMatchObject({
      ...{ terms: [], note: '', from: 10_000, to: -30_000 },
      problem: 'Plan has no team here, so that the change cannot be told apart by it.',
    });
  });

  it('by a dimension takes what has no value apart', async () => {
    const planned = 'version,entity,account,period,amount,quantity,partner,flow,dim:team\n'.concat(
      ...['4000,FY2026-P02,100.00,,,,', '5000,FY2026-P02,20.00,,,,red'].map((line) => `PLAN,ONE,${line}\n`),
    );
    const databaseFile = await workspaceOf(tinyFiles({ 'figures.csv': planned }));
    await app.close();
    app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
    const { body } = await ask<StatementView>(
      'GET',
      `/statements/income_statement?${new URLSearchParams({ scope: 'ONE', as_at: 'FY2026-P02', columns: 'against_plan' })}`,
    );
    const result = body.rows.findLast(({ cells }) => cells.length > 0)!;
    const view = await why(`${result.id}~month_change`, 'team');
    expect(view.terms.map(({ label, amount }) => [label, amount])).toEqual([
      ['Red', -28_000],
      ['No team', -10_000],
    ]);
    expect(view.note).toBe('Plan plans some of it at a higher level, without team; that stands under “No team”.');
  });

  it('by price, volume and mix counts with the statistic that has quantities on both sides', async () => {
    const query = new URLSearchParams({
      scope: 'ONE',
      as_at: 'FY2026-P01',
      columns: 'against_plan',
      cell: 'goods~month_change',
      by: 'team',
      counted: '',
    });
    const { body } = await ask<WhyView>('GET', `/statements/income_statement/why?${query}`);
    expect(body).toMatchObject({
      counted: null,
      problem: expect.stringContaining('no quantities') as string,
      counts: [{ number: '9000' }],
    });
    // January: 1,000 of sales of red with 4 heads actual; the plan has 900 of red with 3
    const line = (account: string, amount: string, quantity: string) =>
      `PLAN,ONE,${account},FY2026-P01,${amount},${quantity},,,red\n`;
    const figures = `version,entity,account,period,amount,quantity,partner,flow,dim:team\n${line('4000', '900.00', '')}${line('9000', '', '3')}`;
    const journals = String(tinyFiles()['journals.csv']).replace(
      'ONE,S1,,1,2026-02-28,,9000,,,4,Joiners,',
      'ONE,S1,,1,2026-01-28,,9000,,,4,Joiners,red',
    );
    const databaseFile = await workspaceOf(tinyFiles({ 'figures.csv': figures, 'journals.csv': journals }));
    await app.close();
    app = await buildApp({ databaseFile, webRoot: '/nonexistent' });
    const { body: told } = await ask<WhyView>('GET', `/statements/income_statement/why?${query}`);
    // price (250 − 300) × 4 = −200; volume (4 − 3) × 300 = 300; no mix of one value
    expect(told.terms.map(({ label, amount, favour }) => [label, amount, favour])).toEqual([
      ['Volume', 30_000, 'favourable'],
      ['Price', -20_000, 'adverse'],
    ]);
    expect(told).toMatchObject({
      counted: '9000',
      problem: null,
      values: [{ label: 'Red', quantityOf: 4, quantityBase: 3, amountOf: 100_000, amountBase: 90_000 }],
    });
  });

  it('is asked of changes alone', async () => {
    expect(await why('goods~month', 'accounts')).toMatchObject({ code: 'SRV_TRACE_UNKNOWN' });
  });
});
