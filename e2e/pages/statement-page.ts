import { expect, type Locator, type Page } from '@playwright/test';

/** The statement screen, by what a person sees and presses. */
export class StatementPage {
  readonly table: Locator;
  readonly lens: Locator;

  constructor(readonly page: Page) {
    this.table = page.locator('ml-statement-table table');
    this.lens = page.getByRole('complementary', { name: 'Lens' });
  }

  async open(id = 'income_statement', query = ''): Promise<void> {
    await this.page.goto(`/statements/${id}${query}`);
    await expect(this.table).toBeVisible();
  }

  row(label: string): Locator {
    return this.table.getByRole('row').filter({ has: this.page.getByRole('rowheader', { name: label, exact: true }) });
  }

  cell(label: string, column: number): Locator {
    return this.row(label).locator('td.cell').nth(column);
  }

  /** Tab until the keyboard is in the table. */
  async reachTableByKeyboard(): Promise<void> {
    for (let presses = 0; presses < 60; presses++) {
      await this.page.keyboard.press('Tab');
      if (await this.table.locator('td:focus').count()) return;
    }
    throw new Error('Tab does not reach the table');
  }

  async choose(menu: string, item: string | RegExp): Promise<void> {
    await this.page.getByTestId(menu).click();
    await this.page.getByRole('menuitem', { name: item }).click();
  }
}
