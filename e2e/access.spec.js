// Each page as axe sees it (WCAG 2.2 AA): all of it in light on the laptop, the colours again in dark; on the phone the pages
// of the counter.
import AxeBuilder from '@axe-core/playwright';
import { expect, kneaded, read, saveAndPlan, startByHand, test } from './kitchen.js';

const PAGES = {
  Today: '/',
  'Formula, empty': '/formula',
  Formula: '/formula/lantern-plait',
  'Plan, choosing': '/plan',
  Plan: '/plan?formula=watch-rolls&p[ready]=2026-11-07T12:30',
  'Plan, nothing fits': '/plan?formula=skerry-loaf&p[ready]=2026-11-07T06:30',
  'Plan by hand': '/plan/by-hand?formula=skerry-loaf',
  'Breads together': '/plan/together?breads[]=skerry-loaf&breads[]=watch-rolls&ready=2026-11-09T12:30',
  'Your hours': '/plan/hours',
  'Kitchen sheet': '/plan/sheet?formula=watch-rolls&p[ready]=2026-11-07T12:30',
  Water: '/water?formula=skerry-loaf',
  Kneading: '/formula/lantern-plait/kneading',
  Leaven: '/leaven/foghorn',
  'A new jar': '/leaven/new',
  'Bake day': '/bakeday/demo-4',
  'Bake day, all done': '/bakeday/demo-1',
  Oven: '/oven?formula=skerry-loaf',
  'Oven, an odd setting': '/oven?formula=lantern-plait&p[set_c]=400',
  'Other sizes': '/oven/sizes?formula=lantern-plait&p[have]=20',
  'Two breads': '/oven/together?formula=lantern-plait&p[other]=skerry-loaf&p[loads]=2',
  'Before and after': '/oven/care?formula=watch-rolls',
  'Oven log': '/oven/log',
  Logbook: '/logbook',
  'One bake': '/logbook/demo-2',
  Label: '/formula/lantern-plait/label',
  Versions: '/formula/skerry-loaf/versions',
  Variants: '/formula/skerry-loaf/variants',
  Pantry: '/pantry',
  Kitchen: '/kitchen',
  'Own ingredient': '/kitchen/ingredient',
  'Own pan': '/kitchen/pan/own-lamp-room-tin',
  Sources: '/sources',
};
/** Pages a phone lies beside the bowl with. */
const COUNTER = ['Today', 'Formula', 'Plan', 'Leaven', 'Bake day', 'Bake day, all done', 'Oven'];
const RULES = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'];

/** There are no frames to look into, so no second page is opened for them. */
const axe = (page) => new AxeBuilder({ page }).setLegacyMode(true);
async function found(builder) {
  const { violations } = await builder.analyze();
  return violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).slice(0, 4).join(' | ')}`);
}
const nothingFound = async (page) => expect(await found(axe(page).withTags(RULES))).toEqual([]);

/** The page again in dark, its colours looked at. */
async function coloursInDark(page) {
  await page.evaluate(() => document.documentElement.setAttribute('data-bs-theme', 'dark'));
  expect(await found(axe(page).withRules(['color-contrast']))).toEqual([]);
}

/** Controls smaller than WCAG 2.2 asks. */
const tooSmall = (page) => page.evaluate(() =>
  [...document.querySelectorAll('main button, main input:not([type=hidden]), main select, nav a')]
    .filter((e) => e.offsetParent !== null && !e.closest('.visually-hidden') && !e.classList.contains('visually-hidden') && !e.classList.contains('linkish'))
    .map((e) => ({ name: e.textContent.trim() || e.name, box: e.getBoundingClientRect() }))
    .filter(({ box }) => Math.min(box.width, box.height) < 24)
    .map(({ name }) => name));

/** What moves by itself while a page is put together, as the browser measures it. */
const watchShifts = (page) => page.addInitScript(() => {
  window.shifted = 0;
  new PerformanceObserver((list) => {
    for (const e of list.getEntries()) if (!e.hadRecentInput) window.shifted += e.value;
  }).observe({ type: 'layout-shift', buffered: true });
});
const shifted = (page) => page.evaluate(() => document.fonts.ready.then(() => window.shifted));

for (const [name, path] of Object.entries(PAGES)) {
  test(name, async ({ page, isMobile }) => {
    await watchShifts(page);
    await page.goto(path);
    await expect(page.locator('h1')).toHaveCount(1);
    expect(await tooSmall(page)).toEqual([]);
    expect(await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth), 'wider than the screen').toBeLessThanOrEqual(0);
    expect(await shifted(page), 'moves by itself').toBeLessThan(0.05);
    if (isMobile && !COUNTER.includes(name)) return;
    await nothingFound(page);
    // Paper is light whatever the screen is.
    if (!isMobile && name !== 'Kitchen sheet') await coloursInDark(page);
  });
}

test('Formula with all its troubles', async ({ page }) => {
  await read(page, '3 cups bread flour\n1 cup water\n50 g instant yeast\nsome love\nMakes 12 rolls of 4 kg\nBake at 400 for 2 minutes');
  await expect(page.locator('.finding').first()).toBeVisible();
  await nothingFound(page);
  await coloursInDark(page);
});

test('Bake day, late', async ({ page }, info) => {
  await read(page, '500 g bread flour\n340 g water\n10 g fine salt\n4 g instant yeast');
  await saveAndPlan(page, `Late loaf ${info.project.name}`);
  await startByHand(page);
  await kneaded(page);
  await page.getByLabel('Other').fill('17');
  await page.locator('.measure').getByRole('button', { name: 'Note it' }).click();
  await expect(page.locator('.anew li').first()).toBeVisible();
  // What one comes to by keyboard is not hidden by the bar of the main act.
  await page.locator('.anew button').last().focus();
  await nothingFound(page);
  await coloursInDark(page);
});

test('dark is dark from the first moment, and paper is light', async ({ page }) => {
  await page.addInitScript(() => localStorage.setItem('cerealis-theme', 'dark'));
  await page.goto('/');
  await expect(page.locator('html')).toHaveAttribute('data-bs-theme', 'dark');
  await page.goto(PAGES['Kitchen sheet']);
  await expect(page.locator('html')).toHaveAttribute('data-bs-theme', 'light');
});

test('the fonts are our own', async ({ page, baseURL }) => {
  const outside = [];
  page.on('request', (r) => { if (!r.url().startsWith(baseURL)) outside.push(r.url()); });
  await page.goto('/');
  await page.evaluate(() => document.fonts.ready);
  expect(await page.evaluate(() => [...document.fonts].filter((f) => f.status === 'loaded').length)).toBeGreaterThan(0);
  expect(outside).toEqual([]);
});

test('the first useful screen comes within 150 kB', async ({ browser, baseURL }) => {
  // A browser that has never been here. The first paint waits for the page, its style sheets and the upright fonts; scripts and
  // the slanted font come after it.
  const context = await browser.newContext();
  const page = await context.newPage();
  await page.goto(baseURL, { waitUntil: 'networkidle' });
  const came = await page.evaluate(() =>
    ['navigation', 'resource'].flatMap((kind) => performance.getEntriesByType(kind)).map((e) => [e.name, e.encodedBodySize]));
  const sum = (some) => some.reduce((all, [, bytes]) => all + bytes, 0);
  const first = came.filter(([name]) => !/\.js|italic\.woff2|icon\.svg/.test(name) || name.includes('theme.js'));
  expect(sum(first)).toBeGreaterThan(80_000);
  expect(sum(first)).toBeLessThan(150_000);
  expect(sum(came), 'all of it').toBeLessThan(200_000);
  await context.close();
});

test('it can be put on a home screen under its own name', async ({ page }) => {
  await page.goto('/');
  const manifest = await page.request.get(await page.locator('link[rel="manifest"]').getAttribute('href'));
  expect(manifest.headers()['content-type']).toContain('application/manifest+json');
  const { name, icons, start_url: start } = await manifest.json();
  expect([name, start]).toEqual(['Cerealis', '/']);
  for (const { src } of icons) expect((await page.request.get(src)).ok()).toBe(true);
});

test('every page has a title of its own', async ({ request }) => {
  const titles = new Set();
  for (const path of Object.values(PAGES)) {
    const text = await (await request.get(path)).text();
    titles.add(text.match(/<title>([^<]+)<\/title>/)[1]);
  }
  expect(titles.size).toBe(Object.keys(PAGES).length);
});
