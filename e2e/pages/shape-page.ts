import { expect, type Locator, type Page } from '@playwright/test';

/** Shape, by what a person sees and presses. */
export class ShapePage {
  readonly table: Locator;
  readonly panel: Locator;
  readonly keep: Locator;

  constructor(readonly page: Page) {
    this.table = page.locator('ml-shape-table table');
    this.panel = page.getByRole('complementary', { name: 'Settings' });
    this.keep = page.getByTestId('keep');
  }

  async open(id: string, query = ''): Promise<void> {
    await this.page.goto(`/statements/${id}?shape=1${query}`);
    await expect(this.table).toBeVisible();
  }

  label(text: string): Locator {
    return this.table.locator('tbody th').filter({ has: this.page.locator('.label', { hasText: text }) });
  }

  row(text: string): Locator {
    return this.table.locator('tbody tr').filter({ has: this.page.locator('.label', { hasText: text }) });
  }

  head(at: number): Locator {
    return this.table.locator('thead th').nth(at);
  }

  /** Goes to the field of a label with Tab alone. */
  async tabTo(label: string): Promise<void> {
    for (let presses = 0; presses < 60; presses++) {
      const name = await this.page.evaluate(() => {
        const field = document.activeElement as HTMLInputElement | null;
        const ids = (field?.getAttribute('aria-labelledby') ?? '').split(' ').filter(Boolean);
        const labels = ids.map((id) => document.getElementById(id)?.textContent ?? '');
        return (field?.labels?.[0]?.textContent ?? labels[0] ?? field?.getAttribute('aria-label') ?? '').trim();
      });
      if (name === label) return;
      await this.page.keyboard.press('Tab');
    }
    throw new Error(`Tab does not reach ${label}`);
  }

  /** Chooses in the field that has the keyboard, by typing what the choice is called. */
  async typeChoice(text: string): Promise<void> {
    await this.page.keyboard.type(text, { delay: 5 });
    // a closed list takes the typed words a moment after the last of them
    await expect(this.page.locator(':focus')).toContainText(text, { ignoreCase: true });
  }
}
