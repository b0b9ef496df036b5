import { choose } from '../pages/choose';
import { expect, test } from '../fixtures/quiet-console';
import { expectAccessible } from '../fixtures/no-violations';
import { VersionsPage } from '../pages/versions-page';

test('the curve of a row is drawn by hand, with its total kept', async ({ page }) => {
  const sheet = new VersionsPage(page);
  await sheet.open('FORECAST_2');
  const total = await sheet.total('Energy');
  await sheet.cell('Energy', 5).click();
  await sheet.act('Draw…');
  const curve = sheet.panel.getByTestId('curve');
  await expect(curve.locator('svg')).toBeVisible();
  await expectAccessible(page);
  const september = await sheet.cell('Energy', 5).innerText();
  const { x, y, width, height } = (await curve.boundingBox())!;
  // the first month of seven, from where it stands to near the axis
  await page.mouse.move(x + width / 7, y + height * 0.4);
  await page.mouse.down();
  await page.mouse.move(x + width / 7, y + height * 0.7, { steps: 5 });
  await page.mouse.up();
  await expect(page.getByTestId('apply')).toContainText('Apply to');
  await sheet.apply();
  await expect(sheet.cell('Energy', 5)).not.toHaveText(september);
  expect(await sheet.total('Energy')).toBe(total);

  // and by the keyboard: 700 in October, what is left over the others
  await sheet.cell('Energy', 5).click();
  await sheet.act('Draw…');
  await sheet.panel.getByLabel('Oct', { exact: true }).fill('700');
  await page.keyboard.press('Tab');
  await expect(page.getByTestId('apply')).toContainText('Apply to');
  await sheet.apply();
  await expect(sheet.cell('Energy', 6)).toHaveText('700');
  expect(await sheet.total('Energy')).toBe(total);
  await sheet.settled();
});

test('loans, depreciation and payroll follow a schedule', async ({ page }) => {
  const sheet = new VersionsPage(page);
  await sheet.open('FORECAST_2', '&unit=1');
  const begin = async (label: string, rule: RegExp) => {
    await sheet.cell(label, 5).click();
    await sheet.act('Series…');
    await choose(sheet.panel.getByLabel('Rule'), rule);
  };
  const shows = (label: string, from: number, ...figures: string[]) =>
    Promise.all(figures.map((figure, at) => expect(sheet.cell(label, from + at)).toHaveText(figure)));

  // an annuity of 100,000 at 6 % over twelve months: 8,606.64 a month (standard table, from memory), interest 500 first
  await begin('Selling', /equal payments/);
  await sheet.panel.getByLabel('Balance').fill('100000');
  await sheet.panel.getByLabel('Payments left, months').fill('twelve');
  await expect(sheet.panel.getByText('The number of payments is not a number.')).toBeVisible();
  await sheet.panel.getByLabel('Payments left, months').fill('12');
  await sheet.panel.getByLabel('Interest a year, percent').fill('6');
  await choose(sheet.panel.getByLabel('The row shows'), 'both');
  await sheet.apply();
  await shows('Selling', 5, '8,607', '8,607', '8,607');

  // 10 people at 4,000, two more from October on, three fewer after November (by hand)
  await begin('Labour', /payroll/);
  await sheet.panel.getByLabel('People there').fill('10');
  await sheet.panel.getByLabel('Cost of each a month').fill('4000');
  await sheet.panel.getByLabel(/^Joiners/).fill('0 2');
  await sheet.panel.getByLabel(/^Leavers/).fill('0 0 3');
  await sheet.apply();
  await shows('Labour', 5, '40,000', '48,000', '48,000', '36,000', '36,000');

  // 6,000 over six months, from November on
  await begin('Depreciation', /straight-line/);
  await sheet.panel.getByLabel('Cost', { exact: true }).fill('6000');
  await sheet.panel.getByLabel('Months of life').fill('6');
  await sheet.panel.getByLabel('Begins after months').fill('2');
  await sheet.apply();
  await shows('Depreciation', 5, '–', '–', '1,000', '1,000');
  await sheet.settled();
});

test('a base year is cleaned of a one-off, with its reason, before its shape is taken', async ({ page }) => {
  const sheet = new VersionsPage(page);
  await sheet.open('FORECAST_2');
  await sheet.cell('Energy', 5).click();
  await sheet.act('Phase…');
  const oneOffs = sheet.panel.getByTestId('one-offs');
  await choose(oneOffs.getByLabel('Month'), 'November 2025');
  await sheet.panel.getByLabel('Total').fill('7000');
  await expect(page.getByTestId('apply')).toContainText('Apply to');
  await oneOffs.getByLabel('Amount').fill('500');
  await sheet.apply();
  await expect(sheet.panel.getByText('Say of each one-off that is taken off why it is one.')).toBeVisible();
  await oneOffs.getByLabel('Reason').fill('kiln relined');
  await sheet.apply();
  await sheet.settled();
  await sheet.panel.getByRole('tab', { name: /^Changes/ }).click();
  await expect(sheet.panel.getByText(/without 500,000\.00 of November 2025 \(kiln relined\)/).first()).toBeVisible();
});
