import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { comparedSentence } from '../evidence/index.ts';
import { write } from '../say/index.ts';
import { chainOf } from '../steps/index.ts';
import { readingFor } from '../trial/example.ts';
import type { TrialRecord } from '../trial/index.ts';
import { type Asked, analyse, type Seen } from './analyse.ts';
import { dosesIn } from './dose.ts';
import { findingsOf, whatNext } from './index.ts';
import { desirability } from './intent.ts';
import { kindOf } from './kinds/index.ts';
import { factorSentence, pairSentence } from './words.ts';

describe('a wish', () => {
  const window = { none: 20, full: 60, to: 80, end: 100, power: 1, weight: 1 };

  it('rises, is full, and falls where more is not better', () => {
    const of = (value: number) => desirability(window, value);
    expect([10, 20, 40, 60, 70, 80].map(of)).toEqual([0, 0, 0.5, 1, 1, 1]);
    expect(of(85)).toBeCloseTo(0.75, 10);
    expect(of(95)).toBeCloseTo(0.25, 10);
    expect([100, 120].map(of)).toEqual([0, 0]);
  });

  it('does not fall where only one end of the fall is given', () => {
    const { end: _, ...without } = window;
    expect(desirability(without, 99)).toBe(1);
    const { to: __, ...other } = window;
    expect(desirability(other, 99)).toBe(1);
  });

  it('is stricter with a higher power, and turns where less is wanted', () => {
    expect(desirability({ ...window, power: 2 }, 40)).toBeCloseTo(0.25, 10);
    expect(desirability({ none: 0.3, full: 0.1, power: 1, weight: 1 }, 0.25)).toBeCloseTo(0.25, 10);
  });
});

describe('what was really waited', () => {
  it('is what the curve of a wait goes by, not what was planned', () => {
    const plan = examplePlan({
      factors: [{ key: 'dryHours', levels: [4, 8, 16, 32] }],
      repeats: 3,
    });
    const start = Date.parse('2026-03-02T06:00:00Z');
    const done = (step: string, code: string, ms: number, i: number): TrialRecord => ({
      ...{ id: `${step}${code}${i}`, kind: 'step', patch: code, step, round: 1 },
      at: new Date(ms).toISOString(),
    });
    const lands = (h: number) => (h < 10 ? 40 + 5 * h : 90);
    const records = plan.patches.flatMap((p, i) => {
      const planned = [4, 8, 16, 32][p.levels[0]];
      // All waits came out a third longer.
      const before = ['mark', 'coat', 'place'].map((step, k) => done(step, p.code, start + k * 60_000, i));
      const wet = done('wet', p.code, start + 2 * 60_000 + planned * 1.3 * 3_600_000, i);
      return [...before, wet, ...readingFor(p.code, i, { landed: lands(planned) - (i % 3), veil: 0.1 })];
    });
    const { doses, effects } = findingsOf(plan, records);
    expect(doses).toHaveLength(1);
    const waits = doses[0].points.map(c => c.x);
    expect(Math.max(...waits)).toBeCloseTo(41.6, 0);
    expect(Math.min(...waits)).toBeCloseTo(5.2, 0);
    const landed = effects.find(e => e.measure === 'landed')!;
    expect(
      landed.levels
        .map(l => l.name)
        .map(x => write(x))
        .join(),
    ).toBe('4 h (really 5.2 h),8 h (really 10 h),16 h (really 21 h),32 h (really 1.7 days)');
  });
});

const asked = (patches: readonly Seen[], part: Partial<Asked> = {}): Asked => ({
  factors: [
    { name: 'Medium', levels: ['a', 'b', 'c'] },
    { name: 'Wait', levels: ['4', '20'] },
  ],
  ...{ pairs: [], random: [], patches, better: 'high', bounds: [0, 100], draws: 400, worlds: 60 },
  ...part,
});
const seen = (code: string, levels: readonly number[], value: number | undefined, failed = false): Seen => ({
  ...{ code, levels, value, failed, shares: [] },
});

describe('what cannot be told', () => {
  it('is every pair of levels of which one was never measured, and between no others', () => {
    const patches = [0, 1].flatMap(r =>
      [0, 1].flatMap(m =>
        [0, 1].map(w => seen(`${r}${m}${w}`, [m, w], 70 + 10 * m + 5 * w + 2 * r * (m === w ? 1 : -1))),
      ),
    );
    const analysis = analyse(asked(patches));
    expect(analysis.notTold.map(n => [n.factor, ...n.levels])).toEqual([
      [0, 0, 2],
      [0, 1, 2],
    ]);
    expect(analysis.notTold.every(n => n.from.length === 0)).toBe(true);
    const between = analysis.differences.map(d => [d.factor, d.a, d.b]);
    expect(between).toEqual([
      [0, 0, 1],
      [1, 0, 1],
    ]);
    // The mean of b is above that of a, and so is its difference's sign.
    expect(analysis.differences[0].value).toBeLessThan(0);
  });

  it('is named with what it goes with where two only changed together', () => {
    const patches = [0, 1, 2, 3].flatMap(r => [0, 1].map(m => seen(`${r}${m}`, [m, m], 60 + 20 * m + r)));
    const { notTold } = analyse(
      asked(patches, {
        factors: [
          { name: 'Medium', levels: ['a', 'b'] },
          { name: 'Wait', levels: ['4', '20'] },
        ],
      }),
    );
    expect(notTold).toEqual([
      { factor: 0, levels: [0, 1], from: [1] },
      { factor: 1, levels: [0, 1], from: [0] },
    ]);
  });
});

describe('failures', () => {
  const patches = [0, 1, 2, 3, 4, 5].flatMap(r =>
    [0, 1, 2].flatMap(m =>
      [0, 1].map(w =>
        seen(`${r}${m}${w}`, [m, w], m === 2 ? undefined : 80 + r, m === 2 || (m === 1 && r < 2)),
      ),
    ),
  );

  it('are counted by level of their own factor, with a chance that lies within its range', () => {
    const { failing } = analyse(asked(patches));
    const of = (f: number, l: number) => failing.find(x => x.factor === f && x.level === l)!;
    expect([0, 1, 2].map(l => [of(0, l).failed, of(0, l).of])).toEqual([
      [0, 12],
      [4, 12],
      [12, 12],
    ]);
    expect([0, 1].map(l => of(1, l).failed)).toEqual([8, 8]);
    for (const { chance } of failing) {
      expect(chance!.lo).toBeLessThanOrEqual(chance!.value);
      expect(chance!.hi).toBeGreaterThanOrEqual(chance!.value);
      expect(chance!.lo).toBeGreaterThanOrEqual(0);
      expect(chance!.hi).toBeLessThanOrEqual(1);
    }
    expect(of(0, 0).chance!.hi).toBeLessThan(of(0, 2).chance!.lo);
  });

  it('turned round are how often it is kept, in ten', () => {
    const plan = examplePlan();
    const records = plan.patches.flatMap((p, i): TrialRecord[] => [
      ...readingFor(p.code, i, { landed: 80 + p.repeat, veil: 0.1 }),
      {
        ...{ id: `v${i}`, at: '2026-03-05T10:00:00.000Z', kind: 'verdict', patch: p.code, symptoms: [] },
        ...{ verdict: p.levels[0] === 2 ? 'scrap' : 'keep', grade: 3 },
      },
    ]);
    const kept = findingsOf(plan, records).effects.find(e => e.measure === 'keep' && e.factor === 0)!;
    expect(kept.levels.map(l => l.n)).toEqual([4, 4, 4]);
    for (const l of kept.levels) {
      expect(l.lo).toBeLessThanOrEqual(l.mean);
      expect(l.mean).toBeLessThanOrEqual(l.hi);
      expect(l.hi).toBeLessThanOrEqual(10);
    }
    expect(kept.levels[0].mean).toBeGreaterThan(8);
    expect(kept.levels[2].mean).toBeLessThan(2);
    expect(kept.levels.map(l => l.name)).toEqual([...new Set(kept.levels.map(l => l.name))]);
  });

  it('say of the only one that worked that it is the only one', () => {
    const only = [0, 1, 2, 3].flatMap(r =>
      [0, 1, 2].flatMap(m => [0, 1].map(w => seen(`${r}${m}${w}`, [m, w], m ? undefined : 80 + r, m > 0))),
    );
    const words = factorSentence(analyse(asked(only)), 0, d => `${d} points`);
    expect(write(words)).toBe('a is the only one that worked: b failed 8 times in 8, c failed 8 times in 8.');
  });

  it('of a number’s level take its curve down only where its own level fails', () => {
    const plan = examplePlan({ factors: [{ key: 'dryHours', levels: [4, 10, 24, 48] }], repeats: 4 });
    const own = plan.patches.map((p, i) =>
      seen(p.code, p.levels, 80 - i * 0.1, p.levels[0] === 0 || (p.levels[0] === 3 && p.repeat === 0)),
    );
    const analysis = analyse(
      asked(own, { factors: [{ name: 'Cure time', levels: ['4', '10', '24', '48'] }] }),
    );
    const [dose] = dosesIn(plan, analysis);
    const at = (x: number) => dose.points.reduce((a, b) => (Math.abs(b.x - x) < Math.abs(a.x - x) ? b : a));
    expect(at(4).mean).toBeLessThan(40);
    expect(at(48).mean).toBeGreaterThan(70);
  });
});

describe('what was compared', () => {
  it('names those that are at least one in ten likely, and settles at eight in ten', () => {
    const of = (...best: number[]) =>
      comparedSentence({
        ...{ levels: best.map((b, i) => ({ name: 'abc'[i], best: b })), trials: 2, patches: 9 },
      } as never);
    expect(write(of(0.6, 0.3, 0.1))).toMatch(
      /^Not settled: a \(60 %\), b \(30 %\), c \(10 %\), from 9 patches in 2/,
    );
    expect(write(of(0.6, 0.31, 0.09))).toMatch(/^Not settled: a \(60 %\), b \(31 %\), from/);
    expect(write(of(0.8, 0.2))).toMatch(/^a rather than b: 80 % sure/);
    expect(write(of(0.79, 0.21))).toMatch(/^Not settled/);
  });
});

describe('an effect of two together', () => {
  const levels = [0, 1].flatMap(m => [0, 1].map(w => [m, w]));
  const pair = (joint: number, part: Partial<Asked> = {}) =>
    analyse(
      asked(
        [0, 1, 2].flatMap(r =>
          levels.map(([m, w]) =>
            seen(`${r}${m}${w}`, [m, w], 60 + 5 * m + 5 * w + joint * m * w + [0, 4, -4][r]),
          ),
        ),
        {
          factors: [
            { name: 'Medium', levels: ['a', 'b'] },
            { name: 'Wait', levels: ['4', '20'] },
          ],
          pairs: [[0, 1]],
          bounds: undefined,
          ...part,
        },
      ),
    );
  const says = (a: ReturnType<typeof pair>, together: number, draws: number) =>
    pairSentence({ ...a, decision: { ...a.decision!, together: [together], draws } }, 0, v => v.toFixed(0));

  it('is as sure as its draws can make it, and no surer: all of a few draws are little', () => {
    const none = pair(0);
    // Odds over prior odds of nine: with all of 1000 draws they are 222, with all of 10 they are 2.1.
    expect(write(says(none, 1, 1000) ?? '')).toMatch(/^Medium works differently with another wait/);
    expect(write(says(none, 1, 10) ?? '')).toMatch(/is not settled\.$/);
    // 0.9 is the prior itself; 0.75 is a third of its odds.
    expect(write(says(none, 0.9, 1000) ?? '')).toMatch(/is not settled\.$/);
    expect(write(says(none, 0.74, 1000) ?? '')).toMatch(/no sign that one works differently/);
    expect(write(says(none, 0.97, 1000) ?? '')).toMatch(/^Medium works differently/);
  });

  it('has the difference of differences as its size, with the sign of each', () => {
    expect(write(says(pair(-40), 1, 1000) ?? '')).toBe(
      'Medium works differently with another wait: a has 5 less than b at 4, and 35 more than b at 20.',
    );
  });
});

describe('what next', () => {
  it('is no more than sixteen patches, and as many as that where it takes them', () => {
    const plan = examplePlan({
      factors: [{ key: 'medium', levels: ['matte-acrylic', 'soft-gel', 'white-pva', 'heavy-gel'] }],
      repeats: 3,
    });
    const noise = [4, -6, 2, 5, -3, 1, -5, 6, 0, 3, -2, -4];
    const patches = plan.patches.map((p, i) => seen(p.code, p.levels, 70 + 1.2 * p.levels[0] + noise[i]));
    const analysis = analyse(
      asked(patches, {
        factors: [{ name: 'Medium', levels: ['a', 'b', 'c', 'd'] }],
        draws: 800,
        worlds: 60,
      }),
    );
    const lengths: number[] = [];
    const next = whatNext(analysis, share => lengths.push(share));
    if (next) expect(next.combinations.length).toBeLessThanOrEqual(16);
    // Sets of two to four options, one to four times over: 2–8, 3–12 and 4–16 patches for each world.
    expect(Math.round(1 / lengths[0]) % 4).toBe(0);
    expect(Math.max(...lengths)).toBeLessThanOrEqual(1);
  });
});

describe('a wet photo', () => {
  it('says nothing of what is worth taking', () => {
    const plan = examplePlan();
    const dry = plan.patches
      .slice(1)
      .flatMap((p, i) => readingFor(p.code, i, { landed: 60 + 12 * p.levels[0] + (i % 3), veil: 0.1 }));
    const wet = readingFor(plan.patches[0].code, 40, { landed: 3, veil: 0.9 }, 'wet');
    const found = findingsOf(plan, [...dry, ...wet]);
    const without = findingsOf(plan, [...dry]);
    expect(found.leading?.sentence).toEqual(without.leading?.sentence);
    expect(found.leading?.levels).toEqual(without.leading?.levels);
    expect(found.measured).toBe(11);
  });
});

describe('minutes of work', () => {
  const plan = examplePlan({ repeats: 1 });
  const [first, second] = plan.patches;
  const worked = (patch: typeof first, minutes: number, forget?: number, away = 0): TrialRecord[] => {
    let at = Date.parse('2026-03-02T08:00:00.000Z');
    return chainOf(plan, patch).map(({ step, round }, i): TrialRecord => {
      const begun = new Date(at).toISOString();
      at += (minutes + (i === 1 ? away : 0)) * 60_000;
      const done = new Date(at).toISOString();
      at += 60_000;
      return {
        ...{ id: `${patch.code}${i}`, at: done, kind: 'step', patch: patch.code, step: step.id, round },
        ...(i === forget ? {} : { begun }),
      };
    });
  };
  const of = (records: TrialRecord[], code: string) => kindOf('minutes').values(plan, records).get(code);

  it('are those between the beginning and the end of each step', () => {
    const steps = chainOf(plan, first).length;
    expect(of(worked(first, 2), first.code)).toBeCloseTo(2 * steps, 6);
    // Three hours at one step: called away. What the step is stated to take is counted in its place.
    expect(of(worked(first, 2, undefined, 180), first.code)!).toBeLessThan(2 * steps + 11);
    expect(of(worked(first, 2, undefined, 7), first.code)!).toBeCloseTo(2 * steps + 7, 6);
  });

  it('are known only of a patch of which every beginning and every end is', () => {
    const records = [...worked(first, 2, 2), ...worked(second, 2).slice(0, -1)];
    expect(of(records, first.code)).toBeUndefined();
    expect(of(records, second.code)).toBeUndefined();
  });
});
