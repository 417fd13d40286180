import { describe, expect, it } from 'vitest';
import { METHODS } from '../methods/index.ts';
import { target } from '../print/index.ts';
import { STARTER_SHELF } from '../shelf/index.ts';
import { truth } from './camera.ts';
import { exampleSettings } from './example.ts';
import { PX } from './piece.ts';
import { type Seen, type Step, stepOutcome } from './steps-of-scale.ts';

const SIZE = { w: 20, h: 20 };
const STEPS = [1, 2, 3, 4, 5] as const satisfies readonly Step[];
const cloth = STARTER_SHELF.substrates.find(s => s.kind === 'cotton cloth')!;
const ways = [...METHODS.map(method => exampleSettings({ method })), exampleSettings({ substrate: cloth })];
const outcomes = (aspect: Seen, settings = ways[0]) =>
  STEPS.map(step => stepOutcome(aspect, step, settings, SIZE, 11));
const share = (of: Float32Array, is: (i: number) => boolean = () => true) => {
  let [sum, n] = [0, 0];
  of.forEach((v, i) => {
    if (!is(i)) return;
    sum += v;
    n++;
  });
  return sum / n;
};

describe('pictures of the steps of a scale', () => {
  it.each(ways.map(s => [s.method.name, s.substrate.name, s] as const))(
    'show of %s on %s more of the picture from step to step',
    (_, __, settings) => {
      const landed = outcomes('coverage', settings).map(o => truth(o, target(20)).landed);
      expect(landed[0]).toBeLessThan(25);
      expect(landed[1]).toBeGreaterThan(35);
      expect(landed[1]).toBeLessThan(60);
      expect(landed[2]).toBeGreaterThan(66);
      expect(landed[2]).toBeLessThan(86);
      expect(landed[3]).toBeGreaterThan(90);
      expect(landed[3]).toBeLessThan(99.5);
      expect(landed[4]).toBe(100);
    },
  );

  it('show less paper from step to step, in the middle in places only', () => {
    const found = outcomes('clean').map(o => share(o.veil));
    for (let k = 1; k < 5; k++) expect(found[k]).toBeLessThan(found[k - 1] * 0.8 + 1e-9);
    expect([found[0] > 0.5, found[4]]).toEqual([true, 0]);
    const clear = (step: Step) =>
      share(stepOutcome('clean', step, ways[0], SIZE, 11).veil.map(v => (v < 0.02 ? 1 : 0)));
    expect(clear(3)).toBeGreaterThan(0.2);
    expect(clear(2)).toBeLessThan(0.05);
  });

  it('lose edges all round, then one, then nicks, and nothing of the middle', () => {
    const at = (i: number) => [(i % (SIZE.w * PX)) / PX, Math.floor(i / (SIZE.w * PX)) / PX];
    const band = (side: number) => (i: number) => {
      const [x, y] = at(i);
      return [y, x, SIZE.h - y, SIZE.w - x][side] < 1;
    };
    const lost = outcomes('edges').map(o => [0, 1, 2, 3].map(side => 1 - share(o.landed, band(side))));
    for (const side of [0, 1, 2, 3]) {
      expect(lost[0][side]).toBeGreaterThan(0.6);
      expect(lost[1][side]).toBeGreaterThan(0.3);
      expect(lost[3][side]).toBeLessThan(0.25);
      expect(lost[4][side]).toBe(0);
    }
    expect(lost[2].filter(v => v > 0.3)).toHaveLength(1);
    expect(Math.max(...lost[3])).toBeGreaterThan(0.005);
    for (const o of outcomes('edges'))
      expect(share(o.landed, i => Math.hypot(at(i)[0] - 10, at(i)[1] - 10) < 3)).toBe(1);
  });

  it('are paler and more blurred the lower the step, whole and clean all the same', () => {
    const found = outcomes('tones');
    for (let k = 1; k < 5; k++) {
      expect(found[k].strength).toBeGreaterThan(found[k - 1].strength);
      expect(found[k].smear.mm).toBeLessThan(found[k - 1].smear.mm);
    }
    for (const o of found) expect([share(o.landed), share(o.veil)]).toEqual([1, 0]);
    expect(found[4]).toMatchObject({ strength: 1, smear: { mm: 0 } });
  });

  it('are the same again from the same seed', () => {
    const [a, b] = [1, 2].map(() => stepOutcome('coverage', 2, ways[0], SIZE, 3).landed);
    expect(a).toEqual(b);
    expect(stepOutcome('coverage', 2, ways[0], SIZE, 4).landed).not.toEqual(a);
  });
});
