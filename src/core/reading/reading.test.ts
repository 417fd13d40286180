import { beforeAll, describe, expect, it } from 'vitest';
import { loadCv } from '../../cli/node-cv.ts';
import { decode, encodeJpeg } from '../../cli/node-image.ts';
import { ProblemError } from '../outcome/index.ts';
import { card, target } from '../print/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { exampleHistory, exampleSettings } from '../simulator/example.ts';
import { type PatchHistory, photograph, type Shot, simulateProcess } from '../simulator/index.ts';
import { type Cv, readPhoto, referenceOf, shapeOf } from './index.ts';

let lib: { cv: Cv };
beforeAll(async () => {
  lib = await loadCv();
});

const shelf = STARTER_SHELF;
const history = (part: Partial<PatchHistory> = {}, substrate = shelf.substrates[0]): PatchHistory =>
  exampleHistory({ patchMm: SIZE, settings: exampleSettings({ substrate }), ...part });
const SIZE = 30;
const SHOT: Shot = {
  seed: 8,
  stage: 'dry',
  pxPerMm: 8,
  tiltDeg: 8,
  kelvin: 4500,
  falloff: 0.2,
  blurPx: 0.7,
  noise: 0.005,
};

const take = (shot: Partial<Shot> = {}, h = history()) =>
  photograph(
    simulateProcess(h),
    target(h.patchMm),
    card(h.patchMm),
    h.settings.substrate,
    h.settings.preparation,
    {
      ...SHOT,
      ...shot,
    },
  );

async function readShot(shot: Partial<Shot> = {}, h = history()) {
  const taken = take(shot, h);
  const photo = await decode(await encodeJpeg(taken.photo, 85));
  return {
    taken,
    read: readPhoto(lib.cv, photo, card(h.patchMm), referenceOf(target(h.patchMm)), {
      stage: shot.stage ?? 'dry',
    }),
  };
}

describe('a photo through the card', () => {
  for (const ground of [0])
    it(`on ${shelf.substrates[ground].name.toLowerCase()} gives landed and veil close to the truth`, async () => {
      const { taken, read } = await readShot(
        { seed: 20 + ground },
        history({ seed: 30 + ground }, shelf.substrates[ground]),
      );
      expect(read.ok).toBe(true);
      if (!read.ok) return;
      expect(Math.abs(read.value.reading.landed! - taken.landed)).toBeLessThan(5);
      expect(Math.abs(read.value.reading.veil! - taken.veil)).toBeLessThan(0.06);
      expect(read.value.reading.mirrored).toBe(false);
      // Weave breaks thin lines; grain breaks the finest.
      if (ground !== 3) expect(read.value.reading.detail).toBeLessThanOrEqual(0.7);
      expect(read.value.straight.w).toBe(10 * SIZE);
    });

  it('says when the picture is backwards, and how far it is turned', async () => {
    const { read } = await readShot({ backwards: true });
    expect(read.ok && read.value.reading.mirrored).toBe(true);
    for (const turn of [90] as const) {
      const turned = await readShot({ turn });
      expect(turned.read.ok && [turned.read.value.reading.turn, turned.read.value.reading.mirrored]).toEqual([
        turn,
        false,
      ]);
      if (turned.read.ok)
        expect(Math.abs(turned.read.value.reading.landed! - turned.taken.landed)).toBeLessThan(6);
    }
  });

  it('sees what was lost too early, and keeps map and list in step', async () => {
    const { taken, read } = await readShot({}, history({ driedHours: 4 }));
    expect(taken.landed).toBeLessThan(70);
    if (!read.ok) throw new ProblemError(read.problem);
    const { reading } = read.value;
    expect(Math.abs(reading.landed! - taken.landed)).toBeLessThan(5);
    expect(reading.bare.length).toBeGreaterThan(3);
    expect(reading.maps!.state.w).toBe(120);
  });

  it('does not take half of it bare on a white ground under thick paper for thicker paper', async () => {
    const canvas = shelf.substrates.find(s => s.id === 'primed-canvas')!;
    const { taken, read } = await readShot({}, history({ driedHours: 4, rounds: 1, seed: 12 }, canvas));
    expect(taken.veil).toBeGreaterThan(0.25);
    expect(taken.landed).toBeLessThan(70);
    if (!read.ok) throw new ProblemError(read.problem);
    expect(Math.abs(read.value.reading.landed! - taken.landed)).toBeLessThan(8);
    expect(Math.abs(read.value.reading.veil! - taken.veil)).toBeLessThan(0.08);
  });

  it('is read as well through a card that was printed smaller than it says', async () => {
    // In the card's own millimetres the picture is then larger.
    const h = history({ patchMm: SIZE / 0.97 });
    const { substrate, preparation } = h.settings;
    const taken = photograph(simulateProcess(h), target(h.patchMm), card(SIZE), substrate, preparation, SHOT);
    const photo = await decode(await encodeJpeg(taken.photo, 85));
    const read = readPhoto(lib.cv, photo, card(SIZE), referenceOf(target(SIZE)), { stage: 'dry' });
    if (!read.ok) throw new ProblemError(read.problem);
    expect(Math.abs(read.value.reading.landed! - taken.landed)).toBeLessThan(3);
    expect(read.value.reading.quality.residualMm).toBeLessThan(0.2);
  });

  it('gives no veil of a wet patch, since paper is invisible then', async () => {
    const { read } = await readShot({ stage: 'wet' });
    expect(read.ok && read.value.reading.veil).toBeNull();
    expect(read.ok && read.value.reading.notes.join()).toMatch(/wet/);
  });
});

describe('a photo that cannot be trusted', () => {
  const refused = async (shot: Partial<Shot>) => {
    const { read } = await readShot(shot);
    if (read.ok) throw new Error('was not refused');
    expect(read.problem.wayOut).toBeTruthy();
    return read.problem.code;
  };
  it('because it is blurred', async () => expect(await refused({ blurPx: 2.3, pxPerMm: 8 })).toBe('blurred'));
  it('because it is so blurred that its markers cannot be made out', async () => {
    const { read } = await readShot({ blurPx: 16, pxPerMm: 8 });
    expect(read.ok || read.problem).toMatchObject({
      code: 'no-card',
      say: expect.stringContaining('blurred'),
      wayOut: expect.stringContaining('focus'),
    });
  });
  it('because of glare', async () => expect(await refused({ glare: true })).toBe('glare'));
  it('because it is too far away', async () =>
    expect(['too-small', 'markers-hidden', 'no-card']).toContain(await refused({ pxPerMm: 4 })));
  it('because no card is in it', async () => {
    const blank = { w: 600, h: 400, data: new Uint8ClampedArray(600 * 400 * 4).fill(120) };
    const read = readPhoto(lib.cv, blank, card(SIZE), referenceOf(target(SIZE)), { stage: 'dry' });
    expect(!read.ok && read.problem.code).toBe('no-card');
  });
  let plain: ReturnType<typeof take>;
  beforeAll(() => {
    plain = take();
  });
  it('because half of the card is cut off', () => {
    const { w, h, data } = plain.photo;
    const half = Math.floor(h / 2);
    const read = readPhoto(
      lib.cv,
      { w, h: half, data: data.subarray(0, half * w * 4) },
      card(SIZE),
      referenceOf(target(SIZE)),
      { stage: 'dry' },
    );
    expect(!read.ok && read.problem.code).toBe('markers-hidden');
  });
  it('because it is too dark', () => {
    const { photo } = plain;
    const dark = { ...photo, data: photo.data.map((v, i) => (i % 4 === 3 ? 255 : v * 0.2)) };
    const read = readPhoto(lib.cv, dark, card(SIZE), referenceOf(target(SIZE)), { stage: 'dry' });
    expect(!read.ok && read.problem.code).toBe('too-dark');
  });
});

describe('the shape of a bare patch', () => {
  const look = {
    area: 8,
    stretch: 1.1,
    filled: 0.95,
    circled: 0.95,
    near: { top: 150, left: 150, bottom: 150, right: 150 },
    deep: 0,
    reach: 0,
    otherReach: 0,
    among: 1,
  };
  const torn = { ...look, filled: 0.5, circled: 0.4 };
  it('is told from its proportions, from what it touches and from how many there are', () => {
    expect(shapeOf(look)).toBe('round');
    expect(shapeOf({ ...torn, stretch: 5 })).toBe('streak');
    expect(shapeOf({ ...torn, stretch: 2.9 })).toBe('streak');
    expect(shapeOf({ ...torn, stretch: 2.7 })).toBe('ragged');
    expect(shapeOf({ ...torn, area: 1.2 })).toBe('ragged');
    expect(shapeOf({ ...torn, area: 1.2, among: 12 })).toBe('speckle');
    expect(shapeOf({ ...look, area: 2.4, among: 12 })).toBe('speckle');
    expect(shapeOf({ ...look, area: 2.6, among: 12 })).toBe('round');
  });
  it('is a band where it follows one side, a corner where it goes about as far along two', () => {
    const top = { ...look, stretch: 5, near: { ...look.near, top: 0 } };
    expect(shapeOf({ ...top, reach: 9, deep: 2 })).toBe('edge band');
    // A deep hole that only just touches the side is none.
    expect(shapeOf({ ...top, stretch: 1.1, reach: 2, deep: 4 })).toBe('round');
    const both = { ...torn, near: { ...look.near, top: 0, left: 2 }, deep: 2 };
    expect(shapeOf({ ...both, reach: 6, otherReach: 4 })).toBe('corner');
    expect(shapeOf({ ...both, reach: 13, otherReach: 4 })).toBe('edge band');
  });
  it('is round though white parts of the picture hide some of it', () => {
    expect(shapeOf({ ...torn, circled: 0.85, stretch: 3 })).toBe('round');
  });
});
