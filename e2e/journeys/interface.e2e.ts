import { expect, test } from '../fixtures/quiet-console';
import { expectAccessible } from '../fixtures/no-violations';

/** Every screen, with something on it that must stand there before it is looked at. */
const SCREENS: readonly [path: string, shows: string][] = [
  ['/statements', 'Income statement, common-size'],
  ['/statements/income_statement?scope=LMT&as_at=2026-08&cell=energy~now', 'Profit for the period'],
  ['/statements/income_statement?scope=LMT&as_at=2026-08&charts=energy', 'Energy by month'],
  ['/statements/income_statement?shape=1&as_at=2026-08', 'what it holds'],
  ['/versions/FORECAST_2?scope=LMT&as_at=2026-08', 'Net sales'],
  ['/exceptions?scope=LMT&as_at=2026-08', 'Beyond 1'],
  ['/deliveries', 'Choose a file'],
  ['/deliveries/compare?scope=LMT&as_at=2026-08', 'Deliveries compared'],
  ['/ledger?scope=LMT&as_at=2026-08', 'debits and credits agree'],
  ['/ledger/lines?scope=LMT&account=6400', 'Kiln gas'],
  ['/adjustments?scope=LMT&as_at=2026-08', 'Adjustments'],
  ['/books-check?scope=LMG&as_at=2026-08', 'Suspense'],
  ['/structure?scope=LMG&as_at=2026-08', 'Head of the group'],
  ['/mapping?scope=KILNHIRE&as_at=2026-08', 'not mapped yet'],
  ['/eliminations?scope=LARKMOOR&as_at=2026-08', 'Investment against equity'],
  ['/between-entities?scope=LARKMOOR&as_at=2026-08', 'Larkmoor Tile and Larkmoor Supply'],
  ['/ledger/completeness?scope=LMG', 'Department'],
  ['/allocations/support_departments?scope=LMG', 'Logistics by pallets'],
  ['/setup/attributes', 'manager'],
  ['/setup/account-map', 'R100..R199'],
  ['/tie-outs?scope=LMG&as_at=2026-08', 'Balances equal lines'],
  ['/periods?as_at=2026-08', 'Larkmoor Tile'],
  ['/setup/accounts?scope=LMG', 'Development costs'],
  ['/setup/entities', 'Larkmoor Tile'],
  ['/setup/dimensions', 'Values'],
  ['/setup/calendars', 'named after the year it ends in'],
  ['/setup/working-days', 'Days by period'],
  ['/setup/workspace', 'What counts as material'],
];

/** How many journeys share the screens: one alone would be the longest by far. */
const PARTS = 3;
for (let part = 0; part < PARTS; part++)
  test(`no screen has anything that keeps somebody out, in light or dark, ${part + 1} of ${PARTS}`, async ({
    page,
  }) => {
    test.setTimeout(180_000);
    for (const [path, shows] of SCREENS.filter((_, at) => at % PARTS === part)) {
      await page.emulateMedia({ colorScheme: 'light' });
      await page.goto(path);
      await expect(page.getByText(shows).first(), path).toBeVisible();
      await expectAccessible(page, 'all');
      await page.emulateMedia({ colorScheme: 'dark' });
      await expectAccessible(page, 'colours');
    }
  });

test('the keyboard is at the sheet on arrival, and a link leads there past the frame', async ({ page }) => {
  await page.goto('/statements/income_statement?scope=LMG&as_at=2026-08');
  await expect(page.locator('[data-spot="0.0"]')).toBeFocused();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowRight');
  const cell = page.locator('[data-spot="1.1"]');
  await expect(cell).toBeFocused();
  await expect(page.getByTestId('lens-number')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('lens-number')).toBeHidden();
  await expect(cell).toBeFocused();

  await page.reload();
  const skip = page.getByRole('link', { name: 'Skip to the sheet' });
  expect(await skip.evaluate((link) => link === document.querySelector('a, button, input, [tabindex]'))).toBe(true);
  await skip.focus();
  await expect(skip).toBeInViewport();
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-spot]:focus')).toHaveCount(1);

  await page.getByRole('rowheader', { name: 'Energy' }).click();
  await expect(page.getByTestId('lens-number')).toBeVisible();
});

test('statements stand in folders, are marked, and are found by what was opened last', async ({ page }) => {
  await page.goto('/statements');
  const list = page.locator('.list tbody tr');
  await page.getByRole('button', { name: 'Board' }).click();
  await expect(list).toHaveCount(4);
  await page.getByRole('button', { name: 'Favourite: Balance sheet' }).click();
  await page.getByRole('button', { name: 'Favourites 1' }).click();
  await expect(list).toHaveText([/Balance sheet/]);

  await page.getByRole('link', { name: 'Balance sheet' }).click();
  await expect(page.getByRole('heading', { name: 'Balance sheet', level: 1 })).toBeVisible();
  await page.getByTestId('page').click();
  await page.getByRole('menuitem', { name: 'Ratios' }).click();
  await expect(page.getByRole('heading', { name: 'Ratios', level: 1 })).toBeVisible();
  await page.getByRole('link', { name: 'Statements' }).click();
  await page.getByRole('button', { name: 'Opened last' }).click();
  await expect(list.first()).toContainText('Ratios');

  await list.first().getByText('Analysis').click();
  await page.getByRole('button', { name: 'More', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Move to a folder…' }).click();
  await page.getByRole('combobox', { name: 'Folder' }).fill('Treasury');
  await page.getByRole('button', { name: 'Move', exact: true }).click();
  await page.getByRole('button', { name: 'Treasury 1' }).click();
  await expect(list).toHaveText([/Ratios/]);
});
