import { choose } from '../pages/choose';
import { expect, test } from '../fixtures/quiet-console';
import { expectAccessible } from '../fixtures/no-violations';
import { VersionsPage } from '../pages/versions-page';

test('steps of planning are kept as a template and taken again in another entity, with what does not fit', async ({
  page,
}) => {
  const sheet = new VersionsPage(page);
  await sheet.open('FORECAST_2');
  const uplift = async (label: string, percent: string) => {
    await sheet.cell(label, 6).click();
    await sheet.act('Uplift…');
    await sheet.panel.getByLabel('By', { exact: true }).fill(percent);
    await choose(sheet.panel.getByLabel('Counts'), 'once');
    await sheet.apply();
    await sheet.settled();
  };
  await uplift('Energy', '10');
  await uplift('Tiles', '2');
  await sheet.cell('Selling', 5).click();
  await sheet.act('Phase…');
  await sheet.panel.getByLabel('Total').fill('2100');
  await choose(sheet.panel.getByLabel('Spread'), /evenly/);
  await sheet.apply();
  await sheet.settled();

  const openSteps = async () => {
    await page.getByTestId('version-menu').click();
    await page.getByRole('menuitem', { name: 'Steps and templates…' }).click();
  };
  await openSteps();
  await expect(sheet.panel.getByTestId('steps-taken').getByRole('listitem')).toHaveCount(3);
  await expect(sheet.panel.getByTestId('steps-taken')).toContainText('Uplift Energy · October 2026 to March 2027');
  await sheet.panel.getByLabel('Name of the template').fill('Autumn round');
  await sheet.panel.getByRole('button', { name: 'Keep' }).click();
  await expect(sheet.panel.getByTestId('templates')).toContainText('Autumn round 3 steps');
  await expectAccessible(page);

  // the parent sells no tiles
  await page.goto('/versions/FORECAST_2?scope=LMG&as_at=2026-08&unit=1');
  await expect(sheet.entry).toBeFocused();
  const [september, october] = await Promise.all([5, 6].map((at) => sheet.cell('Energy', at).innerText()));
  const amount = (text: string) => Number(text.replaceAll(',', ''));
  await openSteps();
  await expect(sheet.panel.getByText('Steps that you take in this sheet stand here')).toBeVisible();
  await sheet.panel.getByRole('button', { name: 'Take its steps' }).click();
  const outcome = sheet.panel.getByTestId('steps-outcome').getByRole('listitem');
  await expect(outcome).toHaveCount(3);
  await expect(sheet.panel.getByRole('heading', { name: 'Autumn round: 1 did not fit' })).toBeVisible();
  await expect(outcome.nth(0)).toContainText(/Uplift Energy\s*\d+ figures/);
  await expect(outcome.nth(1)).toContainText('Nothing would change.');
  await sheet.settled();
  await expect(sheet.cell('Energy', 5)).toHaveText(september!);
  expect(Math.abs(amount(await sheet.cell('Energy', 6).innerText()) - 1.1 * amount(october!))).toBeLessThan(2);
  // amounts are as they were typed, in thousands: 2,100 over seven months
  await expect(sheet.cell('Selling', 5)).toHaveText('300,000');

  await sheet.panel.getByRole('button', { name: 'Delete Autumn round' }).click();
  await expect(sheet.panel.getByText('There are none yet.')).toBeVisible();
});
