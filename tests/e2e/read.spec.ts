import { readFileSync, writeFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import sharp from 'sharp';
import { loadCv } from '../../src/cli/node-cv.ts';
import { decode, encodeJpeg } from '../../src/cli/node-image.ts';
import { examplePlan } from '../../src/core/design/example.ts';
import { ProblemError } from '../../src/core/outcome/index.ts';
import { card, rasterise, target } from '../../src/core/print/index.ts';
import { findCard, project } from '../../src/core/reading/find-card.ts';
import { exampleHistory } from '../../src/core/simulator/example.ts';
import { photograph, simulateProcess } from '../../src/core/simulator/index.ts';
import { chainOf } from '../../src/core/steps/index.ts';
import type { TrialRecord } from '../../src/core/trial/index.ts';
import { bring, planOf } from './at-bench.ts';
import { takePhotos } from './photos.ts';
import { demoPlan, download, sound, visit } from './views.ts';

const board = { w: 130, h: 80, outline: 'rectangle', onePiece: false } as const;
const twoPatches = (seed: number, more: Parameters<typeof examplePlan>[0] = {}) =>
  examplePlan(
    { factors: [{ key: 'medium', levels: ['matte-acrylic', 'soft-gel'] }], repeats: 1, board, ...more },
    seed,
  );

test('a whole board in one photo: read, put right by hand, seen beside what it should be, and hung on the wall', async ({
  page,
}) => {
  // As many as several readers take up side by side.
  const plan = twoPatches(3, { repeats: 2, patchMm: 25, board: { ...board, w: 190 } });
  await bring(page, plan);
  await visit(page, `/w/mine/t/${plan.id}/read`);
  await page.getByRole('button', { name: 'Simulated board photo' }).click();
  await expect(page.getByText('4 of 4 patches read and kept')).toBeVisible({ timeout: 120_000 });
  await expect(page.getByText('4 of 4 patches read.')).toBeVisible();
  const [first] = [...plan.patches].sort((a, b) => a.order - b.order);
  await page.locator(`.patch[data-code="${first.code}"]`).click();
  await expect(page.getByRole('img', { name: `${first.code}, straightened` })).toBeVisible();
  await expect(page.getByText('simulated photo')).toBeVisible();

  // A hand draws a bare place; the machine's own number stays beside it.
  await page.getByRole('button', { name: 'Draw a bare place' }).click();
  const photo = await page.getByRole('img', { name: `${first.code}, straightened` }).boundingBox();
  const at = (x: number, y: number) => [photo!.x + x * photo!.width, photo!.y + y * photo!.height] as const;
  await page.mouse.move(...at(0.15, 0.1));
  await page.mouse.down();
  for (const [x, y] of [
    [0.33, 0.1],
    [0.33, 0.3],
    [0.15, 0.3],
  ])
    await page.mouse.move(...at(x, y), { steps: 6 });
  await page.mouse.up();
  const outcome = page.getByText(/With your corrections [\d.]+ % landed; the machine read [\d.]+ %\./);
  await expect(outcome).toBeVisible();
  const [now, before] = (await outcome.textContent())!.match(/[\d.]+(?= %)/g)!.map(Number);
  expect(before - now).toBeGreaterThan(2);
  await page.getByRole('button', { name: 'Keep my corrections' }).click();
  await expect(page.getByText('· put right by hand')).toBeVisible();
  await expect(page.getByText(`${now.toFixed(1)} %`, { exact: true }).first()).toBeVisible();
  // As it should be, by the slider and by turns.
  await page.getByLabel('As it should be', { exact: true }).first().fill('60');
  await expect(page.getByText('Left: as it should be. Right: as it is.')).toBeVisible();
  await page.getByRole('button', { name: 'Show them by turns' }).click();
  await expect(page.getByRole('button', { name: 'Stop' })).toHaveAttribute('aria-pressed', 'true');
  await page.getByRole('button', { name: 'Stop' }).click();
  await sound(page);
  await page.getByRole('button', { name: 'Back to the machine’s' }).click();
  await expect(page.getByText('· put right by hand')).toBeHidden();

  // The wall: in groups, two beside each other, on paper and as a picture.
  await page.getByRole('link', { name: 'The wall: all side by side' }).click();
  await page.getByLabel('In groups by').selectOption('medium');
  await expect(page.getByRole('heading', { name: 'Soft gel medium' })).toBeVisible();
  for (const i of [0, 1])
    await page
      .getByRole('button', { name: /% landed/ })
      .nth(i)
      .click();
  await expect(page.getByRole('region', { name: 'Side by side' }).getByRole('img')).toHaveCount(2);
  await sound(page);
  const pdf = await download(page, 'Save as PDF');
  expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
  const png = await sharp(await download(page, 'Save as PNG')).metadata();
  expect(png.format).toBe('png');
  expect(png.width).toBeGreaterThan(500);
});

test('photos are asked about where nobody says what they are of, outlive a reload, and HEIC is read', async ({
  page,
}) => {
  const plan = twoPatches(4);
  const [a, b] = [...plan.patches].sort((x, y) => x.order - y.order).map(p => p.code);
  await bring(page, plan);
  await visit(page, `/w/mine/t/${plan.id}/read`);
  const files = page.getByTestId('photo-files');
  const photo = readFileSync('src/core/reading/fixtures/round-tile.jpg');
  await files.setInputFiles([
    { name: 'IMG_7.jpg', mimeType: 'image/jpeg', buffer: photo },
    { name: 'IMG_8.jpg', mimeType: 'image/jpeg', buffer: photo },
  ]);
  await expect(page.getByText('Are these photos of those patches?')).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText('It is the next without a photo.').first()).toBeVisible();
  await sound(page);
  await page.reload();
  await expect(page.getByText('Are these photos of those patches?')).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText('It was waiting when this was closed.').first()).toBeVisible();
  // The second is mended, the first is not wanted.
  await page.getByRole('button', { name: 'Remove', exact: true }).first().click();
  await expect(page.getByText('Is this photo of that patch?')).toBeVisible();
  await page.getByLabel('It is of').selectOption(JSON.stringify({ code: b }));
  await page.getByRole('button', { name: 'Yes, read it' }).click();
  await expect(page.getByText('Read and kept')).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText('1 of 2 patches read.')).toBeVisible();

  await page.locator(`.patch[data-code="${a}"]`).click();
  const heic = { mimeType: 'image/heic', buffer: readFileSync('tests/e2e/files/round-tile.heic') };
  await files.setInputFiles({ name: 'IMG_9.heic', ...heic });
  await expect(page.getByText('2 of 2 patches read.')).toBeVisible({ timeout: 90_000 });
  // Truly 98.5 % landed.
  await expect(page.getByText(/^9[789]\.\d %$/).first()).toBeVisible();
  await page.reload();
  await expect(page.getByText('2 of 2 patches read.')).toBeVisible();
  await expect(page.getByText('It was waiting when this was closed.')).toBeHidden();
});

test('a photo without a card is read by corners set by hand; one of a patch that was still wet is asked about', async ({
  page,
}) => {
  const plan = twoPatches(5);
  const [a, b] = [...plan.patches].sort((x, y) => x.order - y.order).map(p => p.code);
  const now = Date.now();
  const wet = chainOf(plan, plan.patches[0]).filter(l => ['mark', 'wet', 'rub'].includes(l.step.does));
  const records: TrialRecord[] = wet.slice(0, 3).map(({ step, round }, i) => ({
    ...{
      id: `s${i}`,
      at: new Date(now - (4 - i) * 60_000).toISOString(),
      kind: 'step',
      patch: b,
      step: step.id,
    },
    round,
  }));
  await bring(page, plan, records);
  await visit(page, `/w/mine/t/${plan.id}/read?patch=${a}`);
  const drawn = rasterise(target(40), 10, 3);
  const ink = Buffer.from(
    Uint8Array.from({ length: drawn.w * drawn.h * 3 }, (_, i) => {
      const paper = [222, 205, 178][i % 3];
      return Math.round((paper * (20 + drawn.data[Math.floor(i / 3)] * 0.92)) / 255);
    }),
  );
  const picture = await sharp(ink, { raw: { width: drawn.w, height: drawn.h, channels: 3 } })
    .png()
    .toBuffer();
  const plain = await sharp({ create: { width: 800, height: 600, channels: 3, background: '#decdb2' } })
    .composite([{ input: picture, left: 200, top: 100 }])
    .jpeg({ quality: 90 })
    .toBuffer();
  const files = page.getByTestId('photo-files');
  await files.setInputFiles({ name: 'no-card.jpg', mimeType: 'image/jpeg', buffer: plain });
  await expect(page.getByText('No reading card was found in this photo.')).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Set its corners by hand' }).click();
  const region = page.getByRole('region', { name: 'Corners by hand' });
  await expect(region.getByRole('slider')).toHaveCount(4);
  // With the keys: outwards from where they begin.
  const outwards = {
    'upper left': 'Left Up',
    'upper right': 'Right Up',
    'lower right': 'Right Down',
    'lower left': 'Left Down',
  };
  for (const [name, ways] of Object.entries(outwards)) {
    const corner = region.getByRole('slider', { name: `The ${name} corner` });
    await corner.focus();
    for (const way of ways.split(' ')) for (const _ of [1, 2]) await corner.press(`Shift+Arrow${way}`);
  }
  await expect(region.getByRole('slider').first()).toHaveAttribute('aria-valuetext', '204 across, 104 down');
  await sound(page);
  await region.getByRole('button', { name: 'Read it by these corners' }).click();
  await expect(page.getByText('corners set by hand', { exact: false }).first()).toBeVisible({
    timeout: 60_000,
  });
  await expect(page.getByText('not given: it takes the reading card')).toBeVisible();
  await expect(page.getByText(/^(9[5-9]|100)\.\d %$/).first()).toBeVisible();

  // Rubbed a minute ago: it cannot be dry.
  await page.locator(`.patch[data-code="${b}"]`).click();
  const photo = readFileSync('src/core/reading/fixtures/round-tile.jpg');
  await files.setInputFiles({ name: 'soon.jpg', mimeType: 'image/jpeg', buffer: photo });
  await expect(page.getByText(/By what was recorded it was still wet then/)).toBeVisible({ timeout: 60_000 });
  await sound(page);
  await page.getByRole('button', { name: 'It was wet: read it without veil' }).click();
  await expect(page.getByText('2 of 2 patches read.')).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText(/^Wet/).first()).toBeVisible();
});

test('a bare ground by a lamp from the side, a damp patch, corners set anew, and a camera that says when', async ({
  page,
  browser,
}) => {
  const plan = twoPatches(6);
  const [a] = [...plan.patches].sort((x, y) => x.order - y.order).map(p => p.code);
  await bring(page, plan);
  await visit(page, `/w/mine/t/${plan.id}/read?patch=${a}`);
  await page.locator(`.patch[data-code="${a}"]`).click();
  await page.getByLabel('The patch is').selectOption('bare');
  await expect(page.getByRole('button', { name: 'Simulated board photo' })).toBeHidden();
  await page.getByRole('button', { name: 'Simulated camera' }).click();
  await expect(page.getByText('Before it was coated:')).toBeVisible({ timeout: 90_000 });
  await expect(page.getByText(/\d+ % \(± \d+\) of the ground shines/).first()).toBeVisible();
  // It is no photo of the patch.
  await expect(page.getByText('0 of 2 patches read.')).toBeVisible();
  await sound(page);

  await page.getByLabel('The patch is').selectOption('dry');
  const { settings } = exampleHistory({ patchMm: 40 });
  const damp = photograph(
    simulateProcess(exampleHistory()),
    target(40),
    card(40),
    ...([settings.substrate, settings.preparation, { seed: 8, stage: 'wet', pxPerMm: 10 }] as const),
  );
  const jpeg = await encodeJpeg(damp.photo, 88);
  const files = page.getByTestId('photo-files');
  await files.setInputFiles({ name: `${a}.jpg`, mimeType: 'image/jpeg', buffer: jpeg });
  await expect(page.getByText(/It looks damp: the ground under the picture is darker/)).toBeVisible({
    timeout: 90_000,
  });
  await expect(page.getByText('0 of 2 patches read.')).toBeVisible();
  await page.getByRole('button', { name: 'It was dry' }).click();
  await expect(page.getByText('1 of 2 patches read.')).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText(/If it is still damp, paper cannot be seen/)).toBeVisible();

  await page.getByRole('button', { name: 'Set its corners by hand' }).click();
  const region = page.getByRole('region', { name: 'Corners by hand' });
  await expect(region.getByRole('slider')).toHaveCount(4);
  const { cv } = await loadCv();
  const place = findCard(cv, await decode(jpeg), card(40));
  if (!place.ok) throw new ProblemError(place.problem);
  const { x: left, y: top } = card(40).window;
  await region.locator('svg').first().scrollIntoViewIfNeeded();
  const drawn = await region
    .locator('svg')
    .first()
    .evaluate((svg: SVGSVGElement) => {
      const { a: scale, e: x, f: y } = svg.getScreenCTM()!;
      return { scale, x, y };
    });
  for (const [i, [x, y]] of [
    [3, 3],
    [43, 3],
    [43, 43],
    [3, 43],
  ].entries()) {
    const [u, v] = project(place.value.homography, left + x, top + y);
    await region.getByRole('slider').nth(i).hover();
    await page.mouse.down();
    await page.mouse.move(drawn.x + u * drawn.scale, drawn.y + v * drawn.scale, { steps: 4 });
    await page.mouse.up();
  }
  await region.getByRole('button', { name: /Read/ }).click();
  await expect(page.getByText('corners set by hand')).toBeVisible({ timeout: 90_000 });

  // A browser with a camera, which sees a board with its card.
  const seen = test.info().outputPath('camera.mjpeg');
  writeFileSync(
    seen,
    await sharp('src/core/reading/fixtures/round-tile.jpg')
      .resize({ width: 1280, height: 960, fit: 'contain', background: '#333' })
      .jpeg({ quality: 92 })
      .toBuffer(),
  );
  const { executablePath, args } = test.info().project.use.launchOptions!;
  const withCamera = await browser.browserType().launch({
    ...(executablePath ? { executablePath } : {}),
    args: [
      ...args!,
      '--use-fake-ui-for-media-stream',
      '--use-fake-device-for-media-stream',
      `--use-file-for-fake-video-capture=${seen}`,
    ],
  });
  const other = await withCamera.newPage({ baseURL: test.info().project.use.baseURL!, locale: 'en-GB' });
  await bring(other, plan);
  await other.goto(`/w/mine/t/${plan.id}/read?patch=${a}`);
  await other.locator(`.patch[data-code="${a}"]`).click();
  await other.getByRole('button', { name: 'Take a photo' }).click();
  await expect(other.getByText('Good: card found, level, sharp, nothing shines.')).toBeVisible({
    timeout: 60_000,
  });
  await sound(other);
  await other.getByRole('button', { name: 'Take it', exact: true }).click();
  await expect(other.getByText('1 of 2 patches read.')).toBeVisible({ timeout: 90_000 });
  await withCamera.close();
});

test('a gel skin photographed over days says how milky it was, and when it will be clear', async ({
  page,
}) => {
  const plan = demoPlan('port-lights.zip');
  await visit(page, '/w/demo');
  await visit(page, `/w/demo/t/${plan.id}/read?patch=${plan.patches[0].code}`);
  await expect(page.getByText('Every reading of this patch')).toBeVisible({ timeout: 60_000 });
  const milk = page.getByText('Milky or clear').locator('..');
  await expect(milk).toContainText(/: 0\.\d\d, .*: 0\.\d\d\./);
  await expect(milk).toContainText(/clear by .* \(between .* and .*\)|It is clear\.|take one a day later/);
  // From the first day to the last it became clearer.
  const points = [...(await milk.textContent())!.matchAll(/: (0\.\d\d)/g)].map(m => Number(m[1]));
  expect(points.length).toBeGreaterThan(1);
  expect(points.at(-1)!).toBeLessThan(points[0]);
  await sound(page);
});

test('a tile and a gel skin go from their plan, all steps done, to what was read of each patch', async ({
  page,
}, info) => {
  const begun = Date.now() - 90 * 3_600_000;
  for (const [method, part] of [
    ['wet-rub', { name: 'Tiles', substrate: 'glazed-tile' }],
    ['gel-skin', { name: 'Gel skins' }],
  ] as const) {
    const plan = planOf(method, { ...part, factors: [{ key: 'dryHours', levels: [24, 30] }], repeats: 1 });
    const done = plan.patches.flatMap(p =>
      chainOf(plan, p).map(({ step, round }, i): TrialRecord => {
        const at = new Date(begun + i * 6 * 3_600_000).toISOString();
        return { id: `${p.code}-${i}`, at, kind: 'step', patch: p.code, step: step.id, round };
      }),
    );
    await bring(page, plan, done);
    await visit(page, `/w/mine/t/${plan.id}/read`);
    const taken = await takePhotos(plan, info.outputPath(''));
    await page.getByTestId('photo-files').setInputFiles(taken.map(t => t.file));
    await expect(page.getByText(`${taken.length} of ${taken.length} patches read.`)).toBeVisible({
      timeout: 100_000,
    });
    for (const { code, landed } of taken) {
      await page.locator(`.patch[data-code="${code}"]`).click();
      const row = page.getByRole('row', { name: /^Landed/ });
      await expect(row).toBeVisible();
      const read = Number((await row.textContent())!.match(/(\d+\.\d) ?%/)![1]);
      expect(Math.abs(read - landed), `${code}: ${read} for ${landed}`).toBeLessThan(6);
    }
  }
});
