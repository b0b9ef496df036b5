import { ComponentHarness, TestKey } from '@angular/cdk/testing';

/** Drives the statement table as a person does with the keyboard. */
export class StatementTableHarness extends ComponentHarness {
  static readonly hostSelector = 'ml-statement-table';

  private readonly cells = this.locatorForAll('tbody td.cell');
  private readonly table = this.locatorFor('table');

  async texts(): Promise<string[]> {
    return Promise.all((await this.cells()).map((cell) => cell.text()));
  }

  /** Position of the one cell that Tab reaches. */
  async entry(): Promise<string | null> {
    return (await this.locatorFor('td[tabindex="0"]')()).getAttribute('data-spot');
  }

  async press(key: TestKey | string, shift = false): Promise<void> {
    const table = await this.table();
    await (shift ? table.sendKeys({ shift }, key) : table.sendKeys(key));
  }

  async chosen(): Promise<number> {
    return (await this.locatorForAll('td.chosen')()).length;
  }
}
