import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { loadCv } from '../../cli/node-cv.ts';
import { barePatches } from './bare.ts';
import type { Cv } from './cv.ts';
import { SORT_PX } from './px.ts';

const MM = SORT_PX;
const SIDE = 40 * MM;
let lib: { cv: Cv };
beforeAll(async () => {
  lib = await loadCv();
});

/** A mask of what lies inside, in mm from the top left. */
function mask(inside: (x: number, y: number) => boolean): Uint8Array {
  const out = new Uint8Array(SIDE * SIDE);
  for (let y = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++) out[y * SIDE + x] = inside((x + 0.5) / MM, (y + 0.5) / MM) ? 255 : 0;
  return out;
}
const patches = (inside: (x: number, y: number) => boolean) => barePatches(lib.cv, mask(inside), SIDE);
const disc = (cx: number, cy: number, r: number) => (x: number, y: number) => Math.hypot(x - cx, y - cy) <= r;
const bar = (cx: number, cy: number, long: number, wide: number, degrees: number) => {
  const turn = (degrees * Math.PI) / 180;
  return (x: number, y: number) => {
    const [dx, dy] = [x - cx, y - cy];
    const [u, v] = [dx * Math.cos(turn) + dy * Math.sin(turn), dy * Math.cos(turn) - dx * Math.sin(turn)];
    return Math.abs(u) <= long / 2 && Math.abs(v) <= wide / 2;
  };
};

describe('bare patches', () => {
  it('are none on a whole picture, and none below a square millimetre', () => {
    expect(patches(() => false)).toEqual([]);
    expect(patches(disc(20, 20, 0.5))).toEqual([]);
  });

  it('that are round are round, in their place, with their area and their distance from the edge, for any disc', () => {
    const at = fc.double({ min: 8, max: 32, noNaN: true });
    fc.assert(
      fc.property(at, at, fc.double({ min: 1.3, max: 5, noNaN: true }), (x, y, r) => {
        const [one, ...more] = patches(disc(x, y, r));
        expect(more).toEqual([]);
        expect(one.shape).toBe('round');
        expect(Math.hypot(one.x - x, one.y - y)).toBeLessThan(0.1);
        // A disc of pixels is off by a share of those at its rim.
        expect(Math.abs(one.area - Math.PI * r * r)).toBeLessThan(0.06 * 2 * Math.PI * r);
        expect(Math.abs(one.edge - (Math.min(x, y, 40 - x, 40 - y) - r))).toBeLessThan(0.3);
      }),
      { numRuns: 25 },
    );
  });

  it('that are long are streaks with their direction, for any turn', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 179 }), degrees => {
        const [one] = patches(bar(20, 20, 16, 1.6, degrees));
        expect(one.shape).toBe('streak');
        expect(one.area).toBeCloseTo(16 * 1.6, -0.5);
        const off = Math.abs(one.along - degrees) % 180;
        expect(Math.min(off, 180 - off)).toBeLessThan(3);
      }),
      { numRuns: 25 },
    );
  });

  it('along a side are edge bands, in a corner a corner', () => {
    const band = (side: string) => (x: number, y: number) =>
      ({ top: y < 1.6, right: x > 38.4, bottom: y > 38.4, left: x < 1.6 })[side] ?? false;
    for (const side of ['top', 'right', 'bottom', 'left']) {
      const [one] = patches(band(side));
      expect(one.shape).toBe('edge band');
      expect(one.edge).toBe(0);
      expect(one.area).toBeCloseTo(64, 0);
    }
    expect(patches((x, y) => x + y < 7)[0].shape).toBe('corner');
    expect(patches((x, y) => x + (40 - y) < 7)[0].shape).toBe('corner');
  });

  it('are told apart and come largest first; what touches by a corner is one', () => {
    const three = [disc(10, 10, 2), disc(30, 12, 4), disc(18, 32, 3)];
    const found = patches((x, y) => three.some(inside => inside(x, y)));
    expect(found.map(p => Math.round(p.x))).toEqual([30, 18, 10]);
    const touching = patches(
      (x, y) => (x >= 10 && x < 12 && y >= 10 && y < 12) || (x >= 12 && x < 14 && y >= 12 && y < 14),
    );
    expect(touching).toHaveLength(1);
    expect(touching[0].area).toBeCloseTo(8, 5);
  });

  it('that are torn are ragged', () => {
    const star = (x: number, y: number) => {
      const [dx, dy] = [x - 20, y - 20];
      return Math.hypot(dx, dy) < 3 + 3.2 * Math.cos(5 * Math.atan2(dy, dx));
    };
    expect(patches(star)[0].shape).toBe('ragged');
  });
});
