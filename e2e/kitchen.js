// What every walk needs: a page that fails on any complaint in the browser's console, and a few moves of the hand.
import { expect, test as base } from '@playwright/test';

export { expect };

export const test = base.extend({
  /** Words a console message may hold without failing the walk. */
  allowed: [[], { option: true }],
  quiet: [
    async ({ page, allowed, javaScriptEnabled }, use) => {
      // The script comes deferred, and a walk types faster than a hand: a page is open once it listens.
      if (javaScriptEnabled !== false) {
        const goto = page.goto.bind(page);
        page.goto = async (...to) => {
          const answer = await goto(...to);
          await expect(page.locator('[x-data="keyswitch"][hidden]')).toHaveCount(0);
          return answer;
        };
      }
      const complaints = [];
      page.on('console', (m) => {
        if (['error', 'warning'].includes(m.type()) && !allowed.some((a) => m.text().includes(a))) complaints.push(m.text());
      });
      page.on('pageerror', (e) => complaints.push(String(e)));
      await use();
      expect(complaints, 'complaints in the console').toEqual([]);
    },
    { auto: true },
  ],
});

/** Pastes a recipe and reads it. */
export async function read(page, recipe) {
  await page.goto('/formula');
  await page.getByLabel('Recipe', { exact: true }).fill(recipe);
  await page.getByRole('button', { name: 'Read it' }).click();
  await expect(page.locator('#sheet')).toBeVisible();
}

/** A line of the formula by the name of its ingredient field. */
export function line(page, number) {
  return page.locator('.line').nth(number - 1);
}

/** Saves the formula on the sheet and goes on to its plan. */
export async function saveAndPlan(page, name) {
  await page.getByLabel('Name of the bread').fill(name);
  await page.getByRole('button', { name: 'Save, plan the day' }).click();
  await expect(page).toHaveURL(/\/plan\?formula=/);
}

/** From a plan's page: begins the bake now, places and times set by hand. */
export async function startByHand(page) {
  await page.getByRole('link', { name: 'Set places and times by hand' }).click();
  await page.getByRole('button', { name: 'Start this bake' }).click();
}
