import type { SavedTable, SetupTableView, StatementView, TraceView } from '@margin-lens/contract';
import type { Breakdown } from '@margin-lens/core';
import { servedPackage } from '../../../test/served-app';
import { tinyFiles, type PackageFiles } from '../../../test/tiny-package';

const { ask, serve } = servedPackage();

// rent by team: the hall belongs to production, and from March on to sales
const RENT = [
  ['2026-01-10', 'hall', '100'],
  ['2026-01-11', 'production', '10'],
  ['2026-01-12', 'sales', '1'],
  ['2026-04-10', 'hall', '200'],
  ['2026-04-11', 'production', '20'],
  ['2026-04-12', 'sales', '2'],
] as const;

/** What production costs is borne by sales. */
const BORNE = {
  ...{ schema: 1, kind: 'allocation', id: 'borne', name: 'Borne by sales', dimension: 'team', method: 'direct' },
  accounts: { include: [{ by: 'account', number: '5000' }] },
  steps: [
    {
      ...{ id: 'production', name: 'Production', from: ['production'], to: ['sales'] },
      key: { by: 'fixed', weights: [{ value: 'sales', weight: 1 }] },
    },
  ],
};

const files = (): PackageFiles =>
  tinyFiles({
    'dimensions.csv': [
      'dimension,value,name,parent,from',
      'team,production,Production,,',
      'team,sales,Sales,,',
      'team,hall,Hall,production,',
      'team,hall,Hall,sales,FY2026-P03',
      '',
    ].join('\n'),
    'journals.csv': [
      'entity,journal,kind,line,date,period,account,debit,credit,quantity,description,dim:team',
      ...RENT.flatMap(([day, team, amount], at) => [
        `ONE,J${at},,1,${day},,5000,${amount},,,Rent,${team}`,
        `ONE,J${at},,2,${day},,1000,,${amount},,Rent,`,
      ]),
      '',
    ].join('\n'),
    'layouts/costs.json': JSON.stringify({
      ...{ schema: 1, kind: 'row_layout', id: 'costs', name: 'Costs', purpose: 'free' },
      rows: [
        {
          ...{ kind: 'accounts', id: 'rent', label: 'Rent', orientation: 'debit' },
          accounts: { include: [{ by: 'account', number: '5000' }] },
        },
      ],
    }),
    'layouts/then.json': JSON.stringify({
      ...{ schema: 1, kind: 'column_layout', id: 'then', name: 'Then and today' },
      columns: [
        { kind: 'figure', id: 'then', span: 'period', measure: 'movement', monthsBack: 3, organised: 'then' },
        { kind: 'figure', id: 'today', span: 'period', measure: 'movement', monthsBack: 3 },
        { kind: 'difference', id: 'moved', of: 'today', base: 'then' },
      ],
    }),
    'layouts/month.json': JSON.stringify({
      ...{ schema: 1, kind: 'column_layout', id: 'month', name: 'Month' },
      columns: [{ kind: 'figure', id: 'month', span: 'period', measure: 'movement' }],
    }),
    'statements/costs_then.json': JSON.stringify({
      ...{ schema: 1, kind: 'statement', id: 'costs_then', name: 'Costs', rows: 'costs', columns: 'then', unit: 1 },
    }),
  });

async function read(asAt: string, more: Record<string, string> = {}, breakdown?: Partial<Breakdown>) {
  const asked: Breakdown = { of: ['rent'], down: [{ by: 'team' }], across: [], open: ['+1'], ...breakdown };
  const query = new URLSearchParams({
    ...{ scope: 'ONE', as_at: asAt, ...(breakdown && { breakdown: JSON.stringify(asked) }), ...more },
  });
  const { status, body } = await ask<StatementView>('GET', `/statements/costs_then?${query}`);
  if (status !== 200) throw new Error(JSON.stringify(body));
  return body;
}

/** Whole units of each row, column by column. */
const shown = ({ rows }: StatementView) =>
  rows.map(({ label, cells }) => [label, ...cells.map(({ amount }) => (amount ?? NaN) / 100)]);

describe('values that hang elsewhere from a period on', () => {
  it('are read as they were organised then, as today, and side by side with what moved between', async () => {
    await serve(files());
    const view = await read('2026-04', {}, {});
    expect(shown(view)).toEqual([
      ['Production', 110, 10, -100],
      ['Hall', 100, 0, -100],
      ['Production, not told apart', 10, 10, 0],
      ['Sales', 1, 101, 100],
      ['Hall', 0, 100, 100],
      ['Sales, not told apart', 1, 1, 0],
      ['Rent', 111, 111, 0],
    ]);
    expect(view.breakdown!.proof).toEqual({ parts: 0, statement: 0 });
    expect(new Set(view.rows.map(({ id }) => id)).size).toBe(7);
    expect(view.columns.map(({ note }) => note)).toEqual(['organised as in Jan 2026', '', '']);
  });

  it('stand as in the as-at month where nothing else is asked for, in filters, too', async () => {
    await serve(files());
    const month = { columns: 'month' };
    expect(shown(await read('2026-01', month, {})).slice(0, 2)).toEqual([
      ['Production', 110],
      ['Hall', 100],
    ]);
    expect(shown(await read('2026-04', month, {})).slice(0, 1)).toEqual([['Production', 20]]);
    expect(shown(await read('2026-01', { ...month, where: 'team:production' }))).toEqual([['Rent', 110]]);
    expect(shown(await read('2026-04', { where: 'team:production' }))).toEqual([['Rent', 110, 10, -100]]);
    // all columns as they were then, where a reader asks for that
    expect(shown(await read('2026-04', { where: 'team:production', organised: 'then' }))).toEqual([
      ['Rent', 110, 110, 0],
    ]);
  });

  // by hand: in January the hall was of production, so that all of its 110 went to sales; as organised today only 10 did
  it('are spread as they hang then, too', async () => {
    await serve({ ...files(), 'allocations/borne.json': JSON.stringify(BORNE) });
    const view = await read('2026-04', { allocation: 'borne' }, {});
    expect(shown(view)).toEqual([
      ['Sales', 111, 111, 0],
      ['Hall', 0, 100, 100],
      ['Sales, not told apart', 111, 11, -100],
      ['Rent', 111, 111, 0],
    ]);
    expect(view.breakdown!.proof).toEqual({ parts: 0, statement: 0 });
  });

  it('are traced as they are read', async () => {
    await serve(files());
    const posted = async (cell: string) => {
      const query = new URLSearchParams({ scope: 'ONE', as_at: '2026-04', where: 'team:production', address: cell });
      const { body } = await ask<TraceView>('GET', `/statements/costs_then/trace?${query}`);
      const [term] = body.terms;
      const end =
        body.postings ??
        (
          await ask<TraceView>(
            'GET',
            `/statements/costs_then/trace?${new URLSearchParams({
              ...{ scope: 'ONE', as_at: '2026-04', where: 'team:production', address: term!.address! },
            })}`,
          )
        ).body.postings;
      return end!.lines.map(({ amount }) => amount / 100);
    };
    expect(await posted('cell~rent~then')).toEqual([100, 10]);
    expect(await posted('cell~rent~today')).toEqual([10]);
  });

  it('are kept in the table of dimensions, and no circle of any time is', async () => {
    await serve(files());
    const { columns, rows, revision } = (await ask<SetupTableView>('GET', '/setup/tables/dimensions')).body;
    expect([columns.map(({ name }) => name).at(-1), rows.length]).toEqual(['from', 4]);
    const { body } = await ask<SavedTable>('PUT', '/setup/tables/dimensions', {
      ...{ base: revision, put: [['team', 'sales', 'Sales', 'hall', 'FY2026-P06']], remove: [] },
    });
    expect(body.issues.map(({ code }) => code)).toEqual(['CORE_DIMENSION_CYCLE']);
  });
});
