import { expect, type Locator, type Page } from '@playwright/test';

/** The planning sheet, by what a person sees and presses. */
export class VersionsPage {
  readonly entry: Locator;
  readonly panel: Locator;
  readonly saved: Locator;

  constructor(readonly page: Page) {
    this.entry = page.locator('ml-planning-table td.spot');
    this.panel = page.getByRole('complementary', { name: 'Plan' });
    this.saved = page.getByTestId('save-state');
  }

  async open(code: string, query = ''): Promise<void> {
    await this.page.goto(`/versions/${code}?scope=LMT&as_at=2026-08${query}`);
    await expect(this.page.locator('ml-planning-table tbody tr').first()).toBeVisible();
    await expect(this.entry).toBeFocused();
  }

  row(label: string): Locator {
    return this.page
      .locator('ml-planning-table tbody tr')
      .filter({ has: this.page.locator('.text', { hasText: label }) })
      .first();
  }

  /** Cell of a row by its place among the columns; the year's total stands last. */
  cell(label: string, column: number): Locator {
    return this.row(label).locator('td[data-spot]').nth(column);
  }

  async total(label: string): Promise<string> {
    return (await this.row(label).locator('td[data-spot]').last().innerText()).trim();
  }

  async type(label: string, column: number, text: string): Promise<void> {
    await this.cell(label, column).click();
    await this.page.keyboard.type(text);
    await this.page.keyboard.press('Enter');
  }

  /** Pastes what a spreadsheet would give into the selected cell. */
  async paste(text: string): Promise<void> {
    await this.entry.evaluate((element, block) => {
      const data = new DataTransfer();
      data.setData('text/plain', block);
      element.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
    }, text);
  }

  async act(name: string): Promise<void> {
    await this.page.getByRole('toolbar').getByRole('button', { name }).click();
  }

  async apply(): Promise<void> {
    await this.page.getByTestId('apply').click();
  }

  async settled(): Promise<void> {
    await expect(this.saved).toHaveText('All saved');
  }
}
