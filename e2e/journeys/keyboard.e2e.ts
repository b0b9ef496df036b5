import type { Page } from '@playwright/test';
import { expect, test } from '../fixtures/quiet-console';
import { ShapePage } from '../pages/shape-page';
import { StatementPage } from '../pages/statement-page';
import { VersionsPage } from '../pages/versions-page';

/** Opens what a person calls it, from wherever the keyboard is. */
async function find(page: Page, words: string): Promise<void> {
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('A statement, row').pressSequentially(words);
  await page.keyboard.press('Enter');
}

/** Goes back with Tab until a button has the keyboard, and presses it. */
async function pressByTab(page: Page, name: string): Promise<void> {
  const button = page.getByRole('button', { name, exact: true });
  for (let presses = 0; presses < 40; presses++) {
    await page.keyboard.press('Shift+Tab');
    if (await button.evaluate((element) => element === document.activeElement)) return page.keyboard.press('Enter');
  }
  throw new Error(`Tab does not reach ${name}`);
}

test('from opening the application to a posting, a kept layout and a submitted plan, without a pointer', async ({
  page,
}) => {
  const { keyboard } = page;
  const statement = new StatementPage(page);
  await page.goto('/');
  await expect(statement.table).toBeVisible();

  // another entity and month; then down to the posting
  await find(page, 'larkmoor tile');
  await expect(page.getByTestId('subtitle')).toContainText('Larkmoor Tile');
  await expect(statement.table.locator('td:focus')).toHaveCount(1);
  await keyboard.press(',');
  await expect(page.getByTestId('as-at')).toHaveText('31 July 2026');
  await keyboard.press('ArrowRight');
  await keyboard.press('Enter');
  // the row above, its account, the lines, the whole journal
  const above = statement.lens.getByRole('list', { name: 'Levels above' }).getByRole('listitem');
  for (const levels of [0, 1, 2, 3]) {
    await expect(above).toHaveCount(levels);
    if (levels === 3) break;
    await expect(statement.lens.locator('[data-term]:focus')).toBeVisible();
    await keyboard.press('Enter');
  }
  const journal = statement.lens.getByTestId('journal');
  await expect(journal).toContainText('Debits and credits agree');
  await keyboard.press('Escape');
  await keyboard.press('Escape');
  await expect(statement.table.locator('td:focus')).toHaveCount(1);

  // a layout is changed and kept
  const shape = new ShapePage(page);
  await find(page, 'income statement, four quarters');
  await expect(page.getByRole('heading', { name: 'Income statement, four quarters' })).toBeVisible();
  await keyboard.press('s');
  await expect(shape.table.locator('[data-spot]:focus')).toHaveCount(1);
  await keyboard.press('Enter');
  await keyboard.type('Sales, net');
  await keyboard.press('Enter');
  await expect(shape.label('Sales, net')).toBeFocused();
  await keyboard.press('Control+Enter');
  await expect(page.getByRole('dialog')).toBeVisible(); // others use these rows too
  await keyboard.press('Enter');
  await expect(page.getByTestId('draft-state')).toHaveText('As it is kept');
  await keyboard.press('s');
  await expect(statement.row('Sales, net')).toBeVisible();

  // a figure of a forecast is typed, and the forecast is submitted
  const plan = new VersionsPage(page);
  await find(page, 'forecast 2');
  await expect(page.getByRole('heading', { name: 'Forecast 2', level: 1 })).toBeVisible();
  await expect(plan.entry).toBeFocused();
  for (const _ of ['Tableware', 'Tiles']) await keyboard.press('ArrowDown');
  await keyboard.type('16000');
  await keyboard.press('Enter');
  await expect(plan.cell('Tiles', 5)).toHaveText(/16,000/);
  await plan.settled();
  await pressByTab(page, 'Submit');
  await expect(page.getByTestId('subtitle')).toContainText('submitted');
});
