// A recipe told on the telephone: read as it was said, a word asked once and never again.
import AxeBuilder from '@axe-core/playwright';
import { expect, read, test } from './kitchen.js';

/** The two projects share one kitchen, and a word once told is known: each run asks its own. */
const mine = (name, project) => `${name}${project === 'phone' ? 'ara' : 'ula'}`;
const talk = (word) => `Storm bread, as it was told me.
Right. You'll want a pound of ${word}, two teaspoons of dried yeast, the same of salt, and butter the size of a walnut. Half a pint of warm water, till it comes together. Knead it ten minutes and mind the cat. Shape it into the tin, then a hot oven, gas seven, half an hour. She says it's better the second day.`;

test('a talk is read, its unknown word is answered by one tap and remembered', async ({ page }, { project }) => {
  const word = mine('brindle', project.name);
  await read(page, talk(word));
  const heading = page.locator('#asread h2');
  const text = page.locator('#asread .written');
  await expect(heading).toHaveText('Read, all but one thing');
  await expect(text.locator('.rd-unread')).toHaveText(`a pound of ${word}`);
  await expect(text.locator('.rd-title')).toHaveText('Storm bread');
  await expect(text.locator('.rd-oven')).toContainText('gas seven');
  // Nothing is said that rests on the flour while it is not read.
  await expect(page.locator('#waits')).toContainText(`“${word}” is not read`);
  await expect(page.getByText('too wet')).toHaveCount(0);
  await expect(page.getByRole('button', { name: /then plan/ })).toBeDisabled();
  const found = await new AxeBuilder({ page }).analyze();
  expect(found.violations).toEqual([]);

  await page.getByRole('button', { name: 'Bread flour', exact: true }).click();
  await expect(heading).toHaveText('As you wrote it');
  await expect(page.locator('#waits')).toHaveCount(0);
  await expect(page.locator('#weights')).toContainText('of flour');
  // The focus is at the line that came, not at the top of the page.
  await expect(page.getByLabel('Weight of Bread flour')).toBeFocused();

  await read(page, talk(word));
  await expect(page.locator('.written .rd-unread')).toHaveCount(0);
  await page.goto('/pantry');
  await page.getByRole('button', { name: `Take “${word}” back` }).click();
  await expect(page.getByRole('button', { name: `Take “${word}” back` })).toHaveCount(0);
});

test('a word told for this bread alone stays with it, and one left out is a remark', async ({ page }, { project }) => {
  const word = mine('fathom', project.name);
  await read(page, `Watch loaf\n500 g bread flour\n320 g water\n10 g salt\n5 g instant yeast\n60 g ${word}\n40 g ${word}wort\n\nMix, knead 10 min, bake 220 C 35 min.`);
  const first = page.locator('.doubt').first();
  await first.getByLabel('Remember it').uncheck();
  await first.getByLabel('Something else').fill('walnut');
  await first.getByLabel('Something else').press('Enter');
  await expect(page.locator('.doubt')).toHaveCount(1);
  await page.getByRole('button', { name: 'It is no ingredient: leave it out' }).click();
  await expect(page.locator('.doubt')).toHaveCount(0);
  await expect(page.locator('.line')).toHaveCount(5);
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.locator('#asread')).not.toHaveAttribute('open', '');
  await expect(page.locator('.line')).toHaveCount(5);
  await page.goto('/pantry');
  await expect(page.getByText(`“${word}”`)).toHaveCount(0);
});

test('a piece of the text leads to its line', async ({ page }) => {
  await read(page, 'Bread\n500 g bread flour\n300 g water\n10 g salt\n5 g instant yeast');
  await page.locator('#asread summary').click();
  await page.locator('a.rd-line').nth(1).click();
  await expect(page.locator('[name="lines[1][ingredient]"]')).toBeFocused();
});
