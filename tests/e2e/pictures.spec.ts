import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { download, sound, visit } from './views.ts';

const add = (page: Page, name: string, mimeType: string, buffer: Buffer) =>
  page.getByLabel('Picture file').setInputFiles({ name, mimeType, buffer });

/** A drawing with writing on a hazy ground, pale tones, and fine lines. */
const BOAT = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 300" width="400" height="300">
<rect width="400" height="300" fill="#ece8de"/><path d="M60 200h220l-40 60H100z" fill="#222"/><path d="M170 40v150H70z" fill="#d9d4c4"/>
<g fill="#333">${Array.from({ length: 30 }, (_, i) => `<rect x="${300 + i * 3}" y="40" width="1" height="200"/>`).join('')}</g>
<text x="90" y="245" font-size="40" fill="#eee">DABCHICK</text></svg>`;

test('a picture with writing is looked at on its grounds, mended, and comes on a sheet the right way round', async ({
  page,
}) => {
  await visit(page, '/w/mine/pictures');
  await expect(page.getByText('Most prints are lost before they begin')).toBeVisible();
  await sound(page);
  await add(page, 'Dabchick.svg', 'image/svg+xml', Buffer.from(BOAT));
  await expect(page.getByRole('img', { name: 'On the donor sheet, mirrored' })).toBeVisible({
    timeout: 30_000,
  });
  for (const ground of ['birch plywood', 'grey slate', 'heavy cotton, washed'])
    await expect(page.getByRole('img', { name: `Finished, on ${ground}` })).toBeVisible();
  await expect(page.getByText(/white or pale, and no printer has white ink: on grey slate/)).toBeVisible();
  await expect(page.getByText(/background is not quite white/)).toBeVisible();

  // The question of writing is asked once, and holds the mirror rule.
  const save = page.getByRole('button', { name: 'Save its sheet (PDF)' });
  await expect(save).toBeDisabled();
  await page.getByRole('button', { name: 'Yes, there is' }).click();
  await expect(page.getByText('There is writing in it, and the sheet is mirrored for you')).toBeVisible();
  await sound(page);

  // One click mends what can be mended; the list of edits can be taken back.
  await page.getByRole('button', { name: 'Make the background white' }).click();
  await expect(page.getByText(/background is not quite white/)).toBeHidden();
  await page.getByRole('button', { name: 'Invert' }).click();
  await page.getByRole('button', { name: 'Take back 2: Inverted' }).click();
  await expect(page.getByText('2. Inverted')).toBeHidden();
  await page.getByLabel('Cut right, %').fill('25');
  await page.getByRole('button', { name: 'Crop', exact: true }).click();
  await page.getByLabel('Piece width, mm').fill('120');
  await page.getByLabel('Piece height, mm').fill('100');
  await expect(page.getByText(/^90 × 90 mm, mirrored/)).toBeVisible();
  await expect(page.getByText('A base coat that matches')).toBeVisible();

  // Another method turns the sheet round with its reason; a hard mismatch of size says so.
  await page.getByLabel('Method').selectOption('Tissue embed');
  await expect(page.getByRole('img', { name: 'On the donor sheet, not mirrored' })).toBeVisible();
  await page.getByLabel('Method').selectOption('Wet-rub transfer');
  await page.getByLabel('Piece width, mm').fill('500');
  await page.getByLabel('Piece height, mm').fill('500');
  await expect(page.getByText(/does not fit on 80 g copy paper in one piece/)).toBeVisible();
  await expect(save).toBeDisabled();
  await page.getByLabel('Piece width, mm').fill('120');
  await page.getByLabel('Piece height, mm').fill('100');
  await page.reload();
  await expect(page.getByText('2. Cropped to 75 × 100 %')).toBeVisible();
  await expect(page.getByText('There is writing in it.', { exact: false }).first()).toBeVisible();
  const pdf = await download(page, 'Save its sheet (PDF)');
  const file = test.info().outputPath('sheet.pdf');
  writeFileSync(file, pdf);
  expect(execFileSync('pdftotext', [file, '-']).toString()).toMatch(/Mirrored already/);
  expect(execFileSync('pdfimages', ['-list', file]).toString()).toMatch(/image\s+\d{3,4}\s+\d{3,4}/);
  await page.setViewportSize({ width: 390, height: 844 });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});

test('a plain drawing is printed as outlines, seen on its sheet first; changed, it is printed as pixels', async ({
  page,
}) => {
  await visit(page, '/w/mine/pictures');
  const plain =
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 30"><path d="M2 18h30l-6 8H8z" fill="#123"/><path d="M16 2v14H6z" stroke="#000" fill="none"/></svg>';
  await add(page, 'Tern.svg', 'image/svg+xml', Buffer.from(plain));
  const see = page.getByRole('button', { name: 'See the sheet first' });
  await expect(see).toBeDisabled();
  await page.getByRole('button', { name: 'No writing' }).click();
  await see.click();
  const sheet = page.getByRole('img', { name: 'The sheet of Tern' });
  await expect(sheet.locator('path')).toHaveCount(2);
  await expect(sheet.getByText('Mirrored already', { exact: false })).toBeVisible();
  await sound(page);
  const images = async () => {
    const file = test.info().outputPath('sheet.pdf');
    writeFileSync(file, await download(page, 'Save its sheet (PDF)'));
    return execFileSync('pdfimages', ['-list', file]).toString().trim().split('\n').length - 2;
  };
  expect(await images()).toBe(0);
  await page.getByRole('button', { name: 'Invert' }).click();
  await expect(sheet.locator('image')).toHaveCount(1);
  await expect(sheet.locator('path')).toHaveCount(0);
  expect(await images()).toBeGreaterThan(0);
});

test('the maker’s own results are shown on a picture before it is printed', async ({ page }) => {
  await visit(page, '/w/demo/pictures');
  const plain =
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 30"><path d="M2 18h30l-6 8H8z" fill="#123"/></svg>';
  await add(page, 'Hull.svg', 'image/svg+xml', Buffer.from(plain));
  await page.getByText(/^As your own \d+ patches came out/).click();
  const before = await page
    .getByRole('img', { name: /^Finished, on/ })
    .first()
    .getAttribute('src');
  await expect(page.getByText(/where they fall is made up/)).toBeVisible();
  await page.getByText(/^As your own \d+ patches came out/).click();
  await expect(page.getByRole('img', { name: /^Finished, on/ }).first()).not.toHaveAttribute('src', before!);
});

test('pictures that cannot be used say why, and odd ones are put right', async ({ page }) => {
  await visit(page, '/w/mine/pictures');
  const refused = async (name: string, type: string, buffer: Buffer, words: RegExp) => {
    await add(page, name, type, buffer);
    await expect(page.getByText(words)).toBeVisible();
    await page.getByRole('button', { name: 'Close' }).click();
  };
  let asked = 0;
  page.on('request', r => {
    if (
      !r.url().startsWith('http://localhost') &&
      !r.url().startsWith('blob:') &&
      !r.url().startsWith('data:')
    )
      asked++;
  });
  const svg = (inside: string) =>
    Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="10" height="10">${inside}</svg>`);
  await refused('a.svg', 'image/svg+xml', svg('<script>document.title="owned"</script>'), /holds “script”/);
  await refused(
    'b.svg',
    'image/svg+xml',
    svg('<image href="http://192.0.2.1/x.png"/>'),
    /from outside its file/,
  );
  await refused(
    'c.svg',
    'image/svg+xml',
    Buffer.from('<!DOCTYPE svg [<!ENTITY a "b">]><svg xmlns="http://www.w3.org/2000/svg">&a;</svg>'),
    /document type/,
  );
  await refused('d.png', 'image/png', Buffer.from('no picture'), /not a picture that can be used/);
  const whole = await sharp({ create: { width: 60, height: 40, channels: 3, background: '#444' } })
    .jpeg()
    .toBuffer();
  await refused('e.jpg', 'image/jpeg', whole.subarray(0, 200), /damaged/);
  expect(asked).toBe(0);
  expect(await page.title()).not.toBe('owned');

  // Inks are converted, turned photos stand up, and what moves stands still.
  const inks = await sharp({ create: { width: 60, height: 40, channels: 3, background: '#a33' } })
    .toColourspace('cmyk')
    .jpeg()
    .toBuffer();
  await add(page, 'Inks.jpg', 'image/jpeg', inks);
  await expect(page.getByText('made for printing inks')).toBeVisible();
  const lying = await sharp({ create: { width: 80, height: 40, channels: 3, background: '#333' } })
    .jpeg()
    .withMetadata({ orientation: 6 })
    .toBuffer();
  await add(page, 'Lying.jpg', 'image/jpeg', lying);
  await expect(page.getByText(/^35 × 70 mm/)).toBeVisible({ timeout: 20_000 });
  await page.getByRole('button', { name: 'Take it away' }).click();
  await expect(page.getByText('Lying was taken away.')).toBeVisible();
});

test('six donors and two printers give twelve files, each looked at first, and the printer’s own size is corrected', async ({
  page,
}) => {
  await visit(page, '/w/mine/new/plan?from=plain:wet-rub');
  await page.getByLabel('A. Change the').selectOption('Donor sheet');
  for (let i = 0; i < 4; i++) await page.getByRole('button', { name: 'Add a level to Donor sheet' }).click();
  const donors = ['copy-70', 'copy-80', 'smooth-120', 'gloss-130', 'quick-release', 'magazine-page'];
  for (let round = 0; round < 2; round++)
    for (const [i, id] of donors.entries()) {
      const field = page.getByLabel(`A${i + 1}`, { exact: true });
      if ((await field.locator(`option[value="${id}"]`).getAttribute('disabled')) === null)
        await field.selectOption(id);
    }
  await page.getByLabel('B. Change the').selectOption('Printer');
  await page.getByLabel('B2', { exact: true }).selectOption('cabin-inkjet');
  for (let i = 0; i < 4; i++) {
    const fail = page.getByRole('button', { name: 'I want to see it fail' });
    await page.waitForTimeout(400);
    if (await fail.isVisible()) await fail.click();
  }
  for (const box of await page.getByRole('checkbox', { name: 'I want to see it fail' }).all())
    if (!(await box.isChecked())) await box.check({ force: true });
  await page.getByLabel('Name of the trial').fill('Six papers');
  await expect(page.locator('.patch')).toHaveCount(24);
  await page.getByRole('button', { name: 'Save the plan and print' }).click();
  await expect(page).toHaveURL(/\/print/);
  await expect(page.getByRole('button', { name: /^Save: .* through/ })).toHaveCount(12);
  const zip = unzipSync(new Uint8Array(await download(page, 'Save the donor sheets (ZIP of PDFs)')));
  expect(Object.keys(zip)).toHaveLength(12);
  for (const [name, bytes] of Object.entries(zip)) {
    const file = test.info().outputPath(name);
    writeFileSync(file, bytes);
    const words = execFileSync('pdftotext', [file, '-']).toString();
    expect(words).toContain(
      name.includes('cabin-inkjet') ? 'The cabin inkjet (dye)' : 'The office laser (black toner)',
    );
  }

  // A look at every other paper; bars; and the paper in the printer.
  for (const name of [
    'Back labels',
    'Board map',
    'Paper bench sheet',
    'Board corner pieces',
    'Long test strip',
    'Reading card',
  ]) {
    await page.getByRole('button', { name: `Look at: ${name}` }).click();
    const sheet = page.getByRole('img', { name: new RegExp(`^${name}, page 1`) });
    await expect(sheet).toBeVisible();
    // It stands right under its own row, not after all of them.
    const [row, shown] = [page.getByRole('button', { name: `Hide: ${name}` }), sheet];
    const [above, below] = [await row.boundingBox(), await shown.boundingBox()];
    expect(below!.y - (above!.y + above!.height)).toBeLessThan(80);
  }
  await sound(page);
  // Bars no correction could mend are refused in words; likely ones are kept, and a second sheet that measures true changes nothing.
  await page.getByLabel('across, mm').first().fill('60');
  await page.getByRole('button', { name: 'Correct later sheets' }).first().click();
  await expect(page.getByText(/cannot be put right by drawing them longer/)).toBeVisible();
  await page.getByLabel('across, mm').first().fill('98.5');
  await page.getByRole('button', { name: 'Correct later sheets' }).first().click();
  await expect(page.getByText('Sheets are drawn at 101.5 % across and 100.0 % down.')).toBeVisible();
  await page.getByLabel('Paper in the printer').selectOption('Letter');
  const one = test.info().outputPath('one.pdf');
  writeFileSync(one, await download(page, /^Save: 80 g copy paper through the office laser/));
  expect(execFileSync('pdfinfo', [one]).toString()).toMatch(/612 x 792/);
  await expect(page.getByRole('region', { name: 'Cutting' })).toContainText(/Cut each board/);
  await page.getByLabel('Tape overlap, mm').fill('60');
  await expect(page.getByText('The tape has to be wider than its overlap.')).toBeVisible();
});
