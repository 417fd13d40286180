// Makes docs/screenshots again from the demo data: builds, serves, walks through the views.
import { execSync } from 'node:child_process';
import { mkdirSync, readFileSync } from 'node:fs';
import { chromium } from '@playwright/test';
import { readBundle } from '../src/core/bundle/index.ts';
import { ProblemError } from '../src/core/outcome/index.ts';
import { makeServer } from '../src/server/index.ts';
import { buildIfStale } from './build.mjs';

const OUT = 'docs/screenshots';
const PORT = 4188;

const idOf = (file: string) => {
  const bundle = readBundle(new Uint8Array(readFileSync(`public/demo/${file}`)));
  if (!bundle.ok) throw new ProblemError(bundle.problem);
  return bundle.value.plan;
};

async function main() {
  buildIfStale();
  mkdirSync(OUT, { recursive: true });
  const server = makeServer('demo').listen(PORT, '127.0.0.1');
  const browser = await chromium.launch({
    executablePath: execSync('command -v chromium').toString().trim(),
    args: ['--no-sandbox', '--disable-gpu'],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, locale: 'en-GB' });
  const [berth, hook, tiles] = ['berth-plates.zip', 'hook-plates.zip', 'bulkhead-tiles.zip'].map(idOf);
  const patch = [...berth.patches].sort((a, b) => a.order - b.order)[2].code;
  const shoot = async (name: string, path?: string) => {
    if (path) await page.goto(`http://127.0.0.1:${PORT}/w/${path}`);
    await page.waitForLoadState('networkidle');
    await page.getByText('Looking at what needs hands').waitFor({ state: 'hidden' });
    await page.getByText(/^Weighing /).waitFor({ state: 'hidden', timeout: 90_000 });
    await page.waitForTimeout(1200);
    await page.screenshot({ path: `${OUT}/${name}.png` });
  };
  await shoot('home', 'demo');
  await shoot('new', 'demo/new/plan?from=settle:which-paper');
  await shoot('shelf', 'demo/shelf?kind=substrates&item=slate');
  await shoot('known', 'demo/known');
  await shoot('safe', 'demo/safe');
  await page.goto(`http://127.0.0.1:${PORT}/w/demo/find`);
  await page.getByLabel('Made with').selectOption('Matte acrylic medium');
  await shoot('find');
  await page.goto(`http://127.0.0.1:${PORT}/w/demo/t/${berth.id}/keep`);
  await page.getByRole('button', { name: 'Keep this recipe' }).click();
  await page.getByRole('link', { name: 'Make it for real' }).click();
  await page.waitForTimeout(9000);
  await shoot('recipe');
  await shoot('methods', 'demo/methods?method=film-pull');
  await page.goto(`http://127.0.0.1:${PORT}/w/demo/pictures`);
  await page.getByRole('button', { name: 'Try it with a drawing of ours' }).click();
  await page.getByRole('button', { name: 'Yes, there is' }).click();
  // The notice that it was added goes by itself.
  await page.waitForTimeout(9000);
  await shoot('pictures');
  await shoot('plan', `demo/t/${berth.id}/plan?patch=${patch}`);
  await shoot('print', `demo/t/${tiles.id}/print`);
  await shoot('make', `demo/t/${hook.id}/make?patch=${hook.patches[0].code}`);
  for (const stage of ['read', 'judge', 'explain', 'keep'])
    await shoot(stage, `demo/t/${berth.id}/${stage}?patch=${patch}`);
  await shoot('wall', `demo/wall?trial=${berth.id}`);
  await page.goto(`http://127.0.0.1:${PORT}/w/demo/t/${tiles.id}/bench`);
  await page.getByRole('button', { name: 'Window open, gloves on' }).click();
  for (let i = 0; i < tiles.patches.length + 1; i++) {
    await page.waitForTimeout(250);
    await page.locator('body').press(' ');
  }
  // Who comes back is asked nothing about the last press.
  await page.reload();
  await page.getByRole('heading', { level: 1 }).waitFor();
  await shoot('bench');
  await page.setViewportSize({ width: 390, height: 844 });
  await shoot('bench-phone');
  await browser.close();
  server.close();
}

await main();
