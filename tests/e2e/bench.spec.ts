import { expect, type Page, test } from '@playwright/test';
import type { TrialRecord } from '../../src/core/trial/index.ts';
import { begin, bring, planOf, press, showing, stored } from './at-bench.ts';
import { download, sound, visit } from './views.ts';

const FILM = planOf('film-pull', {
  name: 'Tide tins: how long before the pull',
  factors: [{ key: 'dryHours', levels: [30 / 3600, 45 / 3600, 60 / 3600] }],
  repeats: 4,
  design: 'ladder',
  board: { w: 330, h: 260, outline: 'rectangle', onePiece: false },
});
const RUB = planOf('wet-rub', {
  name: 'Berth plates: two mediums',
  factors: [{ key: 'medium', levels: ['matte-acrylic', 'white-pva'] }],
  repeats: 2,
});
const steps = (records: readonly TrialRecord[], patch: string, step: string) =>
  records.flatMap(r => (r.kind === 'step' && r.patch === patch && r.step === step ? [Date.parse(r.at)] : []));

/** Lets time pass until the best moment that the clock on the bench counts down to: tick by tick, or in one jump. */
async function toBestMoment(page: Page, pass: 'runFor' | 'fastForward') {
  const label = await page
    .getByRole('timer')
    .getAttribute('aria-label', { timeout: 10_000 })
    .catch(() => null);
  const left = label?.match(/^(?:(\d+):)?(\d+):(\d+) (?:left )?to /);
  if (!left) return;
  const ms = (Number(left[1] ?? 0) * 3600 + Number(left[2]) * 60 + Number(left[3])) * 1000;
  if (ms > 0 && ms < 4 * 3_600_000) await page.clock[pass](ms);
}

test('twelve prints are pulled in time with one pair of hands, one late, one spoilt and one undone', async ({
  page,
}) => {
  test.setTimeout(300_000);
  await page.clock.install({ time: new Date('2026-05-02T18:00:00') });
  expect(FILM.patches).toHaveLength(12);
  await bring(page, FILM);
  await begin(page);
  let pulled = 0;
  let late: string | undefined;
  let spoilt: string | undefined;
  let undone: string | undefined;
  for (let guard = 0; guard < 160 && pulled < 11; guard++) {
    const [, what, patch] = (await showing(page)).match(/^(.*) (\S+)$/)!;
    if (what === 'Wait') {
      await page.clock.fastForward(20_000);
      continue;
    }
    if (/pull/i.test(what)) {
      await toBestMoment(page, pulled < 3 ? 'runFor' : 'fastForward');
      pulled++;
      if (pulled === 3) {
        // Pulled in time, told eleven seconds later.
        late = patch;
        await page.clock.runFor(11_000);
        await page.locator('body').press('l');
        await page.getByRole('button', { name: '10 s ago' }).click();
      } else if (pulled === 5) {
        spoilt = patch;
        await page.locator('body').press('x');
        await page.getByRole('button', { name: 'It tore' }).click();
      } else {
        await press(page);
        if (pulled === 7) {
          undone = patch;
          await press(page, 'u');
          await expect(page.locator('h1 + p')).toHaveText(patch);
          await press(page);
        }
      }
      await expect.poll(() => showing(page)).not.toBe(`${what} ${patch}`);
    } else {
      await press(page);
      await page.clock.fastForward(what === 'Coat it' ? 20_000 : what === 'Mark it' ? 4000 : 12_000);
    }
  }
  const records = await stored(page, FILM.id);
  const waits = FILM.patches.flatMap(p => {
    const [from, to] = [steps(records, p.code, 'place')[0], steps(records, p.code, 'pull').at(-1)];
    return from && to && p.code !== undone ? [{ p, seconds: (to - from) / 1000 }] : [];
  });
  expect(waits.length).toBeGreaterThanOrEqual(9);
  for (const { p, seconds } of waits) {
    const aim = Number(FILM.factors[0].levels[p.levels[0]]) * 3600;
    // Every pull within its window, 0.7 to 1.4 times its aim.
    expect(seconds).toBeGreaterThan(aim * 0.7 - 1);
    expect(seconds).toBeLessThan(aim * 1.4 + 1);
  }
  const told = records.find(r => r.kind === 'step' && r.patch === late && r.step === 'pull')!;
  expect(told.kind === 'step' && Date.parse(told.told!) - Date.parse(told.at)).toBe(10_000);
  expect(records.some(r => r.kind === 'spoilt' && r.patch === spoilt && r.why === 'It tore')).toBe(true);
  expect(steps(records, undone!, 'pull')).toHaveLength(2);
  expect(records.filter(r => r.kind === 'undo')).toHaveLength(1);
});

test('what dries is asked after, and the answer opens the window or gives it longer', async ({ page }) => {
  await page.clock.install({ time: new Date('2026-05-02T09:00:00') });
  await bring(page, RUB);
  await begin(page);
  for (let i = 0; i < RUB.patches.length * 3; i++) {
    await press(page);
    await page.clock.fastForward(20_000);
  }
  await page.clock.fastForward(5 * 3_600_000);
  await page.goto('/w/mine');
  const ahead = page.getByRole('region', { name: 'Work ahead' });
  await expect(ahead).toContainText(/wet the paper/);
  const [calendar] = await Promise.all([
    page.waitForEvent('download'),
    ahead.getByRole('button', { name: 'Save as calendar (ICS)' }).click(),
  ]);
  expect(calendar.suggestedFilename()).toBe('wet-test-bench.ics');
  const first = page.getByRole('group', { name: /ready in/ }).first();
  await expect(first).toContainText('likely dry');
  const before = await first.locator('p').first().textContent();
  await first.getByRole('button', { name: 'Not yet' }).click();
  await expect(page.getByText('it gets a quarter longer')).toBeVisible();
  await expect(page.getByText(/Not ready at/).first()).toBeVisible();
  await page.clock.fastForward(2 * 3_600_000);
  await page.getByRole('button', { name: 'It is ready' }).first().click();
  await expect(page.getByText('it is ready, go on with it')).toBeVisible();
  await sound(page);
  await visit(page, `/w/mine/t/${RUB.id}/make`);
  await expect(page.getByText(/^Next: Wet the paper/)).toBeVisible();
  expect(before).toBeTruthy();
  // Two bars at least had an answer; the estimate says whose it is.
  await expect(page.getByText(/from \d of yours/).first()).toBeVisible();
});

test('the plan of the work follows how one works, says what does not fit, and goes into a calendar that moves the same events', async ({
  page,
}) => {
  await page.clock.install({ time: new Date('2026-05-04T09:00:00') });
  await bring(page, RUB);
  const work = page.getByRole('region', { name: 'Plan of the work' });
  await expect(work).toContainText(/Done .* with .* of work/);
  const first = (await download(page, 'Save as calendar (ICS)')).toString();
  expect(first).toContain('BEGIN:VALARM');
  const done = await work.getByText(/^Done/).textContent();
  await page.clock.fastForward(2 * 3_600_000);
  await expect(work.getByText(/^Done/)).not.toHaveText(done!);
  const moved = (await download(page, 'Save as calendar (ICS)')).toString();
  const uids = (text: string) => text.match(/^UID:.*$/gm)!;
  expect(uids(moved)).toEqual(uids(first));
  expect(moved.match(/^DTSTART:.*$/m)).not.toEqual(first.match(/^DTSTART:.*$/m));

  // A cold damp night is planned with; what is no air of a room says so, and is taken back with one press.
  const warm = await work.getByText(/^Done/).textContent();
  const air = page.getByRole('region', { name: 'The air to come' });
  await air.getByRole('button', { name: 'Expect other air' }).click();
  await air.getByLabel('Room, °C').fill('80');
  await expect(air.getByRole('alert')).toContainText('From −10 to 50. It stays 21.');
  await expect(air.getByRole('button', { name: 'Plan with it' })).toBeDisabled();
  await air.getByLabel('Room, °C').fill('8');
  await air.getByLabel('Humidity, %').fill('85');
  await air.getByRole('button', { name: 'Plan with it' }).click();
  await expect(air).toContainText('Every day, 22:00 to 07:00');
  await expect(air).toContainText(/Drying takes about \d\.\d times as long then/);
  await expect(work.getByText(/^Done/)).not.toHaveText(warm!);
  await air.getByRole('button', { name: /No longer expect/ }).click();
  await expect(air).toContainText('as if the air stayed');
  await expect(work.getByText(/^Done/)).toHaveText(warm!);

  await page.getByLabel('You are there').selectOption('evenings');
  await expect(work.getByText(/18:30/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Look for a better plan' }).click();
  await expect(page.getByRole('button', { name: 'Look for a better plan' })).toBeVisible({ timeout: 30_000 });
  await sound(page);

  // A sitting too short for anything: which wait, and what would help.
  await page.getByLabel('You are there').selectOption('own-new');
  await page.getByLabel('from', { exact: true }).fill('17:00');
  await page.getByLabel('to', { exact: true }).fill('17:01');
  await expect(page.getByRole('alert')).toContainText('Not everything fits into the time there is.');
  await expect(page.getByRole('alert')).toContainText('be there at other times');
  await sound(page);
  await page.setViewportSize({ width: 390, height: 844 });
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});

test('of two tabs at one bench one acts and the other follows, until it is told to work itself', async ({
  context,
  page,
}) => {
  await bring(page, RUB);
  await begin(page);
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(other.getByText('Another tab works at this bench')).toBeVisible();
  await expect(other.getByRole('button', { name: /^Marked/ })).toBeDisabled();
  await press(page);
  const now = await showing(page);
  await expect.poll(() => showing(other)).toBe(now);
  await other.getByRole('button', { name: 'Work here instead' }).click();
  await expect(page.getByText('Another tab works at this bench')).toBeVisible();
  await press(other);
  await expect.poll(async () => showing(page)).toBe(await showing(other));
  expect((await stored(page, RUB.id)).filter(r => r.kind === 'step')).toHaveLength(2);
  await other.close();
});

test('at one bench another trial that needs hands says so, and is one press away', async ({ page }) => {
  await page.clock.install({ time: new Date('2026-05-03T09:00:00') });
  const patch = RUB.patches[0].code;
  const records = ['mark', 'coat', 'place'].map(
    (step, i): TrialRecord => ({
      id: `r${i}`,
      at: new Date(2026, 4, 2, 18, i).toISOString(),
      kind: 'step',
      patch,
      step,
      round: 1,
    }),
  );
  await bring(page, RUB, records);
  await bring(page, FILM);
  await begin(page);
  const due = page.getByText(`“${RUB.name}” needs hands too: wet the paper, ${patch}`, { exact: false });
  await expect(due).toBeVisible();
  await sound(page);
  await page.getByRole('link', { name: 'Go there' }).click();
  await page.getByRole('button', { name: 'Window open, gloves on' }).click();
  await expect(page.locator('h1 + p')).toHaveText(patch);
});

test('a long wait that ends is told from any page where that was allowed, once, and opens its trial', async ({
  page,
}) => {
  const start = Date.now();
  await page.clock.install({ time: start });
  await page.addInitScript(() => {
    localStorage.setItem('wet-test-settings', JSON.stringify({ notify: true }));
    const told: string[] = [];
    class Told {
      static permission = 'granted';
      constructor(_title: string, options: { body: string; data: { path: string } }) {
        told.push(`${options.body} → ${options.data.path}`);
      }
    }
    Object.assign(window, { Notification: Told, told });
    // Nobody is looking.
    Object.defineProperty(document, 'visibilityState', { get: () => 'hidden' });
  });
  const plan = planOf('wet-rub', {
    name: 'Told from elsewhere',
    usual: { ...RUB.usual, dryHours: 3 },
    factors: [{ key: 'medium', levels: ['matte-acrylic', 'soft-gel'] }],
    repeats: 1,
  });
  const ago = (minutes: number) => new Date(start - minutes * 60_000).toISOString();
  await bring(
    page,
    plan,
    plan.patches.flatMap((p, i) =>
      (['mark', 'coat', 'place'] as const).map((step, k) => ({
        id: `n${i}${k}`,
        at: ago(30 - k - 3 * i),
        kind: 'step' as const,
        patch: p.code,
        step,
        round: 1,
      })),
    ),
  );
  await visit(page, '/w/mine/shelf');
  await expect(page.getByRole('heading', { name: /Shelf/ }).first()).toBeVisible();
  const told = () => page.evaluate(() => (window as unknown as { told: string[] }).told);
  await page.clock.runFor(60_000);
  expect(await told()).toEqual([]);
  await page.clock.fastForward(3 * 3_600_000);
  await page.clock.runFor(60_000);
  await expect
    .poll(told)
    .toEqual([expect.stringMatching(/^It is time. Wet the paper: .*\(Told from elsewhere\) → /)]);
  expect((await told())[0]).toContain(`/w/mine/t/${plan.id}`);
  await page.clock.runFor(120_000);
  expect(await told()).toHaveLength(1);
});
