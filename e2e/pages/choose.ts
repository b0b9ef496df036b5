import type { Locator } from '@playwright/test';

/** Chooses in a field by the words of its option. */
export async function choose(field: Locator, option: string | RegExp): Promise<void> {
  await field.click();
  await field.page().getByRole('option', { name: option, exact: true }).first().click();
}
