import { describe, expect, it } from 'vitest';
import type { Pixels } from '../reading/index.ts';
import { lookOn } from './index.ts';

const SIDE = 200;
const black: Pixels = {
  w: SIDE,
  h: SIDE,
  data: new Uint8ClampedArray(SIDE * SIDE * 4).map((_, i) => (i % 4 === 3 ? 255 : 0)),
};
const ground = () => [0.6, 0.5, 0.4] as const;
const reds = (p: Pixels) => Array.from(p.data).filter((_, i) => i % 4 === 0);

describe('what is expected to be lost', () => {
  const seen = (least: number, most: number) =>
    reds(lookOn(black, { ground, widthMm: 40, loss: { least, most } }));
  const bareGround = Math.max(...seen(1, 1));

  it('covers the shares that were asked for: bare on a good day, faint on a bad one', () => {
    const values = seen(0.1, 0.3);
    expect(values.filter(v => v === bareGround).length / values.length).toBeCloseTo(0.1, 2);
    expect(values.filter(v => v > 0 && v < bareGround).length / values.length).toBeCloseTo(0.2, 2);
    expect(values.filter(v => v === 0).length / values.length).toBeCloseTo(0.7, 2);
  });

  it('lies in blots, not in dust: most lost places have lost neighbours', () => {
    const values = seen(0.2, 0.2);
    let lone = 0;
    let lost = 0;
    for (let y = 1; y < SIDE - 1; y++)
      for (let x = 1; x < SIDE - 1; x++) {
        if (!values[y * SIDE + x]) continue;
        lost++;
        if (!values[y * SIDE + x - 1] && !values[y * SIDE + x + 1]) lone++;
      }
    expect(lone / lost).toBeLessThan(0.05);
  });

  it('touches nothing where the picture is paper white', () => {
    const white: Pixels = { ...black, data: new Uint8ClampedArray(SIDE * SIDE * 4).fill(255) };
    const values = reds(lookOn(white, { ground, widthMm: 40, veil: 0.2, loss: { least: 0.5, most: 0.5 } }));
    expect(new Set(values).size).toBe(1);
  });

  it('is nothing where all lands, and the same every time', () => {
    expect(Math.max(...seen(0, 0))).toBe(0);
    expect(seen(0.1, 0.3)).toEqual(seen(0.1, 0.3));
  });
});
