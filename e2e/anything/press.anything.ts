import type { Page } from '@playwright/test';
import type { WorkspaceView } from '@margin-lens/contract';
import { limitReader, type Limits } from '../fixtures/limit-reader';
import { expect, test } from '../fixtures/served';
import { placesToPress } from './places-to-press';

const PRESSES = 600;
/** What people may see and do, of whom each presses other things on a workspace of their own. */
const PEOPLE: Limits[] = [
  {},
  { entities: ['LMG', 'LMT'] },
  {},
  { rights: ['read', 'remark'], entities: ['LMJ'] },
  {},
  {
    values: { department: ['kiln_hall_a', 'sales'] },
    rights: ['read', 'take_out', 'remark', 'plan', 'shape', 'see_totals'],
  },
  {},
  { values: { department: ['production'], product_line: ['tiles', 'hotel'] } },
];
const KEYS = [
  ...['ArrowDown', 'ArrowRight', 'ArrowUp', 'ArrowLeft', 'Home', 'End', 'PageDown', 'Shift+ArrowDown'],
  ...['Enter', 'Escape', 'Escape', 'Tab', ' ', 'Delete', 'F2', 'Control+k', 'Control+z', 'Control+c'],
  ...['.', ',', '?', 's', 'r', 'b', 'f', 'x', '+', '-', '5'],
];
const TEXTS = ['net', '12', '-5', 'energy', 'abc', '=1+2', '2026'];
/** Words that a person never should read. */
const OUR_WORDS = /\bNaN\b|\bundefined\b|\[object|\bInfinity\b/;

/** What chance says, the same for the same seed (xorshift). */
interface Chance {
  /** From 0 to 1. */
  next(): number;
  pick<T>(all: readonly T[]): T;
}

function chance(seed: number): Chance {
  let state = (seed * 2_654_435_761) >>> 0;
  const next = () => {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    return (state >>> 0) / 2 ** 32;
  };
  return { next, pick: (all) => all[Math.floor(next() * all.length)]! };
}

/** What goes wrong on a page, with what was done last before it. */
function faultsOf(page: Page, done: readonly string[]): string[] {
  const faults: string[] = [];
  const note = (what: string) => void faults.push(`${what}\n  at ${page.url()}\n  after ${done.slice(-5).join(' | ')}`);
  page.on('pageerror', ({ stack, message }) => note(stack ?? message));
  page.on('console', (message) => {
    // what was refused to the person is told on the page
    if (['error', 'warning'].includes(message.type()) && !message.text().startsWith('Failed to load'))
      note(message.text());
  });
  page.on('response', (response) => {
    if (response.status() >= 500) note(`${response.status()} ${response.url()}`);
  });
  return faults;
}

/** What is asked of a page; undefined where it is left for another one meanwhile. */
const unlessLeft = <T>(asked: Promise<T>): Promise<T | undefined> =>
  asked.catch((error: Error) => {
    if (error.message.includes('navigat')) return undefined;
    throw error;
  });

async function press(page: Page, { next, pick }: Chance): Promise<string> {
  const kind = next();
  if (kind < 0.28) {
    const key = pick(KEYS);
    await page.keyboard.press(key);
    return key;
  }
  if (kind < 0.34) {
    const text = pick(TEXTS);
    await page.keyboard.type(text);
    return `“${text}”`;
  }
  const places = (await unlessLeft(page.evaluate(placesToPress))) ?? [];
  if (places.length === 0) return 'nothing';
  const above = places.filter(({ isAbove }) => isAbove);
  const place = pick(above.length > 0 && next() < 0.75 ? above : places);
  const how = next();
  if (how < 0.06) await page.mouse.click(place.x, place.y, { button: 'right' });
  else if (how < 0.12) await page.mouse.dblclick(place.x, place.y);
  else if (how < 0.2) await page.mouse.move(place.x, place.y);
  else await page.mouse.click(place.x, place.y);
  return place.name;
}

for (const [at, limits] of PEOPLE.entries()) {
  const person = at + 1;
  test(`whatever is pressed, nothing of ours goes wrong: ${person}`, async ({ page, request, address }) => {
    const by = chance(person);
    limitReader(address.file, limits);
    await page.setViewportSize({ width: person % 2 ? 1280 : 1000, height: 800 });
    const { statements, breakdowns, packs, scopes } = (await (
      await request.get('/api/v1/workspace')
    ).json()) as WorkspaceView;
    const pages = [
      ...statements.map(({ id }) => `/statements/${id}`),
      ...breakdowns.map(({ id }) => `/breakdowns/${id}`),
      ...packs.map(({ id }) => `/packs/${id}`),
    ];
    await page.goto('/');
    const links = page.getByRole('navigation', { name: 'Places' }).getByRole('link');
    await expect(links.nth(1)).toBeVisible();
    const places = await links.evaluateAll((all) => all.map((link) => (link as HTMLAnchorElement).pathname));
    const done: string[] = [];
    const faults = faultsOf(page, done);
    for (let n = 0; n < PRESSES; n++) {
      if (n % 60 === 0) {
        const shaped = by.next() < 0.4 ? '&shape=1' : '';
        const place = by.pick(by.next() < 0.6 ? pages : places);
        await unlessLeft(page.goto(`${place}?as_at=2026-08&scope=${by.pick(scopes).code}${shaped}`));
        await expect(page.locator('mat-progress-bar.loading')).toHaveCount(0);
      }
      done.push(await press(page, by));
      await page.waitForTimeout(50);
      if (n % 6 > 0) continue;
      if (await unlessLeft(page.evaluate(() => document.documentElement.scrollWidth > innerWidth)))
        faults.push(`wider than its window: ${page.url()}`);
      const text = (await unlessLeft(page.evaluate(() => document.body.innerText))) ?? '';
      const found = OUR_WORDS.exec(text);
      if (found) faults.push(`${text.slice(Math.max(0, found.index - 80), found.index + 40)} at ${page.url()}`);
    }
    expect(faults).toEqual([]);
  });
}
