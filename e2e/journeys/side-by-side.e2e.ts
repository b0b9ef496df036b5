import { expect, test } from '../fixtures/quiet-console';
import { expectAccessible } from '../fixtures/no-violations';
import { StatementPage } from '../pages/statement-page';

test('two places side by side share as at and scope, and follow what is selected', async ({ page }) => {
  const statement = new StatementPage(page);
  await statement.open('income_statement', '?scope=LMG&as_at=2026-08&columns=to_date_against_last_year');
  await page.getByTestId('side-by-side').click();
  await page.getByRole('menuitem', { name: 'Ledger lines' }).click();
  const beside = page.frameLocator('[data-testid="beside"]');
  await expect(beside.getByRole('heading', { name: 'Journal lines' })).toBeVisible();
  // the frame is that of the window alone
  await expect(beside.getByTestId('as-at')).toHaveCount(0);

  // lines follow a figure, and add up to it; the keyboard stays where it is
  await statement.cell('Energy', 1).click();
  await expect(page).toHaveURL(/cell=energy/);
  await expect(beside.getByText('Total of what is filtered, net')).toContainText('1,4');
  await expect(beside.getByRole('search').getByRole('textbox', { name: /^Accounts/ })).toHaveValue(/^6\d{3}/);
  await expect(statement.lens).toHaveCount(0);
  await expect(statement.table.locator('td:focus')).toHaveCount(1);
  await page.keyboard.press('ArrowDown');
  await expect(page).toHaveURL(/cell=other_production/);
  await page.keyboard.press('Enter');
  await expect(statement.lens).toBeVisible();
  await page.keyboard.press('Escape');

  // one as at and one scope, from either side
  await page.keyboard.press(',');
  await expect(page.getByTestId('as-at')).toHaveText('31 July 2026');
  await page.getByTestId('beside-place').click();
  await page.getByRole('menuitem', { name: 'Exceptions' }).click();
  await expect(beside.getByRole('heading', { name: 'Exceptions' })).toBeVisible();
  await expect(beside.getByText('year to date to July 2026')).toBeVisible();
  await statement.cell('Energy', 1).click();
  await page.keyboard.press('F6');
  await expect(beside.locator(':focus')).toHaveCount(1);
  await expectAccessible(page);
  await page.keyboard.press('.');
  await expect(page.getByTestId('as-at')).toHaveText('31 August 2026');

  // a planning sheet goes to the row, and the statement to the row that is selected there
  await page.getByTestId('beside-place').click();
  await page.getByRole('menuitem', { name: 'Forecast 2' }).click();
  await expect(beside.getByRole('heading', { name: 'Forecast 2' })).toBeVisible();
  await statement.cell('Selling', 1).click();
  await expect(beside.locator('[role="row"]:has([aria-selected="true"])')).toContainText('Selling');
  await beside.getByRole('rowheader', { name: 'Distribution' }).locator('..').getByRole('gridcell').nth(5).click();
  await expect(page).toHaveURL(/cell=distribution/);

  // it stands in the address, and changes sides
  await page.reload();
  await expect(beside.getByRole('heading', { name: 'Forecast 2' })).toBeVisible();
  await page.getByRole('button', { name: 'Swap' }).click();
  await expect(page).toHaveURL(/\/versions\/FORECAST_2/);
  await expect(beside.getByRole('heading', { name: 'Income statement' })).toBeVisible();
  await page.getByTestId('beside-close').click();
  await expect(page.getByTestId('beside')).toHaveCount(0);
  await expect(page.getByRole('navigation', { name: 'Places' })).toBeVisible();
});
