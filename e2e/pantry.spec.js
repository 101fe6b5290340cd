// Looking up what stands on the shelf.
import { expect, test } from './kitchen.js';

test('a foreign word finds its jar', async ({ page }) => {
  await page.goto('/formula');
  await page.getByRole('link', { name: 'Pantry' }).click();
  await page.getByLabel('Any name').fill('Flohsamenschalen');
  await page.getByRole('button', { name: 'Find' }).click();
  const jar = page.locator('.jar').first();
  await expect(jar.getByRole('heading')).toContainText('Psyllium');
  await jar.getByText('source', { exact: true }).click();
  await expect(jar.locator('cite')).toBeVisible();
});

test('the shelves are walked by links', async ({ page }) => {
  await page.goto('/pantry');
  await page.getByRole('link', { name: 'Salts' }).click();
  await expect(page.getByRole('heading', { level: 2, name: 'Salts' })).toBeVisible();
  await expect(page.locator('.jar').filter({ hasText: 'Fine salt' })).toContainText('teaspoon');
});
