import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { get } from 'node:https';
import type { AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';
import express from 'express';
import { describe, expect, it } from 'vitest';
import { makeHttp } from './index.ts';
import { phoneRoutes } from './phone.ts';

// Made for these tests and trusted by nobody: openssl req -x509 -newkey ec -pkeyopt ec_paramgen_curve:prime256v1 -nodes
// -days 36500 -subj /CN=localhost -addext subjectAltName=DNS:localhost
const file = (name: string) => fileURLToPath(new URL(`fixtures/${name}`, import.meta.url));
const [cert, key] = ['localhost-cert.pem', 'localhost-key.pem'].map(n => readFileSync(file(n)));

const answerOf = (path: string, port: number, method = 'GET', headers = {}) =>
  new Promise<{ status: number; body: string }>((resolve, reject) => {
    const sent = get(
      { host: 'localhost', port, path, method, headers, ca: cert, servername: 'localhost', agent: false },
      response => {
        let body = '';
        response.on('data', part => {
          body += part;
        });
        response.on('end', () => resolve({ status: response.statusCode!, body }));
      },
    );
    sent.on('error', reject);
  });

const main = (...args: string[]) =>
  new Promise<{ code: number | null; said: string }>(resolve => {
    const run = spawn(process.execPath, ['--import', 'tsx', file('../main.ts'), ...args], {
      env: { ...process.env, PORT: '4893', NO_COLOR: '1' },
    });
    let said = '';
    run.stderr.on('data', part => {
      said += part;
    });
    run.on('close', code => resolve({ code, said }));
  });

describe('a server with a certificate of the maker’s own', () => {
  it('answers over https to who trusts it, and gives phones https addresses', async () => {
    const app = express();
    app.use('/phone', phoneRoutes({ hosts: () => ['localhost'] }));
    app.get('/hello', (_request, response) => void response.send('hello'));
    const server = makeHttp(app, { cert, key }).listen(0, '127.0.0.1');
    await new Promise(resolve => server.once('listening', resolve));
    const { port } = server.address() as AddressInfo;
    try {
      expect(await answerOf('/hello', port)).toEqual({ status: 200, body: 'hello' });
      const ready = await answerOf('/phone/ready', port, 'GET', { 'x-wet-test': 'laptop' });
      const { secure, addresses } = JSON.parse(ready.body);
      expect(secure).toBe(true);
      for (const address of addresses) expect(address).toMatch(/^https:/);
      await expect(
        new Promise((resolve, reject) =>
          get({ host: 'localhost', port, path: '/hello' }, resolve).on('error', reject),
        ),
      ).rejects.toThrow(/self-signed/);
      const told = await fetch(`http://localhost:${port}/hello`).catch(() => 'refused');
      expect(told).toBe('refused');
    } finally {
      server.close();
    }
  });

  it('does not start with half of it, with a file that is not there, or with what belongs to another', async () => {
    const half = await main('--cert', file('localhost-cert.pem'));
    expect(half.code).toBe(1);
    expect(half.said).toContain('A certificate needs its key');
    const gone = await main('--cert', file('none.pem'), '--key', file('localhost-key.pem'));
    expect(gone.said).toContain('none.pem cannot be read.');
    expect(() => makeHttp(express(), { cert, key: cert })).toThrow();
    expect(() => makeHttp(express(), { cert: Buffer.from('junk'), key })).toThrow();
  });
});
