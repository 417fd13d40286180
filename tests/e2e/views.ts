import { readFileSync } from 'node:fs';
import { AxeBuilder } from '@axe-core/playwright';
import { expect, type Page } from '@playwright/test';
import { readBundle } from '../../src/core/bundle/index.ts';
import { ProblemError } from '../../src/core/outcome/index.ts';

/** No fault that axe calls serious or critical on the page as it stands. */
export async function sound(page: Page) {
  // What was just switched on is still on its way to its colours.
  await page.evaluate(() =>
    Promise.all(
      document
        .getAnimations()
        .filter(a => a.effect?.getComputedTiming().endTime !== Number.POSITIVE_INFINITY)
        .map(a => a.finished.catch(() => undefined)),
    ).then(() => undefined),
  );
  // The app has no frames: axe need not open a page of its own to join what it found in them.
  const { violations } = await new AxeBuilder({ page })
    .options({ resultTypes: ['violations'] })
    .setLegacyMode(true)
    .withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'])
    .analyze();
  const grave = violations.filter(v => v.impact === 'serious' || v.impact === 'critical');
  expect(grave.map(v => `${v.id}: ${v.nodes.map(n => n.target).join(' | ')}`)).toEqual([]);
}

/**
 * Goes to a page as a link of the application does, without loading the application once more; loads it where it is not
 * there yet, or where another workshop is open.
 */
export async function visit(page: Page, path: string): Promise<void> {
  const workshop = (url: string) => url.match(/\/w\/[^/]+/)?.[0];
  if (!workshop(page.url()) || workshop(page.url()) !== workshop(path)) {
    await page.goto(path);
    return;
  }
  const left = await page.title();
  const before = new URL(page.url()).pathname;
  await page.evaluate(to => {
    window.history.pushState(null, '', to);
    window.dispatchEvent(new PopStateEvent('popstate', { state: null }));
  }, path);
  // Until it is there, what is asked for might be found on the page that is left; only what has the same name is there at once.
  const isSame = new URL(path, page.url()).pathname === before;
  await expect
    .poll(() => page.title(), { timeout: isSame ? 1500 : 10_000, intervals: [30, 60, 100] })
    .not.toBe(left)
    .catch(() => undefined);
}

/** Presses a button and gives the file it hands out. */
export async function download(page: Page, button: string | RegExp): Promise<Buffer> {
  const [file] = await Promise.all([
    page.waitForEvent('download', { timeout: 120_000 }),
    page.getByRole('button', { name: button }).click(),
  ]);
  return readFileSync(await file.path());
}

/** The plan of a trial of the demo. */
export const demoPlan = (file: string) => {
  const bundle = readBundle(new Uint8Array(readFileSync(`public/demo/${file}`)));
  if (!bundle.ok) throw new ProblemError(bundle.problem);
  return bundle.value.plan;
};
