import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expectAccessible } from '../fixtures/no-violations';
import { expect, test } from '../fixtures/quiet-console';

const AT = 'scope=LMG&as_at=2026-08';

/** A cell of the first row that is shown, by its column. */
const cell = (page: Page, column: number) => page.locator(`ml-sheet [data-spot="0.${column}"]`);

async function typeInto(page: Page, column: number, text: string): Promise<void> {
  await cell(page, column).click();
  await page.keyboard.type(text);
  await page.keyboard.press('Tab');
}

test('a balance is held against evidence: typed, with its file, until the month can be issued', async ({ page }) => {
  await page.goto(`/evidence?${AT}`);
  await expect(page.getByTestId('subtitle')).toContainText('50 balances, 11 open, of which 2 differ');
  await expectAccessible(page);
  await page.getByLabel('Filter by Account').fill('1510');
  await expect(cell(page, 1)).toHaveText('Loss allowance');
  await expect(page.getByTestId('state')).toContainText('open');
  const balance = (await cell(page, 2).textContent())!.trim();

  // a figure without where it comes from is not saved
  await typeInto(page, 4, '1,000.00');
  await expect(page.getByTestId('says')).toContainText('One account to mend');
  await expect(page.getByTestId('save')).toBeDisabled();
  await typeInto(page, 3, 'Calculation');
  await expect(page.getByTestId('state')).toContainText('differs');
  await typeInto(page, 4, balance);
  await expect(page.getByTestId('state')).toContainText('agrees');
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('state')).toContainText('differs');
  await page.keyboard.press('Control+Shift+z');

  const buffer = Buffer.from('account;loss\n1510;as calculated\n');
  await page.getByTestId('files').setInputFiles({ name: 'Loss allowance.csv', mimeType: 'text/csv', buffer });
  await expect(page.getByTestId('file')).toHaveText('Loss allowance.csv');
  await page.getByTestId('save').click();
  await expect(page.getByTestId('says')).toContainText('One account is saved');
  await expect(page.getByTestId('subtitle')).toContainText('10 open');
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByTestId('file').click()]);
  expect(readFileSync(await download.path())).toEqual(buffer);

  // what is typed of one entity is there again when one comes back, and nothing of it goes to another
  await typeInto(page, 8, 'Twelve months of losses');
  await page.getByTestId('scope').click();
  await page.getByRole('menuitem', { name: /Larkmoor Tile/ }).click();
  await expect(page.getByTestId('says')).toContainText('1 of other months or entities');
  await page.getByTestId('scope').click();
  await page.getByRole('menuitem', { name: /Larkmoor Ceramics/ }).click();
  await expect(cell(page, 8)).toHaveText('Twelve months of losses');
  await page.getByTestId('save').click();
  await expect(page.getByTestId('says')).toContainText('One account is saved');
});

test('the month-end checklist is written once, ticked off each month, and says with the checks what stands in the way', async ({
  page,
}) => {
  await page.goto(`/month-end?${AT}`);
  await expect(page.getByTestId('subtitle')).toContainText('4 of 6 tasks are done');
  await expect(page.getByTestId('ready')).toContainText(/\d of \d+ are open/);
  await expect(page.locator('[data-check="evidence"]')).toContainText('E. Okonkwo');
  await expectAccessible(page);

  await page.getByRole('checkbox', { name: 'Variances explained, Larkmoor Ceramics' }).check();
  await expect(page.getByTestId('subtitle')).toContainText('5 of 6 tasks are done');
  await page.getByRole('button', { name: 'Owner of: Books are fit to report on' }).click();
  await page.getByTestId('owner').fill('whit');
  await page.getByRole('option', { name: 'S. Whitlock' }).click();
  await expect(page.locator('[data-check="books"]')).toContainText('S. Whitlock');

  await page.getByTestId('list').click();
  await page.locator('ml-sheet [data-spot="9.0"]').click();
  await page.keyboard.type('Tax return sent');
  await page.keyboard.press('Tab');
  await page.keyboard.type('10');
  await page.keyboard.press('Enter');
  await page.getByTestId('save').click();
  await expect(page.getByTestId('save')).toBeDisabled();
  await page.getByRole('radio', { name: 'This month' }).click();
  // the tenth working day of September 2026, which begins on a Tuesday
  await expect(page.getByTestId('tasks').getByRole('row', { name: /Tax return sent/ })).toContainText('14 Sep 2026');

  await page.locator('[data-check="evidence"]').getByRole('link').click();
  await expect(page).toHaveURL(/\/evidence\?.*scope=LMG/);
});

test('a variance is explained by what it is, and leads from the reported to the underlying result', async ({
  page,
}) => {
  await page.goto('/exceptions?scope=LMT&as_at=2026-08');
  const byKind = page.getByTestId('by-kind');
  await expect(byKind).toContainText('Permanent(869)');
  await expect(page.getByTestId('due')).toContainText('Materials and goods');
  await expect(page.getByTestId('due')).toContainText('has not come back');

  await page.locator('[data-id="distribution"]').click();
  await page.getByTestId('remark-text').fill('Two lorries hired while the bridge was closed');
  await page.getByTestId('kind').getByRole('combobox').click();
  await page.getByRole('option', { name: 'One-off' }).click();
  await page.getByTestId('effect').fill('(150,000.00)');
  await expectAccessible(page);
  await page.getByTestId('write').click();
  await expect(page.getByTestId('explains')).toHaveText('One-off · (150,000.00) on profit');
  await expect(page.getByTestId('underlying').getByRole('img').first()).toHaveAttribute(
    'aria-label',
    /reported 11,813, .*Two lorries hired while the bridge was closed 150, .*underlying 12,072$/,
  );
});
