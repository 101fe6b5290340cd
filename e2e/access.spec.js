// Each page in light and dark, as axe sees it (WCAG 2.2 AA).
import AxeBuilder from '@axe-core/playwright';
import { expect, read, test } from './kitchen.js';

const PAGES = {
  Today: '/',
  'Formula, empty': '/formula',
  Formula: '/formula/sunday-plait',
  'Plan, choosing': '/plan',
  Plan: '/plan?formula=skerry-loaf',
  'Bake day': '/bakeday/demo-4',
  'Bake day, all done': '/bakeday/demo-1',
  Oven: '/oven?formula=skerry-loaf',
  Logbook: '/logbook',
  'One bake': '/logbook/demo-2',
  Sources: '/sources',
};
const RULES = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'];

async function nothingFound(page) {
  const { violations } = await new AxeBuilder({ page }).withTags(RULES).analyze();
  expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).slice(0, 4).join(' | ')}`)).toEqual([]);
}

for (const theme of ['light', 'dark']) {
  test.describe(theme, () => {
    test.beforeEach(async ({ page }) => {
      await page.addInitScript((t) => localStorage.setItem('cerealis-theme', t), theme);
    });

    for (const [name, path] of Object.entries(PAGES)) {
      test(name, async ({ page }) => {
        await page.goto(path);
        await expect(page.locator('html')).toHaveAttribute('data-bs-theme', theme);
        await nothingFound(page);
      });
    }

    test('Formula with all its troubles', async ({ page }) => {
      await read(page, '3 cups bread flour\n1 cup water\n50 g instant yeast\nsome love\nMakes 12 rolls of 4 kg\nBake at 400 for 2 minutes');
      await expect(page.locator('.finding').first()).toBeVisible();
      await nothingFound(page);
    });
  });
}

test('the fonts are our own', async ({ page }) => {
  const outside = [];
  page.on('request', (r) => { if (!r.url().startsWith('http://127.0.0.1')) outside.push(r.url()); });
  await page.goto('/');
  await page.evaluate(() => document.fonts.ready);
  expect(await page.evaluate(() => [...document.fonts].filter((f) => f.status === 'loaded').length)).toBeGreaterThan(0);
  expect(outside).toEqual([]);
});
