// What every walk needs: a demo kitchen at a quarter to five in the afternoon, a page that fails on any complaint in the
// browser's console, and a few moves of the hand.
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect, test as base } from '@playwright/test';

export { expect };

const PROGRAM = fileURLToPath(new URL('../target/debug/cerealis', import.meta.url));
const FIRST_PORT = Number(process.env.CEREALIS_E2E_PORT ?? 8092);

/** The demo kitchen, its clock set. */
const DEMO = ['demo', '--clock', '2026-11-06T16:40:00+00:00,1'];

/** Starts a kitchen, waits until it answers, ends it when the worker is done. */
export async function kitchen(use, number, how = DEMO) {
  const data = await mkdtemp(join(tmpdir(), 'cerealis-e2e-'));
  const address = `127.0.0.1:${FIRST_PORT + number}`;
  const program = spawn(PROGRAM, [...how, '--data', data, '--listen', address], { stdio: ['ignore', 'ignore', 'pipe'] });
  const said = [];
  program.stderr.on('data', (d) => said.push(String(d)));
  const ended = once(program, 'exit');
  const answers = () => fetch(`http://${address}/health`).then((r) => r.ok, () => false);
  await expect.poll(answers, { message: 'the kitchen answers', timeout: 60_000 }).toBe(true);
  expect(program.exitCode, said.join('')).toBe(null);
  await use(`http://${address}`);
  program.kill('SIGTERM');
  await ended;
  await rm(data, { recursive: true });
}

export const test = base.extend({
  /** Where this worker's kitchen answers. */
  address: [({}, use, { workerIndex }) => kitchen(use, workerIndex), { scope: 'worker', timeout: 90_000 }],
  baseURL: ({ address }, use) => use(address),
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

/** The work at the bowl, act by act, until the dough is left to rise. */
export async function kneaded(page) {
  const bowl = /Weigh and mix|Let it soak|Knead|Work the butter in/;
  while (bowl.test(await page.locator('h1').innerText())) {
    const key = await page.locator('.deedbar input[name="key"]').inputValue();
    await page.locator('[data-key="main"]').click();
    await expect(page.locator(`.deedbar input[name="key"]:not([value="${key}"])`)).toHaveCount(1);
  }
  await expect(page.locator('#acts')).toContainText('Left to rise');
}

/** From a plan's page: begins the bake now, places and times set by hand. */
export async function startByHand(page) {
  await page.getByRole('link', { name: 'Set places and times by hand' }).click();
  await page.getByRole('button', { name: 'Start this bake' }).click();
}

/** The button of the act that is due. */
export const mainButton = (page) => page.locator('[data-key="main"]');

/** Does the main act and waits for the page that follows; gives what the button said. */
export async function act(page) {
  const said = await mainButton(page).locator('b').innerText();
  const key = await page.locator('.deedbar input[name="key"]').inputValue();
  await mainButton(page).click();
  // The page that follows has another key, or nothing left to do.
  const done = page.getByRole('heading', { level: 1, name: /It is done/ });
  await expect(page.locator(`.deedbar input[name="key"]:not([value="${key}"])`).or(done)).not.toHaveCount(0);
  // The key is read before the button behind it: a walk that looks at once would find none.
  await expect(mainButton(page).or(done).first()).toBeVisible();
  return said;
}
