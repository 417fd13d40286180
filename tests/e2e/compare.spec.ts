import { expect, test } from '@playwright/test';
import { progressOf } from '../../src/core/progress/index.ts';
import { methodsOf, settingsOf } from '../../src/core/trial/index.ts';
import { begin, bring, nearlyMade, press, showing, stored } from './at-bench.ts';
import { planIn, takePhotos } from './photos.ts';
import { download, sound, visit } from './views.ts';

const METHODS = ['Wet-rub transfer', 'Tape lift', 'Film pull'];

test('three methods on one board, from the question to the finding: each patch with its own sheet, steps and waits', async ({
  page,
}, info) => {
  const faults: string[] = [];
  page.on('pageerror', error => faults.push(error.message));
  await visit(page, '/w/mine/new/plan?from=plain:wet-rub');
  await page.getByLabel('Name of the trial').fill('Three ways onto birch');
  await page.getByLabel(/^A\. Change the/).selectOption('method');
  await page.getByRole('button', { name: /^Do not vary (?!Method)/ }).click();
  // A second method that suits the ground comes by itself; it is changed, and a third added.
  await page.getByLabel('A2', { exact: true }).selectOption('tape-lift');
  await page.getByRole('button', { name: 'Add a level to Method' }).click();
  await page.getByLabel('A3', { exact: true }).selectOption('film-pull');
  for (const name of METHODS)
    await expect(
      page.getByRole('heading', { name: `The same for every patch by ${name.toLowerCase()}` }),
    ).toBeVisible();
  // What only some of the methods have is varied there alone, and says so.
  await page.getByRole('button', { name: 'Vary one thing more' }).click();
  await page.getByLabel(/^B\. Change the/).selectOption('water');
  await expect(page.getByText('Tape lift, Film pull: as usual there.')).toBeVisible();
  await expect(page.getByText(/^8 patches/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Do not vary Water' }).click();
  await page.getByLabel('Repeats').fill('2');
  await expect(page.getByText(/^6 patches/).first()).toBeVisible();
  await expect(page.getByText(/^Method: if one .* is really 8 points better/)).toBeVisible({
    timeout: 30_000,
  });
  await expect(page.getByText('Film pull needs 20 mm', { exact: false })).toBeVisible();
  await sound(page);
  await page.getByRole('button', { name: 'Save the plan and print' }).first().click();

  // Print: mirrored for two of them, not for the tape, on the same kind of paper.
  await expect(page.getByText('Tape lift: ', { exact: false })).toBeVisible();
  await expect(page.getByText(/2 prints, on .*, not mirrored/)).toBeVisible();
  await expect(page.getByText(/2 prints, on .*, mirrored/).first()).toBeVisible();
  await sound(page);
  const id = page.url().match(/\/t\/([^/]+)\//)![1];

  // The bench, taken over after most of it is done, to the end.
  await visit(page, `/w/mine/t/${id}/keep`);
  const plan = planIn(new Uint8Array(await download(page, 'Export the trial (ZIP)')));
  expect(methodsOf(plan).map(m => m.name)).toEqual(METHODS);
  const start = new Date('2026-05-02T09:00:00').getTime();
  const made = nearlyMade(plan, start, 14);
  const later = new Date(Date.parse(made.at(-1)!.at) + 60_000);
  await page.clock.install({ time: later });
  await bring(page, plan, made);
  await begin(page);
  for (let guard = 0; guard < 60; guard++) {
    const now = await showing(page);
    if (now.startsWith('All done at the bench')) break;
    if (now.startsWith('Wait')) await page.clock.fastForward(10 * 60_000);
    else {
      await press(page);
      await page.clock.fastForward(20_000);
    }
  }
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('All done at the bench');
  const records = await stored(page, id);
  const done = progressOf(plan, records).lines.flatMap(l => l.chain.map(link => link.step.id));
  await page.clock.resume();
  for (const { chain, doneAt, settings } of progressOf(plan, records).lines) {
    expect(doneAt.slice(0, chain.length).every(at => at !== undefined)).toBe(true);
    const own = settings.method.steps.map(s => s.id);
    expect(chain.every(l => own.includes(l.step.id))).toBe(true);
  }
  expect(done).toEqual(expect.arrayContaining(['burnish', 'pull']));

  // Read and judge know which patch is which; the finding is about the method.
  const taken = await takePhotos(plan, info.outputPath(''));
  await visit(page, `/w/mine/t/${id}/read`);
  await page.getByTestId('photo-files').setInputFiles(taken.map(t => t.file));
  await expect(page.getByText('6 of 6 patches read.')).toBeVisible({ timeout: 200_000 });
  const tape = plan.patches.find(p => settingsOf(plan, p).method.name === 'Tape lift')!;
  await page.locator(`.patch[data-code="${tape.code}"]`).click();
  await expect(page.getByText(/Photos now go to .*Tape lift/)).toBeVisible();
  await visit(page, `/w/mine/t/${id}/explain?patch=${tape.code}`);
  await expect(page.getByText(/Tape lift/).first()).toBeVisible();
  await sound(page);
  await visit(page, `/w/mine/t/${id}/keep`);
  await expect(page.getByRole('heading', { name: 'Method: landed, %' })).toBeVisible();
  await expect(
    page.getByRole('heading', { name: /^Recipe: (Wet-rub transfer|Tape lift|Film pull) on birch/ }),
  ).toBeVisible();
  await sound(page);
  expect(faults).toEqual([]);
});
