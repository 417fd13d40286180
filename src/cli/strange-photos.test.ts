import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp, { type SharpOptions } from 'sharp';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type { Pixels } from '../core/reading/index.ts';
import { main as makeKit } from './kit.ts';
import { decode } from './node-image.ts';
import { main as read } from './read.ts';

// A photo as phones and programs may hand it over: what it shows is the same each time.
const W = 60;
const H = 40;
const plain = Buffer.from(
  Array.from({ length: W * H * 3 }, (_, i) => {
    const at = Math.floor(i / 3);
    const [x, y] = [at % W, Math.floor(at / W)];
    return [60 + 2 * x, 40 + 4 * y, 150 - x - y][i % 3];
  }),
);
const photo = () => sharp(plain, { raw: { width: W, height: H, channels: 3 } });

/** Largest mean difference of a channel from the plain photo, 0–255. */
function offBy(seen: Pixels): number {
  const sums = [0, 0, 0];
  for (let i = 0; i < W * H; i++)
    for (let c = 0; c < 3; c++) sums[c] += Math.abs(seen.data[i * 4 + c] - plain[i * 3 + c]);
  return Math.max(...sums) / (W * H);
}

describe('a photo decoded', () => {
  it.each<[string, () => Promise<Buffer>, number]>([
    ['a PNG', () => photo().png().toBuffer(), 0],
    ['a PNG of 16 bits', () => photo().toColourspace('rgb16').png().toBuffer(), 0.6],
    ['a WebP', () => photo().webp({ quality: 95 }).toBuffer(), 3],
    ['a JPEG in printer’s inks', () => photo().toColourspace('cmyk').jpeg({ quality: 98 }).toBuffer(), 12],
    [
      'a JPEG in a wider space of colours',
      () => photo().withIccProfile('p3').jpeg({ quality: 100, chromaSubsampling: '4:4:4' }).toBuffer(),
      2,
    ],
    [
      'a JPEG stuffed with words',
      () =>
        photo()
          .withExif({ IFD0: { ImageDescription: 'made up '.repeat(4000) } })
          .jpeg({ quality: 98, chromaSubsampling: '4:4:4' })
          .toBuffer(),
      2,
    ],
  ])('from %s is what the plain one is', async (_, made, most) => {
    const seen = await decode(await made());
    expect([seen.w, seen.h, seen.data[3]]).toEqual([W, H, 255]);
    expect(offBy(seen)).toBeLessThanOrEqual(most);
  });

  it('with colours of its own space is not taken for one without', async () => {
    // The same numbers under another profile are other colours: red is deeper there.
    const bytes = await photo().withIccProfile('p3').png().toBuffer();
    const bare = await sharp(bytes, { ignoreIcc: true }).removeAlpha().raw().toBuffer();
    const changed = plain.reduce((sum, v, i) => sum + Math.abs(v - bare[i]), 0) / plain.length;
    expect(changed).toBeGreaterThan(2);
    expect(offBy(await decode(bytes))).toBeLessThan(2);
  });

  it('that moves is its first picture', async () => {
    const frames = Buffer.concat([plain, Buffer.alloc(plain.length, 255)]);
    const moving = await sharp(frames, {
      raw: { width: W, height: 2 * H, channels: 3, pageHeight: H },
    } as SharpOptions)
      .webp({ lossless: true, delay: [100, 100] })
      .toBuffer();
    expect((await sharp(moving, { animated: true }).metadata()).pages).toBe(2);
    const seen = await decode(moving);
    expect([seen.w, seen.h]).toEqual([W, H]);
    expect(offBy(seen)).toBe(0);
  });

  it('that was held sideways stands upright', async () => {
    const seen = await decode(await photo().withMetadata({ orientation: 6 }).png().toBuffer());
    expect([seen.w, seen.h]).toEqual([H, W]);
    // The first pixel came from the lower left.
    expect([...seen.data.subarray(0, 3)]).toEqual([...plain.subarray((H - 1) * W * 3, (H - 1) * W * 3 + 3)]);
  });
});

describe('files that are no photos', () => {
  const dir = mkdtempSync(join(tmpdir(), 'wet-test-strange-'));
  afterAll(() => rmSync(dir, { recursive: true, force: true }));
  const kit = join(dir, 'kit');
  beforeAll(async () => {
    vi.spyOn(console, 'log').mockImplementation(() => {});
    await makeKit([kit, '--size', '40']);
  });

  it('have each their word, and what comes after them is still looked at', async () => {
    const whole = await photo().jpeg().toBuffer();
    const wide = sharp({ create: { width: 9000, height: 7000, channels: 3, background: '#888' } });
    const files: Record<string, Buffer> = {
      'empty.jpg': Buffer.alloc(0),
      'cut-short.jpg': whole.subarray(0, Math.floor(whole.length / 2)),
      'words.png': Buffer.from('a list of what to buy'),
      'drawing.heic': Buffer.from('....ftypheic and nothing more'),
      'too-large.png': await wide.png({ compressionLevel: 1 }).toBuffer(),
      'one-pixel.png': await sharp(plain.subarray(0, 3), { raw: { width: 1, height: 1, channels: 3 } })
        .png()
        .toBuffer(),
      'a-png.jpg': await photo().png().toBuffer(),
    };
    const paths = Object.entries(files).map(([name, bytes]) => {
      writeFileSync(join(dir, name), bytes);
      return join(dir, name);
    });
    const out = join(dir, 'out.json');
    await read([...paths, '--kit', kit, '--out', out]);
    const told: { ok: boolean; refusal: { code: string; say: string; wayOut?: string } }[] = JSON.parse(
      readFileSync(out, 'utf8'),
    );
    expect(told.map(t => t.refusal.code)).toEqual([
      ...Array(4).fill('not-a-picture'),
      'too-large',
      'no-card',
      'no-card',
    ]);
    for (const { ok, refusal } of told)
      expect([ok, refusal.say.length > 10, (refusal.wayOut ?? '').length > 10]).toEqual([false, true, true]);
  });
});
