import { expect, test } from '../fixtures/quiet-console';
import { expectAccessible } from '../fixtures/no-violations';
import { StatementPage } from '../pages/statement-page';

test('the structure of the group is read at any month, from the box to the entity to its statements', async ({
  page,
}) => {
  await page.goto('/statements/income_statement?scope=LMG&as_at=2026-08');
  await page.getByRole('link', { name: 'Structure' }).click();
  const tree = page.getByTestId('tree');
  await expect(tree.getByRole('button')).toHaveCount(7);
  await expect(tree.getByRole('button', { name: /Kilnworks Energy/ })).toContainText('30 %, associate');
  await expect(page.getByTestId('entities').getByRole('row', { name: /Larkmoor Japan/ })).toContainText('20 %');
  await expectAccessible(page);

  // Larkmoor Americas is bought in June 2026
  await tree.getByRole('button', { name: /Larkmoor Americas/ }).click();
  await expect(page.locator('tr.chosen')).toContainText('Larkmoor Americas');
  for (const month of ['July', 'June', 'May']) {
    await page.keyboard.press(',');
    await expect(page.getByTestId('subtitle')).toContainText(month);
  }
  await expect(tree.getByRole('button')).toHaveCount(6);
  await expect(page.getByTestId('subtitle')).toContainText('5 in full, 1 as one line');

  await page.getByTestId('entities').getByRole('link', { name: 'Larkmoor Tile' }).click();
  await expect(page).toHaveURL(/\/statements\?.*scope=LMT/);
});

test('an account of an entity’s own is found with its amount, mapped, and seen on the lines that it explains', async ({
  page,
}) => {
  await page.goto('/mapping?scope=KILNHIRE&as_at=2026-08');
  const open = page.getByRole('row', { name: /K905/ });
  await expect(open).toContainText('not mapped yet');
  await expect(open).toContainText('18,400.00');
  await open.getByRole('button', { name: 'Map K905' }).press('Enter');
  const dialog = page.getByRole('dialog');
  await dialog.getByTestId('to').fill('advert');
  await expect(page.getByRole('option')).toHaveCount(1);
  await page.keyboard.press('Enter');
  await expect(dialog).toContainText('Advertising');
  await expectAccessible(page);
  await dialog.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByTestId('subtitle')).toContainText('all that was posted is mapped');
  await expect(open).toContainText('7080 Advertising');

  // hired by the day since April 2026: closed months stay where they are
  await page.getByRole('button', { name: 'Change R110' }).click();
  await dialog.getByTestId('to').fill('4010');
  await expect(page.getByRole('option')).toHaveCount(1);
  await page.keyboard.press('Enter');
  await dialog.getByRole('button', { name: 'Keep' }).click();
  await expect(dialog.getByRole('alert')).toContainText('FY2027-P01, which is closed');
  await dialog.getByRole('textbox', { name: 'From' }).fill('01/08/2026');
  await dialog.getByRole('button', { name: 'Keep' }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByRole('row', { name: /^R110/ })).toHaveCount(2);

  await page.goto('/ledger/lines?scope=KHS&as_at=2026-08&account=7080');
  await expect(page.getByText('own account K905')).toBeVisible();
});

test('a share is changed from a day on: what it moves stands there before it is kept, and circles are refused', async ({
  page,
}) => {
  await page.goto('/structure?scope=LARKMOOR&as_at=2026-08');
  await page.getByTestId('new-share').click();
  const dialog = page.getByRole('dialog');
  const choose = async (field: string, option: string) => {
    await dialog.getByLabel(field).click();
    await page.getByRole('option', { name: option, exact: true }).click();
  };
  await choose('Holder', 'Larkmoor Tile');
  await choose('Held', 'Larkmoor Ceramics');
  await expect(dialog.getByTestId('refused')).toContainText('circle');
  await expect(dialog.getByRole('button', { name: 'Keep' })).toBeDisabled();

  await choose('Holder', 'Larkmoor Ceramics');
  await choose('Held', 'Larkmoor Japan');
  await dialog.getByLabel('Percent').fill('60');
  const effect = dialog.getByTestId('effect');
  await expect(effect.getByRole('row', { name: /Larkmoor Japan/ })).toContainText('in full, 80 %in full, 60 %');
  await expectAccessible(page);
  await dialog.getByRole('button', { name: 'Keep' }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByTestId('tree').getByRole('button', { name: /Larkmoor Japan/ })).toContainText('60 %');
  await expect(page.getByTestId('shares').getByRole('row', { name: /Larkmoor Japan/ })).toHaveCount(2);
  // the month before is as it was
  await page.keyboard.press(',');
  await expect(page.getByTestId('tree').getByRole('button', { name: /Larkmoor Japan/ })).toContainText('80 %');

  // dragged onto its new holder, the form is filled
  await page.keyboard.press('.');
  const [studio, tile] = [/Larkmoor Studio/, /Larkmoor Tile/].map((name) =>
    page.getByTestId('tree').getByRole('button', { name }),
  );
  await studio!.dragTo(tile!, { steps: 8 });
  await expect(dialog.getByLabel('Holder')).toContainText('Larkmoor Tile');
  await expect(dialog.getByLabel('Held')).toContainText('Larkmoor Studio');
  await expect(dialog.getByTestId('refused')).toContainText('200');
  await dialog.getByRole('button', { name: 'Cancel' }).click();
});

test('a missing rate is seen, taken from the reference rates, and every figure follows', async ({ page }) => {
  const balance = '/statements/balance_sheet?scope=KILNHIRE&as_at=2025-11&columns=month_ends';
  await page.goto(balance);
  await expect(page.getByText('No closing rate SEK to EUR for November 2025.', { exact: true })).toBeVisible();
  const total = page
    .getByRole('row', { name: /^Total assets/ })
    .getByRole('gridcell')
    .last();
  await expect(total).toHaveText(/No closing rate SEK to EUR for November 2025/);

  await page.getByRole('link', { name: 'Rates' }).click();
  await expect(page.getByTestId('subtitle')).toContainText('1 is missing');
  await expectAccessible(page);
  await page.getByTestId('reference').click();
  await page.getByRole('menuitem', { name: 'Take those that are missing' }).click();
  await expect(page.getByTestId('says')).toContainText('1 taken from Made-up rates');
  await page.getByTestId('save').click();
  await expect(page.getByTestId('subtitle')).toContainText('all are there');

  await page.goto(balance);
  await expect(total).toHaveText(/^\s*\d,\d{3}\s*$/);
  await expect(page.getByText('No closing rate')).toHaveCount(0);
  await expect(page.getByText('†')).toHaveCount(0);

  // a rate that is hard to believe marks each figure that stands on it, and the page says which one it is
  await page.goto('/setup/rates?scope=KILNHIRE');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.locator(':focus')).toHaveRole('gridcell');
  for (const cell of ['', 'EUR', 'SEK', 'FY2026-P09', '', 'closing', '0.0899']) {
    if (cell) await page.keyboard.type(cell);
    await page.keyboard.press('Tab');
  }
  await page.getByTestId('save').click();
  await expect(page.getByTestId('says')).toContainText('Saved');
  await page.goto(balance.replace('2025-11', '2025-12'));
  await expect(total).toHaveText(/^\s*[\d,]+ †\s*$/);
  await expect(
    page.getByText('† The closing rate SEK to EUR for December 2025 is far from the month before.', { exact: true }),
  ).toBeVisible();
});

test('a translation reserve is traced to its rates and postings by keyboard', async ({ page }) => {
  await page.goto('/translation?scope=LARKMOOR&as_at=2026-08');
  const proof = page.getByTestId('proof-LMT');
  await expect(page.getByTestId('subtitle')).toContainText('both ways agree in every month');
  await expectAccessible(page);
  await proof.getByRole('button', { name: 'August 2026' }).focus();
  await page.keyboard.press('Enter');
  const trace = page.getByTestId('trace');
  await expect(trace.getByTestId('level-proof')).toContainText('The terms add up to');
  await page.keyboard.press('ArrowDown');
  await expect(trace.getByRole('button', { name: /Result × closing less average/ })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(trace).toContainText('PLN for 1 EUR, closing rate, less');
  await expect(trace.locator('[data-term]').first()).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(trace.getByTestId('level-proof')).toContainText('lines add up to');
  await page.keyboard.press('Backspace');
  await expect(trace).toContainText('PLN for 1 EUR, closing rate, less');
  await page.keyboard.press('Escape');
  await expect(trace).toBeHidden();
});

test('a group is read by entity, at last year’s rates, and told apart by business, rates and group', async ({
  page,
}) => {
  await page.goto('/statements/income_statement?scope=LMG&as_at=2026-08');
  await page.getByTestId('scope').click();
  await page.getByRole('menuitem', { name: /Larkmoor Group/ }).click();
  await expect(page.getByTestId('subtitle')).toContainText('consolidated');
  await page.goto(
    '/statements/income_statement?scope=LARKMOOR&as_at=2026-08&columns=constant_currency&cell=profit~change',
  );
  await page.keyboard.press('Enter');
  const lens = page.getByRole('complementary', { name: 'Lens' });
  await lens.getByRole('tab', { name: 'Why' }).click();
  await lens.getByRole('combobox').first().click();
  await page.getByRole('option', { name: 'business, rates and group' }).click();
  await expect(lens.getByTestId('why-term').nth(0)).toContainText('Business');
  await expect(lens.getByTestId('why-term')).toHaveCount(3);
});

test('what was paid for a share is said, and a group within the group is made and looked at', async ({ page }) => {
  await page.goto('/structure?scope=KILNHIRE&as_at=2026-08');
  const sverige = page.getByTestId('shares').getByRole('row', { name: /Kilnhurst Sverige/ });
  await expect(sverige.getByTestId('lacks')).toContainText('what was paid is not said');
  await sverige.getByRole('button', { name: /^Terms/ }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('Purchase of 100 % of Kilnhurst Sverige');
  await dialog.getByLabel('Consideration, EUR').fill('1,250,000.00');
  await dialog.getByRole('button', { name: 'Add an item' }).click();
  await dialog.getByLabel('Item 1', { exact: true }).fill('Brand');
  await dialog.getByLabel('Account of item 1', { exact: true }).fill('1020');
  await page.keyboard.press('Tab');
  await dialog.getByLabel('Amount of item 1').fill('12 000 000');
  await dialog.getByLabel('Life of item 1').fill('120');
  await expectAccessible(page);
  await dialog.getByRole('button', { name: 'Keep' }).click();
  await expect(sverige).toContainText('paid 1,250,000.00, 1 item');
  await expect(sverige.getByTestId('lacks')).toHaveCount(0);

  await page.goto('/structure?scope=LARKMOOR&as_at=2026-08');
  await page.getByTestId('new-group').click();
  await dialog.getByLabel('Code').fill('EAST');
  await dialog.getByLabel('Name').fill('Larkmoor East');
  const choose = async (field: string, option: string) => {
    await dialog.getByLabel(field).click();
    await page.getByRole('option', { name: option, exact: true }).click();
  };
  await choose('Head', 'Larkmoor Japan');
  await choose('Part of', 'Larkmoor Group');
  await dialog.getByLabel('Currency').fill('JPY');
  await dialog.getByRole('button', { name: 'Keep' }).click();
  await page.getByTestId('entities').getByRole('button', { name: 'heads Larkmoor East' }).click();
  await expect(page.getByTestId('subtitle')).toContainText('JPY');
  // a share that is sold asks for what was got for it
  await page.goto('/structure?scope=LARKMOOR&as_at=2026-08');
  await page.getByTestId('new-share').click();
  await choose('Held', 'Larkmoor Japan');
  await dialog.getByLabel('Percent').fill('60');
  await dialog.getByRole('button', { name: 'Keep' }).click();
  const sale = page.getByTestId('shares').getByRole('row', { name: /Larkmoor Japan.*1 August 2026/ });
  await expect(sale.getByTestId('lacks')).toContainText('what was got for it is not said');
  await sale.getByRole('button', { name: /^Terms/ }).click();
  await expect(dialog).toContainText('Sale of 20 % of Larkmoor Japan');
  await dialog.getByLabel('Proceeds, EUR').fill('400,000');
  await dialog.getByRole('button', { name: 'Keep' }).click();
  await expect(sale).toContainText('got 400,000');
});

test('a forecast is looked at in the currency of the group, beside others, and planned in its entities', async ({
  page,
}) => {
  await page.goto('/versions/FORECAST_2?scope=LARKMOOR&as_at=2026-08&with=PLAN_FY27');
  await expect(page.getByTestId('of-group')).toContainText('A group is planned in its entities');
  await expect(page.getByRole('row', { name: /^Net sales/ }).first()).toBeVisible();
  await expect(page.getByRole('toolbar', { name: 'Actions on the selection' })).toHaveCount(0);
  await expectAccessible(page);
  await page.getByTestId('scope').click();
  await page.getByRole('menuitem', { name: /Larkmoor Tile/ }).click();
  await expect(page.getByTestId('of-group')).toHaveCount(0);
  await expect(page.getByRole('toolbar', { name: 'Actions on the selection' })).toBeVisible();
});

test('the worksheet of the group cross-foots, and goodwill and the part of others are traced to where they come from', async ({
  page,
}) => {
  const statement = new StatementPage(page);
  await statement.open('balance_sheet', '?scope=LARKMOOR&as_at=2026-08&columns=group_worksheet');
  for (const head of ['Larkmoor Japan', 'Adjustments', 'Sum', 'Investment against equity', 'Group'])
    await expect(page.getByRole('columnheader', { name: head }).first()).toBeAttached();
  await expectAccessible(page);
  // from the group's intangible assets to the eliminations of its goodwill
  await statement.open(
    'balance_sheet',
    '?scope=LARKMOOR&as_at=2026-08&columns=group_worksheet&cell=intangible_assets~group',
  );
  await statement.lens.getByRole('button', { name: /1030 Goodwill/ }).press('Enter');
  await expect(statement.lens).toContainText('Eliminations alone');
  await statement.lens.getByRole('button', { name: /^Eliminations/ }).press('Enter');
  await expect(statement.lens.getByTestId('level-proof')).toContainText('✓');
});

test('what is eliminated is listed with what it does, and left out for once', async ({ page }) => {
  await page.goto('/statements/income_statement?scope=LARKMOOR&as_at=2026-08');
  await page.getByRole('link', { name: 'Eliminations' }).click();
  const group = page.locator('tfoot').getByRole('row', { name: /^Larkmoor Group/ });
  const before = await group.innerText();
  const bought = page.getByTestId('kind-investment').getByRole('row', { name: /Larkmoor Americas/ });
  await bought.getByRole('button', { name: /Larkmoor Americas/ }).press('Enter');
  await expect(page.getByRole('table', { name: 'Lines of Larkmoor Americas' })).toContainText('1030 Goodwill');
  await expectAccessible(page);
  await bought.getByRole('checkbox').click();
  await expect(page.getByTestId('subtitle')).toContainText('1 switched off here');
  await expect.poll(() => group.innerText()).not.toBe(before);
  await bought.getByRole('checkbox').click();
  await expect.poll(() => group.innerText()).toBe(before);
});

test('entities that do not agree are found, down to the invoice that one has not booked', async ({ page }) => {
  await page.goto('/tie-outs?scope=LARKMOOR&as_at=2026-08');
  await page
    .getByRole('row', { name: /Entities agree on what they owe each other/ })
    .getByRole('button')
    .click();
  await expect(page.getByTestId('subtitle')).toContainText('to be resolved');
  const pair = page.getByRole('row', { name: /Larkmoor Tile and Larkmoor Supply trade, balances/ });
  await expect(pair).toContainText('47,920.21');
  await pair.getByRole('button').press('Enter');
  const documents = page.getByTestId('documents');
  await expect(documents).toContainText('Recharge of the autumn campaign');
  await expect(documents).toContainText('Larkmoor Supply has not booked IC-2026-08-LMT-LMU-2, 206,100.00 PLN.');
  await expectAccessible(page);
  // the statement goes out to the other side
  await page.getByRole('button', { name: 'Statement for the other side' }).press('Enter');
  const download = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: /XLSX/ }).click();
  expect((await download).suggestedFilename()).toBe('LMT-LMU-2026-08.xlsx');
  // taken out of the group by hand, as long as nobody can book it, it ties
  await documents.getByRole('button', { name: 'Eliminate by hand …' }).press('Enter');
  await expect(page.getByLabel('Amount, EUR')).toHaveValue('47,920.21');
  await expect(page.getByRole('combobox', { name: 'Taken up in' })).toHaveValue('7500');
  await expectAccessible(page);
  await page.getByLabel('Reason').press('Enter');
  await expect(pair).toContainText('✓ eliminated by hand');
  await page.goto('/tie-outs?scope=LARKMOOR&as_at=2026-08');
  const agrees = page.getByRole('row', { name: /Entities agree on what they owe each other/ });
  await expect(agrees).toContainText('✓');
  await page.goto('/eliminations?scope=LARKMOOR&as_at=2026-08');
  await expect(page.getByTestId('kind-by_hand')).toContainText('What Larkmoor Tile and Larkmoor Supply differ by');
  await page.getByRole('link', { name: 'By hand' }).click();
  const sheet = page.getByRole('grid');
  for (const line of [0, 1]) {
    await sheet.getByText('LMT-LMU FY2027-P05').nth(line).click();
    await page.getByRole('button', { name: 'Delete' }).click();
  }
  await page.getByTestId('save').click();
  await expect(page.getByTestId('says')).toHaveText('Saved, 2 rows');
  // what is suggested is looked at, posted, and both sides agree
  await page.goto('/between-entities?scope=LARKMOOR&as_at=2026-08');
  await pair.getByRole('button').press('Enter');
  await documents.getByRole('link', { name: 'Post in Larkmoor Supply …' }).click();
  await expect(page.getByTestId('draft')).toContainText('Debits and credits agree');
  await expect(page.getByLabel('Partner of line 1')).toHaveValue('LMT');
  await expectAccessible(page);
  await page.getByTestId('post').click();
  await expect(page.getByTestId('adjustments')).toContainText('IC-2026-08-LMT-LMU-2 of Larkmoor Tile');
  await page.goto('/tie-outs?scope=LARKMOOR&as_at=2026-08');
  await expect(agrees).toContainText('✓');
  await page.goto('/between-entities?scope=LARKMOOR&as_at=2026-08');
  await expect(page.getByTestId('subtitle')).toContainText('all pairs agree within tolerance');
  await page.goto('/adjustments?scope=LMU&as_at=2026-08');
  await page.getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByText('is deleted')).toBeVisible();
});
