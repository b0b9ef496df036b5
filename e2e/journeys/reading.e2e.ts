import { choose } from '../pages/choose';
import { readFileSync, statSync } from 'node:fs';
import { expect, test } from '../fixtures/quiet-console';
import { expectAccessible } from '../fixtures/no-violations';
import { StatementPage } from '../pages/statement-page';

test('a figure is traced to its posting by keyboard alone', async ({ page }) => {
  const statement = new StatementPage(page);
  await statement.open();
  await statement.reachTableByKeyboard();
  for (let rows = 0; rows < 7; rows++) await page.keyboard.press('ArrowDown');
  for (let columns = 0; columns < 6; columns++) await page.keyboard.press('ArrowRight');
  await expect(page).toHaveURL(/cell=energy~ytd/);

  await page.keyboard.press('Enter');
  const focused = statement.lens.locator('[data-term]:focus');
  await expect(focused).toContainText('Kiln gas');
  await expect(statement.lens.getByTestId('level-proof')).toContainText('✓');
  await expectAccessible(page);

  await page.keyboard.press('Enter');
  await expect(focused).toContainText('April 2026');
  await page.keyboard.press('ArrowDown');
  await expect(focused).toContainText('May 2026');
  await page.keyboard.press('Enter');
  await expect(statement.lens.getByTestId('postings')).toContainText('Gas, kiln hall');
  await expect(statement.lens.getByTestId('level-proof')).toContainText(/✓\s+\d+ lines add up/);
  await expect(focused).toBeVisible();

  await page.keyboard.press('Enter');
  await expect(statement.lens.getByTestId('journal')).toContainText('Debits and credits agree');
  await expectAccessible(page);

  await page.reload();
  await expect(statement.lens.getByTestId('journal')).toContainText('Debits and credits agree');
  await page.goBack();
  await expect(statement.lens.getByTestId('postings')).toBeVisible();
});

test('leaving the Lens by Escape goes back to the cell, then closes it', async ({ page }) => {
  const statement = new StatementPage(page);
  await statement.open('income_statement', '?cell=gross_margin~month_change');
  await expect(statement.lens).toContainText('percentage points');
  await statement.lens.locator('[data-term]').first().focus();
  await page.keyboard.press('Escape');
  await expect(statement.table.locator('td.spot')).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(statement.lens).toBeHidden();
});

test('entity, month and columns change in place and stand in the address', async ({ page }) => {
  const statement = new StatementPage(page);
  await statement.open();
  await statement.choose('scope', 'Larkmoor Tile');
  await expect(page.getByTestId('subtitle')).toContainText('Larkmoor Tile · PLN thousand');
  await page.keyboard.press(',');
  await expect(page.getByTestId('as-at')).toHaveText('31 July 2026');
  await expect(page.getByTestId('subtitle')).toContainText('July 2026');
  await statement.choose('columns', /^Twelve months/);
  const total = statement.table.getByRole('columnheader', { name: /Total/ });
  await expect(total).toContainText('4 of 12 months');
  await expect(page).toHaveURL(/scope=LMT.*as_at=2026-07.*columns=twelve_months/);
  await page.goBack();
  await expect(statement.table.getByRole('columnheader', { name: 'July 2026', exact: true })).toBeVisible();
  await statement.choose('unit', 'PLN million');
  await expect(statement.cell('Net sales', 1)).toHaveText(/^\s*\d+\.\d\d\s*$/);

  await statement.choose('columns', /^Twelve months/);
  await expect(total).toBeVisible();
  await statement.choose('columns', 'Without the totals of series');
  await expect(total).toHaveCount(0);
  await page.reload();
  await expect(statement.table).toBeVisible();
  await expect(total).toHaveCount(0);
  await statement.choose('columns', 'With the totals of series');
  await expect(total).toBeVisible();
});

test('adjustment periods are told apart', async ({ page }) => {
  const statement = new StatementPage(page);
  await statement.open('income_by_quarter', '?as_at=FY2026-P13&scope=LMT');
  await expect(statement.table.getByRole('columnheader', { name: /Adj\./ })).toBeVisible();
  await page.keyboard.press(',');
  await expect(page.getByTestId('subtitle')).toContainText('FY26');
  await expect(statement.table.getByRole('columnheader', { name: /Adj\./ })).toBeHidden();
});

test('the new account of August is seen, with what it takes from the profit', async ({ page }) => {
  const statement = new StatementPage(page);
  await statement.open('income_statement', '?unit=1');
  const lost = statement.table.locator('tbody.misplaced');
  await expect(lost).toContainText('One account has no row');
  await expect(lost).toContainText('6510 Carbon allowances');
  await expect(lost).toContainText('(28,700)');
  await expect(page.getByTestId('proof')).toContainText('Profit off by 28,700.00');
  await expect(page.getByTestId('light')).toContainText('10 of 14 tie');
  await page.keyboard.press(',');
  await expect(page.getByTestId('light')).toContainText('14 of 14 tie');
});

for (const id of ['income_statement', 'income_by_month', 'income_by_quarter']) {
  test(`no figure of ${id} is cut off, however long`, async ({ page }) => {
    const statement = new StatementPage(page);
    for (const scope of ['LMG', 'LMT']) {
      await statement.open(id, `?scope=${scope}&unit=1`);
      const cut = await statement.table
        .locator('td.cell')
        .evaluateAll((cells) => cells.filter((cell) => cell.scrollWidth > cell.clientWidth).map((c) => c.textContent));
      expect(cut).toEqual([]);
    }
  });
}

test('a block copies to a spreadsheet as tab-separated text', async ({ page }) => {
  const statement = new StatementPage(page);
  await statement.open();
  await statement.cell('Tableware', 0).click();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Control+c');
  const text = await page.evaluate(() => navigator.clipboard.readText());
  const cells = text
    .trimEnd()
    .split('\n')
    .map((line) => line.split('\t'));
  expect(cells.map((row) => row.length)).toEqual([2, 2]);
  expect(Number(cells[0]![0])).toBeGreaterThan(1000);
});

test('lines stand in order of a column, on screen, by key, and in the file', async ({ page }) => {
  const statement = new StatementPage(page);
  await statement.open('income_statement', '?as_at=2026-08&scope=LMT');
  const head = statement.table.getByRole('columnheader').filter({ hasText: 'Change' }).last();
  const labels = async () => (await statement.table.getByRole('rowheader').allInnerTexts()).map((text) => text.trim());
  const laidOut = await labels();
  const placeOf = (all: string[], label: string) => all.findIndex((each) => each.includes(label));
  expect(placeOf(laidOut, 'Energy')).toBeGreaterThan(placeOf(laidOut, 'Materials'));

  await head.getByRole('button', { name: /^Change/ }).click();
  await head.getByRole('button', { name: /^Change/ }).click();
  await expect(head).toHaveAttribute('aria-sort', 'ascending');
  await expect(page.getByTestId('subtitle')).toContainText('smallest first');
  const ordered = await labels();
  expect(placeOf(ordered, 'Energy')).toBeLessThan(placeOf(ordered, 'Materials'));
  expect([...ordered].sort()).toEqual([...laidOut].sort());
  await expectAccessible(page);

  await page.reload();
  await expect(head).toHaveAttribute('aria-sort', 'ascending');
  await page.getByTestId('export').click();
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByTestId('export-csv').click()]);
  const inFile = readFileSync(await download.path(), 'utf8');
  expect(inFile).toMatch(/^energy,[^]*^materials,/m);

  await statement.cell('Energy', 8).click();
  await page.keyboard.press('o');
  await expect(head).not.toHaveAttribute('aria-sort');
  expect(await labels()).toEqual(laidOut);
});

test('find or do goes to another statement', async ({ page }) => {
  const statement = new StatementPage(page);
  await statement.open();
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('A statement, row').fill('four quarters');
  await page.keyboard.press('Enter'); // at once: what was typed counts, not what the list still shows
  await expect(page.getByRole('heading', { name: 'Income statement, four quarters' })).toBeVisible();
});

test('a narrow window lays the Lens over the sheet and keeps the labels in sight', async ({ page }) => {
  await page.setViewportSize({ width: 820, height: 700 });
  const statement = new StatementPage(page);
  await statement.open('income_statement', '?cell=energy~month');
  await expect(statement.lens).toBeVisible();
  await expect(statement.row('Energy').getByRole('rowheader')).toBeInViewport();
  await expectAccessible(page);
});

for (const format of ['csv', 'xlsx', 'pdf']) {
  test(`a statement goes out as ${format}`, async ({ page }) => {
    const statement = new StatementPage(page);
    await statement.open('income_statement', '?as_at=2026-08&scope=LMT');
    await page.getByTestId('export').click();
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByTestId(`export-${format}`).click()]);
    expect(download.suggestedFilename()).toBe(`income_statement-lmt-fy2027-p05.${format}`);
    expect(statSync(await download.path()).size).toBeGreaterThan(1000);
  });
}

test('the browser prints the page, not the screen: balances head by day, wide ones on several sheets', async ({
  page,
}) => {
  const statement = new StatementPage(page);
  await statement.open('balance_sheet', '?as_at=2026-08&scope=LMT');
  const paper = page.locator('ml-paper-view');
  const print = async () => {
    await expect(paper).toBeAttached(); // comes when the browser has nothing else to do
    await page.emulateMedia({ media: 'print' });
    await page.evaluate(() => dispatchEvent(new Event('beforeprint')));
  };
  await print();
  await expect(paper.getByText('Balance sheet', { exact: true })).toBeVisible();
  await expect(paper).toContainText('as at 31 August 2026');
  await expect(page.locator('ml-top-bar')).toBeHidden();
  await expect(statement.table).toBeHidden();
  await page.evaluate(() => dispatchEvent(new Event('afterprint')));
  await page.emulateMedia({ media: 'screen' });
  await expect(statement.table).toBeVisible();
  await expect(paper.getByRole('img')).toHaveCount(0);
  await statement.open('income_statement', '?as_at=2026-08&scope=LMT&columns=months_against_plan&unit=1');
  await print();
  // labels are repeated on each
  await expect(paper.getByRole('img', { name: 'Sheet 2' }).getByText('Net sales', { exact: true })).toBeVisible();
  // and the document that is made elsewhere has as many
  const sheets = await paper.getByRole('img').count();
  const pdf = await page.request.get(
    '/api/v1/statements/income_statement/export?format=pdf&as_at=2026-08&scope=LMT&columns=months_against_plan&unit=1',
  );
  expect((await pdf.body()).toString('latin1').match(/\/Type \/Page\b/g)).toHaveLength(sheets);
});

test('a flexible budget tells volume from price and use, and Why tells price and efficiency apart', async ({
  page,
}) => {
  await page.goto('/statements/flexible_budget?scope=LMT&as_at=2026-08');
  const statement = new StatementPage(page);
  await expect(page.getByRole('columnheader', { name: /Plan FY27 flexed/ })).toBeVisible();
  await expect(page.getByRole('columnheader', { name: /margins in bp/ })).toBeVisible();
  await expectAccessible(page);
  const number = async (column: number) => {
    const text = await statement.cell('Energy', column).innerText();
    return Number(text.replace(/[(),]/g, '')) * (text.startsWith('(') ? -1 : 1);
  };
  // plan, by volume, flexed, by price and use, actual: what is shown adds up, in thousands
  const [plan, volume, flexed, use, actual] = await Promise.all([0, 1, 2, 3, 4].map(number));
  expect(Math.abs(plan! + volume! - flexed!)).toBeLessThanOrEqual(1);
  expect(Math.abs(flexed! + use! - actual!)).toBeLessThanOrEqual(1);
  await statement.cell('Energy', 5).click();
  await page.getByRole('tab', { name: 'Why' }).click();
  await choose(page.getByTestId('why-by'), 'volume, price and efficiency');
  await expect(page.getByTestId('why-term')).toHaveText([/Volume/, /Price/, /Efficiency/]);
  await expect(page.getByText('The steps add up exactly.')).toBeVisible();
});
