import Database from 'better-sqlite3';
import type { StatementView } from '@margin-lens/contract';
import { choose } from '../pages/choose';
import { expect, test } from '../fixtures/served';
import { VersionsPage } from '../pages/versions-page';

/** Amounts in minor units, debit positive, by account and month of a fiscal year, `6400 P05`. */
type Figures = Map<string, number>;

/** What a workspace file holds, by SQL alone. */
function bySql(file: string) {
  const rows = (sql: string, ...named: string[]): Figures => {
    const db = new Database(file, { readonly: true });
    try {
      const found = db.prepare(sql).all(...named) as { account: string; month: number; amount: number }[];
      return new Map(
        found.map(({ account, month, amount }) => [`${account} P${String(month).padStart(2, '0')}`, amount]),
      );
    } finally {
      db.close();
    }
  };
  const flows = `a.nature in ('income', 'expense') and a.until is null and e.code = 'LMT' and e.until is null`;
  return {
    plan: (code: string): Figures =>
      rows(
        `select a.number as account, p.period as month, sum(f.amount) as amount
         from figure f join version v on v.id = f.version and v.until is null join account a on a.id = f.account
           join entity e on e.id = f.entity join fiscal_period p on p.id = f.period
         where v.code = ? and f.until is null and ${flows} group by 1, 2 having sum(f.amount) <> 0`,
        code,
      ),
    /** Adjustments of the year are in its last month. */
    actual: (year: string): Figures =>
      rows(
        `select a.number as account, min(p.period, 12) as month, sum(l.debit - l.credit) as amount
         from journal_line l join journal j on j.id = l.journal and j.until is null join account a on a.id = l.account
           join entity e on e.id = l.entity join fiscal_period p on p.id = l.period
         where p.fiscal_year = ? and j.kind = 0 and l.basis in (0, 1) and ${flows}
         group by 1, 2 having sum(l.debit - l.credit) <> 0`,
        year,
      ),
  };
}

/** A statement with all of its accounts, against a version. */
const OPEN =
  'tableware,tiles,studio_and_contract,materials,labour,energy,other_production,depreciation,selling,distribution,administration,research,other_income,finance,tax';

const sorted = (figures: Figures) => [...figures].sort(([a], [b]) => (a < b ? -1 : 1));

test('a plan is made, revised, sent out, brought back, compared, locked and read against actual, every figure as SQL has it', async ({
  page,
  request,
  address,
}) => {
  test.slow();
  const sql = bySql(address.file);
  const code = 'PLAN_CHECKED';
  const sheet = new VersionsPage(page);
  const expectPlanned = (wanted: Figures) => expect.poll(() => sorted(sql.plan(code))).toEqual(sorted(wanted));
  await sheet.open('FORECAST_2');

  // made: the year before, month by month, its adjustments in March
  await page.getByTestId('new-version').click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Name').fill('Plan checked');
  await choose(dialog.getByLabel('From'), 'April 2026');
  await choose(dialog.getByLabel('To'), 'March 2027');
  await dialog.getByRole('button', { name: 'Create' }).click();
  await expect(page).toHaveURL(new RegExp(`/versions/${code}`));
  await expect(sheet.entry).toBeFocused();
  await page.keyboard.press('Control+a');
  await sheet.act('Seed…');
  await expect(page.getByTestId('apply')).toContainText('Apply to');
  await sheet.apply();
  await sheet.settled();
  // 6510 has no row, so nothing is planned for it
  const seeded = new Map([...sql.actual('2026')].filter(([place]) => !place.startsWith('6510')));
  await expectPlanned(seeded);

  // revised: selling 10,000 a month from October on, in whole thousands as the sheet shows them
  const before = sql.plan(code);
  await sheet.cell('Selling', 6).click();
  await page.keyboard.press('Shift+End');
  await page.keyboard.press('Shift+ArrowLeft');
  await page.keyboard.type('600');
  await page.keyboard.press('Control+Enter');
  await sheet.settled();
  const revised = sql.plan(code);
  const sellingIn = (figures: Figures, month: number) =>
    [...figures].reduce(
      (sum, [place, amount]) =>
        isSelling(place) && place.endsWith(`P${String(month).padStart(2, '0')}`) ? sum + amount : sum,
      0,
    );
  const selling = await accountsOf('selling');
  const isSelling = (place: string) => selling.has(place.slice(0, 4));
  for (let month = 7; month <= 12; month++) expect(sellingIn(revised, month)).toBe(600_000_00);
  const others = (figures: Figures) =>
    sorted(new Map([...figures].filter(([place]) => !isSelling(place) || place.slice(6) < '07')));
  expect(others(revised)).toEqual(others(before));

  // sent out and brought back: 1,000.00 more of gas in December, and nothing else
  const out = await (await request.get(`/api/v1/versions/${code}/sheet?scope=LMT&format=csv`)).text();
  const [head, ...lines] = out.trim().split('\r\n');
  const at = head!.split(',').indexOf('FY2027-P09');
  const gas = lines.findIndex((line) => line.startsWith('6400,') && Number(line.split(',')[at]) !== 0);
  const cells = lines[gas]!.split(',');
  cells[at] = String(Number(cells[at]) + 1000);
  lines[gas] = cells.join(',');
  const buffer = Buffer.from([head, ...lines].join('\r\n'));
  await page.getByTestId('sheet-file').setInputFiles({ name: 'checked.csv', mimeType: 'text/csv', buffer });
  await expect(page.getByTestId('sheet-says')).toContainText('0 new, 1 changed');
  await page.getByTestId('take-sheet').click();
  await sheet.settled();
  await expectPlanned(new Map(revised).set('6400 P09', revised.get('6400 P09')! + 1_000_00));

  // compared: what the result differs by from that of Plan FY27
  const planned = sql.plan(code);
  const held = sql.plan('PLAN_FY27');
  await page.getByRole('tab', { name: 'Differences' }).click();
  await choose(page.getByTestId('other'), 'Plan FY27');
  const resultOf = (figures: Figures) => -[...figures.values()].reduce((sum, amount) => sum + amount, 0);
  const apart = Math.abs(resultOf(planned) - resultOf(held)) / 100;
  await expect(page.getByTestId('verdict')).toContainText(
    `${apart.toLocaleString('en', { minimumFractionDigits: 2 })} in the result`,
  );

  // locked, and read against actual: every account of the statement in both, and what they differ by
  for (const step of ['Submit', 'Approve', 'Lock']) await page.getByTestId('move-on').getByText(step).click();
  await expect(page.getByText('Plan checked is locked; its figures stay as they are.')).toBeVisible();
  const actual = sql.actual('2027');
  const view = await readAgainst('LMT');
  const column = (id: string) => view.columns.findIndex((each) => each.id === id);
  const toDate = (figures: Figures, account: string) =>
    [1, 2, 3, 4, 5].reduce((sum, month) => sum + (figures.get(`${account} P0${month}`) ?? 0), 0);
  const accounts = view.rows.filter(({ id }) => /\.\d{4}$/.test(id));
  expect(accounts.length).toBeGreaterThan(60);
  for (const { id, cells: shown } of accounts) {
    const account = id.slice(-4);
    const [was, is] = [toDate(planned, account), toDate(actual, account)].map((amount) => -amount + 0);
    const sees = (columnId: string) => (shown[column(columnId)]!.amount ?? 0) + 0;
    expect([account, sees('ytd_base'), sees('ytd'), sees('ytd_change')]).toEqual([account, was, is, is! - was!]);
  }

  async function readAgainst(scope: string): Promise<StatementView> {
    const open = OPEN.split(',')
      .map((row) => `${row}:accounts`)
      .join(',');
    const query = new URLSearchParams({ scope, as_at: '2026-08', columns: 'against_plan', against: code, open });
    return (await (await request.get(`/api/v1/statements/income_statement?${query}`)).json()) as StatementView;
  }

  async function accountsOf(row: string): Promise<ReadonlySet<string>> {
    const { rows } = await readAgainst('LMT');
    return new Set(rows.flatMap(({ id }) => (id.startsWith(`${row}.`) ? id.slice(-4) : [])));
  }
});
