import { readFileSync } from 'node:fs';
import { choose } from '../pages/choose';
import { expect, test } from '../fixtures/served';
import { expectAccessible } from '../fixtures/no-violations';
import { VersionsPage } from '../pages/versions-page';

test.afterEach(async ({ request }) => {
  await request.put('/api/v1/people/me/style', { data: { numbers: 'point', days: 'dmy' } });
});

// how each style writes 1,234.5 and 2,469 in a planning sheet in thousands, and a day
const STYLES = [
  { sample: '1,234,567.50', typed: '1,234.5', shown: '1,235', twice: '=2*1,234.5', total: '2,469', csv: /,\d+\.\d\d,/ },
  { sample: '1.234.567,50', typed: '1.234,5', shown: '1.235', twice: '=2*1.234,5', total: '2.469', csv: /;\d+,\d\d;/ },
  { sample: '1’234’567.50', typed: '1’234.5', shown: '1’235', twice: '=2*1’234.5', total: '2’469', csv: /,\d+\.\d\d,/ },
];

for (const { sample, typed, shown, twice, total, csv } of STYLES)
  test(`who writes ${sample} types, pastes, copies and takes out figures so`, async ({ page }) => {
    const sheet = new VersionsPage(page);
    await sheet.open('FORECAST_2', '&unit=1000');
    await page.getByTestId('person').click();
    await page.getByRole('menuitem', { name: 'Numbers and days…' }).click();
    const dialog = page.getByRole('dialog');
    await choose(dialog.getByLabel('Numbers'), sample);
    await choose(dialog.getByLabel('Days'), /^2026-08-31/);
    await expectAccessible(page);
    await dialog.getByRole('button', { name: 'Save' }).click();
    await expect(page.getByTestId('as-at')).toHaveText('2026 August 31');

    await expect(sheet.entry).toBeFocused();
    await sheet.type('Selling', 6, typed);
    await expect(sheet.cell('Selling', 6)).toHaveText(shown);
    await sheet.type('Selling', 7, twice);
    await expect(sheet.cell('Selling', 7)).toHaveText(total);
    await sheet.cell('Selling', 8).click();
    await sheet.paste(`${typed}\t${typed}\n`);
    await expect(sheet.cell('Selling', 9)).toHaveText(shown);
    await sheet.settled();
    // what is copied is what was typed
    await page.keyboard.press('Control+c');
    await expect
      .poll(() => page.evaluate(() => navigator.clipboard.readText()))
      .toContain(typed.replace(/[^\d](?=\d{3})/, ''));
    const download = page.waitForEvent('download');
    await page.getByTestId('version-menu').click();
    await page.getByRole('menuitem', { name: 'Sheet as CSV' }).click();
    const text = readFileSync(await (await download).path(), 'utf8');
    expect(text).toMatch(csv);

    // a file comes back with a figure as its author writes it
    const lines = text.trim().split(/\r?\n/);
    const at = lines.findIndex((line) => /^\d/.test(line) && !line.includes('"'));
    const delimiter = csv.source.startsWith(';') ? ';' : ',';
    const cells = lines[at]!.split(delimiter);
    const written = `${typed}0`;
    lines[at] = [...cells.slice(0, -1), written.includes(delimiter) ? `"${written}"` : written].join(delimiter);
    await page
      .getByTestId('sheet-file')
      .setInputFiles({ name: 'back.csv', mimeType: 'text/csv', buffer: Buffer.from(lines.join('\n')) });
    await expect(sheet.panel.getByTestId('sheet-says')).toContainText('1 new, 0 changed');
    await expect(sheet.panel).toContainText(`→ ${written}`);
    await sheet.panel.getByRole('button', { name: 'Take 1 figure' }).click();
    await sheet.settled();
    for (let step = 0; step < 4; step++) await page.keyboard.press('Control+z');
  });
