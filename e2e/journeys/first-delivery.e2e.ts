import { expect, test } from '../fixtures/quiet-console';
import { expectAccessible } from '../fixtures/no-violations';
import { brokenPackage, DEMO_PACKAGE } from '../fixtures/broken-package';
import { StatementPage } from '../pages/statement-page';

test.describe('an empty workspace', () => {
  test.use({ books: 'empty' });

  test('from an empty workspace to a statement, through the screen', async ({ page }) => {
    await page.goto('/');
    await expect(page).toHaveURL(/\/deliveries$/);
    await expect(page.getByTestId('no-runs')).toBeVisible();
    // an address that somebody kept
    await page.goto('/exceptions');
    await expect(page.getByTestId('empty')).toContainText('There are no books yet');
    await expect(page.getByRole('progressbar')).toHaveCount(0);
    await expect(page.getByRole('navigation', { name: 'Places' }).getByRole('link')).toHaveText(['Deliveries']);
    await page.getByRole('link', { name: 'Bring in a delivery' }).click();
    await expect(page.getByTestId('no-runs')).toBeVisible();
    await expectAccessible(page);

    await page.getByTestId('folder').setInputFiles(DEMO_PACKAGE);
    await expect(page.getByTestId('job')).toContainText('demo-package is in the books');
    await expect(page.getByTestId('brought')).toContainText(/journals with [\d,]+ lines/);
    await expectAccessible(page);

    await page.getByTestId('read').click();
    const statement = new StatementPage(page);
    await expect(page.getByRole('heading', { name: 'Income statement' })).toBeVisible();
    await expect(statement.row('Net sales')).toBeVisible();
    await expect(page.getByTestId('as-at')).toHaveText('31 August 2026');
  });
});

test('the same files again are asked about, and left by default', async ({ page }) => {
  await page.goto('/deliveries');
  await page.getByTestId('folder').setInputFiles(DEMO_PACKAGE);
  await expect(page.getByTestId('job')).toContainText('was brought in before');
  await page.keyboard.press('Tab');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByTestId('job')).toContainText('the books are as they were');
  await expect(page.getByRole('row')).toHaveCount(2);
});

test('a delivery with mistakes is refused with file, line, column and remedy', async ({ page }) => {
  await page.goto('/deliveries');
  await page.getByTestId('folder').setInputFiles(brokenPackage());
  const findings = page.locator('ml-findings-table');
  await expect(findings).toBeVisible();
  await expect(findings.getByRole('row').filter({ hasText: '“6599”' })).toContainText(
    /journals\.csv.*1,?401.*account/s,
  );
  await expect(findings).toContainText('06-31');
  await expect(page.getByTestId('job')).toContainText('was not brought in');
  await expectAccessible(page);
});

test('a file that is no zip is refused', async ({ page }) => {
  await page.goto('/deliveries');
  await page
    .getByTestId('file')
    .setInputFiles({ name: 'broken.zip', mimeType: 'application/zip', buffer: Buffer.from('no zip') });
  await expect(page.getByTestId('job')).toContainText('broken.zip could not be read');
});
