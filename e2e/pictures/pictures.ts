import { choose } from '../pages/choose';
import path from 'node:path';
import type { Page } from '@playwright/test';
import { expect, test } from '../fixtures/served';
import { ShapePage } from '../pages/shape-page';
import { StatementPage } from '../pages/statement-page';
import { VersionsPage } from '../pages/versions-page';

const FOLDER = path.resolve(import.meta.dirname, '../../docs/screenshots');

async function take(page: Page, name: string): Promise<void> {
  const light = page.getByRole('button', { name: /\d+ of \d+ tie/ });
  await light.waitFor({ timeout: 3_000 }).catch(() => undefined); // an empty workspace has none
  await page.screenshot({ path: path.join(FOLDER, `${name}.png`), animations: 'disabled' });
}

test('a statement', async ({ page }) => {
  await new StatementPage(page).open();
  await take(page, 'statement');
});

test('the Lens on a change', async ({ page }) => {
  const statement = new StatementPage(page);
  await statement.open('income_statement', '?cell=energy~ytd');
  await expect(statement.lens.getByTestId('level-proof')).toContainText('✓');
  await take(page, 'lens');
});

test('a planning sheet, exceptions, why and charts', async ({ page }) => {
  const sheet = new VersionsPage(page);
  await sheet.open('FORECAST_2');
  await sheet.cell('Energy', 5).click();
  await page.keyboard.press('Alt+ArrowDown');
  await page.keyboard.press('Shift+End');
  await sheet.act('Uplift…');
  await choose(sheet.panel.getByLabel('Counts'), 'every month, on the month before');
  await expect(sheet.panel.locator('ml-action-result svg').first()).toBeVisible();
  await take(page, 'versions');
  await page.goto('/exceptions?scope=LMT&as_at=2026-08');
  await expect(page.getByTestId('exceptions')).toContainText('Profit for the period');
  await take(page, 'exceptions');
  await page.goto('/statements/flexible_budget?scope=LMT&as_at=2026-08&cell=energy~change');
  await page.getByRole('tab', { name: 'Why' }).click();
  await choose(page.getByTestId('why-by'), 'volume, price and efficiency');
  await expect(page.getByTestId('why-sentence')).toBeVisible();
  await expect(page.locator('ml-why svg').first()).toBeVisible();
  await take(page, 'why');
  await page.goto('/statements/income_statement?scope=LMT&as_at=2026-08&charts=gross_profit');
  await expect(page.getByTestId('bridge-sentence')).toBeVisible();
  await expect(page.locator('ml-charts-view figure svg')).toHaveCount(3);
  await take(page, 'charts');
});

test('shaping', async ({ page }) => {
  const shape = new ShapePage(page);
  await shape.open('income_statement');
  await shape.label('Energy').click();
  await expect(shape.panel.getByTestId('misplaced-account')).toBeVisible();
  await take(page, 'shape');
});

/** A file as another program writes it. */
const FOREIGN = {
  name: 'studio-august.csv',
  mimeType: 'text/csv',
  buffer: Buffer.from(
    [
      'Beleg;Buchungsdatum;Firma;Konto;Soll;Haben;Buchungstext',
      'R-1001;28.09.2026;LMS;6400;12.250,50;;Gas, kiln hall A, September',
      'R-1001;28.09.2026;LMS;2400;;12.250,50;Gas, kiln hall A, September',
      'R-1002;30.09.2026;LMS;6410;3.318,20;;Electricity, second reading',
      'R-1002;30.09.2026;LMS;2400;;3.318,20;Electricity, second reading',
    ].join('\r\n'),
  ),
};

test('a foreign file and how it is read', async ({ page }) => {
  await page.goto('/deliveries');
  await page.getByTestId('file').setInputFiles(FOREIGN);
  await expect(page.getByTestId('check')).toBeEnabled();
  await take(page, 'mapping');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByTestId('job')).toContainText('the books are as they were');
});

test('the structure of a group', async ({ page }) => {
  await page.goto('/structure?scope=LARKMOOR&as_at=2026-08');
  await page
    .getByTestId('tree')
    .getByRole('button', { name: /Larkmoor Japan/ })
    .click();
  await take(page, 'structure');
});

test('rates, and how a translation reserve came about', async ({ page }) => {
  await page.goto('/rates?scope=KILNHIRE&as_at=2026-08');
  await expect(page.getByTestId('subtitle')).toContainText('1 is missing');
  await take(page, 'rates');
  await page.goto('/translation?scope=LARKMOOR&as_at=2026-08');
  await page.getByTestId('proof-LMT').getByRole('button', { name: 'August 2026' }).click();
  await expect(page.getByTestId('trace').getByTestId('level-proof')).toContainText('✓');
  await take(page, 'translation');
});

test('the worksheet of a group and how far it is', async ({ page }) => {
  const statement = new StatementPage(page);
  await page.setViewportSize({ width: 1600, height: 900 });
  await statement.open('balance_sheet', '?scope=LARKMOOR&as_at=2026-08&columns=group_worksheet');
  await take(page, 'group-worksheet');
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto('/between-entities?scope=LARKMOOR&as_at=2026-08');
  await page
    .getByRole('row', { name: /Larkmoor Tile and Larkmoor Supply trade/ })
    .getByRole('button')
    .click();
  await expect(page.getByTestId('documents')).toContainText('Recharge');
  await take(page, 'between-entities');
  await page.goto('/readiness?scope=LARKMOOR&as_at=2026-08');
  await expect(page.getByTestId('findings')).toBeVisible();
  await take(page, 'readiness');
});

test('a breakdown', async ({ page }) => {
  const breakdown = new StatementPage(page);
  await page.goto(
    '/breakdowns/sales_by_product_and_channel?scope=LARKMOOR&as_at=2026-08&cell=net_sales.product_line:tableware~ytd_change.channel:wholesale',
  );
  await breakdown.lens.getByRole('tab', { name: 'Break down' }).click();
  await expect(breakdown.lens.getByTestId('field-ranks').getByRole('button').first()).toBeVisible();
  await take(page, 'breakdown');
});

test('the end of a month, and its evidence', async ({ page }) => {
  await page.goto('/month-end?scope=LARKMOOR&as_at=2026-08');
  await expect(page.getByTestId('ready')).toBeVisible({ timeout: 30_000 });
  await take(page, 'month-end');
  await page.goto('/evidence?scope=LMG&as_at=2026-08');
  await page.locator('ml-sheet [data-spot="19.5"]').click();
  await take(page, 'evidence');
});

test('a pack', async ({ page }) => {
  await page.goto('/packs/board_pack?scope=LARKMOOR&as_at=2026-08&page=income');
  await expect(page.locator('ml-sheet-view').first()).toContainText('Profit for the period', { timeout: 30_000 });
  await page.getByTestId('readiness').click();
  await expect(page.getByTestId('ready')).toBeVisible({ timeout: 30_000 });
  await take(page, 'pack');
});

test('shared costs', async ({ page }) => {
  await page.goto('/allocations/support_departments?scope=LMG&as_at=2026-08');
  await expect(page.getByTestId('effect')).toContainText('Logistics by pallets');
  await take(page, 'allocations');
});
