import path from 'node:path';
import { DuckDBInstance } from '@duckdb/node-api';
import type { FastifyInstance } from 'fastify';
import type { CashBasisView, RemarksView, StatementView, TraceView, WhyView } from '@margin-lens/contract';
import { asking } from '../../../test/asking';
import { demoWorkspace } from '../../../test/demo-workspace';
import { buildApp } from '../../app';

describe('the demo on the cash basis', () => {
  const PACKAGE = path.resolve(__dirname, '../../../../../var/demo-package');
  let app: FastifyInstance;
  const file = demoWorkspace();
  const ask = asking(() => app);
  beforeAll(async () => {
    app = await buildApp({ databaseFile: file, webRoot: '/nonexistent' });
  });
  afterAll(() => app.close());

  it('agrees with the cash accounts of every entity', async () => {
    const { body } = await ask<CashBasisView>('GET', '/cash-basis?scope=LARKMOOR&as_at=2026-08');
    expect(body.entities.length).toBeGreaterThan(4);
    for (const { cash, difference, result } of body.entities) {
      expect(difference).toBe(0);
      expect(cash).not.toBe(0);
      expect(result.cash).not.toBe(result.accrual);
    }
  });

  it('has the sales of each account that SQL tells from what was paid of each invoice', async () => {
    const sql = await (await DuckDBInstance.create(':memory:')).connect();
    const types = `types = {'debit': 'DECIMAL(18,2)', 'credit': 'DECIMAL(18,2)', 'date': 'DATE', 'account': 'VARCHAR', 'partner': 'VARCHAR'}`;
    await sql.run(
      `create table line as select * from read_csv('${PACKAGE}/journals.csv', header = true, ${types}) where entity = 'LMG'`,
    );
    const told = await sql.runAndReadAll(`
      with item as (
        select fiscal_year, journal, partner, document, sum(coalesce(debit, 0) - coalesce(credit, 0)) as amount
        from (select *, year(date + interval 9 month) as fiscal_year from line)
        where account = '1500' and due is not null and coalesce(kind, '') = '' and coalesce(basis, '') = '' group by all),
      paid as (
        select partner, settles, sum(coalesce(credit, 0) - coalesce(debit, 0)) as amount from line
        where account = '1500' and settles is not null and date between '2026-08-01' and '2026-08-31' group by all),
      sold as (
        select year(date + interval 9 month) as fiscal_year, journal, account, sum(coalesce(credit, 0) - coalesce(debit, 0)) as amount,
          bool_or(date between '2026-08-01' and '2026-08-31') as is_now
        from line where account between '4000' and '4099' and coalesce(basis, '') = '' group by all)
      select account, sum(amount) as amount, count(*) as parts from (
        select sold.account, sold.amount::double * paid.amount::double / item.amount::double as amount
        from paid join item on item.partner = paid.partner and item.document = paid.settles
          join sold on sold.journal = item.journal and sold.fiscal_year = item.fiscal_year
        union all
        select account, amount::double from sold
        where is_now and not exists (select 1 from item where item.journal = sold.journal and item.fiscal_year = sold.fiscal_year))
      group by account order by account`);
    const expected = told.getRowObjectsJson() as unknown as { account: string; amount: number; parts: string }[];
    const columns = 'month_and_year_to_date';
    const query = new URLSearchParams({
      scope: 'LMG',
      as_at: '2026-08',
      basis: 'cash',
      columns,
      open: 'tableware:accounts',
    });
    const { body } = await ask<StatementView>('GET', `/statements/income_statement?${query}`);
    const month = body.columns.findIndex(({ id }) => id === 'month');
    const shown = new Map(body.rows.map(({ id, cells }) => [id.split('.').at(-1), cells[month]!.amount]));
    expect(expected.length).toBeGreaterThan(3);
    for (const { account, amount, parts } of expected) {
      // each part is rounded to a cent
      expect(Math.abs(shown.get(account)! - 100 * amount)).toBeLessThanOrEqual(Number(parts));
    }
  });

  it('is told apart from accrual, and quoted as it is', async () => {
    const context = { scope: 'LMG', as_at: '2026-08', columns: 'accrual_and_cash' };
    const query = new URLSearchParams({ ...context, cell: 'net_sales~change', by: 'accounts' });
    const { body } = await ask<WhyView>('GET', `/statements/income_statement/why?${query}`);
    expect([body.of, body.base]).toEqual(['Actual, cash basis', 'Actual, without adjustments']);
    expect(body.terms.reduce((sum, { amount }) => sum + amount, body.from)).toBe(body.to);

    // a remark on a page that is read on cash quotes what stands there
    const cash = new URLSearchParams({
      scope: 'LMG',
      as_at: '2026-08',
      columns: 'month_and_year_to_date',
      basis: 'cash',
    });
    const shown = (await ask<StatementView>('GET', `/statements/income_statement?${cash}`)).body;
    const at = shown.columns.findIndex(({ id }) => id === 'ytd');
    const { amount } = shown.rows.find(({ id }) => id === 'net_sales')!.cells[at]!;
    const place = { scope: 'LMG', period: 'FY2027-P05', statement: 'income_statement', row: 'net_sales' };
    const quote = {
      ...{ key: 'a', cell: 'net_sales~ytd', amount, shown: String(amount) },
      context: { columns: 'month_and_year_to_date', basis: 'cash' },
    };
    const said = {
      ...place,
      column: '',
      columns: '',
      text: '{a} came in',
      quotes: [quote],
      state: 'open',
      carries: '',
    };
    expect((await ask('POST', '/remarks', said)).status).toBe(200);
    const { remarks } = (await ask<RemarksView>('GET', '/remarks?scope=LMG&as_at=2026-08&statement=income_statement'))
      .body;
    expect(remarks.find(({ text }) => text === said.text)!.live).toMatchObject([{ amount }]);
  });

  it('adds up over every field, and down to postings', async () => {
    for (const by of ['posting_day', 'product_line', 'partner', 'document_type', 'entity']) {
      const breakdown = JSON.stringify({ of: ['net_sales'], down: [{ by }], across: [] });
      const query = new URLSearchParams({ scope: 'LARKMOOR', as_at: '2026-08', basis: 'cash', breakdown });
      const { body } = await ask<StatementView>('GET', `/statements/income_statement?${query}`);
      expect(body.breakdown!.proof).toEqual({ parts: 0, statement: 0 });
    }
    let ends = 0;
    const down = async (address: string): Promise<void> => {
      const query = new URLSearchParams({ scope: 'LMG', as_at: '2026-08', basis: 'cash', address });
      const { body } = await ask<TraceView>('GET', `/statements/income_statement/trace?${query}`);
      if (body.postings) ends++;
      if (body.postings) expect(body.postings.total).toBe(body.figure.amount);
      for (const term of body.terms) if (term.address) await down(term.address);
    };
    await down('cell~net_sales~month');
    expect(ends).toBeGreaterThan(3);
  });
});
