import path from 'node:path';
import { DuckDBInstance, type DuckDBConnection } from '@duckdb/node-api';
import ExcelJS from 'exceljs';
import fc from 'fast-check';
import type { FastifyInstance } from 'fastify';
import type { FieldsView, LinesView, StatementView, TraceView, WhyView } from '@margin-lens/contract';
import type { Breakdown } from '@margin-lens/core';
import { asking } from '../../../test/asking';
import { demoWorkspace } from '../../../test/demo-workspace';
import { onStore } from '../../../test/opened-store';
import { someOf } from '../../../test/runs';
import { buildApp } from '../../app';
import { Person } from '../../store/tables';

const keys = <T extends object>(of: T) => Object.keys(of) as (keyof T)[];

let app: FastifyInstance;
// before any test, whose time it would take
const file = demoWorkspace();
let sql: DuckDBConnection;
const ask = asking(() => app);

const PACKAGE = path.resolve(__dirname, '../../../../../var/demo-package');
/** What lines carry and balances do not, as SQL tells it: weeks as in ISO 8601. */
const OF_LINES = {
  posting_period: `'FY' || (year(line.date) + 1)`,
  posting_day: `strftime(line.date, '%G-W%V')`,
  document_type: `coalesce(line.document_type, '')`,
  partner: `coalesce(line.partner, '')`,
};
/** What lines without a department are read with, as the demo's rules say: its first that a line meets. */
const DEPARTMENT = `coalesce(line."dim:department", case
  when lower(line.description) like '%wear of kilns%' then 'production'
  when line.account between '7600' and '7799' then 'design'
  when line.account in ('8040', '8110') then 'finance' end)`;
const FIELDS = ['product_line', 'channel', 'region', 'department', ...keys(OF_LINES)] as const;
type FieldName = (typeof FIELDS)[number];

beforeAll(async () => {
  app = await buildApp({ databaseFile: file, webRoot: '/nonexistent' });
  sql = await (await DuckDBInstance.create(':memory:')).connect();
  const types = `types = {'debit': 'DECIMAL(18,2)', 'credit': 'DECIMAL(18,2)', 'date': 'DATE', 'account': 'VARCHAR', 'period': 'VARCHAR', 'partner': 'VARCHAR', 'flow': 'VARCHAR'}`;
  await sql.run(`create table line as select * from read_csv('${PACKAGE}/journals.csv', header = true, ${types})`);
  await sql.run(
    `create table value as select * from read_csv('${PACKAGE}/dimensions.csv', header = true, all_varchar = true)`,
  );
});
afterAll(() => app.close());

async function broken(
  id: string,
  breakdown: Breakdown,
  { scope = 'LARKMOOR', columns = 'to_date_against_last_year' }: { scope?: string; columns?: string } = {},
): Promise<StatementView> {
  const query = new URLSearchParams({ scope, as_at: '2026-08', columns, breakdown: JSON.stringify(breakdown) });
  const reply = await ask<StatementView>('GET', `/statements/${id}?${query}`);
  if (reply.status !== 200) throw new Error(JSON.stringify(reply.body));
  return reply.body;
}

/** Amounts of the column `ytd` of a breakdown of one field, by `down|across` values; empty for what has none. */
function amountsOf({ rows, columns }: StatementView, source = 'ytd'): Map<string, number | null> {
  const valueIn = (id: string) => decodeURIComponent(/:(.*)$/.exec(id)![1]!).replace('*none', '');
  const found = new Map<string, number | null>();
  for (const row of rows)
    columns.forEach((column, at) => {
      if (!row.branch || !column.branch || column.source !== source) return;
      found.set(`${valueIn(row.branch.key)}|${valueIn(column.branch.key)}`, row.cells[at]!.amount);
    });
  return found;
}

/** Measures of a row, as SQL adds them up of journal lines; in the steps of what is shown. */
const MEASURES = {
  '': `100 * (sum(coalesce(credit, 0)) - sum(coalesce(debit, 0)))`,
  ':quantity': `10000 * sum(coalesce(quantity, 0))`,
  ':lines': `10000 * count(*)`,
};
type MeasureName = keyof typeof MEASURES;

/** What a columnar SQL engine adds up of the journal lines of the package, April to August, by the top values of two fields. */
async function summed(
  entity: string,
  accounts: string,
  by: readonly [FieldName, FieldName],
  year: number,
  measure: MeasureName,
) {
  const top = (field: FieldName) =>
    field in OF_LINES
      ? OF_LINES[field as keyof typeof OF_LINES]
      : `coalesce((select case when coalesce(parent, '') = '' then value else parent end from value
           where dimension = '${field}' and value = ${field === 'department' ? DEPARTMENT : `line."dim:${field}"`}
           order by coalesce("from", '') desc limit 1), '')`;
  const reader = await sql.runAndReadAll(
    `select ${top(by[0])} as a, ${top(by[1])} as b,
       cast(${MEASURES[measure]} as bigint) as amount
     from line where entity = '${entity}' and ${accounts} and date between '${year}-04-01' and '${year}-08-31'
       and kind is distinct from 'opening' group by 1, 2`,
  );
  return new Map(reader.getRows().map(([a, b, amount]) => [`${String(a)}|${String(b)}`, Number(amount)]));
}

describe('a breakdown over HTTP', () => {
  // DuckDB reads the journal lines themselves, not the workspace
  it('has what a columnar SQL engine adds up of the same lines (property)', async () => {
    const accounts = {
      net_sales: `account between '4000' and '4999'`,
      energy: `account between '6400' and '6460'`,
      research: `account between '7600' and '7799'`,
      finance: `account between '8000' and '8140'`,
      depreciation: `account between '6800' and '6850'`,
    };
    const examples: [string, keyof typeof accounts, FieldName[], MeasureName][] = [
      ['KHD', 'research', ['department', 'posting_day'], ''],
      ['KHD', 'depreciation', ['department', 'document_type'], ':lines'],
      ['LMT', 'finance', ['department', 'posting_period'], ''],
      ['LMT', 'net_sales', ['product_line', 'channel'], ':quantity'],
      ['LMT', 'net_sales', ['product_line', 'channel'], ':lines'],
    ];
    const args = [
      fc.constantFrom('LMG', 'LMT', 'LMS', 'KHD'),
      fc.constantFrom(...keys(accounts)),
      fc.shuffledSubarray([...FIELDS], { minLength: 2, maxLength: 2 }),
      fc.constantFrom(...keys(MEASURES)),
    ] as const;
    await fc.assert(
      fc.asyncProperty(...args, async (entity, item, fields, measure) => {
        const [down, across] = fields as [FieldName, FieldName];
        const view = await broken(
          'income_statement',
          { of: [item + measure], down: [{ by: down }], across: [{ by: across }] },
          { scope: entity },
        );
        for (const [source, year] of [
          ['ytd', 2026],
          ['ytd_ly', 2025],
        ] as const) {
          const expected = await summed(entity, accounts[item], [down, across], year, measure);
          const found = amountsOf(view, source);
          for (const [key, amount] of expected) if (amount !== 0) expect([key, found.get(key)]).toEqual([key, amount]);
          for (const [key, amount] of found) expect([key, amount ?? 0]).toEqual([key, expected.get(key) ?? 0]);
        }
      }),
      // and where departments are completed by each of the rules
      { numRuns: someOf(24), examples },
    );
  });

  it('has the largest values of a field alone where these are asked for, whatever else stands there', async () => {
    const by = async (
      where: Breakdown['where'],
      down: Breakdown['down'] = [{ by: 'partner', order: { by: 'column' } }],
    ) => broken('income_statement', { of: ['net_sales'], down, across: [], ...(where && { where }) }, { scope: 'LMT' });
    const known = [{ dimension: 'partner', has: 'any' as const, values: [] }];
    const all = (await by(known)).rows.filter(({ branch }) => branch);
    const top = { dimension: 'partner', has: 'top' as const, values: ['3'] };
    const three = await by([...known, top]);
    const ids = (view: StatementView) => view.rows.map(({ id }) => id);
    expect(all.length).toBeGreaterThan(4);
    expect(ids(three)).toEqual([...all.slice(0, 3).map(({ id }) => id), 'net_sales']);
    expect(three.breakdown!.demands).toEqual(['only with a partner', 'only the 3 largest by partner']);
    // of another field: the same three customers
    const products = await by([...known, top], [{ by: 'product_line' }]);
    const total = (view: StatementView) => view.rows.at(-1)!.cells.map(({ amount }) => amount);
    expect(total(products)).toEqual(total(three));
    const refused = await ask(
      'GET',
      `/statements/income_statement?${new URLSearchParams({
        ...{ scope: 'LMT', as_at: '2026-08' },
        breakdown: JSON.stringify({ of: ['net_sales'], down: [], across: [], where: [{ ...top, values: ['some'] }] }),
      })}`,
    );
    expect(refused.status).toBe(400);
  });

  it('adds up to the statement in a group of five currencies, eliminations as a member of their own', async () => {
    const view = await broken('income_statement', {
      of: ['net_sales', 'gross_profit'],
      down: [{ by: 'entity' }, { by: 'product_line' }],
      across: [{ by: 'channel' }],
      open: ['+1'],
    });
    expect(view.breakdown!.proof).toEqual({ parts: 0, statement: 0 });
    expect(view.rows.map(({ id }) => id)).toContain('net_sales.entity:%2A');
    const { status, body } = await ask<TraceView>(
      'GET',
      `/statements/income_statement/trace?${new URLSearchParams({
        ...{ scope: 'LARKMOOR', as_at: '2026-08', columns: 'to_date_against_last_year' },
        breakdown: JSON.stringify(view.breakdown!.definition),
        address: 'cell~net_sales.entity:LMT.product_line:tiles~ytd.channel:retail',
      })}`,
    );
    expect(status).toBe(200);
    expect(body.terms.reduce((sum, { figure }) => sum + (figure.amount ?? 0), 0)).toBe(body.figure.amount);
  });

  it('lists the journal lines of a cell of one entity: they add up to it, with what stands below its values', async () => {
    const breakdown = JSON.stringify({
      of: ['net_sales'],
      down: [{ by: 'product_line' }],
      across: [{ by: 'channel' }],
    });
    for (const cell of ['net_sales.product_line:tableware~ytd.channel:retail', 'net_sales~ytd']) {
      const context = { scope: 'LMG', as_at: '2026-08', columns: 'to_date_against_last_year', breakdown };
      const query = new URLSearchParams({ ...context, address: `cell~${cell}` });
      const { body } = await ask<TraceView>('GET', `/statements/income_statement/trace?${query}`);
      const { only, ...rest } = body.lines!;
      const asked = new URLSearchParams({ ...rest, ...(only !== '' && { only }) });
      const lines = await ask<LinesView>('GET', `/ledger/lines?${asked}`);
      expect(lines.status).toBe(200);
      expect(lines.body.credit - lines.body.debit).toBe(body.figure.amount);
      expect(lines.body.count).toBeGreaterThan(20);
    }
    // a group, a ratio, a plan: no list of journal lines adds up to them
    for (const [scope, columns, cell] of [
      ['LARKMOOR', 'to_date_against_last_year', 'net_sales~ytd'],
      ['LMG', 'to_date_against_last_year', 'gross_margin~ytd'],
      ['LMG', 'to_date_against_plan', 'net_sales~ytd_plan'],
    ]) {
      const query = new URLSearchParams({
        scope: scope!,
        as_at: '2026-08',
        columns: columns!,
        address: `cell~${cell}`,
      });
      const { body } = await ask<TraceView>('GET', `/statements/income_statement/trace?${query}`);
      expect([cell, body.lines]).toEqual([cell, null]);
    }
  });

  it('counts quantities and journal lines of a group, untranslated, each traced to the lines it is made of', async () => {
    const of = ['net_sales', 'net_sales:quantity', 'net_sales:per_unit', 'net_sales:lines'];
    const breakdown: Breakdown = { of, down: [{ by: 'entity' }, { by: 'product_line' }], across: [], open: ['+1'] };
    const view = await broken('income_statement', { ...breakdown, items: 'beside' });
    const at = (id: string) => view.columns.findIndex((column) => column.id === id);
    const total = view.rows.at(-1)!;
    const amount = (id: string) => total.cells[at(id)]!.amount!;
    // entities held in full; one was bought at the end of May
    const counted = await sql.runAndReadAll(
      `select cast(10000 * sum(coalesce(quantity, 0)) as bigint), 10000 * count(*) from line
         where entity in ('LMG', 'LMT', 'LMS', 'LMU', 'LMJ', 'LMA') and (entity <> 'LMA' or date >= '2026-06-01')
         and account between '4000' and '4999' and date between '2026-04-01' and '2026-08-31' and kind is distinct from 'opening'`,
    );
    expect([amount('ytd*net_sales:quantity'), amount('ytd*net_sales:lines')]).toEqual(
      counted.getRows()[0]!.map(Number),
    );
    const price = amount('ytd') / 100 / (amount('ytd*net_sales:quantity') / 10_000);
    expect(amount('ytd*net_sales:per_unit')).toBeCloseTo(price, 9);
    expect(view.breakdown!.of.map(({ label }) => label)).toEqual([
      'Net sales',
      'Net sales, quantity',
      'Net sales per unit',
      'Net sales, journal lines',
    ]);

    for (const item of ['net_sales:quantity', 'net_sales:lines']) {
      const context = { scope: 'LARKMOOR', as_at: '2026-08', columns: 'to_date_against_last_year' };
      let address = `cell~${item}.entity:LMT.product_line:tiles~ytd`;
      for (let level = 0; ; level++) {
        const query = new URLSearchParams({
          ...{ ...context, breakdown: JSON.stringify({ ...breakdown, of: [item] }), address },
        });
        const { status, body } = await ask<TraceView>('GET', `/statements/income_statement/trace?${query}`);
        expect([item, level, status]).toEqual([item, level, 200]);
        expect(body.figure.unit.kind).toBe('count');
        if (body.postings) {
          expect([item, body.postings.total]).toEqual([item, body.figure.amount]);
          expect(body.postings.lines.length).toBeGreaterThan(0);
          break;
        }
        expect(body.sum ?? body.figure.amount).toBe(body.figure.amount);
        address = body.terms[0]!.address;
      }
    }
  });

  it('stands on rows of a statement that count the quantities of postings', async () => {
    const accounts = { include: [{ by: 'account', number: '4200' }] };
    const rows = [
      { kind: 'accounts', id: 'sales', label: 'Floor tiles', accounts },
      { kind: 'statistic', id: 'pieces', label: 'Pieces', counts: 'quantity', accounts },
      { kind: 'formula', id: 'price', label: 'Price', formula: '{sales} / {pieces}' },
    ];
    const layout = { schema: 1, kind: 'row_layout', id: 'tile_rows', name: 'Tile rows', purpose: 'free', rows };
    const page = {
      schema: 1,
      kind: 'statement',
      id: 'tiles',
      name: 'Tiles',
      rows: 'tile_rows',
      columns: 'to_date_against_last_year',
      unit: 1,
    };
    for (const document of [layout, page]) expect((await ask('POST', '/documents', { document })).status).toBe(200);
    const counted = await sql.runAndReadAll(
      `select cast(100 * sum(coalesce(credit, 0) - coalesce(debit, 0)) as bigint), cast(10000 * sum(quantity) as bigint)
         from line where entity = 'LMT' and account = '4200' and date between '2026-04-01' and '2026-08-31'`,
    );
    const [sales, pieces] = counted.getRows()[0]!.map(Number) as [number, number];
    const { body } = await ask<StatementView>('GET', '/statements/tiles?scope=LMT&as_at=2026-08&open=pieces:channel');
    const at = body.columns.findIndex(({ id }) => id === 'ytd');
    const shown = new Map(body.rows.map(({ label, cells }) => [label, cells[at]!.amount]));
    expect([shown.get('Floor tiles'), shown.get('Pieces')]).toEqual([sales, pieces]);
    expect(shown.get('Price')).toBeCloseTo(sales / (pieces / 10_000), 6);
    const channels = body.rows.filter(({ id }) => id.startsWith('pieces.'));
    expect(channels.length).toBeGreaterThan(2);
    expect(channels.reduce((sum, { cells }) => sum + (cells[at]!.amount ?? 0), 0)).toBe(pieces);
  });

  it('goes out as a flat table, too, whose finest figures add up to the total', async () => {
    const breakdown: Breakdown = {
      of: ['net_sales', 'net_sales:quantity', 'cost_of_sales'],
      ...{ down: [{ by: 'product_line' }], across: [{ by: 'channel' }], open: ['product_line:tableware'] },
    };
    const view = await broken('income_statement', breakdown, { scope: 'LMG' });
    const query = new URLSearchParams({
      ...{ scope: 'LMG', as_at: '2026-08', columns: 'to_date_against_last_year', format: 'xlsx' },
      breakdown: JSON.stringify(breakdown),
    });
    const { rawPayload } = await app.inject(`/api/v1/statements/income_statement/export?${query}`);
    const workbook = new ExcelJS.Workbook();
    await workbook.xlsx.load(rawPayload.buffer as ArrayBuffer);
    const [heads, ...lines] = workbook
      .getWorksheet('Facts')!
      .getSheetValues()
      .slice(1)
      .map((row) => (row as unknown[]).slice(1));
    const [what, actual] = [0, heads!.findIndex((head) => String(head).startsWith('Actual'))];
    expect(heads!.slice(0, 3)).toEqual(['What', 'Product line', 'Channel']);
    for (const [label, id, steps] of [
      ['Net sales', 'net_sales', 100],
      ['Net sales, quantity', 'net_sales:quantity', 10_000],
      ['Cost of sales', 'cost_of_sales', 100],
    ] as const) {
      const sum = lines
        .filter((line) => line[what] === label)
        .reduce((all, line) => all + Number(line[actual] ?? 0), 0);
      const total = view.rows.find((row) => row.id === id)!.cells[view.columns.findIndex((each) => each.id === 'ytd')]!;
      expect([label, Math.round(steps * sum)]).toEqual([label, total.amount]);
    }
  });

  it('goes out with the live change of each row that stands beside others', async () => {
    const breakdown: Breakdown = {
      ...{ of: ['net_sales', 'net_sales:quantity'], items: 'beside' },
      ...{ down: [{ by: 'product_line' }], across: [] },
    };
    const query = new URLSearchParams({
      ...{ scope: 'LMG', as_at: '2026-08', columns: 'to_date_short', format: 'xlsx' },
      breakdown: JSON.stringify(breakdown),
    });
    const { rawPayload } = await app.inject(`/api/v1/statements/income_statement/export?${query}`);
    const workbook = new ExcelJS.Workbook();
    await workbook.xlsx.load(rawPayload.buffer as ArrayBuffer);
    const [sheet] = workbook.worksheets;
    const first = sheet!.getColumn(1).values.findIndex((label) => label === 'Tableware');
    expect(['D', 'G'].map((column) => sheet!.getCell(`${column}${first}`).formula)).toEqual([
      `C${first}-B${first}`,
      `F${first}-E${first}`,
    ]);
  });

  it('ranks fields by what they tell apart, by hand', async () => {
    // one account of one department: nothing but the account and the entity can be told apart in it
    const query = new URLSearchParams({ scope: 'LMS', as_at: '2026-08', columns: 'to_date_short', cell: 'energy~ytd' });
    const { body } = await ask<FieldsView>('GET', `/statements/income_statement/fields?${query}`);
    const told = new Map(body.fields.map((field) => [field.by, field.told]));
    const amounts = await sql.runAndReadAll(
      `select cast(100 * sum(coalesce(debit, 0) - coalesce(credit, 0)) as bigint) from line where entity = 'LMS'
         and account between '6400' and '6460' and date between '2026-04-01' and '2026-08-31' group by account`,
    );
    const parts = amounts.getRows().map(([amount]) => Number(amount));
    const total = parts.reduce((sum, amount) => sum + amount, 0);
    const distance = parts.reduce((sum, amount) => sum + Math.abs(amount / total - 1 / parts.length), 0) / 2;
    expect(told.get('account')).toBeCloseTo(distance, 9);
    expect(told.get('entity')).toBe(0);
    expect(told.get('product_line')).toBeNull();
  });

  it('ranks what journal lines carry where they are asked for, by hand', async () => {
    const query = { scope: 'LMG', as_at: '2026-08', columns: 'to_date_short', cell: 'energy~ytd' };
    const fieldsOf = async (more: Record<string, string>) => {
      const url = `/statements/income_statement/fields?${new URLSearchParams({ ...query, ...more })}`;
      return new Map((await ask<FieldsView>('GET', url)).body.fields.map((field) => [field.by, field]));
    };
    const [unread, read] = [await fieldsOf({}), await fieldsOf({ lines: 'read' })];
    expect(unread.get('document_type')).toMatchObject({ isOfLines: true, held: null, told: null });
    const amounts = await sql.runAndReadAll(
      `select document_type, cast(100 * sum(coalesce(debit, 0) - coalesce(credit, 0)) as bigint) from line
         where entity = 'LMG' and account between '6400' and '6460' and date between '2026-04-01' and '2026-08-31'
         group by document_type`,
    );
    const parts = amounts.getRows().map(([type, amount]) => [type, Number(amount)] as const);
    const total = parts.reduce((sum, [, amount]) => sum + amount, 0);
    const typed = parts.filter(([type]) => type !== null && type !== '');
    const distance = typed.reduce((sum, [, amount]) => sum + Math.abs(amount / total - 1 / typed.length), 0) / 2;
    expect(typed.length).toBeGreaterThan(0);
    expect(read.get('document_type')).toMatchObject({ held: typed.length });
    expect(read.get('document_type')!.told).toBeCloseTo(distance, 9);
    // all else is as it was, and what follows each other in time is not ranked
    expect(read.get('account')).toEqual(unread.get('account'));
    expect(read.get('posting_period')).toMatchObject({ held: null, told: null });
  });

  it('explains a change by accounts, and by a dimension that narrows what stands there', async () => {
    const cell = 'net_sales.product_line:tableware~ytd_change.channel:wholesale';
    for (const by of ['accounts', 'region', 'department', 'rates']) {
      const query = new URLSearchParams({ scope: 'LARKMOOR', as_at: '2026-08', cell, by });
      const { status, body } = await ask<WhyView>('GET', `/statements/sales_by_product_and_channel/why?${query}`);
      expect([by, status]).toEqual([by, 200]);
      // nobody plans by region
      if (by === 'region')
        expect(body).toMatchObject({ terms: [], problem: expect.stringContaining('no region') as string });
      else expect(body.terms.reduce((sum, { amount }) => sum + amount, 0)).toBe(body.to - body.from);
    }
  });

  it('says what is wrong with what it is asked for, and goes on without a field that is not there', async () => {
    const query = new URLSearchParams({ scope: 'LMG', as_at: '2026-08', breakdown: '{"of":[]}' });
    const refused = await ask<{ code: string }>('GET', `/statements/income_statement?${query}`);
    expect(refused).toMatchObject({ status: 400, body: { code: 'SRV_REQUEST_INVALID' } });
    const view = await broken('income_statement', { of: ['net_sales'], down: [{ by: 'colour' }], across: [] });
    expect(view.issues).toMatchObject([{ code: 'CORE_BREAKDOWN_FIELD' }]);
    expect(view.rows.map(({ id }) => id)).toEqual(['net_sales']);
  });

  it('never names values that somebody may not see', async () => {
    const whole = await broken('income_statement', { of: ['net_sales'], down: [{ by: 'product_line' }], across: [] });
    expect(JSON.stringify(whole)).toContain('Studio pieces');
    await onStore(file, (store) =>
      store.aside(async ({ em }) => {
        const person = await em.findOneOrFail(Person, { id: 'local' });
        em.assign(person, { entities: ['LMG'], values: { product_line: ['tableware'] } } as never);
      }),
    );
    await app.close();
    app = await buildApp({ databaseFile: file, webRoot: '/nonexistent' });
    const asked = { of: ['net_sales'], down: [{ by: 'entity' }, { by: 'product_line' }], across: [], open: ['+1'] };
    const limited = await broken('income_statement', asked, { scope: 'LMG' });
    const told = JSON.stringify(limited.rows);
    expect(told).toContain('Tableware');
    for (const hidden of ['Studio pieces', 'Larkmoor Tile', 'Contract pieces']) expect(told).not.toContain(hidden);
  });
});
