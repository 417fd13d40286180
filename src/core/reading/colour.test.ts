import { describe, expect, it } from 'vitest';
import type { Sorted } from './classify.ts';
import { differ, toneOf } from './colour.ts';
import type { Cell } from './ink.ts';

const grey = (v: number) => [v, v, v] as const;
const cellOf = (part: Partial<Cell> = {}): Cell => ({
  at: 0,
  a: grey(0.9),
  cover: 0.9,
  seen: grey(0.05),
  base: grey(0.5),
  ...part,
});
const sorted = (cells: readonly Cell[], veil: number[] = [0], odds: number[] = [12], visible = [1]) =>
  ({
    cells,
    w: 1,
    veil: Float32Array.from(veil),
    odds: Float32Array.from(odds),
    visible: Uint8Array.from(visible),
  }) as unknown as Sorted;
const many = (cell: Cell, count = 20) => Array.from({ length: count }, () => cell);

describe('tone', () => {
  it('is the difference of what is seen to ink over this ground', () => {
    expect(toneOf(sorted(many(cellOf())))!.tone).toBeCloseTo(0, 4);
    // 0.05 is L* 26.73, 0.1 is L* 37.84; CIEDE2000 of greys is ΔL*/S_L, S_L = 1 + 0.015·17.71²/√(20 + 17.71²) = 1.258.
    const lighter = toneOf(sorted(many(cellOf({ seen: grey(0.1) }))))!;
    expect(lighter.tone).toBeCloseTo(8.83, 1);
    expect(lighter.deltaL).toBeCloseTo(37.84 - 26.73, 1);
    expect(lighter.deltaC).toBeCloseTo(0, 1);
    const redder = toneOf(sorted(many(cellOf({ seen: [0.12, 0.05, 0.05] }))))!;
    expect(redder.deltaC).toBeGreaterThan(12);
    const duller = toneOf(sorted(many(cellOf({ base: [0.6, 0.3, 0.1], seen: grey(0.04) }))))!;
    expect(duller.deltaC).toBeLessThan(-5);
  });

  it('looks only at solids that landed, could be seen and lie under no thick veil, twelve at least', () => {
    expect(toneOf(sorted(many(cellOf(), 11)))).toBeNull();
    expect(toneOf(sorted(many(cellOf(), 12)))).not.toBeNull();
    expect(toneOf(sorted(many(cellOf({ cover: 0.5, a: grey(0.5) }))))).toBeNull();
    expect(toneOf(sorted(many(cellOf()), [0.5]))).toBeNull();
    expect(toneOf(sorted(many(cellOf()), [0], [-3]))).toBeNull();
    expect(toneOf(sorted(many(cellOf()), [0], [12], [0]))).toBeNull();
  });

  it('takes a veil off before it looks, and is less sure the thicker that was', () => {
    const under = (h: number) => cellOf({ seen: grey(0.05 * (1 - h) + h) });
    const thick = toneOf(sorted(many(under(0.3)), [0.3]))!;
    expect(thick.tone).toBeCloseTo(0, 3);
    expect(toneOf(sorted(many(under(0.3)), [0.3]), 0.03)!.give).toBeGreaterThan(thick.give + 1);
    expect(thick.give).toBeGreaterThan(toneOf(sorted(many(under(0.15)), [0.15]))!.give);
  });

  it('takes half of a little veil for thin ink where the ground has no colour to tell the two by', () => {
    const h = 0.05;
    const on = (base: readonly [number, number, number]) =>
      toneOf(sorted(many(cellOf({ base, seen: base.map(b => b * 0.1 * (1 - h) + h) as never })), [h]))!.tone;
    // Half of 0.05 is left on: 0.0725 of 0.05 expected, as far as CIEDE2000 has it.
    const seen = 0.05 * 0.95 + 0.05;
    const half = differ(grey(0.05), grey((seen - h / 2) / (1 - h / 2))).tone;
    expect(on([0.5, 0.5, 0.5])).toBeCloseTo(half, 3);
    expect(half).toBeGreaterThan(3);
    // A ground with a colour tells thin ink; a hundredth of the light may still be the ink's own surface's.
    const own = [0.5, 0.33, 0.18].map(b => b * 0.1);
    const left = own.map(v => (v * (1 - h) + h - (h - 0.01)) / (1 - h + 0.01));
    expect(on([0.5, 0.33, 0.18])).toBeCloseTo(differ(own, left).tone, 2);
  });

  it('looks at neighbours as one, so that noise is no colour', () => {
    // Seen alternately a little too light and a little too dark, as noise is: together they are as they should be.
    const noisy = Array.from({ length: 40 }, (_, i) => cellOf({ seen: grey(i % 2 ? 0.07 : 0.03) }));
    expect(toneOf(sorted(noisy))!.tone).toBeCloseTo(0, 3);
    // Far apart they are not.
    const apart = noisy.map((c, i) => ({ ...c, at: i * 41 }));
    const open = { ...sorted(apart), veil: new Float32Array(1700), odds: new Float32Array(1700).fill(9) };
    expect(toneOf({ ...open, visible: new Uint8Array(1700).fill(1) })!.tone).toBeGreaterThan(3);
  });

  it('agrees with a published pair', () => {
    // Sharma, Wu and Dalal 2005, greys: L* 50 and 60 differ by 9.3 (their S_L at 55 is 1.07).
    const y = (l: number) => ((l + 16) / 116) ** 3;
    expect(differ(grey(y(50)), grey(y(60))).tone).toBeCloseTo(10 / (1 + (0.015 * 25) / Math.sqrt(45)), 1);
  });
});
