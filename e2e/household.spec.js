// The kitchen's own figures and things, and a dough made to fit the day, the board and the scale.
import { expect, line, read, saveAndPlan, startByHand, test } from './kitchen.js';

test.describe('with complaints about a refused form', () => {
  test.use({ allowed: ['422'] });

  test('a flour of the own mill is told once and read in the next recipe', async ({ page }, info) => {
    const name = `Beacon mill ${info.project.name}`;
    const word = `beacon flour ${info.project.name}`;
    await page.goto('/kitchen');
    await page.getByRole('link', { name: 'Add an ingredient' }).click();
    await page.getByLabel('Name', { exact: true }).fill(name);
    await page.getByLabel('Protein').fill('lots');
    await page.getByRole('button', { name: 'Keep it' }).click();
    await expect(page.getByText('“lots” is not a number')).toBeVisible();
    await expect(page.getByLabel('Name', { exact: true })).toHaveValue(name);
    await page.getByLabel('Most like').fill('Bread flour (strong white)');
    await page.getByLabel('Read these words as it').fill(word);
    await page.getByLabel('Protein').fill('13,5');
    await page.getByRole('button', { name: 'Keep it' }).click();
    await expect(page.getByRole('link', { name })).toBeVisible();
    await read(page, `500 g ${word}\n330 g water\n10 g salt\n4 g instant yeast`);
    await expect(line(page, 1).getByLabel('Ingredient')).toHaveValue(name);
  });

  test('the kitchen keeps its figures, and a wrong one stays in its field', async ({ page }) => {
    await page.goto('/kitchen');
    const tap = page.getByLabel('Water from the tap');
    const before = await tap.inputValue();
    await tap.fill('70');
    await page.getByRole('button', { name: 'Keep this' }).click();
    await expect(page.getByText('Flour and tap water lie between')).toBeVisible();
    await expect(tap).toHaveValue('70');
    await tap.fill(before);
    await page.getByRole('button', { name: 'Keep this' }).click();
    await expect(page.getByRole('status')).toContainText('Kept.');
  });
});

test('a dough that shall be ripe in the morning wants less yeast', async ({ page }) => {
  await read(page, '500 g bread flour\n330 g water\n10 g salt\n5 g instant yeast');
  await page.getByLabel('Hours until ripe').fill('11');
  await page.getByLabel('Warmth where it rises').fill('19');
  await page.getByRole('button', { name: 'Take it' }).click();
  await expect.poll(async () => Number(await line(page, 4).getByLabel('Weight of').inputValue())).toBeLessThan(1);
  await expect(line(page, 1).getByLabel('Weight of')).toHaveValue('500');
});

test('a plait and rolls come from one dough, some water is held back, and the log knows what went in', async ({ page }, info) => {
  await read(page, '800 g bread flour\n500 g water\n16 g salt\n8 g instant yeast\nMakes 1 braid of 600 g');
  await page.getByLabel('Woven', { exact: true }).selectOption({ label: 'woven of 3 strands' });
  await expect(page.getByText('3 strands of 200 g')).toBeVisible();
  await page.getByRole('button', { name: 'Take it' }).click();
  await page.getByRole('button', { name: 'Another bread from this dough' }).click();
  await expect(page.getByText('1 × 600 g and 9 × 80 g take 1 320 g of 1 324 g: 4 g are left')).toBeVisible();
  await page.getByLabel('What is held back').selectOption({ label: 'Water' });
  await page.getByLabel('How much is held back').fill('40');
  await saveAndPlan(page, `Festival ${info.project.name}`);
  await startByHand(page);
  await page.getByRole('button', { name: 'three quarters' }).click();
  await expect(page.getByText('what went in?')).toHaveCount(0);
  await page.goto(page.url().replace('/bakeday/', '/logbook/'));
  await expect(page.getByText('30 of 40 g water went in')).toBeVisible();
});

test('a variant stands beside the bread it comes from', async ({ page }, info) => {
  const name = `Harbour twin ${info.project.name}`;
  await read(page, '500 g bread flour\n330 g water\n10 g salt\n4 g instant yeast');
  await saveAndPlan(page, name);
  await page.goto('/formula');
  await page.getByRole('link', { name }).click();
  await page.getByRole('link', { name: 'Variants' }).click();
  await page.getByLabel('What is different').fill('wetter');
  await page.getByRole('button', { name: 'Make the variant' }).click();
  await line(page, 2).getByLabel('Weight of').fill('370');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await page.getByRole('link', { name: 'Variants' }).click();
  await expect(page.getByRole('row', { name: /^Water/ })).toContainText('66 %, 330 g');
  await expect(page.getByRole('row', { name: /^Water/ })).toContainText('74 %, 370 g');
});
