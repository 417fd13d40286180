import { execSync } from 'node:child_process';
import { chromium } from '@playwright/test';
import { makeServer } from './src/server/index.ts';
const [,, path, out, w='1280', h='800', full] = process.argv;
const server = makeServer('demo').listen(4191,'127.0.0.1');
const browser = await chromium.launch({ executablePath: execSync('command -v chromium').toString().trim(), args: ['--no-sandbox','--disable-gpu'] });
const page = await browser.newPage({ viewport: { width: +w, height: +h }, locale: 'en-GB' });
page.on('pageerror', e => console.log('PAGEERROR', e.message));
page.on('console', m => m.type()==='error' && console.log('CONSOLE', m.text()));
await page.goto('http://127.0.0.1:4191/w/demo'); await page.waitForTimeout(4000);
const trials = await page.evaluate(() => [...document.querySelectorAll('a')].map(a=>a.getAttribute('href')+' '+a.textContent).filter(x=>x.includes('/t/')));
if (path==='list') { console.log(trials.join('\n')); process.exit(0); }
await page.goto('http://127.0.0.1:4191/w/'+path); await page.waitForTimeout(6000);
await page.screenshot({ path: out, fullPage: full==='full' });
await browser.close(); server.close(); process.exit(0);
