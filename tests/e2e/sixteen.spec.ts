import { expect, type Page, test } from '@playwright/test';
import { CAUTIONS, METHODS, mirrorReason } from '../../src/core/methods/index.ts';
import { progressOf } from '../../src/core/progress/index.ts';
import { BY_HAND } from '../../src/core/shelf/index.ts';
import { settingsOf, type TrialPlan } from '../../src/core/trial/index.ts';
import { bring, planOf, press, showing, stored } from './at-bench.ts';
import { sound, visit } from './views.ts';

/** Cautions that stand on the page, each whole and above the control that follows them. */
async function cautionsInView(page: Page) {
  const box = await page.getByRole('complementary', { name: 'Cautions' }).boundingBox();
  const control = await page.locator('button').last().boundingBox();
  expect(box, 'cautions').not.toBeNull();
  expect(box!.y + box!.height).toBeLessThanOrEqual(control!.y + 1);
}

/** So often a method is worked to its last step here; all are in unit tests, before the same screen. */
const WHOLE = 8;

/** One pair of hands: the next method begins on a free bench. */
async function remove(page: Page, plan: TrialPlan) {
  await visit(page, `/w/mine/t/${plan.id}/make`);
  await page.getByRole('button', { name: 'Remove trial' }).click();
  await expect(page.getByText(`“${plan.name}” was removed.`, { exact: false })).toBeVisible();
}

// Each half by itself, so that they can run side by side.
test.describe.configure({ mode: 'parallel' });
const HALVES = [METHODS.slice(0, 8), METHODS.slice(8)];
for (const [half, methods] of HALVES.entries())
  test(`every method from its sheets to the bench, by turns on a laptop and on a phone, ${half + 1} of 2: cautions in view at their step, nothing over the edge`, async ({
    page,
  }) => {
    test.setTimeout(400_000);
    await page.clock.install({ time: new Date('2026-05-02T09:00:00') });
    for (const [i, method] of methods.entries()) {
      const phone = i % 2 === 1;
      await page.setViewportSize(phone ? { width: 390, height: 844 } : { width: 1280, height: 800 });
      const plan = planOf(method.id, {
        name: method.name,
        factors: method.vary.includes('dryHours')
          ? [{ key: 'dryHours', levels: [method.usual.dryHours, method.usual.dryHours * 2] }]
          : [{ key: 'finish', levels: ['clear-wax', 'water-varnish'] }],
        repeats: 1,
      });
      await bring(page, plan);
      // Print: sheets that are mirrored by the method's own count, or a guide for the hand.
      await visit(page, `/w/mine/t/${plan.id}/print`);
      const { printer, donor } = settingsOf(plan, plan.patches[0]);
      const byHand = BY_HAND[printer.colourant];
      await expect(
        page.getByRole('heading', { name: byHand ? '1. Guides for your hand' : '1. Donor sheets' }),
      ).toBeVisible();
      await expect(page.getByText(byHand ? /2 places; the colour/ : /2 prints, on/).first()).toBeVisible();
      await expect(page.getByText(mirrorReason(method, donor.kind), { exact: false })).toBeVisible();
      await visit(page, `/w/mine/t/${plan.id}/make`);
      await page
        .getByRole('link', { name: /the bench$/ })
        .first()
        .click();
      // Before anything is begun: what can hurt in this method.
      const start = page.getByRole('button', { name: 'Window open, gloves on' });
      await expect(start).toBeVisible();
      for (const id of method.setUpCautions)
        await expect(page.getByText(CAUTIONS[id].title, { exact: false }).first()).toBeVisible();
      await start.click();
      await expect(start).toBeHidden();
      let cautioned = 0;
      for (let k = 0; k < 3; k++) {
        const heading = await page.locator('h1').textContent();
        if (heading === 'Wait' || heading === 'All done at the bench') break;
        const wide = await page.evaluate(() => document.documentElement.scrollWidth);
        expect(wide, method.id).toBeLessThanOrEqual(phone ? 390 : 1280);
        if (await page.getByRole('complementary', { name: 'Cautions' }).isVisible()) {
          await cautionsInView(page);
          cautioned++;
        }
        await press(page);
      }
      const early = method.steps.slice(0, 3).some(step => step.cautions.length > 0 && !step.onlyIfPrepared);
      if (early) expect(cautioned, `${method.id} had none`).toBeGreaterThan(0);
      if (i === 0) await sound(page);
      if (METHODS.indexOf(method) % WHOLE) {
        await remove(page, plan);
        continue;
      }
      // On to the end: what waits is waited for, what is asked is answered by doing it.
      for (let guard = 0; guard < 150; guard++) {
        const now = await showing(page);
        if (now.startsWith('All done at the bench')) break;
        if (now.startsWith('Wait')) await page.clock.fastForward(4 * 3_600_000);
        else {
          await press(page);
          await page.clock.fastForward(15_000);
        }
      }
      await expect(page.getByRole('heading', { level: 1 }), method.id).toHaveText('All done at the bench');
      const { lines } = progressOf(plan, await stored(page, plan.id));
      for (const { chain, doneAt } of lines)
        expect(
          chain.every((_, k) => doneAt[k] !== undefined),
          method.id,
        ).toBe(true);
      await page.getByRole('button', { name: 'Leave the bench' }).click();
      await expect(page.getByRole('link', { name: 'Photograph and read' })).toBeVisible();
      await remove(page, plan);
    }
  });
