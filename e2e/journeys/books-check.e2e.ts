import { expect, test } from '../fixtures/quiet-console';
import { expectAccessible } from '../fixtures/no-violations';
import { StatementPage } from '../pages/statement-page';

test('the books check counts what is to be looked at, and a suspense balance is followed to its posting', async ({
  page,
}) => {
  const statement = new StatementPage(page);
  await statement.open('income_statement', '?scope=LMG&as_at=2026-08');
  await page.getByRole('link', { name: /Books check 1/ }).click();
  await expect(page.getByTestId('verdict')).toContainText('One finding is to be looked at');
  await expectAccessible(page);

  const suspense = page.getByRole('row', { name: /1690 Suspense/ });
  await expect(suspense).toContainText('stands at (12,540.00) and should come to nothing');
  await suspense.getByRole('link', { name: 'Lines' }).click();
  const grid = page.getByRole('grid', { name: 'Journal lines' });
  await expect(grid).toContainText('Incoming payment without reference');
  await grid.focus();
  await page.keyboard.press('End');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('journal')).toContainText('Debits and credits agree');
});

test('a finding is marked as seen with a reason, and taken up again', async ({ page }) => {
  await page.goto('/books-check?scope=LMS&as_at=2026-08');
  const twice = page.getByRole('row', { name: /4410 Contract series/ });
  await expect(twice).toContainText('“Hotel order, wash basins”, 18,400.00 in each of 2 journals');
  await twice.getByRole('button', { name: 'Seen…' }).click();
  await page.getByLabel('Seen, because').fill('Credited in September');
  await page.keyboard.press('Enter');
  await expect(twice).toContainText('Seen, because Credited in September · Controller');
  await expect(page.getByTestId('verdict')).toContainText('Nothing is left to look at');
  await twice.getByRole('button', { name: 'Not seen' }).click();
  await expect(page.getByTestId('verdict')).toContainText('One finding is to be looked at');
});
