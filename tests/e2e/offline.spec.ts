import { expect, test } from '@playwright/test';

test.use({ serviceWorkers: 'allow' });

test('once loaded it opens without a network, pages that were never opened before among them', async ({
  page,
  context,
}) => {
  await page.goto('/w/demo');
  await expect(page.getByRole('link', { name: 'Berth plates' }).first()).toBeVisible();
  // All of the app is put by in the browser, then the worker answers for the network.
  await page.evaluate(() => navigator.serviceWorker.ready);
  await page.waitForFunction(
    async () => {
      const names = await caches.keys();
      const kept = await Promise.all(names.map(async n => (await (await caches.open(n)).keys()).length));
      return kept.reduce((a, b) => a + b, 0) > 30;
    },
    undefined,
    { timeout: 60_000 },
  );
  await page.waitForFunction(
    async () => (await navigator.serviceWorker.getRegistration())?.active?.state === 'activated',
  );
  await context.setOffline(true);
  await page.reload();
  await expect(page.getByRole('link', { name: 'Berth plates' }).first()).toBeVisible();
  for (const [name, heading] of [
    ['Shelf', /Shelf/],
    ['Methods', /Methods/],
    ['Pictures', /Pictures/],
  ] as const) {
    await page.getByRole('navigation', { name: 'Workshop' }).getByRole('link', { name }).click();
    await expect(page.getByRole('heading', { name: heading }).first()).toBeVisible();
  }
  // The bench too, with its own address.
  await page.goto('/w/demo');
  await page.getByRole('link', { name: /Hook plates/ }).click();
  await page.getByRole('link', { name: /the bench$/ }).click();
  await expect(page.getByRole('button', { name: 'Leave the bench' })).toBeVisible();
  // Its own address opens as well.
  await page.reload();
  await expect(page.getByRole('button', { name: 'Leave the bench' })).toBeVisible();
});
