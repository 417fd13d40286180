import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { expect, type Page, test } from '@playwright/test';
import { unzipSync } from 'fflate';
import { press as pressOn } from './at-bench.ts';
import { planIn, takePhotos } from './photos.ts';
import { download, sound, visit } from './views.ts';

const stage = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Stages' }).getByRole('link', { name }).click();

test('from an empty workshop through all eight stages, and out and in again as a file', async ({
  page,
}, info) => {
  test.setTimeout(420_000);
  const faults: string[] = [];
  page.on('pageerror', e => faults.push(e.message));
  await page.clock.install({ time: new Date('2026-05-02T18:00:00') });

  // An empty workshop teaches.
  await page.goto('/');
  await expect(page).toHaveURL(/\/w\/mine$/);
  await expect(page.getByRole('heading', { name: 'Make test pieces you can learn from' })).toBeVisible();
  await sound(page);

  // Ask and lay out.
  await page.getByRole('link', { name: 'Plan your first trial' }).click();
  await expect(page.getByText('Makers disagree about these')).toBeVisible();
  await sound(page);
  await page.getByRole('link', { name: 'Start from nothing' }).click();
  await page.getByRole('button', { name: 'Save the plan and print' }).click();
  await expect(page.getByText('Give the trial a name first.').first()).toBeVisible();
  await page.getByLabel('Name of the trial').fill('Birch: how many hours');
  await page.getByLabel('Your question').fill('Is an evening enough?');
  await page.getByLabel('Board width, mm').fill('60');
  await page.getByLabel('Board height, mm').fill('40');
  await expect(page.getByRole('alert')).toContainText('too small');
  await page.getByLabel('Board width, mm').fill('230');
  await page.getByLabel('Board height, mm').fill('180');
  await expect(page.locator('.patch')).toHaveCount(12);
  await page
    .getByRole('button', { name: /^Remove level/ })
    .nth(2)
    .click();
  await expect(page.locator('.patch')).toHaveCount(8);
  await expect(page.getByText('8 patches of 40 mm')).toBeVisible();
  await page.getByRole('button', { name: 'Do not vary Medium' }).click();
  await page.getByLabel('Repeats').fill('3');
  await expect(page.locator('.patch')).toHaveCount(6);
  await expect(page.getByText('of medium')).toBeVisible();
  const seeds = await page.getByText(/Shuffled from seed/).textContent();
  await page.getByRole('button', { name: 'Shuffle again' }).click();
  await expect(page.getByText(/Shuffled from seed/)).not.toHaveText(seeds!);
  await page.getByRole('button', { name: 'Save the plan and print' }).click();

  // Print: real PDFs.
  await expect(page).toHaveURL(/\/print/);
  const sheets = await download(page, 'Save the donor sheets (PDF)');
  expect(sheets.subarray(0, 5).toString()).toBe('%PDF-');
  expect((await download(page, 'Save: Reading card (PDF)')).subarray(0, 5).toString()).toBe('%PDF-');

  // The board by keyboard; the selected patch stays selected across stages.
  const patches = page.locator('.patch');
  await patches.first().focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowRight');
  await page.waitForTimeout(1000);
  await page.keyboard.press('ArrowDown');
  await page.waitForTimeout(1000);
  const chosen = await page.locator('.patch[aria-pressed=true]').getAttribute('data-code');
  await stage(page, 'Make');
  await expect(page.locator('.patch[aria-pressed=true]')).toHaveAttribute('data-code', chosen!);

  // Make: set up, then mark all six before anything is coated.
  await page.getByRole('link', { name: 'Set up the bench' }).click();
  await expect(page.getByText('Air and gloves.')).toBeVisible();
  await page.getByRole('button', { name: 'Humidity higher' }).click();
  await sound(page);
  await page.getByRole('button', { name: 'Window open, gloves on' }).click();
  const heading = page.getByRole('heading', { level: 1 });
  await expect(heading).toHaveText('Mark it');
  const code = page.locator('h1 + p');
  const press = (key?: string) => pressOn(page, key);
  await press();
  await press();
  await press('u');
  await expect(page.getByRole('button', { name: /Undo: .* mark/ })).toBeVisible();
  for (let i = 0; i < 5; i++) await press('Enter');
  await expect(heading).toHaveText('Coat it');
  await press();
  await expect(heading).toHaveText('Place the print');
  await expect(page.getByRole('timer')).toContainText('the window closes in');

  // Reload in the middle: nothing is lost and the clock is right.
  const placing = await code.textContent();
  await page.clock.fastForward(60_000);
  await page.reload();
  await expect(heading).toHaveText('Place the print');
  await expect(code).toHaveText(placing!);
  await expect(page.getByRole('timer')).toContainText(/past the best moment|left to the best moment/);
  await press();
  for (let i = 0; i < 5; i++) {
    await press();
    await press();
  }
  await expect(heading).toHaveText('Wait');
  // Too soon needs a second press; one that follows the last within a moment is the same press.
  await page.waitForTimeout(500);
  await page.locator('body').press(' ');
  await expect(page.getByRole('button', { name: /too soon/ })).toBeVisible();
  await page.reload();

  // The opening view says until when.
  await visit(page, '/w/mine');
  await expect(page.getByText('Nothing. Let it dry.')).toBeVisible();
  await expect(page.getByText(/Wet the paper: \d patches from|Wet the paper: /).first()).toBeVisible();
  await page.getByRole('link', { name: /Birch: how many hours/ }).click();

  // Hours later: what is ready needs hands; work through everything, time jumping over the waits.
  await page.getByRole('link', { name: 'Go to the bench' }).click();
  let felt = false;
  for (let guard = 0; guard < 200; guard++) {
    const words = await page.locator('h1').first().textContent();
    if (words === 'All done at the bench') break;
    if (words === 'Before you begin')
      await page.getByRole('button', { name: 'Window open, gloves on' }).click();
    else if (words === 'Wait') await page.clock.fastForward(20 * 60_000);
    else if (!felt && (await page.getByRole('button', { name: 'How it feels' }).isVisible())) {
      // In the hand at last: what no photo shows.
      await page.getByRole('button', { name: 'How it feels' }).click();
      await page.getByRole('button', { name: '4 a trace' }).click();
      await expect(page.getByRole('button', { name: '4 a trace' })).toHaveAttribute('aria-pressed', 'true');
      await sound(page);
      await page.getByRole('button', { name: '5 holds' }).click();
      await page.getByRole('button', { name: '3 a ridge' }).click();
      await expect(page.getByText(/noted\. Thank you/)).toBeVisible();
      await page.getByRole('button', { name: 'Done' }).click();
      felt = true;
    } else {
      await press();
      await page.clock.fastForward(60_000);
    }
    await expect.poll(async () => page.locator('h1').first().textContent()).toBeTruthy();
  }
  await expect(heading).toHaveText('All done at the bench');
  await page.getByRole('button', { name: 'Leave the bench' }).click();
  await page.getByRole('link', { name: 'Photograph and read' }).click();
  await page.clock.resume();

  // Read: real JPEGs, several at once, told apart by their names; one that cannot be read is refused.
  await stage(page, 'Keep');
  const early = await download(page, 'Export the trial (ZIP)');
  const plan = planIn(new Uint8Array(early));
  const taken = await takePhotos(plan, info.outputPath(''));
  await stage(page, 'Read');
  await page.getByTestId('photo-files').setInputFiles([
    {
      name: `${plan.patches[0].code}.jpg`,
      mimeType: 'image/jpeg',
      buffer: Buffer.from('no picture at all'),
    },
  ]);
  await expect(page.getByRole('alert')).toContainText('cannot be opened as a picture');
  await page.getByTestId('photo-files').setInputFiles(taken.map(t => t.file));
  await expect(page.getByText(`${taken.length} of 6 patches read.`)).toBeVisible({ timeout: 200_000 });
  await page.locator(`.patch[data-code="${taken[3].code}"]`).click();
  await page.getByRole('button', { name: 'Veil', exact: true }).click();
  await expect(page.getByRole('img', { name: /thicker the veil/ })).toBeVisible();
  await expect(page.getByText('simulated photo')).toBeVisible();

  // Judge.
  await stage(page, 'Judge');
  await page.getByRole('button', { name: 'Keep this verdict' }).click();
  await expect(page.getByText('Choose keep, fix or scrap, and a grade.')).toBeVisible();
  await page.getByRole('button', { name: /^Fix/ }).click();
  await page.getByRole('button', { name: '3 fair' }).click();
  await page.getByRole('button', { name: 'White veil' }).click();
  await page.getByText('One thing at a time').click();
  await page.getByRole('button', { name: '3 haze in places' }).click();
  await expect(page.getByText('One thing at a time: 1 of 7 graded')).toBeVisible();
  await page.getByRole('button', { name: 'Keep this verdict' }).click();
  await expect(page.getByText(`${taken[3].code} is judged: fix.`)).toBeVisible();

  // Explain.
  await stage(page, 'Explain');
  await page.locator(`.patch[data-code="${taken[3].code}"]`).click();
  await expect(page.getByText(/^1\. /)).toBeVisible();
  await expect(page.getByText(/^Marked: .*veil/).first()).toBeVisible();
  for (const part of ['For:', 'This patch, now:', 'Next time:'])
    await expect(page.getByText(part).first()).toBeVisible();

  // Keep: findings that follow from what is true of the pieces, a recipe, and the file.
  await stage(page, 'Keep');
  await expect(page.getByRole('heading', { name: 'Cure time: landed, %' })).toBeVisible();
  await expect(page.getByText(/^20 h lands more than 4 h/)).toBeVisible();
  await expect(page.getByRole('heading', { name: /^Recipe: Wet-rub transfer on birch/ })).toBeVisible();
  await expect(page.locator('.apexcharts-svg').first()).toBeVisible();
  const report = info.outputPath('report.pdf');
  writeFileSync(report, await download(page, 'Save a report (PDF)'));
  const onPaper = execFileSync('pdftotext', ['-layout', report, '-']).toString();
  for (const said of [
    'Is an evening enough?',
    'What it showed',
    '20 h lands more than 4 h',
    'Recipe: Wet-rub',
    'seen from the front',
  ])
    expect(onPaper).toContain(said);
  for (const { code } of taken) expect(onPaper).toContain(code);
  const zip = await download(page, 'Export the trial (ZIP)');
  const before = JSON.parse(new TextDecoder().decode(unzipSync(new Uint8Array(zip))['trial.json']));
  const looks = before.records.filter((r: { kind: string }) => r.kind === 'look');
  expect(Object.assign({}, ...looks.map((r: { aspects: object }) => r.aspects))).toEqual({
    ...{ tack: 4, hold: 5, smooth: 3, clean: 3 },
  });
  for (const t of taken) {
    const reading = before.records
      .filter((r: { kind: string; patch: string }) => r.kind === 'reading' && r.patch === t.code)
      .at(-1).reading;
    expect(Math.abs(reading.landed - t.landed), `${t.code} landed`).toBeLessThan(8);
    expect(Math.abs(reading.veil - t.veil), `${t.code} veil`).toBeLessThan(0.08);
  }

  // Wipe and import: the same trial.
  await page.getByRole('button', { name: 'Remove trial' }).click();
  await expect(page.getByRole('heading', { name: 'Removed trials' })).toBeVisible();
  await page.getByRole('button', { name: 'Erase for good' }).click();
  await expect(page.getByRole('heading', { name: 'Removed trials' })).toBeHidden();
  await expect(page.getByRole('heading', { name: 'Make test pieces you can learn from' })).toBeVisible();
  await page.getByTestId('import-file').setInputFiles({
    name: 'trial.zip',
    mimeType: 'application/zip',
    buffer: Buffer.from(zip.subarray(0, 2000)),
  });
  await expect(page.getByRole('status').last()).toContainText('damaged');
  await page
    .getByTestId('import-file')
    .setInputFiles({ name: 'trial.zip', mimeType: 'application/zip', buffer: zip });
  await expect(page.getByText('was imported')).toBeVisible();
  await page
    .getByTestId('import-file')
    .setInputFiles({ name: 'trial.zip', mimeType: 'application/zip', buffer: zip });
  await expect(page.getByText('is here already, with all that is in this file')).toBeVisible();
  await page.getByRole('link', { name: /Birch: how many hours/ }).click();
  await stage(page, 'Keep');
  const again = await download(page, 'Export the trial (ZIP)');
  const files = unzipSync(new Uint8Array(again));
  const after = JSON.parse(new TextDecoder().decode(files['trial.json']));
  expect({ ...after, exportedAt: '' }).toEqual({ ...before, exportedAt: '' });
  const original = unzipSync(new Uint8Array(zip));
  for (const name of Object.keys(original).filter(n => n.startsWith('photos/')))
    expect(Buffer.from(files[name]).equals(Buffer.from(original[name]))).toBe(true);
  expect(faults).toEqual([]);
});
