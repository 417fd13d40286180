import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { loadCv } from '../../cli/node-cv.ts';
import { decode } from '../../cli/node-image.ts';
import { ProblemError } from '../outcome/index.ts';
import { card, target } from '../print/index.ts';
import { write } from '../say/index.ts';
import { said } from '../say/testing.ts';
import { type Board, type Cv, readBoard, readPhoto, referenceFrom, referenceOf } from './index.ts';

// Photographs made by other means than the app's own camera: docs/reference/photos/make_photos.py.
const DIR = join(import.meta.dirname, 'fixtures');
const json = (name: string) => JSON.parse(readFileSync(join(DIR, name), 'utf8'));
interface Truth {
  readonly file: string;
  readonly kind: string;
  readonly landed: number;
  readonly veil: number;
  readonly smear: number;
  readonly tone: number;
  readonly turn: number;
  readonly mirrored: boolean;
  readonly usable: boolean;
  readonly bare: readonly { x: number; y: number; area: number; shape: string }[];
}
const TRUTH: readonly Truth[] = json('truth.json');

let cv: Cv;
beforeAll(async () => {
  ({ cv } = await loadCv());
});

async function read(file: string, own = false) {
  const photo = await decode(join(DIR, file));
  if (!own) return readPhoto(cv, photo, card(40), referenceOf(target(40)), { stage: 'dry' });
  const picture = referenceFrom(cv, await decode(join(DIR, 'own.png')), { w: 60, h: 40 });
  return readPhoto(cv, photo, card(60, 40), picture, { stage: 'dry' });
}

const off: { landed: number; veil: number }[] = [];

describe('photographs by another maker', () => {
  for (const truth of TRUTH.filter(t => t.usable))
    it(`${truth.file} is read`, async () => {
      const found = await read(truth.file, truth.kind === 'own');
      if (!found.ok) throw new ProblemError(found.problem);
      const { reading } = found.value;
      off.push({
        landed: Math.abs(reading.landed! - truth.landed),
        veil: Math.abs(reading.veil! - truth.veil),
      });
      expect(off.at(-1)!.landed).toBeLessThan(5);
      expect([reading.turn, reading.mirrored]).toEqual([truth.turn, truth.mirrored]);
      if (truth.smear && reading.smear !== null)
        expect(Math.abs(reading.smear! - truth.smear)).toBeLessThan(0.2);
      for (const hole of truth.bare.filter(b => b.area >= 2)) {
        const near = reading.bare.filter(b => Math.hypot(b.x - hole.x, b.y - hole.y) < 1.5);
        expect(
          near.some(b => Math.abs(b.area / hole.area - 1) < 0.3),
          JSON.stringify(hole),
        ).toBe(true);
      }
      const wrong = reading.bare.filter(
        b => b.area >= 2 && !truth.bare.some(t => Math.hypot(b.x - t.x, b.y - t.y) < 2 + Math.sqrt(t.area)),
      );
      expect(wrong).toEqual([]);
    });

  it('are read, on the whole, as true as is asked', () => {
    const at = (q: number, of: (o: (typeof off)[number]) => number) =>
      off.map(of).sort((a, b) => a - b)[Math.floor(q * (off.length - 1))];
    expect(off.length).toBeGreaterThan(9);
    expect([at(0.5, o => o.landed) < 0.8, at(0.9, o => o.landed) < 3]).toEqual([true, true]);
    expect([at(0.5, o => o.veil) < 0.04, at(0.9, o => o.veil) < 0.08]).toEqual([true, true]);
  });

  for (const truth of TRUTH.filter(t => !t.usable))
    it(`${truth.file} is refused, with what to do`, async () => {
      const found = await read(truth.file);
      expect(found.ok).toBe(false);
      if (!found.ok) expect(write(found.problem.wayOut ?? '')).toMatch(/\w{4}/);
    });
});

describe('a whole board in one photo', () => {
  const told = json('board.json');
  const board = (): Board => ({
    ...told,
    patches: told.patches.map((p: object) => ({ ...p, reference: referenceOf(target(40)) })),
  });

  it('reads each patch where the plan has it, as true as through the card', async () => {
    const found = readBoard(cv, await decode(join(DIR, 'board.jpg')), board(), 'dry');
    if (!found.ok) throw new ProblemError(found.problem);
    for (const truth of json('board-truth.json') as (Truth & { code: string })[]) {
      const one = found.value.find(p => p.code === truth.code)!.read;
      if (!one.ok) throw new ProblemError(one.problem);
      expect(Math.abs(one.value.reading.landed! - truth.landed)).toBeLessThan(3);
      expect(Math.abs(one.value.reading.veil! - truth.veil)).toBeLessThan(0.08);
      expect(one.value.reading.tone).not.toBeNull();
    }
  });

  it('is refused where its corners cannot be seen, of a patch that is not there only that one, and colour without greys', async () => {
    const photo = await decode(join(DIR, 'board.jpg'));
    const none = readBoard(
      cv,
      { w: 400, h: 300, data: new Uint8ClampedArray(480_000).fill(140) },
      board(),
      'dry',
    );
    expect(!none.ok && none.problem.code).toBe('no-corners');
    const half = {
      w: photo.w,
      h: Math.floor(photo.h / 2),
      data: photo.data.subarray(0, Math.floor(photo.h / 2) * photo.w * 4),
    };
    const hidden = readBoard(cv, half, board(), 'dry');
    expect(said(!hidden.ok && hidden.problem.say)).toMatch(/Only \d of the board’s 4 corner markers/);
    // Without greys colour is withheld, and the rest is read.
    const { greys: _, ...plain } = board();
    const [first, second] = plain.patches;
    const astray = readBoard(cv, photo, { ...plain, patches: [first, { ...second, x: 400 }] }, 'dry');
    if (!astray.ok) throw new ProblemError(astray.problem);
    const there = astray.value[0].read;
    if (!there.ok) throw new ProblemError(there.problem);
    expect([there.value.reading.tone, there.value.reading.deltaL]).toEqual([null, null]);
    expect(there.value.reading.landed).toBeGreaterThan(50);
    const lost = astray.value[1].read;
    expect(!lost.ok && lost.problem.code).toBe('cropped');
    const small = {
      ...board(),
      markers: board().markers.map(m => ({ ...m, x: 3 * m.x, y: 3 * m.y, size: 3 * m.size })),
    };
    const far = readBoard(cv, photo, small, 'dry');
    expect(!far.ok && far.problem.code).toBe('too-small');
  });
});
