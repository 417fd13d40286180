import { expect, test } from '@playwright/test';
import { progressOf } from '../../src/core/progress/index.ts';
import { begin, bring, planOf, press, showing, stored } from './at-bench.ts';
import { sound, visit } from './views.ts';

const FILM = planOf('film-pull', {
  name: 'Tide tins',
  factors: [{ key: 'dryHours', levels: [45 / 3600, 60 / 3600] }],
  repeats: 3,
  board: { w: 330, h: 260, outline: 'rectangle', onePiece: false },
});
const RUB = planOf('wet-rub', {
  name: 'Berth plates',
  factors: [{ key: 'medium', levels: ['matte-acrylic', 'soft-gel'] }],
  repeats: 2,
});
const [one, two] = [...RUB.patches].sort((a, b) => a.order - b.order);
const at = (minutes: number) => new Date(Date.parse('2026-05-02T09:00:00') + minutes * 60_000).toISOString();
/** Everything marked; the first coated and placed long enough ago that its paper is to be wetted within the next minutes. */
const drying = [
  ...RUB.patches.map(
    (p, i) => ({ id: `m${i}`, at: at(0), kind: 'step', patch: p.code, step: 'mark', round: 1 }) as const,
  ),
  { id: 'air1', at: at(0), kind: 'air', patch: null, air: RUB.air } as const,
  { id: 'c1', at: at(1), kind: 'step', patch: one.code, step: 'coat', round: 1 } as const,
  { id: 'p1', at: at(2), kind: 'step', patch: one.code, step: 'place', round: 1 } as const,
];

test('what the hands are at stays on the screen while something else comes due, through a reload, until it is done or put aside', async ({
  page,
}) => {
  await page.clock.install({ time: new Date('2026-05-02T09:05:00') });
  await bring(page, RUB, drying);
  await page
    .getByRole('link', { name: /the bench$/ })
    .first()
    .click();
  await expect.poll(() => showing(page)).toBe(`Coat it ${two.code}`);
  await expect(page.getByRole('button', { name: new RegExp(`${two.code}$`) }).last()).toBeVisible();
  // Hours go by with the brush in hand for some of them; the other is due meanwhile.
  await page.waitForTimeout(600);
  await page.clock.fastForward(20 * 60_000);
  expect(await showing(page)).toBe(`Coat it ${two.code}`);
  await page.reload();
  await expect.poll(() => showing(page)).toBe(`Coat it ${two.code}`);
  await press(page);
  const records = await stored(page, RUB.id);
  const coat = records.find(r => r.kind === 'step' && r.step === 'coat' && r.patch === two.code)!;
  // Twenty minutes of brushing were kept, not the moment after the reload.
  expect(coat.kind === 'step' && Date.parse(coat.at) - Date.parse(coat.begun!)).toBeGreaterThan(19 * 60_000);
  expect(await showing(page)).toBe(`Place the print ${two.code}`);
  await press(page);
  // A place on the board that is tapped comes next; one that dries says until when, and nothing changes.
  const board = page.getByRole('group', { name: 'Where on the board' }).or(page.locator('svg:visible'));
  const tap = (code: string) => board.locator(`[data-code="${code}"]:visible`).first().click();
  const last = [...RUB.patches].sort((a, b) => b.order - a.order)[0];
  await tap(last.code);
  await expect.poll(() => showing(page)).toBe(`Coat it ${last.code}`);
  await tap(two.code);
  await expect(page.getByText(new RegExp(`${two.code} has to wait until`))).toBeVisible();
  expect(await showing(page)).toBe(`Coat it ${last.code}`);
  // Not now: another is offered, and what was put aside can be chosen again from the list.
  const third = await showing(page);
  await page.getByRole('button', { name: 'Not now' }).click();
  await expect.poll(() => showing(page)).not.toBe(third);
  await sound(page);
});

test('two trials have one bench: the one that is due takes the other’s place, and leads there', async ({
  page,
}) => {
  await page.clock.install({ time: new Date('2026-05-02T09:05:00') });
  await bring(page, RUB, drying);
  // The coat of this one skins over within minutes.
  await bring(page, FILM);
  await begin(page);
  for (let i = 0; i < 9 && (await showing(page)).startsWith('Mark'); i++) await press(page);
  const wet = await showing(page);
  expect(wet).toMatch(/^(Mask|Coat)/);
  // The moment it came up is kept a little later.
  await page.waitForTimeout(600);
  await visit(page, `/w/mine/t/${RUB.id}/bench`);
  await expect(page.getByText('Tide tins', { exact: true })).toBeVisible();
  await sound(page);
  const go = page.getByRole('button', { name: 'Go to its bench' });
  await expect(go).toBeVisible();
  expect((await stored(page, RUB.id)).filter(r => r.kind === 'step')).toHaveLength(RUB.patches.length + 2);
  // A press on what has only just come up goes nowhere; the next one does.
  await expect(async () => {
    await page.locator('body').press(' ');
    await expect(page).toHaveURL(new RegExp(`${FILM.id}/bench`), { timeout: 1000 });
  }).toPass({ timeout: 12_000 });
  await expect.poll(() => showing(page)).toBe(wet);
  await visit(page, '/w/mine');
  await expect(page.getByRole('main')).toContainText('Tide tins');
  // The plan of the work and its calendar know of both.
  await visit(page, `/w/mine/t/${RUB.id}/make`);
  await expect(page.getByRole('region', { name: 'Plan of the work' })).toContainText('beside “Tide tins”');
  await expect(page.getByRole('region', { name: 'Plan of the work' })).toContainText(
    'Tide tins and Berth plates: ',
  );
});

test('air noted at noon counts from noon on: what dries takes longer from then, and what was done stays as it was', async ({
  page,
}) => {
  await page.clock.install({ time: new Date('2026-05-02T12:00:00') });
  const all = RUB.patches.flatMap((p, i) => [
    { id: `k${i}`, at: at(i), kind: 'step', patch: p.code, step: 'coat', round: 1 } as const,
    { id: `l${i}`, at: at(i + 0.8), kind: 'step', patch: p.code, step: 'place', round: 1 } as const,
  ]);
  await bring(page, RUB, [...drying.slice(0, RUB.patches.length + 1), ...all]);
  await page
    .getByRole('link', { name: /the bench$/ })
    .first()
    .click();
  await expect.poll(() => showing(page)).toMatch(/^Wait/);
  const foot = page.getByRole('button', { name: /^Waiting until/ });
  const before = await foot.textContent();
  await page.getByRole('button', { name: 'Air', exact: true }).click();
  for (let i = 0; i < 6; i++) await page.getByRole('button', { name: 'Humidity higher' }).click();
  await page.getByRole('button', { name: 'Window open, gloves on' }).click();
  await expect(foot).toBeVisible();
  await expect.poll(() => foot.textContent()).not.toBe(before);
  const dues = await Promise.all([before, await foot.textContent()].map(words => minutesOf(words ?? '')));
  // Three hours of it dried in the air of before: later, but not by all that damp air would take.
  expect(dues[1]).toBeGreaterThan(dues[0] + 20);
  const airs = (await stored(page, RUB.id)).filter(r => r.kind === 'air');
  expect(airs.map(a => a.kind === 'air' && a.air.rh)).toEqual([RUB.air.rh, RUB.air.rh + 30]);
  // An elbow in the wait starts nothing.
  await page.locator('body').press(' ');
  await expect(page.getByRole('button', { name: /Really now|Not due until/ })).toBeVisible();
  await page.clock.fastForward(11_000);
  await expect(foot).toBeVisible();
  await sound(page);
});

test('a window that will be lost is said in time, and given up with one press, for the sake of the others', async ({
  page,
}) => {
  await page.clock.install({ time: new Date('2026-05-02T09:05:00') });
  const steps = progressOf(FILM, []).lines[0].chain.map(l => l.step);
  const pull = steps.findIndex(s => s.does === 'pull' || s.does === 'lift');
  const before = steps.slice(0, pull).map(s => s.id);
  // All were laid down within seconds of one another: their pulls come at the same time.
  const laid = FILM.patches.flatMap((p, i) =>
    before.map((step, k) => ({
      ...({ id: `f${i}${k}`, kind: 'step', patch: p.code, step, round: 1 } as const),
      at: at(4 + (k === before.length - 1 ? 0.5 + i * 0.02 : k * 0.1)),
    })),
  );
  await bring(page, FILM, [{ id: 'air2', at: at(0), kind: 'air', patch: null, air: FILM.air }, ...laid]);
  await page
    .getByRole('link', { name: /the bench$/ })
    .first()
    .click();
  const loss = page.getByRole('status').filter({ hasText: 'will probably miss its window' });
  await expect(loss).toBeVisible();
  await sound(page);
  const code = /(\w+-\w+) will/.exec((await loss.textContent()) ?? '')![1];
  await page.getByRole('button', { name: `Give ${code} up` }).click();
  await expect(page.getByRole('button', { name: `Give ${code} up` })).toBeHidden();
  const records = await stored(page, FILM.id);
  expect(records.filter(r => r.kind === 'spoilt').map(r => r.patch)).toEqual([code]);
  // Taken back with one key, as anything is.
  await page.locator('body').press('u');
  await expect.poll(async () => (await stored(page, FILM.id)).filter(r => r.kind === 'undo').length).toBe(1);
});

test('with voice and keys only: what comes is said, what was done is said, and every key does what it says', async ({
  page,
}) => {
  await page.clock.install({ time: new Date('2026-05-02T09:05:00') });
  await page.addInitScript(() => {
    const heard: string[] = [];
    Object.assign(window, { heard });
    Object.defineProperty(window, 'speechSynthesis', {
      value: { cancel: () => {}, speak: (u: SpeechSynthesisUtterance) => heard.push(u.text) },
    });
  });
  const heard = () => page.evaluate(() => (window as unknown as { heard: string[] }).heard);
  await bring(page, RUB, drying.slice(0, RUB.patches.length + 1));
  await page
    .getByRole('link', { name: /the bench$/ })
    .first()
    .press('Enter');
  await expect.poll(() => showing(page)).toBe(`Coat it ${one.code}`);
  await page.locator('body').press('v');
  const spelt = (code: string) => code.replace('-', '').split('').join(' ');
  await expect.poll(heard).toEqual([`Coat it, ${spelt(one.code)}`]);
  await page.clock.runFor(1000);
  await press(page);
  await expect
    .poll(heard)
    .toEqual([
      `Coat it, ${spelt(one.code)}`,
      `Coated, ${spelt(one.code)}`,
      `Place the print, ${spelt(one.code)}`,
    ]);
  await press(page, 'u');
  expect(await showing(page)).toBe(`Coat it ${one.code}`);
  await press(page, 'd');
  expect(await showing(page)).toBe(`Coat it ${two.code}`);
  // Written off with the keys: the question comes up, the way to its first answer is the Tab key.
  await page.locator('body').press('x');
  const why = page.getByRole('button', { name: 'It slipped' });
  await expect(why).toBeVisible();
  await why.focus();
  await why.press('Enter');
  await expect
    .poll(async () => (await stored(page, RUB.id)).filter(r => r.kind === 'spoilt').map(r => r.patch))
    .toEqual([two.code]);
  await expect.poll(async () => (await heard()).at(-1)).not.toBe(`Coat it, ${spelt(two.code)}`);
});

test.describe('as it comes', () => {
  // Nothing was said of when one works: by day.
  test.use({ storageState: { cookies: [], origins: [] } });

  test('new work that would be due at night is left, with the reason; a tap on the board begins it all the same', async ({
    page,
  }) => {
    const night = planOf('wet-rub', {
      name: 'Late berths',
      factors: [{ key: 'dryHours', levels: [5, 6] }],
      repeats: 2,
    });
    await page.clock.install({ time: new Date('2026-05-02T19:05:00') });
    const marked = night.patches.map(
      (p, i) => ({ id: `m${i}`, at: at(0), kind: 'step', patch: p.code, step: 'mark', round: 1 }) as const,
    );
    await bring(page, night, [
      ...marked,
      { id: 'air1', at: at(0), kind: 'air', patch: null, air: night.air },
    ]);
    await expect(page.getByText(/^Nothing to do until .*when you are not there/)).toBeVisible();
    await page
      .getByRole('link', { name: /the bench$/ })
      .first()
      .click();
    await expect.poll(() => showing(page)).toMatch(/^Wait/);
    await expect(page.getByText(/To begin all the same, choose a piece on the board/)).toBeVisible();
    await sound(page);
    const board = page.getByRole('group', { name: 'Where on the board' }).or(page.locator('svg:visible'));
    const last = [...night.patches].sort((a, b) => b.order - a.order)[0];
    await board.locator(`[data-code="${last.code}"]:visible`).first().click();
    await expect.poll(() => showing(page)).toBe(`Coat it ${last.code}`);
  });
});

/** Minutes since midnight of the clock time in words; of tomorrow a day later. */
function minutesOf(words: string): number {
  const found = /(\d+):(\d\d)/.exec(words);
  if (!found) throw new Error(`no time in “${words}”`);
  return Number(found[1]) * 60 + Number(found[2]) + (/tomorrow|Sun/i.test(words) ? 1440 : 0);
}
