import { expect, type Page, test } from '@playwright/test';
import { CAUTIONS, METHODS } from '../../src/core/methods/index.ts';
import { begin, bring, planOf, press } from './at-bench.ts';
import { sound } from './views.ts';

/** Cautions that stand on the page, each whole and above the control that follows them. */
async function cautionsInView(page: Page) {
  const box = await page.getByRole('complementary', { name: 'Cautions' }).boundingBox();
  const control = await page.locator('button').last().boundingBox();
  expect(box, 'cautions').not.toBeNull();
  expect(box!.y + box!.height).toBeLessThanOrEqual(control!.y + 1);
}

for (const phone of [false, true])
  test(`every method on the bench ${phone ? 'on a phone' : 'on a laptop'}: cautions in view at their step, nothing runs over the edge`, async ({
    page,
  }) => {
    test.setTimeout(400_000);
    if (phone) await page.setViewportSize({ width: 390, height: 844 });
    for (const method of METHODS) {
      const levels = method.vary.includes('dryHours')
        ? ([{ key: 'dryHours', levels: [method.usual.dryHours, method.usual.dryHours * 2] }] as const)
        : ([{ key: 'finish', levels: ['clear-wax', 'water-varnish'] }] as const);
      const plan = planOf(method.id, {
        name: method.name,
        factors: levels.map(f => ({ key: f.key, levels: [...f.levels] })),
        repeats: 1,
      });
      await bring(page, plan);
      await page
        .getByRole('link', { name: /the bench$/ })
        .first()
        .click();
      // Before anything is begun: what can hurt in this method.
      await expect(page.getByRole('button', { name: 'Window open, gloves on' })).toBeVisible();
      for (const id of method.setUpCautions)
        await expect(page.getByText(CAUTIONS[id].title, { exact: false }).first()).toBeVisible();
      await page.goBack();
      await begin(page);
      let cautioned = 0;
      for (let i = 0; i < 5; i++) {
        const heading = await page.locator('h1').textContent();
        if (heading === 'Wait' || heading === 'All done at the bench') break;
        expect(
          await page.evaluate(() => document.documentElement.scrollWidth),
          method.id,
        ).toBeLessThanOrEqual(phone ? 390 : 1280);
        if (await page.getByRole('complementary', { name: 'Cautions' }).isVisible()) {
          await cautionsInView(page);
          cautioned++;
        }
        await press(page);
      }
      const first = method.steps.slice(0, 4).some(step => step.cautions.length > 0 && !step.onlyIfPrepared);
      if (first) expect(cautioned, `${method.id} had none`).toBeGreaterThan(0);
      if (!phone) await sound(page);
    }
  });
