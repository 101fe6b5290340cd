// The first evening of a household of which nothing is told: three answers, a recipe, and the program speaks as the kitchen does.
import AxeBuilder from '@axe-core/playwright';
import { expect, kitchen, test as base } from './kitchen.js';

// Each walk begins in a house of its own; its port lies beyond those of the demo kitchens.
const test = base.extend({
  baseURL: ({}, use, { parallelIndex }) => kitchen(use, 100 + parallelIndex, ['serve']),
});

const RECIPE = '3 cups bread flour\n1 1/4 cups water\n1 1/2 tsp salt\n1 tsp instant yeast\nMakes 1 loaf';

test('ounces, Fahrenheit and twelve hours from the first evening on', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Three things first' })).toBeVisible();
  expect((await new AxeBuilder({ page }).setLegacyMode(true).analyze()).violations.map((v) => v.id)).toEqual([]);
  await page.getByLabel('Country').selectOption({ label: 'United States' });
  await page.getByLabel('Weights and degrees').selectOption({ label: 'ounces and °F' });
  await page.getByLabel('Cup').selectOption({ label: 'US cup, 237 ml' });
  await page.getByRole('radio', { name: /68/ }).check();
  await page.getByRole('radio', { name: '°F', exact: true }).check();
  await page.getByLabel('Recipe').fill(RECIPE);
  await page.getByRole('button', { name: 'Read it' }).click();
  await expect(page.locator('#sheet')).toBeVisible();
  await expect(page.locator('#weights')).toContainText('lb');
  // The sentence of the amount in pounds and ounces.
  await page.getByLabel('Weight of each').fill('1 lb 2 oz');
  await expect(page.locator('#becomes')).toContainText('1 lb 2 oz');
  await page.getByRole('button', { name: 'Take it' }).click();
  await expect(page.locator('#weights')).toContainText('1 lb 2 oz of dough');
  await page.getByLabel('Name of the bread').fill('First loaf');
  await page.getByRole('button', { name: 'Save, plan the day' }).click();
  await expect(page.locator('#answer')).toContainText(/\d (am|pm)/);
  await expect(page.locator('main')).toContainText('°F');
  await expect(page.locator('main')).not.toContainText('°C');
  await expect(page.locator('#ways')).toContainText('how cold the fridge is');

  // What nobody has told is marked until it is.
  await page.goto('/kitchen');
  await expect(page.getByLabel('Water from the tap assumed')).toHaveValue('57.2');
  await page.getByLabel('Water from the tap').fill('48');
  await page.getByLabel('Water from the tap').press('Enter');
  await expect(page.getByRole('status')).toContainText('Kept.');
  await expect(page.getByLabel('Water from the tap', { exact: true })).toHaveValue('48');
  await expect(page.getByLabel('Flour on the shelf assumed')).toBeVisible();
  await page.getByRole('button', { name: 'say that all of it is right' }).click();
  await expect(page.locator('.assumed')).toHaveCount(0);
});

test.describe('an answer that cannot be', () => {
  test.use({ allowed: ['422'] });

  test('is asked again, and the recipe is not lost', async ({ page }) => {
    await page.goto('/');
    await page.getByLabel('Recipe').fill(RECIPE);
    await page.locator('input[name="room"]:checked').evaluate((e) => { e.value = '99'; });
    await page.getByRole('button', { name: 'Read it' }).click();
    await expect(page.locator('.wrong').first()).toBeVisible();
    await expect(page.getByLabel('Recipe')).toHaveValue(RECIPE);
  });
});
