import path from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { brokenPackage } from '../fixtures/broken-package';
import { StatementPage } from '../pages/statement-page';

const FOLDER = path.resolve(import.meta.dirname, '../../docs/screenshots');

const take = (page: Page, name: string) =>
  page.screenshot({ path: path.join(FOLDER, `${name}.png`), animations: 'disabled' });

test('a statement', async ({ page }) => {
  await new StatementPage(page).open();
  await take(page, 'statement');
});

test('the Lens on a change, and the account without a row', async ({ page }) => {
  const statement = new StatementPage(page);
  await statement.open('income_statement', '?cell=energy~ytd');
  await expect(statement.lens.getByTestId('level-proof')).toContainText('✓');
  await take(page, 'lens');
  await page.getByTestId('proof').getByRole('button').first().click();
  await expect(statement.lens.getByTestId('level-proof')).toContainText('✓');
  await take(page, 'without-a-row');
});

test('the journal behind a figure', async ({ page }) => {
  const statement = new StatementPage(page);
  await statement.open('income_statement', '?cell=energy~ytd');
  for (const term of [/Kiln gas/, /August 2026/, /./]) {
    await statement.lens.locator('[data-term]').filter({ hasText: term }).first().click();
  }
  await expect(statement.lens.getByTestId('journal')).toContainText('Debits and credits agree');
  await take(page, 'journal');
});

test('series', async ({ page }) => {
  const statement = new StatementPage(page);
  await statement.open('income_by_month');
  await take(page, 'twelve-months');
  await statement.open('income_by_quarter', '?as_at=FY2026-P13&scope=LMT');
  await take(page, 'quarters');
});

test('a refused delivery', async ({ page }) => {
  await page.goto('/deliveries');
  await page.getByTestId('folder').setInputFiles(brokenPackage());
  await expect(page.locator('ml-findings-table')).toBeVisible({ timeout: 40_000 });
  await take(page, 'findings');
});
