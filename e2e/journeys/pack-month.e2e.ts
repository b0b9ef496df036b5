import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, test } from '../fixtures/quiet-console';

const JULY = 'scope=LMG&as_at=2026-07';
/** Making a pack of five pages is a matter of minutes. */
const FIVE_MINUTES = 5 * 60_000;
/** Of the proposed pages those that are not wanted. */
const UNWANTED = ['Cash flow', 'Costs by department and month', 'Departments after support'];

const pages = (page: Page) => page.getByTestId('pages');
const place = (page: Page, title: string) => pages(page).getByRole('option').filter({ hasText: title });
const sheet = (page: Page) => page.locator('ml-sheet-view').first();

test.beforeEach(() => test.setTimeout(FIVE_MINUTES));

/** An entity whose calendar begins after the months that are reported. */
async function addLateEntity(page: Page): Promise<void> {
  await page.goto('/packs');
  const headers = { origin: new URL(page.url()).origin };
  const put = async (table: string, rows: string[][]) => {
    const { revision: base } = await (await page.request.get(`/api/v1/setup/tables/${table}`)).json();
    const data = { base, put: rows, remove: [] };
    expect((await page.request.put(`/api/v1/setup/tables/${table}`, { data, headers })).status()).toBe(200);
  };
  await put('calendars', [['late', '2027', '1', 'January 2027', '2027-01-01', '2027-01-31', 'regular', '1']]);
  await put('entities', [['LMN', 'Larkmoor Norge', 'EUR', 'late', '', '']]);
}

async function isKept(page: Page, begun: number): Promise<void> {
  await expect(page).toHaveURL(/\/packs\/five_pages/);
  await expect(page.getByTestId('state')).toHaveText('');
  await expect(pages(page).getByRole('option')).toHaveCount(5);
  expect(Date.now() - begun).toBeLessThan(FIVE_MINUTES);
}

test('a month of a pack by mouse: built, explained, read for another, rolled forward, taken out, made for all', async ({
  page,
}) => {
  await addLateEntity(page);
  await page.goto(`/packs?${JULY}`);
  const begun = Date.now();
  await page.getByTestId('new-pack').click();
  await expect(pages(page).getByRole('option')).toHaveCount(8);
  for (const title of UNWANTED) {
    await place(page, title).click();
    await page.getByTestId('remove-page').click();
  }
  await page.getByTestId('pack-settings').click();
  await page.getByTestId('name').fill('Five pages');
  await page.getByTestId('name').press('Tab');
  await page.getByTestId('save').click();
  await isKept(page, begun);

  // what moved is answered, row by row
  await page
    .getByRole('radio', { name: 'This page' })
    .or(page.getByRole('button', { name: 'This page' }))
    .click();
  await place(page, 'what moved').click();
  await expect(place(page, 'what moved')).toContainText('2 to explain');
  await page.getByRole('link', { name: 'Explain what moved' }).click();
  for (const [row, why] of [
    ['other_income', 'Insurance paid for the July flood'],
    ['finance', 'The loan was paid back early'],
  ] as const) {
    await page.locator(`[data-id="${row}"]`).click();
    await page.getByTestId('remark-text').fill(why);
    await page.getByTestId('write').click();
    await expect(page.getByText(why).first()).toBeVisible();
  }
  await page.goto(`/packs/five_pages?${JULY}`);
  await expect(place(page, 'what moved')).not.toContainText('to explain');
  await place(page, 'what moved').click();
  await expect(sheet(page)).toContainText('Insurance paid for the July flood');

  // another entity: none of its words
  await page.getByTestId('scope').click();
  await page.getByRole('menuitem', { name: /Larkmoor Tile/ }).click();
  await expect(sheet(page)).toContainText('Larkmoor Tile');
  for (const title of ['Five pages', 'Contents', 'Income statement', 'what moved', 'Balance sheet']) {
    await place(page, title).first().click();
    await expect(page.locator('ml-sheet-view').filter({ hasText: 'Larkmoor Ceramics' })).toHaveCount(0);
    await expect(sheet(page)).not.toContainText('July flood');
  }

  // the month after
  await page.getByTestId('scope').click();
  await page.getByRole('menuitem', { name: /Larkmoor Ceramics/ }).click();
  await page.getByRole('slider').focus();
  await page.keyboard.press('ArrowRight');
  await place(page, 'Five pages').click();
  await expect(sheet(page)).toContainText('31 August 2026');
  await place(page, 'what moved').click();
  await expect(place(page, 'what moved')).toContainText('2 were explained last month');

  // every format
  for (const format of ['pdf', 'xlsx', 'docx', 'pptx', 'html', 'csv']) {
    await page.getByTestId('out').click();
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByTestId(`out-${format}`).click()]);
    expect(readFileSync(await download.path()).length).toBeGreaterThan(2000);
  }

  // one for each entity and group, of which one has no such month
  await page.getByTestId('for-many').click();
  await page.getByTestId('many-begin').click();
  await expect(page.getByTestId('progress')).toHaveText(/16 of 17 are there, 1 failed/, { timeout: 120_000 });
  await expect(page.getByTestId('failed').getByRole('listitem')).toHaveText([
    /Larkmoor Norge.*not a month or period of the calendar late/,
  ]);
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByTestId('many-files').click()]);
  expect(readFileSync(await download.path()).length).toBeGreaterThan(50_000);
});

test('and built by keyboard alone', async ({ page }) => {
  await page.goto(`/statements?${JULY}`);
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  const begun = Date.now();
  await page.keyboard.press('Control+k');
  await expect(
    page.getByRole('dialog').getByRole('combobox').or(page.getByRole('dialog').getByRole('textbox')),
  ).toBeFocused();
  await page.keyboard.type('New pack');
  await page.keyboard.press('Enter');
  await expect(pages(page).getByRole('option')).toHaveCount(8);
  await pages(page).focus();
  // the three last ones
  await page.keyboard.press('End');
  for (const left of [7, 6, 5]) {
    await page.keyboard.press('Delete');
    await expect(pages(page).getByRole('option')).toHaveCount(left);
  }
  await page.getByTestId('pack-settings').locator('button').focus();
  await page.keyboard.press('Enter');
  await page.getByTestId('name').focus();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('Five pages');
  await page.keyboard.press('Control+s');
  await isKept(page, begun);
});
