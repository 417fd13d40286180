import { beforeAll, describe, expect, it } from 'vitest';
import { loadCv } from '../../cli/node-cv.ts';
import { target } from '../print/index.ts';
import { chanceFrom } from '../random/index.ts';
import { blurPlane, type Cv, type Plane } from './cv.ts';
import { referenceOf } from './reference.ts';
import { type Affine, inPictureFrame, inverse, move, register } from './register.ts';

let cv: Cv;
beforeAll(async () => {
  ({ cv } = await loadCv());
});

const root = (plane: Plane): Plane => ({ ...plane, data: plane.data.map(v => Math.sqrt(Math.max(0, v))) });
const picture = root(referenceOf(target(25)).light);
/** How much of the window lies round the picture, pixels. */
const RIM = 30;

interface How {
  readonly mirrored?: boolean;
  readonly degrees?: number;
  readonly stretch?: readonly [number, number];
  readonly shift?: readonly [number, number];
}
/** A picture as it lies in its window: backwards or not, turned clockwise, stretched, shifted. */
function lying(
  { w, h }: Plane,
  { mirrored = false, degrees = 0, stretch = [1, 1], shift = [0, 0] }: How,
): Affine {
  const turn = (degrees * Math.PI) / 180;
  const [a, b] = [stretch[0] * (mirrored ? -1 : 1), stretch[1]];
  const [xx, xy, yx, yy] = [a * Math.cos(turn), -b * Math.sin(turn), a * Math.sin(turn), b * Math.cos(turn)];
  const quarter = Math.round(degrees / 90) % 2 !== 0;
  const [mx, my] = [(w - 1) / 2, (h - 1) / 2];
  const [cx, cy] = [(quarter ? my : mx) + RIM + shift[0], (quarter ? mx : my) + RIM + shift[1]];
  return [xx, xy, cx - xx * mx - xy * my, yx, yy, cy - yx * mx - yy * my];
}

/** The window that this picture lies in, a little blurred and with noise. */
function windowOf(
  of: Plane,
  warp: Affine,
  spoil: (v: number, x: number, y: number) => number = v => v,
): Plane {
  const side = Math.max(of.w, of.h) + 2 * RIM;
  const laid = blurPlane(cv, inPictureFrame(cv, of, inverse(warp), { w: side, h: side }, 0, 1), 0.8);
  const chance = chanceFrom(3);
  return {
    ...laid,
    data: laid.data.map(
      (v, i) => spoil(0.2 + 0.6 * v, i % side, Math.floor(i / side)) + 0.01 * chance.normal(),
    ),
  };
}

/** How far the corners of the picture lie from where they were found, pixels at the most. */
const off = ({ w, h }: Plane, a: Affine, b: Affine) =>
  Math.max(
    ...[
      [0, 0],
      [w, 0],
      [0, h],
      [w, h],
    ].map(([x, y]) => {
      const [p, q] = [move(a, x, y), move(b, x, y)];
      return Math.hypot(p[0] - q[0], p[1] - q[1]);
    }),
  );

describe('finding the picture in its window', () => {
  it('finds it to a twentieth of a millimetre, askew, shifted and stretched by half a percent', () => {
    const hows: How[] = [
      {},
      { degrees: 3.7, shift: [11, -8], stretch: [0.996, 0.997] },
      { degrees: -6.4, shift: [-14, 9], stretch: [1.004, 0.998] },
    ];
    for (const how of hows) {
      const warp = lying(picture, how);
      const found = register(cv, windowOf(picture, warp), picture);
      expect([found.mirrored, found.turn]).toEqual([false, 0]);
      expect(off(picture, warp, found.warp)).toBeLessThan(0.5);
      expect(found.residualMm).toBe(0);
    }
  });

  it('tells every way round it can lie', () => {
    for (const mirrored of [false, true])
      for (const turn of [0, 90, 180, 270] as const) {
        const warp = lying(picture, { mirrored, degrees: turn + 2.2, shift: [6, -5] });
        const found = register(cv, windowOf(picture, warp), picture);
        expect([found.mirrored, found.turn]).toEqual([mirrored, turn]);
        expect(off(picture, warp, found.warp)).toBeLessThan(0.6);
      }
  });

  it('looks at every way round a picture that is much like itself backwards', () => {
    // A house that is the same left and right, but for its chimney.
    const [w, h] = [200, 200];
    const house: Plane = {
      ...{ w, h },
      data: Float32Array.from({ length: w * h }, (_, i) => {
        const [x, y] = [Math.abs((i % w) - 99.5), Math.floor(i / w)];
        const wall = x < 62 && y > 90 && y < 180;
        const roof = y > 30 && y <= 90 && x < (y - 30) * 1.2;
        const chimney = i % w > 138 && i % w < 152 && y > 28 && y < 74;
        return wall ? (x < 14 && y > 130 ? 0.9 : 0.35) : roof || chimney ? 0.1 : 1;
      }),
    };
    for (const mirrored of [false, true]) {
      const found = register(cv, windowOf(house, lying(house, { mirrored, degrees: 1 })), house);
      expect([found.mirrored, found.turn]).toEqual([mirrored, 0]);
    }
  });

  it('finds it under patches of paper, and where a corner of it is gone', () => {
    const warp = lying(picture, { degrees: 2.9, shift: [5, 7], stretch: [0.996, 0.996] });
    const torn = (v: number, x: number, y: number) => (x + y < 200 ? 0.8 : v);
    const cloudy = (v: number, x: number, y: number) => {
      const cloud = Math.max(0, Math.sin(x / 31) * Math.cos(y / 27));
      return v + 0.9 * cloud * (0.8 - v);
    };
    expect(off(picture, warp, register(cv, windowOf(picture, warp, cloudy), picture).warp)).toBeLessThan(1.5);

    expect(off(picture, warp, register(cv, windowOf(picture, warp, torn), picture).warp)).toBeLessThan(2);
  });

  it('says it is there at all where a third of it is left in rags, wherever it then looks most like', () => {
    const matches = [0, 1, 2, 3, 4, 5, 6, 7].map(k => {
      const wave = (x: number, y: number) =>
        Math.sin(x / 17 + k) + Math.cos(y / 19 - 2 * k) + Math.sin((x + y) / 23);
      const rags = (v: number, x: number, y: number) =>
        wave(x, y) > 0.6 ? v : 0.75 + 0.05 * Math.sin(y / 5);
      return register(cv, windowOf(picture, lying(picture, { degrees: 1 }), rags), picture).match;
    });
    expect(Math.min(...matches)).toBeGreaterThan(0.3);
  });

  it('says how far off a picture is that no turning or stretching brings back', () => {
    // Bulged: the farther from the middle, the more it is drawn out.
    const flat = windowOf(picture, lying(picture, {}));
    const { w } = flat;
    const bulged = (by: number) =>
      flat.data.map((_, i) => {
        const [dx, dy] = [(i % w) - w / 2, Math.floor(i / w) - w / 2];
        const far = 1 - by * ((dx * dx + dy * dy) / (w / 2) ** 2);
        return flat.data[Math.round(w / 2 + dy * far) * w + Math.round(w / 2 + dx * far)];
      });
    expect(register(cv, { ...flat, data: bulged(0.15) }, picture).residualMm).toBeGreaterThan(0.2);
    expect(register(cv, { ...flat, data: bulged(0.02) }, picture).residualMm).toBeLessThan(0.1);
  });
});
