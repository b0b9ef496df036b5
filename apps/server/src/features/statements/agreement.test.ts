import type { FastifyInstance } from 'fastify';
import type { LinesView, StatementView, TraceView } from '@margin-lens/contract';
import { asking } from '../../../test/asking';
import { demoWorkspace } from '../../../test/demo-workspace';
import { onStore } from '../../../test/opened-store';
import { buildApp } from '../../app';
import { Person } from '../../store/tables';

let app: FastifyInstance;
// before any test, whose time it would take
const DEMO = demoWorkspace();
const ask = asking(() => app);

beforeAll(async () => {
  app = await buildApp({ databaseFile: DEMO, webRoot: '/nonexistent' });
});
afterAll(() => app.close());

type Asked = Record<string, string>;

async function shown(page: string, asked: Asked): Promise<StatementView> {
  const { status, body } = await ask<StatementView>('GET', `/statements/${page}?${new URLSearchParams(asked)}`);
  if (status !== 200) throw new Error(JSON.stringify(body));
  return body;
}

const brokenDown = (of: string, by: string) => JSON.stringify({ of: [of], down: [{ by }], across: [] });

/** Combinations of which parts once did not come to their total: facts of addition, whatever the figures are. */
describe('parts of a figure come to it', () => {
  it.each<{ what: string; page: string; asked: Asked; broken?: string }>([
    {
      what: 'by entity, beside columns of entities in their own currencies and of kinds of eliminations',
      page: 'departments',
      asked: { scope: 'LARKMOOR', as_at: '2026-07', columns: 'group_worksheet' },
      broken: brokenDown('gross_profit', 'entity'),
    },
    {
      what: 'by entity, in the statement of one, beside columns of all others',
      page: 'departments',
      asked: { scope: 'LMG', as_at: '2026-07', columns: 'group_worksheet' },
      broken: brokenDown('gross_profit', 'entity'),
    },
    {
      what: 'by movement codes that eliminations alone have',
      page: 'balance_sheet',
      asked: { scope: 'KILNHIRE', as_at: '2026-08', columns: 'month_annualised' },
      broken: brokenDown('result_for_the_year', 'flow'),
    },
    {
      what: 'balances by day, with what was before the days that stand there',
      page: 'fixed_assets',
      asked: { scope: 'KHS', as_at: '2026-08', columns: 'cash_months' },
      broken: brokenDown('fixed_assets', 'posting_day'),
    },
    {
      what: 'balances by month, with what was before',
      page: 'balance_sheet',
      asked: { scope: 'LARKMOOR', as_at: '2026-04', columns: 'at_month_end' },
      broken: brokenDown('total_assets', 'posting_period'),
    },
    {
      what: 'gains of the temporal method stand without dimensions',
      page: 'cash_flow',
      asked: { scope: 'KHP', as_at: '2026-08', currency: 'JPY' },
      broken: brokenDown('profit_for_the_period', 'department'),
    },
    {
      what: 'by what lines carry, in columns of other entities',
      page: 'departments',
      asked: { scope: 'KHG', as_at: '2026-07', columns: 'group_worksheet' },
      broken: brokenDown('materials', 'document_type'),
    },
    {
      what: 'across the page, in columns that are members of a series',
      page: 'sales_by_product_and_channel',
      asked: { scope: 'KHS', as_at: '2026-08', columns: 'three_years' },
    },
    {
      what: 'costs that are spread, in combinations which books have once they are read',
      page: 'energy_by_entity',
      asked: {
        ...{ scope: 'LARKMOOR', as_at: '2027-03', columns: 'constant_currency', version: 'FORECAST_1' },
        ...{ allocation: 'head_office', where: 'cost_type:' },
      },
    },
    {
      what: 'months of a forecast that are actual, though a member that has left was planned',
      page: 'income_by_quarter',
      asked: { scope: 'LARKMOOR', as_at: '2024-06', version: 'FORECAST_1' },
      broken: brokenDown('operating_profit', 'channel'),
    },
  ])('$what', async ({ page, asked, broken }) => {
    const view = await shown(page, { ...asked, ...(broken && { breakdown: broken }) });
    expect(view.breakdown!.proof).toEqual({ parts: 0, statement: 0 });
    expect(view.rows.filter(({ branch }) => branch).length).toBeGreaterThan(0);
  });

  it('an entity has nothing in a column of another', async () => {
    const asked = { scope: 'LMG', as_at: '2026-07', columns: 'group_worksheet' };
    const { columns, rows } = await shown('departments', { ...asked, breakdown: brokenDown('gross_profit', 'entity') });
    const row = rows.find(({ id }) => id === 'gross_profit.entity:LMG')!;
    for (const id of ['entities.LMS', 'own.LMT'])
      expect(row.cells[columns.findIndex((column) => column.id === id)]!.amount).toBe(0);
  });

  it('a quantity that others vary with is flexed to itself, also where it stands alone', async () => {
    const asked = { scope: 'LMJ', as_at: '2026-08', against: 'PLAN_FY27' };
    const whole = await shown('flexible_budget', asked);
    const cellsOf = ({ rows }: StatementView, row: string) =>
      rows.find(({ id }) => id === row)!.cells.map(({ amount }) => amount);
    for (const row of ['pieces', 'profit_margin']) {
      const alone = await shown('flexible_budget', { ...asked, breakdown: brokenDown(row, 'project') });
      expect(cellsOf(alone, row)).toEqual(cellsOf(whole, row));
    }
  });
});

describe('journal lines behind a cell', () => {
  const linesBehind = async (page: string, asked: Asked, cell: string) => {
    const query = new URLSearchParams({ ...asked, address: `cell~${cell}` });
    const { body } = await ask<TraceView>('GET', `/statements/${page}/trace?${query}`);
    return body;
  };

  it.each<[why: string, page: string, asked: Asked, cell: string]>([
    [
      'costs were spread',
      'departments_after_support',
      { scope: 'KHS', as_at: '2026-04' },
      'fixed_costs.department:design~after',
    ],
    [
      'two values of a dimension are asked for at once',
      'income_statement',
      {
        ...{ scope: 'LMG', as_at: '2026-08', columns: 'departments' },
        breakdown: brokenDown('administration', 'department'),
      },
      'administration.department:finance~by.sales',
    ],
    [
      'balances were brought in meanwhile',
      'cash_flow',
      { scope: 'LMG', as_at: '2024-06', columns: 'three_years' },
      'change_in_receivables~years.y0',
    ],
  ])('are not told where %s', async (_, page, asked, cell) => {
    const { figure, lines } = await linesBehind(page, asked, cell);
    expect(figure.amount).toEqual(expect.any(Number));
    expect(lines).toBeNull();
  });

  it('leave out accounts that come to nothing in it', async () => {
    // earnings before depreciation are the operating profit and depreciation again
    const { figure, lines } = await linesBehind('ratios', { scope: 'LMG', as_at: '2024-06' }, 'ebitda~ytd');
    const { only: _, ...asked } = lines!;
    const { body } = await ask<LinesView>('GET', `/ledger/lines?${new URLSearchParams(asked)}`);
    expect(body.credit - body.debit).toBe(figure.amount);
  });
});

describe('traces of a group', () => {
  const traced = async (page: string, address: string, asked: Asked) => {
    const query = new URLSearchParams({ ...asked, address });
    return ask<TraceView>('GET', `/statements/${page}/trace?${query}`);
  };

  it('lead from the share of an associate to the postings of its books', async () => {
    const asked = { scope: 'LARKMOOR', as_at: '2026-07', columns: 'month_and_year_to_date' };
    const { body: all } = await traced('income_statement', 'movement~8140~FY2027-P01~-1~member:*', asked);
    const { body: share } = await traced('income_statement', all.terms[0]!.address, asked);
    expect(share.label).toMatchObject({ kind: 'elimination', of: 'associate', partner: 'Kilnworks Energy' });
    const [of] = share.terms;
    expect(of!.label).toMatchObject({ kind: 'entity', entity: 'Kilnworks Energy' });
    const { status, body } = await traced('income_statement', of!.address, asked);
    expect(status).toBe(200);
    expect(body.figure.amount).toBe(of!.figure.amount);
    expect(body.postings!.total).toBe(of!.figure.amount);
    expect(of!.figure.amount).not.toBe(0);
  });

  it('come to their figure where an associate becomes a subsidiary', async () => {
    const asked = { scope: 'KILNHIRE', as_at: '2024-06' };
    const { body } = await traced('income_by_quarter', 'movement~4000~FY2025-P01~-1', asked);
    // bought in steps, and an associate by then
    expect(JSON.stringify(body.terms)).not.toContain('member:KHG');
    expect(body.terms.reduce((sum, { sign, figure }) => sum + sign * figure.amount!, 0)).toBe(body.figure.amount);
  });

  it('lead on to what a partner has with the other, where an elimination was found from it', async () => {
    const asked = { scope: 'LARKMOOR', as_at: '2026-07', columns: 'month_and_year_to_date' };
    const address = 'movement~5420~FY2026-P01~-1~member:LMU;partner:in:LMT';
    expect((await traced('income_statement', address, asked)).status).toBe(200);
    const unknown = await traced('income_statement', `${address.replace('LMU', 'NONE')}`, asked);
    expect(unknown.status).toBe(404);
  });
});

describe('somebody who may see totals of what they do not see whole', () => {
  const become = async (limits: object) => {
    await onStore(DEMO, (store) =>
      store.aside(async ({ em }) => {
        const person = await em.findOneOrFail(Person, { id: 'local' });
        em.assign(person, { entities: 'all', values: {}, rights: ['read', 'see_totals'], ...limits } as never);
      }),
    );
    await app.close();
    app = await buildApp({ databaseFile: DEMO, webRoot: '/nonexistent' });
  };

  it('is told that a total holds more, in place of how far its values are off it', async () => {
    await become({ entities: ['LMG', 'LMT'] });
    const asked = { scope: 'LARKMOOR', as_at: '2026-07' };
    const { breakdown } = await shown('income_statement', { ...asked, breakdown: brokenDown('net_sales', 'entity') });
    expect(breakdown!.proof).toEqual({ parts: null, statement: 0, holdsHidden: true });
    const own = await shown('income_statement', {
      ...{ ...asked, scope: 'LMT' },
      breakdown: brokenDown('net_sales', 'product_line'),
    });
    expect(own.breakdown!.proof).toEqual({ parts: 0, statement: 0 });
  });

  it('is told nothing of the eliminations and associates of entities that they do not see, by whatever address', async () => {
    const asked = { scope: 'LARKMOOR', as_at: '2026-07' };
    const traced = (address: string) =>
      ask<TraceView>('GET', `/statements/income_statement/trace?${new URLSearchParams({ ...asked, address })}`);
    const eliminated = 'movement~8140~FY2027-P01~-1~member:*';
    await become({});
    const [line] = (await traced(eliminated)).body.terms;
    expect((await traced(line!.address)).status).toBe(200);
    await become({ entities: ['LMG', 'LMT'] });
    const { operation, terms } = (await traced(eliminated)).body;
    expect([operation, terms]).toEqual(['hidden', []]);
    expect((await traced(line!.address)).status).toBe(404);
    expect((await traced('movement~4410~FY2027-P01~-1~member:@KWE')).status).toBe(404);
  });

  it('is led to no journal lines that come to less than the figure', async () => {
    await become({ values: { department: ['sales', 'design'] } });
    const query = new URLSearchParams({ scope: 'LMU', as_at: '2025-12', address: 'cell~energy~ytd' });
    const { body } = await ask<TraceView>('GET', `/statements/income_statement/trace?${query}`);
    expect(body.figure.amount).not.toBe(0);
    expect(body.lines).toBeNull();
  });
});
