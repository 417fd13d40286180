import { expect, test } from '@playwright/test';
import { sound, visit } from './views.ts';

test('the demo workshop shows a trial drying now, and never touches the user’s own', async ({ page }) => {
  await visit(page, '/w/demo');
  await expect(page.getByText('Nothing. Let it dry.')).toBeVisible();
  await expect(page.getByText('Wet the paper', { exact: false }).first()).toBeVisible();
  await expect(page.getByRole('button', { name: 'Save as calendar (ICS)' })).toBeEnabled();
  await sound(page);
  await page.getByRole('link', { name: /Bulkhead tiles: which paper rubs off best Thin/ }).click();
  await page.getByRole('button', { name: 'Remove trial' }).click();
  await expect(page.getByRole('heading', { name: 'Removed trials' })).toBeVisible();
  await page.getByRole('button', { name: 'Bring back' }).click();
  await expect(page.getByRole('heading', { name: 'Removed trials' })).toBeHidden();
  await visit(page, '/w/mine');
  await expect(page.getByRole('heading', { name: 'Make test pieces you can learn from' })).toBeVisible();
  await visit(page, '/w/demo');
  await page.getByRole('button', { name: 'Start the demo over' }).click();
  await expect(page.getByText('Berth plates: medium and cure time')).toBeVisible();
});

test('every view of the demo is free of serious faults, by day and by lamp, wide and narrow', async ({
  page,
}) => {
  await visit(page, '/w/demo');
  await page.getByRole('link', { name: /Berth plates/ }).click();
  await expect(page).toHaveURL(/keep/);
  const url = page.url().replace(/keep.*/, '');
  for (const mode of ['day', 'lamp'] as const) {
    if (mode === 'lamp') await page.getByRole('button', { name: 'Switch to lamplight colours' }).click();
    // By lamp the ones with pictures and colours of their own.
    const stages =
      mode === 'day'
        ? ['plan', 'print', 'make', 'read', 'judge', 'explain', 'keep']
        : ['make', 'read', 'keep'];
    for (const stage of stages) {
      await visit(page, `${url}${stage}`);
      await page.locator('.patch').nth(2).click();
      await expect(page.locator('.patch[aria-pressed=true]')).toHaveCount(1);
      await sound(page);
    }
  }
  await page.setViewportSize({ width: 390, height: 844 });
  for (const stage of ['plan', 'read', 'keep']) {
    await visit(page, `${url}${stage}`);
    await expect(page.locator('.patch').first()).toBeVisible();
    expect(await page.evaluate(() => document.documentElement.scrollWidth), stage).toBeLessThanOrEqual(390);
  }
});

test('in inches no measure is left in millimetres, °C or mL, on any page', async ({ page }) => {
  await visit(page, '/w/demo');
  await page.getByRole('button', { name: /Switch to inches/ }).click();
  await page.getByRole('link', { name: /Berth plates/ }).click();
  await expect(page.locator('.patch').first()).toBeVisible();
  const berth = page.url().match(/\/t\/[^/]+/)![0];
  for (const path of [
    ...['plan', 'print', 'make', 'read', 'explain', 'keep'].map(s => `${berth}/${s}`),
    '/new/plan?from=plain:thick-coat',
    '/shelf?kind=mediums&item=soft-gel',
    '/methods?method=thick-coat',
  ]) {
    await visit(page, `/w/demo${path}`);
    await expect(page.locator('h1').first()).toBeVisible();
    if (path.startsWith('/t/')) await page.locator('.patch').nth(2).click();
    if (path.startsWith('/new')) await expect(page.locator('.patch').first()).toBeVisible();
    const metric = (await page.locator('#root').textContent())!.match(/.{0,40}\d (mm|cm|dm|mL|°C).{0,20}/g);
    expect.soft(metric, path).toBeNull();
  }
  // What is typed in inches is kept as it was meant, and too small a board says so in inches.
  await visit(page, '/w/demo/new/plan?from=plain:wet-rub');
  await page.getByLabel('Coat thickness, in').fill('0.02');
  await expect(page.getByText('0.020 in coat')).toBeVisible();
  await page.getByLabel('Board width, in').fill('2');
  await expect(page.getByRole('alert')).toContainText(/A board of 2\.00 × [\d.]+ in is too small/);
});

test('the simulated camera makes a photo that says so, and reading can be cancelled', async ({ page }) => {
  await visit(page, '/w/demo');
  await page.getByRole('link', { name: /Bulkhead tiles: which paper rubs off best Thin/ }).click();
  await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Read' }).click();
  await page.locator('.patch').first().click();
  await expect(page.getByLabel('After round')).toHaveValue('2');
  await page.getByRole('button', { name: 'Simulated camera' }).click();
  await page.getByRole('button', { name: 'Cancel reading' }).click();
  await expect(page.getByText('Cancelled')).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Simulated camera' }).click();
  await expect(page.getByText('Read and kept')).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText('simulated photo', { exact: false }).first()).toBeVisible();
  const read = page.getByText(/\d+ of \d+ patches read\./);
  const before = await read.textContent();
  await page.getByRole('button', { name: 'Take this reading back' }).click();
  await expect(page.getByText('Its photo is kept and can be read again.')).toBeVisible();
  await expect(page.getByText('Its photo is kept and has not been measured')).toBeVisible();
  expect(await read.textContent()).not.toBe(before);
});

test('a stranger’s address, a missing trial and the keys all have a word', async ({ page }) => {
  expect((await page.goto('/nowhere'))!.status()).toBe(404);
  await visit(page, '/w/mine/t/NOTHERE/read');
  await expect(page.getByRole('heading', { name: 'This trial is not in this workshop' })).toBeVisible();
  for (const unknown of ['/w/mine/nothing', '/w/mine/t/NOTHERE/nothing']) {
    await page.goto(unknown);
    await expect(page.getByRole('heading', { name: 'There is nothing here' })).toBeVisible();
  }
  await visit(page, '/w/mine');
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toContainText('undo the last thing');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toBeHidden();
});

test('when the browser refuses to store, the step is not shown as done', async ({ page }) => {
  await visit(page, '/w/demo');
  await page.getByRole('link', { name: /Bulkhead tiles: which paper rubs off best Thin/ }).click();
  await page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name: 'Make' }).click();
  await page.getByRole('link', { name: 'Set up the bench' }).click();
  await page.getByRole('button', { name: 'Window open, gloves on' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Mark it');
  const code = await page.locator('h1 + p').textContent();
  await page.evaluate(() => {
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('The quota has been exceeded.', 'QuotaExceededError');
    };
  });
  await page.locator('body').press(' ');
  await expect(page.getByText('That was not saved', { exact: false })).toBeVisible();
  await expect(page.locator('h1 + p')).toHaveText(code!);
});
