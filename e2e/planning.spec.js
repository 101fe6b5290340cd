// The day before: plans that fit the hours, the hour dragged, why not, the sheet; and the leaven in its jar.
import { expect, test } from './kitchen.js';

const ROLLS = '/plan?formula=watch-rolls&p[ready]=2026-11-07T12:30';

test('several ways, one of them whole, another one tap away', async ({ page }) => {
  await page.goto(ROLLS);
  const ways = page.locator('.waylist li');
  expect(await ways.count()).toBeGreaterThanOrEqual(3);
  const before = await page.locator('#answer table.acts').innerText();
  await ways.nth(1).locator('a').click();
  await expect(ways.nth(1).locator('a')).toHaveAttribute('aria-current', 'true');
  await expect(page.locator('#answer table.acts')).not.toHaveText(before);
  await expect(page.locator('#answer td.sign').first()).not.toBeEmpty();
});

test('the hour follows the handle and the arrow keys', async ({ page, isMobile }) => {
  await page.goto(ROLLS);
  const hour = page.locator('#ready');
  if (isMobile) {
    await page.getByRole('button', { name: 'Ready 15 minutes later' }).click();
    await expect(hour).toHaveValue('2026-11-07T12:45');
  } else {
    const box = await page.locator('.wideonly .k-ready circle').boundingBox();
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    for (let i = 1; i <= 8; i += 1) await page.mouse.move(box.x + box.width / 2 + 8 * i, box.y + box.height / 2);
    await page.mouse.up();
    await expect(hour).not.toHaveValue('2026-11-07T12:30');
    await page.locator('.slide').focus();
    const dragged = await hour.inputValue();
    await page.keyboard.press('ArrowLeft');
    await expect(hour).not.toHaveValue(dragged);
    await expect(page.locator('.slide')).toBeFocused();
  }
  await expect(page.locator('#answer h1')).toContainText('ready Saturday');
});

test('no plan: why, and what would have to give, one tap away', async ({ page }) => {
  await page.goto('/plan?formula=skerry-loaf&p[ready]=2026-11-07T06:30');
  await expect(page.locator('h1')).toContainText('No plan gives this bread');
  await expect(page.locator('.finding.stop')).not.toBeEmpty();
  await page.locator('.gives a').first().click();
  await expect(page.locator('h1')).toContainText('ready');
  await expect(page.getByRole('button', { name: 'Use this plan' })).toBeVisible();
});

test('a plan is used, and bake day begins with its first act', async ({ page }) => {
  await page.goto('/plan?formula=skerry-loaf&p[ready]=2026-11-07T12:30');
  await page.getByRole('button', { name: 'Use this plan' }).click();
  await expect(page).toHaveURL(/\/bakeday\//);
  await expect(page.locator('main')).toContainText('Feed the leaven');
  await page.getByRole('button', { name: /^Fed/ }).click();
  await expect(page.locator('main')).toContainText('Mix and knead');
});

test('the plan goes out: sheet, calendar, table', async ({ page }) => {
  await page.goto(ROLLS);
  await page.getByRole('link', { name: 'Kitchen sheet' }).click();
  await expect(page.locator('.paperacts tbody tr').first()).toBeVisible();
  await page.goBack();
  for (const [name, mark] of [['Calendar', 'BEGIN:VCALENDAR'], ['Table', 'kind,start'], ['Markdown', '# Watch rolls'], ['JSON', 'cerealis-plan']]) {
    const href = await page.getByRole('link', { name, exact: true }).getAttribute('href');
    expect(await (await page.request.get(href)).text()).toContain(mark);
  }
});

test.describe('hours', () => {
  // What is refused is told with its own status, and the browser notes that.
  test.use({ allowed: ['422'] });

  test('are told once and kept to', async ({ page }, info) => {
    const name = `nets ${info.project.name}`;
    await page.goto('/plan/hours?formula=watch-rolls');
    await page.getByLabel('What', { exact: true }).fill(name);
    await page.getByLabel('Then I am').selectOption('busy');
    await page.getByRole('button', { name: 'Add these hours' }).click();
    await expect(page.locator('.wrong').first()).toBeVisible();
    await expect(page.getByLabel('What', { exact: true })).toHaveValue(name);
    await page.getByLabel('Sun', { exact: true }).check();
    await page.getByLabel('From', { exact: true }).fill('03:00');
    await page.getByLabel(/^To /).fill('03:20');
    await page.getByRole('button', { name: 'Add these hours' }).click();
    await expect(page.locator('table')).toContainText(name);
    await page.getByRole('button', { name: new RegExp(`Take away ${name}`) }).click();
    await expect(page.locator('table')).not.toContainText(name);
  });
});

test('two breads, one oven: all acts on one list, and both begin', async ({ page }) => {
  await page.goto('/plan/together');
  await page.getByLabel(/Skerry loaf/).check();
  await page.getByLabel(/Watch rolls/).check();
  await page.getByLabel('All ready to slice at').fill('2026-11-07T12:30');
  await page.getByRole('button', { name: 'Look for plans' }).click();
  await expect(page.locator('.together h2')).toHaveText(['Skerry loaf', 'Watch rolls']);
  const loads = page.locator('table.acts tr', { hasText: 'Load' });
  expect(await loads.count()).toBe(2);
  await page.getByRole('button', { name: 'Use these plans' }).click();
  await expect(page).toHaveURL(/\/bakeday\//);
});

test.describe('answers refused at their field', () => {
  test.use({ allowed: ['422'] });

  test('what may vary is told by keyboard, kept on reload, and nonsense stays in its field', async ({ page }) => {
    await page.goto('/plan?formula=watch-rolls&p[ready]=2026-11-07T18:00');
    await page.locator('summary', { hasText: 'What may vary' }).focus();
    await page.keyboard.press('Enter');
    const fridge = page.getByRole('group', { name: 'Leave out' }).getByLabel('fridge');
    await fridge.focus();
    await page.keyboard.press('Space');
    await expect(page.locator('.waylist')).not.toContainText('fridge');
    await page.getByLabel('Baked in').fill('2');
    await page.getByLabel('Baked in').press('Tab');
    await expect(page.locator('#answer')).toContainText('Load 2');
    await page.goto('/plan?formula=watch-rolls&p[ready]=2026-11-07T18:00&p[loads]=2&p[fridge]=off');
    await page.reload();
    await expect(fridge).toBeChecked();
    await expect(page.getByLabel('Baked in')).toHaveValue('2');
    await page.goto('/plan?formula=watch-rolls&p[ready]=2026-11-07T18:00&p[loads]=lots');
    await expect(page.locator('#wrong-loads')).toContainText('Between 1 and 6');
    await expect(page.getByLabel('Baked in')).toHaveValue('lots');
  });

  test('a night of the kitchen\'s own moves the plans', async ({ page }) => {
    await page.goto('/kitchen');
    const room = page.getByLabel('Room at night');
    const kept = await room.inputValue();
    await room.fill('warm');
    await page.getByRole('button', { name: 'Keep this' }).click();
    await expect(page.getByRole('alert').first()).toContainText('Not kept yet');
    await expect(room).toHaveValue('warm');
    await room.fill(kept);
    await page.getByRole('button', { name: 'Keep this' }).click();
    await expect(page.getByRole('status')).toContainText('Kept');
    await expect(page.getByLabel('Room at night')).toHaveValue(kept);
  });
});

test('water is found from the plan and follows the tap', async ({ page }) => {
  await page.goto('/water?formula=skerry-loaf');
  const degrees = page.locator('#water .num-xl');
  const before = await degrees.innerText();
  await page.getByLabel('Dough wanted').fill('29');
  await page.getByLabel('Dough wanted').press('Tab');
  await expect(degrees).not.toHaveText(before);
});

test('a jar of one\'s own: fed, seen, moved, used, taken back', async ({ page }, info) => {
  await page.goto('/leaven/new');
  await page.getByLabel('Its name').fill(`Kelp ${info.project.name}`);
  await page.getByRole('button', { name: 'Keep this jar' }).click();
  await expect(page.locator('h1')).toContainText('Kelp');
  await page.getByLabel('kept').fill('20');
  await page.getByLabel('water').fill('40');
  await page.getByLabel('flour').fill('40');
  await page.getByRole('button', { name: 'Fed', exact: true }).click();
  await expect(page.locator('.jarhead')).toContainText('at its best from');
  await page.getByRole('button', { name: 'It stands at 1.5 times' }).click();
  await page.getByText('Note another feed').click();
  await page.getByLabel('taken').fill('30');
  await page.getByRole('button', { name: 'Used' }).click();
  await expect(page.locator('.jarside')).toContainText('70 g in the jar');
  await page.getByText('Log', { exact: true }).click();
  await page.getByRole('button', { name: /Take back: 30 g used/ }).click();
  await expect(page.locator('.jarside')).toContainText('100 g in the jar');
});

test('what to feed for seven o\'clock', async ({ page }) => {
  await page.goto('/leaven/foghorn');
  await expect(page.locator('.dothis').first()).toContainText(/Keep .* g\. Add .* g water, .* g flour/);
  const before = await page.locator('.dothis').first().innerText();
  await page.getByLabel('Grams wanted').fill('260');
  await page.getByRole('button', { name: 'Look' }).click();
  await expect(page.locator('.dothis').first()).not.toHaveText(before);
  await page.getByText('The same as a table').click();
  await expect(page.locator('.feedside table tbody tr').first()).toBeVisible();
});
