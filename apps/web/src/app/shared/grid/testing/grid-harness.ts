import { ComponentHarness, type TestElement, type TestKey } from '@angular/cdk/testing';

/** Drives any grid as a person does. Cells are told by their place, as `row.column`. */
export class GridHarness extends ComponentHarness {
  static readonly hostSelector = '[role="grid"]';

  private cell(row: number, column: number): Promise<TestElement> {
    return this.locatorFor(`[data-spot="${row}.${column}"]`)();
  }

  async text(row: number, column: number): Promise<string> {
    return (await this.cell(row, column)).text();
  }

  async texts(): Promise<string[]> {
    return Promise.all((await this.locatorForAll('[data-spot]')()).map((cell) => cell.text()));
  }

  /** Brings the keyboard to the grid, as Tab does. */
  async enter(): Promise<void> {
    await (await this.host()).focus();
  }

  /** The cell that has the keyboard; null where none has. */
  async focused(): Promise<string | null> {
    const [cell] = await this.locatorForAll('[data-spot]:focus')();
    return cell ? cell.getAttribute('data-spot') : null;
  }

  /** The cells of the block. */
  async chosen(): Promise<(string | null)[]> {
    return Promise.all(
      (await this.locatorForAll('[data-spot].chosen')()).map((cell) => cell.getAttribute('data-spot')),
    );
  }

  /** The cell that is chosen, whether it has the keyboard or not. */
  async spot(): Promise<string | null> {
    return (await this.locatorForOptional('[data-spot].spot')())?.getAttribute('data-spot') ?? null;
  }

  async press(
    key: TestKey | string,
    modifiers: { shift?: boolean; control?: boolean; alt?: boolean } = {},
  ): Promise<void> {
    const target = (await this.locatorForOptional('input:focus', '[data-spot]:focus')()) ?? (await this.host());
    await target.sendKeys(modifiers, key);
  }

  async click(row: number, column: number, modifiers: { shift?: boolean; control?: boolean } = {}): Promise<void> {
    await (await this.cell(row, column)).click('center', modifiers);
  }

  /** The input of the cell that is being typed into; null while none is. */
  async editor(): Promise<TestElement | null> {
    return this.locatorForOptional('[data-spot] input')();
  }

  /** Types over the chosen cell and takes it. */
  async type(text: string, key: TestKey): Promise<void> {
    await this.press(text[0]!);
    const editor = (await this.editor())!;
    await editor.setInputValue(text);
    await editor.dispatchEvent('input');
    await editor.sendKeys(key);
  }
}
