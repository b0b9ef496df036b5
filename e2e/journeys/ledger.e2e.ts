import { readFileSync } from 'node:fs';
import { expect, test } from '../fixtures/quiet-console';
import { expectAccessible } from '../fixtures/no-violations';

test('the trial balance proves itself and leads to lines, their balance and the whole journal', async ({ page }) => {
  await page.goto('/ledger?scope=LMG&as_at=2026-08');
  await expect(page.getByTestId('balance-proof')).toHaveText(/✓\s+debits and credits agree, balances come to nothing/);
  await page.getByRole('button', { name: 'Fold' }).click();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Unfold' }).click();

  const gas = page.getByRole('row', { name: /6400 Kiln gas/ });
  const closing = (await gas.getByRole('cell').last().textContent())!.trim();
  await gas.getByRole('link', { name: '6400 Kiln gas' }).click();
  await expect(page.getByRole('heading', { name: '6400 Kiln gas' })).toBeVisible();
  await expect(page.getByTestId('subtitle')).toContainText('April 2026 – August 2026 · 15 lines');
  const grid = page.getByRole('grid', { name: 'Journal lines' });
  await expect(grid.getByRole('row').nth(15).getByRole('gridcell').last()).toHaveText(closing);
  await expectAccessible(page);

  await grid.focus();
  await page.keyboard.press('Control+End');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByTestId('proof')).toContainText('2 lines: debit');
  await page.keyboard.press('Enter');
  const journal = page.getByTestId('journal');
  await expect(journal).toContainText('Debits and credits agree');
  await expect(page).toHaveURL(/journal=\d+/);
  await expect(grid.locator('.spot')).toHaveAttribute('data-spot', '13.7');
  await expect(page.getByTestId('proof')).toContainText('2 lines: debit');
  await page.reload();
  await expect(journal).toContainText('Gas, kiln hall A, July');
  await page.getByRole('button', { name: /department: kiln hall a/ }).click();
  await expect(page.getByTestId('subtitle')).toContainText('10 lines');
});

test('an account of a group leads to its lines by way of one of its entities', async ({ page }) => {
  await page.goto('/ledger?scope=LARKMOOR&as_at=2026-08');
  await page.getByRole('link', { name: '6400 Kiln gas' }).click();
  await expect(page.getByTestId('entity-choice')).toContainText('Larkmoor Group is a group');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Larkmoor Tile PLN' }).click();
  await expect(page.getByRole('heading', { name: '6400 Kiln gas' })).toBeVisible();
  await expect(page.getByTestId('subtitle')).toContainText('Larkmoor Tile · PLN · April 2026 – August 2026');
});

test('lines are searched by text, amount and document, sorted, scrolled far, and exported as filtered', async ({
  page,
}) => {
  await page.goto('/ledger/lines?scope=LMG');
  const grid = page.getByRole('grid', { name: 'Journal lines' });
  await expect(grid).toBeVisible();
  await page.locator('cdk-virtual-scroll-viewport').evaluate((list) => (list.scrollTop = list.scrollHeight / 2));
  await expect(grid.getByRole('row').nth(5)).toContainText('2025');

  const search = page.getByRole('searchbox');
  await search.fill('UT-202608-0002');
  await search.press('Enter');
  await expect(page.getByTestId('subtitle')).toContainText('2 lines');
  await page.getByRole('button', { name: 'Debit' }).click();
  await expect(page).toHaveURL(/q=UT-202608-0002.*sort=amount/);
  await page.getByTestId('export').click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('menuitem', { name: /CSV/ }).click(),
  ]);
  expect(
    readFileSync(await download.path(), 'utf8')
      .trim()
      .split('\r\n'),
  ).toHaveLength(3);

  // as one types, and by a value
  await search.pressSequentially(' no');
  await expect(page.getByTestId('empty')).toContainText('No line is like that');
  await search.fill('');
  await page.getByTestId('value-filter').click();
  await page.getByRole('menuitem', { name: 'department' }).click();
  await page.getByRole('menuitem', { name: 'Design', exact: true }).click();
  await expect(page).toHaveURL(/only=department:/);
  await expect(grid.getByRole('row').nth(1)).toContainText('design');
  await page.getByRole('button', { name: /take this filter off/ }).click();
  await expect(page).not.toHaveURL(/only=/);
});

test('a journal opens its documents where they lie, and holds the files that are hung on it', async ({ page }) => {
  await page.goto('/ledger/lines?scope=LMG&q=INV-202608-0021');
  const grid = page.getByRole('grid', { name: 'Journal lines' });
  await grid.focus();
  await page.keyboard.press('Control+End');
  await page.keyboard.press('Enter');
  const journal = page.getByTestId('journal');
  await expect(journal.getByRole('link', { name: 'Invoice INV-202608-0021' })).toHaveAttribute(
    'href',
    'https://archive.larkmoor.example/find?document=INV-202608-0021',
  );
  const invoice = { name: 'Invoice 21.txt', mimeType: 'text/plain', buffer: Buffer.from('an invented invoice') };
  await journal.getByTestId('files').setInputFiles(invoice);
  const file = journal.getByRole('link', { name: 'Invoice 21.txt' });
  await expect(file).toBeVisible();
  await expectAccessible(page);
  await journal.getByRole('button', { name: 'Take out Invoice 21.txt' }).click();
  await expect(file).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.reload();
  const download = page.waitForEvent('download');
  await file.click();
  expect((await download).suggestedFilename()).toBe('Invoice-21.txt');
});
