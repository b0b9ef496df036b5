import { expect, test } from '../fixtures/quiet-console';
import { expectAccessible } from '../fixtures/no-violations';
import { StatementPage } from '../pages/statement-page';

test('an adjustment is posted when it balances, changes the statement, and is taken out again', async ({ page }) => {
  const statement = new StatementPage(page);
  await statement.open('income_statement', '?scope=LMU&unit=1&as_at=2026-08');
  const before = await statement.cell('Energy', 1).textContent();

  await page.goto('/adjustments?scope=LMU&as_at=2026-08');
  await page.getByTestId('new').click();
  await expect(page.getByLabel('Reason')).toBeFocused();
  await page.keyboard.type('Gas of August not yet invoiced');
  await page.getByLabel('Account of line 1').fill('6400');
  await page.getByLabel('Debit of line 1').fill('4,250.00');
  await page.getByRole('button', { name: 'Value of line 1' }).click();
  await page.getByRole('menuitem', { name: 'Department' }).click();
  await page.getByRole('menuitem').last().click();
  const taken = page.getByRole('button', { name: /, take it off line 1$/ });
  const department = (await taken.innerText()).trim();
  await page.getByLabel('Account of line 2').fill('2570');
  await expect(page.getByTestId('draft')).toContainText('Off by 4,250.00');
  await expect(page.getByTestId('post')).toBeDisabled();
  await page.getByRole('button', { name: 'balance' }).nth(1).click();
  await expect(page.getByTestId('draft')).toContainText('Debits and credits agree');
  await expectAccessible(page);
  await page.getByTestId('post').click();

  const row = page.getByRole('row', { name: /ADJ-0001/ });
  await expect(row).toContainText('Gas of August not yet invoiced');
  await row.getByRole('link', { name: 'Lines' }).click();
  await page.getByText('Gas of August').first().click();
  await expect(page.getByText(`Department: ${department}`)).toBeVisible();
  await statement.open('income_statement', '?scope=LMU&unit=1&as_at=2026-08');
  await expect(statement.cell('Energy', 1)).not.toHaveText(before!);

  await page.goto('/adjustments?scope=LMU&as_at=2026-08');
  await row.getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByTestId('empty')).toBeVisible();
  await statement.open('income_statement', '?scope=LMU&unit=1&as_at=2026-08');
  await expect(statement.cell('Energy', 1)).toHaveText(before!);
});
