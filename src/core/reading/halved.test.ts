import { describe, expect, it } from 'vitest';
import { target } from '../print/index.ts';
import { halved } from './halved.ts';
import { halfReference, referenceOf } from './reference.ts';
import { halfWindow } from './window.ts';

describe('half the resolution', () => {
  it('is the mean of two by two pixels, of what there is of them at an odd end', () => {
    const half = halved({ w: 3, h: 3, data: Float32Array.from([1, 3, 5, 5, 7, 9, 2, 4, 8]) });
    expect([half.w, half.h, [...half.data]]).toEqual([2, 2, [4, 7, 3, 8]]);
  });

  it('keeps of a grey picture one plane for all its channels, and its lines in mm', () => {
    const whole = referenceOf(target(15));
    const half = halfReference(whole);
    expect([half.w, half.h]).toEqual([75, 75]);
    expect(half.rgb.every(p => p === half.light)).toBe(true);
    expect(half.lines).toBe(whole.lines);
  });

  it('takes a pixel to shine, or to lie outside, where any of its four does', () => {
    const plane = { w: 4, h: 2, data: new Float32Array(8).fill(0.5) };
    const half = halfWindow({
      rgb: [plane, plane, plane],
      clipped: Uint8Array.from([0, 0, 0, 0, 0, 1, 0, 0]),
      inPhoto: Uint8Array.from([1, 1, 1, 1, 1, 1, 1, 0]),
    });
    expect([[...half.clipped], [...half.inPhoto]]).toEqual([
      [1, 0],
      [1, 0],
    ]);
  });
});

describe('the drawn target', () => {
  it('has next to no light between tone steps that meet within a pixel', () => {
    const { light } = referenceOf(target(37));
    // Along the middle of the tone steps, from the darkest to the lightest, it only gets lighter.
    const y = Math.round(light.h * 0.43);
    const row = Array.from(
      { length: Math.round(light.w * 0.82) },
      (_, i) => light.data[y * light.w + Math.round(light.w * 0.09) + i],
    );
    const falls = row.slice(1).map((v, i) => row[i] - v);
    expect(Math.max(...falls)).toBeLessThan(0.06);
    expect(row.at(-1)).toBeGreaterThan(row[0] + 0.4);
  });
});
