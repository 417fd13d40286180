import { describe, expect, it } from 'vitest';
import { loadCv } from '../../cli/node-cv.ts';
import type { Sorted } from './classify.ts';
import type { Plane } from './cv.ts';
import type { Ground } from './ground.ts';
import type { Reference } from './reference.ts';
import { tally } from './tally.ts';
import { addUp, landedGive, stainOf } from './totals.ts';

const SIDE = 60;
const COUNT = SIDE * SIDE;
const plane = (value: (x: number, y: number) => number): Plane => ({
  w: SIDE,
  h: SIDE,
  data: Float32Array.from({ length: COUNT }, (_, i) => value(i % SIDE, Math.floor(i / SIDE))),
});
const flags = (is: (x: number, y: number) => boolean) =>
  Uint8Array.from({ length: COUNT }, (_, i) => (is(i % SIDE, Math.floor(i / SIDE)) ? 1 : 0));
const sorted = (part: Partial<Sorted> = {}): Sorted => ({
  lost: Float32Array.from(part.bare ?? new Uint8Array(COUNT)),
  w: SIDE,
  h: SIDE,
  inked: flags(() => true),
  visible: flags(() => true),
  bare: flags(() => false),
  veil: new Float32Array(COUNT),
  odds: new Float32Array(COUNT).fill(12),
  ink: { depth: 0, gain: 0 },
  cells: [],
  ...part,
});
const ground = (light: number, scatter: number): Ground => {
  const even = new Float32Array(COUNT).fill(light);
  const flat = [0, 0, 0, 0, 0, 0] as const;
  const grain = [scatter ** 2, scatter ** 2, scatter ** 2, 0, 0, 0] as const;
  return {
    base: [even, even, even],
    grain,
    wide: flat,
    unsure: new Float32Array(COUNT),
    pixels: COUNT,
    darker: 0,
  };
};
const pictured = (light: Plane): Reference => ({ w: SIDE, h: SIDE, rgb: [light, light, light], light });
const grey = (value: number): readonly [Plane, Plane, Plane] => {
  const p = plane(() => value);
  return [p, p, p];
};

/** An image library that finds no connected areas. */
const mats = {
  Mat: class {
    delete() {}
    data32S = [];
    data32F = new Float32Array(COUNT);
  },
  matFromArray: () => new mats.Mat(),
  distanceTransform: () => {},
  connectedComponentsWithStats: () => 1,
  CV_8U: 0,
  CV_32S: 4,
};

describe('what is bare in specks', () => {
  const notes = async (bare: (x: number, y: number) => boolean) => {
    const { cv } = await loadCv();
    const reading = addUp(
      cv,
      {
        seen: grey(0.1),
        reference: pictured(plane(() => 0.05)),
        ground: ground(0.8, 0.01),
        sorted: sorted({ bare: flags(bare) }),
        found: {} as never,
        stage: 'dry',
        quality: {} as never,
        detail: null,
        smear: null,
        tone: null,
      },
      false,
    );
    return { notes: reading.notes.join(' '), listed: reading.bare.length };
  };

  it('is said where it adds up, though none of it is large enough for the list', async () => {
    // Specks of two by two, in every five by five of three quarters of it.
    const specks = await notes((x, y) => x % 5 < 2 && y % 5 < 2 && (x < 30 || y < 30));
    expect(specks.listed).toBe(0);
    expect(specks.notes).toMatch(/About 12 % of it is bare in specks/);
    const patch = await notes((x, y) => x >= 10 && x < 30 && y >= 10 && y < 40);
    expect(patch.listed).toBe(1);
    expect(patch.notes).not.toMatch(/specks/);
    expect((await notes((x, y) => x % 20 === 0 && y % 2 === 0)).notes).not.toMatch(/specks/);
  });
});

describe('stain', () => {
  const of = (seen: number, scatter: number) =>
    stainOf({ seen: grey(seen), reference: pictured(plane(() => 1)), ground: ground(0.5, scatter) });

  it('is what is darker than a fifth less than the ground, and than grain explains', () => {
    // An even ground: a fifth less decides.
    expect([of(0.399, 0.01), of(0.401, 0.01)]).toEqual([100, 0]);
    // A grainy one: three of its scatters and a little more.
    expect([of(0.309, 0.05), of(0.311, 0.05)]).toEqual([100, 0]);
  });

  it('is the share of the white parts 0.6 mm clear of ink, and not given without enough of them', () => {
    const ink = plane(x => (x < 30 ? 1 : 0));
    const part = stainOf({
      seen: [0, 1, 2].map(() => plane((_, y) => (y < 30 ? 0.1 : 0.5))) as unknown as readonly [
        Plane,
        Plane,
        Plane,
      ],
      reference: pictured(ink),
      ground: ground(0.5, 0.01),
    });
    expect(part).toBe(50);
    const little = plane(x => (x < 6 ? 1 : 0));
    expect(stainOf({ seen: grey(0.1), reference: pictured(little), ground: ground(0.5, 0.01) })).toBeNull();
  });
});

describe('adding up', () => {
  const quality = { pxPerMm: 10, blurMm: 0.1, tiltDeg: 0, glare: 0, residualMm: 0.05, light: 0.9 };
  const found = { match: 0.9, mirrored: true, turn: 90, residualMm: 0.05, warp: [] };
  const parts = (s: Sorted, stage: 'wet' | 'dry' = 'dry') =>
    ({
      seen: grey(0.05),
      reference: pictured(plane(() => 0.05)),
      ground: ground(0.5, 0.01),
      sorted: s,
      found,
      stage,
      quality,
      detail: 0.351,
      smear: { smear: 0.404, along: 179.7 },
      tone: stage === 'dry' ? { tone: 2.04, deltaL: -1.26, deltaC: 0.34, give: 1 } : null,
    }) as const;
  // No area of a pixel is a bare patch of its own here: what is bare is scattered.
  const speckled = (share: number) =>
    sorted({ bare: flags((x, y) => (x * 7 + y * 13) % 100 < share * 100 && x % 2 === 0 && y % 2 === 0) });

  it('counts inked, of those visible, and of those bare', () => {
    const s = sorted({ visible: flags(x => x < 30), bare: flags((x, y) => x < 30 && y < 15) });
    expect(tally(s)).toEqual({ inked: COUNT, visible: COUNT / 2, bare: COUNT / 8 });
    expect(tally(speckled(0)).bare).toBe(0);
  });

  const made = (s: Sorted, stage: 'wet' | 'dry' = 'dry', isKnown = true) =>
    addUp(mats as never, parts(s, stage) as never, isKnown);
  const addUpOf = (other: never) => addUp(mats as never, { ...parts(sorted()), found: other } as never, true);

  it('gives landed over what can be seen, each edge of 2 mm for itself, and tones with enough area', () => {
    const s = sorted({ bare: flags((x, y) => x < 45 && y < 20), visible: flags(x => x < 45) });
    const reading = made(s);
    expect(reading.landed).toBeCloseTo(100 * (1 - 20 / 60), 1);
    expect(reading.visible).toBe(75);
    expect(reading.edges).toMatchObject({ top: 0, bottom: 100, left: 66.7 });
    expect(reading.landedByTone).toMatchObject({ dark: 66.7, mid: null, light: null });
    expect(reading.detail).toBe(0.35);
  });

  it('gives veil only from a dry photo, over what landed', () => {
    const veil = Float32Array.from({ length: COUNT }, (_, i) => (Math.floor(i / SIDE) < 20 ? 1 : 0.3));
    const s = sorted({ veil, bare: flags((_, y) => y < 20) });
    expect(made(s).veil).toBeCloseTo(0.3, 3);
    const wet = made(s, 'wet');
    expect([wet.veil, wet.veilGive, wet.tone]).toEqual([null, null, null]);
    expect(wet.notes.join(' ')).toMatch(/invisible while it is wet/);
  });

  it('says that a picture is backwards or turned only where it was known again', () => {
    const known = made(sorted());
    expect([known.mirrored, known.turn]).toEqual([true, 90]);
    expect(known.notes.join(' ')).toMatch(/backwards/);
    const guess = made(sorted(), 'dry', false);
    expect([guess.mirrored, guess.turn]).toEqual([false, 0]);
    expect(guess.notes.join(' ')).toMatch(/is a guess/);
  });

  it('keeps maps that say what each place is', () => {
    const s = sorted({
      inked: flags(x => x >= 15),
      visible: flags(x => x < 45),
      bare: flags(x => x >= 15 && x < 30),
    });
    const { state } = made(s).maps!;
    const bytes = Uint8Array.from(atob(state.data), c => c.charCodeAt(0));
    expect([state.w, state.h, bytes.length]).toEqual([48, 48, 48 * 48]);
    expect([4, 16, 28, 40].map(x => bytes[24 * 48 + x])).toEqual([0, 2, 1, 3]);
  });

  it('gives a band of 2 mm to each side and to no other', () => {
    const band = (is: (x: number, y: number) => boolean) => made(sorted({ bare: flags(is) })).edges;
    // 2 mm are 10 pixels; the eleventh is inside.
    expect(band((_, y) => y < 10)).toMatchObject({ top: 0, bottom: 100 });
    expect(band((_, y) => y === 10)).toMatchObject({ top: 100, bottom: 100 });
    expect(band((_, y) => y >= SIDE - 10)).toMatchObject({ top: 100, bottom: 0 });
    expect(band((_, y) => y === SIDE - 11)).toMatchObject({ top: 100, bottom: 100 });
    expect(band(x => x < 10)).toMatchObject({ left: 0, right: 100 });
    expect(band(x => x === 10)).toMatchObject({ left: 100, right: 100 });
    expect(band(x => x >= SIDE - 10)).toMatchObject({ left: 100, right: 0 });
    expect(band(x => x === SIDE - 11)).toMatchObject({ left: 100, right: 100 });
    expect(made(sorted({ inked: flags(x => x >= 10) })).edges.left).toBe(0);
  });

  it('gives smear with its direction, and tone with lightness and chroma', () => {
    const reading = made(sorted());
    expect([reading.smear, reading.smearAlong]).toEqual([0.4, 0]);
    expect([reading.tone, reading.deltaL, reading.deltaC]).toEqual([2, -1.3, 0.3]);
  });

  it('is as sure of what landed as its pixels are', () => {
    const odds = (value: number) => landedGive(sorted({ odds: new Float32Array(COUNT).fill(value) }), 0);
    expect(odds(12)).toBeCloseTo(0.3 + 1.645 * 100 * Math.sqrt(Math.exp(-12)) * Math.sqrt(1 / 64), 1);
    // Sixty-four squares of 7.5 pixels, each wrong as a whole or not at all, with even odds: an eighth of a half.
    expect(odds(1.6)).toBeCloseTo(0.3 + 164.5 * (Math.sqrt(0.832 * 0.168) / 8), 0);
    expect(odds(1.4)).toBeGreaterThan(odds(1.6) + 20);
    const one = sorted({ odds: Float32Array.from({ length: COUNT }, (_, i) => (i % SIDE < 3 ? 0 : 12)) });
    expect(landedGive(one, 0)).toBeLessThan(6);
    const hole = sorted({ bare: flags((x, y) => x > 20 && x < 40 && y > 20 && y < 40) });
    expect(landedGive(hole, 0.5)).toBeGreaterThan(landedGive(hole, 0) + 0.3);
    // Specks of which only a share of each pixel is gone are known less well than a hole as large.
    const specks = sorted({ lost: new Float32Array(COUNT).fill(0.1) });
    expect(landedGive(specks, 0)).toBeCloseTo(0.3 + 1.645 * 2.5, 1);
    // The rim of a hole goes by how well the picture lies on its place, not by how well colours are known.
    const [inside, around] = [
      flags((x, y) => x > 20 && x < 40 && y > 20 && y < 40),
      flags((x, y) => x > 19 && x < 41 && y > 19 && y < 41),
    ];
    const rim = (share: number) =>
      landedGive(
        sorted({
          bare: inside,
          lost: Float32Array.from(inside, (on, i) => on || share * around[i]),
        }),
        0,
      );
    expect(rim(0.5)).toBeLessThan(rim(0) + 0.1);
    const apart = Float32Array.from({ length: COUNT }, (_, i) => (i % 5 ? 0 : 0.5));
    expect(landedGive(sorted({ lost: apart }), 0)).toBeCloseTo(0.3 + 1.645 * 2.5, 1);
    expect(landedGive(sorted({ visible: flags(() => false) }), 0)).toBe(100);
  });

  it('is less sure of a veil the thicker it is, and on a ground without a colour of its own', () => {
    const veiled = (h: number, base: readonly number[]) => {
      const planes = base.map(v => new Float32Array(COUNT).fill(v)) as unknown as Ground['base'];
      const s = sorted({ veil: new Float32Array(COUNT).fill(h) });
      return addUp(
        mats as never,
        { ...parts(s), ground: { ...ground(0.5, 0.01), base: planes } } as never,
        true,
      ).veilGive!;
    };
    const oak = [0.5, 0.35, 0.2];
    const tile = [0.9, 0.9, 0.9];
    expect(veiled(0.5, oak)).toBeGreaterThan(veiled(0.1, oak));
    expect(veiled(0.1, tile)).toBeGreaterThan(2 * veiled(0.1, oak));
    expect(veiled(0, oak)).toBeCloseTo(
      1.645 * Math.hypot(0.008, 0.035 * 0.35 * (0.08 / Math.hypot(0.15, 0, 0.15))),
      3,
    );
  });

  it('says nothing more than what there is to say', () => {
    const fine = addUpOf({ ...found, mirrored: false } as never);
    expect(fine.notes).toEqual([]);
    expect(made(sorted()).notes).toEqual(['The picture is backwards.']);
    expect(made(sorted(), 'wet').notes).toHaveLength(2);
    expect(fine.detail).toBe(0.35);
  });

  it('gives veil only where enough of what was inked landed', () => {
    const landedIn = (rows: number) =>
      made(sorted({ bare: flags((_, y) => y >= rows), veil: new Float32Array(COUNT).fill(0.2) })).veil;
    // A twentieth of sixty rows is three.
    expect([landedIn(3), landedIn(4)]).toEqual([null, 0.2]);
    const hidden = sorted({
      visible: flags(x => x < 30),
      veil: Float32Array.from({ length: COUNT }, (_, i) => (i % SIDE < 30 ? 0.2 : 0.8)),
    });
    expect(made(hidden).veil).toBeCloseTo(0.2, 6);
    const white = sorted({ inked: flags(x => x < 30), veil: hidden.veil });
    expect(made(white).veil).toBeCloseTo(0.2, 6);
  });
});

describe('landed by tone', () => {
  const of = (ink: (x: number, y: number) => number, part: Partial<Sorted> = {}) => {
    const found = { match: 0.9, mirrored: false, turn: 0, residualMm: 0.05, warp: [] } as never;
    const quality = { pxPerMm: 10, blurMm: 0.1, tiltDeg: 0, glare: 0, residualMm: 0.05, light: 0.9 };
    return addUp(
      mats as never,
      {
        seen: grey(0.05),
        reference: pictured(plane(ink)),
        ground: ground(0.5, 0.01),
        sorted: sorted(part),
        found,
        stage: 'wet',
        quality,
        detail: null,
        smear: null,
        tone: null,
      },
      true,
    ).landedByTone;
  };
  it('parts the picture at 0.12 and 0.35, each end with the darker side', () => {
    const bare = flags(x => x < 30);
    expect(of(x => (x < 30 ? 0.1201 : 0), { bare })).toEqual({ dark: 100, mid: 0, light: null });
    expect(of(x => (x < 30 ? 0.3501 : 0.1201), { bare })).toEqual({ dark: null, mid: 100, light: 0 });
    expect(of(x => (x < 30 ? 0.1199 : 0.6001), { bare })).toEqual({ dark: 0, mid: null, light: null });
  });
  it('needs forty pixels that can be seen', () => {
    const seen = (count: number) => of(() => 0.05, { visible: flags((x, y) => y * SIDE + x < count) }).dark;
    expect([seen(39), seen(40)]).toEqual([null, 100]);
  });
});
