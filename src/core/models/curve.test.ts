import { describe, expect, it } from 'vitest';
import { chanceFrom } from '../random/index.ts';
import { type Top, topOf } from './curve.ts';

const at = (seconds: number) => Math.log(seconds / 60);
/** What lands after so many seconds, by what really happens: a hill, a plateau, and cliffs before and after the best. */
const SHAPES: Readonly<Record<string, (seconds: number) => number>> = {
  hill: s => 92 - 45 * (at(s) - at(45)) ** 2,
  plateau: s => Math.min(90, 90 - 60 * Math.max(0, at(30) - at(s)), 90 - 60 * Math.max(0, at(s) - at(65))),
  'early cliff': s => (s < 30 ? 20 : 92 - 20 * Math.max(0, at(s) - at(32))),
  'late cliff': s => (s > 60 ? 25 : 92 - 20 * Math.max(0, at(58) - at(s))),
};
const WAITS = [15, 22, 30, 40, 52, 70, 95];
const HITS = 0.12;
/** What is to be expected of an aim that is hit within a tenth or so. */
const expected = (shape: (s: number) => number, x: number): number => {
  let [sum, weight] = [0, 0];
  for (let z = -3; z <= 3; z += 0.1) {
    const w = Math.exp(-z * z * 0.5);
    sum += w * shape(60 * Math.exp(x + HITS * z));
    weight += w;
  }
  return sum / weight;
};
const best = (shape: (s: number) => number): { x: number; y: number } => {
  let top = { x: 0, y: Number.NEGATIVE_INFINITY };
  for (let x = at(15); x <= at(95); x += 0.01) {
    const y = expected(shape, x);
    if (y > top.y) top = { x, y };
  }
  return top;
};
const ladder = (shape: (s: number) => number, seed: number, repeats = 2) => {
  const chance = chanceFrom(seed);
  return WAITS.flatMap(s =>
    Array.from({ length: repeats }, () => {
      const real = s * Math.exp(chance.normal(0, HITS));
      return { x: at(real), y: shape(real) + chance.normal(0, 3) };
    }),
  );
};

describe('the best place of a response of any shape', () => {
  it.each(Object.entries(SHAPES))(
    'of a %s costs few points, and its range holds a best place nine times in ten',
    (name, shape) => {
      const runs = 10;
      const top = best(shape);
      const tops = Array.from({ length: runs }, (_, seed) => topOf(ladder(shape, seed), HITS)!);
      const mean = (of: (top: Top) => number) => tops.reduce((sum, t) => sum + of(t), 0) / runs;
      expect(mean(t => top.y - expected(shape, t.x))).toBeLessThan(2.5);
      expect(tops.filter(t => t.lo <= top.x && top.x <= t.hi).length).toBeGreaterThanOrEqual(7);
      // A cliff is known for one: what is beyond it is not in the range.
      if (name.endsWith('cliff')) expect(mean(t => t.hi - t.lo)).toBeLessThan(0.4);
    },
  );

  it('keeps further from a cliff the less exactly a time is hit', () => {
    const [sure, unsure] = [0.03, 0.25].map(hits => topOf(ladder(SHAPES['late cliff'], 3, 4), hits)!.x);
    expect(unsure).toBeLessThan(sure - 0.05);
  });

  it('lies at an end where what was tried only rises or falls, and says so', () => {
    const rising = topOf(
      ladder(s => 10 + 0.8 * s, 5),
      HITS,
    )!;
    expect(rising.atEnd).toBeGreaterThan(0.6);
    expect(topOf(ladder(SHAPES.hill, 5), HITS)!.atEnd).toBeLessThan(0.1);
    expect(
      topOf(
        [
          { x: 0, y: 1 },
          { x: 0.001, y: 2 },
        ],
        HITS,
      ),
    ).toBeUndefined();
  });

  it('says by how much it falls to the next rung on either side: much from a narrow peak, little on a hill, not at an end', () => {
    const peak = (s: number) => 30 + 60 * Math.exp(-(((at(s) - at(40)) / 0.15) ** 2));
    const rungs = (shape: (s: number) => number) =>
      [10, 20, 40, 80, 160].map(s => ({ x: at(s), y: shape(s) }));
    expect(topOf(rungs(peak), HITS)!.falls).toBeCloseTo(60, 3);
    expect(
      topOf(
        rungs(s => (s === 20 ? 70 : peak(s))),
        HITS,
      )!.falls,
    ).toBeCloseTo(20, 3);
    expect(
      topOf(
        rungs(s => s),
        HITS,
      )!.falls,
    ).toBe(0);
    // What was meant alike and came a little apart is one rung.
    const apart = rungs(peak).flatMap(p => [p, { x: p.x + 0.2, y: p.y - 10 }]);
    expect(topOf(apart, HITS)!.falls).toBeCloseTo(60, 3);
    expect(topOf(ladder(SHAPES.hill, 7, 2), HITS)!.falls).toBeLessThan(10);
  });

  it('is pinned: the place, the ends of its range half a cell beyond, and how often it lies at an end', () => {
    const { x, lo, hi, atEnd } = topOf(ladder(SHAPES.hill, 7, 2), HITS)!;
    expect([x, lo, hi, atEnd].map(v => v.toFixed(4))).toMatchInlineSnapshot(`
      [
        "-0.4315",
        "-0.5363",
        "-0.1590",
        "0.0000",
      ]
    `);
  });
});
