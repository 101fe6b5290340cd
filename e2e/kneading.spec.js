// Kneading: ways side by side, one chosen and kept, and on the day each act at the bowl in its turn.
import { expect, read, saveAndPlan, startByHand, test } from './kitchen.js';

test.use({ allowed: ['422'] });

test('a way of kneading is chosen, kept with the bread and taken over by the plan', async ({ page, isMobile }) => {
  test.skip(isMobile);
  await page.goto('/formula/lantern-plait/kneading');
  await expect(page.locator('h1')).toContainText('by hand');
  // A machine this kitchen does not have is not offered.
  await expect(page.getByRole('radio', { name: /mixer/ })).toHaveCount(0);
  // By keyboard from way to way, and one stays where one stands.
  await page.getByRole('radio', { name: /kept by hand/ }).focus();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('radio', { name: /hour’s rest/ })).toBeFocused();
  await expect(page.getByLabel('Soak before kneading')).toHaveValue('60');
  await page.getByLabel('Soak before kneading').fill('40');
  await page.getByLabel('Soak before kneading').press('Tab');
  await expect(page.locator('.kneadacts')).toContainText('40');
  // What no kneading is stays in its field and is told there.
  await page.getByLabel('Knead for').fill('900');
  await page.getByLabel('Knead for').press('Tab');
  await expect(page.locator('#wrong-minutes')).toContainText('between 0 and 60 minutes');
  await expect(page.getByLabel('Knead for')).toHaveValue('900');
  await page.reload();
  await expect(page.getByLabel('Knead for')).toHaveValue('900');
  await page.getByLabel('Knead for').fill('');
  // Enter works it out; it keeps nothing.
  await page.getByLabel('Knead for').press('Enter');
  await expect(page.locator('#wrong-minutes')).toBeEmpty();
  await page.getByRole('button', { name: 'Knead this way' }).click();
  await expect(page).toHaveURL(/formula\/lantern-plait$/);
  await expect(page.locator('#kneaded')).toContainText('40 min');
  // Saved again from its sheet it is still kneaded so.
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.locator('#kneaded')).toContainText('40 min');
  await page.goto('/plan?formula=lantern-plait&p[ready]=2026-11-07T18:00');
  await expect(page.locator('main')).toContainText('Let it soak');
});

test('mixed, soaked, kneaded: each act at the bowl in its turn, the window told, the warmth asked', async ({ page, isMobile }) => {
  test.skip(!isMobile);
  await read(page, '500 g bread flour\n330 g water\n10 g salt\n4 g instant yeast\n1 loaf');
  await saveAndPlan(page, 'Knuckle loaf');
  await startByHand(page);
  await expect(page.locator('h1')).toHaveText('Weigh and mix');
  await page.getByRole('button', { name: /^Mixed/ }).click();
  await expect(page.locator('h1')).toHaveText('Knead');
  // The time that runs stands in the clock's place.
  await expect(page.getByRole('timer')).toHaveText(/^\d:\d\d$/);
  await expect.poll(() => page.getByRole('timer').innerText()).not.toBe('0:00');
  await page.getByRole('button', { name: /tears/ }).click();
  await expect(page.locator('#day')).toContainText(/min more/);
  await page.getByRole('button', { name: '+ 10 g of water' }).click();
  await expect(page.locator('#day')).toContainText('10 g of water so far');
  await page.getByRole('button', { name: /It holds/ }).click();
  await expect(page.locator('#day')).toContainText('How warm is it?');
});
