import { statSync } from 'node:fs';
import { choose } from '../pages/choose';
import { expect, test } from '../fixtures/served';
import type { FiguresView, VersionView } from '@margin-lens/contract';
import { expectAccessible } from '../fixtures/no-violations';
import { VersionsPage } from '../pages/versions-page';

test('a plan is seeded from actual to date plus forecast, uplifted, phased and pasted into', async ({ page }) => {
  const sheet = new VersionsPage(page);
  await sheet.open('FORECAST_2');
  const forecast = await sheet.total('Net sales');
  await expectAccessible(page);

  // a plan for the next year, empty at first
  await page.getByTestId('new-version').click();
  await expect(page.getByLabel('Name')).toHaveValue('Plan FY28');
  await page.getByRole('button', { name: 'Create' }).click();
  await expect(page.getByRole('heading', { name: 'Plan FY28', level: 1 })).toBeVisible();
  await expect(page).toHaveURL(/versions\/PLAN_FY28/);
  await expect(sheet.entry).toBeFocused();

  // seeded from actual to date plus Forecast 2, a year before
  await page.keyboard.press('Control+a');
  await sheet.act('Seed…');
  await choose(sheet.panel.getByLabel('Start from'), /^Forecast 2/);
  await expect(sheet.panel.getByTestId('profit-effect')).not.toBeEmpty();
  await expect(page.getByTestId('apply')).toContainText(/Apply to [\d,]+ figures/);
  await sheet.apply();
  await expect.poll(() => sheet.total('Net sales')).toBe(forecast);
  await sheet.settled();

  // energy 10 % up from October on, once
  const energy = await sheet.total('Energy');
  await sheet.cell('Energy', 6).click();
  await sheet.act('Uplift…');
  await sheet.panel.getByLabel('By', { exact: true }).fill('10');
  await expect(page.getByTestId('apply')).toBeDisabled();
  await choose(sheet.panel.getByLabel('Counts'), 'once');
  await sheet.apply();
  await expect.poll(() => sheet.total('Energy')).not.toBe(energy);

  // the shape of a year is that of the last whole one; of the running year it is said that months are missing
  await sheet.cell('Selling', 0).click();
  await page.keyboard.press('Shift+End');
  await sheet.act('Phase…');
  await sheet.panel.getByLabel('Total').fill('24000');
  await expect(sheet.panel.getByRole('radio', { name: 'FY26 actual' })).toBeChecked();
  await sheet.panel.getByRole('radio', { name: 'FY27 actual, 5 of 12 months' }).check();
  await expect(sheet.panel.getByRole('note')).toContainText('no figures for 7 months, September 2027 to March 2028');
  await choose(sheet.panel.getByLabel('Spread'), /evenly/);
  await sheet.apply();
  await expect.poll(() => sheet.total('Selling')).toBe('24,000');
  await expect(sheet.cell('Selling', 0)).toHaveText('2,000');
  await sheet.settled();

  // a block from a spreadsheet, expressions, a typed year, and filling a selection
  await sheet.cell('Research and design', 0).click();
  await sheet.paste('410\t420\t1,430\n');
  await expect(sheet.cell('Research and design', 2)).toHaveText('1,430');
  await sheet.type('Research and design', 2, '430');
  await sheet.type('Research and design', 3, '=400*1.02');
  await expect(sheet.cell('Research and design', 3)).toHaveText('408');
  await sheet.type('Distribution', 12, '12000');
  await expect.poll(() => sheet.total('Distribution')).toBe('12,000');
  await sheet.cell('Other operating income', 0).click();
  await page.keyboard.press('Shift+End');
  await page.keyboard.type('90');
  await page.keyboard.press('Control+Enter');
  await expect.poll(() => sheet.total('Other operating income')).toBe('1,080');
  await page.keyboard.press('Control+z');
  await expect.poll(() => sheet.total('Other operating income')).not.toBe('1,080');
  await page.keyboard.press('Control+Shift+z');
  await expect.poll(() => sheet.total('Other operating income')).toBe('1,080');
  await sheet.settled();
});

test('a copy with two digits swapped is found out and taken back; a plan is submitted, approved and locked', async ({
  page,
  request,
}) => {
  const sheet = new VersionsPage(page);
  await sheet.open('PLAN_FY27');
  const energy = await sheet.total('Energy');
  await page.getByTestId('version-menu').click();
  await page.getByRole('menuitem', { name: 'Copy…' }).click();
  await page.getByRole('button', { name: 'Create' }).click();
  await expect(page.getByRole('heading', { name: 'Plan FY27, copy' })).toBeVisible();
  await expect.poll(() => sheet.total('Energy')).toBe(energy);
  const copied = (await (
    await request.get('/api/v1/figures?version=PLAN_FY27_COPY&scope=LMT&from=FY2027-P01&to=FY2027-P12')
  ).json()) as FiguresView;
  const line = copied.lines.find(({ account, figures }) => account === '6400' && String(figures[4]).length >= 6)!;
  const before = line.figures[4]!;
  const digits = [...String(Math.abs(before))];
  const at = digits.findIndex((digit, index) => digit !== digits[index + 1] && index < digits.length - 1);
  [digits[at], digits[at + 1]] = [digits[at + 1]!, digits[at]!];
  const planted = Number(digits.join('')) * Math.sign(before);
  const cell = { account: '6400', combination: line.combination, period: 'FY2027-P05', before, after: planted };
  await request.put('/api/v1/versions/PLAN_FY27_COPY/figures', {
    data: { scope: 'LMT', how: 'typed', label: '', cells: [cell] },
  });
  await page.reload();
  await page.getByRole('tab', { name: 'Differences' }).click();
  await choose(page.getByTestId('other'), 'Plan FY27');
  await expect(page.getByTestId('differences').getByRole('listitem')).toHaveCount(1);
  await expect(page.getByTestId('differences')).toContainText('Kiln gas');
  await expect(page.getByTestId('differences')).toContainText('Swapped digits');
  await expect(page.getByTestId('differences')).toContainText('August 2026');
  await page.getByTestId('differences').getByRole('button').click();
  await expect(page.getByRole('tab', { name: 'Cell' })).toBeVisible();
  await expect(sheet.entry).toBeFocused();
  await expect(sheet.entry).toHaveAttribute('aria-colindex', '6');

  // taken back in its history
  await page.getByRole('tab', { name: 'Changes' }).click();
  await page.getByRole('button', { name: 'take back' }).first().click();
  await page.getByRole('tab', { name: 'Differences' }).click();
  await expect(page.getByTestId('verdict')).toContainText('the same in every account and month');

  // submitted, approved, locked: the figures stay as they are
  for (const step of ['Submit', 'Approve', 'Lock']) {
    await page.getByTestId('move-on').getByText(step).click();
  }
  await expect(page.getByText('Plan FY27, copy is locked; its figures stay as they are.')).toBeVisible();
  const versions = (await (await request.get('/api/v1/versions')).json()) as VersionView[];
  expect(versions.find(({ code }) => code === 'PLAN_FY27_COPY')).toMatchObject({ state: 'locked' });
});

test('actuals are read against the plan, and two exceptions are remarked on with live figures', async ({
  page,
  request,
}) => {
  const copy = {
    name: 'Plan FY27 B',
    kind: 'plan',
    from: 'FY2027-P01',
    to: 'FY2027-P12',
    cutOver: '',
    parent: '',
    copyOf: 'PLAN_FY27',
    opening: null,
  };
  const { code } = (await (await request.post('/api/v1/versions', { data: copy })).json()) as { code: string };
  await page.goto(`/exceptions?scope=LMT&as_at=2026-08&against=${code}`);
  const rows = page.getByTestId('exceptions').locator('tbody tr');
  await expect(rows.first()).toContainText('Profit for the period');
  await expect(page.getByTestId('subtitle')).toContainText('Actual against Plan FY27 B');
  await expect(page.getByText('Unplanned')).toBeVisible();
  await expectAccessible(page);
  for (const [at, words] of [
    [1, 'Tile prices rose;'],
    [2, 'Group charges were not planned;'],
  ] as const) {
    await rows.nth(at).click();
    await expect(rows.nth(at)).toContainText('to explain');
    await page.getByTestId('remark-text').fill(words);
    await page.getByRole('button', { name: 'Change', exact: true }).click();
    await expect(page.getByTestId('remark-text')).toHaveValue(`${words} {q1}`);
    await page.getByTestId('write').click();
    await expect(page.getByTestId('remark')).toContainText(words);
    await expect(rows.nth(at)).toContainText('open');
  }
  const shown = (await rows.nth(2).locator('td').nth(2).innerText()).trim();
  await expect(page.getByTestId('remark')).toContainText(shown);
  await page.getByTestId('remark').getByRole('button', { name: 'answered' }).click();
  await expect(rows.nth(2)).toContainText('answered');

  // the figure moves with the plan: the remark says what it was
  const figures = (await (
    await request.get(`/api/v1/figures?version=${code}&scope=LMT&from=FY2027-P01&to=FY2027-P12`)
  ).json()) as FiguresView;
  const {
    account,
    combination,
    figures: [before],
  } = figures.lines.find((line) => line.account === '7410')!;
  const cells = [{ account, combination, period: 'FY2027-P01', before, after: before! + 5_000_000 }];
  await request.put(`/api/v1/versions/${code}/figures`, { data: { scope: 'LMT', how: 'typed', label: '', cells } });
  await page.reload();
  await rows.filter({ hasText: 'Administration' }).click();
  await expect(page.getByTestId('remark')).toContainText(`was ${shown}`);

  // beside the statement, the same row is marked, and a cell of it is remarked on from the keyboard
  await page.goto(
    '/statements/income_statement?scope=LMT&as_at=2026-08&columns=against_plan&cell=administration~month_change',
  );
  await expect(page.getByRole('rowheader', { name: 'Administration' }).locator('.remarked')).toHaveClass(/answered/);
  await page.locator('td.spot').press('r');
  await expect(page.getByTestId('remark-text')).toBeFocused();
  await page.keyboard.type('See the note to the month');
  await page.getByTestId('write').click();
  await expect(page.getByTestId('remark').first()).toContainText('See the note to the month');
  await expect(page.locator('td.spot .remarked')).toHaveClass(/open/);

  // and it goes along on paper
  await page.locator('td.spot').press('Escape');
  await page.getByTestId('export').click();
  const item = page.getByRole('menuitem', { name: 'Pages with the remarks below (PDF)' });
  const [download] = await Promise.all([page.waitForEvent('download'), item.click()]);
  expect(download.suggestedFilename()).toMatch(/\.pdf$/);
  expect(statSync(await download.path()).size).toBeGreaterThan(1000);

  // next month it is a proposal
  await page.goto('/exceptions?scope=LMT&as_at=2026-09&version=FORECAST_2');
  await page.getByTestId('exceptions').locator('tbody tr').filter({ hasText: 'Administration' }).click();
  await page.getByRole('button', { name: 'carry on to this month' }).click();
  await expect(page.getByTestId('remark')).toContainText('Group charges were not planned');
});

test('a sheet goes to a spreadsheet and comes back by its keys; nothing is written before it is taken', async ({
  page,
  request,
}) => {
  const sheet = new VersionsPage(page);
  await sheet.open('FORECAST_2');
  const out = await (await request.get('/api/v1/versions/FORECAST_2/sheet?scope=LMT&format=csv')).text();
  const [head, ...lines] = out.trim().split('\r\n');
  const at = head!.split(',').indexOf('FY2027-P09');
  const gas = lines.findIndex((line) => line.startsWith('6400,') && Number(line.split(',')[at]) !== 0);
  const cells = lines[gas]!.split(',');
  cells[at] = String(Number(cells[at]) + 1000);
  const gone = lines.findIndex((line, index) => index !== gas && Number(line.split(',')[at]) !== 0);
  const kept = lines.filter((_, index) => index !== gas && index !== gone);
  const edited = [head, ...kept, cells.join(','), '9999,,Nothing'].join('\r\n');
  await page
    .getByTestId('sheet-file')
    .setInputFiles({ name: 'forecast.csv', mimeType: 'text/csv', buffer: Buffer.from(edited) });
  await expect(page.getByTestId('sheet-says')).toContainText('0 new, 1 changed');
  await expect(sheet.panel).toContainText('the chart has no such account');
  // a line that is not in the file any more is named, and stays
  await expect(sheet.panel.getByTestId('sheet-left')).toContainText(/its line is gone, \d+ figures/);
  await expect(page.getByTestId('take-sheet')).toHaveText('Take 1 figure');
  const before = await sheet.total('Operating profit');
  await page.getByTestId('take-sheet').click();
  await expect.poll(() => sheet.total('Operating profit')).not.toBe(before);
  await sheet.settled();
  await page.getByRole('tab', { name: /Changes/ }).click();
  await expect(sheet.panel).toContainText('forecast.csv');
});

test('two people who type into the same sheet lose nothing', async ({ browser }) => {
  const newPage = async () => (await browser.newContext()).newPage();
  const [first, second] = [await newPage(), await newPage()];
  const [a, b] = [new VersionsPage(first), new VersionsPage(second)];
  await a.open('FORECAST_2');
  await b.open('FORECAST_2');
  const tiles = await b.cell('Administration', 9).innerText();
  await a.type('Administration', 8, '1300');
  await a.settled();
  await b.type('Administration', 9, '1310');
  await b.settled();
  // another cell: both are there
  await first.reload();
  await expect(a.cell('Administration', 8)).toHaveText('1,300');
  await expect(a.cell('Administration', 9)).toHaveText('1,310');
  // the same cell, with the second not having seen it yet: they are told who was there, and decides
  await second.route('**/api/v1/versions', (route) => route.abort());
  await a.type('Administration', 8, '1350');
  await a.settled();
  await b.type('Administration', 8, '1400');
  await expect(second.getByTestId('conflict')).toContainText(
    /Controller meanwhile changed \d+ figures that you changed too/,
  );
  await expect(b.cell('Administration', 8)).toHaveText('1,350');
  await second.getByRole('button', { name: 'One by one' }).click();
  await expectAccessible(second);
  await second.getByRole('button', { name: 'Keep mine' }).click();
  await expect(second.getByTestId('conflict')).toHaveCount(0);
  await expect(b.cell('Administration', 8)).toHaveText('1,400');
  await b.settled();
  await first.reload();
  await expect(a.cell('Administration', 8)).toHaveText('1,400');
  expect(tiles).not.toBe('');
  await first.close();
  await second.close();
});

test('a statement is read as charts of a row, and why it differs by price, volume and mix', async ({ page }) => {
  await page.goto(
    '/statements/income_statement?scope=LMT&as_at=2026-08&columns=to_date_and_full_year&cell=net_sales~year_change',
  );
  await expect(page.getByRole('columnheader', { name: /Forecast 1/ }).last()).toContainText('actual to Aug');
  await page.getByRole('tab', { name: 'Why' }).click();
  await expect(page.getByTestId('why-by').getByRole('option', { name: 'entities' })).toHaveCount(0);
  await choose(page.getByTestId('why-by'), 'price, volume and mix of product line');
  await expect(page.getByTestId('why-values')).toContainText('Tiles');
  await expect(page.getByTestId('why-term').filter({ hasText: 'Volume' })).toBeVisible();

  await page.locator('td.spot').press('c');
  await expect(page).toHaveURL(/charts=net_sales/);
  await expect(page.getByTestId('charts')).toContainText('Net sales by month');
  await expect(page.locator('ml-charts-view figure svg')).toHaveCount(3);
  await page.getByRole('button', { name: 'Net sales' }).press('ArrowDown');
  await expect(page.getByTestId('charts')).toContainText('Tableware by month');
  await page.getByRole('button', { name: 'Profit for the period' }).click();
  await page.getByRole('radio', { name: 'Full year' }).click();
  await expect(page.getByTestId('bridge-sentence')).toContainText('Forecast 1');
  await expectAccessible(page);
  await page.keyboard.press('c');
  await expect(page.locator('ml-statement-table')).toBeVisible();
});

test('why a figure is off is told by entity, in steps that add up', async ({ page }) => {
  await page.goto(
    '/statements/income_statement?scope=LMG&as_at=2026-08&columns=to_date_and_full_year&cell=net_sales~year_change',
  );
  await page.getByRole('tab', { name: 'Why' }).click();
  await choose(page.getByTestId('why-by'), 'entities');
  // months to come are translated at the rates of the plan
  await expect(page.getByTestId('why-sentence')).toContainText('Forecast 1');
  await page.goto(
    '/statements/income_statement?scope=LMG&as_at=2026-08&columns=against_plan&cell=gross_profit~ytd_change',
  );
  await page.getByRole('tab', { name: 'Why' }).click();
  await choose(page.getByTestId('why-by'), 'entities');
  await expect(page.getByTestId('why-sentence')).toContainText('Larkmoor Group');
  await expect(page.getByTestId('why-basis')).toContainText('This is the figure of Larkmoor Group');
  await expect(page.getByTestId('why-basis')).toContainText('with eliminations, in EUR');
  await expect(page.getByTestId('why-basis')).toContainText(
    'Not consolidated in full in August 2026: Kilnworks Energy',
  );
  const terms = page.getByTestId('why-term');
  await expect(terms.filter({ hasText: 'Larkmoor Supply' })).toBeVisible();
  const cents = (text: string) => Math.round(Number(text.replace(/[(),]/g, '')) * 100) * (text.includes('(') ? -1 : 1);
  const amounts = await page.locator('ml-why table').first().locator('td').allInnerTexts();
  const [from, ...steps] = amounts.map((text) => cents(text.trim()));
  const to = steps.pop();
  expect(steps.reduce((sum, step) => sum + step, from!)).toBe(to);
  await expectAccessible(page);
});

test('a draft version is deleted after a question, and brought back', async ({ page }) => {
  const sheet = new VersionsPage(page);
  await sheet.open('FORECAST_2');
  const sales = await sheet.total('Net sales');
  const remove = async () => {
    await page.getByRole('button', { name: 'More' }).click();
    await page.getByRole('menuitem', { name: 'Delete…' }).click();
  };
  await remove();
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByTestId('delete-version')).toHaveCount(0);
  await expect(page).toHaveURL(/FORECAST_2/);
  await remove();
  await expectAccessible(page);
  await page.getByTestId('delete-version').click();
  await expect(page).not.toHaveURL(/FORECAST_2/);
  await page.getByRole('button', { name: 'Undo' }).last().click();
  await expect(page).toHaveURL(/FORECAST_2/);
  await expect.poll(() => sheet.total('Net sales')).toBe(sales);
});

test('a sheet whose numbers can be read in two ways is asked about before anything is taken', async ({ page }) => {
  const sheet = new VersionsPage(page);
  await sheet.open('FORECAST_2');
  const file = ['account;values;FY2027-P09', '7410;;1.234'].join('\n');
  await page
    .getByTestId('sheet-file')
    .setInputFiles({ name: 'december.csv', mimeType: 'text/csv', buffer: Buffer.from(file) });
  await expect(page.getByTestId('unclear-numbers')).toContainText('“1.234” may have thousands or decimals');
  await page.getByRole('button', { name: /a comma before decimals/ }).click();
  await expect(page.getByTestId('unclear-numbers')).toHaveCount(0);
  await expect(sheet.panel).toContainText('1,234.00');
});
