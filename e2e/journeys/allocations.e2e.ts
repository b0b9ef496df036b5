import type { Page } from '@playwright/test';
import { expect, test } from '../fixtures/quiet-console';
import { expectAccessible } from '../fixtures/no-violations';
import { StatementPage } from '../pages/statement-page';
import { test as served } from '../fixtures/served';

const AT = 'scope=LMG&as_at=2026-08';

/** Chooses values in a select of several. */
async function choose(page: Page, field: string, ...names: readonly string[]): Promise<void> {
  await page.getByTestId(field).last().click();
  for (const name of names) await page.getByRole('option', { name, exact: true }).click();
  await page.keyboard.press('Escape');
}

test('shared costs are spread by a new allocation, seen by department, traced to the key, and switched off', async ({
  page,
}) => {
  await page.goto(`/allocations?${AT}`);
  await page.getByRole('link', { name: 'Support departments' }).click();
  await expect(page.getByTestId('effect')).toContainText('Finance by payroll');
  await page.getByTestId('new').click();
  await page.getByTestId('name').fill('Shared design');
  await page.getByTestId('dimension').click();
  await page.getByRole('option', { name: 'department' }).click();
  await page.getByTestId('add-step').click();
  await page.getByLabel('Step', { exact: true }).fill('Design by projects');
  await choose(page, 'from', 'Design');
  await choose(page, 'to', 'Production', 'Sales');
  await page.getByRole('spinbutton', { name: 'Sales' }).fill('3');
  await page.getByRole('spinbutton', { name: 'Sales' }).press('Tab');
  await expect(page.getByText('75 %')).toBeVisible();
  await page.getByTestId('save').click();
  await expect(page).toHaveURL(/\/allocations\/shared_design/);
  const design = page.getByTestId('effect').getByRole('row', { name: /^Design/ });
  await expect(design).toContainText('–');
  await expectAccessible(page);

  const breakdown = new StatementPage(page);
  await page.goto(`/breakdowns/departments_after_support?${AT}&allocation=none`);
  const posted = await breakdown.cell('Sales', 2).textContent();
  await expect(breakdown.cell('Sales', 0)).toHaveText(posted!.trim());
  await page.getByTestId('only').click();
  await page.getByRole('menuitem', { name: /^Shared costs/ }).click();
  await page.getByRole('menuitem', { name: 'Shared design' }).click();
  await expect(page.getByTestId('subtitle')).toContainText('costs spread: Shared design');
  await expect(breakdown.cell('Sales', 2)).not.toHaveText(posted!.trim());
  await expect(page.getByTestId('proof')).toContainText('The values add up to the total');
  await breakdown.cell('Sales', 2).click();
  await breakdown.lens.getByRole('tab', { name: 'Trace' }).click();
  for (const part of ['7600', 'August 2026'])
    await breakdown.lens.locator('[data-term]').filter({ hasText: part }).first().click();
  await expect(breakdown.lens.getByTestId('postings')).toContainText('From Design, Design by projects: 3 of 4');

  // put away, it is nowhere to be chosen
  await page.goto(`/allocations/shared_design?${AT}`);
  await page.getByTestId('put-away').click();
  await expect(page.getByRole('link', { name: 'Shared design' })).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('link', { name: 'Shared design' })).toBeVisible();
});

served('costs that would come back are refused, the circle named, and nothing is kept of it', async ({ page }) => {
  await page.goto(`/allocations/support_departments?${AT}`);
  await expect(page.getByTestId('effect')).toContainText('Logistics by pallets');
  await page.getByTestId('add-step').click();
  await expect(page.getByTestId('from')).toHaveCount(3);
  await choose(page, 'from', 'Sales');
  await choose(page, 'to', 'Logistics');
  await page.getByTestId('save').click();
  await expect(page.getByTestId('wrong')).toContainText('Logistics → Sales → Logistics');
  await page.getByRole('button', { name: 'Discard' }).click();
  await expect(page.getByTestId('state')).toHaveText('');
  await expect(page.getByTestId('from')).toHaveCount(2);
});

served(
  'costs are spread over entities, owed by those who take them, and traced in the statement of one',
  async ({ page }) => {
    await page.goto(`/allocations/new?scope=LARKMOOR&as_at=2026-08`);
    await page.getByTestId('name').fill('Group design');
    await page.getByTestId('dimension').click();
    await page.getByRole('option', { name: 'Entities' }).click();
    await page.getByRole('radio', { name: 'Direct' }).click();
    await page.getByTestId('add-step').click();
    await page.getByLabel('Step', { exact: true }).fill('By agreement');
    await choose(page, 'from', 'Larkmoor Ceramics');
    await choose(page, 'to', 'Larkmoor Ceramics', 'Larkmoor Tile');
    await page.getByTestId('save').click();
    await expect(page.getByTestId('wrong')).toContainText('does not say by which accounts entities owe each other');
    for (const [field, account] of [
      ['receivable', '1560 Receivables from group companies'],
      ['payable', '2450 Payables to group companies'],
    ] as const) {
      await page.getByTestId(field).getByRole('combobox').click();
      await page.getByRole('option', { name: account }).click();
    }
    await page.getByTestId('save').click();
    await expect(page.getByTestId('wrong')).toContainText('whose books differ in currency or calendar');
    await choose(page, 'to', 'Larkmoor Tile', 'Larkmoor Studio');
    await page.getByRole('spinbutton', { name: 'Larkmoor Ceramics' }).fill('3');
    await page.getByRole('spinbutton', { name: 'Larkmoor Ceramics' }).press('Tab');
    await expect(page.getByText('25 %')).toBeVisible();
    await page.getByTestId('save').click();
    await expect(page).toHaveURL(/\/allocations\/group_design/);
    // whichever scope is looked at
    await expect(page.getByTestId('effect').getByRole('row', { name: /^Larkmoor Studio/ })).toBeVisible();
    await expectAccessible(page);

    // what stands ready in the demo, in the balance sheet of one that owes
    const statement = new StatementPage(page);
    await page.goto(`/statements/balance_sheet?scope=LMS&as_at=2026-08&allocation=head_office&open=payables:accounts`);
    await expect(page.getByTestId('subtitle')).toContainText('costs spread: Head office');
    await statement.cell('2450 Payables to group companies', 11).click();
    await statement.lens.getByRole('tab', { name: 'Trace' }).click();
    for (const part of ['2450', 'August 2026'])
      await statement.lens.locator('[data-term]').filter({ hasText: part }).last().click();
    await expect(statement.lens.getByTestId('postings')).toContainText(
      /From Larkmoor Ceramics, Audit and software by headcount: \d+ of \d+/,
    );
  },
);
