import { beforeAll, describe, expect, it } from 'vitest';
import { loadCv } from '../../cli/node-cv.ts';
import { target } from '../print/index.ts';
import { chanceFrom } from '../random/index.ts';
import type { Sorted } from './classify.ts';
import { blurPlane, type Cv, type Plane } from './cv.ts';
import type { Ground } from './ground.ts';
import { halved } from './halved.ts';
import { halfReference, referenceOf } from './reference.ts';
import { smearOf } from './smear.ts';

let cv: Cv;
beforeAll(async () => {
  ({ cv } = await loadCv());
});
const reference = referenceOf(target(30));
const { w, h } = reference;
const count = w * h;

/** The target on white under a camera's blur, drawn out by `mm` towards `degrees`. */
function drawn(mm: number, degrees: number, grain = 0): Plane {
  const light = blurPlane(cv, reference.light, 0.8);
  const chance = chanceFrom(5);
  const [cos, sin] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
  const steps = mm ? 41 : 1;
  const data = new Float32Array(count);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      let sum = 0;
      for (let k = 0; k < steps; k++) {
        const t = mm ? ((k + 0.5) / steps - 0.5) * mm * 10 : 0;
        const [u, v] = [
          Math.min(w - 1.001, Math.max(0, x + t * cos)),
          Math.min(h - 1.001, Math.max(0, y + t * sin)),
        ];
        const [a, b] = [Math.floor(u), Math.floor(v)];
        const at = (p: number, q: number) => light.data[q * w + p];
        const top = at(a, b) + (u - a) * (at(a + 1, b) - at(a, b));
        const low = at(a, b + 1) + (u - a) * (at(a + 1, b + 1) - at(a, b + 1));
        sum += top + (v - b) * (low - top);
      }
      data[y * w + x] = sum / steps + grain * chance.normal();
    }
  return { w, h, data };
}
const half = halfReference(reference);
const coarse = half.w * half.h;
const white = new Float32Array(coarse).fill(1);
const ground = { base: [white, white, white], grain: [1e-4, 1e-4, 1e-4, 0, 0, 0] } as unknown as Ground;
const sorted = (part: Partial<Sorted> = {}) =>
  ({
    ...{ w: half.w, h: half.h },
    bare: new Uint8Array(coarse),
    lost: Float32Array.from(part.bare ?? new Uint8Array(coarse)),
    inked: Uint8Array.from(half.light.data, v => (v < 0.6 ? 1 : 0)),
    visible: Uint8Array.from(half.light.data, v => (v < 0.9 ? 1 : 0)),
    veil: new Float32Array(coarse),
    ink: { depth: 0, gain: 0 },
    ...part,
  }) as unknown as Sorted;
const CAMERA = { xx: 0.16, yy: 0.16, give: 0.025 };
const read = (fine: Plane, s = sorted()) => {
  const seen = halved(fine);
  return smearOf(cv, [seen, seen, seen], reference, ground, s, CAMERA);
};

describe('smear', () => {
  it('is none where edges are as sharp as the camera', () => {
    expect(read(drawn(0, 0))!.smear).toBe(0);
    expect(read(drawn(0, 0, 0.02))!.smear).toBe(0);
  });

  for (const [mm, degrees] of [
    [0.4, 0],
    [0.8, 90],
    [1, 45],
    [0.7, 120],
  ] as const)
    it(`of ${mm} mm towards ${degrees}° has its length and its direction`, () => {
      const found = read(drawn(mm, degrees, 0.01))!;
      expect(Math.abs(found.smear - mm)).toBeLessThan(0.12);
      const off = Math.abs(found.along - degrees) % 180;
      expect(Math.min(off, 180 - off)).toBeLessThan(12);
    });

  it('is told by the edges to white as well, where nothing is to be seen of ink', () => {
    // Among edges between inked parts alone this much grain would hide it.
    expect(Math.abs(read(drawn(0.5, 0, 0.04))!.smear - 0.5)).toBeLessThan(0.12);
  });

  it('is never called none where it only hides in the grain', () => {
    const found = [0.04, 0.3, 0.8, 2].map(grain => read(drawn(0.55, 0, grain))?.smear);
    for (const smear of found) if (smear !== undefined) expect(Math.abs(smear - 0.55)).toBeLessThan(0.15);
    // With little grain it is told, with much nothing is.
    expect([found[0], found[3]]).toEqual([expect.any(Number), undefined]);
  });

  it('is looked for under a veil as well, and not said where too little landed', () => {
    const under = drawn(0.8, 0);
    const veiled = { ...under, data: under.data.map(v => 0.6 * v + 0.4) };
    const veil = new Float32Array(coarse).fill(0.4);
    expect(Math.abs(read(veiled, sorted({ veil }))!.smear - 0.8)).toBeLessThan(0.12);
    expect(read(under, sorted({ bare: new Uint8Array(coarse).fill(1) }))).toBeNull();
    // Torn edges are none that are drawn out.
    const inked = sorted().inked;
    const all = inked.reduce((sum, v) => sum + v, 0);
    const gone = (share: number) => {
      let left = share * all;
      return sorted({ bare: inked.map(v => (v && left-- > 0 ? 1 : 0)) });
    };
    expect(read(under, gone(0.27))).toBeNull();
    expect(Math.abs(read(under, gone(0.2))!.smear - 0.8)).toBeLessThan(0.15);
  });
});
