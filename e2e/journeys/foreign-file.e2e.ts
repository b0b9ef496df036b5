import { expect, test } from '../fixtures/quiet-console';
import { DEMO_PACKAGE } from '../fixtures/broken-package';
import { expectAccessible } from '../fixtures/no-violations';
import { choose } from '../pages/choose';
import { StatementPage } from '../pages/statement-page';

/** A file as another program writes it: semicolons, decimal commas, days first, one code that the books do not have. */
const FILE = {
  name: 'studio-august.csv',
  mimeType: 'text/csv',
  buffer: Buffer.from(
    [
      'Beleg;Buchungsdatum;Firma;Konto;Soll;Haben;Buchungstext',
      'R-1001;28.08.2026;LMS;6400;12.250,50;;Gas Ofen 3, August',
      'R-1001;28.08.2026;LMS;2400;;12.250,50;Gas Ofen 3, August',
      'R-1002;31.08.2026;LMS;6410x;3.318,20;;Strom, Nachberechnung',
      'R-1002;31.08.2026;LMS;2400;;3.318,20;Strom, Nachberechnung',
    ].join('\r\n'),
  ),
};

test('a foreign CSV with decimal commas is mapped, checked, brought in, read, and undone', async ({ page }) => {
  const statement = new StatementPage(page);
  await statement.open('income_statement', '?scope=LMS&unit=1');
  const energyBefore = await statement.cell('Energy', 1).textContent();

  await page.goto('/deliveries');
  const job = page.getByTestId('job');
  await page.getByTestId('file').setInputFiles(FILE);
  await expect(job).toContainText('How shall studio-august.csv be read?');
  await expect(page.getByRole('combobox', { name: 'Column Soll is read as' })).toContainText('Debit');
  await expectAccessible(page);
  await page.getByTestId('check').click();

  await expect(job).toContainText('There is no account “6410x”');
  const code = page.getByLabel('Account 6410x is ours');
  await code.fill('6410');
  await code.press('Tab');
  await page.getByTestId('check').click();

  const effect = page.getByTestId('effect');
  await expect(effect).toContainText('(15,568.70)');
  await expect(job).toContainText('A comma was read as the decimal sign');
  await expectAccessible(page);
  await page.getByTestId('go-ahead').click();
  await expect(job).toContainText('studio-august.csv is in the books');

  await statement.open('income_statement', '?scope=LMS&unit=1&cell=energy~month');
  const now = Number((await statement.cell('Energy', 1).textContent())!.replace(/\D/g, ''));
  expect(now - Number(energyBefore!.replace(/\D/g, ''))).toBeCloseTo(15_569, -1);

  await page.goto('/deliveries');
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByTestId('sure').click();
  await expect(page.getByRole('row', { name: /studio-august/ })).toContainText('Undone');
  await statement.open('income_statement', '?scope=LMS&unit=1');
  await expect(statement.cell('Energy', 1)).toHaveText(energyBefore!);
});

test('a foreign CSV brings an account and a dimension along that the books do not have', async ({ page }) => {
  const lines = [
    'Beleg;Buchungsdatum;Firma;Konto;Kontobezeichnung;Soll;Haben;Oven',
    'R-2001;28.08.2026;LMS;6455;Heating oil for kilns;1.000,00;;O1',
    'R-2001;28.08.2026;LMS;6400;;250,00;;O2',
    'R-2001;28.08.2026;LMS;2400;;;1.250,00;',
  ];
  await page.goto('/deliveries');
  const job = page.getByTestId('job');
  await page
    .getByTestId('file')
    .setInputFiles({ name: 'ovens.csv', mimeType: 'text/csv', buffer: Buffer.from(lines.join('\r\n')) });
  await expect(job).toContainText('How shall ovens.csv be read?');
  await choose(page.getByRole('combobox', { name: 'Column Oven is read as' }), 'A new dimension');
  await page.getByTestId('check').click();

  await expect(job).toContainText('There is no dimension “oven”');
  await page.getByRole('button', { name: 'Take 1 account as new' }).click();
  await expect(page.getByLabel('Name of 6455')).toHaveValue('Heating oil for kilns');
  await expect(page.getByRole('combobox', { name: 'Nature of 6455' })).toContainText('expense');
  await page.getByRole('button', { name: 'Take 2 of oven as new' }).click();
  await expectAccessible(page);
  await page.getByTestId('check').click();
  await expect(page.getByTestId('effect')).toContainText('(1,250.00)');
  await page.getByTestId('go-ahead').click();
  await expect(job).toContainText('ovens.csv is in the books');

  // the lines of the new account, with the value of the new dimension
  await page.goto('/ledger/lines?scope=LMS&account=6455');
  await expect(page.getByRole('row', { name: /R-2001/ })).toHaveText(/O1\s*1,000\.00/);
  await page.goto('/deliveries');
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await page.getByTestId('sure').click();
  await expect(page.getByRole('row', { name: /ovens/ })).toContainText('Undone');
});

test('a delivery that changes nothing says so before anything is written', async ({ page }) => {
  await page.goto('/deliveries');
  const rows = page.locator('.before + table tbody tr');
  await expect(rows.first()).toBeVisible();
  const before = await rows.count();

  await page.getByTestId('folder').setInputFiles(DEMO_PACKAGE);
  await expect(page.getByTestId('job')).toContainText('was brought in before');
  await page.getByRole('button', { name: 'Read it again' }).click();
  await expect(page.getByTestId('job')).toContainText('nothing would change');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByTestId('job')).toContainText('the books are as they were');
  await expect(rows).toHaveCount(before);
});
