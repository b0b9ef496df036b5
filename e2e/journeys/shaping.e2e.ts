import { expect, test } from '../fixtures/quiet-console';
import type { StatementView, WorkspaceView } from '@margin-lens/contract';
import { expectAccessible } from '../fixtures/no-violations';
import { ShapePage } from '../pages/shape-page';
import { StatementPage } from '../pages/statement-page';

const AS_AT = '&as_at=2026-08&scope=LMG';

test('the common-size statement with last year is built from nothing, by keyboard alone', async ({ page, request }) => {
  const shape = new ShapePage(page);
  const { keyboard } = page;
  await page.goto('/statements?as_at=2026-08&scope=LMG');
  await keyboard.press('Control+k');
  await page.getByPlaceholder('A statement, row').pressSequentially('new statement');
  await keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'New statement' })).toBeVisible();
  await expect(page.getByLabel('Name', { exact: true })).toBeFocused();
  await keyboard.type('Common size by hand');
  await keyboard.press('Enter');
  await expect(shape.table).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Common size by hand' })).toBeVisible();
  // covered from the start: a row for every heading of the chart
  await expect(page.getByTestId('proof')).toContainText('accounts placed once');

  // the year to date stands there; last year goes before it
  await expect(shape.table.locator('tbody th').first()).toBeFocused();
  await keyboard.press('ArrowRight');
  await keyboard.press('Insert');
  await expect(shape.head(1)).toBeFocused();
  await keyboard.press('e');
  await shape.tabTo('Years back');
  await keyboard.press('Control+a');
  await keyboard.type('1');
  await keyboard.press('Escape');
  await expect(shape.head(1)).toBeFocused();
  await keyboard.press('Alt+ArrowLeft');
  await expect(shape.head(0)).toContainText('2025');

  // both as shares of sales, and the change in points
  for (const [at, kind] of [
    [1, 'Share'],
    [2, 'Share'],
    [3, 'Difference'],
  ] as const) {
    await keyboard.press('End');
    await expect(shape.head(at)).toBeFocused();
    await keyboard.press('Insert');
    await expect(shape.head(at + 1)).toBeFocused();
    await keyboard.press('e');
    await shape.tabTo('Kind');
    await shape.typeChoice(kind);
    if (kind === 'Share') {
      await shape.tabTo('Of column');
      await shape.typeChoice(at === 1 ? '2025' : 'Actual');
    } else {
      await shape.tabTo('Column');
      await shape.typeChoice('% of: Actual');
      await shape.tabTo('against');
      await shape.typeChoice('% of: 2025');
    }
    await keyboard.press('Escape');
    await expect(shape.head(at + 1)).toBeFocused();
  }
  await expect(shape.head(4)).toContainText('points');
  await expectAccessible(page);
  await expect(page.getByTestId('draft-state')).toContainText('Draft saved');
  await keyboard.press('Control+Enter');
  await expect(page.getByTestId('draft-state')).toHaveText('As it is kept');
  await keyboard.press('s');
  const statement = new StatementPage(page);
  await expect(statement.table).toBeVisible();

  // the figures are those of the books: shares of sales, and their difference in points
  const url = new URL(page.url());
  const id = url.pathname.split('/').pop()!;
  const view = (await (await request.get(`/api/v1/statements/${id}?as_at=2026-08&scope=LMG`)).json()) as StatementView;
  expect(view.columns.map(({ kind }) => kind)).toEqual(['figure', 'figure', 'share', 'share', 'difference']);
  const sales = view.rows.find(({ label }) => label === 'Net sales')!;
  const costs = view.rows.find(({ label }) => label === 'Cost of sales')!;
  expect(sales.cells[3]!.amount).toBe(1);
  for (const now of [0, 1])
    expect(costs.cells[2 + now]!.amount).toBeCloseTo(costs.cells[now]!.amount! / sales.cells[now]!.amount!, 12);
  expect(costs.cells[4]!.unit.kind).toBe('points');
  expect(costs.cells[4]!.amount).toBeCloseTo(costs.cells[3]!.amount! - costs.cells[2]!.amount!, 12);
  expect(view.coverage.misplaced).toEqual([]);
});

test('every statement of the workspace can be shaped', async ({ page, request }) => {
  const { statements } = (await (await request.get('/api/v1/workspace')).json()) as WorkspaceView;
  const shape = new ShapePage(page);
  for (const { id } of statements) {
    await page.goto(`/statements/${id}?shape=1${AS_AT}`);
    await expect(shape.table).toContainText('column or series');
    await expect(page.locator('mat-progress-bar')).toHaveCount(0);
  }
});

test('rows are renamed, moved, grouped and undone, with the figures following; a formula survives it', async ({
  page,
}) => {
  const shape = new ShapePage(page);
  await shape.open('income_by_quarter', AS_AT);
  const profit = shape.row('Gross profit');
  await expect(profit.locator('td').first()).not.toBeEmpty(); // the rules stand first, the figures follow
  const before = await profit.locator('td').allTextContents();
  await shape.label('Cost of sales').click();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('Cost of goods');
  await page.keyboard.press('Enter');
  await expect(profit.locator('.chip')).toHaveText('Net sales - Cost of goods');
  await page.keyboard.press('Alt+ArrowUp');
  await expect(profit.locator('td')).toHaveText(before);

  // a wrong formula is said with its place, and the right one is drawn at once
  await shape.label('Gross profit').click();
  const field = shape.panel.getByRole('combobox', { name: 'Formula' }).and(page.locator('textarea'));
  await field.fill('Net sales − Turnover');
  await expect(shape.panel.getByRole('alert')).toContainText('Nothing is called “Turnover”');
  await field.fill('Net sales × 2');
  await expect(profit.locator('.chip')).toHaveText('Net sales × 2');
  await expect(profit.locator('td').first()).not.toHaveText(before[0]!);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(profit.locator('.chip')).toHaveText('Net sales - Cost of goods');
  await expect(profit.locator('td').first()).toHaveText(before[0]!);

  // the draft is there again after leaving, with what can be undone; then it is thrown away
  await expect(page.getByTestId('draft-state')).toContainText('Draft saved');
  await page.reload();
  await expect(shape.label('Cost of goods')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(shape.label('Cost of sales')).toBeVisible();
  await expect(page.getByTestId('draft-state')).toHaveText('As it is kept');
  await page.getByRole('button', { name: 'Redo' }).click();
  await expect(shape.label('Cost of goods')).toBeVisible();
  await page.getByTestId('more').click();
  await page.getByRole('menuitem', { name: 'Discard the draft' }).click();
  await expect(shape.label('Cost of sales')).toBeVisible();
  await expect(page.getByTestId('draft-state')).toHaveText('As it is kept');
});

test('the account without a row is placed with one click, and keeping says what else would change', async ({
  page,
}) => {
  const shape = new ShapePage(page);
  await shape.open('income_by_quarter', AS_AT);
  const warning = shape.panel.getByTestId('misplaced-account');
  await expect(warning).toContainText('6510 Carbon allowances has no row');

  // where there are more, one line says so and opens
  await shape.label('Selling').click();
  await page.keyboard.press('Delete');
  const line = shape.panel.getByTestId('misplaced-accounts');
  await expect(line).toContainText(/\d+ accounts have no row/);
  await expect(warning).toHaveCount(0);
  await line.click();
  await expect(warning.first()).toContainText('has no row');
  await expectAccessible(page);
  await page.keyboard.press('Control+z');
  await expect(line).toHaveCount(0);

  await warning.getByRole('button', { name: 'Add a row “Environmental levies” for it' }).click();
  await expect(warning).toHaveCount(0);
  await expect(page.getByTestId('proof')).toContainText('Profit agrees with the trial balance');
  await shape.keep.click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('Income by function is used by');
  await dialog.getByRole('button', { name: 'Save as a copy' }).click();
  await expect(page.getByRole('heading', { name: 'Income statement, four quarters, own layouts' })).toBeVisible();
  // the shared rows stay as they are
  await page.goto(`/statements/income_statement?as_at=2026-08&scope=LMG`);
  await expect(page.getByTestId('misplaced')).toBeVisible();
});

test('rows go to a spreadsheet as text and come back, and between layouts as they are', async ({ page }) => {
  const shape = new ShapePage(page);
  await shape.open('income_by_month', AS_AT);
  await shape.label('Net sales').click();
  await page.keyboard.press('Control+c');
  const text = await page.evaluate(() => navigator.clipboard.readText());
  expect(text.split('\n')[1]).toBe('  Tableware\taccounts\tNet sales › Tableware');
  await shape.open('ratios', AS_AT);
  await shape.label('Gross margin').click();
  await page.keyboard.press('Control+v');
  await expect(shape.label('Tableware')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(shape.label('Tableware')).toHaveCount(0);
});

test('a row is laid open by account and by dimension in Read, and totals fold', async ({ page }) => {
  const statement = new StatementPage(page);
  await statement.open('income_statement', '?as_at=2026-08&scope=LMG');
  await statement.cell('Energy', 0).click();
  await page.keyboard.press('Space');
  await expect(statement.row('6400 Kiln gas')).toBeVisible();
  await statement.cell('6400 Kiln gas', 1).click();
  await expect(statement.lens).toContainText('6400 Kiln gas');
  await statement.row('Selling').hover();
  await page.getByRole('button', { name: 'Lay Selling open' }).click();
  await page.getByRole('menuitem', { name: 'By department' }).click();
  await expect(statement.row('Sales')).toBeVisible();
  await statement.cell('Net sales', 0).click();
  await page.keyboard.press('Space');
  await expect(statement.row('Tableware')).toHaveCount(0);
});

test('the tie-outs page says which figures do not agree and leads to the cause; the library finds layouts', async ({
  page,
}) => {
  await page.goto('/tie-outs?as_at=2026-08&scope=LMG');
  await expect(page.getByTestId('subtitle')).toContainText('do not agree');
  await expect(page.getByRole('row', { name: /Cash flow meets cash/ })).toContainText('–');
  await expect(page.getByRole('row', { name: /Balance sheet balances/ })).toContainText('–');
  await expectAccessible(page);
  await page
    .getByRole('row', { name: /Every account placed once Income by function/ })
    .first()
    .getByRole('button')
    .click();
  await expect(page.getByTestId('misplaced-account')).toBeVisible();
  await page.goto('/statements?as_at=2026-08&scope=LMG');
  await page.getByRole('radio', { name: /^Rows/ }).click();
  await page.getByLabel('Search statements, rows and columns').fill('balance');
  await expect(page.getByRole('complementary', { name: 'What is chosen' })).toContainText('Total assets');
  await expectAccessible(page);
});

test('undo keeps the keyboard in the table when it takes away what had it', async ({ page }) => {
  const shape = new ShapePage(page);
  await shape.open('common_size', AS_AT);
  const heads = shape.table.locator('thead th');
  const before = await heads.count();
  await shape.head(1).click();
  await page.keyboard.press('Insert');
  await expect(heads).toHaveCount(before + 1);
  await expect(shape.head(2)).toBeFocused();
  await page.keyboard.press('Insert');
  await expect(heads).toHaveCount(before + 2);
  await expect(shape.head(3)).toBeFocused();
  for (const left of [1, 0]) {
    await page.keyboard.press('Control+z');
    await expect(heads).toHaveCount(before + left);
    await expect(shape.table.locator('[data-spot]:focus')).toHaveCount(1);
  }
});
