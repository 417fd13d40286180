import { expect, test } from '@playwright/test';
import { planNow } from '../../src/core/trial/index.ts';
import { begin, bring, planOf, press, showing, stored } from './at-bench.ts';
import { planIn } from './photos.ts';
import { download, sound, visit } from './views.ts';

const PLAN = planOf('wet-rub', {
  name: 'Hook plates',
  factors: [{ key: 'medium', levels: ['matte-acrylic', 'soft-gel'] }],
  repeats: 2,
});

test('a plan changed three times on the way: another level, one patch left out, moved and renamed; each can be taken back', async ({
  page,
}) => {
  await bring(page, PLAN);
  await begin(page);
  const [first] = [...PLAN.patches].sort((a, b) => a.order - b.order);
  while ((await showing(page)).startsWith('Mark')) await press(page);
  expect(await showing(page)).toBe(`Coat it ${first.code}`);
  await press(page);
  await press(page);

  // 1. Another level, as a batch on a board of its own, with what tells the board from the level.
  await visit(page, `/w/mine/t/${PLAN.id}/plan`);
  const panel = page.getByRole('region', { name: 'Change this trial' });
  await expect(panel.getByRole('link', { name: 'Edit the plan' })).toBeHidden();
  await panel.getByLabel('Why you change it').fill('The soft gel stays milky.');
  await panel.getByLabel('Which').selectOption({ label: 'White PVA glue' });
  await panel.getByRole('button', { name: 'Add it' }).click();
  await expect(page.getByText('3 more patches', { exact: false }).first()).toBeVisible();
  await expect(panel.getByText('3 more patches: The soft gel stays milky.')).toBeVisible();
  await expect(page.getByText('Board 2', { exact: false }).first()).toBeVisible();
  await expect(page.getByText(/^7 patches/).first()).toBeVisible();
  await sound(page);

  // 2. What has been begun stays; what has not can be left out, or moved.
  const begun = page.locator(`.patch[data-code="${first.code}"]`);
  await begun.click();
  await expect(panel.getByRole('button', { name: `Leave ${first.code} out` })).toBeHidden();
  const added = (await stored(page, PLAN.id)).find(r => r.kind === 'change')!;
  const fresh = planNow(PLAN, [added]).patches.filter(p => p.batch);
  await page.locator(`.patch[data-code="${fresh[0].code}"]`).click();
  await panel.getByRole('button', { name: `Leave ${fresh[0].code} out` }).click();
  await expect(page.locator(`.patch[data-code="${fresh[0].code}"]`)).toHaveCount(0);
  // By keyboard: picked up, over to its neighbour, put down.
  const other = page.locator(`.patch[data-code="${fresh[1].code}"]`);
  await other.focus();
  await other.press('m');
  await other.press('ArrowRight');
  await page.keyboard.press('Enter');
  await expect
    .poll(async () => (await stored(page, PLAN.id)).flatMap(r => (r.kind === 'change' ? r.change.what : [])))
    .toEqual(['batch', 'drop', 'place']);

  // 3. Another name, filed under something.
  await panel.getByLabel('Name', { exact: true }).fill('Hook plates, third medium');
  await panel.getByLabel(/^Filed under/).fill('slate, winter');
  await panel.getByRole('button', { name: 'Keep these words' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Hook plates, third medium');
  await expect(panel.getByText('filed under slate, winter')).toBeVisible();
  await visit(page, '/w/mine');
  await expect(page.getByText('Filed under slate, winter')).toBeVisible();

  // The bench goes on with what there is now: the new ones are marked, the dropped one never comes.
  await visit(page, `/w/mine/t/${PLAN.id}/print`);
  // What was added comes on a sheet of its own, since the rest is printed and begun; all of it where one asks for it.
  const which = page.getByLabel('Which patches');
  await expect(which).toHaveValue('1');
  await expect(page.getByText(/, 2 prints/)).toBeVisible();
  await which.selectOption('all');
  await expect(page.getByText(/, 6 prints/)).toBeVisible();
  await visit(page, `/w/mine/t/${PLAN.id}/make`);
  await page.locator(`.patch[data-code="${fresh.find((p, i) => i > 0 && p.levels[0] === 2)!.code}"]`).click();
  await expect(page.getByRole('main').last()).toContainText('White PVA glue');

  // Taken back, the last first; the batch too, since nothing of it is made.
  await visit(page, `/w/mine/t/${PLAN.id}/plan`);
  for (const words of ['left out', 'more patches']) {
    const row = panel.getByText(words, { exact: false }).last().locator('..');
    await row.getByRole('button', { name: 'Take it back' }).click();
    await expect(row).toBeHidden();
  }
  await expect(page.getByText(/^4 patches/).first()).toBeVisible();
  await visit(page, `/w/mine/t/${PLAN.id}/keep`);
  const file = await download(page, 'Export the trial (ZIP)');
  // In the file the plan is as it was made; its changes are beside it.
  expect(planIn(new Uint8Array(file)).patches).toEqual(PLAN.patches);

  // Put away: not among the trials one works at, and not gone.
  await visit(page, `/w/mine/t/${PLAN.id}/plan`);
  await panel.getByRole('button', { name: 'Put it away' }).click();
  await expect(panel.getByRole('button', { name: 'Take it up again' })).toBeVisible();
  await visit(page, '/w/mine');
  await page.getByText('Put away (1)').click();
  await expect(page.getByRole('link', { name: /Hook plates, third medium/ })).toBeVisible();
  await sound(page);
});

test('before anything is made the whole plan can be edited; afterwards it is planned once more instead', async ({
  page,
}) => {
  await bring(page, PLAN);
  await visit(page, `/w/mine/t/${PLAN.id}/plan`);
  await page.getByRole('link', { name: 'Edit the plan' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Edit “Hook plates”');
  await page.getByRole('button', { name: 'Add a level to Medium' }).click();
  await expect(page.getByText(/^6 patches/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Save the plan and print' }).first().click();
  await expect(page.getByText(`trial ${PLAN.code}`)).toBeVisible();
  await visit(page, `/w/mine/t/${PLAN.id}/plan`);
  await expect(page.getByText(/^6 patches/).first()).toBeVisible();
  // Codes are those that may be on the backs already.
  await expect(page.locator(`.patch[data-code="${PLAN.patches[0].code}"]`)).toBeVisible();
  await page.getByRole('link', { name: 'Plan it once more' }).click();
  await expect(page.getByLabel('Name of the trial')).toHaveValue('Hook plates, again');
  await page.getByRole('button', { name: 'Save the plan and print' }).first().click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Hook plates, again');
  await expect(page.getByText(`trial ${PLAN.code}`)).toBeHidden();
  await visit(page, '/w/mine');
  await expect(page.getByRole('link', { name: /^Hook plates/ })).toHaveCount(2);
  // Begun meanwhile: the address of the editor says so and leads on.
  await visit(page, `/w/mine/t/${PLAN.id}/make`);
  await begin(page);
  await press(page);
  await visit(page, `/w/mine/new/plan?from=edit:${PLAN.id}`);
  await expect(page.getByRole('heading', { name: 'Work on this trial has begun' })).toBeVisible();
  await page.getByRole('link', { name: 'Change this trial' }).click();
  await expect(page.getByRole('region', { name: 'Change this trial' })).toBeVisible();
});

test('back after days: what is lost is said, given up and made again in one press, and what can be saved is named', async ({
  page,
}) => {
  await page.clock.install({ time: new Date('2026-05-02T09:00:00') });
  const [one, two, ...rest] = [...PLAN.patches].sort((a, b) => a.order - b.order).map(p => p.code);
  const at = (minutes: number) =>
    new Date(Date.parse('2026-05-02T09:00:00') + minutes * 60_000).toISOString();
  const done = (patch: string, step: string, minutes: number) =>
    ({ id: `${patch}${step}`, at: at(minutes), kind: 'step', patch, step, round: 1 }) as const;
  await bring(page, PLAN, [
    ...[one, two, ...rest].map((code, i) => done(code, 'mark', i)),
    // The coat of the first waits for its print; the second lies and dries.
    done(one, 'coat', 10),
    ...[done(two, 'coat', 11), done(two, 'place', 12)],
  ]);
  await page.clock.fastForward(15 * 3_600_000);
  const away = page.getByRole('region', { name: 'While you were away' });
  await expect(away).toContainText('Nothing was done for 15 h');
  await expect(away).toContainText(`${one}`);
  await expect(away).toContainText(/place the print, 15 h too late/);
  await expect(away).toContainText(`${two}: wet the paper, until`);
  await sound(page);
  await away.getByRole('button', { name: 'Give 1 up and make it again' }).click();
  await expect(away).toBeHidden();
  await expect(page.getByText('A new patch takes its place.', { exact: false })).toBeVisible();
  const records = await stored(page, PLAN.id);
  expect(records.filter(r => r.kind === 'spoilt').map(r => r.patch)).toEqual([one]);
  const now = planNow(PLAN, records);
  const levels = PLAN.patches.find(p => p.code === one)!.levels;
  expect(now.patches.filter(p => p.batch).map(p => p.levels)).toEqual([levels]);
});

test('two trials of one question go on as one, one part of it is split off, and one patch comes first', async ({
  page,
}) => {
  const again = planOf('wet-rub', {
    name: 'Hook plates, again',
    factors: [{ key: 'medium', levels: ['matte-acrylic', 'white-pva'] }],
    repeats: 2,
    seed: 5,
  });
  await bring(page, PLAN);
  await bring(page, again);
  await begin(page);
  const [first] = [...again.patches].sort((a, b) => a.order - b.order);
  expect(await showing(page)).toBe(`Mark it ${first.code}`);
  await press(page);
  await visit(page, `/w/mine/t/${again.id}/plan`);
  const panel = page.getByRole('region', { name: 'Change this trial' });
  await panel.getByLabel('Put together with').selectOption({ label: `${PLAN.code} · Hook plates` });
  await panel.getByRole('button', { name: 'Make one trial of both' }).click();
  await expect(page.getByText(/go on as trial .., with 8 patches/)).toBeVisible();
  await expect(page.locator('.patch')).toHaveCount(8);
  for (const { code } of [...PLAN.patches, ...again.patches])
    await expect(page.locator(`.patch[data-code="${code}"]`)).toHaveCount(1);
  await sound(page);
  const both = page.url().match(/\/t\/([^/]+)\//)![1];
  // What happened to either goes with it; the two are put away.
  expect((await stored(page, both)).filter(r => r.kind === 'step').map(r => r.patch)).toEqual([first.code]);
  for (const { id } of [PLAN, again])
    expect((await stored(page, id)).some(r => r.kind === 'change' && r.change.what === 'archive')).toBe(true);

  // One patch first.
  const last = page.locator(`.patch[data-code="${again.patches.find(p => p !== first)!.code}"]`);
  const code = (await last.getAttribute('data-code'))!;
  await last.click();
  await panel.getByRole('button', { name: `Make ${code} first` }).click();
  await expect(page.getByText(`${code} comes first of what is left.`, { exact: false })).toBeVisible();

  // And a part of it as a trial of its own; here the way back stays open.
  await panel.getByLabel('Why you change it').fill('The glue is another question.');
  await panel.getByLabel('Split off').selectOption({ label: 'White PVA glue' });
  await panel.getByRole('button', { name: 'Make them a trial of their own (2 patches)' }).click();
  await expect(page.getByText(/2 patches are trial .. now/)).toBeVisible();
  await expect(page.locator('.patch')).toHaveCount(2);
  await visit(page, `/w/mine/t/${both}/plan`);
  await expect(page.locator('.patch')).toHaveCount(6);
  const row = panel.getByText('The glue is another question.', { exact: false }).locator('..');
  await row.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.locator('.patch')).toHaveCount(8);
});
