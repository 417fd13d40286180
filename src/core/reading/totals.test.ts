import { describe, expect, it } from 'vitest';
import type { Sorted } from './classify.ts';
import type { Plane } from './cv.ts';
import { addUp, stainOf, tally } from './totals.ts';

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
  side: SIDE,
  inked: flags(() => true),
  visible: flags(() => true),
  bare: flags(() => false),
  veil: new Float32Array(COUNT),
  doubt: 0,
  ...part,
});
const ground = (light: number, scatter: number) => ({
  at: () => [light, light, light] as const,
  cov: [0, scatter ** 2, 0, 0, 0, 0] as const,
});
const grey = (value: number): readonly [Plane, Plane, Plane] => {
  const p = plane(() => value);
  return [p, p, p];
};

describe('stain', () => {
  const of = (seen: number, scatter: number) =>
    stainOf({ seen: grey(seen), ink: plane(() => 1), ground: ground(0.5, scatter), sorted: sorted() });

  it('is what is darker than a fifth less than the ground, and than grain explains', () => {
    // An even ground: a fifth less decides.
    expect([of(0.399, 0.01), of(0.401, 0.01)]).toEqual([100, 0]);
    // A grainy one: three of its scatters and a little more.
    expect([of(0.309, 0.05), of(0.311, 0.05)]).toEqual([100, 0]);
  });

  it('is the share of the white parts half a millimetre clear of ink, and not given without enough of them', () => {
    const ink = plane(x => (x < 30 ? 1 : 0));
    const part = stainOf({
      seen: [0, 1, 2].map(() => plane((_, y) => (y < 30 ? 0.1 : 0.5))) as unknown as readonly [
        Plane,
        Plane,
        Plane,
      ],
      ink,
      ground: ground(0.5, 0.01),
      sorted: sorted(),
    });
    expect(part).toBe(50);
    const little = plane(x => (x < 12 ? 1 : 0));
    expect(stainOf({ seen: grey(0.1), ink: little, ground: ground(0.5, 0.01), sorted: sorted() })).toBeNull();
  });
});

describe('adding up', () => {
  const quality = { pxPerMm: 10, blurMm: 0.1, tiltDeg: 0, glare: 0, residualMm: 0.05, light: 0.9 };
  const found = { match: 0.9, mirrored: true, turn: 90, residualMm: 0.05, warp: [] } as never;
  const parts = (s: Sorted, stage: 'wet' | 'dry' = 'dry') =>
    ({
      seen: grey(0.05),
      ink: plane(() => 0.05),
      ground: ground(0.5, 0.01),
      sorted: s,
      found,
      stage,
      quality,
      detail: 0.351,
    }) as const;
  // No area of a pixel is a bare patch of its own here: what is bare is scattered.
  const speckled = (share: number) =>
    sorted({ bare: flags((x, y) => (x * 7 + y * 13) % 100 < share * 100 && x % 2 === 0 && y % 2 === 0) });

  it('counts inked, of those visible, and of those bare', () => {
    const s = sorted({ visible: flags(x => x < 30), bare: flags((x, y) => x < 30 && y < 15) });
    expect(tally(s)).toEqual({ inked: COUNT, visible: COUNT / 2, bare: COUNT / 8 });
    expect(tally(speckled(0)).bare).toBe(0);
  });

  const withoutShapes = { connectedComponentsWithStats: () => 1 };
  const made = (s: Sorted, stage: 'wet' | 'dry' = 'dry', isKnown = true) => {
    const mats = {
      Mat: class {
        delete() {}
        data32S = [];
        doubleAt = () => 0;
        intAt = () => 0;
        data = new Uint8Array(COUNT);
        set() {}
      },
      matFromArray: () => new mats.Mat(),
      ...withoutShapes,
      CV_8U: 0,
      CV_8UC1: 0,
      CV_32S: 4,
    };
    return addUp(mats as never, parts(s, stage), isKnown);
  };

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
    expect(made(s).veilGive).toBeCloseTo(0.02 + 0.08 * 0.3, 3);
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
    expect([state.w, state.h, bytes.length]).toEqual([24, 24, 576]);
    expect([2, 8, 14, 20].map(x => bytes[12 * 24 + x])).toEqual([0, 2, 1, 3]);
  });
});
