// What hands do to the pieces, from the pasted words to the logbook: a closed tin, two coats, a night on the counter, rolls with
// filling and icing, rolls out of a bath, a batter in the wrong tin.
import { act, expect, mainButton, read, saveAndPlan, startByHand, test } from './kitchen.js';

test.use({ allowed: ['422'] });

/** Goes through the bake begun by hand; gives what each button said. */
async function bake(page) {
  await startByHand(page);
  await expect(mainButton(page)).toBeVisible();
  const done = [];
  while (done.length < 30 && (await mainButton(page).isVisible())) done.push(await act(page));
  expect(done.at(-1)).toBe('Sliced');
  return done;
}

/** The log of the bake tells these. */
async function logTells(page, ...words) {
  await page.getByRole('link', { name: 'Log', exact: true }).click();
  for (const told of words) await expect(page.locator('main')).toContainText(told);
}

const SOFT = '430 g bread flour\n280 g milk\n35 g butter\n20 g sugar\n8 g salt\n4 g instant yeast\n';

test('a closed tin is shut by the height of the dough', async ({ page }, info) => {
  await read(page, `${SOFT}
Mix and knead 8 min. Let rise 1 hour. Knock back and let rise again for 45 minutes.
Shape and place in a loaf tin. Prove 1 hour, put the lid on and bake at 200 C for 35 minutes, covered.`);
  await expect(page.getByLabel('Lid', { exact: true })).toHaveValue('1');
  await expect(page.getByLabel('First rise')).toHaveValue('knocked-back');
  await page.locator('select[name="scale[pan]"]').selectOption('closed-9x4');
  await page.getByRole('button', { name: 'Take it' }).click();
  await expect(page.locator('#tin')).toContainText('Close the lid when it stands 8.2–8.7 cm');
  await saveAndPlan(page, `Keeper’s square loaf ${info.project.name}`);
  await expect(page.locator('main')).toContainText('Close the lid');
  await startByHand(page);
  await expect(mainButton(page)).toBeVisible();
  const done = [];
  while (done.length < 30 && (await mainButton(page).isVisible())) {
    if (/Close the lid/.test(await page.locator('h1').innerText())) await expect(page.locator('main')).toContainText('8.2–8.7 cm');
    done.push(await act(page));
  }
  for (const said of ['Knocked back', 'Lid is on', 'It is in', 'Sliced']) expect(done, done.join(', ')).toContain(said);
  expect(done.indexOf('Lid is on')).toBeLessThan(done.indexOf('It is in'));
  await logTells(page, 'Knocked back', 'Lid on');
});

test('a braid is brushed twice', async ({ page }, info) => {
  await read(page, `${SOFT}1 egg yolk and 15 g milk to brush

Mix and knead 8 min. Let rise 90 minutes. Braid one loaf from 4 strands. Prove 45 minutes.
Brush with the yolk, wait 10 minutes and brush again. Heat the oven to 180 C. Bake 30 minutes.`);
  await expect(page.getByLabel('Brushed')).toHaveValue('2');
  await saveAndPlan(page, `Keeper’s braid ${info.project.name}`);
  const done = await bake(page);
  expect(done.filter((said) => said === 'Brushed')).toHaveLength(2);
});

test('wholemeal left for a night is not called past ripe', async ({ page }, info) => {
  await read(page, `500 g wholemeal flour\n375 g water\n10 g salt\n1.5 g instant yeast

Stir everything together in the evening. Cover and leave on the counter for 12 hours.
Shape into a loaf and put it into a tin. Prove 1 hour. Heat the oven to 230 C. Bake 40 minutes.`);
  await expect(page.locator('main')).not.toContainText('past ripe');
  await expect(page.getByLabel('First rise')).toHaveValue('');
  await saveAndPlan(page, `Night watch ${info.project.name}`);
  expect(await bake(page)).toContain('Shaped');
});

test('rolls with a filling and an icing', async ({ page }, info) => {
  await read(page, `${SOFT}
For the filling\n80 g butter\n120 g brown sugar\n8 g cinnamon

For the icing\n120 g icing sugar\n25 g milk

Mix and knead 8 min. Let rise 90 minutes. Roll out, spread with the filling, roll up and cut into 12 rolls.
Set side by side on a tray. Prove 45 minutes. Heat the oven to 190 C. Bake 22 minutes. Cool, then drizzle with the icing.`);
  await expect(page.getByLabel('Goes in, line 7')).toHaveValue('filling');
  await expect(page.getByLabel('Pieces lie')).toHaveValue('touching');
  await saveAndPlan(page, `Keeper’s sticky rolls ${info.project.name}`);
  await startByHand(page);
  await expect(mainButton(page)).toBeVisible();
  const seen = {};
  for (let n = 0; n < 30 && (await mainButton(page).isVisible()); n += 1) {
    const words = await page.locator('main').innerText();
    const said = await act(page);
    seen[said] = words;
  }
  expect(seen.Shaped).toContain('Filling');
  expect(seen.Sliced).toContain('Icing');
});

test('rolls are dipped before they are loaded', async ({ page }, info) => {
  await read(page, `500 g bread flour\n260 g water\n30 g butter\n10 g salt\n5 g instant yeast

For the bath\n2000 g water\n80 g baking soda

Mix and knead 8 min. Let rise 45 minutes. Divide into 10 rolls. Prove 20 minutes.
Dip each for 30 seconds. Heat the oven to 220 C. Bake 15 minutes.`);
  await saveAndPlan(page, `Soda rolls ${info.project.name}`);
  const done = await bake(page);
  expect(done.indexOf('Dipped')).toBeGreaterThan(done.indexOf('Shaped'));
  expect(done.indexOf('Dipped')).toBeLessThan(done.indexOf('It is in'));
});

test('a batter in the wrong tin', async ({ page }, info) => {
  await read(page, `300 g rice flour\n150 g buckwheat flour\n50 g tapioca starch\n15 g psyllium husk\n450 g water\n10 g salt\n8 g instant yeast

Stir to a batter, pour into a loaf tin. Prove 1 hour. Heat the oven to 200 C. Bake 50 minutes.`);
  await page.locator('select[name="scale[pan]"]').selectOption('loaf-uk-1lb');
  await page.getByRole('button', { name: 'Take it' }).click();
  await expect(page.locator('main')).toContainText('It will run over');
  await page.getByRole('button', { name: /^Use the / }).first().click();
  await expect(page.locator('main')).not.toContainText('It will run over');
  await saveAndPlan(page, `Rice loaf ${info.project.name}`);
  expect(await bake(page)).toContain('It is out');
});

test('what the oven is told of a bread is kept with it', async ({ page }) => {
  await page.goto('/oven?formula=boat-tin');
  const keep = page.getByRole('button', { name: 'Keep it so for this bread' });
  await expect(keep).toHaveCount(0);
  const on = page.locator('select[name="p[vessel]"]');
  const other = (await on.inputValue()) === 'pan-glass' ? 'pan-metal' : 'pan-glass';
  await on.selectOption(other);
  await keep.press('Enter');
  await expect(on).toHaveValue(other);
  await expect(keep).toHaveCount(0);
  await page.goto('/oven?formula=boat-tin');
  await expect(on).toHaveValue(other);
});
