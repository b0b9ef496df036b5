import { expect, test } from '../fixtures/quiet-console';
import { expectAccessible } from '../fixtures/no-violations';

test('the structure of the group is read at any month, from the box to the entity to its statements', async ({
  page,
}) => {
  await page.goto('/statements/income_statement?scope=LMG&as_at=2026-08');
  await page.getByRole('link', { name: 'Structure' }).click();
  const tree = page.getByTestId('tree');
  await expect(tree.getByRole('button')).toHaveCount(7);
  await expect(tree.getByRole('button', { name: /Kilnworks Energy/ })).toContainText('30 %, associate');
  await expect(page.getByRole('row', { name: /Larkmoor Japan/ })).toContainText('20 %');
  await expectAccessible(page);

  // Larkmoor Americas is bought in June 2026
  await tree.getByRole('button', { name: /Larkmoor Americas/ }).click();
  await expect(page.locator('tr.chosen')).toContainText('Larkmoor Americas');
  for (const month of ['July', 'June', 'May']) {
    await page.keyboard.press(',');
    await expect(page.getByTestId('subtitle')).toContainText(month);
  }
  await expect(tree.getByRole('button')).toHaveCount(6);
  await expect(page.getByTestId('subtitle')).toContainText('5 in full, 1 as one line');

  await page.getByRole('link', { name: 'Larkmoor Tile' }).click();
  await expect(page).toHaveURL(/\/statements\?.*scope=LMT/);
});
