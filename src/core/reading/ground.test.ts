import { beforeAll, describe, expect, it } from 'vitest';
import { loadCv } from '../../cli/node-cv.ts';
import { decode, encodeJpeg } from '../../cli/node-image.ts';
import { ProblemError } from '../outcome/index.ts';
import { card, target } from '../print/index.ts';
import { write } from '../say/index.ts';
import { said } from '../say/testing.ts';
import { STARTER_SHELF, type Substrate } from '../shelf/index.ts';
import { exampleHistory, untouched } from '../simulator/example.ts';
import { type PatchOutcome, photograph, type Shot, simulateProcess } from '../simulator/index.ts';
import { ground } from '../simulator/look.ts';
import { type Cv, type Pixels, readGround, readPhoto, referenceOf } from './index.ts';

let cv: Cv;
beforeAll(async () => {
  cv = (await loadCv()).cv;
});

const CARD = card(30);
const NONE = STARTER_SHELF.preparations.find(p => p.id === 'none')!;
/** A patch on which nothing was ever laid: the window shows the bare ground. */
const NOTHING = untouched(30);
const SHOT: Shot = { seed: 11, stage: 'dry', pxPerMm: 8, tiltDeg: 6, falloff: 0.25, blurPx: 0.7 };

async function blank(substrate: Substrate, shot: Partial<Shot> = {}): Promise<Pixels> {
  const taken = photograph(NOTHING, target(30), CARD, substrate, NONE, { ...SHOT, ...shot });
  return decode(await encodeJpeg(taken.photo, 85));
}

/** The median colour that the ground really has inside the window. */
function truly(substrate: Substrate, seed: number): number[] {
  const at = ground(substrate, NONE, seed + 77);
  const { x, y, w, h } = CARD.window;
  const seen: (readonly number[])[] = [];
  for (let i = 0; i < 60; i++)
    for (let k = 0; k < 60; k++) seen.push(at(x + (w * (i + 0.5)) / 60, y + (h * (k + 0.5)) / 60));
  return [0, 1, 2].map(c => seen.map(s => s[c]).sort((p, q) => p - q)[seen.length >> 1]);
}

describe('the colour of a ground photographed through the card', () => {
  it('is the one it has, by warm, cold and middling light, with more scatter where there is grain', async () => {
    const scatter: number[] = [];
    for (const [id, kelvin] of [
      ['birch', 2700],
      ['glazed', 7500],
      ['slate', 5000],
    ] as const) {
      const substrate = STARTER_SHELF.substrates.find(s => s.name.toLowerCase().includes(id))!;
      const seen = readGround(cv, await blank(substrate, { kelvin }), CARD);
      if (!seen.ok) throw new ProblemError(seen.problem);
      const real = truly(substrate, SHOT.seed);
      // A cube root of light is about as even to the eye as CIE lightness: 0.045 is some four steps of L*.
      for (let c = 0; c < 3; c++)
        expect(
          Math.abs(Math.cbrt(seen.value.colour[c]) - Math.cbrt(real[c])),
          `${id}, channel ${c}`,
        ).toBeLessThan(0.045);
      scatter.push(seen.value.scatter);
    }
    expect(scatter[0]).toBeGreaterThan(2 * scatter[1]);
  });

  it('is not given where the ground shines or no card is seen', async () => {
    const [plywood] = STARTER_SHELF.substrates;
    const shining = readGround(cv, await blank(plywood, { glare: true }), CARD);
    expect(!shining.ok && [shining.problem.code, !!shining.problem.wayOut]).toEqual(['glare', true]);
    const desk = { w: 500, h: 400, data: new Uint8ClampedArray(500 * 400 * 4).fill(150) };
    const none = readGround(cv, desk, CARD);
    expect(!none.ok && none.problem.code).toBe('no-card');
  });
});

describe('what is in the window', () => {
  const [plywood] = STARTER_SHELF.substrates;
  const seen = async (outcome: PatchOutcome, picture = target(30), shot: Partial<Shot> = {}) => {
    const { photo } = photograph(outcome, picture, CARD, plywood, NONE, { ...SHOT, ...shot });
    return readPhoto(cv, await decode(await encodeJpeg(photo, 85)), CARD, referenceOf(target(30)), {
      stage: 'dry',
    });
  };

  it('may be nothing of the picture: then all of it is bare, and where it was is assumed and said', async () => {
    const read = await seen(NOTHING);
    if (!read.ok) throw new ProblemError(read.problem);
    expect(read.value.reading.landed).toBeLessThan(6);
    expect(read.value.reading.notes.join()).toMatch(/Almost nothing landed/);
    // Grain that looks a little like a picture turned about is no maker's mistake.
    expect([read.value.reading.mirrored, read.value.reading.turn]).toEqual([false, 0]);
    expect(read.value.reading.notes.join()).not.toMatch(/backwards/);
  });

  it('may be another picture: no numbers are given for that', async () => {
    const all = simulateProcess(exampleHistory({ patchMm: 30 }));
    const black = { x: 3, y: 13, w: 24, h: 4.5 };
    const corners = [
      [black.x, black.y],
      [black.x + black.w, black.y],
      [black.x + black.w, black.y + black.h],
      [black.x, black.y + black.h],
    ] as const;
    const read = await seen(all, { ...target(30), shapes: [{ points: corners, grey: 0 }] });
    expect(read.ok).toBe(false);
    if (!read.ok) expect(write(read.problem.wayOut ?? '')).toMatch(/\S/);
  });

  it('may be seen too steeply', async () => {
    const read = await seen(simulateProcess(exampleHistory({ patchMm: 30 })), target(30), {
      tiltDeg: 52,
      pxPerMm: 12,
    });
    expect(!read.ok && ['tilted', 'markers-hidden', 'no-card']).toContain(!read.ok && read.problem.code);
  });
});

describe('a patch read with a photo of the blank ground', () => {
  const [plywood] = STARTER_SHELF.substrates;
  let taken: ReturnType<typeof photograph> | undefined;
  const patch = () => {
    if (taken) return taken;
    const history = exampleHistory({ patchMm: 30 });
    taken = photograph(
      simulateProcess(history),
      target(30),
      CARD,
      plywood,
      history.settings.preparation,
      SHOT,
    );
    return taken;
  };

  it('lands what is true of it', async () => {
    const { photo, landed } = patch();
    const read = readPhoto(cv, photo, CARD, referenceOf(target(30)), {
      stage: 'dry',
      blank: await blank(plywood),
    });
    if (!read.ok) throw new ProblemError(read.problem);
    expect(Math.abs(read.value.reading.landed! - landed)).toBeLessThan(5);
  });

  it('is refused with the blank’s own reason where that cannot be used', async () => {
    const dark = { w: 600, h: 400, data: new Uint8ClampedArray(600 * 400 * 4).fill(40) };
    const read = readPhoto(cv, patch().photo, CARD, referenceOf(target(30)), { stage: 'dry', blank: dark });
    expect(!read.ok && read.problem.code).toBe('blank');
    expect(said(!read.ok && read.problem.say)).toMatch(/^The photo of the blank cannot be used\. \S/);
  });
});
