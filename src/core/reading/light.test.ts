import { describe, expect, it } from 'vitest';
import { chanceFrom } from '../random/index.ts';
import { lightFrom } from './light.ts';
import { PLAIN_TONE, toned, toneFrom } from './straighten.ts';

const SIZE = 96;
/** Paper round a window of 50 mm, lit by `light`, with a little noise and one dirty place. */
function paper(light: (x: number, y: number) => number) {
  const chance = chanceFrom(3);
  const out = [];
  for (let y = 2; y < SIZE; y += 4)
    for (let x = 2; x < SIZE; x += 4) {
      if (x > 22 && x < 74 && y > 22 && y < 74) continue;
      const v = light(x, y) * (1 + 0.004 * chance.normal()) * (x < 8 && y < 8 ? 0.5 : 1);
      out.push({ x, y, rgb: [v, 0.8 * v, 0.5 * v] as const });
    }
  return out;
}
const worst = (light: (x: number, y: number) => number) => {
  const found = lightFrom(paper(light), SIZE);
  let off = 0;
  for (let y = 24; y < 74; y += 5)
    for (let x = 24; x < 74; x += 5)
      for (const [c, k] of [1, 0.8, 0.5].entries())
        off = Math.max(off, Math.abs(found(c, x, y) / (k * light(x, y)) - 1));
  return off;
};

describe('the light over a card', () => {
  it('is a lamp that falls off, seen only round the window, with its colour', () => {
    expect(worst(() => 0.7)).toBeLessThan(0.01);
    expect(worst((x, y) => 0.8 * (1 - 0.004 * x - 0.001 * y))).toBeLessThan(0.02);
    expect(worst((x, y) => 0.7 * Math.exp(-((x - 30) ** 2 + (y - 60) ** 2) / 12_000))).toBeLessThan(0.03);
  });

  it('may have a shadow’s edge across it, at any angle and softness', () => {
    const shade = (angle: number, offset: number, soft: number) => (x: number, y: number) => {
      const d = x * Math.cos(angle) + y * Math.sin(angle) - offset;
      return 0.7 * (1 - 0.35 / (1 + Math.exp(-d / soft)));
    };
    const found = lightFrom(paper(shade(0.6, 65, 0.8)), SIZE);
    // Well inside and well outside of the shadow; its edge itself may lie a little off.
    expect(found(1, 30, 30)).toBeCloseTo(0.8 * 0.7, 1);
    for (const [x, y] of [
      [30, 40],
      [40, 30],
      [70, 65],
      [60, 72],
    ])
      expect(found(1, x, y) / (0.8 * shade(0.6, 65, 0.8)(x, y))).toBeCloseTo(1, 1);
    const upright = lightFrom(paper(shade(0, 50, 2.5)), SIZE);
    expect(upright(1, 35, 48) / upright(1, 65, 48)).toBeCloseTo(1 / 0.65, 1);
  });
});

describe('the tone of a camera', () => {
  const sent = [0, 0.0212, 0.0802, 0.1878, 0.3515, 0.5776, 0.7913];
  const through = (camera: (v: number) => number) => toneFrom(sent.map(s => ({ sent: s, seen: camera(s) })));

  it('takes what is left of the light on black for stray light and for printed black, half of each', () => {
    const stray = through(v => 0.02 + 0.98 * v);
    // With as much stray light as the black sends back the truth is met, at greys and between them.
    for (const v of [0, 0.01, 0.05, 0.3, 0.7])
      expect(toned(stray, 0.02 + 0.98 * v)).toBeCloseTo(0.01 + 0.99 * v, 2);
    // No printed black is lighter than six hundredths.
    expect(
      toned(
        through(v => 0.2 + 0.8 * v),
        0.2,
      ),
    ).toBeCloseTo(0.06, 6);
    // Without a black step nothing is said of it.
    const plain = toneFrom(sent.slice(1).map(s => ({ sent: s, seen: s })));
    expect(toned(plain, 0)).toBe(0);
  });

  it('undoes a camera’s curve, between the greys as at them', () => {
    const curved = through(v => v ** 1.15);
    for (const v of [0.03, 0.12, 0.45, 0.9]) expect(toned(curved, v ** 1.15)).toBeCloseTo(v, 2);
    expect(toned(curved, 1)).toBeCloseTo(1, 2);
  });

  it('leaves what came where there are too few greys, and goes up all the way whatever they say', () => {
    expect(toneFrom([{ sent: 0, seen: 0.1 }])).toBe(PLAIN_TONE);
    const odd = toneFrom(sent.map((s, i) => ({ sent: s, seen: i === 3 ? 0.02 : s })));
    for (let i = 1; i < odd.length; i++) expect(odd[i]).toBeGreaterThanOrEqual(odd[i - 1]);
    expect(toned(odd, -0.1)).toBe(odd[0]);
    expect(toned(odd, 5)).toBe(5);
  });
});
