import { expect, test } from '@playwright/test';
import { begin, bring, planOf, press, showing, stored } from './at-bench.ts';
import { sound } from './views.ts';

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
  await page.goto(`/w/mine/t/${RUB.id}/bench`);
  await expect(page.getByText('Tide tins')).toBeVisible();
  await sound(page);
  const go = page.getByRole('button', { name: 'Go to its bench' });
  await expect(go).toBeVisible();
  expect((await stored(page, RUB.id)).filter(r => r.kind === 'step')).toHaveLength(RUB.patches.length + 2);
  await page.locator('body').press(' ');
  await expect(page).toHaveURL(new RegExp(`${FILM.id}/bench`));
  await expect.poll(() => showing(page)).toBe(wet);
  await page.goto('/w/mine');
  await expect(page.getByRole('main')).toContainText('Tide tins');
});
