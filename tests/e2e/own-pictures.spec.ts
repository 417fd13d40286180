import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import sharp from 'sharp';
import { begin } from './at-bench.ts';
import { download, sound, visit } from './views.ts';

/** Red on the left, blue on the right, a dark bar along the top: which way round it lies can be seen. */
const FLAG = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 80 80" width="800" height="800">
<rect width="40" height="80" fill="#c01818"/><rect x="40" width="40" height="80" fill="#1830c0"/><rect width="80" height="12" fill="#111"/></svg>`;

async function addFlag(page: Page) {
  await visit(page, '/w/mine/pictures');
  await page.getByLabel('Picture file').setInputFiles({
    ...{ name: 'Flag.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(FLAG) },
  });
  await page.getByRole('button', { name: 'No writing' }).click();
  await page.getByLabel('Piece width, mm').fill('120');
  await page.getByLabel('Piece height, mm').fill('120');
  await expect(page.getByText(/^1[012]\d × 1[012]\d mm/)).toBeVisible();
}

/** The pictures of a saved PDF as Debian's own tool takes them out. */
async function imagesIn(pdf: Buffer, name: string) {
  const file = test.info().outputPath(`${name}.pdf`);
  writeFileSync(file, pdf);
  const words = execFileSync('pdftotext', [file, '-']).toString();
  execFileSync('pdfimages', ['-png', file, test.info().outputPath(name)]);
  const first = await sharp(test.info().outputPath(`${name}-000.png`))
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const at = (x: number, y: number) => {
    const { width, height } = first.info;
    const i = (Math.floor(y * height) * width + Math.floor(x * width)) * 3;
    return [...first.data.subarray(i, i + 3)];
  };
  return { words, at, mm: [first.info.width, first.info.height].map(px => (px / 300) * 25.4) };
}

test('a picture of one’s own is what the patches carry: printed, made, photographed, judged, and in the trial’s file', async ({
  page,
}) => {
  await addFlag(page);
  await visit(page, '/w/mine/new/plan?from=plain:wet-rub');
  await page.getByRole('textbox', { name: 'Name' }).fill('Flags');
  await page.getByLabel('Patch height, mm').fill('60');
  const panel = page.getByRole('region', { name: 'What is printed on the patches' });
  await panel.getByLabel('One of your pictures instead').selectOption('Flag');
  await expect(panel.getByRole('img', { name: 'Flag on a patch' })).toBeVisible({ timeout: 30_000 });
  // What Pictures says of a picture is said here, at the size that it has on a patch.
  await expect(panel.getByText('Is it fit for this?')).toBeVisible({ timeout: 30_000 });
  await panel.getByLabel('Tone steps and fine lines below it').check();
  await expect(page.getByText(/patches.*on \d boards?/)).toBeVisible();
  await sound(page);
  await page.getByRole('button', { name: 'Save the plan and print' }).click();
  await page.waitForURL(/print/);
  await expect(page.locator('[data-code] image').first()).toBeVisible();

  // On the sheet it lies mirrored, at its size, in red and blue.
  const sheet = await imagesIn(await download(page, /Save the donor sheets/), 'flag');
  expect(sheet.words).toContain('Mirrored already');
  expect(sheet.mm[0]).toBeCloseTo(40, 0);
  expect(sheet.mm[1]).toBeCloseTo(49, 0);
  expect(sheet.at(0.25, 0.5)[2]).toBeGreaterThan(150);
  expect(sheet.at(0.75, 0.5)[0]).toBeGreaterThan(150);
  // All of it fits: above and below it is white.
  expect(sheet.at(0.5, 0.03)).toEqual([255, 255, 255]);

  // It is made on the bench as any other.
  await page.getByRole('link', { name: 'Make', exact: true }).click();
  await begin(page);
  await page.goBack();
  await page.goBack();

  // What is no picture is refused; a photo without a card can be kept unread; one through the card is read against the picture.
  await page.getByRole('link', { name: 'Read', exact: true }).click();
  await page.locator('[data-code]').first().click();
  const photos = page.getByTestId('photo-files');
  await photos.setInputFiles({ name: 'note.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('no picture') });
  await expect(page.getByText('This file cannot be opened as a picture.')).toBeVisible();
  const jpeg = await sharp({ create: { width: 640, height: 480, channels: 3, background: '#875' } })
    .jpeg()
    .toBuffer();
  await photos.setInputFiles({ name: 'IMG_1.jpg', mimeType: 'image/jpeg', buffer: jpeg });
  await expect(page.getByText('No reading card was found in this photo.')).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Keep it unread' }).click();
  await expect(page.getByText('Kept, to be judged by eye')).toBeVisible();
  const code = (await page.locator('[data-code][aria-pressed=true]').getAttribute('data-code'))!;
  await expect(page.getByRole('img', { name: `${code} as it is` })).toBeVisible();
  await sound(page);
  await page.getByRole('link', { name: 'Judge', exact: true }).click();
  await expect(page.getByRole('img', { name: `${code} as it is` })).toBeVisible();
  await expect(page.getByRole('img', { name: 'As it should be' }).locator('image')).toBeVisible();

  await page.getByRole('link', { name: 'Read', exact: true }).click();
  await page.getByRole('button', { name: 'Simulated camera' }).click();
  await expect(page.getByText('Read and kept')).toBeVisible({ timeout: 90_000 });
  await expect(page.getByRole('img', { name: `${code}, straightened` })).toBeVisible();
  await page.getByLabel('As it should be', { exact: true }).first().fill('100');
  await expect(page.getByRole('img', { name: 'As it should be' }).locator('image')).toBeVisible();

  // The file of the trial holds the picture: opened elsewhere it prints the same.
  await page.getByRole('link', { name: 'Keep', exact: true }).click();
  const zip = await download(page, 'Export the trial (ZIP)');
  await visit(page, '/w/demo');
  await page
    .getByTestId('import-file')
    .setInputFiles({ name: 'flags.zip', mimeType: 'application/zip', buffer: zip });
  await page.getByRole('link', { name: /Flags/ }).first().click();
  await page.getByRole('link', { name: 'Print', exact: true }).click();
  await expect(page.locator('[data-code] image').first()).toBeVisible();
  const again = await imagesIn(await download(page, /Save the donor sheets/), 'again');
  expect(again.at(0.25, 0.5)).toEqual(sheet.at(0.25, 0.5));
});

test('pale and strong, photo and line: the picture itself changes from patch to patch, a part of it as large as on its piece', async ({
  page,
}) => {
  await addFlag(page);
  await visit(page, '/w/mine/new/plan?from=plain:tape-lift');
  await page.getByRole('textbox', { name: 'Name' }).fill('Target or flag');
  const panel = page.getByRole('region', { name: 'What is printed on the patches' });
  await panel.getByLabel('One of your pictures instead').selectOption('Flag');
  await panel.getByLabel('How much of it').selectOption('detail');
  await panel.getByLabel('Left to right').fill('0');
  await panel.getByLabel('Top to bottom').fill('1');
  await page.getByLabel('A. Change the').selectOption('picture');
  await expect(panel.getByText('one of the things that change from patch to patch')).toBeVisible();
  await expect(page.getByText(/A1 Test target, A2 Flag/)).toBeVisible();
  await page.getByRole('button', { name: 'Save the plan and print' }).click();
  await page.waitForURL(/print/);
  const count = await page.locator('[data-code]').count();
  await expect(page.locator('[data-code] image')).toHaveCount(count / 2);
  // The left lower part of a piece that is larger than a patch: all of it is red.
  const { at } = await imagesIn(await download(page, /Save the donor sheets/), 'part');
  for (const [x, y] of [
    [0.1, 0.1],
    [0.9, 0.1],
    [0.5, 0.9],
  ])
    expect(at(x, y)[0]).toBeGreaterThan(150);

  // Left out again, the plan that is edited prints the target alone.
  await page.getByRole('link', { name: 'Lay out', exact: true }).click();
  await page.getByRole('link', { name: 'Edit the plan' }).click();
  await page.getByLabel('A. Change the').selectOption('dryHours');
  await page.getByRole('button', { name: 'Do not print Flag' }).click();
  await page.getByRole('button', { name: 'Save the plan and print' }).click();
  await page.waitForURL(/print/);
  await expect(page.locator('[data-code] polygon').first()).toBeVisible();
  await expect(page.locator('[data-code] image')).toHaveCount(0);
});
