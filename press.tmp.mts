import { execSync } from 'node:child_process';
import { chromium } from '@playwright/test';
import { examplePlan } from './src/core/design/example.ts';
import { makeServer } from './src/server/index.ts';
import { fill } from './tests/e2e/many-trials.ts';
const N = Number(process.argv[2] ?? 5);
const server = makeServer('mine').listen(4183, '127.0.0.1');
const browser = await chromium.launch({ executablePath: execSync('command -v chromium').toString().trim(), args: ['--no-sandbox','--disable-gpu'] });
const ctx = await browser.newContext({ serviceWorkers: 'block' }); const page = await ctx.newPage();
await page.addInitScript('globalThis.__name = f => f');
await page.goto('http://127.0.0.1:4183/w/mine'); await page.getByText('Plan your first trial').first().waitFor();
const plans = await fill(page, examplePlan(), { trials: N, underWay: Math.min(5, N - 1), recordsEach: 180, photosEach: 20 }, Date.now());
await page.reload(); await page.getByRole('heading', { name: 'Trials' }).waitFor({ timeout: 200000 });
await page.goto(`http://127.0.0.1:4183/w/mine/t/${plans[0].id}/bench`); await page.waitForTimeout(1500);
const b = page.getByRole('button', { name: 'Window open, gloves on' }); if (await b.isVisible()) { await b.click(); } await page.waitForTimeout(3000);
await page.evaluate(() => {
  const log: string[] = []; (window as any).log = log; let t0 = 0;
  window.addEventListener('keydown', () => { t0 = performance.now(); log.push('--- key'); }, true);
  const say = (w: string) => log.push(`${(performance.now() - t0).toFixed(1)} ${w}`);
  for (const m of ['get', 'put', 'delete'] as const) { const f = (IDBObjectStore.prototype as any)[m]; (IDBObjectStore.prototype as any)[m] = function (...a: any[]) { const n = this.name; say(`${m} ${n} start`); const r = f.apply(this, a); r.addEventListener('success', () => say(`${m} ${n} ok`)); this.transaction.addEventListener('complete', () => say(`${m} ${n} complete`)); return r; }; }
  const req = navigator.locks.request.bind(navigator.locks); (navigator.locks as any).request = (n: string, ...a: any[]) => { say('lock asked ' + n.slice(-20)); return (req as any)(n, ...a.slice(0, -1), (l: any) => { say('lock got'); return a.at(-1)(l); }); };
});
for (let i = 0; i < 3; i++) { await page.locator('body').press(' '); await page.waitForTimeout(1200); }
console.log((await page.evaluate(() => (window as any).log)).join('\n'));
await browser.close(); server.close();
