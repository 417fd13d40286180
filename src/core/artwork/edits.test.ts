import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Pixels } from '../reading/index.ts';
import { applyEdits, type Edit, mirrorPixels } from './index.ts';

/** Any small opaque picture. */
const pictures = fc.tuple(fc.integer({ min: 1, max: 9 }), fc.integer({ min: 1, max: 9 })).chain(([w, h]) =>
  fc.uint8Array({ minLength: w * h * 3, maxLength: w * h * 3 }).map((rgb): Pixels => {
    const data = new Uint8ClampedArray(w * h * 4).fill(255);
    for (let i = 0; i < w * h; i++) data.set(rgb.subarray(i * 3, i * 3 + 3), i * 4);
    return { w, h, data };
  }),
);
const same = (a: Pixels, b: Pixels) => {
  expect([a.w, a.h]).toEqual([b.w, b.h]);
  expect([...a.data]).toEqual([...b.data]);
};
const lightness = (p: Pixels) => [...p.data].reduce((sum, v, i) => (i % 4 === 3 ? sum : sum + v), 0);
const turn = (quarters: 1 | 2 | 3): Edit => ({ kind: 'turn', quarters });

describe('edits that can be taken back by others', () => {
  it('are themselves twice: invert, mirror, half a turn', () => {
    fc.assert(
      fc.property(pictures, p => {
        same(applyEdits(p, [{ kind: 'invert' }, { kind: 'invert' }]), p);
        same(mirrorPixels(mirrorPixels(p)), p);
        same(applyEdits(p, [turn(2), turn(2)]), p);
      }),
    );
  });

  it('are quarter turns: four are none, one and three go opposite ways, two are a half', () => {
    fc.assert(
      fc.property(pictures, p => {
        same(applyEdits(p, [turn(1), turn(1), turn(1), turn(1)]), p);
        same(applyEdits(p, [turn(1), turn(3)]), p);
        same(applyEdits(p, [turn(1), turn(1)]), applyEdits(p, [turn(2)]));
        const { w, h } = applyEdits(p, [turn(1)]);
        expect([w, h]).toEqual([p.h, p.w]);
      }),
    );
  });

  it('are mirrored across, not down: a half turn and a mirror is upside down', () => {
    fc.assert(
      fc.property(pictures, p => {
        const flipped = mirrorPixels(applyEdits(p, [turn(2)]));
        for (let y = 0; y < p.h; y++)
          for (let x = 0; x < p.w; x++)
            expect(flipped.data[(y * p.w + x) * 4]).toBe(p.data[((p.h - 1 - y) * p.w + x) * 4]);
      }),
    );
  });
});

describe('edits of light', () => {
  it('never darken when they lighten, and do more the more is asked', () => {
    const amount = fc.double({ min: 0, max: 1, noNaN: true });
    fc.assert(
      fc.property(pictures, amount, amount, (p, a, b) => {
        const [less, more] = [Math.min(a, b), Math.max(a, b)];
        const light = (x: number) => lightness(applyEdits(p, [{ kind: 'lighten', amount: x }]));
        expect(light(less)).toBeGreaterThanOrEqual(lightness(p));
        expect(light(more)).toBeGreaterThanOrEqual(light(less));
      }),
    );
  });

  it('keep the order of tones: what was darker stays darker or as dark', () => {
    fc.assert(
      fc.property(pictures, fc.double({ min: 0, max: 1, noNaN: true }), (p, amount) => {
        const grey = applyEdits(p, [{ kind: 'grey' }]);
        const out = applyEdits(grey, [{ kind: 'contrast', amount }]);
        const tones = Array.from(
          { length: p.w * p.h },
          (_, i) => [grey.data[i * 4], out.data[i * 4]] as const,
        );
        for (const [a, b] of tones) for (const [c, d] of tones) if (a < c) expect(b).toBeLessThanOrEqual(d);
      }),
      { numRuns: 40 },
    );
  });

  it('make grey of every colour, and grey stays what it is', () => {
    fc.assert(
      fc.property(pictures, p => {
        const grey = applyEdits(p, [{ kind: 'grey' }]);
        for (let i = 0; i < grey.data.length; i += 4) {
          expect(grey.data[i]).toBe(grey.data[i + 1]);
          expect(grey.data[i]).toBe(grey.data[i + 2]);
        }
        same(applyEdits(grey, [{ kind: 'grey' }]), grey);
      }),
    );
  });

  it('take out no more with a smaller tolerance, and nothing that is far from the background', () => {
    const black: Pixels = { w: 1, h: 1, data: Uint8ClampedArray.from([0, 0, 0, 255]) };
    same(applyEdits(black, [{ kind: 'background', colour: [1, 1, 1], tolerance: 30 }]), black);
    fc.assert(
      fc.property(pictures, p => {
        const out = (tolerance: number) =>
          lightness(applyEdits(p, [{ kind: 'background', colour: [0.8, 0.8, 0.7], tolerance }]));
        expect(out(5)).toBeGreaterThanOrEqual(lightness(p));
        expect(out(40)).toBeGreaterThanOrEqual(out(5));
      }),
    );
  });
});

describe('a crop', () => {
  const share = fc.double({ min: 0, max: 1, noNaN: true });
  it('is never empty and never larger, wherever it is laid', () => {
    fc.assert(
      fc.property(pictures, share, share, share, share, (p, x, y, w, h) => {
        const out = applyEdits(p, [{ kind: 'crop', x, y, w: Math.max(0.02, w), h: Math.max(0.02, h) }]);
        expect(out.w).toBeGreaterThanOrEqual(1);
        expect(out.h).toBeGreaterThanOrEqual(1);
        expect(out.w).toBeLessThanOrEqual(p.w);
        expect(out.h).toBeLessThanOrEqual(p.h);
      }),
    );
  });
  it('of all of it changes nothing', () => {
    fc.assert(fc.property(pictures, p => same(applyEdits(p, [{ kind: 'crop', x: 0, y: 0, w: 1, h: 1 }]), p)));
  });
});

it('no edit touches the original', () => {
  const edits: Edit[] = [
    { kind: 'grey' },
    { kind: 'contrast', amount: 0.5 },
    { kind: 'straighten', degrees: 7 },
    { kind: 'crop', x: 0.1, y: 0.1, w: 0.5, h: 0.5 },
    { kind: 'invert' },
  ];
  fc.assert(
    fc.property(pictures, p => {
      const before = [...p.data];
      applyEdits(p, edits);
      expect([...p.data]).toEqual(before);
    }),
  );
});
