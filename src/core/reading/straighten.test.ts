import { describe, expect, it } from 'vitest';
import { toLinear, toSrgb } from '../colour/index.ts';
import type { Pixels } from './cv.ts';
import { PX } from './px.ts';
import { lookAt } from './straighten.ts';

/** A photo of `w` × `h` px of a plane whose light is `of` each place in mm, at `scale` px/mm. */
function seenAt(scale: number, w: number, h: number, of: (x: number, y: number) => number): Pixels {
  const data = new Uint8Array(w * h * 4).fill(255);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const v = Math.round(toSrgb(of((x + 0.5) / scale, (y + 0.5) / scale)) * 255);
      for (let c = 0; c < 3; c++) data[(y * w + x) * 4 + c] = v;
    }
  return { w, h, data };
}

describe('a plane seen from straight above', () => {
  // Photo pixel centres have whole numbers: mm → px is scale · mm − 0.5.
  const place = (scale: number) => ({
    homography: [scale, 0, -0.5, 0, scale, -0.5, 0, 0, 1],
    pxPerMm: scale,
  });

  for (const scale of [8, 15, 26, 40, 55])
    it(`of ${scale} px/mm has every place where it was, to a hundredth of a mm`, () => {
      const light = (x: number, y: number) => 0.15 + 0.04 * x + 0.02 * y;
      const photo = seenAt(scale, Math.round(12 * scale), Math.round(11 * scale), light);
      const box = { x: 2, y: 3, w: 8, h: 6 };
      const region = lookAt(photo, place(scale), box);
      expect([region.w, region.h]).toEqual([8 * PX, 6 * PX]);
      let worst = 0;
      let sum = 0;
      for (let y = 0; y < region.h; y++)
        for (let x = 0; x < region.w; x++) {
          const off = region.rgb[(y * region.w + x) * 3 + 1] - light(2 + (x + 0.5) / PX, 3 + (y + 0.5) / PX);
          worst = Math.max(worst, Math.abs(off));
          sum += off;
        }
      // A hundredth of a mm is 0.0004 of light along x; an eight-bit level is up to 0.008.
      expect(Math.abs(sum / (region.w * region.h))).toBeLessThan(0.0004);
      expect(worst).toBeLessThan(0.008);
      expect(region.inPhoto.every(v => v === 1)).toBe(true);
    });

  it('of very many px/mm is averaged, not picked: a fine chequer becomes its mean', () => {
    const scale = 60;
    const chequer = (x: number, y: number) =>
      (Math.floor(x * scale) + Math.floor(y * scale)) % 2 ? 0.9 : 0.1;
    const region = lookAt(seenAt(scale, 360, 360, chequer), place(scale), { x: 1, y: 1, w: 4, h: 4 });
    const values = Array.from({ length: region.w * region.h }, (_, i) => region.rgb[i * 3]);
    expect(Math.max(...values) - Math.min(...values)).toBeLessThan(0.06);
  });

  it('is the mean of what becomes one pixel, in each channel, wherever the bytes begin in memory', () => {
    // Every third photo pixel is lit, in red, green and blue in turn.
    const [w, h] = [240, 240];
    const bytes = new Uint8Array(w * h * 4 + 1);
    const data = bytes.subarray(1);
    for (let i = 0; i < w * h; i++) data.set([0, 0, 0, 255], i * 4);
    for (let i = 0; i < w * h; i++) data[i * 4 + (i % 3)] = 255;
    const region = lookAt({ w, h, data }, place(36), { x: 1, y: 1, w: 4, h: 4 });
    const [lowest, highest] = [Math.min(...region.rgb), Math.max(...region.rgb)];
    // A third of 255 is 85.
    expect(lowest).toBeCloseTo(toLinear(85 / 255), 2);
    expect(highest).toBeCloseTo(toLinear(85 / 255), 2);
  });

  it('outside the photo is said to be', () => {
    const region = lookAt(
      seenAt(40, 200, 200, () => 0.5),
      place(40),
      { x: 3, y: 1, w: 4, h: 2 },
    );
    const there = (x: number) => region.inPhoto[5 * region.w + x];
    expect([there(10), there(18), there(22), there(35)]).toEqual([1, 1, 0, 0]);
  });
});
