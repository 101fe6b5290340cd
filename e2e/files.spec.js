// Formulas as files: in by the browser, out by a link; the JSON-LD as a JSON-LD processor sees it.
import { readFile } from 'node:fs/promises';
import jsonld from 'jsonld';
import { expect, line, test } from './kitchen.js';

const PAGE = `<!DOCTYPE html><html><head><script type="application/ld+json">{"@context":"https://schema.org","@graph":[{"@type":"Recipe","name":"Gull's bap",
"recipeIngredient":["500 g bread flour","320 g water","10 g salt","4 g instant yeast"],"recipeYield":"8 rolls"}]}</script></head><body>Words, words</body></html>`;

test('a saved page is picked and read', async ({ page }) => {
  await page.goto('/formula');
  await page.getByLabel('Or drop a file here').setInputFiles({ name: 'bap.html', mimeType: 'text/html', buffer: Buffer.from(PAGE) });
  await expect(page.locator('#sheet')).toBeVisible();
  await expect(page.getByLabel('Name of the bread')).toHaveValue("Gull's bap");
  await expect(line(page, 2).getByLabel('Weight of')).toHaveValue('320');
});

test('a file dropped on the recipe is read', async ({ page }) => {
  await page.goto('/formula');
  const files = await page.evaluateHandle(() => {
    const data = new DataTransfer();
    data.items.add(new File(['ingredient,grams\nwheat-bread,500\nwater,330\n'], 'bread.csv', { type: 'text/csv' }));
    return data;
  });
  await page.locator('#text').dispatchEvent('drop', { dataTransfer: files });
  await expect(line(page, 2).getByLabel('Weight of')).toHaveValue('330');
});

test('a kept formula goes out, and its JSON-LD expands to a schema.org Recipe', async ({ page }) => {
  await page.goto('/formula/lantern-plait');
  await page.getByText('As a file').click();
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: '.jsonld' }).click()]);
  expect(download.suggestedFilename()).toBe('lantern-plait.jsonld');
  const document = JSON.parse(await readFile(await download.path(), 'utf8'));
  // The vocabulary is not fetched: its context maps every word to schema.org.
  const documentLoader = async (url) => ({ contextUrl: null, documentUrl: url, document: { '@context': { '@vocab': 'http://schema.org/' } } });
  const [recipe] = await jsonld.expand(document, { documentLoader });
  expect(recipe['@type']).toEqual(['http://schema.org/Recipe']);
  expect(recipe['http://schema.org/name'][0]['@value']).toBe('Lantern plait');
  const lines = recipe['http://schema.org/recipeIngredient'].map((l) => l['@value']);
  expect(lines[0]).toBe('500 g Bread flour');
  expect(recipe['http://schema.org/nutrition'][0]['@type']).toEqual(['http://schema.org/NutritionInformation']);
  const quads = await jsonld.toRDF(document, { documentLoader, format: 'application/n-quads' });
  expect(quads).toContain('<http://schema.org/recipeIngredient> "500 g Bread flour"');
});

test.describe('the kitchen as a file', () => {
  // A file that is none is refused.
  test.use({ allowed: ['422'] });

  test('it goes out and comes in again', async ({ page }) => {
    await page.goto('/kitchen');
    const [out] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Export everything' }).click()]);
    expect(out.suggestedFilename()).toBe('skerry-light-2026-11-06.json');
    const archive = JSON.parse(await readFile(await out.path(), 'utf8'));
    const [copy] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Copy this kitchen' }).click()]);
    expect((await readFile(await copy.path())).subarray(0, 15).toString()).toBe('SQLite format 3');

    archive.words = [{ said: 'the grey sack', ingredient: 'wheat-bread' }];
    const file = { name: 'kitchen.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(archive)) };
    await page.getByLabel('The exported file').setInputFiles(file);
    await page.getByRole('button', { name: 'See what it would bring' }).click();
    await expect(page.locator('#brought')).toContainText('It would bring 1 word of your own');
    await page.getByLabel('The exported file').setInputFiles(file);
    await page.getByRole('button', { name: 'Take it in' }).click();
    await expect(page.locator('#brought')).toContainText('It brought 1 word of your own');
    await page.goto('/pantry');
    await expect(page.getByText('the grey sack')).toBeVisible();

    await page.goto('/kitchen');
    await page.getByLabel('The exported file').setInputFiles({ ...file, buffer: Buffer.from('a list for the boat') });
    await page.getByRole('button', { name: 'Take it in' }).click();
    await expect(page.getByText('That is no archive of Cerealis.')).toBeVisible();
  });
});
