import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { compressAll } from '../../scripts/build.mjs';
import { makeServer } from './index.ts';

let server: Server;
let origin: string;
beforeAll(async () => {
  const dist = mkdtempSync(join(tmpdir(), 'wet-test-dist-'));
  mkdirSync(join(dist, 'assets'));
  writeFileSync(join(dist, 'index.html'), '<!doctype html><title>Wet Test</title>');
  for (const name of ['index-abc123.js', 'reader.worker-Ab_1-2.js', 'photo-x1.woff2'])
    writeFileSync(join(dist, 'assets', name), 'export {}');
  writeFileSync(join(dist, 'assets', 'big-1.js'), `export const x = "${'long '.repeat(2000)}";`);
  compressAll(dist);
  server = makeServer('demo', dist).listen(0, '127.0.0.1');
  await new Promise(resolve => server.once('listening', resolve));
  origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  return () => rmSync(dist, { recursive: true, force: true });
});
afterAll(() => void server.close());
const get = (path: string) => fetch(origin + path, { redirect: 'manual' });

describe('the server', () => {
  it('leads from / to the workshop it was started for', async () => {
    const answer = await get('/');
    expect([answer.status, answer.headers.get('location')]).toEqual([302, '/w/demo']);
  });
  it('gives the page for every address inside a workshop, never cached for good', async () => {
    for (const path of ['/w/mine', '/w/demo/t/K7XYZ/read']) {
      const answer = await get(path);
      expect([answer.status, answer.headers.get('cache-control')]).toEqual([200, 'no-cache']);
    }
  });
  it('allows the page no inline script, no eval, no outside origin', async () => {
    const policy = (await get('/w/mine')).headers.get('content-security-policy')!;
    expect(policy).toContain("default-src 'none'");
    expect(policy).toMatch(/script-src 'self'(;|$)/);
    expect(policy).not.toMatch(/https?:|\*/);
    expect(policy).not.toContain('unsafe-eval');
  });
  it('allows the image reader’s worker alone to compile its bindings', async () => {
    expect((await get('/assets/reader.worker-Ab_1-2.js')).headers.get('content-security-policy')).toContain(
      "'unsafe-eval'",
    );
    expect((await get('/assets/index-abc123.js')).headers.get('content-security-policy')).not.toContain(
      'unsafe-eval',
    );
  });
  it('caches hashed assets for good, with the right kind', async () => {
    const script = await get('/assets/index-abc123.js');
    expect(script.headers.get('cache-control')).toMatch(/max-age=31536000, immutable/);
    expect(script.headers.get('content-type')).toMatch(/javascript/);
    expect((await get('/assets/photo-x1.woff2')).headers.get('content-type')).toBe('font/woff2');
    expect(script.headers.get('x-content-type-options')).toBe('nosniff');
    expect(script.headers.get('x-powered-by')).toBeNull();
  });
  it('sends what was compressed when it was built, to who takes it, and the plain file to who does not', async () => {
    const as = async (encoding: string) => {
      const answer = await fetch(`${origin}/assets/big-1.js`, { headers: { 'accept-encoding': encoding } });
      return [answer.headers.get('content-encoding'), (await answer.text()).length];
    };
    expect(await as('br')).toEqual(['br', 10_020]);
    expect(await as('gzip')).toEqual(['gzip', 10_020]);
    expect(await as('identity')).toEqual([null, 10_020]);
    const answer = await fetch(`${origin}/assets/big-1.js`);
    expect(answer.headers.get('content-type')).toMatch(/javascript/);
    expect(answer.headers.get('cache-control')).toMatch(/immutable/);
    // What is small gains nothing.
    expect((await get('/assets/index-abc123.js')).headers.get('content-encoding')).toBeNull();
  });
  it('refuses a part of a file that does not exist in a word, without a trace of the code', async () => {
    const answer = await fetch(`${origin}/assets/index-abc123.js`, { headers: { range: 'bytes=900-990' } });
    expect(answer.status).toBe(416);
    expect(await answer.text()).toBe('That part of the file does not exist.\n');
    const bad = await get('/assets/%E0%A4%A');
    expect(bad.status).toBe(400);
    expect(await bad.text()).not.toMatch(/ at |node_modules/);
  });
  it('says that phones cannot be linked where that was not asked for', async () => {
    const answer = await get('/phone/ready');
    expect([answer.status, await answer.json()]).toEqual([200, { off: true }]);
  });
  it('answers a plain 404 to everything else', async () => {
    for (const path of ['/assets/none.js', '/w/other', '/etc/passwd', '/w/mine/../../package.json']) {
      const answer = await get(path);
      expect(answer.status).toBe(404);
      expect(answer.headers.get('content-type')).toMatch(/text\/plain/);
    }
  });
});
