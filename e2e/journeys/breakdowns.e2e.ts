import { readFileSync } from 'node:fs';
import ExcelJS from 'exceljs';
import type { Page } from '@playwright/test';
import { expect, test } from '../fixtures/quiet-console';
import { expectAccessible } from '../fixtures/no-violations';
import { StatementPage } from '../pages/statement-page';

const AT = 'scope=LARKMOOR&as_at=2026-08';

/** Text of a cell by its row's label and its head's place, as it is read. */
const textOf = async (breakdown: StatementPage, row: string, column: number) =>
  (await breakdown.cell(row, column).textContent())?.trim();

async function inMenu(page: Page, ...items: readonly string[]): Promise<void> {
  for (const name of items) await page.getByRole('menuitem', { name }).first().click();
}

test('from an adverse figure of a statement to the product, to its postings, to a kept page with a chart, exported and opened again', async ({
  page,
}) => {
  const statement = new StatementPage(page);
  await statement.open('income_statement', `?${AT}&columns=to_date_against_plan`);
  await expect(statement.cell('Tableware', 2)).toHaveClass(/adverse/);
  const change = await textOf(statement, 'Tableware', 2);
  await statement.cell('Tableware', 2).click();
  await statement.lens.getByRole('tab', { name: 'Break down' }).click();
  const ranks = statement.lens.getByTestId('field-ranks');
  await expect(ranks.getByRole('button').first()).toBeVisible();
  // what journal lines carry is ranked where it is asked for
  const ofLines = statement.lens.getByTestId('fields-of-lines').getByRole('button', { name: /^Document type/ });
  await expect(ofLines).not.toContainText('value');
  await statement.lens.getByRole('checkbox', { name: 'Rank these, too' }).check();
  await expect(ofLines).toContainText(/\d values?/);
  await ranks.getByRole('button', { name: /^Product line/ }).click();

  await expect(page).toHaveURL(/\/breakdowns\/income_statement/);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Tableware by product line');
  await expect(statement.table.locator('tr.result td.cell').nth(2)).toHaveText(change!);
  await expect(page.getByTestId('proof')).toContainText('The values add up to the total');
  await expect(page.getByTestId('proof')).toContainText('The total is that of the statement');

  // another field across, chosen in the head; the total stays
  await page.locator('ml-statement-table').getByTestId('add-across').click();
  await inMenu(page, 'Channel');
  await expect(statement.table.getByRole('columnheader', { name: 'Wholesale' })).toBeVisible();
  await expect(statement.table.locator('tr.result td.cell').last()).toHaveText(change!);

  // down to the posting
  await statement.table.getByRole('button', { name: 'Open Tableware' }).click();
  await statement.cell('Hotel tableware', 4).click();
  await statement.lens.getByRole('tab', { name: 'Trace' }).click();
  for (const part of ['4040', 'April 2026', 'Larkmoor Ceramics'])
    await statement.lens.locator('[data-term]').filter({ hasText: part }).first().click();
  await expect(statement.lens.getByTestId('postings')).toContainText('Hotel tableware');
  await expect(statement.lens.getByTestId('level-proof')).toContainText('✓');
  await statement.lens.getByRole('button', { name: 'Close the Lens' }).click();

  // a chart beside it; what is pressed there is selected in the table
  await page.getByTestId('show-both').click();
  await expect(page.getByTestId('breakdown-chart').locator('svg')).toBeVisible();
  await expectAccessible(page);

  await page.getByTestId('keep-breakdown-as').click();
  await page.getByTestId('breakdown-name').fill('Tableware by channel');
  await page.getByLabel('Folder').fill('Sales');
  await page.getByRole('dialog').getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page).toHaveURL(/\/breakdowns\/tableware_by_channel/);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Tableware by channel');
  await expect(page.getByTestId('keep-breakdown-as')).toBeHidden();
  await expect(statement.table.getByRole('columnheader', { name: 'Wholesale' })).toBeVisible();
  const hotel = await textOf(statement, 'Hotel tableware', 4);

  await page.getByTestId('export').click();
  const download = page.waitForEvent('download');
  await page.getByTestId('export-xlsx').click();
  const workbook = new ExcelJS.Workbook();
  await workbook.xlsx.load(readFileSync((await (await download).path())!).buffer as ArrayBuffer);
  const sheet = workbook.worksheets[0]!;
  const labels = (sheet.getColumn(1).values as (string | undefined)[]).map((value) => value ?? '');
  const [tableware, inside] = [labels.indexOf('Tableware'), labels.indexOf('Hotel tableware')];
  expect(sheet.getRow(inside).outlineLevel).toBe(1);
  expect(sheet.getCell(tableware, 2).formula).toMatch(/^SUM\(/);
  const facts = workbook.getWorksheet('Facts')!.getRow(1).values as string[];
  expect(facts.slice(1, 4)).toEqual(['What', 'Product line', 'Channel']);

  await page.goto(`/breakdowns?${AT}`);
  await page.getByRole('button', { name: /^Sales/ }).click();
  await page.getByRole('link', { name: 'Tableware by channel' }).click();
  await expect.poll(() => textOf(statement, 'Hotel tableware', 4)).toBe(hotel);
  await expect(page.getByTestId('breakdown-chart').locator('svg')).toBeVisible();
});

test('a breakdown by keyboard alone: fields, levels, swap, and back to the cell', async ({ page }) => {
  const breakdown = new StatementPage(page);
  await page.goto(`/breakdowns/energy_by_entity?${AT}`);
  await expect(breakdown.table).toBeVisible();
  await breakdown.reachTableByKeyboard();
  await expect(breakdown.row('6400 Kiln gas')).toHaveCount(1);
  await page.keyboard.press('Space');
  await expect(breakdown.row('6400 Kiln gas')).toHaveCount(0);
  await page.keyboard.press('+');
  await expect(breakdown.row('6400 Kiln gas')).not.toHaveCount(0);
  await page.keyboard.press('-');
  await expect(breakdown.row('6400 Kiln gas')).toHaveCount(0);

  const total = await textOf(breakdown, 'Energy', 1);
  await page.keyboard.press('b');
  const ranks = breakdown.lens.getByTestId('field-ranks');
  await ranks.getByRole('button', { name: /^Department/ }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Energy by entity');
  await expect(page.getByTestId('breakdown-line')).toContainText('Department');
  await breakdown.reachTableByKeyboard();
  await page.keyboard.press('x');
  await expect(breakdown.table.getByRole('columnheader', { name: 'Larkmoor Tile' })).toBeVisible();
  await expect(breakdown.table.locator('tr td.cell').nth(1)).toBeVisible();
  const cells = breakdown.row('Energy').locator('td.cell');
  await expect.poll(async () => (await cells.allTextContents()).map((text) => text.trim())).toContain(total);
  await page.goBack();
  await expect(breakdown.row('Larkmoor Tile')).toHaveCount(1);
});

test('values are left out by a filter, which says so, and are there again without it', async ({ page }) => {
  const breakdown = new StatementPage(page);
  await page.goto(`/breakdowns/sales_by_product_and_channel?${AT}`);
  await expect(breakdown.row('Tiles')).toHaveCount(1);
  await page.getByTestId('filter').click();
  await inMenu(page, 'Product line…');
  await page.getByRole('radio', { name: 'All but these' }).click();
  await page.getByRole('checkbox', { name: 'Tiles', exact: true }).click();
  await page.getByRole('button', { name: 'Filter', exact: true }).last().click();
  await expect(breakdown.row('Tiles')).toHaveCount(0);
  await expect(page.getByTestId('subtitle')).toContainText('all but Tiles');
  await expect(page.getByTestId('proof')).not.toContainText('that of the statement');
  await page.getByRole('button', { name: 'No more: all but Tiles' }).click();
  await expect(breakdown.row('Tiles')).toHaveCount(1);
});

test('values that are marked in the table or in the chart are all that is left', async ({ page }) => {
  const breakdown = new StatementPage(page);
  const asked = JSON.stringify({ of: ['net_sales'], down: [{ by: 'product_line' }], across: [], shows: 'both' });
  await breakdown.open('income_statement', `?${AT}&columns=to_date_short&breakdown=${encodeURIComponent(asked)}`);
  const values = breakdown.table.locator('tbody tr:not(.result)');
  const total = await textOf(breakdown, 'Net sales', 1);
  await expect(values).toHaveCount(4);
  await breakdown.cell('Tableware', 1).click();
  await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByTestId('only-these')).toHaveText('Only these 2');
  await page.keyboard.press('f');
  await expect(page.getByRole('button', { name: 'only Tableware or Tiles', exact: true })).toBeVisible();
  await expect(values).toHaveCount(2);
  await expect(breakdown.cell('Net sales', 1)).not.toHaveText(total!);

  // in the chart, one after the other, and back
  await page.getByRole('button', { name: 'No more: only Tableware or Tiles' }).click();
  await expect(values).toHaveCount(4);
  const bars = page.getByTestId('breakdown-chart').locator('svg');
  for (const figure of [3, 2]) {
    const text = await textOf(breakdown, ['Tableware', 'Tiles', 'Studio pieces', 'Contract pieces'][figure]!, 1);
    const box = (await bars.getByText(text!, { exact: true }).boundingBox())!;
    // the bar ends where its figure begins
    await page.keyboard.down('Control');
    await page.mouse.click(box.x - 12, box.y + box.height / 2);
    await page.keyboard.up('Control');
  }
  await page.getByRole('button', { name: 'Only these 2' }).click();
  await expect(page.getByRole('button', { name: 'only Studio pieces or Contract pieces', exact: true })).toBeVisible();
  await expect(values).toHaveCount(2);
});

test('an axis is dragged from down the page to across it', async ({ page }) => {
  const breakdown = new StatementPage(page);
  await page.goto(`/breakdowns/top_customers?${AT}`);
  const line = page.getByTestId('breakdown-line');
  const from = (await line.getByTestId('axis-product_line').boundingBox())!;
  const to = (await line.getByTestId('add-across').boundingBox())!;
  await page.mouse.move(from.x + 10, from.y + 8);
  await page.mouse.down();
  await page.mouse.move(from.x + 30, from.y + 8, { steps: 4 });
  await page.mouse.move(to.x - 4, to.y + to.height / 2, { steps: 12 });
  await page.mouse.up();
  await expect(breakdown.table.getByRole('columnheader', { name: 'Tiles' })).toBeVisible();
  await expect(page).toHaveURL(/across/);
});

test('quantities, prices and journal lines stand beside a figure, down to the invoice', async ({ page }) => {
  const breakdown = new StatementPage(page);
  const asked = JSON.stringify({ of: ['net_sales'], down: [{ by: 'product_line' }], across: [] });
  await breakdown.open(
    'income_statement',
    `?scope=LMT&as_at=2026-08&columns=to_date_short&breakdown=${encodeURIComponent(asked)}`,
  );
  for (const measure of ['Quantity', 'Per unit', 'Journal lines']) {
    await page.getByTestId('what').click();
    await page.getByRole('menuitemcheckbox', { name: measure, exact: true }).click();
    await expect(page.getByTestId('what')).toContainText(measure.toLowerCase());
  }
  await expect(page.getByRole('heading', { level: 1 })).toContainText('with quantity, per unit and journal lines');
  await expect(page.getByTestId('proof')).toContainText('The values add up to the total');

  const quantity = breakdown.table.getByRole('columnheader', { name: 'Net sales, quantity' });
  await expect(quantity).toBeVisible();
  // two years and their change of each measure: the quantity of this year is the fifth figure
  await breakdown.cell('Tiles', 4).click();
  await breakdown.lens.getByRole('tab', { name: 'Trace' }).click();
  await expect(breakdown.lens).toContainText('units');
  for (const part of ['4200', 'April 2026'])
    await breakdown.lens.locator('[data-term]').filter({ hasText: part }).first().click();
  await expect(breakdown.lens.getByTestId('postings')).toContainText('Floor tiles, Nordhaus');
  await expect(breakdown.lens.getByTestId('level-proof')).toContainText('✓');
});

test('the journal lines of a figure as a list, narrowed as the figure is', async ({ page }) => {
  const breakdown = new StatementPage(page);
  const cell = 'net_sales.product_line:tableware~ytd.channel:retail';
  await page.goto(`/breakdowns/sales_by_product_and_channel?scope=LMG&as_at=2026-08&cell=${cell}`);
  const amount = (await breakdown.lens.getByTestId('lens-number').textContent())!.trim();
  await breakdown.lens.getByTestId('lines-of-cell').click();
  await expect(page).toHaveURL(/\/ledger\/lines/);
  await expect(page.getByRole('button', { name: /product line: tableware/ })).toBeVisible();
  await expect(page.getByRole('button', { name: /channel: retail/ })).toBeVisible();
  await expect(page.locator('ml-lines-screen')).toContainText(amount);
  await expect(page.locator('ml-lines-screen')).toContainText('accounts · April 2026 – August 2026');
  await page.getByRole('button', { name: /channel: retail/ }).click();
  await expect(page.getByRole('button', { name: /channel: retail/ })).toBeHidden();
  await page.goBack();
  await page.goBack();
  await expect(breakdown.lens.getByTestId('lens-number')).toHaveText(amount);
});

test('receivables are aged by the days that one says, as at any day, down to the invoice', async ({ page }) => {
  const breakdown = new StatementPage(page);
  await page.goto('/breakdowns/receivables_by_age?scope=LMG&as_at=2026-08');
  await expect(breakdown.table.getByRole('columnheader', { name: '1 to 30 days' })).toBeVisible();
  await expect(page.getByTestId('proof')).toContainText('The total is that of the statement');
  const total = (await breakdown.table.locator('tr.result td.cell').last().textContent())!;

  await page.locator('ml-breakdown-line').getByTestId('axis-age').click();
  await page.getByRole('menuitem', { name: 'Days and what they count from…' }).click();
  await page.getByLabel('Days after which they are told apart').fill('10, 5');
  await expect(page.getByRole('button', { name: 'Age them so' })).toBeDisabled();
  await page.getByLabel('Days after which they are told apart').fill('15, 45');
  await expect(page.getByTestId('bands')).toContainText('16 to 45 days');
  await page.getByRole('button', { name: 'Age them so' }).click();
  await expect(breakdown.table.getByRole('columnheader', { name: '16 to 45 days' })).toBeVisible();
  await expect(breakdown.table.locator('tr.result td.cell').last()).toHaveText(total);

  // to the invoice of the latest payer
  await breakdown.cell('Marché Neuf', 2).click();
  await breakdown.lens.getByRole('tab', { name: 'Trace' }).click();
  for (const part of ['1500', 'July 2026'])
    await breakdown.lens.locator('[data-term]').filter({ hasText: part }).last().click();
  await expect(breakdown.lens.getByTestId('postings')).toContainText('Marché Neuf');
  await breakdown.lens.getByRole('button', { name: 'Close the Lens' }).click();

  // as at a day within the month
  await page.getByTestId('filter').click();
  await page.getByRole('menuitem', { name: 'Week and day…' }).click();
  await page.getByLabel('To', { exact: true }).fill('2026-08-14');
  await page.getByRole('button', { name: 'Filter', exact: true }).click();
  await expect(page.getByTestId('subtitle')).toContainText('postings up to 14 August 2026');
  await expect(breakdown.table.locator('tr.result td.cell').last()).not.toHaveText(total);
  await expectAccessible(page);
});

test('what a breakdown tells apart goes into the statement: below its row, and as its columns', async ({ page }) => {
  const statement = new StatementPage(page);
  const asked = JSON.stringify({ of: ['energy'], down: [{ by: 'department' }], across: [] });
  const broken = `/statements/income_statement?${AT}&columns=to_date_against_plan&breakdown=${encodeURIComponent(asked)}`;
  await page.goto(broken);
  const production = await textOf(statement, 'Production', 1);
  const whole = await textOf(statement, 'Energy', 1);
  await page.getByTestId('use-in-statement').click();
  await inMenu(page, 'Its values below “Energy” of', 'Income statement');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Income statement');
  await expect(statement.cell('Production', 1)).toHaveText(production!);
  await expect(statement.cell('Energy', 1)).toHaveText(whole!);

  await page.goto(broken);
  await page.getByTestId('use-in-statement').click();
  await inMenu(page, 'Department as columns of', 'Income statement');
  await expect(statement.table.getByRole('columnheader', { name: 'Production' })).toBeVisible();
  await expect(statement.row('Energy').locator('td.cell').first()).toHaveText(production!);
  await expect(statement.row('Energy').locator('td.cell').last()).toHaveText(whole!);
});

test('versions stand down the page, each with its own months and mark, and across it', async ({ page }) => {
  const breakdown = new StatementPage(page);
  await page.goto(`/statements/income_statement?${AT}&columns=to_date_and_full_year&cell=net_sales~ytd`);
  await expect(breakdown.table).toBeVisible();
  const planned = await textOf(breakdown, 'Net sales', 0);
  await page.keyboard.press('b');
  await breakdown.lens
    .getByTestId('fields-beside')
    .getByRole('button', { name: /^Version/ })
    .click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Net sales by version');
  await expect(breakdown.row('Plan FY27').locator('.mark.plan')).toBeVisible();
  await expect(breakdown.row('Forecast 2').locator('.mark.forecast')).toBeVisible();
  await expect(breakdown.table.getByRole('columnheader', { name: 'By version' }).first()).toBeVisible();
  // no total is made of them
  await expect(breakdown.table.locator('tr.result')).toHaveCount(0);
  expect(planned).not.toBe('');
  const own = await textOf(breakdown, 'Plan FY27', 1);
  await expectAccessible(page);

  await breakdown.reachTableByKeyboard();
  await page.keyboard.press('x');
  await expect(breakdown.table.getByRole('columnheader', { name: 'Plan FY27' }).first()).toBeVisible();
  const cells = breakdown.row('Net sales').locator('td.cell');
  await expect.poll(async () => (await cells.allTextContents()).map((text) => text.trim())).toContain(own);
});

test('a breakdown that takes long says so, is stopped by a key, and gone on with', async ({ page }) => {
  const breakdown = JSON.stringify({ of: ['net_sales'], down: [{ by: 'product_line' }], across: [] });
  const statement = new StatementPage(page);
  await page.goto(`/breakdowns/income_statement?${AT}&columns=to_date_against_plan&breakdown=${breakdown}`);
  await expect(statement.table.getByRole('columnheader').first()).toBeVisible();
  let release = () => {};
  const held = new Promise<void>((resolve) => (release = resolve));
  await page.route(/statements\/income_statement\?.*channel/, async (route) => {
    await held;
    await route.continue().catch(() => undefined); // given up meanwhile
  });
  await page.locator('ml-statement-table').getByTestId('add-across').click();
  await inMenu(page, 'Channel');
  // what stands there may be looked into meanwhile
  await statement.table.locator('td.cell').first().click();
  await page.keyboard.press('Enter');
  const lens = page.getByRole('complementary', { name: 'Lens' });
  await expect(lens).toBeVisible();
  await expect(page.getByTestId('long-answer')).toContainText('Breaking it down');
  await page.keyboard.press('Escape');
  const stopped = page.getByTestId('stopped');
  await expect(lens).toBeVisible();
  await expect(stopped).toHaveText(/Stopped\. What stands here was asked for before\./);
  await expect(statement.table.getByRole('columnheader', { name: 'Wholesale' })).toBeHidden();
  await expectAccessible(page);
  release();
  await stopped.getByRole('button', { name: 'Go on' }).click();
  await expect(statement.table.getByRole('columnheader', { name: 'Wholesale' })).toBeVisible();
  await expect(stopped).toBeHidden();
});
