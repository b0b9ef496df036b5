import { readFile } from 'node:fs/promises';
import type { StatementView } from '@margin-lens/contract';
import { choose } from '../pages/choose';
import { expect, test } from '../fixtures/quiet-console';
import { expectAccessible } from '../fixtures/no-violations';
import { VersionsPage } from '../pages/versions-page';

const number = (text: string) =>
  Number(
    text
      .replaceAll(',', '')
      .replace(/^\((.*)\)$/, '-$1')
      .replace('–', '0'),
  );

test('all rows are forecast by the best method of each, and the plan is balanced by cash', async ({ page }) => {
  const sheet = new VersionsPage(page);
  await sheet.open('FORECAST_2', '&unit=1');
  await sheet.act('Forecast…');
  await choose(sheet.panel.getByLabel('Rows'), 'all of income and expense');
  const summary = sheet.panel.getByTestId('forecast-summary').locator('tbody tr');
  await expect(summary.filter({ hasText: 'Energy' })).toContainText(/% off/);
  expect(await summary.count()).toBeGreaterThan(8);
  await expectAccessible(page);
  const told = number(await summary.filter({ hasText: 'Energy' }).locator('td').last().innerText());
  await sheet.apply();
  await sheet.settled();
  const months = await sheet.row('Energy').locator('td[data-spot]').allInnerTexts();
  const forecast = months.slice(5, 12).reduce((sum, text) => sum + number(text), 0);
  expect(Math.abs(forecast - told)).toBeLessThanOrEqual(7); // each month is rounded to a whole

  // what is planned of income and expense has no cash against it: the sheet says so, and cash takes it
  await page.goto('/versions/FORECAST_2?scope=LMT&as_at=2026-08&rows=balance_sheet');
  await expect(sheet.entry).toBeFocused();
  const warning = sheet.panel.getByRole('button', { name: /Assets and equity with liabilities differ/ });
  await warning.click();
  await expect(sheet.panel.getByTestId('balance-says')).toContainText('at the end of September 2026');
  await sheet.apply();
  await sheet.settled();
  const figures = (label: string) => sheet.row(label).locator('td[data-spot]').allInnerTexts();
  const isBalanced = async () =>
    String(await figures('Total assets')) === String(await figures('Total equity and liabilities'));
  await expect.poll(isBalanced).toBe(true);
  await expect(warning).toHaveCount(0);
  await sheet.settled();
  // and so does the statement of the version, by the engine of the books
  const query = 'scope=LMT&as_at=2027-03&version=FORECAST_2&columns=twelve_months';
  const { rows } = (await (
    await page.request.get(`/api/v1/statements/balance_sheet?${query}`)
  ).json()) as StatementView;
  const amounts = (label: string) => rows.find((row) => row.label === label)!.cells.map(({ amount }) => amount);
  expect(amounts('Total assets')).toEqual(amounts('Total equity and liabilities'));
});

test('a department’s part is planned first by its values, goes out and comes back', async ({ page }) => {
  const sheet = new VersionsPage(page);
  await sheet.open('FORECAST_2', '&by=department&first=values&with=last_year&below=yes&unit=1');
  // what it is compared with stands below each row, month by month, and cannot be typed into
  const below = sheet.row('Selling').locator('xpath=following-sibling::tr[1]');
  await expect(below.locator('.text')).toHaveText('FY26 actual');
  const whole = number(await sheet.cell('Selling', 6).innerText());

  await page.getByTestId('only').click();
  await page.getByRole('menuitem', { name: 'By department' }).click();
  await page.getByRole('menuitem', { name: 'Sales', exact: true }).click();
  await expect(sheet.row('Materials and goods').locator('td[data-spot]').nth(6)).toHaveText('–');
  const part = number(await sheet.cell('Selling', 6).innerText());
  await sheet.row('Selling').getByRole('button', { name: 'Open Selling' }).click();
  await expect(sheet.row('Sales')).toBeVisible();
  await sheet.type('Selling', 6, String(part + 1000));
  await sheet.settled();
  await expectAccessible(page);

  await page.getByTestId('version-menu').click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: 'Sheet as CSV' }).click(),
  ]);
  const lines = (await readFile(await download.path(), 'utf8')).trim().split('\r\n');
  expect(lines.length).toBeGreaterThan(2);
  for (const line of lines.slice(1)) expect(line).toContain('department=sales');
  await page.getByTestId('sheet-file').setInputFiles({
    name: 'sales.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(lines.join('\r\n')),
  });
  await expect(sheet.panel.getByTestId('sheet-says')).toContainText('0 new, 0 changed');
  await expect(sheet.panel.getByTestId('sheet-left')).toHaveCount(0);

  // the whole has moved by what was typed, and by nothing else
  await page.getByTestId('only').click();
  await page.getByRole('menuitem', { name: 'By department' }).click();
  await page.getByRole('menuitem', { name: 'All', exact: true }).click();
  await expect.poll(async () => number(await sheet.cell('Selling', 6).innerText())).toBe(whole + 1000);
});

test('a month that looks like a quarter is marked, an action is found by name, and the statement goes out by months', async ({
  page,
}) => {
  const sheet = new VersionsPage(page);
  await sheet.open('FORECAST_2', '&with=last_year');
  const ofLastYear = async () => number(await sheet.panel.locator('dl dd').nth(1).innerText()); // exact, in whole units
  const year = await ofLastYear();
  expect(year).toBeGreaterThan(0);
  await sheet.cell('Energy', 6).click();
  await expect.poll(ofLastYear).not.toBe(year);
  const lastYear = await ofLastYear();
  await page.keyboard.type(`=${Math.round((3 * lastYear) / 1000)}`);
  await page.keyboard.press('Enter');
  await expect(sheet.cell('Energy', 6)).toHaveClass(/watched/);
  const warning = sheet.panel
    .getByTestId('warnings')
    .getByRole('button', { name: /^Energy, October 2026: .* about three times/ });
  await sheet.cell('Net sales', 7).click();
  await warning.click();
  await expect(sheet.cell('Energy', 6)).toHaveClass(/spot/);
  await page.keyboard.press('Control+z');
  await expect(sheet.cell('Energy', 6)).not.toHaveClass(/watched/);
  await sheet.settled();

  await page.keyboard.press('Control+k');
  await page.getByRole('combobox').last().fill('inflation');
  await page
    .getByRole('option', { name: /Uplift/ })
    .first()
    .click();
  await expect(sheet.panel.getByLabel('Counts')).toBeVisible();

  await page.getByTestId('version-menu').click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: 'Its statement by months as XLSX' }).click(),
  ]);
  expect(download.suggestedFilename()).toMatch(/\.xlsx$/);
});
