import { expect, test } from '@playwright/test';
import { examplePlan } from '../../src/core/design/example.ts';
import { keptFrom } from '../../src/core/recipe/index.ts';
import { recipeJson } from '../../src/core/recipe-book/index.ts';
import { readingFor } from '../../src/core/trial/example.ts';
import { begin, press } from './at-bench.ts';
import { sound, visit } from './views.ts';

const GULL = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 80 80" width="800" height="800">
<rect width="80" height="80" fill="#fff"/><circle cx="40" cy="40" r="30" fill="#0a3d62"/><rect x="10" y="10" width="26" height="14" fill="#b71540"/></svg>`;

/** A recipe for another workshop, of which six of six came out good. */
function recipeFile(): Buffer {
  const plan = examplePlan();
  const records = plan.patches.flatMap((p, i) => readingFor(p.code, i, { landed: 92 - (i % 3), veil: 0.04 }));
  const kept = { ...keptFrom(plan, records)!, name: 'Gull plates', seen: { good: 6, of: 6 }, from: null };
  const at = '2026-05-02T08:00:00.000Z';
  return Buffer.from(recipeJson([{ id: 'v1', recipe: 'GULLS', at, kind: 'version', why: '', kept }]));
}

test('a recipe is made for real on the bench, photographed, judged, and what came of it is written into the recipe', async ({
  page,
}) => {
  await page.clock.install({ time: new Date('2026-06-02T09:00:00') });
  await page.goto('/w/mine/pictures');
  await page.getByLabel('Picture file').setInputFiles({
    ...{ name: 'Gull.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(GULL) },
  });
  await page.getByRole('button', { name: 'No writing' }).click();
  await visit(page, '/w/mine/recipes');
  await page
    .getByTestId('recipe-file')
    .setInputFiles({ name: 'r.json', mimeType: 'application/json', buffer: recipeFile() });
  await page.getByRole('link', { name: 'Gull plates' }).click();
  await page.getByLabel('Picture across, mm').fill('60');
  await page.getByLabel('Picture down, mm').fill('60');
  await page.getByLabel('Good ones wanted').fill('1');
  await page.getByLabel('How sure').selectOption('0.75');
  await expect(page.getByText('Begin 1, for 1 good one.')).toBeVisible();
  await sound(page);
  await page.getByRole('button', { name: 'Make it on the bench' }).click();

  // It is printed, laid out and made like a trial, without anything to compare.
  await expect(page).toHaveURL(/\/print/);
  await expect(page.getByText(/^1 sheet, 1 print/)).toBeVisible();
  const base = page.url().replace(/\/print.*/, '');
  await visit(page, `${base}/plan`);
  await expect(page.getByText('1 piece of 60 × 60 mm', { exact: false })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Remove these pieces' })).toBeVisible();
  await visit(page, `${base}/make`);
  await begin(page);
  for (let i = 0; i < 120; i++) {
    const heading = await page.locator('h1').first().textContent();
    if (/done|finished|made/i.test(heading ?? '')) break;
    if (heading === 'Wait') await page.clock.fastForward(4 * 3_600_000);
    else {
      await press(page);
      await page.clock.fastForward(60_000);
    }
  }

  await visit(page, `${base}/read`);
  await page.locator('.patch').first().click();
  await page.getByRole('button', { name: 'Simulated camera' }).click();
  await expect(page.getByText(/\d+(\.\d)? % .*landed|landed/i).first()).toBeVisible({ timeout: 60_000 });
  await visit(page, `${base}/judge`);
  await page.locator('.patch').first().click();
  await page
    .getByRole('button', { name: /^Keep\b/ })
    .first()
    .click();
  await page.getByRole('button', { name: '5 perfect' }).click();
  await page.getByRole('button', { name: 'Keep this verdict' }).click();
  await visit(page, `${base}/keep`);
  await expect(page.getByRole('heading', { name: '1 good of 1' })).toBeVisible();
  await sound(page);
  await page.getByRole('button', { name: 'Write it into the recipe' }).click();
  await expect(page.getByRole('button', { name: 'Written into the recipe' })).toBeDisabled();
  // What it used goes off the shelf, once.
  await page.getByRole('button', { name: 'Take it off the shelf' }).click();
  await expect(page.getByText(/ (mL|sheets) left/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Take it off the shelf' })).toHaveCount(0);
  await page.getByRole('link', { name: 'Gull plates, the recipe' }).click();
  await expect(page.getByText(/1 good of 1, 60 × 60 mm · Run /)).toBeVisible();
  await expect(page.getByText(/^7 of 7 came out good/)).toBeVisible();
});
