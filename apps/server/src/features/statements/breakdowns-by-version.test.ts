import type { FastifyInstance } from 'fastify';
import type { StatementView, TraceView, WhyView } from '@margin-lens/contract';
import type { Breakdown, Filter } from '@margin-lens/core';
import { asking } from '../../../test/asking';
import { demoWorkspace } from '../../../test/demo-workspace';
import { servedPackage } from '../../../test/served-app';
import { tinyFiles } from '../../../test/tiny-package';
import { buildApp } from '../../app';

let app: FastifyInstance;
const ask = asking(() => app);

const VERSIONS = ['actual', 'PLAN_FY27', 'FORECAST_1', 'FORECAST_2'];
const SPANS = ['period', 'year_to_date', 'full_year'] as const;

beforeAll(async () => {
  app = await buildApp({ databaseFile: demoWorkspace(), webRoot: '/nonexistent' });
  const columns = [
    ...SPANS.map((span) => ({ kind: 'figure', id: span, span, measure: 'by_nature' })),
    { kind: 'figure', id: 'last', span: 'year_to_date', measure: 'by_nature', yearsBack: 1 },
    { kind: 'difference', id: 'change', of: 'year_to_date', base: 'last' },
    { kind: 'share', id: 'share', of: 'year_to_date' },
    { kind: 'running_total', id: 'so_far', of: 'year_to_date' },
  ];
  const document = { schema: 1, kind: 'column_layout', id: 'spans', name: 'Spans', columns };
  expect((await ask('POST', '/documents', { document })).status).toBe(200);
});
afterAll(() => app.close());

/** Cells by row and column: amounts, or why there are none. */
async function cellsOf(
  scope: string,
  more: { version?: string; breakdown?: Breakdown; columns?: string; statement?: string },
) {
  const { statement = 'income_statement', columns = 'spans' } = more;
  const query = new URLSearchParams({ scope, as_at: '2026-08', columns });
  if (more.version && more.version !== 'actual') query.set('version', more.version);
  if (more.breakdown) query.set('breakdown', JSON.stringify(more.breakdown));
  const { status, body } = await ask<StatementView>('GET', `/statements/${statement}?${query}`);
  if (status !== 200) throw new Error(JSON.stringify(body));
  const cells = new Map(
    body.rows.flatMap((row) =>
      body.columns.map((column, at) => {
        const cell = row.cells[at];
        return [`${row.id}|${column.id}`, cell?.amount ?? cell?.reason];
      }),
    ),
  );
  return { body, at: (row: string, column: string) => cells.get(`${row}|${column}`) };
}

const by = (...fields: string[]) => fields.map((field) => ({ by: field }));

describe.each(['LMG', 'LARKMOOR'])('versions of %s', (scope) => {
  it('stand down the page, each with what the statement has in it, to the months that it is of', async () => {
    const of = ['net_sales', 'gross_profit', 'gross_margin'];
    const { body, at } = await cellsOf(scope, { breakdown: { of, down: by('version'), across: [] } });
    for (const version of VERSIONS) {
      const statement = await cellsOf(scope, { version });
      for (const row of of)
        for (const column of SPANS) {
          const told = at(`${row}.version:${version}`, column);
          expect([version, row, column, told]).toEqual([version, row, column, statement.at(row, column)]);
        }
      // what they are compared with is the books of last year, whatever is planned
      expect(at(`net_sales.version:${version}`, 'last')).toBe(statement.at('net_sales', 'last'));
      expect(at(`net_sales.version:${version}`, 'share')).toBe(1);
    }
    // versions stand for the same, and come to no total
    expect(body.rows.some(({ id }) => of.includes(id))).toBe(false);
    expect(body.rows.map(({ branch }) => branch?.version?.notation).slice(1, 5)).toEqual([
      'actual',
      'plan',
      'forecast',
      'forecast',
    ]);
    expect(at('net_sales.version:PLAN_FY27', 'so_far')).toBe('not_meaningful');
    expect(body.breakdown!.proof.parts).toBeNull();
    expect(body.columns.find(({ id }) => id === 'full_year')!.label).toBe('By version');
    expect(body.columns.find(({ id }) => id === 'last')!.label).toBe('2025');
  });

  it('stand across it, and above and below other fields', async () => {
    const of = ['net_sales'];
    const across = await cellsOf(scope, { breakdown: { of, down: by('region'), across: by('version') } });
    const nested = { of, across: [], open: ['+1'] };
    const below = await cellsOf(scope, { breakdown: { ...nested, down: by('region', 'version') } });
    const above = await cellsOf(scope, { breakdown: { ...nested, down: by('version', 'region') } });
    let compared = 0;
    for (const version of VERSIONS) {
      const own = await cellsOf(scope, { version, breakdown: { of, down: by('region'), across: [] } });
      for (const { id } of own.body.rows)
        for (const column of SPANS) {
          const [, region = ''] = id.split('.');
          const expected = own.at(id, column);
          const path = region === '' ? '' : `.${region}`;
          expect(across.at(id, `${column}.version:${version}`)).toBe(expected);
          expect(above.at(`net_sales.version:${version}${path}`, column)).toBe(expected);
          if (region !== '') expect(below.at(`${id}.version:${version}`, column)).toBe(expected);
          compared++;
        }
    }
    expect(compared).toBeGreaterThan(40);
    // regions add up within a version
    expect(above.body.breakdown!.proof.parts).toBe(0);
    // and are parts of what stands in it
    const lines = await cellsOf(scope, { breakdown: { ...nested, down: by('version', 'product_line') } });
    const planned = 'net_sales.version:PLAN_FY27';
    const [part, whole] = [`${planned}.product_line:tableware`, planned].map((row) => lines.at(row, 'year_to_date'));
    expect(lines.at(`${planned}.product_line:tableware`, 'share')).toBeCloseTo(Number(part) / Number(whole), 9);
  });

  it('have the movements of their own balances, results and dividends among them', async () => {
    const of = ['equity'];
    const page = { statement: 'balance_sheet', columns: 'movements' };
    const { body, at } = await cellsOf(scope, { ...page, breakdown: { of, down: by('version'), across: [] } });
    const results = new Set<number>();
    for (const version of VERSIONS) {
      const own = await cellsOf(scope, { ...page, version });
      // a movement that a version has none of is no column of it alone
      for (const { id } of body.columns)
        expect([version, id, at(`equity.version:${version}`, id)]).toEqual([version, id, own.at('equity', id) ?? 0]);
      results.add(Number(own.at('equity', 'movements.code_result')));
    }
    // there is something to be mistaken about
    expect(results.size).toBeGreaterThan(2);
  });

  it('are traced to their own figures', async () => {
    const breakdown = JSON.stringify({ of: ['net_sales'], down: by('version'), across: [] });
    const query = { scope, as_at: '2026-08', columns: 'spans', breakdown };
    let address = 'cell~net_sales.version:PLAN_FY27~full_year';
    for (let level = 0; ; level++) {
      const { status, body } = await ask<TraceView>(
        'GET',
        `/statements/income_statement/trace?${new URLSearchParams({ ...query, address })}`,
      );
      expect([level, status]).toEqual([level, 200]);
      expect(body.sum ?? body.figure.amount).toBe(body.figure.amount);
      // no journal lines are those of a plan, figures are
      expect(body.lines ?? null).toBeNull();
      if (body.postings) {
        expect(new Set(body.postings.lines.map(({ journal }) => journal))).toEqual(new Set(['Plan FY27']));
        break;
      }
      address = body.terms[0]!.address;
    }
  });
});

it('a change of a version says which one, and is told apart by what that plans', async () => {
  const query = new URLSearchParams({
    ...{ scope: 'LMG', as_at: '2026-08', columns: 'spans', cell: 'net_sales.version:PLAN_FY27~change', by: 'accounts' },
    breakdown: JSON.stringify({ of: ['net_sales'], down: by('version'), across: [] }),
  });
  const { body } = await ask<WhyView>('GET', `/statements/income_statement/why?${query}`);
  expect(body).toMatchObject({ of: 'Plan FY27', ofNotation: 'plan', base: 'Actual', baseNotation: 'prior_year' });
  const statement = await cellsOf('LMG', { version: 'PLAN_FY27' });
  expect([body.to, body.from]).toEqual([statement.at('net_sales', 'year_to_date'), statement.at('net_sales', 'last')]);
  expect(body.terms.reduce((sum, { amount }) => sum + amount, body.from)).toBe(body.to);
});

it('versions that are named alone stand there', async () => {
  const where = [{ dimension: 'version', has: 'in' as const, values: ['PLAN_FY27', 'FORECAST_2'] }];
  const { body } = await cellsOf('LMG', {
    breakdown: { of: ['net_sales'], down: by('version'), across: [], where },
  });
  expect(body.rows.map(({ id }) => id)).toEqual(['net_sales.version:PLAN_FY27', 'net_sales.version:FORECAST_2']);
  const one = { of: ['net_sales'], down: by('channel'), across: [], where: [{ ...where[0]!, values: ['PLAN_FY27'] }] };
  const [planned, own] = [
    await cellsOf('LMG', { breakdown: one }),
    await cellsOf('LMG', { version: 'PLAN_FY27', breakdown: { ...one, where: [] } }),
  ];
  expect(planned.at('net_sales', 'full_year')).toBe(own.at('net_sales', 'full_year'));
});

describe('a filter on versions', () => {
  const filtered = (has: Filter['has'], values: string[], down: string[] = []) => ({
    breakdown: { of: ['net_sales'], down: by(...down), across: [], where: [{ dimension: 'version', has, values }] },
  });
  const rowsOf = ({ body }: Awaited<ReturnType<typeof cellsOf>>) => body.rows.map(({ id }) => id.split(':')[1]);

  it('by text or range leaves those that meet it', async () => {
    // "FORECAST_1 Forecast 1"
    const forecasts = await cellsOf('LMG', filtered('contains', ['forecast'], ['version']));
    expect(rowsOf(forecasts)).toEqual(['FORECAST_1', 'FORECAST_2']);
    const others = await cellsOf('LMG', filtered('not_in', ['FORECAST_1', 'actual'], ['version']));
    expect(rowsOf(others)).toEqual(['PLAN_FY27', 'FORECAST_2']);
    const ranged = await cellsOf('LMG', filtered('between', ['FORECAST_2', 'PLAN_FY27'], ['version']));
    expect(rowsOf(ranged)).toEqual(['PLAN_FY27', 'FORECAST_2']);
    for (const { body } of [forecasts, others, ranged]) expect(body.issues).toEqual([]);
  });

  it('that leaves one is that version, wherever versions stand', async () => {
    const own = await cellsOf('LMG', { version: 'FORECAST_2' });
    const told = await cellsOf('LMG', filtered('contains', ['FORECAST_2']));
    expect(told.at('net_sales', 'full_year')).toBe(own.at('net_sales', 'full_year'));
    expect(told.body.issues).toEqual([]);
  });

  it('that leaves several where no versions stand, or none, is said', async () => {
    const several = await cellsOf('LMG', filtered('contains', ['forecast']));
    expect(several.body.issues).toMatchObject([
      {
        code: 'CORE_BREAKDOWN_VERSIONS',
        message: 'The filter on versions leaves Forecast 1, Forecast 2, and a figure is of one.',
      },
    ]);
    const none = await cellsOf('LMG', filtered('contains', ['nobody'], ['version']));
    expect(none.body.issues).toMatchObject([
      {
        code: 'CORE_BREAKDOWN_VERSIONS',
        message: 'The filter on versions leaves none of the versions, and a figure is of one.',
      },
    ]);
  });
});

describe('a dimension that is itself named version', () => {
  const { ask: askTiny, serve } = servedPackage();

  it('is what is meant: its values add up, and a filter on them is one on postings', async () => {
    const journals = tinyFiles()['journals.csv']!.toString();
    await serve(
      tinyFiles({
        'dimensions.csv': 'dimension,value,name,parent\nversion,red,Red,\n',
        'journals.csv': journals.replace('dim:team', 'dim:version'),
      }),
    );
    const told = (breakdown: Breakdown) => {
      const query = new URLSearchParams({ scope: 'ONE', as_at: '2026-02', breakdown: JSON.stringify(breakdown) });
      return askTiny<StatementView>('GET', `/statements/income_statement?${query}`);
    };
    const of = ['sales'];
    // by hand: all sales of January are on red
    const { body } = await told({ of, down: by('version'), across: [] });
    expect(body.rows.map(({ id }) => id)).toEqual(['sales.version:red', 'sales']);
    const column = body.columns.findIndex(({ id }) => id === 'ytd');
    expect(body.rows.map(({ cells }) => cells[column]!.amount)).toEqual([100_000, 100_000]);
    expect(body.breakdown!.proof.parts).toBe(0);
    const filtered = (value: string) =>
      told({ of, down: by('account'), across: [], where: [{ dimension: 'version', has: 'in', values: [value] }] });
    expect((await filtered('red')).body.rows.map(({ id }) => id)).toEqual(['sales.account:4000', 'sales']);
    // no version of the books, and no value of the dimension
    expect(await filtered('PLAN')).toMatchObject({ status: 404, body: { code: 'SRV_VALUE_UNKNOWN' } });
  });
});
