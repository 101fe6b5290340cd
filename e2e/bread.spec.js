// One bread all the way through, told as the baker lives it.
import { expect, line, read, saveAndPlan, startByHand, test } from './kitchen.js';

test.describe('the salt that was forgotten', () => {
  test('is missed at once, and one tap puts it in', async ({ page }) => {
    await read(page, '500 g bread flour\n330 g water\n5 g instant yeast\nBake at 230 C for 35 minutes');
    const missed = page.locator('.finding', { hasText: 'salt' }).first();
    await expect(missed).toBeVisible();
    await missed.getByRole('button', { name: 'Add 10 g' }).click();
    await expect(line(page, 4).getByLabel('Weight of')).toHaveValue('10');
    await expect(page.locator('.finding', { hasText: 'No salt' })).toHaveCount(0);
  });

  test('and 400 on a European dial is asked about', async ({ page }) => {
    await read(page, '500 g bread flour\n330 g water\n10 g salt\n5 g instant yeast\nMakes 1 loaf\nBake at 400 for 40 minutes');
    await expect(page.locator('.finding', { hasText: '°F' }).first()).toBeVisible();
  });
});

test('a recipe becomes a bread: read, named, planned, baked, logged', async ({ page }, info) => {
  const name = `Storm loaf ${info.project.name}`;
  await read(page, '500 g bread flour\n330 g water\n10 g salt\n4 g instant yeast\nMakes 1 loaf of 800 g\nBake at 230 C for 35 minutes');
  await expect(page.locator('#weights')).toContainText('844');
  await saveAndPlan(page, name);

  await expect(page.locator('.asideblock').first()).toContainText('°C');
  await expect(page.locator('#answer table.acts')).toContainText('Weigh and mix');
  await startByHand(page);
  await expect(page).toHaveURL(/\/bakeday\/[0-9a-z-]+/);

  const ticks = page.locator('.weigh button.row');
  await expect(ticks.first()).toBeVisible();
  await ticks.first().click();
  await expect(page.locator('.weigh tr.done')).toHaveCount(1);

  await page.getByLabel('Other').fill('24,5');
  await page.locator('.measure').getByRole('button', { name: 'Note it' }).click();
  await expect(page.locator('#acts')).toContainText('24.5');

  await page.getByLabel('A note').fill('Flour from the new sack');
  await page.locator('.notes').getByRole('button', { name: 'Note it' }).click();
  await expect(page.locator('#acts')).toContainText('Flour from the new sack');

  await page.locator('[data-key="main"]').click();
  await expect(page.locator('#acts table')).toBeVisible();

  await page.reload();
  await expect(page.locator('#acts')).toContainText('Flour from the new sack');
  await expect(page.locator('.weigh tr.done, #acts tr').first()).toBeVisible();

  const note = page.locator('#acts tr', { hasText: 'new sack' });
  await note.getByRole('button', { name: /Take back/ }).click();
  await expect(page.locator('#acts tr', { hasText: 'new sack' }).filter({ hasText: 'taken back' })).toBeVisible();

  await page.goto('/logbook');
  const row = page.locator('table.bakes tr', { hasText: name });
  await expect(row).toContainText('still going');
  await row.getByRole('link', { name }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(name);
});

test('the oven answers as the loaf grows: bigger is cooler and longer', async ({ page }) => {
  await page.goto('/oven?formula=skerry-loaf');
  const weight = page.getByLabel('Weight raw');
  const minutes = async () => Number((await page.locator('.big .num').last().innerText()).match(/\d+/)[0]);
  await weight.fill('500');
  await weight.press('Tab');
  await expect(page).toHaveURL(/./);
  await expect.poll(minutes).toBeGreaterThan(10);
  const small = await minutes();
  await weight.fill('1500');
  await weight.press('Tab');
  await expect.poll(minutes).toBeGreaterThan(small);
});

test('the film of a loaf can be stepped, played and stopped', async ({ page }) => {
  await page.goto('/oven?formula=skerry-loaf');
  const film = page.locator('.film');
  const says = film.locator('.filmsays .fr.on');
  const first = await says.innerText();
  await film.getByRole('button', { name: 'A moment on' }).click();
  await expect(says).not.toHaveText(first);
  await expect(film.locator('svg > .fr.on')).toHaveCount(1);
  await film.getByLabel('Moment of the bake').fill('0');
  await expect(says).toContainText('0 min');
  await film.getByRole('button', { name: 'Play' }).click();
  await expect(says).not.toContainText(/^0 min/);
  await film.getByRole('button', { name: 'Stop' }).click();
  await expect(film.getByRole('button', { name: 'Play' })).toBeVisible();
});

test('from a size to its own answer, and what is done in the time one has', async ({ page }) => {
  await page.goto('/oven/sizes?formula=lantern-plait');
  await page.getByLabel('I have only').fill('20');
  await page.getByRole('button', { name: 'What is done by then?' }).click();
  await expect(page.getByRole('status')).toContainText('are out within 20 min');
  await expect(page.locator('.sizetable tr.late')).not.toHaveCount(0);
  await page.getByRole('link', { name: /rolls/ }).click();
  await expect(page.getByLabel('Weight raw')).toHaveValue(/^7\d$/);
});

test('the shop is shut: water too warm from the tap asks for ice', async ({ page }) => {
  await page.goto('/plan/by-hand?formula=skerry-loaf');
  const tap = page.getByLabel(/tap/i).first();
  await tap.fill('38');
  await tap.press('Tab');
  await expect(page.locator('#water')).toContainText('ice');
});

test('today says what comes next, and the way to the bench is one tap', async ({ page }) => {
  await page.goto('/');
  await page.getByRole('link', { name: 'To the bench' }).first().click();
  await expect(page).toHaveURL(/\/bakeday\//);
  await expect(page.locator('.clock')).toContainText(/\d/);
});
