import { beforeAll, describe, expect, it } from 'vitest';
import { loadCv } from '../../cli/node-cv.ts';
import { decode, encodeJpeg } from '../../cli/node-image.ts';
import { ProblemError } from '../outcome/index.ts';
import { isDull, looksWet } from '../photos/index.ts';
import { card, target } from '../print/index.ts';
import { STARTER_SHELF, type Substrate } from '../shelf/index.ts';
import { exampleHistory, exampleSettings } from '../simulator/example.ts';
import { photograph, photographGround, type Shot, simulateProcess } from '../simulator/index.ts';
import type { Plane } from './cv.ts';
import { type Cv, glossIn, readGloss, readPhoto, referenceOf, wouldDo } from './index.ts';

let cv: Cv;
beforeAll(async () => {
  cv = (await loadCv()).cv;
});
const MM = 25;
const CARD = card(MM);
const NONE = STARTER_SHELF.preparations.find(p => p.id === 'none')!;
const named = (part: string): Substrate =>
  STARTER_SHELF.substrates.find(s => s.name.toLowerCase().includes(part))!;
const through = async (photo: Parameters<typeof encodeJpeg>[0]) => decode(await encodeJpeg(photo, 88));

describe('gloss left on a bare ground by a lamp from the side', () => {
  it.each([
    ['glazed', 0.3, 3],
    ['birch', 0, 8],
  ])('on %s of which %d still shines is that share', async (ground, glossy, seed) => {
    const taken = photographGround(named(ground), NONE, CARD, glossy, { seed });
    const seen = readGloss(cv, await through(taken.photo), CARD);
    if (!seen.ok) throw new ProblemError(seen.problem);
    expect(Math.abs(seen.value.gloss - taken.gloss)).toBeLessThan(3);
    expect(isDull(seen.value)).toBe(glossy === 0);
  });

  it('is not given of a finished patch, however its light is, and is of a bare ground that shines in places', async () => {
    const picture = referenceOf(target(MM));
    const settings = exampleSettings();
    const done = photograph(
      simulateProcess(exampleHistory({ patchMm: MM, settings })),
      target(MM),
      CARD,
      ...([settings.substrate, settings.preparation, { seed: 8, stage: 'dry', pxPerMm: 8 }] as const),
    );
    const refused = readGloss(cv, await through(done.photo), CARD, picture);
    expect(refused.ok || refused.problem.code).toBe('not-bare');
    const bare = photographGround(named('birch'), NONE, CARD, 0.4, { seed: 3 });
    const seen = readGloss(cv, await through(bare.photo), CARD, picture);
    expect(seen.ok && Math.abs(seen.value.gloss - bare.gloss)).toBeLessThan(3);
  });

  it('is not given without the card', () => {
    const desk = { w: 500, h: 400, data: new Uint8ClampedArray(500 * 400 * 4).fill(150) };
    const none = readGloss(cv, desk, CARD);
    expect(!none.ok && none.problem.code).toBe('no-card');
  });

  // Windows of 20 × 20 mm with a plain scatter, so many rows of which are lighter.
  const window = (light: number, scatter: number, rows: number, by: number) => {
    const [w, h] = [200, 200];
    const level = (i: number) => light + scatter * Math.sqrt(3) * (((i * 7919) % 2003) / 1001 - 1);
    const plane = (tint: number): Plane => ({
      ...{ w, h },
      data: Float32Array.from({ length: w * h }, (_, i) => tint * level(i) + (i < rows * w ? by : 0)),
    });
    return [plane(1), plane(0.8), plane(0.6)] as const;
  };

  it('counts what lies four scatters and 0.15 of paper white over the dull ground', () => {
    // The channel that got least tells; 8 mm of the 18.4 that are looked at (0.8 mm next to the card are left out).
    const share = (100 * (88 - 8)) / 184;
    expect(glossIn(window(0.3, 0.01, 88, 0.3)).gloss).toBeCloseTo(share, 0);
    expect(glossIn(window(0.3, 0.001, 88, 0.16)).gloss).toBeCloseTo(share, 0);
    expect(glossIn(window(0.3, 0.001, 88, 0.14)).gloss).toBe(0);
    // Of a strong grain it takes more.
    expect(glossIn(window(0.5, 0.1, 40, 0.1)).gloss).toBeLessThan(1);
    expect(glossIn(window(0.5, 0.1, 0, 0)).gloss).toBe(0);
  });

  it('says how unsure it is where the line might as well be drawn elsewhere', () => {
    expect(glossIn(window(0.3, 0.001, 88, 0.3)).uncertainty).toBe(0.5);
    expect(glossIn(window(0.3, 0.001, 88, 0.16)).uncertainty).toBeGreaterThan(10);
  });

  it('is all of it where all is lighter than paper', () => {
    expect(glossIn(window(1.9, 0.001, 0, 0))).toEqual({ gloss: 100, uncertainty: 0.5 });
    expect(glossIn(window(1.7, 0.001, 0, 0)).gloss).toBe(0);
  });
});

describe('a patch that is still damp', () => {
  const taken = (substrate: Substrate, stage: Shot['stage'], shot: Partial<Shot> = {}) =>
    photograph(
      simulateProcess(exampleHistory({ patchMm: MM, settings: exampleSettings({ substrate }) })),
      target(MM),
      CARD,
      ...([substrate, exampleSettings().preparation, { seed: 8, stage, pxPerMm: 8, ...shot }] as const),
    ).photo;

  it('is darker under the picture than round it, and that is said of one taken for dry', async () => {
    const of = async (stage: Shot['stage']) => {
      const read = readPhoto(cv, await through(taken(named('birch'), stage)), CARD, referenceOf(target(MM)), {
        stage: 'dry',
      });
      if (!read.ok) throw new ProblemError(read.problem);
      return read.value.reading;
    };
    const [dry, wet] = [await of('dry'), await of('wet')];
    expect(dry.darker).toBeLessThan(0.06);
    expect(wet.darker).toBeGreaterThan(0.12);
    expect(wet.notes.join()).toMatch(/darker than round it\. If it is still damp/);
    expect(dry.notes.join()).not.toMatch(/damp/);
  });

  it('is asked about from an eighth of its light on, unless those known to be dry are as dark', () => {
    const dry = (darker?: number) =>
      ({ reading: { reading: { darker } }, photo: { stage: 'dry' } }) as Parameters<
        typeof looksWet
      >[1][number];
    expect([looksWet(0.12, []), looksWet(0.119, []), looksWet(undefined, [])]).toEqual([true, false, false]);
    expect([looksWet(0.2, [dry(0.14)]), looksWet(0.2, [dry(0.16)]), looksWet(0.2, [dry()])]).toEqual([
      true,
      false,
      true,
    ]);
    // What was wet itself says nothing.
    expect(looksWet(0.2, [{ ...dry(0.2), photo: { stage: 'wet' } }])).toBe(true);
  });

  it('would be taken by the camera when it lies still, level and without glare, and not otherwise', async () => {
    const asked = (shot: Partial<Shot>) => wouldDo(cv, taken(named('birch'), 'dry', shot), CARD);
    expect(asked({ tiltDeg: 5 }).ok).toBe(true);
    for (const [shot, code] of [
      [{ glare: true, tiltDeg: 5 }, 'glare'],
      [{ blurPx: 2.3, pxPerMm: 8, tiltDeg: 5 }, 'blurred'],
    ] as const) {
      const no = asked(shot);
      expect(!no.ok && no.problem.code).toBe(code);
      expect(!no.ok && no.problem.wayOut).toBeTruthy();
    }
  });
});
