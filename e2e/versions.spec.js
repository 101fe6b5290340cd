// A bread changes over the months: every version is there, and one comes back.
import { expect, line, read, saveAndPlan, test } from './kitchen.js';

test('a saved change is a new version, told line by line, and the old one comes back', async ({ page }, info) => {
  const name = `Lamp loaf ${info.project.name}`;
  await read(page, '500 g bread flour\n330 g water\n10 g salt\n4 g instant yeast\nMakes 1 loaf');
  await saveAndPlan(page, name);
  await page.goto('/formula');
  await page.getByRole('link', { name }).click();
  await line(page, 2).getByLabel('Weight of').fill('350');
  await page.getByLabel('Note to yourself').fill('Wetter, it was tight');
  await page.getByLabel('Tags, with commas').fill('lamp, everyday');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page).toHaveURL(/\/formula\/[0-9a-z-]+\?visit=/);
  await page.getByRole('link', { name: 'Versions' }).click();
  const water = page.getByRole('row', { name: /^Water/ });
  await expect(water).toContainText('330 g, 66 %');
  await expect(water).toContainText('350 g, 70 %');
  await page.getByRole('button', { name: 'Bring version 1 back' }).click();
  await expect(page.getByRole('heading', { name: 'From version 2 to version 3' })).toBeVisible();
  await page.getByRole('button', { name: 'Put it away' }).click();
  await expect(page.getByRole('heading', { name: 'Put away' })).toBeVisible();
  await page.getByRole('link', { name }).click();
  await page.getByRole('link', { name: 'Versions' }).click();
  await page.getByRole('button', { name: 'Take it out again' }).click();
  await page.goto('/formula');
  await page.getByLabel('Find a formula').fill(name);
  await page.getByRole('button', { name: 'Find' }).click();
  await expect(page.getByRole('link', { name })).toBeVisible();
});

test('honey stands in for sugar, with the water it brings', async ({ page }) => {
  await read(page, '500 g bread flour\n290 g water\n50 g sugar\n9 g salt\n6 g instant yeast');
  await page.getByLabel('Instead of').selectOption({ label: 'White sugar' });
  await page.getByRole('button', { name: 'What else would do?' }).click();
  await page.getByRole('button', { name: 'Use 61 g honey' }).click();
  await expect(line(page, 3).getByLabel('Ingredient')).toHaveValue('Honey');
  await expect(line(page, 2).getByLabel('Weight of')).toHaveValue('280');
});

test('two tins are filled', async ({ page }) => {
  await read(page, '500 g bread flour\n340 g water\n10 g salt\n4 g instant yeast');
  await page.getByLabel('How many pieces').fill('2');
  await page.getByLabel('Tin', { exact: true }).selectOption({ label: 'UK 2 lb (900 g) loaf tin' });
  await page.getByLabel('the tin, filled').check();
  await page.getByRole('button', { name: 'Take it' }).click();
  await expect(page.locator('#weights')).toContainText('842 g of dough');
});
