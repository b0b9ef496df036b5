import { readFileSync } from 'node:fs';
import path from 'node:path';
import Papa from 'papaparse';
import type { StatementView } from '@margin-lens/contract';
import { servedPackage } from '../../../test/served-app';
import { tinyFiles, type PackageFiles } from '../../../test/tiny-package';

const { ask, serve } = servedPackage();

/** Reference case 5, spread_over_working_days.csv: computed with Python's date and Debian's holidays, largest remainder. */
const CASE = path.resolve(__dirname, '../../../../../packages/core/test/golden/case05/spread_over_working_days.csv');
const rows = Papa.parse<Record<string, string>>(readFileSync(CASE, 'utf8'), { header: true, skipEmptyLines: true });
/** Those in euros: both entities keep their books in them. */
const spread = rows.data.filter((row) => row['currency'] === 'EUR');

const months = Array.from({ length: 12 }, (_, index) => {
  const month = String(index + 1).padStart(2, '0');
  const days = new Date(Date.UTC(2025, index + 1, 0)).getUTCDate();
  return `cal,2025,${index + 1},2025-${month},2025-${month}-01,2025-${month}-${days},regular,${Math.ceil((index + 1) / 3)}`;
});

function files(): PackageFiles {
  const planned = [...new Map(spread.map((row) => [`${row['country']} ${row['month']}`, row])).values()];
  return tinyFiles({
    'workspace.json': JSON.stringify({
      ...{ name: 'Days', reporting_currency: 'EUR' },
      working_days: { DE: { country: 'DE' }, GB: { country: 'GB', region: 'ENG' } },
    }),
    'calendars.csv': `calendar,fiscal_year,period,label,start,end,kind,quarter\n${months.join('\n')}\n`,
    'entities.csv': 'code,name,currency,calendar\nDE,Germany,EUR,cal\nGB,England,EUR,cal\n',
    'groups.csv': 'code,name,currency,calendar,top_entity,parent_group\n',
    'dimensions.csv': 'dimension,value,name,parent\n',
    'versions.csv': 'code,name,kind,from_period,to_period\nPLAN,Plan,plan,FY2025-P01,FY2025-P12\n',
    'figures.csv': [
      'version,entity,account,period,amount,quantity',
      ...planned.map((row) => {
        const period = `FY${row['month']!.replace('-', '-P')}`;
        return `PLAN,${row['country']},4000,${period},${row['month_amount']},`;
      }),
      '',
    ].join('\n'),
    'journals.csv': [
      'entity,journal,kind,line,date,period,account,debit,credit,document_type',
      ...['DE', 'GB'].flatMap((entity) => [
        // a Saturday, and the Monday behind it
        `${entity},J1,,1,2025-01-04,,1000,70.00,,invoice`,
        `${entity},J1,,2,2025-01-04,,4000,,70.00,invoice`,
        `${entity},J2,,1,2025-01-06,,1000,30.00,,`,
        `${entity},J2,,2,2025-01-06,,4000,,30.00,`,
      ]),
      '',
    ].join('\n'),
    'layouts/sold.json': JSON.stringify({
      ...{ schema: 1, kind: 'row_layout', id: 'sold', name: 'Sold', purpose: 'free' },
      rows: [
        {
          ...{ kind: 'accounts', id: 'sold', label: 'Sold', orientation: 'credit' },
          accounts: { include: [{ by: 'account', number: '4000' }] },
        },
      ],
    }),
    'layouts/month.json': JSON.stringify({
      ...{ schema: 1, kind: 'column_layout', id: 'month', name: 'Month' },
      columns: [
        { kind: 'figure', id: 'plan', span: 'period', measure: 'by_nature', version: 'PLAN' },
        { kind: 'figure', id: 'month', span: 'period', measure: 'by_nature' },
        { kind: 'running_total', id: 'so_far', of: 'plan' },
      ],
    }),
    'breakdowns/days.json': JSON.stringify({
      ...{ schema: 1, kind: 'breakdown', id: 'days', name: 'Days', rows: 'sold', columns: 'month', unit: 1 },
      breakdown: { of: ['sold'], down: [{ by: 'posting_day' }], across: [], open: ['+1'] },
    }),
  });
}

async function byDay(scope: string, asAt: string, down = 'posting_day'): Promise<StatementView> {
  const breakdown = JSON.stringify({ of: ['sold'], down: [{ by: down }], across: [], open: ['+1'] });
  const query = new URLSearchParams({ scope, as_at: asAt, breakdown });
  const { status, body } = await ask<StatementView>('GET', `/statements/days?${query}`);
  if (status !== 200) throw new Error(JSON.stringify(body));
  return body;
}

/** Amounts of a column by the value of a row, zeros left out. */
function amounts({ rows, columns }: StatementView, source: string): [string, number][] {
  const at = columns.findIndex((each) => each.source === source);
  return rows.flatMap(({ id, cells }) => {
    const value = id.split(':')[1];
    const amount = cells[at]!.amount ?? 0;
    return value === undefined || amount === 0 ? [] : [[value, amount] as [string, number]];
  });
}

const isDay = ([value]: [string, number]) => /^\d{4}-\d{2}-\d{2}$/.test(value);

describe('by day', () => {
  it.each(['DE', 'GB'])('monthly plans are spread over working days: %s', async (country) => {
    await serve(files());
    const cases = spread.filter((row) => row['country'] === country);
    for (const month of new Set(cases.map((row) => row['month']!))) {
      const view = await byDay(country, month);
      const expected = cases
        .filter((row) => row['month'] === month)
        .map((row) => [row['date'], Math.round(100 * Number(row['amount']))]);
      expect(amounts(view, 'plan').filter(isDay)).toEqual(expected);
      expect(view.breakdown!.proof).toEqual({ parts: 0, statement: 0 });
    }
  });

  it('postings count on their day, also at the weekend, and weeks are those of ISO 8601', async () => {
    await serve(files());
    const view = await byDay('DE', '2025-01');
    expect(amounts(view, 'month')).toEqual([
      ['2025-W01', 70_00],
      ['2025-01-04', 70_00],
      ['2025-W02', 30_00],
      ['2025-01-06', 30_00],
    ]);
    // the running total of the last week is the plan of the month
    const weeks = amounts(view, 'so_far').filter(([value]) => value.includes('W'));
    expect(weeks.at(-1)![1]).toBe(view.rows.find(({ id }) => id === 'sold')!.cells[0]!.amount);
    expect(amounts(await byDay('DE', '2025-01', 'document_type'), 'month')).toEqual([
      ['invoice', 70_00],
      ['*none', 30_00],
    ]);
  });
});

it('a month is told per working day of the entity, and per day, and so is what it differs by', async () => {
  const columns = {
    ...{ schema: 1, kind: 'column_layout', id: 'per_day', name: 'Per day' },
    columns: [
      { kind: 'figure', id: 'plan', span: 'period', measure: 'by_nature', version: 'PLAN' },
      { kind: 'per_day', id: 'working', of: 'plan', days: 'working' },
      { kind: 'per_day', id: 'all', of: 'plan', days: 'calendar' },
      { kind: 'difference', id: 'less', of: 'working', base: 'all' },
    ],
  };
  await serve({ ...files(), 'layouts/per_day.json': JSON.stringify(columns) });
  const byMonth = new Map<string, typeof spread>();
  for (const row of spread) {
    const key = `${row['country']} ${row['month']}`;
    byMonth.set(key, [...(byMonth.get(key) ?? []), row]);
  }
  for (const [key, days] of byMonth) {
    const [scope, month] = key.split(' ') as [string, string];
    const query = new URLSearchParams({ scope, as_at: month, columns: 'per_day' });
    const { body } = await ask<StatementView>('GET', `/statements/days?${query}`);
    const [year, number] = month.split('-').map(Number) as [number, number];
    const all = new Date(Date.UTC(year, number, 0)).getUTCDate();
    const cents = Math.round(Number(days[0]!['month_amount']) * 100);
    const [working, calendar] = [cents / days.length, cents / all];
    const cells = body.rows.find(({ id }) => id === 'sold')!.cells.map(({ amount }) => Math.round(amount!));
    expect([key, cells]).toEqual([key, [cents, working, calendar, working - calendar].map(Math.round)]);
    expect(body.columns.map(({ label, note }) => [label, note]).slice(1, 3)).toEqual([
      ['Per working day', `Plan, ${days.length} days`],
      ['Per day', `Plan, ${all} days`],
    ]);
  }
});
