import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { readBundle } from '../../src/core/bundle/index.ts';
import { ProblemError } from '../../src/core/outcome/index.ts';
import { bring } from './at-bench.ts';
import { download, sound, visit } from './views.ts';

/** The finished trial that ships with the demo, brought into the maker's own workshop. */
const FINISHED = (() => {
  const bundle = readBundle(new Uint8Array(readFileSync('public/demo/berth-plates.zip')));
  if (!bundle.ok) throw new ProblemError(bundle.problem);
  return bundle.value;
})();

test('findings become a decision: what would settle it is one press, another choice becomes the recipe, and what counts as good can be changed', async ({
  page,
}) => {
  await visit(page, '/w/demo');
  await expect(page.getByText('Berth plates', { exact: false }).first()).toBeVisible();
  const { plan } = FINISHED;
  await visit(page, `/w/demo/t/${plan.id}/keep`);
  await expect(page.getByText(/^Take 22 h: 99 % sure\./).first()).toBeVisible({ timeout: 30_000 });
  await sound(page);

  // A patch behind a bar is a press away on the board.
  await page.getByText('The figures').first().click();
  const dot = page.getByRole('button', { name: /^CX-\w+ \d+\.\d$/ }).first();
  const code = (await dot.textContent())!.split(' ')[0];
  await dot.click();
  await expect(page.locator(`.patch[data-code="${code}"]`)).toHaveAttribute('aria-pressed', 'true');

  // What it gives and what it takes: another one is taken into the recipe.
  const choices = page.getByRole('region', { name: 'What it gives and what it takes' });
  await choices
    .getByRole('group', { name: 'White PVA glue, 22 h' })
    .getByRole('button', { name: 'Take it' })
    .click();
  await expect(
    page.getByText('You chose White PVA glue, 22 h, for what it gives and what it takes.'),
  ).toBeVisible();

  // The figures as a table.
  const csv = (await download(page, 'Save the figures (CSV)')).toString();
  expect(csv.split('\n')[0]).toBe('measure,factor,level,mean,lo,hi,patches,best,sure');
  expect(csv).toContain('grade,Medium,');

  // Only what landed counts: it is weighed anew.
  await page.getByText(/^What counts as good/).click();
  await page.getByLabel('Veil: weight').fill('0');
  await page.getByRole('button', { name: 'Judge by this' }).click();
  await expect(page.getByText('What counts as good: as you set it')).toBeVisible({ timeout: 30_000 });

  // The few patches that would settle it, added in one press as a batch of their own.
  const next = page.getByRole('region', { name: 'What next' });
  const add = next.getByRole('button', { name: /^Add these \d+ patches$/ });
  const count = Number((await add.textContent())!.match(/\d+/)![0]);
  await add.click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(plan.name);
  await expect(page.locator('.patch')).toHaveCount(plan.patches.length + count);
});

test('what all trials say together: counted, asked about what was never tried, and said again in the planner', async ({
  page,
}) => {
  await visit(page, '/w/mine/known');
  await expect(page.getByText('Nothing is read or judged yet.', { exact: false })).toBeVisible();
  await sound(page);
  await visit(page, '/w/demo/known');
  await expect(
    page.getByText(
      /^Matte acrylic medium on birch plywood, wet-rub transfer: \d+ of \d+ kept in \d trials?\./,
    ),
  ).toBeVisible({
    timeout: 30_000,
  });
  await expect(
    page.getByText(/^22 h rather than 5 h: \d\d % sure, from 12 patches in 1 trial\./),
  ).toBeVisible();
  const ask = page.getByRole('region', { name: 'Ask about anything' });
  await expect(
    ask.getByText('Exactly this was made before: 4 patches in 1 trial.', { exact: false }),
  ).toBeVisible();
  const before = await ask.getByText(/^It works about/).textContent();
  await ask.getByLabel('Substrate').selectOption('slate');
  await expect(ask.getByText('Exactly this was never made', { exact: false })).toBeVisible();
  await expect(ask.getByText(/^It works about/)).not.toHaveText(before!);
  // What the rules know is said with it.
  await ask.getByLabel('Printer').selectOption({ index: 1 });
  await sound(page);

  // The planner starts from it.
  await visit(page, '/w/demo/new/plan?from=plain:wet-rub');
  const already = page.getByRole('region', { name: 'What you know of this already' });
  await expect(already).toContainText(/Medium: .*from \d+ patches in \d trials?/, { timeout: 30_000 });
});

test('findings are stopped and taken up again, and say what is missing where nothing is read', async ({
  page,
}) => {
  await visit(page, '/w/demo');
  await expect(page.getByText('Berth plates', { exact: false }).first()).toBeVisible();
  await visit(page, `/w/demo/t/${FINISHED.plan.id}/keep`);
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(page.getByText('Stopped. Nothing is lost.')).toBeVisible();
  await page.getByRole('button', { name: 'Work it out' }).click();
  await expect(page.getByText(/^Take 22 h/).first()).toBeVisible({ timeout: 30_000 });

  await bring(
    page,
    FINISHED.plan,
    FINISHED.records.filter(r => r.kind !== 'photo' && r.kind !== 'reading' && r.kind !== 'verdict'),
  );
  await visit(page, `/w/mine/t/${FINISHED.plan.id}/keep`);
  await expect(page.getByText('No patch has a dry reading yet. Read the photos first.')).toBeVisible({
    timeout: 30_000,
  });
});
