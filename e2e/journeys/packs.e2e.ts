import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expectAccessible } from '../fixtures/no-violations';
import { expect, test } from '../fixtures/quiet-console';

const AT = 'scope=LARKMOOR&as_at=2026-08';

const place = (page: Page, title: string) => page.getByTestId('pages').getByRole('option').filter({ hasText: title });
const sheet = (page: Page) => page.locator('ml-sheet-view').first();

async function pick(page: Page, field: string, name: string | RegExp): Promise<void> {
  await page.getByTestId(field).getByRole('combobox').click();
  const hasText = typeof name === 'string' ? new RegExp(`^ ?${name} ?$`) : name;
  await page.locator('mat-option').filter({ hasText }).click();
}

test('a pack is put together by mouse: proposed, pages added, moved and changed, saved, and taken out as files', async ({
  page,
}) => {
  await page.goto(`/packs?${AT}`);
  await page.getByTestId('new-pack').click();
  // all books of the group are opened for the first time
  await expect(sheet(page)).toContainText('Monthly pack');
  await expect(page.getByTestId('pages').getByRole('option')).toHaveCount(8);

  await page.getByTestId('pack-settings').click();
  await page.getByTestId('name').fill('August in short');
  await page.getByTestId('name').press('Tab');
  await page.getByTestId('footer').fill('Not to be passed on');
  await page.getByTestId('footer').press('Tab');
  await expect(sheet(page)).toContainText('August in short');

  // a chart behind the income statement, below it
  await place(page, 'Income statement').first().click();
  await expect(sheet(page)).toContainText('Profit for the period');
  await expect(sheet(page)).toContainText('Not to be passed on');
  await page.getByTestId('add-page').click();
  await page.getByRole('menuitem', { name: 'Chart' }).click();
  await page.getByRole('menuitem', { name: 'Income statement', exact: true }).click();
  await pick(page, 'row', 'Gross profit');
  await expect(place(page, 'Gross profit by month')).toHaveAttribute('aria-selected', 'true');
  await expect(sheet(page).locator('ml-chart svg').first()).toBeVisible();

  // key figures, chosen from a statement
  await page.getByTestId('add-page').click();
  await page.getByRole('menuitem', { name: 'Key figures' }).click();
  await page.getByTestId('add-figure').click();
  await pick(page, 'figure-row', 'Net sales');
  await pick(page, 'figure-column', /April – August 2026 · Actual/);
  await expect(page.getByTestId('figure-shown')).toHaveText(/^[\d,]+$/);
  const shown = (await page.getByTestId('figure-shown').textContent())!.trim();
  await page.getByTestId('take').click();
  await expect(sheet(page)).toContainText(shown);

  // dragged to the front, behind the contents
  await page.getByTestId('title').fill('At a glance');
  await page.getByTestId('title').press('Tab');
  await expect(place(page, 'At a glance')).toBeVisible();
  const from = (await place(page, 'At a glance').boundingBox())!;
  const to = (await place(page, 'Income statement').first().boundingBox())!;
  await page.mouse.move(from.x + 60, from.y + 12);
  await page.mouse.down();
  await page.mouse.move(from.x + 60, from.y - 4, { steps: 4 });
  await page.mouse.move(to.x + 60, to.y + 6, { steps: 12 });
  await page.mouse.up();
  await expect(page.getByTestId('pages').getByRole('option').nth(2)).toContainText('At a glance');

  // a text with a figure that follows the books
  await page.getByTestId('add-page').click();
  await page.getByRole('menuitem', { name: 'Text' }).click();
  await page.getByRole('textbox', { name: 'Text of the page' }).pressSequentially('Sales came to ');
  await page.getByTestId('quote').click();
  await pick(page, 'figure-row', 'Net sales');
  await pick(page, 'figure-column', /April – August 2026 · Actual/);
  await page.getByTestId('take').click();
  await expect(sheet(page)).toContainText(shown);
  await expectAccessible(page);

  await page.getByTestId('save').click();
  await expect(page).toHaveURL(/\/packs\/august_in_short/);
  await expect(page.getByTestId('state')).toHaveText('');
  for (const format of ['pdf', 'xlsx', 'html', 'csv']) {
    await page.getByTestId('out').click();
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByTestId(`out-${format}`).click()]);
    const file = readFileSync(await download.path());
    expect(download.suggestedFilename()).toMatch(/^august_in_short-larkmoor-fy2027-p05\.(pdf|xlsx|html|zip)$/);
    expect(file.length).toBeGreaterThan(2000);
    if (format !== 'html') continue;
    // the file stands alone in a browser
    const alone = await page.context().newPage();
    await alone.setContent(file.toString());
    await expect(alone.getByRole('heading', { name: 'At a glance' })).toBeVisible();
    await expect(alone.getByText(shown).first()).toBeVisible();
    await alone.close();
  }
});

test('and by keyboard alone: moved, taken out, undone, read for another entity', async ({ page }) => {
  await page.goto(`/packs/entity_pack?scope=LMG&as_at=2026-08`);
  const pages = page.getByTestId('pages');
  await expect(pages.getByRole('option')).toHaveCount(7);
  await expect(sheet(page)).toContainText('Larkmoor Ceramics');
  await pages.focus();
  await page.keyboard.press('ArrowDown');
  await expect(sheet(page)).toContainText('Profit for the period');
  await page.keyboard.press('Alt+ArrowDown');
  await expect(pages.getByRole('option').nth(2)).toContainText('Income statement');
  await page.keyboard.press('Delete');
  await expect(pages.getByRole('option')).toHaveCount(6);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(pages.getByRole('option').nth(1)).toContainText('Income statement');
  await expect(page.getByTestId('state')).toHaveText('');
  await page.keyboard.press('Insert');
  await page.keyboard.type('Sec');
  await expect(page.getByRole('menuitem', { name: 'Section' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(pages.getByRole('option')).toHaveCount(8);
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('title')).toBeFocused();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('Results');
  await page.keyboard.press('Tab');
  await expect(place(page, 'Results')).toBeVisible();

  await page.getByTestId('scope').click();
  await page.getByRole('menuitem', { name: /Larkmoor Tile/ }).click();
  await expect(sheet(page)).toContainText('Results');
  await place(page, 'Entity pack').click();
  await expect(sheet(page)).toContainText('Larkmoor Tile');
  await expect(sheet(page)).not.toContainText('Larkmoor Ceramics');
});

test('one pack for many, and what is not ready says where it is mended', async ({ page }) => {
  await page.goto(`/packs/entity_pack?scope=LMG&as_at=2026-08`);
  await expect(sheet(page)).toContainText('Larkmoor Ceramics');
  await page.getByTestId('readiness').click();
  await expect(page.getByTestId('ready')).toContainText(/of \d+ are open/);
  const explain = page.locator('[data-check="pages"]').filter({ hasText: 'to explain' });
  await explain.getByRole('button', { name: /what moved/ }).click();
  await expect(place(page, 'what moved')).toHaveAttribute('aria-selected', 'true');
  await expect(sheet(page)).toContainText('Not explained yet.');
  await expectAccessible(page);

  await page.getByTestId('for-many').click();
  await page.getByTestId('many-all').locator('input').uncheck();
  for (const name of ['Larkmoor Ceramics', 'Larkmoor Tile', 'Larkmoor Studio'])
    await page.getByRole('checkbox', { name, exact: true }).check();
  await expect(page.getByTestId('many-begin')).toHaveText(/Make 3/);
  await page.getByTestId('many-begin').click();
  await expect(page.getByTestId('progress')).toContainText('3 of 3 are there');
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByTestId('many-files').click()]);
  expect(download.suggestedFilename()).toBe('entity_pack.zip');
  expect(readFileSync(await download.path()).length).toBeGreaterThan(20_000);
  await page.getByRole('button', { name: 'Close' }).click();

  // a page that is read in another way than the pack says so
  await place(page, 'Costs by department and month').click();
  await page.getByRole('radio', { name: 'This page' }).click();
  await page.getByTestId('differs').click();
  await pick(page, 'own-scope', 'Larkmoor Studio');
  await expect(place(page, 'Costs by department and month')).toContainText('Larkmoor Studio');
  await pick(page, 'own-version', 'Plan FY27');
  await expect(place(page, 'Costs by department and month')).toContainText('Plan FY27');
  const filter = page.getByTestId('own-filter');
  await filter.getByRole('checkbox', { name: 'A filter of its own' }).check();
  await filter.getByRole('button', { name: 'Add a condition' }).click();
  await filter.getByRole('combobox', { name: 'Condition' }).click();
  await page.getByRole('option', { name: 'is not', exact: true }).click();
  await filter.getByRole('combobox', { name: 'Values' }).click();
  await page.getByRole('listbox', { name: 'Values' }).getByRole('option').first().click();
  await page.keyboard.press('Escape');
  await expect(place(page, 'Costs by department and month')).toContainText('all but Tableware');
});

test('a pack is issued, and rolled forward a month: what is new and what moved since stands first', async ({
  page,
  request,
}) => {
  await page.goto('/packs/entity_pack?scope=LMG&as_at=2026-07');
  await expect(sheet(page)).toContainText('31 July 2026');
  await page.getByTestId('since-last').click();
  await page.getByTestId('issue').click();
  await expect(page.getByTestId('issued')).toContainText('Issued by Controller');

  // July is opened once more, and a line comes late into it
  const july = { entities: ['LMG'], periods: ['FY2027-P04'], status: 'open' };
  await request.put('/api/v1/periods', { data: july });
  const line = { description: '', partner: '', document: '', currency: '', currencyAmount: '', debit: '', credit: '' };
  const lines = [
    { ...line, account: '7410', debit: '90000.00' },
    { ...line, account: '1600', credit: '90000.00' },
  ];
  const late = { entity: 'LMG', date: '2026-07-31', period: '', reason: 'Audit of July', reverses: false, lines };
  expect(await (await request.post('/api/v1/adjustments', { data: late })).json()).toMatchObject({ issues: [] });

  await page
    .getByRole('button', { name: 'This page' })
    .or(page.getByRole('radio', { name: 'This page' }))
    .click();
  await page.getByRole('slider').focus();
  await page.keyboard.press('ArrowRight');
  await expect(sheet(page)).toContainText('31 August 2026');
  const income = page.getByTestId('since').filter({ hasText: 'Income statement' });
  await expect(income).toContainText('Administration');
  await expect(income).toContainText(/Profit for the period.*→/);
  await expectAccessible(page);
});

test('a pack shares a page of another, follows it, and takes it over as its own; it says what it tells of one entity', async ({
  page,
}) => {
  await page.goto('/packs/entity_pack?scope=LMG&as_at=2026-08');
  await expect(page.getByTestId('pages').getByRole('option')).toHaveCount(7);
  await page.getByTestId('add-page').click();
  await page.getByRole('menuitem', { name: 'Page of another pack' }).click();
  await page.getByRole('menuitem', { name: 'Board pack' }).click();
  await pick(page, 'shared-page', 'Balance sheet');
  await expect(place(page, 'as in Board pack')).toContainText('Balance sheet');
  await expect(sheet(page)).toContainText('Total assets');
  await expectAccessible(page);
  await page.getByTestId('make-own').click();
  await expect(place(page, 'as in Board pack')).toHaveCount(0);
  await expect(page.getByTestId('of')).toContainText('Balance sheet');

  await page.getByTestId('add-page').click();
  await page.getByRole('menuitem', { name: 'Section' }).click();
  await page.getByTestId('title').fill('Larkmoor Tile in detail');
  await page.getByTestId('title').press('Tab');
  await expect(place(page, 'Larkmoor Tile in detail')).toContainText('names Larkmoor Tile');
  await page.getByTestId('save').click();
  await expect(page.getByTestId('state')).toHaveText('');
  await page.getByTestId('for-many').click();
  await expect(page.getByTestId('bound')).toContainText('Larkmoor Tile in detail names Larkmoor Tile');
});
