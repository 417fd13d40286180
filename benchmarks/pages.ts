import { execSync } from 'node:child_process';
import type { AddressInfo } from 'node:net';
import { type Browser, chromium, type Page } from '@playwright/test';
import { makeServer } from '../src/server/index.ts';

/** A phone of the middle sort is so many times as slow as this machine. */
const SLOWER = 4;
const LONG_MS = 50;

interface Opened {
  /** From the address to the first heading, ms. */
  readonly heading: number;
  /** The longest single piece of work while it opened, and what all above 50 ms are over that together, ms. */
  readonly longest: number;
  readonly blocked: number;
}

async function opened(page: Page, url: string): Promise<Opened> {
  await page.goto('about:blank');
  const start = Date.now();
  await page.goto(url, { waitUntil: 'commit' });
  await page.locator('h1').first().waitFor({ timeout: 60_000 });
  const heading = Date.now() - start;
  await page.waitForTimeout(4000);
  const tasks = await page.evaluate(
    () => (window as unknown as { tasks: { start: number; ms: number }[] }).tasks,
  );
  const long = tasks.map(t => t.ms);
  return {
    heading,
    longest: Math.max(0, ...long),
    blocked: long.reduce((sum, ms) => sum + ms - LONG_MS, 0),
  };
}

const WATCH = `
  window.tasks = [];
  new PerformanceObserver(list => {
    for (const e of list.getEntries()) window.tasks.push({ start: e.startTime, ms: e.duration });
  }).observe({ type: 'longtask', buffered: true });
`;

/** Opens every page of the demo by its address, at a quarter of this machine's speed, after a first visit has filled the caches. */
export async function benchPages(tell: (line: string) => void): Promise<void> {
  const server = makeServer('demo').listen(0, '127.0.0.1');
  const browser: Browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? execSync('command -v chromium').toString().trim(),
    args: ['--no-sandbox', '--disable-gpu'],
  });
  try {
    const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, locale: 'en-GB' });
    await page.addInitScript(WATCH);
    await page.goto(`${base}/w/demo`);
    await page.getByRole('link', { name: 'Hook plates' }).first().waitFor({ timeout: 120_000 });
    await page.waitForTimeout(8000);
    const trial = await page.evaluate(
      () =>
        document
          .querySelector('a[href*="/t/"]')
          ?.getAttribute('href')
          ?.match(/\/t\/(\w+)/)?.[1],
    );
    const session = await page.context().newCDPSession(page);
    await session.send('Emulation.setCPUThrottlingRate', { rate: SLOWER });
    tell(
      `pages, ${SLOWER}× slower: to the first heading, longest task, blocked in all (asked: 1500, 200 ms)`,
    );
    const paths = [
      ...['', '/new', '/new/plan', '/shelf', '/methods', '/pictures', '/known', '/recipes', '/find', '/safe'],
      ...['plan', 'print', 'make', 'read', 'judge', 'explain', 'keep', 'bench'].map(s => `/t/${trial}/${s}`),
      '/wall',
      '/train',
    ];
    for (const path of paths) {
      const { heading, longest, blocked } = await opened(page, `${base}/w/demo${path}`);
      const figures = [heading, longest, blocked].map(ms => `${Math.round(ms)}`.padStart(6)).join(' ');
      tell(`  ${path.replace(trial ?? '-', '…').padEnd(16)} ${figures}`);
    }
  } finally {
    await browser.close();
    server.close();
  }
}
