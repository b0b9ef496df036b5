import { expect, test, type APIRequestContext, type Page } from '@playwright/test';
import type { FiguresView, VersionView } from '@margin-lens/contract';
import { allocate, attributesOf, combinationOf } from '@margin-lens/core';
import { VersionsPage } from '../pages/versions-page';
import { printTimes } from './print-times';

const SCOPE = 'LMT';
const [FROM, TO] = ['FY2026-P01', 'FY2027-P12'] as const;
const ROWS = 500;
const MONTHS = 24;
/** Height of a row; the style sheet of the table has the same. */
const ROW_PX = 24;
/** A key press to painted, in milliseconds; see the targets in the README. */
const TARGET_MS = 50;
const KEYS = 120;
/** Figures that are written at once. */
const BATCH = 4_000;
/** Values that figures are spread over, so that the sheet has rows enough. */
const PROJECTS = ['harbour', 'metro'];

test('a key press in a planning sheet of 500 rows and 24 months', async ({ page, request }) => {
  const sheet = new VersionsPage(page);
  await sheet.open(await makePlan(request), '&by=product_line,department,project');
  await page.getByRole('button', { name: 'Sheet' }).click();
  await page.getByRole('menuitem', { name: 'Open all rows and accounts' }).click();
  const rows = await page
    .locator('ml-planning-table tbody')
    .evaluate((body, rowPx) => Math.round(body.getBoundingClientRect().height / rowPx), ROW_PX);
  const months = await page.locator('ml-planning-table thead th[title]:not(.total, .compared)').count();
  console.log(`${rows} rows, ${months} months; target: painted within ${TARGET_MS} ms`);
  expect(rows).toBeGreaterThanOrEqual(ROWS);
  expect(months).toBe(MONTHS);
  await watchKeys(page);

  const first = page.locator('ml-planning-table td[data-spot]:not(.actual, .fixed)').first();
  await first.click();
  const moves = ['ArrowDown', 'ArrowRight', 'ArrowDown', 'ArrowLeft'];
  await press(
    page,
    Array.from({ length: KEYS }, (_, at) => moves[at % moves.length]!),
  );
  printTimes('a key that moves', await taken(page));

  await first.click();
  const typed = Array.from({ length: KEYS / 2 }, (_, at) => [String(1 + (at % 9)), 'Enter']).flat();
  await press(page, typed);
  const times = await taken(page);
  printTimes(
    'a digit that begins a figure',
    times.filter((_, at) => at % 2 === 0),
  );
  printTimes(
    'an Enter that writes it',
    times.filter((_, at) => at % 2 === 1),
  );
  printTimes('until the last total follows', await page.evaluate(() => window.lastChanges.splice(0)));

  await first.click();
  await press(
    page,
    Array.from({ length: KEYS / 2 }, () => 'PageDown'),
  );
  printTimes('a page down', await taken(page));
});

const underProject = (combination: string, project: string): string =>
  project === '' ? combination : combinationOf(new Map([...attributesOf(combination), ['project', project]]));

/** A plan over two years whose figures are the actuals of the same months, each spread over projects. */
async function makePlan(request: APIRequestContext): Promise<string> {
  const made = await request.post('/api/v1/versions', {
    data: { name: 'Two years', kind: 'plan', from: FROM, to: TO, cutOver: '', parent: '', copyOf: '', opening: null },
  });
  expect(made.ok(), await made.text()).toBe(true);
  const { code } = (await made.json()) as VersionView;
  const actual = await request.get(`/api/v1/figures?version=actual&scope=${SCOPE}&from=${FROM}&to=${TO}`);
  const { lines, periods } = (await actual.json()) as FiguresView;
  const cells = lines.flatMap(({ account, combination, figures }) =>
    (attributesOf(combination).has('project') ? [] : ['', ...PROJECTS]).flatMap((project, part) =>
      figures.flatMap((figure, at) => {
        const after = allocate(figure, [2, 1, 1])[part]!;
        return after === 0
          ? []
          : [{ account, combination: underProject(combination, project), period: periods[at]!, before: 0, after }];
      }),
    ),
  );
  for (let from = 0; from < cells.length; from += BATCH) {
    const saved = await request.put(`/api/v1/versions/${code}/figures`, {
      data: { scope: SCOPE, how: 'seeded', label: 'Actuals', cells: cells.slice(from, from + BATCH) },
    });
    expect(saved.ok(), await saved.text()).toBe(true);
  }
  return code;
}

declare global {
  interface Window {
    keyTimes: number[];
    /** From an Enter to the last thing in the sheet that changed behind it. */
    lastChanges: number[];
  }
}

/** From the key event to the task after the frame that shows it. */
async function watchKeys(page: Page): Promise<void> {
  await page.evaluate(() => {
    window.keyTimes = [];
    window.lastChanges = [];
    let enteredAt: number | undefined;
    let changedAt = 0;
    new MutationObserver(() => (changedAt = performance.now())).observe(
      document.querySelector('ml-planning-table tbody')!,
      { subtree: true, childList: true, characterData: true },
    );
    const after = new MessageChannel();
    let started = 0;
    after.port1.onmessage = () => window.keyTimes.push(performance.now() - started);
    document.addEventListener(
      'keydown',
      ({ key, timeStamp }) => {
        started = timeStamp;
        if (enteredAt !== undefined && changedAt > enteredAt) window.lastChanges.push(changedAt - enteredAt);
        enteredAt = key === 'Enter' ? timeStamp : undefined;
        requestAnimationFrame(() => after.port2.postMessage(0));
      },
      { capture: true },
    );
  });
}

async function press(page: Page, keys: readonly string[]): Promise<void> {
  for (const key of keys) {
    await page.keyboard.press(key);
    await page.waitForTimeout(60); // a quick typist: about 16 keys a second
  }
}

const taken = (page: Page): Promise<number[]> => page.evaluate(() => window.keyTimes.splice(0, window.keyTimes.length));
