import { expect, test } from '../fixtures/quiet-console';
import { expectAccessible } from '../fixtures/no-violations';
import { StatementPage } from '../pages/statement-page';

const AT = 'scope=KHD&as_at=2026-08';
const BREAKDOWN = JSON.stringify({ of: ['net_sales'], down: [{ by: 'department' }], across: [] });

test('postings without a department are completed by rule: shown before it counts, read, traced, and taken back', async ({
  page,
}) => {
  const breakdown = new StatementPage(page);
  const bySales = `/statements/income_statement?${AT}&breakdown=${encodeURIComponent(BREAKDOWN)}`;
  await page.goto(bySales);
  const missing = (await breakdown.cell('No department', 0).textContent())!.trim();
  await expect(breakdown.row('Sales')).toHaveCount(0);

  await page.goto(`/ledger/completeness?${AT}`);
  await expect(page.getByTestId('of-KHD')).toContainText('Department');
  await page.goto(`/ledger/missing-values/missing_departments?${AT}`);
  const after = page.getByTestId('of-KHD').getByTestId('after');
  await expect(after).not.toContainText('100');
  const rules = await page.getByTestId('value').count();
  await page.getByRole('button', { name: 'Add a rule for account 4000' }).click();
  await expect(page.getByTestId('value')).toHaveCount(rules + 1);
  await page.getByTestId('value').last().click();
  await page.getByRole('option', { name: 'Sales', exact: true }).click();
  await expect(after.getByRole('cell')).toHaveText(Array.from({ length: 12 }, () => '100'));
  await expect(page.getByText('before it counts')).toBeVisible();
  await expect(page.getByTestId('takes').last()).toContainText('EUR');
  await page.getByTestId('text').last().fill('nothing holds this');
  await page.getByTestId('text').last().press('Tab');
  await expect(page.getByTestId('takes').last()).toHaveText('takes nothing');
  await page.getByTestId('text').last().fill('HIRE of');
  await page.getByTestId('text').last().press('Tab');
  await expect(page.getByTestId('takes').last()).toContainText('EUR');
  await page.getByTestId('save').click();
  await expect(page.getByText('counts in all figures')).toBeVisible();
  await expectAccessible(page);

  await page.goto(bySales);
  await expect(breakdown.cell('Sales', 0)).toHaveText(missing);
  await expect(page.getByTestId('proof')).toContainText('The values add up to the total');
  await breakdown.cell('Sales', 1).click();
  await breakdown.lens.getByRole('tab', { name: 'Trace' }).click();
  for (const part of ['Tableware', '4000'])
    await breakdown.lens.locator('[data-term]').filter({ hasText: part }).first().click();
  await expect(breakdown.lens.getByTestId('postings')).toContainText(
    'Department Sales by rule 4 of “Missing departments”',
  );

  // put away, postings are read as they are; brought back, they are completed again
  await page.goto(`/ledger/missing-values/missing_departments?${AT}`);
  await page.getByTestId('put-away').click();
  // what is being read with the rules is let finish
  await expect(page.getByTestId('empty')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByTestId('takes').last()).toContainText('EUR');
});
