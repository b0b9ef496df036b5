import { expect, test, type Page } from '@playwright/test';
import { printTimes } from './print-times';

const STATEMENT = '/statements/income_statement?scope=LMG&as_at=2026-08';
const TIMES = 20;
/** From the address to the first painted figures, with nothing in the browser's cache; ms. */
const TARGET_MS = 1_000;
/** Scripts that are loaded until then, as they come over the wire; bytes. */
const TARGET_BYTES = 250_000;

test('the first figures of a statement on a cold cache', async ({ browser, baseURL }) => {
  const times: number[] = [];
  let bytes = 0;
  for (let time = 0; time < TIMES; time++) {
    const page = await browser.newPage({ baseURL: baseURL! }); // with a cache of its own
    await watchFigures(page);
    await page.goto(STATEMENT, { waitUntil: 'commit' });
    await page.waitForFunction(() => window.firstFiguresAt);
    times.push(await page.evaluate(() => window.firstFiguresAt!));
    bytes = await page.evaluate(() =>
      performance
        .getEntriesByType('resource')
        .filter(({ name }) => name.endsWith('.js'))
        .reduce((sum, entry) => sum + (entry as PerformanceResourceTiming).transferSize, 0),
    );
    await page.close();
  }
  console.log(`first figures: target ${TARGET_MS} ms, and ${TARGET_BYTES / 1000} kB of script`);
  const median = printTimes('first figures', times);
  console.log(`scripts until then             ${(bytes / 1000).toFixed(0)} kB`);
  expect(bytes).toBeGreaterThan(0);
  expect(bytes).toBeLessThanOrEqual(TARGET_BYTES);
  expect(median).toBeLessThanOrEqual(TARGET_MS);
});

declare global {
  interface Window {
    /** When the first figure was painted; ms from the start of the page. */
    firstFiguresAt?: number;
  }
}

const watchFigures = (page: Page): Promise<unknown> =>
  page.addInitScript(() => {
    const watching = new MutationObserver(() => {
      if (!/\d/.test(document.querySelector('[data-spot="1.1"]')?.textContent ?? '')) return;
      watching.disconnect();
      const after = new MessageChannel();
      after.port1.onmessage = () => (window.firstFiguresAt = performance.now()); // the task after the frame
      requestAnimationFrame(() => after.port2.postMessage(0));
    });
    watching.observe(document, { childList: true, subtree: true, characterData: true });
  });
