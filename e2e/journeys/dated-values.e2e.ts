import { expect, test } from '../fixtures/quiet-console';
import { expectAccessible } from '../fixtures/no-violations';
import { test as served } from '../fixtures/served';
import { StatementPage } from '../pages/statement-page';

const AT = 'scope=LMG&as_at=2026-08';

test('a value that moved is read as it was organised then and now, with what moved between', async ({ page }) => {
  const breakdown = new StatementPage(page);
  await page.goto(`/breakdowns/products_then_and_now?${AT}`);
  const [then, moved, now] = [0, 1, 2];
  const texts = async (row: string) =>
    Promise.all([then, moved, now].map(async (at) => (await breakdown.cell(row, at).innerText()).trim()));
  await expect(breakdown.row('Gift sets')).toHaveCount(2);
  await expect(page.getByTestId('proof')).toContainText('The values add up to the total');
  const [, gone] = await texts('Tableware');
  const [, come] = await texts('Studio pieces');
  expect(gone).toBe(`(${come!})`);
  // as they were in each column: nothing moved, whichever column
  await page.getByTestId('only').click();
  await page.getByRole('menuitem', { name: 'Values organised as they were in each column' }).click();
  await expect(page.getByTestId('subtitle')).toContainText('values organised as they were');
  await expect(breakdown.cell('Tableware', moved)).toHaveText('–');
  await expectAccessible(page);
});

served('a value is hung elsewhere from a month on in the table of dimensions', async ({ page }) => {
  const breakdown = new StatementPage(page);
  const asked = JSON.stringify({ of: ['net_sales'], down: [{ by: 'channel' }], across: [], open: ['+1'] });
  const byChannel = (asAt: string) =>
    `/statements/income_statement?scope=LMG&as_at=${asAt}&breakdown=${encodeURIComponent(asked)}`;
  await page.goto(byChannel('2026-08'));
  await expect(breakdown.row('Online')).toHaveCount(1);
  const table = await (await page.request.get('/api/v1/setup/tables/dimensions')).json();
  const saved = await page.request.put('/api/v1/setup/tables/dimensions', {
    data: { base: table.revision, put: [['channel', 'online', 'Online', 'retail', 'FY2027-P05']], remove: [] },
    headers: { origin: new URL(page.url()).origin },
  });
  expect(saved.status()).toBe(200);
  await page.goto(byChannel('2026-08'));
  await expect(breakdown.row('Retail, not told apart')).toHaveCount(1);
  await page.goto(byChannel('2026-07'));
  await expect(breakdown.row('Online')).toHaveCount(1);
});
