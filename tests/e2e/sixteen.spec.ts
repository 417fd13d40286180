import { expect, type Page, test } from '@playwright/test';
import { CAUTIONS, METHODS } from '../../src/core/methods/index.ts';
import { bring, planOf, press } from './at-bench.ts';
import { sound } from './views.ts';

/** Cautions that stand on the page, each whole and above the control that follows them. */
async function cautionsInView(page: Page) {
  const box = await page.getByRole('complementary', { name: 'Cautions' }).boundingBox();
  const control = await page.locator('button').last().boundingBox();
  expect(box, 'cautions').not.toBeNull();
  expect(box!.y + box!.height).toBeLessThanOrEqual(control!.y + 1);
}

test('every method on the bench, by turns on a laptop and on a phone: cautions in view at their step, nothing over the edge', async ({
  page,
}) => {
  for (const [i, method] of METHODS.entries()) {
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
    if (i % 8 === 0) await sound(page);
    // One pair of hands: the next method begins on a free bench.
    await page.goto(`/w/mine/t/${plan.id}/make`);
    await page.getByRole('button', { name: 'Remove trial' }).click();
    await expect(page.getByText(`“${plan.name}” was removed.`, { exact: false })).toBeVisible();
  }
});
