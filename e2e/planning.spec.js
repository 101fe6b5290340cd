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
    await page.getByRole('button', { name: 'A quarter of an hour later' }).click();
    await expect(hour).toHaveValue('tomorrow 12:45');
  } else {
    const box = await page.locator('.wideonly .k-ready circle').boundingBox();
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    for (let i = 1; i <= 8; i += 1) await page.mouse.move(box.x + box.width / 2 + 8 * i, box.y + box.height / 2);
    await page.mouse.up();
    await expect(hour).not.toHaveValue('tomorrow 12:30');
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

test('a plan is used as it was shown, taken back, used again, and bake day begins with its first act', async ({ page, isMobile }) => {
  // What is used takes the oven of its day: each project has its own.
  await page.goto(`/plan?formula=skerry-loaf&p[ready]=2026-11-${isMobile ? 12 : 11}T12:30`);
  const shown = await page.locator('#answer table.acts td.when').first().innerText();
  await page.getByRole('button', { name: 'Use this plan' }).click();
  await expect(page).toHaveURL(/\/bakeday\//);
  await page.getByRole('button', { name: 'Take this plan back' }).click();
  await expect(page.locator('#answer table.acts td.when').first()).toHaveText(shown, { useInnerText: true });
  await page.getByRole('button', { name: 'Use this plan' }).click();
  await expect(page.locator('main')).toContainText('Feed the leaven');
  await page.getByRole('button', { name: /^Fed/ }).click();
  await expect(page.locator('main')).toContainText('Weigh and mix');
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

test('two breads, two hours, one oven: all acts on one list, and both begin on one day', async ({ page, isMobile }) => {
  const day = `2026-11-${isMobile ? 14 : 13}`;
  await page.goto('/plan/together');
  await page.getByRole('checkbox', { name: /Skerry loaf/ }).check();
  await page.getByRole('checkbox', { name: /Watch rolls/ }).check();
  await page.getByLabel('Skerry loaf ready to slice at').fill(`${day}T12:30`);
  await page.getByLabel('Watch rolls ready to slice at').fill(`${day}T16:00`);
  await page.getByRole('button', { name: 'Look for plans' }).click();
  await expect(page.locator('.together h2')).toHaveText(['Skerry loaf', 'Watch rolls']);
  await expect(page.locator('.lead')).toContainText('Watch rolls goes in');
  const loads = page.locator('table.acts tr', { hasText: 'Load' });
  expect(await loads.count()).toBe(2);
  await page.getByRole('button', { name: 'Use these plans' }).click();
  await expect(page).toHaveURL(/\/bakeday\//);
  await page.getByRole('link', { name: 'Watch rolls' }).click();
  await expect(page.getByRole('link', { name: 'Skerry loaf' })).toBeVisible();
});

test('bread for the boat round a night watch: a wish, an hour away, and the hour stays', async ({ page, isMobile }) => {
  const day = `2026-11-${isMobile ? 18 : 16}`;
  await page.goto(`/plan?formula=boat-tin&p[ready]=${day}T07:25`);
  await expect(page.locator('.wants')).toContainText('let me sleep longest');
  await page.getByRole('radio', { name: /let me sleep longest/ }).check();
  await expect(page.getByRole('radio', { name: /let me sleep longest/ })).toBeChecked();
  await expect(page.locator('.wants label.on .cap')).toContainText('in bed');
  // Nobody is asked to work on watch, nor in bed.
  const acts = await page.locator('#answer table.acts tbody tr').allInnerTexts();
  const work = acts.filter((row) => !/First rise|Proof|ripens|Slice/.test(row)).map((row) => row.match(/\d\d:\d\d/)[0]);
  expect(work.every((at) => at <= '22:30' && at >= '04:30')).toBe(true);
  const hour = await page.locator('#ready').inputValue();
  await page.locator('summary', { hasText: 'I am away once' }).click();
  await page.getByLabel('What', { exact: true }).fill('choir');
  await page.getByLabel('On', { exact: true }).fill(day);
  await page.getByLabel('From', { exact: true }).fill('05:10');
  await page.getByLabel('To', { exact: true }).fill('05:40');
  await page.getByRole('button', { name: 'Plan round it' }).click();
  await expect(page.locator('#ready')).toHaveValue(hour);
  await expect(page.locator('.hourlist')).toContainText('choir');
  await page.goto('/plan/hours');
  await page.getByRole('button', { name: /Take away choir/ }).click();
});

test('a leaven forgotten for a fortnight: noted as it was, fed twice, and the plan says when it is strong', async ({ page, isMobile }) => {
  await page.goto('/leaven/new');
  await page.getByLabel('Name').fill(`Forgotten ${isMobile ? 'phone' : 'laptop'}`);
  await page.getByRole('button', { name: /Keep|Add|jar/i }).last().click();
  const fed = page.locator('form.logform', { has: page.getByRole('button', { name: 'Fed', exact: true }) });
  await fed.getByLabel('kept').fill('30');
  await fed.getByLabel('water').fill('60');
  await fed.getByLabel('flour').fill('60');
  await fed.locator('select').selectOption('fridge');
  await fed.getByLabel('when, if not now').fill('2026-10-23T16:40');
  await fed.getByRole('button', { name: 'Fed', exact: true }).click();
  await expect(page.locator('.jarhead').first()).not.toContainText('Feed it, and it is foreseen');
  const jar = page.url();
  await page.locator('summary', { hasText: 'Pink or orange streaks' }).click();
  await expect(page.locator('.trouble')).toContainText('Throw all of it away');
  await page.getByRole('link', { name: 'Plan a bread with it' }).click();
  await page.getByRole('link', { name: /Skerry loaf/ }).click();
  // Tomorrow there is time for one feed alone, and that is said; the day after it is fed twice.
  await page.locator('#ready').fill('Sun 6.30 pm');
  await page.locator('#ready').press('Enter');
  await expect(page.locator('#answer')).toContainText('14 days in the fridge: two feeds');
  await page.goto(jar);
  await page.getByRole('button', { name: 'Put this jar away' }).click();
});

test.describe('a hut at 1,900 m without pantry or fridge', () => {
  let kept;
  test.beforeAll(async ({ request }) => { kept = await (await request.get('/api/v1/kitchen')).json(); });
  test.afterAll(async ({ request }) => { expect((await request.put('/api/v1/kitchen', { data: kept })).status()).toBe(200); });

  test('is told on the Kitchen page and planned in as it is', async ({ page }) => {
    await page.goto('/kitchen');
    await page.getByLabel(/^Pantry, if/).fill('');
    await page.getByLabel(/^Fridge, if/).fill('');
    await page.getByLabel('Height above the sea').fill('1900');
    await page.getByRole('button', { name: 'Keep this' }).click();
    await expect(page.getByRole('status')).toContainText('Kept');
    await page.goto('/plan?formula=boat-tin&p[ready]=2026-11-19T18:00');
    await expect(page.getByRole('button', { name: 'Use this plan' })).toBeVisible();
    await expect(page.locator('.waylist')).not.toContainText('fridge');
    await expect(page.locator('#answer')).not.toContainText('pantry');
    await page.goto('/oven?formula=boat-tin');
    await expect(page.locator('.ovenanswer')).toContainText('min');
  });
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
  await expect(page.locator('.jarhead')).toContainText('At its best from');
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
  await page.getByLabel('How much leaven is wanted').fill('260');
  await page.getByRole('button', { name: 'Look' }).click();
  await expect(page.locator('.dothis').first()).not.toHaveText(before);
  await page.getByText('The same as a table').click();
  await expect(page.locator('.feedside table tbody tr').first()).toBeVisible();
});
