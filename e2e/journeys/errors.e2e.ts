import { expect, test } from '../fixtures/served';

test('an unknown statement is told in words with what to do', async ({ page }) => {
  await page.goto('/statements/none');
  const error = page.getByTestId('error');
  await expect(error).toContainText('There is no statement “none”');
  await expect(error).toContainText('Choose one of');
});

test('an unknown version or entity is told, rather than other figures shown for it', async ({ page }) => {
  await page.goto('/statements/income_statement?scope=LMG&version=NOPE');
  await expect(page.getByTestId('error')).toContainText('NOPE');
  await expect(page.getByTestId('version')).toContainText('NOPE');
  await page.goto('/statements/income_statement?scope=NOWHERE&as_at=2026-08');
  await expect(page.getByTestId('unknown')).toContainText(
    'There is no entity or group “NOWHERE”: this is Larkmoor Ceramics',
  );
  await page.getByTestId('version').click();
  await page.getByRole('menuitem', { name: 'Plan FY27' }).click();
  await expect(page.locator('ml-statement-table table')).toBeVisible();
});

test('a server that does not answer is said, and tried again', async ({ page }) => {
  await page.route('**/api/v1/statements/**', (route) => route.abort());
  await page.goto('/statements/income_statement');
  await expect(page.getByTestId('error')).toContainText('The server does not answer');
  await page.unroute('**/api/v1/statements/**');
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.locator('ml-statement-table table')).toBeVisible();
});

test('an account that there is none of is said, without the count of the one before', async ({ page }) => {
  await page.goto('/ledger/lines?scope=LMG&account=6400');
  await expect(page.getByTestId('subtitle')).toContainText('lines');
  await page.getByLabel('Accounts by number, range, heading or name').fill('9999');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('error')).toContainText('9999');
  await expect(page.getByTestId('subtitle')).not.toContainText('lines');
  await page.getByLabel('Accounts by number, range, heading or name').fill('6410');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('subtitle')).toContainText('lines');
});
