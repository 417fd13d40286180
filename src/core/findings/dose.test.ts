import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { type Trapezoid, trapezoidsOf } from '../models/index.ts';
import { chanceFrom } from '../random/index.ts';
import { write } from '../say/index.ts';
import { analyse } from './analyse.ts';
import { type Dose, doseSentence, dosesIn } from './dose.ts';

const LEVELS = [4, 6, 10, 16, 24, 36, 48];
const said = (x: number) => `${Number(x.toPrecision(2))} h`;

/** A ladder with two mediums, one six points worse: what lands after so many hours. */
function ladder(
  of: (hours: number) => number,
  seed: number,
  sd = 3,
  fails: (hours: number, i: number) => boolean = () => false,
): Dose {
  const plan = examplePlan({
    factors: [
      { key: 'dryHours', levels: LEVELS },
      { key: 'medium', levels: ['matte-acrylic', 'soft-gel'] },
    ],
    repeats: 2,
  });
  const chance = chanceFrom(seed);
  const patches = plan.patches.map((p, i) => ({
    code: p.code,
    levels: p.levels,
    failed: fails(LEVELS[p.levels[0]], i) || (fails(-1, i) && i === 5),
    shares: [`${p.board}`],
    value: Math.min(100, Math.max(0, of(LEVELS[p.levels[0]]) - 6 * p.levels[1] + sd * chance.normal())),
  }));
  const analysis = analyse({
    factors: [
      { name: 'Cure time', levels: LEVELS.map(String) },
      { name: 'Medium', levels: ['matte', 'gel'] },
    ],
    pairs: [],
    random: ['board'],
    patches,
    better: 'high',
    bounds: [0, 100],
    draws: 40,
  });
  return dosesIn(plan, analysis)[0];
}

const plateau = (h: number) => (h < 10 ? 88 - 40 * Math.log(10 / h) : 88);
const seeds = [11, 12, 13, 14, 15, 16, 17, 18];
const holds = (end: Dose['from'], truth: number) => end.lo <= truth && truth <= end.hi;

describe('a number as a curve', () => {
  it('finds where a plateau begins, and that it does not end', () => {
    const all = seeds.map(s => ladder(plateau, s));
    const truth = 10 * Math.exp(-2 / 40);
    expect(all.filter(d => holds(d.from, truth)).length).toBeGreaterThanOrEqual(6);
    for (const d of all) {
      expect(d.to.hi).toBeCloseTo(48, 5);
      expect(d.from.hi / d.from.lo).toBeLessThan(2.2);
      expect([d.openBelow, d.openAbove]).toEqual([false, false]);
      expect(d.flat).toBeLessThan(0.05);
    }
    expect(write(doseSentence('Cure time', all[0], said))).toMatch(
      /^Cure time: as good as it gets from \S+ h \(\S+ h to \S+ h\)\.$/,
    );
  });

  it('finds the cliff, on the right side of it', () => {
    for (const seed of seeds) {
      const d = ladder(h => (h < 9 ? 15 : 88), seed);
      expect(d.from.lo).toBeGreaterThan(5.5);
      expect(d.from.hi).toBeLessThan(10.6);
      expect(holds(d.from, 9)).toBe(true);
    }
  });

  it('finds both sides of a peak', () => {
    const all = seeds.map(s => ladder(h => 88 - 30 * Math.log(h / 14) ** 2, s));
    for (const d of all) {
      expect(d.from.x).toBeLessThan(14);
      expect(d.to.x).toBeGreaterThan(14);
      expect(d.from.lo).toBeGreaterThan(5);
      expect(d.to.hi).toBeLessThan(36);
    }
    expect(write(doseSentence('Wait', all[0], said))).toMatch(/as good as it gets from .*; too much from /);
  });

  it('says what is still rising, what is still falling, and what makes no difference', () => {
    const rising = ladder(h => 30 + 22 * Math.log(h / 4), 3);
    expect(rising.openAbove).toBe(true);
    expect(write(doseSentence('Wait', rising, said))).toBe(
      'Wait: it still gets better at 48 h; what lies beyond was not tried.',
    );
    const falling = ladder(h => 90 - 22 * Math.log(h / 4), 3);
    expect(falling.openBelow).toBe(true);
    expect(write(doseSentence('Wait', falling, said))).toMatch(/still gets better at 4 h; what lies below/);
    const flat = ladder(() => 85, 4);
    expect(flat.flat).toBeGreaterThan(0.6);
    for (const chance of [0.8, 0.9])
      expect(write(doseSentence('Wait', { ...flat, flat: chance }, said))).toMatch(
        /all is as good: the least of it/,
      );
    expect(write(doseSentence('Wait', { ...flat, flat: 0.79 }, said))).not.toMatch(/all is as good/);
    expect(flat.flat).toBeLessThanOrEqual(1);
    expect(holds(flat.from, 4)).toBe(true);
  });

  it('counts a level at which most fail as nothing landed, and passes over a single failure elsewhere', () => {
    const failed = ladder(
      () => 88,
      5,
      3,
      h => h > 0 && h < 8,
    );
    expect(failed.from.lo).toBeGreaterThan(5.5);
    expect(failed.points[0].mean).toBeLessThan(20);
    const stray = ladder(plateau, 11, 3, h => h === -1);
    const none = ladder(plateau, 11);
    expect(Math.abs(Math.log(stray.from.x / none.from.x))).toBeLessThan(0.35);
  });

  it('takes half of a level’s patches for most of them, and less than half for none', () => {
    // Four patches a level: those of four hours that fail are counted off.
    const first = (count: number) => {
      let gone = 0;
      return ladder(
        () => 88,
        7,
        3,
        h => h === 4 && gone++ < count,
      ).points[0].mean;
    };
    expect(first(1)).toBeGreaterThan(70);
    expect(first(2)).toBeLessThan(first(1) - 20);
    expect(first(4)).toBeLessThan(first(2));
  });

  it('is on its scale, in order, and the band holds the middle', () => {
    const d = ladder(plateau, 21, 8);
    for (const p of d.points) {
      expect(p.lo).toBeLessThanOrEqual(p.mean);
      expect(p.mean).toBeLessThanOrEqual(p.hi);
      expect(p.lo).toBeGreaterThanOrEqual(0);
      expect(p.hi).toBeLessThanOrEqual(100);
    }
    expect(d.points[0].x).toBeCloseTo(4, 6);
    expect(d.points.at(-1)!.x).toBeCloseTo(48, 6);
  });

  it('is none of two levels, nor of things', () => {
    const plan = examplePlan();
    const analysis = analyse({
      factors: [
        { name: 'Medium', levels: ['a', 'b', 'c'] },
        { name: 'Wait', levels: ['4', '20'] },
      ],
      pairs: [],
      random: [],
      patches: plan.patches.map((p, i) => ({
        code: p.code,
        levels: p.levels,
        failed: false,
        shares: [],
        value: 60 + i,
      })),
      better: 'high',
      draws: 40,
    });
    expect(dosesIn(plan, analysis)).toEqual([]);
    expect(
      trapezoidsOf(
        [
          { x: 0, y: 1 },
          { x: 1, y: 2 },
          { x: 1.001, y: 3 },
        ],
        2,
      ),
    ).toBeUndefined();
  });

  it('draws that are what they say: level between the ends, down by what was asked for at them', () => {
    const chance = chanceFrom(9);
    const xs = [0, 0.5, 1, 1.5, 2, 2.5, 3];
    const seen = xs.flatMap(x =>
      [1, 2, 3].map(() => ({
        x,
        y: 80 - 30 * Math.max(0, 1 - x) - 20 * Math.max(0, x - 2) + chance.normal(),
      })),
    );
    const draws = trapezoidsOf(seen, 2) as readonly Trapezoid[];
    const mean = (of: (t: Trapezoid) => number) => draws.reduce((s, t) => s + of(t), 0) / draws.length;
    expect(mean(t => t.top)).toBeCloseTo(80, -0.3);
    expect(mean(t => t.at(0))).toBeCloseTo(50, -0.6);
    expect(mean(t => t.at(3))).toBeCloseTo(60, -0.6);
    expect(Math.abs(mean(t => t.from) - (1 - 2 / 30))).toBeLessThan(0.15);
    expect(Math.abs(mean(t => t.to) - (2 + 2 / 20))).toBeLessThan(0.15);
    for (const t of draws) {
      expect(t.top - t.at(t.from)).toBeLessThanOrEqual(2 + 1e-6);
      expect(t.from).toBeLessThanOrEqual(t.to);
    }
  });
});
