import { choose } from '../pages/choose';
import { expect, test } from '../fixtures/quiet-console';
import { expectAccessible } from '../fixtures/no-violations';

test('the chart of accounts is edited as a sheet: pasted, refused with the reason, mended, saved, undone', async ({
  page,
}) => {
  await page.goto('/setup/accounts?scope=LMG&as_at=2026-08');
  const sheet = page.getByRole('grid', { name: 'Chart of accounts' });
  await expect(sheet).toContainText('Development costs');
  await expectAccessible(page);

  await page.getByRole('button', { name: 'Add' }).click();
  await page.evaluate(() => navigator.clipboard.writeText('9990\tKiln trials\texpense\n9991\tKiln prizes\trevenue'));
  await page.keyboard.press('Control+v');
  await expect(page.getByTestId('save')).toHaveText('Save 2');
  await page.getByTestId('save').click();
  await expect(page.getByTestId('issue')).toContainText('revenue');
  await expect(page.getByTestId('says')).toHaveText('Nothing was saved');

  await sheet.getByText('revenue', { exact: true }).click();
  await page.keyboard.type('income');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('unclassified')).toContainText('2 accounts have no heading');
  await page.getByTestId('save').click();
  await expect(page.getByTestId('says')).toHaveText('Saved, 2 rows');

  await sheet.getByText('Kiln trials').click();
  await page.getByRole('button', { name: 'Where used' }).click();
  await expect(page.getByRole('complementary', { name: 'Where used' })).toContainText('Nowhere');
  await page.getByRole('button', { name: 'History' }).click();
  await page.getByRole('button', { name: 'Bring back what was before' }).first().click();
  await expect(page.getByTestId('save')).toHaveText('Save 2');
  await page.getByTestId('save').click();
  await expect(page.getByTestId('says')).toHaveText('Saved, 2 rows');
  await expect(sheet).not.toContainText('Kiln trials');
});

test('what is in use cannot be taken out, and leaving asks', async ({ page }) => {
  await page.goto('/setup/entities?scope=LMG&as_at=2026-08');
  const sheet = page.getByRole('grid', { name: 'Entities' });
  await sheet.getByText('Larkmoor Tile').click();
  await page.getByRole('button', { name: 'Delete' }).click();
  await page.getByTestId('save').click();
  await expect(page.getByTestId('issue')).toContainText('LMT');
  await expect(page.getByTestId('issue')).toContainText('journals');

  await page.getByRole('link', { name: 'Ledger' }).click();
  await page.getByRole('button', { name: 'Stay' }).click();
  await page.getByRole('button', { name: 'Discard' }).click();
  await page.getByRole('link', { name: 'Ledger' }).click();
  await expect(page).toHaveURL(/\/ledger/);
});

test('a calendar gets another year and a calendar of weeks is made', async ({ page }) => {
  await page.goto('/setup/calendars?scope=LMG&as_at=2026-08');
  await expect(page.getByTestId('rule')).toHaveText('Months from April, named after the year it ends in');
  await page.getByRole('button', { name: 'Add a year after' }).click();
  const periods = page.getByRole('region', { name: 'Periods by year' });
  await expect(periods).toContainText('1 Apr 2027 – 31 Mar 2028, 366 days');
  await expectAccessible(page);
  await choose(page.getByLabel('First month'), 'May');
  await page.getByTestId('save').click();
  await expect(page.getByTestId('issue').first()).toContainText('FY2025-P01');
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByTestId('save').click();
  await expect(page.getByTestId('save')).toHaveText('Save');

  await page.getByRole('button', { name: 'New calendar' }).click();
  await page.getByLabel('Code of the new calendar').fill('retail');
  await page.keyboard.press('Enter');
  await choose(page.getByLabel('Made of'), /weeks/);
  await page.getByLabel('to', { exact: true }).fill('2028');
  await page.keyboard.press('Tab');
  await expect(periods).toContainText('53 weeks');
  await page.getByRole('button', { name: 'Discard' }).click();
});

test('working days follow the holidays of a country', async ({ page }) => {
  await page.goto('/setup/working-days?scope=LMT&as_at=2026-08');
  await choose(page.getByLabel('Country'), 'Poland');
  await expect(page.getByRole('region', { name: 'Days off' })).toContainText('Corpus Christi');
  // Monday to Friday of April 2026 to March 2027: 261 days; nine of the holidays of Polish law fall on them
  await expect(page.getByTestId('working-days')).toHaveText('252');
  await expectAccessible(page);
  await page.getByTestId('save').click();
  await expect(page.getByTestId('says')).toHaveText('Saved');
  await page.reload();
  await expect(page.getByTestId('working-days')).toHaveText('252');
});
