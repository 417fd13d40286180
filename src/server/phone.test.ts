import { request as ask, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import express from 'express';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { phoneRoutes } from './phone.ts';

const JPEG = Buffer.from([0xff, 0xd8, 0xff, 0xe0, 1, 2, 3]);
const ZIP = Buffer.from([0x50, 0x4b, 3, 4, 9, 9]);
const ABOUT = {
  kind: 'photos',
  trial: '6FH7HRYKRMR6',
  name: 'Berth plates',
  patches: [{ code: 'CX-2AY', words: 'Soft gel, 8 h' }],
};
const LAPTOP = { 'x-wet-test': 'laptop' };
const MIN = 60_000;

let server: Server;
let clock: number;
beforeEach(async () => {
  clock = Date.parse('2026-05-02T08:00:00Z');
  const app = express();
  app.use(
    '/phone',
    phoneRoutes({ hosts: () => ['localhost', '192.168.7.5'], now: () => clock, wrongAMinute: 5 }),
  );
  server = app.listen(0, '127.0.0.1');
  await new Promise(resolve => server.once('listening', resolve));
});
afterEach(() => void server.close());

type Answer = { status: number; body: Buffer; json: () => Record<string, never> & { say?: string } };
/** One request under any host name, which fetch would not let one choose. */
const send = (
  method: string,
  path: string,
  headers: Record<string, string> = {},
  body?: Buffer | object,
): Promise<Answer> =>
  new Promise((resolve, reject) => {
    const bytes =
      body === undefined ? undefined : Buffer.isBuffer(body) ? body : Buffer.from(JSON.stringify(body));
    const isJson = body !== undefined && !Buffer.isBuffer(body);
    const { port } = server.address() as AddressInfo;
    const sent = ask(
      {
        ...{ host: '127.0.0.1', port, method, path: `/phone${path}` },
        headers: {
          host: `localhost:${port}`,
          ...(bytes ? { 'content-length': String(bytes.length) } : {}),
          ...(isJson ? { 'content-type': 'application/json' } : {}),
          ...headers,
        },
      },
      response => {
        const parts: Buffer[] = [];
        response.on('data', part => parts.push(part));
        response.on('end', () => {
          const whole = Buffer.concat(parts);
          resolve({ status: response.statusCode!, body: whole, json: () => JSON.parse(whole.toString()) });
        });
      },
    );
    sent.on('error', reject);
    sent.end(bytes);
  });
const bearer = (secret: string) => ({ authorization: `Bearer ${secret}` });
const open = async (about: object = ABOUT) => {
  const answer = (await send('POST', '/open', LAPTOP, about)).json() as unknown as {
    id: string;
    owner: string;
    token: string;
  };
  const mine = { ...LAPTOP, ...bearer(answer.owner) };
  return {
    ...answer,
    mine,
    look: async () =>
      (await send('GET', `/open/${answer.id}`, mine)).json() as never as {
        claimed: boolean;
        taken: boolean;
        inbox: { id: string; kind: string; patch: string | null; size: number }[];
      },
  };
};
const claim = async (token: string) =>
  (await send('POST', '/claim', {}, { token })).json() as unknown as { key: string; about: typeof ABOUT };

describe('a phone that is linked', () => {
  it('sends photos to the patch that was chosen, each fetched once and then gone', async () => {
    const link = await open();
    expect((await link.look()).claimed).toBe(false);
    const { key, about } = await claim(link.token);
    expect(about).toEqual(ABOUT);
    expect((await send('POST', '/at/photo?patch=CX-2AY', bearer(key), JPEG)).status).toBe(200);
    const { claimed, inbox } = await link.look();
    expect(claimed).toBe(true);
    expect(inbox).toMatchObject([{ kind: 'photo', patch: 'CX-2AY', size: JPEG.length }]);
    const item = `/open/${link.id}/inbox/${inbox[0].id}`;
    expect((await send('GET', item, link.mine)).body).toEqual(JPEG);
    expect((await send('DELETE', item, link.mine)).status).toBe(200);
    expect((await link.look()).inbox).toEqual([]);
    expect((await send('GET', item, link.mine)).status).toBe(404);
  });

  it('takes a trial along and gives it back; it stays until the phone says that it is stored there', async () => {
    const link = await open({ ...ABOUT, kind: 'trial' });
    const { key } = await claim(link.token);
    expect((await send('GET', '/at/trial', bearer(key))).status).toBe(404);
    expect((await send('PUT', `/open/${link.id}/trial`, link.mine, ZIP)).status).toBe(200);
    // Asked for its head alone, not changed, or broken off on the way: it is still there.
    expect((await send('HEAD', '/at/trial', bearer(key))).status).toBe(200);
    const etag = { 'if-none-match': '*' };
    expect([200, 304]).toContain((await send('GET', '/at/trial', { ...bearer(key), ...etag })).status);
    for (let i = 0; i < 2; i++) expect((await send('GET', '/at/trial', bearer(key))).body).toEqual(ZIP);
    expect(await link.look()).toMatchObject({ claimed: true, taken: false });
    expect((await send('POST', '/at/trial/stored', bearer(key))).status).toBe(200);
    expect(await link.look()).toMatchObject({ taken: true });
    expect((await send('GET', '/at/trial', bearer(key))).status).toBe(404);
    const more = Buffer.concat([ZIP, Buffer.from('more')]);
    for (const file of [ZIP, more]) await send('POST', '/at/back', bearer(key), file);
    expect((await link.look()).inbox).toMatchObject([{ kind: 'trial', size: more.length }]);
  });

  it('asks what became of its photos; one that was sent twice is there once', async () => {
    const link = await open();
    const { key } = await claim(link.token);
    const photo = '/at/photo?patch=CX-2AY&name=photo2345678';
    for (let i = 0; i < 2; i++) expect((await send('POST', photo, bearer(key), JPEG)).status).toBe(200);
    const waiting = async () => (await send('GET', '/at/waiting', bearer(key))).json().waiting;
    expect(await waiting()).toEqual(['photo2345678']);
    await send('DELETE', `/open/${link.id}/inbox/photo2345678`, link.mine);
    expect(await waiting()).toEqual([]);
    // A name that is none of ours is not used.
    await send('POST', '/at/photo?patch=CX-2AY&name=../up', bearer(key), JPEG);
    expect(await waiting()).toEqual([expect.stringMatching(/^[0-9a-f]{24}$/)]);
  });

  it('is refused before the first byte when there is no room, and says how large it is or not at all', async () => {
    const link = await open();
    const { key } = await claim(link.token);
    const saying = (length: string) => {
      const head = { ...bearer(key), 'content-length': length };
      return new Promise<number>((resolve, reject) => {
        const { port } = server.address() as AddressInfo;
        const sent = ask(
          {
            host: '127.0.0.1',
            port,
            method: 'POST',
            path: '/phone/at/back',
            headers: { host: `localhost:${port}`, ...head },
          },
          response => {
            resolve(response.statusCode!);
            sent.destroy();
          },
        );
        sent.on('error', reject);
        sent.flushHeaders();
      });
    };
    expect(await saying('300000001')).toBe(413);
    // One that is on its way counts, though none of it has come yet.
    const { port } = server.address() as AddressInfo;
    const slow = ask({
      ...{ host: '127.0.0.1', port, method: 'POST', path: '/phone/at/back' },
      headers: { host: `localhost:${port}`, ...bearer(key), 'content-length': '200000000' },
    });
    slow.on('error', () => {});
    slow.flushHeaders();
    await expect.poll(() => saying('200000000')).toBe(507);
    // All links together hold no more than the server has room for.
    const other = await claim((await open()).token);
    const second = ask({
      ...{ host: '127.0.0.1', port, method: 'POST', path: '/phone/at/back' },
      headers: { host: `localhost:${port}`, ...bearer(other.key), 'content-length': '190000000' },
    });
    second.on('error', () => {});
    second.flushHeaders();
    await expect.poll(() => saying('20000000')).toBe(507);
    second.destroy();
    slow.destroy();
    await expect.poll(async () => (await send('POST', '/at/back', bearer(key), ZIP)).status).toBe(200);
    const chunked = await send(
      'POST',
      '/at/back',
      { ...bearer(key), 'transfer-encoding': 'chunked', 'content-length': '' },
      ZIP,
    ).catch(() => undefined);
    expect(chunked?.status ?? 400).toBeGreaterThanOrEqual(400);
  });

  it('may be one of two, each with its own link', async () => {
    const [one, two] = [await open(), await open()];
    const [a, b] = [await claim(one.token), await claim(two.token)];
    await send('POST', '/at/photo?patch=CX-2AY', bearer(b.key), JPEG);
    expect((await one.look()).inbox).toEqual([]);
    expect((await two.look()).inbox).toHaveLength(1);
    expect(a.key).not.toBe(b.key);
  });

  it('goes on while it is used, and what it sent waits for a laptop that slept', async () => {
    const link = await open();
    const { key } = await claim(link.token);
    for (let k = 0; k < 4; k++) {
      clock += 11 * 60 * MIN;
      expect((await send('POST', '/at/photo', bearer(key), JPEG)).status).toBe(200);
    }
    clock += 11 * 60 * MIN;
    expect((await link.look()).inbox).toHaveLength(4);
  });

  it('is unlinked by the laptop, and after half a day of silence', async () => {
    const link = await open();
    const { key } = await claim(link.token);
    await send('DELETE', `/open/${link.id}`, link.mine);
    expect((await send('POST', '/at/photo', bearer(key), JPEG)).status).toBe(401);
    const other = await open();
    const second = await claim(other.token);
    clock += 12 * 60 * MIN + 1;
    const late = await send('POST', '/at/photo', bearer(second.key), JPEG);
    expect([late.status, late.json().say]).toEqual([
      401,
      'This link has ended. Scan a new code on the laptop.',
    ]);
  });
});

describe('what is not let in', () => {
  it('is a code that was used, has run out, or was guessed; whoever goes on guessing has to wait', async () => {
    const link = await open();
    await claim(link.token);
    const again = await send('POST', '/claim', {}, { token: link.token });
    expect([again.status, again.json().say]).toEqual([
      410,
      'This code was used before. Show a new one on the laptop.',
    ]);
    const late = await open();
    clock += 10 * MIN;
    expect((await send('POST', '/claim', {}, { token: late.token })).status).toBe(200);
    const tooLate = await open();
    clock += 10 * MIN + 1;
    expect((await send('POST', '/claim', {}, { token: tooLate.token })).status).toBe(404);
    for (const token of ['', 'x', 'y'.repeat(22)])
      expect((await send('POST', '/claim', {}, { token })).status).toBe(404);
    const answer = await send('POST', '/claim', {}, { token: 'z' });
    expect([answer.status, answer.json().say]).toEqual([
      429,
      'Too many tries. Wait a minute, then scan the code again.',
    ]);
  });

  it('is another’s name for this machine, and a page of elsewhere', async () => {
    for (const host of ['evil.example', '192.168.7.6', 'localhost.evil.example'])
      expect((await send('GET', '/ready', { ...LAPTOP, host })).status, host).toBe(403);
    expect((await send('GET', '/ready', { ...LAPTOP, host: '192.168.7.5:4173' })).status).toBe(200);
    for (const origin of ['http://evil.example', 'null'])
      expect((await send('POST', '/open', { ...LAPTOP, origin }, ABOUT)).status, origin).toBe(403);
  });

  it('is whoever is not the laptop at what is the laptop’s: without its header, or with another’s secret', async () => {
    const [link, other] = [await open(), await open()];
    expect((await send('POST', '/open', {}, ABOUT)).status).toBe(403);
    expect((await send('GET', `/open/${link.id}`, bearer(link.owner))).status).toBe(403);
    expect((await send('GET', `/open/${link.id}`, other.mine)).status).toBe(404);
    expect((await send('GET', `/open/${link.id}`, LAPTOP)).status).toBe(404);
    const { key } = await claim(link.token);
    // A phone's key opens nothing of the laptop's, and the laptop's secret is no phone's key.
    expect((await send('GET', `/open/${link.id}`, { ...LAPTOP, ...bearer(key) })).status).toBe(404);
    expect((await send('POST', '/at/photo', bearer(link.owner), JPEG)).status).toBe(401);
    expect((await send('POST', '/at/photo', {}, JPEG)).status).toBe(401);
  });

  it('is what is no photo and no trial, of no patch of it, or too large; nothing of it is kept', async () => {
    const link = await open();
    const { key } = await claim(link.token);
    const photo = (body: Buffer, patch = 'CX-2AY') =>
      send('POST', `/at/photo?patch=${patch}`, bearer(key), body);
    expect((await photo(Buffer.from('<svg onload="x">'))).status).toBe(415);
    expect((await photo(Buffer.alloc(0))).status).toBe(415);
    expect((await photo(ZIP)).status).toBe(415);
    expect((await photo(JPEG, 'CX-2ZZ')).status).toBe(400);
    expect((await send('POST', '/at/back', bearer(key), JPEG)).status).toBe(415);
    const huge = await photo(Buffer.alloc(40e6 + 1, 0xff)).catch(() => undefined);
    if (huge) expect([huge.status, huge.json().say]).toEqual([413, 'This file is too large.']);
    expect((await link.look()).inbox).toEqual([]);
    for (const about of [{}, { ...ABOUT, kind: 'all' }, { ...ABOUT, trial: '../x' }])
      expect((await send('POST', '/open', LAPTOP, about)).status).toBe(400);
    expect(
      (await send('POST', '/open', { ...LAPTOP, 'content-type': 'application/json' }, Buffer.from('{')))
        .status,
    ).toBe(400);
  });

  it('is more than a laptop can be behind, and more phones than hands', async () => {
    const link = await open();
    const { key } = await claim(link.token);
    for (let k = 0; k < 120; k++) await send('POST', '/at/photo', bearer(key), JPEG);
    expect((await send('POST', '/at/photo', bearer(key), JPEG)).status).toBe(507);
    for (let k = 0; k < 7; k++) await open();
    expect((await send('POST', '/open', LAPTOP, ABOUT)).status).toBe(429);
    // Those nobody came to make room again.
    clock += 11 * MIN;
    expect((await send('POST', '/open', LAPTOP, ABOUT)).status).toBe(200);
  });

  it('is any other address', async () => {
    expect((await send('GET', '/../../etc/passwd', LAPTOP)).status).toBe(404);
    expect((await send('GET', '/open', LAPTOP)).status).toBe(404);
  });
});
