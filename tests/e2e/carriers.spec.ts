import { expect, type Page, test } from '@playwright/test';
import { chainOf } from '../../src/core/steps/index.ts';
import { carrierOf, type TrialPlan, type TrialRecord } from '../../src/core/trial/index.ts';
import { bring, planOf } from './at-bench.ts';
import { planIn } from './photos.ts';
import { download, sound, visit } from './views.ts';

const FIRST = planOf('wet-rub', {
  name: 'Hook plates',
  factors: [{ key: 'medium', levels: ['matte-acrylic', 'soft-gel'] }],
  repeats: 2,
  board: { w: 300, h: 220, outline: 'rectangle', onePiece: false },
});

/** What was saved, out of its own file. */
async function saved(page: Page): Promise<TrialPlan> {
  await page.getByRole('link', { name: 'Keep', exact: true }).click();
  return planIn(new Uint8Array(await download(page, 'Export the trial (ZIP)')));
}

test('a lid and a panel by its corners carry patches among the boards, from the planner to the bench', async ({
  page,
}) => {
  await visit(page, '/w/mine/new/plan?from=plain:wet-rub');
  await page.getByLabel('Name of the trial').fill('Tide lids');
  await page.getByRole('button', { name: 'Add a piece' }).click();
  await page.getByLabel('Piece 1 is called').fill('The lid');
  await page.getByLabel('Width of 1, mm').fill('150');
  await page.getByLabel('Height of 1, mm').fill('150');
  await page.getByRole('button', { name: 'Add a piece' }).click();
  await page.getByLabel('Piece 2 is called').fill('Bag panel');
  await page.getByLabel('Width of 2, mm').fill('220');
  await page.getByLabel('Height of 2, mm').fill('180');
  await page.getByLabel('Outline of 2').selectOption({ label: 'by its corners' });
  await page.getByLabel('1: left, mm').fill('60');
  await page.getByRole('button', { name: 'One more corner' }).click();
  await page.getByLabel('5: left, mm').fill('0');
  await page.getByLabel('5: top, mm').fill('40');
  await expect(page.getByText('Bag panel · 220 × 180 mm')).toBeVisible();
  await sound(page);

  // Two of one name are said in words, and nothing is lost by it.
  await page.getByLabel('Piece 2 is called').fill('The lid');
  await expect(page.getByText('Two pieces are called “The lid”.').first()).toBeVisible();
  await page.getByLabel('Piece 2 is called').fill('Bag panel');
  await page.getByRole('button', { name: 'Save the plan and print' }).first().click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Tide lids');

  await expect(page.getByText('Bag panel (220 × 180 mm)')).toBeVisible();
  const plan = await saved(page);
  expect(carrierOf(plan, 0)).toMatchObject({ name: 'The lid', outline: 'ellipse', w: 150 });
  expect(plan.pieces?.[1].corners?.[0].x).toBeCloseTo(60 / 220, 3);
  expect(plan.pieces?.[1].corners?.[4]).toEqual({ x: 0, y: expect.closeTo(40 / 180, 3) });
  for (const board of [0, 1]) expect(plan.patches.some(p => p.board === board)).toBe(true);

  // At the bench the piece is drawn as it is, and called by its name.
  await visit(page, `/w/mine/t/${plan.id}/bench`);
  const start = page.getByRole('button', { name: 'Window open, gloves on' });
  await start.click();
  await expect(start).toBeHidden();
  const where = page.getByRole('group', { name: 'Where on the board' });
  await expect(where.getByText(/^The lid · 150 × /)).toBeVisible();
});

test('what is left of a board of another trial is shared, and a third trial finds it taken', async ({
  page,
}) => {
  await bring(page, FIRST);
  await visit(page, '/w/mine/new/plan?from=plain:wet-rub');
  await page.getByLabel('Name of the trial').fill('Beside the hook plates');
  await page
    .getByLabel('Or what is left of the boards of')
    .selectOption({ label: `${FIRST.code} · Hook plates` });
  await page.getByRole('button', { name: 'Share its boards' }).click();
  await expect(page.getByLabel('Piece 1 is called')).toHaveValue(`${FIRST.code}, board 1`);
  await expect(page.getByText(`${FIRST.patches.length} places taken`, { exact: false })).toBeVisible();
  await sound(page);
  await page.getByRole('button', { name: 'Save the plan and print' }).first().click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Beside the hook plates');
  const second = await saved(page);
  expect(second.pieces?.[0].of).toEqual({ trial: FIRST.id, board: 0 });
  const beside = second.patches.filter(p => p.board === 0);
  expect(beside.length).toBeGreaterThan(0);

  await visit(page, '/w/mine/new/plan?from=plain:wet-rub');
  await page.getByLabel('Patch width, mm').fill('20');
  await page
    .getByLabel('Or what is left of the boards of')
    .selectOption({ label: `${FIRST.code} · Hook plates` });
  await page.getByRole('button', { name: 'Share its boards' }).click();
  await expect(page.getByText(/places taken|has room/).first()).toContainText(
    new RegExp(`${FIRST.patches.length + beside.length} places taken|No board of ${FIRST.code} has room`),
  );
});

test('a further layer lies on finished patches, and what is left over is laid on without being printed again', async ({
  page,
}) => {
  let time = Date.parse(FIRST.createdAt);
  const records = FIRST.patches.flatMap(p =>
    chainOf(FIRST, p).map(({ step, round }, i): TrialRecord => {
      time += 3_600_000;
      const at = new Date(time).toISOString();
      return { id: `${p.code}-${i}`, at, patch: p.code, kind: 'step', step: step.id, round };
    }),
  );
  await bring(page, FIRST, records);
  // Twelve spare prints are kept.
  await visit(page, `/w/mine/t/${FIRST.id}/plan`);
  await page.getByRole('button', { name: 'Keep it on the shelf' }).click();
  await expect(page.getByText('Write what is left', { exact: false })).toBeVisible();
  await page.getByLabel('What is left', { exact: true }).fill('Spare print');
  await page.getByLabel('Pieces', { exact: true }).fill('12');
  await page.getByRole('button', { name: 'Keep it on the shelf' }).click();
  await expect(
    page.getByText(`12 × “Spare print from ${FIRST.code}” lie on your shelf`, { exact: false }),
  ).toBeVisible();

  await visit(page, '/w/mine/new/plan?from=plain:wet-rub');
  await page.getByLabel('Name of the trial').fill('Second layer');
  await page.getByRole('button', { name: 'Lie on its finished patches' }).click();
  await expect(page.getByText('on 4 finished patches', { exact: false })).toBeVisible();
  await page.getByLabel('Donor sheet').selectOption({ label: `Spare print from ${FIRST.code}` });
  await expect(page.getByText('12 left over', { exact: false }).first()).toBeVisible();
  await sound(page);
  await page.getByRole('button', { name: 'Save the plan and print' }).first().click();
  await expect(page.getByText('is there already and is not printed', { exact: false })).toBeVisible();
  await expect(page.getByRole('button', { name: /Save the donor sheets/ })).toBeHidden();
  const layer = await saved(page);
  expect(layer.patches.filter(p => p.board === 0)).toHaveLength(4);
  await visit(page, `/w/mine/t/${layer.id}/bench`);
  const start = page.getByRole('button', { name: 'Window open, gloves on' });
  await start.click();
  await expect(start).toBeHidden();
  await expect(page.getByText(/on top of .{2}-.{3}/).first()).toBeVisible();
});
