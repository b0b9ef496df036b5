import { readFileSync } from 'node:fs';
import { expect, test } from '../fixtures/quiet-console';
import { expectAccessible } from '../fixtures/no-violations';
import { choose } from '../pages/choose';
import { StatementPage } from '../pages/statement-page';

test('a reader takes a statement to the cash basis, sees how it comes to cash, and takes it out so', async ({
  page,
}) => {
  const statement = new StatementPage(page);
  await statement.open('income_statement', '?scope=LMG&as_at=2026-08');
  const sales = statement.cell('Net sales', 6);
  const accrual = await sales.innerText();
  await statement.choose('version', 'Cash basis');
  await expect(page.getByTestId('version')).toContainText('Actual, cash basis');
  await expect(sales).not.toHaveText(accrual);
  const note = page.getByTestId('cash-note');
  await expect(note).toContainText('Of the year to date, EUR');
  await expect(note).toContainText('could not be derived');

  await page.getByTestId('open-cash').click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByTestId('cash-agrees')).toHaveText('Agrees with the movement of the cash accounts.');
  const toDate = await dialog.getByTestId('cash-proof').innerText();
  expect(toDate).toContain('settles no document that is known');
  await expectAccessible(page);
  await dialog.getByRole('radio', { name: 'August 2026' }).click();
  await expect.poll(() => dialog.getByTestId('cash-proof').innerText()).not.toBe(toDate);
  await expect(dialog.getByTestId('cash-agrees')).toHaveText('Agrees with the movement of the cash accounts.');
  await dialog.getByRole('button', { name: 'Close' }).click();

  // of a group each entity is proved by itself
  await page.goto('/statements/income_statement?scope=LARKMOOR&as_at=2026-08&basis=cash');
  await expect(page.getByTestId('cash-note')).toContainText('more entities could not be derived');
  await page.getByTestId('open-cash').click();
  await choose(dialog.getByTestId('cash-entity').locator('mat-select'), 'Larkmoor Tile');
  await expect(dialog.getByText('Larkmoor Tile, PLN')).toBeVisible();
  await dialog.getByRole('button', { name: 'Close' }).click();

  const download = page.waitForEvent('download');
  await page.getByTestId('export').click();
  await page.getByTestId('export-csv').click();
  const csv = readFileSync(await (await download).path(), 'utf8');
  const amounts = csv
    .split(/\r?\n/)
    .find((line) => line.startsWith('net_sales,'))!
    .split(',');
  const shown = await sales.innerText();
  expect(amounts.map((amount) => Math.round(Number(amount) / 1000).toLocaleString('en'))).toContain(shown);
});
