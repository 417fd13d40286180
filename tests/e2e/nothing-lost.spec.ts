import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, expect, test } from '@playwright/test';
import { begin, bring, planOf, press, showing, stored } from './at-bench.ts';

const RUB = planOf('wet-rub', {
  name: 'Hook plates: two mediums',
  factors: [{ key: 'medium', levels: ['matte-acrylic', 'white-pva'] }],
  repeats: 3,
});

test('a browser that is killed in the middle of the work has lost nothing that the screen had moved on from', async ({
  baseURL,
}, info) => {
  const { launchOptions } = info.project.use;
  const profile = mkdtempSync(join(tmpdir(), 'wet-test-profile-'));
  const open = () =>
    chromium.launchPersistentContext(profile, {
      ...launchOptions,
      baseURL,
      viewport: { width: 1280, height: 800 },
    });
  const context = await open();
  const page = context.pages()[0] ?? (await context.newPage());
  await bring(page, RUB);
  await begin(page);
  for (let i = 0; i < RUB.patches.length + 2; i++) await press(page);
  const before = await showing(page);
  const gone = new Promise(resolve => context.once('close', resolve));
  execFileSync('pkill', ['-9', '-f', profile]);
  await gone;

  const again = await open();
  const reopened = again.pages()[0] ?? (await again.newPage());
  await reopened.goto(`/w/mine/t/${RUB.id}/bench`);
  await expect.poll(() => showing(reopened)).toBe(before);
  const steps = (await stored(reopened, RUB.id)).filter(r => r.kind === 'step');
  expect(steps).toHaveLength(RUB.patches.length + 2);
  await again.close();
  rmSync(profile, { recursive: true, force: true });
});

test('a full store says so in words, shows nothing as done, and goes on when there is room again', async ({
  page,
}) => {
  await bring(page, RUB);
  await begin(page);
  await press(page);
  const before = await showing(page);
  // What a browser does when a disk is full.
  await page.evaluate(() => {
    const { put } = IDBObjectStore.prototype;
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('The quota has been exceeded.', 'QuotaExceededError');
    };
    (window as unknown as { makeRoom: () => void }).makeRoom = () => {
      IDBObjectStore.prototype.put = put;
    };
  });
  // Not within the moment in which a doubled press counts once.
  await page.waitForTimeout(500);
  await page.locator('body').press(' ');
  // Sooner than a hand can have done it: asked, and pressed once more.
  await expect(page.getByText('That was quick')).toBeVisible();
  await page.waitForTimeout(400);
  await page.locator('body').press(' ');
  await expect(page.getByText('That was not saved', { exact: false })).toBeVisible();
  await expect(page.getByText(/no room left in this browser’s storage.*do it again/)).toBeVisible();
  expect(await showing(page)).toBe(before);
  await page.evaluate(() => (window as unknown as { makeRoom: () => void }).makeRoom());
  await press(page);
  expect((await stored(page, RUB.id)).filter(r => r.kind === 'step')).toHaveLength(2);
});

test('a browser that blocks storage says so instead of showing an empty workshop', async ({ page }) => {
  await page.addInitScript(() => {
    const refuse = () => {
      throw new DOMException('Access is denied for this document.', 'SecurityError');
    };
    Object.defineProperty(window, 'indexedDB', { get: refuse });
    Object.defineProperty(window, 'localStorage', { get: refuse });
  });
  await page.goto('/w/mine');
  await expect(page.getByRole('heading', { name: 'The workshop cannot be opened' })).toBeVisible();
  await expect(page.getByText(/does not let Wet Test store anything.*Allow this page/)).toBeVisible();
});

test('a clock that is set back changes no time that was kept: work goes on from before, and it is said', async ({
  page,
}) => {
  await page.clock.install({ time: new Date('2026-05-02T18:00:00') });
  await bring(page, RUB);
  await begin(page);
  for (let i = 0; i < RUB.patches.length; i++) await press(page);
  await press(page);
  await page.clock.setSystemTime(new Date('2026-05-02T17:00:00'));
  await page.clock.runFor(2000);
  await expect(page.getByText(/clock was set back by (1 h|60 min)/)).toBeVisible();
  await press(page);
  await page.reload();
  await expect(page.getByText(/clock was set back by/)).toBeVisible();
  await press(page);
  const times = (await stored(page, RUB.id)).map(r => Date.parse(r.at));
  const steps = (await stored(page, RUB.id)).filter(r => r.kind === 'step');
  expect(steps.map(r => r.kind === 'step' && r.step).slice(-3)).toEqual(['coat', 'place', 'coat']);
  expect(Math.max(...times) - Math.min(...times)).toBeLessThan(10 * 60_000);
});

test('a tab that slept for a night wakes to the right time: what is due, and nothing called out late', async ({
  page,
}) => {
  await page.clock.install({ time: new Date('2026-05-02T18:00:00') });
  await page.addInitScript(() => {
    (window as unknown as { beeps: number }).beeps = 0;
    window.AudioContext = class {
      currentTime = 0;
      destination = {};
      createOscillator = () => {
        (window as unknown as { beeps: number }).beeps++;
        return { frequency: {}, connect: (x: unknown) => x, start: () => {}, stop: () => {} };
      };
      createGain = () => ({ gain: {}, connect: (x: unknown) => x });
      close = () => Promise.resolve();
    } as unknown as typeof AudioContext;
  });
  await bring(page, RUB);
  await begin(page);
  for (let i = 0; i < RUB.patches.length * 3; i++) {
    await press(page);
    await page.clock.fastForward(5000);
  }
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Wait');
  const beeps = await page.evaluate(() => (window as unknown as { beeps: number }).beeps);
  await page.clock.fastForward(13 * 3_600_000);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Is it ready?');
  await expect(page.getByRole('timer')).toContainText(/past the best moment|left to the best moment/);
  expect(await page.evaluate(() => (window as unknown as { beeps: number }).beeps)).toBe(beeps);
});
