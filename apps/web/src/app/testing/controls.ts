import type { HarnessLoader } from '@angular/cdk/testing';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import type { ComponentFixture } from '@angular/core/testing';
import { MatCheckboxHarness } from '@angular/material/checkbox/testing';
import { MatFormFieldHarness } from '@angular/material/form-field/testing';
import { MatRadioButtonHarness } from '@angular/material/radio/testing';
import { MatSelectHarness } from '@angular/material/select/testing';

/** Works the controls of a screen by the words that people see beside them. */
export class Controls {
  private readonly loader: HarnessLoader;

  constructor(fixture: ComponentFixture<unknown>) {
    this.loader = TestbedHarnessEnvironment.documentRootLoader(fixture);
  }

  /** A select by its label, its name for readers of the screen, or its `data-testid`. */
  async select(name: string): Promise<MatSelectHarness> {
    for (const field of await this.loader.getAllHarnesses(MatFormFieldHarness)) {
      const control = await field.getControl(MatSelectHarness);
      if (control && (await field.getLabel())?.trim() === name) return control;
    }
    const host = ['aria-label', 'data-testid'].map((attribute) => `[${attribute}="${name}"]`).join();
    return this.loader.getHarness(MatSelectHarness.with({ selector: host }));
  }

  /** Chooses an option by its words. */
  async choose(name: string, option: string | RegExp): Promise<void> {
    await (await this.select(name)).clickOptions({ text: option });
  }

  /** Words of the options that a select offers. */
  async offered(name: string): Promise<string[]> {
    const select = await this.select(name);
    await select.open();
    const texts = await Promise.all((await select.getOptions()).map((option) => option.getText()));
    await select.close();
    return texts;
  }

  async tick(label: string | RegExp): Promise<void> {
    await (await this.loader.getHarness(MatCheckboxHarness.with({ label }))).toggle();
  }

  async isTicked(label: string | RegExp): Promise<boolean> {
    return (await this.loader.getHarness(MatCheckboxHarness.with({ label }))).isChecked();
  }

  /** Chooses one answer of several, by its words. */
  async answer(label: string | RegExp): Promise<void> {
    await (await this.loader.getHarness(MatRadioButtonHarness.with({ label }))).check();
  }
}

/** A field that is typed in, by its label or its name for readers of the screen. */
export function fieldOf(root: ParentNode, name: string): HTMLInputElement {
  const fields = [...root.querySelectorAll<HTMLInputElement>('input, textarea')];
  const label = [...root.querySelectorAll('label')].find((each) => each.textContent.trim().startsWith(name));
  const found =
    fields.find((field) => field.getAttribute('aria-label') === name) ??
    fields.find(({ id }) => label !== undefined && id !== '' && id === label.htmlFor);
  if (!found) throw new Error(`There is no field “${name}”.`);
  return found;
}
