import { expect, test } from '../fixtures/quiet-console';
import { expectAccessible } from '../fixtures/no-violations';

/** A journal of December 2026, when nothing has been posted yet. */
const FILE = {
  name: 'december.csv',
  mimeType: 'text/csv',
  buffer: Buffer.from(
    'journal,date,entity,account,debit,credit\nX1,2026-12-04,LMS,6400,10.00,\nX1,2026-12-04,LMS,2400,,10.00\n',
  ),
};

test('a closed period refuses a posting and says the way out; opened again it takes it', async ({ page }) => {
  await page.goto('/periods?scope=LMS&as_at=2026-08');
  const december = page.getByRole('switch', { name: 'Larkmoor Studio, December 2026, closed' });
  await december.click();
  await expect(december).toHaveAttribute('aria-checked', 'true');
  await expectAccessible(page);

  await page.goto('/deliveries');
  const job = page.getByTestId('job');
  await page.getByTestId('file').setInputFiles(FILE);
  await page.getByTestId('check').click();
  await expect(job).toContainText('Journal X1 of LMS posts to FY2027-P09, which is closed.');
  await expect(job).toContainText('Open the period again');
  await page.getByRole('button', { name: 'Cancel' }).click();

  await page.goto('/periods?scope=LMS&as_at=2026-08');
  await december.click();
  await expect(december).toHaveAttribute('aria-checked', 'false');
  await page.goto('/deliveries');
  await page.getByTestId('file').setInputFiles(FILE);
  await page.getByTestId('check').click();
  await expect(page.getByTestId('effect')).toContainText('December 2026');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(job).toContainText('the books are as they were');
});
