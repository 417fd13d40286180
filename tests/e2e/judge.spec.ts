import { expect, test } from '@playwright/test';
import { demoPlan, sound, visit } from './views.ts';

test('grades are given blind, pairs by two judges are compared until they are shown, and the order is there', async ({
  page,
}) => {
  const plan = demoPlan('log-covers.zip');
  await visit(page, '/w/demo');
  await visit(page, `/w/demo/t/${plan.id}/judge`);
  await page.getByRole('button', { name: 'Grade them blind' }).click();
  await expect(page.getByRole('heading', { name: 'Number 1 of 6' })).toBeVisible();
  await sound(page);
  // By key and by press; no code, no level, and on the board nothing of it.
  await page.keyboard.press('4');
  await expect(page.getByRole('heading', { name: 'Number 2 of 6' })).toBeVisible();
  await expect(page.getByText('hidden').first()).toBeVisible();
  // One thing at a time, beside what each step looks like: of one ground for all, or it would tell which is which.
  await page.getByText('One thing at a time').click();
  const coverage = page.getByRole('group', { name: 'Coverage' });
  await expect(coverage.locator('img')).toHaveCount(5);
  await coverage.getByRole('button', { name: '4 all but specks' }).click();
  await expect(page.getByText('One thing at a time: 1 of 4 graded')).toBeVisible();
  await expect(page.getByRole('group', { name: 'Tack' })).toHaveCount(0);
  await page.getByRole('button', { name: '2 weak' }).click();
  await expect(page.getByRole('heading', { name: 'Number 3 of 6' })).toBeVisible();

  await page.getByRole('button', { name: 'Compare them in pairs' }).click();
  await expect(page.getByRole('heading', { name: 'Which is better?' })).toBeVisible();
  await expect(page.getByRole('img', { name: 'The left one' })).toBeVisible();
  await sound(page);
  for (let i = 1; i <= 4; i++) {
    await page.getByRole('button', { name: 'The left one' }).click();
    await expect(page.getByText(new RegExp(`^${i} pairs?, \\d+ more at the most`))).toBeVisible();
  }
  await page.getByLabel('Who is judging').fill('the night watch');
  await page.getByRole('button', { name: 'Neither' }).click();
  await expect(page.getByText(/^1 pair, \d+ more at the most/)).toBeVisible();
  // What was begun blind stays so after a reload, until it is shown.
  await page.reload();
  await expect(page.getByText('These patches are being judged blind.', { exact: false })).toBeVisible();
  await page.getByRole('button', { name: 'Show which is which' }).click();
  await expect(page.getByRole('heading', { name: 'The order by pairs' })).toBeVisible();
  await expect(page.getByText('hidden')).toHaveCount(0);
  await sound(page);
});

test('what went wrong with a whole board is said, and one look answered changes what is likely', async ({
  page,
}) => {
  const plan = demoPlan('locker-doors.zip');
  await visit(page, '/w/demo');
  // With the last of the demo in nothing else makes the workshop be looked through: what is said has to do so.
  await expect(page.getByText(demoPlan('hull-lines.zip').name)).toBeVisible({ timeout: 60_000 });
  await visit(page, `/w/demo/t/${plan.id}/explain`);
  await expect(page.getByText(/^All on Board 2 went wrong together: \d\d points less/)).toBeVisible();
  await sound(page);
  const code = plan.patches.find(p => p.board === 1)!.code;
  await page.locator(`.patch[data-code="${code}"]`).click();
  await expect(page.getByText('Look at this next')).toBeVisible();
  await page.setViewportSize({ width: 390, height: 844 });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  // What stands on the patches can be read there, and stays on its patch.
  const written = () =>
    page.evaluate(of => {
      const patch = document.querySelector(`.patch[data-code="${of}"]`)!;
      const rim = patch.querySelector('rect:nth-of-type(2)')!.getBoundingClientRect();
      const all = [...patch.querySelectorAll('text')].map(text => {
        const at = text.getBoundingClientRect();
        const px = Number.parseFloat(getComputedStyle(text).fontSize) * text.getScreenCTM()!.a;
        return { isLegible: px > 9, isIn: at.right <= rim.right && at.bottom <= rim.bottom };
      });
      return { areMany: all.length > 2, areFine: all.every(t => t.isLegible && t.isIn) };
    }, code);
  await expect.poll(written).toEqual({ areMany: true, areFine: true });
  await page.setViewportSize({ width: 1280, height: 800 });
  const first = page.getByText(/^1\. /);
  await expect(first).toBeVisible();
  // What is asked may be about another than the likeliest: the causes are compared with how likely each is.
  const shown = async () => {
    const named = await page.getByText(/^[1-5]\. /).allTextContents();
    const likely = await page.getByText(/^\d+ % likely to be at work$/).allTextContents();
    return [...named, ...likely].join(' ');
  };
  const before = await shown();
  await page.getByRole('button', { name: 'It does not fit' }).click();
  await expect(page.getByText('One look was answered.')).toBeVisible();
  await expect.poll(shown).not.toBe(before);
  if (await page.getByRole('button', { name: 'Can’t tell' }).isVisible()) {
    await page.getByRole('button', { name: 'Can’t tell' }).click();
    await expect(page.getByText('2 looks were answered.')).toBeVisible();
    await page.getByRole('button', { name: 'Take the last answer back' }).click();
  }
  await expect(page.getByText('One look was answered.')).toBeVisible();
  await sound(page);
  await page.getByRole('button', { name: 'Take the last answer back' }).click();
  await expect.poll(shown).toBe(before);
  // What it really was stays in the workshop, shifts what is likely, and can be taken back.
  await page.getByRole('button', { name: 'It was this' }).first().click();
  await expect(page.getByText('You said what it was:')).toBeVisible();
  await expect(page.getByText(/It turned out to be this once in this workshop/)).toBeVisible();
  await page.getByRole('button', { name: 'Take that back' }).click();
  await expect(page.getByText('You said what it was:')).toBeHidden();
  await sound(page);
  await page.getByRole('button', { name: 'Make the trial that tells' }).first().click();
  await expect(page).toHaveURL(/\/plan$/);
  await expect(page.getByText(/^Was it this: /).first()).toBeVisible();
  await expect(page.locator('.patch')).toHaveCount(4);
});

test('an eye is trained: what is seen, what it was, the tell-tale, and the count outlives a reload', async ({
  page,
}) => {
  await visit(page, '/w/mine/train');
  for (const _ of [1, 2]) {
    const seen = page.getByRole('group', { name: 'What do you see?' });
    await expect(seen).toBeVisible({ timeout: 60_000 });
    await expect(page.getByRole('img', { name: 'A failed piece' })).toBeVisible();
    await expect(seen.getByRole('button')).toHaveCount(4);
    await seen.getByRole('button').first().click();
    const cause = page.getByRole('group', { name: 'What was the cause?' });
    await expect(cause.getByRole('button')).toHaveCount(4);
    await cause.getByRole('button').first().click();
    await expect(page.getByText('The tell-tale:')).toBeVisible();
    await expect(page.getByRole('heading', { name: /^(Yes|It was): / })).toBeVisible();
    await expect(page.getByRole('img', { name: /what did not land hatched/ })).toBeVisible();
    await sound(page);
    await page.getByRole('button', { name: 'Next piece' }).click();
  }
  await expect(page.getByText(/So far 2 pieces; named rightly: /)).toBeVisible();
  await page.reload();
  await expect(page.getByText(/So far 2 pieces; named rightly: /)).toBeVisible();
  await page.setViewportSize({ width: 390, height: 844 });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});
