import { choose } from '../pages/choose';
import { expect, test } from '../fixtures/quiet-console';
import { expectAccessible } from '../fixtures/no-violations';

/** A journal of August that comes after the first delivery. */
const FILE = {
  name: 'forgotten.csv',
  mimeType: 'text/csv',
  buffer: Buffer.from(
    'journal,date,entity,account,debit,credit,text\nZ9,2026-08-30,LMS,6400,120.50,,Gas forgotten\nZ9,2026-08-30,LMS,2400,,120.50,Gas forgotten\n',
  ),
};

test('two deliveries of a month stand beside each other, down to the journal', async ({ page }) => {
  await page.goto('/deliveries');
  await page.getByTestId('file').setInputFiles(FILE);
  await page.getByTestId('check').click();
  await page.getByTestId('go-ahead').click();
  await expect(page.getByTestId('brought')).toContainText('1 journal with 2 lines');

  await page.goto('/deliveries/compare?scope=LMS&as_at=2026-08');
  await expect(page.getByTestId('subtitle')).toContainText('2 of');
  await expect(page.getByTestId('profit-moved')).toHaveText('(120.50)');
  await expect(page.getByTestId('journals').getByRole('row', { name: /Z9/ })).toContainText('new');
  await expectAccessible(page);
  await choose(page.getByTestId('before'), 'nothing, before the first delivery');
  await expect(page.getByTestId('subtitle')).not.toContainText('2 of');
  await page.goto('/deliveries/compare?scope=LMS&as_at=2026-08');
  await page.getByTestId('journals').getByRole('link', { name: 'Z9' }).click();
  await expect(page.getByRole('grid', { name: 'Journal lines' })).toContainText('Gas forgotten');

  await page.goto('/deliveries');
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await page.getByTestId('sure').click();
  await expect(page.getByText(/^Undone/).first()).toBeVisible();
});
