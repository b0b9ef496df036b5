import { choose } from '../pages/choose';
import { expect, test } from '../fixtures/quiet-console';
import { TRIAL_BALANCE } from '../fixtures/trial-balance';
import { expectAccessible } from '../fixtures/no-violations';

test.use({ books: 'empty' });

test('one trial balance starts a workspace: columns, proposed chart, effect, statement', async ({ page }) => {
  await page.goto('/deliveries');
  await page.getByTestId('file').setInputFiles(TRIAL_BALANCE);
  await page.getByTestId('start-name').fill('Oakhill Pottery');
  // the period is chosen while the look with the other calendar is under way, and stays
  await page.route('**/look', (route) => setTimeout(() => void route.continue(), 400));
  const look = page.waitForResponse('**/look');
  await choose(page.getByTestId('start-month'), 'April');
  await choose(page.getByLabel('One period for the whole file'), /August 2026/);
  await look;
  await page.getByTestId('check').click();

  const sums = page.getByTestId('start-sums');
  await expect(sums).toContainText('Assets 216,800.00');
  await expect(sums).toContainText('Liabilities 87,000.00');
  await expect(sums).toContainText('Equity 80,000.00');
  await expect(sums).toContainText('Profit 49,800.00');
  await expectAccessible(page);

  const sheet = page.getByRole('grid', { name: 'Chart of accounts to start with' });
  await sheet.getByText('Kilns', { exact: true }).click();
  await page.keyboard.type('Kilns and presses');
  await page.keyboard.press('Enter');
  await page.getByTestId('start-check').click();
  await expect(page.getByTestId('effect')).toContainText('August 2026');
  await page.getByRole('button', { name: 'Back' }).click();
  await expect(sheet).toContainText('Kilns and presses');
  await page.getByTestId('start-check').click();
  await page.getByTestId('go-ahead').click();
  await page.getByTestId('read').click();
  await expect(page.getByRole('row', { name: /Profit for the period/ })).toContainText('49,800');
});

test('journals with cost centres start a workspace, and are read and planned by them', async ({ page }) => {
  const lines = [
    'Posting date;Journal;Account;Account name;Debit;Credit;Cost centre',
    '31.01.2026;O1;1200;Bank account;50.000,00;;',
    '31.01.2026;O1;2900;Share capital;;50.000,00;',
    '31.01.2026;S1;1200;Bank account;10.000,00;;',
    '31.01.2026;S1;4400;Sales domestic;;10.000,00;SHOP',
    '31.01.2026;W1;6020;Wages;4.200,00;;WORKS',
    '31.01.2026;W1;6310;Office rent;1.500,00;;OFFICE',
    '31.01.2026;W1;1200;Bank account;;5.700,00;',
  ];
  await page.goto('/deliveries');
  await page
    .getByTestId('file')
    .setInputFiles({ name: 'first_books.csv', mimeType: 'text/csv', buffer: Buffer.from(lines.join('\n')) });
  await choose(page.getByRole('combobox', { name: 'Column Cost centre is read as' }), 'A new dimension');
  await page.getByTestId('check').click();
  await page.getByTestId('start-check').click();
  await page.getByTestId('go-ahead').click();
  await page.getByTestId('read').click();
  const profit = page.getByRole('row', { name: /Profit for the period/ });
  await expect(profit).toContainText('4,300'); // 10,000 less 4,200 and 1,500

  await page.getByTestId('only').click();
  await page.getByRole('menuitem', { name: 'By cost centre' }).click();
  await page.getByRole('menuitem', { name: 'WORKS' }).click();
  await expect(profit).toContainText('(4,200)');
});
