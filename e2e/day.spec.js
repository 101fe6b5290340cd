// A bake day from the first line in the bowl to the logbook, and the small things on the way.
import { act, expect, kneaded, line, mainButton, read, saveAndPlan, startByHand, test } from './kitchen.js';

const ROLLS = '500 g bread flour\n290 g milk\n40 g butter\n25 g sugar\n9 g fine salt\n5 g instant yeast\nMakes 12 rolls\nBake at 195 C for 14-16 minutes';

/** Reads the rolls, saves them under a name of their own, starts the bake; gives its path. */
async function start(page, name) {
  await read(page, ROLLS);
  await saveAndPlan(page, name);
  await startByHand(page);
  await expect(page).toHaveURL(/\/bakeday\/[0-9a-z-]+(\?|$)/);
  await expect(mainButton(page)).toBeVisible();
  return new URL(page.url()).pathname;
}

test('one button carries the baker through the whole day', async ({ page }, info) => {
  const name = `Morning rolls ${info.project.name}`;
  const path = await start(page, name);
  const done = [];
  while (done.length < 20 && (await mainButton(page).isVisible())) {
    done.push(await act(page));
    await expect(page).toHaveURL(new RegExp(path));
  }
  expect(done[0]).toBe('Mixed');
  for (const act of ['Shaped', 'It is in', 'It is out', 'Sliced']) expect(done).toContain(act);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('It is done');

  await page.getByRole('button', { name: 'golden', exact: true }).click();
  await expect(page.getByRole('button', { name: 'golden', exact: true })).toHaveAttribute('aria-pressed', 'true');
  await page.getByRole('button', { name: '4 of 5', exact: true }).click();
  await expect(page.getByRole('button', { name: '4 of 5', exact: true })).toHaveAttribute('aria-pressed', 'true');
  await page.getByLabel('A note').fill('Warmer milk');
  await page.getByRole('button', { name: 'Change this next time' }).click();

  await page.goto('/logbook');
  const row = page.locator('table.bakes tr', { hasText: name });
  await expect(row).toContainText('golden');
  await expect(row).toContainText('4 of 5');
  await expect(row).toContainText('Warmer milk');
  await expect(row).not.toContainText('still going');
});

test('a warm dough is ready sooner, and the page says what moved', async ({ page }, info) => {
  await start(page, `Warm rolls ${info.project.name}`);
  await kneaded(page);
  const before = await page.locator('.late').innerText();
  await page.getByLabel('Other').fill('31');
  await page.locator('.measure').getByRole('button', { name: 'Note it' }).click();
  await expect(page.locator('#acts')).toContainText('31°');
  await expect(page.locator('.late')).not.toHaveText(before);
  await expect(page.locator('aside')).toContainText('What moved');
});

test('a dough carried to the pantry is followed there', async ({ page }, info) => {
  await start(page, `Carried rolls ${info.project.name}`);
  await kneaded(page);
  const spots = page.locator('.spots');
  await expect(spots.getByRole('row').filter({ hasText: 'room' })).toContainText('it stands here');
  await spots.getByRole('button', { name: 'Moved to the pantry' }).click();
  await expect(spots.getByRole('row').filter({ hasText: 'pantry' })).toContainText('it stands here');
  await expect(page.locator('#acts')).toContainText(/pantry/i);
  // On a phone the tide waits until the dough's warmth is told.
  await page.locator('.warmth .reading.likely').click();
  await expect(page.locator('svg.tide:visible').first()).toContainText('pantry');
});

test('what is noted on one device stands on the other', async ({ page, browser }, info) => {
  const path = await start(page, `Shared rolls ${info.project.name}`);
  const other = await browser.newPage({ baseURL: new URL(page.url()).origin });
  await other.goto(path);
  await other.getByLabel('A note').fill('The other hand wrote this');
  await other.locator('.notes').getByRole('button', { name: 'Note it' }).click();
  await expect(other.locator('#acts')).toContainText('The other hand');
  await page.reload();
  await expect(page.locator('#acts')).toContainText('The other hand wrote this');
  await other.close();
});

test.describe('by the space bar', () => {
  test.skip(({ isMobile }) => isMobile, 'a phone has none');

  test('the act is done, but not while one writes a note', async ({ page }, info) => {
    await start(page, `Spaced rolls ${info.project.name}`);
    await page.getByLabel('A note').focus();
    await page.keyboard.type('two words');
    await expect(page.getByLabel('A note')).toHaveValue('two words');
    await page.locator('h1').click();
    await page.keyboard.press('Space');
    await expect(page.locator('#acts')).toContainText('Mixed');
  });
});

test.describe('a recipe in cups', () => {
  const CUPS = '4 cups bread flour\n1 1/2 cups water\n2 tsp salt\n2 tsp instant yeast\nMakes 1 loaf\nBake at 425 F for 35 minutes';

  test('asks how the cup was filled, and the answer narrows the dough', async ({ page }) => {
    await read(page, CUPS);
    await expect(page.locator('#spread-0')).toContainText('±');
    const before = Number((await page.locator('#spread-0').innerText()).replace(/\D/g, ''));
    await line(page, 1).getByRole('button', { name: 'Scooped' }).click();
    await expect.poll(async () => Number((await page.locator('#spread-0').innerText()).replace(/\D/g, '') || 0)).toBeLessThan(before);
  });

  test('can be read again with metric cups', async ({ page }) => {
    await read(page, CUPS);
    const water = line(page, 2).getByLabel('Weight of');
    const us = Number(await water.inputValue());
    await page.getByRole('button', { name: /Read again with metric/ }).click();
    await expect(page.getByRole('button', { name: /Read again with US/ })).toBeVisible();
    expect(Number(await water.inputValue())).toBeGreaterThan(us + 10);
  });

  test('a wrong weight typed over is exact from then on', async ({ page }) => {
    await read(page, CUPS);
    await line(page, 1).getByLabel('Weight of').fill('520');
    await expect(page.locator('#spread-0')).toHaveText('');
    await expect(page.locator('#weights')).toContainText('520');
  });
});

test('every figure can show how it came about', async ({ page }) => {
  await page.goto('/oven?formula=skerry-loaf');
  await page.getByText('Show the working').click();
  await expect(page.locator('aside details[open]')).toContainText('°C');
  await page.goto('/plan?formula=skerry-loaf');
  await page.getByText('How these times come about').click();
  await expect(page.locator('details.working[open] tr').first()).toBeVisible();
  await page.goto('/formula/lantern-plait');
  await page.getByText("The dough's character").click();
  await expect(page.locator('#workings details[open]')).toContainText('%');
});

test('a finding tells why, by keyboard too', async ({ page }) => {
  await read(page, '500 g bread flour\n330 g water\n5 g instant yeast');
  const why = page.locator('.finding summary').first();
  await why.focus();
  await page.keyboard.press('Enter');
  await expect(page.locator('.finding details[open] cite').first()).toBeVisible();
});

test('another place, another plan, without leaving the page', async ({ page }) => {
  await page.goto('/plan/by-hand?formula=skerry-loaf');
  const before = await page.locator('#answer h1').innerText();
  await page.getByLabel('First rise in the').selectOption('fridge');
  await expect(page.locator('#answer h1')).not.toHaveText(before);
  await expect(page.locator('#answer')).toContainText(/fridge/i);
});

test('dark stays dark after a reload, and light comes back', async ({ page }) => {
  await page.goto('/');
  const html = page.locator('html');
  const first = await html.getAttribute('data-bs-theme');
  await page.getByRole('button', { name: 'Light or dark' }).click();
  await expect(html).not.toHaveAttribute('data-bs-theme', first);
  await page.reload();
  await expect(html).not.toHaveAttribute('data-bs-theme', first);
  await page.getByRole('button', { name: 'Light or dark' }).click();
  await expect(html).toHaveAttribute('data-bs-theme', first);
});

test('a dough that is late is told its ways, and one is chosen by keyboard and taken back', async ({ page }, info) => {
  await start(page, `Late rolls ${info.project.name}`);
  await kneaded(page);
  await page.getByLabel('Other').fill('17');
  await page.locator('.measure').getByRole('button', { name: 'Note it' }).click();
  const ways = page.locator('.anew li');
  await expect(ways.first()).toBeVisible();
  const load = () => page.locator('.nexts tr', { hasText: 'Load' }).locator('.when').innerText();
  const before = await load();
  await page.locator('.late a').focus();
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/#anew$/);
  await ways.first().getByRole('button', { name: /^Do this/ }).focus();
  await page.keyboard.press('Enter');
  await expect(page.locator('#acts')).toContainText('The rest planned anew');
  await expect(page.locator('.anew')).toHaveCount(0);
  await page.getByRole('button', { name: 'Take back The rest planned anew' }).click();
  await expect(ways.first()).toBeVisible();
  expect(await load()).toBe(before);
});
