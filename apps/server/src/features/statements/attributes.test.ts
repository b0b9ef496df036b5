import type { CompletenessView, FieldsView, StatementView } from '@margin-lens/contract';
import type { Breakdown } from '@margin-lens/core';
import { servedPackage } from '../../../test/served-app';
import { bringIn, tinyFiles, workspaceOf, type PackageFiles } from '../../../test/tiny-package';

const { ask, serve } = servedPackage();

// rent by team; blue stands below red, and has its manager until May, when it gets one of its own; green has none
const files = (...more: string[]): PackageFiles =>
  tinyFiles({
    'dimensions.csv': 'dimension,value,name,parent\nteam,red,Red,\nteam,blue,Blue,red\nteam,green,Green,\n',
    'attributes.csv': [
      'dimension,value,attribute,text,from',
      'team,red,manager,Ann,',
      'team,blue,manager,Ben,FY2026-P05',
      'team,green,site,Oslo,',
      ...more,
      '',
    ].join('\n'),
    'journals.csv': [
      'entity,journal,kind,line,date,period,account,debit,credit,quantity,description,dim:team',
      ...[
        ['2026-02-10', 'red', '300'],
        ['2026-02-11', 'blue', '40'],
        ['2026-02-12', 'green', '7'],
        ['2026-02-13', '', '2'],
      ].flatMap(([day, team, amount], at) => [
        `ONE,J${at},,1,${day},,5000,${amount},,,Rent,${team}`,
        `ONE,J${at},,2,${day},,1000,,${amount},,Rent,`,
      ]),
      '',
    ].join('\n'),
  });

async function byManager(asAt: string, more: Partial<Breakdown> = {}): Promise<Record<string, number | null>> {
  const breakdown: Breakdown = { of: ['rent'], down: [{ by: 'team/manager' }], across: [], ...more };
  const query = new URLSearchParams({
    ...{ scope: 'ONE', as_at: asAt, columns: 'month_and_year_to_date', breakdown: JSON.stringify(breakdown) },
  });
  const { status, body } = await ask<StatementView>('GET', `/statements/income_statement?${query}`);
  if (status !== 200) throw new Error(JSON.stringify(body));
  const at = body.columns.findIndex(({ id }) => id === 'ytd');
  return Object.fromEntries(body.rows.map(({ label, cells }) => [label, cells[at]!.amount]));
}

describe('attributes of values', () => {
  it('are fields: what stands below a value has its own, as they stand in the month that is looked at', async () => {
    await serve(files());
    expect(await byManager('2026-02')).toEqual({ Ann: -340_00, 'No manager': -9_00, '=Rent': -349_00 });
    expect(await byManager('2026-06')).toEqual({ Ann: -300_00, Ben: -40_00, 'No manager': -9_00, '=Rent': -349_00 });
    const where: Breakdown['where'] = [{ dimension: 'team/manager', has: 'not_in', values: ['Ann'] }];
    expect(await byManager('2026-06', { where })).toMatchObject({ Ben: -40_00, '=Rent': -49_00 });
    const query = new URLSearchParams({ scope: 'ONE', as_at: '2026-06', columns: 'month_and_year_to_date' });
    const { body } = await ask<FieldsView>('GET', `/statements/income_statement/fields?${query}&cell=rent~ytd`);
    expect(body.fields.find(({ by }) => by === 'team/manager')).toMatchObject({ name: 'Manager of team', held: 2 });
  });

  it('are refused for values that there are not', async () => {
    const outcome = await bringIn(await workspaceOf(), files('team,pink,manager,Cy,'));
    expect(outcome.state).toBe('refused');
    expect(JSON.stringify(outcome)).toContain('pink');
  });

  it('and values themselves are told to be complete or not by month', async () => {
    await serve(files());
    const { body } = await ask<CompletenessView>('GET', '/ledger/completeness?scope=ONE&as_at=2026-03');
    expect(body.months.map(({ short }) => short)).toEqual(['Jan', 'Feb', 'Mar']);
    // 300, 40 and 7 of 349 of rent; cash does not count
    expect(body.entities).toEqual([
      { code: 'ONE', name: 'One', dimensions: [{ name: 'team', months: [null, 347 / 349, null] }] },
    ]);
  });
});

it('a dimension that is called like what lines carry is what is meant', async () => {
  await serve(
    tinyFiles({
      'dimensions.csv': 'dimension,value,name,parent\nage,red,Red,\n',
      'journals.csv': String(tinyFiles()['journals.csv']).replace('dim:team', 'dim:age'),
    }),
  );
  const breakdown = JSON.stringify({ of: ['sales'], down: [{ by: 'age' }], across: [] } satisfies Breakdown);
  const query = new URLSearchParams({ scope: 'ONE', as_at: '2026-02', columns: 'month_and_year_to_date', breakdown });
  const { body } = await ask<StatementView>('GET', `/statements/income_statement?${query}`);
  expect(body.rows.map(({ label }) => label)).toEqual(['Red', 'Sales']);
});
