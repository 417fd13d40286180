import { execSync } from 'node:child_process';
import { type Browser, chromium, type Page } from '@playwright/test';
import { buildIfStale } from '../scripts/build.mjs';
import { examplePlan } from '../src/core/design/example.ts';
import { makeServer } from '../src/server/index.ts';
import { fill, type Size } from '../tests/e2e/many-trials.ts';

const PORT = 4197;
const HOME = `http://127.0.0.1:${PORT}/w/mine`;
const SIZES = (process.env.TRIALS ?? '5,50,500').split(',').map(Number);
const RECORDS = 180;
const PHOTOS = 20;
/** Asked of the largest: opening view, opening a trial, a press written, ms; heap, MB. */
const ASKED = { opening: 1000, trial: 200, press: 30, heapMb: 150 };

const middle = (values: readonly number[]) => [...values].sort((a, b) => a - b)[values.length >> 1];

/** Milliseconds until something on the page is there, by the page's own clock from its start or from `since`. */
async function until(page: Page, there: string): Promise<number> {
  return page.evaluate(
    text =>
      new Promise<number>(resolve => {
        const look = () =>
          document.body.textContent?.includes(text)
            ? resolve(performance.now())
            : requestAnimationFrame(look);
        look();
      }),
    there,
  );
}

async function openingMs(page: Page, name: string): Promise<number> {
  await page.goto(HOME);
  return until(page, name);
}

/** From a tap on a trial in the list to its name, stages and board being there, and to the stage beside them, in an app in which another trial was opened before. */
async function trialsMs(
  page: Page,
  plans: readonly { id: string; name: string }[],
): Promise<{ shown: number; whole: number }[]> {
  await page.goto(HOME);
  const times: { shown: number; whole: number }[] = [];
  for (const plan of plans) {
    await until(page, plan.name);
    await page.waitForTimeout(1500);
    const ms = await page.evaluate(
      ({ id, name }) =>
        new Promise<{ shown: number; whole: number }>(resolve => {
          const start = performance.now();
          document.querySelector<HTMLElement>(`a[href*="${id}"]`)?.click();
          let shown = 0;
          const look = () => {
            const isThere =
              document.querySelector('h1')?.textContent === name &&
              document.querySelector('nav[aria-label=Stages]');
            if (isThere) shown ||= performance.now() - start;
            if (isThere && document.querySelector('main')?.childElementCount)
              resolve({ shown, whole: performance.now() - start });
            else requestAnimationFrame(look);
          };
          look();
        }),
      plan,
    );
    times.push(ms);
    await page.getByRole('link', { name: 'Wet Test' }).click();
  }
  return times;
}

/** From keys pressed at the bench to the end of the write of their records. */
async function pressesMs(page: Page, id: string): Promise<number[]> {
  await page.goto(`${HOME}/t/${id}/bench`);
  const start = page.getByRole('button', { name: 'Window open, gloves on' });
  if (await start.isVisible().catch(() => false)) await start.click();
  await page.waitForTimeout(3000);
  await page.evaluate(() => {
    const times: number[] = [];
    let pressed = 0;
    (window as unknown as { times: number[] }).times = times;
    window.addEventListener('keydown', () => (pressed = performance.now()), true);
    const { put } = IDBObjectStore.prototype;
    IDBObjectStore.prototype.put = function (value, key) {
      const request = put.call(this, value, key);
      if (this.name === 'log')
        this.transaction.addEventListener('complete', () => times.push(performance.now() - pressed));
      return request;
    };
  });
  for (let i = 0; i < 9; i++) {
    await page.locator('body').press(' ');
    await page.waitForTimeout(900);
  }
  return page.evaluate(() => (window as unknown as { times: number[] }).times);
}

async function heapMb(page: Page): Promise<number> {
  const session = await page.context().newCDPSession(page);
  await session.send('HeapProfiler.collectGarbage');
  await session.send('Performance.enable');
  const { metrics } = await session.send('Performance.getMetrics');
  return metrics.find(m => m.name === 'JSHeapUsedSize')!.value / 1e6;
}

async function measure(browser: Browser, trials: number) {
  const context = await browser.newContext({ locale: 'en-GB', serviceWorkers: 'block' });
  const page = await context.newPage();
  // What the runner of TypeScript wraps functions in; a page does not know it.
  await page.addInitScript('globalThis.__name = f => f');
  await page.goto(HOME);
  await page.getByText('Plan your first trial', { exact: false }).first().waitFor();
  const size: Size = { trials, underWay: Math.min(5, trials - 1), recordsEach: RECORDS, photosEach: PHOTOS };
  const plan = examplePlan();
  const plans = await fill(page, plan, size, Date.now());
  const last = plans.at(-1)!;
  const first = await openingMs(page, last.name);
  // The browser puts what was just written in order behind the scenes.
  await page.waitForTimeout(15_000);
  const opening = middle([
    await openingMs(page, last.name),
    await openingMs(page, last.name),
    await openingMs(page, last.name),
  ]);
  const heap = await heapMb(page);
  const [cold, ...warm] = await trialsMs(page, plans.slice(-5).reverse());
  const trial = middle(warm.map(t => t.shown));
  const whole = middle(warm.map(t => t.whole));
  const presses = await pressesMs(page, plans[0].id);
  await context.close();
  return {
    trials,
    first,
    opening,
    cold: cold.shown,
    trial,
    whole,
    press: middle(presses),
    presses: presses.length,
    heap,
  };
}

/** How the store behaves as a workshop grows, in headless Chromium: printed at 5, 50 and 500 trials. */
export async function benchStore(say: (line: string) => void): Promise<void> {
  buildIfStale();
  const server = makeServer('mine').listen(PORT, '127.0.0.1');
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? execSync('command -v chromium').toString().trim(),
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--no-first-run'],
  });
  try {
    say(`store: ${RECORDS} records and ${PHOTOS} photos a trial, five trials under way`);
    say(
      'trials   records   photos   first opening   opening view   first trial   opening a trial   and its stage   a press written   heap',
    );
    for (const trials of SIZES) {
      const m = await measure(browser, trials);
      const ms = (v: number, width: number) => `${v.toFixed(0)} ms`.padStart(width);
      say(
        `${String(trials).padStart(6)} ${String(trials * RECORDS).padStart(9)} ${String(trials * PHOTOS).padStart(8)} ${ms(m.first, 15)} ${ms(m.opening, 14)} ${ms(m.cold, 13)} ${ms(m.trial, 17)} ${ms(m.whole, 15)} ${ms(m.press, 17)} ${`${m.heap.toFixed(0)} MB`.padStart(6)}`,
      );
    }
    say(
      `asked at 500 trials: opening view ${ASKED.opening} ms, opening a trial ${ASKED.trial} ms, a press ${ASKED.press} ms, heap ${ASKED.heapMb} MB`,
    );
  } finally {
    await browser.close();
    server.close();
  }
}
