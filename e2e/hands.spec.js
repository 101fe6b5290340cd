// Hands on the keys, floury hands, no script at all, and nonsense typed in.
import { expect, line, read, startByHand, test } from './kitchen.js';

const ROLLS = '500 g bread flour\n300 g milk\n10 g salt\n7 g instant yeast\n50 g butter\nMakes 12 rolls';

test.describe('by keyboard alone', () => {
  test.skip(({ isMobile }) => isMobile, 'a phone has no Alt key');

  test('Enter walks down the grams, Alt with an arrow moves the line and the focus goes with it', async ({ page }) => {
    await read(page, ROLLS);
    await line(page, 1).getByLabel('Weight of').focus();
    await page.keyboard.press('Enter');
    await expect(line(page, 2).getByLabel('Weight of')).toBeFocused();
    await line(page, 2).getByLabel('Ingredient').focus();
    await page.keyboard.press('Alt+ArrowDown');
    await expect(line(page, 3).getByLabel('Ingredient')).toHaveValue(/milk/i);
    await expect(page.locator('button[value="down:2"]')).toBeFocused();
    await page.keyboard.press('Enter');
    await expect(line(page, 4).getByLabel('Ingredient')).toHaveValue(/milk/i);
  });

  test('arrows go up and down the weights, and a remedy is taken by its number and taken back', async ({ page }) => {
    await read(page, '500 g bread flour\n340 g water\n30 g salt\n3 g instant yeast');
    await line(page, 2).getByLabel('Weight of').focus();
    await page.keyboard.press('ArrowDown');
    await expect(line(page, 3).getByLabel('Weight of')).toBeFocused();
    await page.keyboard.press('Alt+1');
    await expect(line(page, 3).getByLabel('Weight of')).toHaveValue('11');
    await page.locator('#deeds').getByRole('button', { name: 'Undo' }).click();
    await expect(line(page, 3).getByLabel('Weight of')).toHaveValue('30');
    await line(page, 3).getByLabel('Weight of').focus();
    await page.keyboard.press('ArrowUp');
    await expect(line(page, 2).getByLabel('Weight of')).toBeFocused();
  });

  test('figures follow the typing and the field keeps the cursor', async ({ page }) => {
    await read(page, ROLLS);
    const milk = line(page, 2).getByLabel('Weight of');
    const before = await page.locator('#pct-1').innerText();
    await milk.focus();
    await page.keyboard.press('ControlOrMeta+a');
    await page.keyboard.type('350');
    await expect(page.locator('#pct-1')).not.toHaveText(before);
    await expect(page.locator('#pct-1')).toContainText('70');
    await expect(milk).toBeFocused();
    await page.keyboard.type('5');
    await expect(milk).toHaveValue('3505');
  });

  test('Enter on the last line opens a new one', async ({ page }) => {
    await read(page, ROLLS);
    await line(page, 5).getByLabel('Ingredient').focus();
    await page.keyboard.press('Enter');
    await expect(line(page, 6).getByLabel('Ingredient')).toBeFocused();
    await expect(page.locator('.wrong')).toHaveCount(0);
  });

  test('Alt+1 takes the first remedy of the line', async ({ page }) => {
    await read(page, '500 g bread flour\n330 g water\n10 g salt\n50 g instant yeast');
    const yeast = line(page, 4).getByLabel('Weight of');
    await yeast.focus();
    await page.keyboard.press('Alt+1');
    await expect(line(page, 4).getByLabel('Weight of')).not.toHaveValue('50');
  });

  test('single keys lead to pages, and can be switched off', async ({ page }) => {
    await page.goto('/');
    await page.keyboard.press('g');
    await expect(page).toHaveURL(/\/logbook$/);
    await page.getByRole('button', { name: 'Switch them off' }).click();
    await page.locator('h1').click();
    await page.keyboard.press('f');
    await page.waitForTimeout(300);
    await expect(page).toHaveURL(/\/logbook$/);
    await page.getByRole('button', { name: 'Switch them on' }).click();
  });

  test('the first Tab offers the way past the masthead', async ({ page }) => {
    await page.goto('/');
    await page.keyboard.press('Tab');
    await expect(page.getByRole('link', { name: 'To the page' })).toBeFocused();
    await page.keyboard.press('Enter');
    await expect(page.locator('#main')).toBeFocused();
  });
});

test.describe('by touch', () => {
  test('lines move, go and come by their buttons', async ({ page }) => {
    await read(page, ROLLS);
    await page.getByRole('button', { name: 'Line 5 up' }).click();
    await expect(line(page, 4).getByLabel('Ingredient')).toHaveValue(/butter/i);
    await page.getByRole('button', { name: 'Take line 4 out' }).click();
    await expect(page.locator('.line')).toHaveCount(4);
    await page.getByRole('button', { name: 'Add a line' }).click();
    await expect(page.locator('.line')).toHaveCount(5);
  });

  test('twice the rolls takes twice the flour', async ({ page }) => {
    await read(page, ROLLS);
    await page.getByLabel('Flour there is').fill('1000');
    await expect(page.getByLabel('the flour that is left')).toBeChecked();
    await expect(page.locator('#becomes')).toContainText('twice as much');
    await expect(page.getByLabel('Weight of each')).toHaveAttribute('placeholder', /^14[45]$/);
    await expect(line(page, 1).getByLabel('Weight of')).toHaveValue('500');
    await expect(page.getByRole('button', { name: /^24 of 72/ })).toBeVisible();
    await page.getByRole('button', { name: 'Take it' }).click();
    await expect(line(page, 1).getByLabel('Weight of')).toHaveValue('1000');
    await expect(line(page, 3).getByLabel('Weight of')).toHaveValue('20');
    await expect(page.getByRole('button', { name: 'Take it' })).toBeFocused();
    for (const [way, flour] of [['Undo', '500'], ['Redo', '1000'], ['Undo', '500']]) {
      await page.locator('#becomes').getByRole('button', { name: way }).click();
      await expect(line(page, 1).getByLabel('Weight of')).toHaveValue(flour);
    }
  });

  test('flour that is short is told at once, and one tap makes the pieces smaller', async ({ page }) => {
    await read(page, '500 g bread flour\n340 g water\n10 g salt\n3 g instant yeast\nMakes 2 loaves');
    await page.getByLabel('Weight of each').fill('450');
    await expect(page.getByLabel('Flour there is')).toHaveAttribute('placeholder', '528');
    await page.getByLabel('Flour there is').fill('500');
    await expect(page.getByLabel('the pieces', { exact: true })).toBeChecked();
    await expect(page.locator('#becomes')).toContainText('28 g of flour short. 2 of 450 g want 528 g.');
    await page.getByRole('button', { name: '2 of 427 g instead' }).click();
    await expect(page.getByLabel('Weight of each')).toHaveAttribute('placeholder', '427');
    await expect(line(page, 1).getByLabel('Weight of')).toHaveValue('500');
    await expect(page.locator('#becomes')).not.toContainText('short');
  });

  test('a tap is not lost though the figures come while the finger is down', async ({ page }, info) => {
    await read(page, ROLLS);
    await page.getByLabel('Name of the bread').fill(`Slow finger ${info.project.name}`);
    // The figures that follow the name are in place.
    await page.waitForTimeout(1000);
    const save = page.getByRole('button', { name: 'Save, plan the day' });
    await save.scrollIntoViewIfNeeded();
    const box = await save.boundingBox();
    const answered = page.waitForResponse((r) => r.request().method() === 'POST');
    await line(page, 1).getByLabel('Weight of').evaluate((field) => {
      field.value = '510';
      field.dispatchEvent(new Event('input', { bubbles: true }));
    });
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await answered;
    // Long enough for the figures to be put in, if nothing held them back.
    await page.waitForTimeout(400);
    await page.mouse.up();
    await expect(page).toHaveURL(/\/plan\?formula=/);
  });

  test('nothing on the bench is smaller than a fingertip', async ({ page, isMobile }) => {
    test.skip(!isMobile, 'measured on the phone');
    await page.goto('/bakeday/demo-4');
    for (const button of await page.locator('main button:visible').all()) {
      const box = await button.boundingBox();
      expect(Math.min(box.height, box.width), await button.innerText()).toBeGreaterThanOrEqual(44);
    }
  });
});

test.describe('without script', () => {
  test.use({ javaScriptEnabled: false });

  test('the whole walk still works by its buttons', async ({ page }, info) => {
    await read(page, '500 g bread flour\n330 g water\n4 g instant yeast');
    await page.getByRole('button', { name: 'Add 10 g' }).first().click();
    await expect(line(page, 4).getByLabel('Weight of')).toHaveValue('10');
    await page.getByLabel('Name of the bread').fill(`Plain loaf ${info.project.name}`);
    await page.getByRole('button', { name: 'Save, plan the day' }).click();
    await page.getByRole('button', { name: 'Look for plans' }).click();
    await startByHand(page);
    await page.locator('[data-key="main"]').click();
    await expect(page.locator('#acts table')).toBeVisible();
  });
});

test.describe('nonsense', () => {
  test.use({ allowed: ['422', '400', '413'] });

  test('an empty recipe is asked for, not punished', async ({ page }) => {
    await page.goto('/formula');
    await page.getByRole('button', { name: 'Read it' }).click();
    await expect(page.locator('#text-wrong')).toContainText(/\w/);
  });

  test('a wrong weight stays as typed, with a sentence at its field', async ({ page }) => {
    await read(page, ROLLS);
    await line(page, 2).getByLabel('Weight of').fill('-3 buckets');
    await expect(page.locator('#wrong-1 .wrong')).toBeVisible();
    await expect(line(page, 2).getByLabel('Weight of')).toHaveValue('-3 buckets');
    await page.getByRole('button', { name: 'Add a line' }).click();
    await expect(line(page, 2).getByLabel('Weight of')).toHaveValue('-3 buckets');
  });

  test('a wrong count of pieces stays as typed, and so does a wrong figure to scale by', async ({ page }) => {
    await read(page, ROLLS);
    await page.getByLabel('How many pieces').fill('a dozen');
    await expect(page.locator('#amount-wrong')).toContainText('a dozen');
    await page.getByLabel('Flour there is').fill('some');
    await page.getByRole('button', { name: 'Take it' }).click();
    await expect(page.getByLabel('Flour there is')).toHaveValue('some');
    await expect(page.getByLabel('How many pieces')).toHaveValue('a dozen');
  });

  test('an impossible room is refused in words', async ({ page }) => {
    await page.goto('/plan/by-hand?formula=skerry-loaf&p[tap_c]=900');
    await expect(page.locator('.wrong').first()).toBeVisible();
    await expect(page.getByLabel(/tap/i).first()).toHaveValue('900');
  });

  test('a page that is not there says so', async ({ page }) => {
    test.info().annotations.push({ type: 'expects', description: '404' });
    const answer = await page.request.get('/formula/no-such-bread', { headers: { accept: 'text/html' } });
    expect(answer.status()).toBe(404);
    expect(await answer.text()).toContain('Cerealis');
  });
});
