import { readFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import sharp from 'sharp';
import { writeBundle } from '../../src/core/bundle/index.ts';
import { readingFor } from '../../src/core/trial/example.ts';
import { bring, planOf, press, showing, stored } from './at-bench.ts';
import { fill, historyOf, seenOf, watchStorage } from './many-trials.ts';
import { visit } from './views.ts';

const PLAN = planOf('wet-rub', {
  name: 'Tide tins',
  factors: [{ key: 'medium', levels: ['matte-acrylic', 'soft-gel'] }],
  repeats: 2,
});
const opened = (page: Page) => expect(page.getByRole('heading', { name: 'Trials' })).toBeVisible();

/** Puts something into the storage behind the app's back. */
const put = (page: Page, store: string, key: string, value: unknown) =>
  page.evaluate(
    ([store, key, value]) =>
      new Promise<void>((resolve, reject) => {
        const open = indexedDB.open('wet-test-mine');
        open.onsuccess = () => {
          const work = open.result.transaction(store as string, 'readwrite');
          work.objectStore(store as string).put(value, key as string);
          work.oncomplete = () => {
            open.result.close();
            resolve();
          };
          work.onerror = () => reject(work.error);
        };
      }),
    [store, key, value] as const,
  );

/** From now on the browser keeps nothing more, as when its disk is full. */
const fillDisk = (page: Page) =>
  page.evaluate(() => {
    IDBObjectStore.prototype.put = () => {
      throw new DOMException('The quota has been exceeded.', 'QuotaExceededError');
    };
  });

test('sixty trials: the opening view reads their summaries, a trial its own records, a press next to nothing', async ({
  page,
}) => {
  await visit(page, '/w/mine');
  await expect(page.getByRole('link', { name: /Plan/ }).first()).toBeVisible();
  const size = { trials: 60, underWay: 3, recordsEach: 60, photosEach: 4 };
  const plans = await fill(page, PLAN, size, Date.now());
  await page.reload();
  await opened(page);
  await expect(page.getByText(plans[59].name, { exact: true })).toBeVisible();
  await watchStorage(page);
  await page.reload();
  await opened(page);
  // The oldest is under way: it stands among what dries.
  await expect(page.getByText(new RegExp(`${plans[0].name} ·`)).first()).toBeVisible();
  const underWay = plans.slice(0, 3).map(p => p.id);
  const isOf = (line: string, ids: readonly string[]) => ids.some(id => line.includes(` ${id}`));
  const first = await seenOf(page);
  const trialReads = (seen: readonly string[]) => seen.filter(s => /^get (log|plans|maps|photos) /.test(s));
  expect(trialReads(first).length).toBeGreaterThan(0);
  expect(trialReads(first).filter(s => !isOf(s, underWay))).toEqual([]);
  expect(first.filter(s => s === 'all summaries')).toHaveLength(1);
  expect(
    first.filter(s => s.startsWith('all ') && s !== 'all summaries' && /log|plans|photos|maps/.test(s)),
  ).toEqual([]);

  // The newest come first; older ones are one press away.
  await expect(page.getByRole('link', { name: new RegExp(`^${plans[5].name} `) })).toHaveCount(0);
  // By key: a trial under the mouse is read ahead.
  await page.getByRole('button', { name: 'Show older trials (40 more)' }).press('Enter');
  await expect(page.getByRole('link', { name: new RegExp(`^${plans[5].name} `) })).toBeVisible();

  // A little later each log is asked one thing: whether anything came after its summary.
  await page.waitForTimeout(6000);
  const later = trialReads(await seenOf(page)).filter(s => !isOf(s, underWay));
  expect(new Set(later)).toEqual(new Set(plans.slice(3).map(p => `get log ${p.id}/60`)));
  expect(later).toHaveLength(57);

  const other = plans[40];
  await page.getByText(other.name, { exact: true }).click();
  await expect(page.getByRole('heading', { level: 1, name: other.name })).toBeVisible();
  const second = await seenOf(page);
  expect(trialReads(second).filter(s => !isOf(s, [other.id]))).toEqual([]);
  // 60 entries: asked for in growing handfuls, so never twice as many and one handful.
  expect(second.filter(s => s.startsWith('get log')).length).toBeLessThanOrEqual(2 * 60 + 16);

  await visit(page, `/w/mine/t/${underWay[0]}/bench`);
  await expect(page.getByRole('button', { name: 'Leave the bench' })).toBeVisible();
  await page.waitForTimeout(500);
  await seenOf(page);
  await press(page);
  const pressed = await seenOf(page);
  expect(pressed.filter(s => s.startsWith('put '))).toHaveLength(1);
  expect(trialReads(pressed).filter(s => !isOf(s, [underWay[0]]))).toEqual([]);
  expect(trialReads(pressed).length).toBeLessThanOrEqual(4);
});

test('two tabs that come for the first time at once both open, and an interrupted first visit goes on where it stopped', async ({
  browser,
}) => {
  const context = await browser.newContext({ locale: 'en-GB' });
  const pages = await Promise.all([context.newPage(), context.newPage()]);
  let refused = 0;
  await context.route('**/demo/hook-plates.zip', route => {
    if (refused++ < 2) return route.abort();
    return route.continue();
  });
  await Promise.all(pages.map(page => page.goto('/w/demo')));
  await Promise.all(pages.map(page => page.waitForTimeout(1500)));
  await context.unroute('**/demo/hook-plates.zip');
  await Promise.all(pages.map(page => page.reload()));
  for (const page of pages) {
    await opened(page);
    for (const name of [/Berth plates/, /Hook plates/, /Bulkhead tiles/])
      await expect(page.getByRole('link', { name }).last()).toBeVisible();
  }
  await context.close();
});

test('two tabs lose no change of a plan to each other', async ({ browser }) => {
  const context = await browser.newContext({ locale: 'en-GB' });
  const [one, other] = [await context.newPage(), await context.newPage()];
  await bring(one, PLAN);
  for (const page of [one, other]) await visit(page, `/w/mine/t/${PLAN.id}/plan`);
  const [a, b, c, d] = PLAN.patches.map(p => p.code);
  const patch = (page: Page, code: string) => page.getByRole('button', { name: new RegExp(`^${code}`) });
  const swap = async (page: Page, from: string, to: string) => {
    // The board of the stage before cannot be arranged.
    await expect(patch(page, from)).toHaveAccessibleName(/in the order of work/);
    await patch(page, from).focus();
    await page.keyboard.press('m');
    await expect(patch(page, from)).toHaveAccessibleName(/Picked up/);
    await patch(page, to).focus();
  };
  await swap(one, a, b);
  await swap(other, c, d);
  await Promise.all([one.keyboard.press('Enter'), other.keyboard.press('Enter')]);
  await expect(async () => {
    const plan = await one.evaluate(
      id =>
        new Promise<typeof PLAN>(resolve => {
          const open = indexedDB.open('wet-test-mine');
          open.onsuccess = () => {
            const got = open.result.transaction('plans').objectStore('plans').get(id);
            got.onsuccess = () => {
              open.result.close();
              resolve(got.result.plan);
            };
          };
        }),
      PLAN.id,
    );
    const at = (code: string) => plan.patches.find(p => p.code === code)!;
    const was = (code: string) => PLAN.patches.find(p => p.code === code)!;
    for (const [x, y] of [
      [a, b],
      [c, d],
    ]) {
      expect([at(x).x, at(x).y]).toEqual([was(y).x, was(y).y]);
      expect([at(y).x, at(y).y]).toEqual([was(x).x, was(x).y]);
    }
  }).toPass({ timeout: 10_000 });
  await context.close();
});

test('an answer on the opening view goes on from what was recorded, also before anything else was opened', async ({
  page,
}) => {
  const records = historyOf(PLAN, 1 + 3 * PLAN.patches.length, false, Date.now() - 3 * 3_600_000);
  await bring(page, PLAN, records);
  await visit(page, '/w/mine');
  await page.getByRole('button', { name: 'It is ready' }).first().click();
  await expect(page.getByText('Kept: it is ready, go on with it.')).toBeVisible();
  await visit(page, `/w/mine/t/${PLAN.id}/bench`);
  await expect.poll(() => showing(page)).toMatch(/^Wet the paper/);
  const kept = await stored(page, PLAN.id);
  expect(kept.filter(r => r.kind === 'step')).toHaveLength(3 * PLAN.patches.length);
  expect(kept.filter(r => r.kind === 'ready').length).toBeGreaterThan(0);
});

test('what cannot be read is named, stays stored, and goes to a file as it is; all else works', async ({
  page,
}) => {
  await bring(page, PLAN, historyOf(PLAN, 20, false, Date.now() - 3_600_000));
  await put(page, 'plans', 'BROKEN', { plan: { schema: 3, name: 'Half a plan' } });
  await put(page, 'log', `${PLAN.id}/1`, { records: [{ id: 'odd', kind: 'dance' }] });
  await visit(page, '/w/mine');
  const section = page.getByRole('region', { name: 'Cannot be read' });
  await expect(section).toContainText('Half a plan');
  const saved = page.waitForEvent('download');
  await section.getByRole('button', { name: 'Save it to a file as it is' }).click();
  const file = JSON.parse(readFileSync(await (await saved).path(), 'utf8'));
  expect(file.stored.plan.name).toBe('Half a plan');
  await expect(page.getByRole('link', { name: /Tide tins/ }).last()).toBeVisible();

  await page.goto(`/w/mine/t/${PLAN.id}/make`);
  await expect(page.getByText(/1 stored record of this trial cannot be read/)).toBeVisible();
  const whole = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save it to a file as it is' }).click();
  const text = readFileSync(await (await whole).path(), 'utf8');
  expect(text).toContain('"dance"');
  await visit(page, '/w/mine/t/BROKEN/make');
  await expect(page.getByRole('heading', { name: 'This trial cannot be read' })).toBeVisible();
});

test('a trial comes in with its progress shown, can be stopped on the way, comes without pictures that are none, and gets them from a whole file', async ({
  page,
}) => {
  const noise = Buffer.from(Uint8Array.from({ length: 400 * 400 * 3 }, (_, i) => (i * 2654435761) >>> 24));
  const jpeg = await sharp(noise, { raw: { width: 400, height: 400, channels: 3 } })
    .jpeg({ quality: 95 })
    .toBuffer();
  const many = Array.from({ length: 12 }, (_, i) => i + 1);
  const records = many.flatMap(n => readingFor(PLAN.patches[n % PLAN.patches.length].code, n, {}));
  const photos = (bytes: Uint8Array) => new Map(many.map(n => [`p${n}`, bytes]));
  const zip = (bytes: Uint8Array) => ({
    name: 'trial.zip',
    mimeType: 'application/zip',
    buffer: Buffer.from(writeBundle({ plan: PLAN, records, photos: photos(bytes) }, PLAN.createdAt)),
  });
  await visit(page, '/w/mine');
  // A slow machine, until the page is loaded again: there is time to look at the progress and to change one's mind.
  await page.evaluate(() => {
    const { postMessage } = Worker.prototype;
    Worker.prototype.postMessage = function (...message: unknown[]) {
      setTimeout(() => postMessage.apply(this, message as Parameters<typeof postMessage>), 4000);
    };
  });
  await page.getByTestId('import-file').setInputFiles(zip(jpeg));
  await expect(page.getByRole('progressbar')).toBeVisible();
  await page.getByRole('button', { name: 'Stop the import' }).click();
  await expect(page.getByText('The import was stopped. Nothing was stored.')).toBeVisible();
  await page.reload();
  await expect(page.getByRole('link', { name: /Tide tins/ })).toHaveCount(0);

  // It says it is a JPEG of a size, and nothing follows that could be drawn.
  const hollow = new Uint8Array([...jpeg.subarray(0, 640), ...new Uint8Array(200)]);
  await page.getByTestId('import-file').setInputFiles(zip(hollow));
  await expect(page.getByText(/“Tide tins” was imported\..*12 photos are damaged in this file/)).toBeVisible({
    timeout: 60_000,
  });
  await page.getByTestId('import-file').setInputFiles(zip(jpeg));
  await expect(page.getByText('0 records and 12 photos that it did not have came in.')).toBeVisible({
    timeout: 60_000,
  });
});

test('a full disk is said wherever something is kept, and nothing is shown as done', async ({ page }) => {
  const unsaved = page.getByText(/That was not saved.*no room left/);
  const close = () => page.getByRole('button', { name: 'Close' }).click();
  await visit(page, '/w/mine/shelf?kind=tools&item=fingers');
  await page.getByLabel('Name', { exact: true }).fill('Wet fingers');
  await fillDisk(page);
  await page.getByRole('button', { name: 'Save the changes' }).click();
  await expect(unsaved).toBeVisible();
  await close();
  await visit(page, '/w/mine/methods?method=wet-rub');
  await page.getByRole('button', { name: /Copy/ }).first().click();
  await fillDisk(page);
  await page.getByRole('button', { name: 'Keep this method' }).click();
  await expect(unsaved).toBeVisible();
  await close();
  await visit(page, '/w/mine/new/plan?from=plain:wet-rub');
  await page.getByLabel('Name of the trial').fill('Never kept');
  await fillDisk(page);
  await page.getByRole('button', { name: 'Save the plan and print' }).click();
  await expect(unsaved).toBeVisible();
  await close();
  await visit(page, '/w/mine');
  await fillDisk(page);
  await page.getByTestId('import-file').setInputFiles({
    name: 'trial.zip',
    mimeType: 'application/zip',
    buffer: Buffer.from(writeBundle({ plan: PLAN, records: [], photos: new Map() }, PLAN.createdAt)),
  });
  await expect(page.getByText(/could not store this trial: There is no room left/)).toBeVisible();
  await page.reload();
  await expect(page.getByText('Never kept')).toHaveCount(0);
  await expect(page.getByText('Tide tins')).toHaveCount(0);
});
