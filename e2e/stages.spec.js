// A pot loaf, lid on and off, in a dying oven: from the pasted words to the logbook.
import { act, expect, mainButton, read, saveAndPlan, startByHand, test } from './kitchen.js';

const POT = `450 g bread flour
50 g rye flour
350 g water
10 g salt
4 g instant yeast

Mix and knead 8 min. Let rise 2 hours. Shape into a round.
Heat the oven to 250 C with the pot inside.
Bake 20 min with the lid on, then 20 min at 220 C with the lid off.
Turn the oven off and leave it in for 5 min with the door ajar.`;

test.use({ allowed: ['422'] });

test('a pot loaf is baked in its stages, each an act of the day', async ({ page }, info) => {
  await read(page, POT);
  await expect(page.getByLabel('Bakes', { exact: true })).toHaveValue('pot');
  const way = (n) => page.getByLabel(`Stage ${n}, lid, door and dial`);
  await expect(way(1)).toHaveValue('lid-on');
  await expect(way(2)).toHaveValue('lid-off');
  await expect(way(3)).toHaveValue('off-ajar');
  await expect(page.getByLabel('Stage 2, setting')).toHaveValue('220');
  // A stage more, and out again.
  await page.getByRole('button', { name: 'Another stage' }).click();
  await expect(way(4)).toBeVisible();
  await expect(way(4)).toBeFocused();
  await page.getByRole('button', { name: 'Take stage 4 out' }).press('Enter');
  await expect(way(4)).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Another stage' })).toBeFocused();
  // What no setting is stays as typed and is told at its stage.
  const setting = page.getByLabel('Stage 2, setting');
  await setting.fill('9000');
  await setting.press('Tab');
  await expect(page.locator('#wrong-stage-1')).toContainText('between 30 and 300');
  await expect(setting).toHaveValue('9000');
  await setting.fill('220');
  await setting.press('Tab');
  await expect(page.locator('#wrong-stage-1')).toBeEmpty();

  await saveAndPlan(page, `Keeper’s pot loaf ${info.project.name}`);
  await expect(page.locator('main')).toContainText('Turn the dial');
  await expect(page.locator('main')).toContainText('Let it dry in the oven');
  await startByHand(page);
  await expect(mainButton(page)).toBeVisible();
  const done = [];
  while (done.length < 24 && (await mainButton(page).isVisible())) done.push(await act(page));
  for (const said of ['It is in', 'Lid is off', 'Dial is turned', 'It dries', 'It is out', 'Sliced']) expect(done, said).toContain(said);
  await page.getByRole('link', { name: 'Log', exact: true }).click();
  for (const told of ['Lid off', 'Dial turned', 'Drying in the oven']) await expect(page.locator('main')).toContainText(told);
});
