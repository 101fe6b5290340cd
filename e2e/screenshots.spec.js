// The pictures in docs/screenshots, from the demo kitchen. Run with `npm run shots`.
import { expect, read, test } from './kitchen.js';

const CARD = `Supply-boat loaf
3 cups bread flour
1 cup wholemeal flour
1 1/2 cups warm water
2 tbsp honey
14 g instant yeast
Makes 2 loaves of 500 g
Bake at 400 for 35 minutes`;

const TALK = `Storm bread, as it was told me at the pier.
Right. You'll want a pound of watchwhite and half a mug of the rye flour, two teaspoons of dried yeast, the same of salt, and butter the size of a walnut. A bit over half a pint of warm water, till it comes together. Knead it ten minutes, leave it till it's doubled and mind the cat. Shape it into the tin, up to the rim again, then a hot oven, gas seven, half an hour, and down to five if it's catching. She says it's better the second day.`;

const LAPTOP = {
  today: '/', formula: 'card', reading: 'talk', plan: '/plan?formula=watch-rolls&p[ready]=2026-11-07T07:30', 'plan-none': '/plan?formula=skerry-loaf&p[ready]=2026-11-07T06:30', leaven: '/leaven/foghorn', kneading: '/formula/boat-tin/kneading',
  'kitchen-sheet': '/plan/sheet?formula=skerry-loaf&p[ready]=2026-11-08T12:30', bakeday: '/bakeday/demo-4', oven: '/oven?formula=lantern-plait', 'oven-sizes': '/oven/sizes?formula=lantern-plait',
  logbook: '/logbook', 'one-bake': '/logbook/demo-2', pantry: '/pantry?q=wholemeal',
  kitchen: '/kitchen',
};
const PHONE = { formula: 'talk', plan: '/plan?formula=skerry-loaf&p[ready]=2026-11-08T12:30', bakeday: '/bakeday/demo-4' };

async function picture(page, name, path, theme) {
  await page.addInitScript((t) => localStorage.setItem('cerealis-theme', t), theme);
  if (path === 'card' || path === 'talk') await read(page, path === 'card' ? CARD : TALK);
  else await page.goto(path);
  await page.evaluate(() => document.fonts.ready);
  // The kitchen is looked at whole: what keeps it safe stands at its end.
  await page.screenshot({ path: `docs/screenshots/${name}.png`, animations: 'disabled', fullPage: name === 'kitchen' });
  await expect(page.locator('#main')).toBeVisible();
}

test.describe('laptop', () => {
  for (const [name, path] of Object.entries(LAPTOP)) {
    test(name, async ({ page, isMobile }) => {
      test.skip(isMobile);
      await picture(page, name, path, 'light');
    });
  }
  for (const name of ['bakeday']) {
    test(`${name}, dark`, async ({ page, isMobile }) => {
      test.skip(isMobile);
      await picture(page, `${name}-dark`, LAPTOP[name], 'dark');
    });
  }
});

test.describe('phone', () => {
  for (const [name, path] of Object.entries(PHONE)) {
    test(name, async ({ page, isMobile }) => {
      test.skip(!isMobile);
      await picture(page, `${name}-phone`, path, 'light');
    });
  }
});
