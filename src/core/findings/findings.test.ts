import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { recipeOf } from '../recipe/index.ts';
import { readingFor } from '../trial/example.ts';
import type { TrialRecord } from '../trial/index.ts';
import { findingsOf, fitModel, halfWidth, observations, oneWayF, pValue, scatterOf } from './index.ts';

describe('the linear model', () => {
  it('reproduces the certified values of the NIST data set SiRstv', () => {
    // NIST Statistical Reference Datasets, one-way analysis of variance, 5 groups of 5.
    const groups = [
      [196.3052, 196.124, 196.189, 196.2569, 196.3403],
      [196.3042, 196.3825, 196.1669, 196.3257, 196.0422],
      [196.1303, 196.2005, 196.2889, 196.0343, 196.1811],
      [196.2795, 196.1748, 196.1494, 196.1485, 195.9885],
      [196.2119, 196.1051, 196.185, 196.0052, 196.209],
    ];
    const { f, residualSd } = oneWayF(groups);
    expect(f).toBeCloseTo(1.18046237440255, 7);
    expect(residualSd).toBeCloseTo(0.104076068334656, 9);
  });

  it('gives intervals from Student’s t', () => {
    // t(0.95; 6) = 1.943180, t(0.975; 10) = 2.228139 (standard tables).
    expect(halfWidth({ value: 0, standardError: 1 }, 6, 0.9)).toBeCloseTo(1.94318, 4);
    expect(halfWidth({ value: 0, standardError: 1 }, 10, 0.95)).toBeCloseTo(2.228139, 5);
    expect(pValue({ value: 2.228139, standardError: 1 }, 10)).toBeCloseTo(0.05, 5);
    expect(pValue({ value: 2.228139, standardError: 1 }, 10, 3)).toBeCloseTo(0.15, 5);
    expect(pValue({ value: 1, standardError: 0 }, 3)).toBe(0);
  });

  it('averages the other factors evenly even when patches are missing', () => {
    const value = (a: number, b: number) => 50 + 20 * a + 6 * b;
    const data = [
      [0, 0],
      [0, 1],
      [1, 0],
      [1, 1],
      [0, 0],
      [1, 1],
      [1, 1],
    ].map(levels => ({ levels, value: value(levels[0], levels[1]) }));
    const fit = fitModel([2, 2], data)!;
    expect(fit.difference(0, 1, 0).value).toBeCloseTo(20, 9);
    expect(fit.mean(1, 0).value).toBeCloseTo(60, 9);
    expect(fit.residualSd).toBeCloseTo(0, 9);
  });

  it('falls back to main effects without repeats, and to nothing when a level is missing', () => {
    const once = [
      [0, 0],
      [0, 1],
      [1, 0],
      [1, 1],
    ].map(levels => ({ levels, value: levels[0] + levels[1] }));
    expect(fitModel([2, 2], once)!.model).toBe('main effects');
    expect(fitModel([2, 2], once.slice(0, 2))).toBeUndefined();
    expect(fitModel([2, 2], once.slice(0, 3))).toBeUndefined();
  });
});

describe('findings of a trial', () => {
  const plan = examplePlan();
  const give = (landed: (levels: readonly number[], repeat: number) => number) =>
    plan.patches.flatMap((p, i) =>
      readingFor(p.code, i, { landed: landed(p.levels, p.repeat), veil: 0.1 + 0.01 * p.repeat }),
    );

  it('names a clear winner and says by how much', () => {
    const records = give(([m], repeat) => [92, 80, 50][m] + repeat);
    const { effects, leading } = findingsOf(plan, records);
    const medium = effects.find(e => e.factor === 0 && e.measure === 'landed')!;
    expect(medium.best).toBe(0);
    expect(medium.lead).toBeCloseTo(12, 6);
    expect(medium.sentence).toMatch(/^Matte acrylic medium lands more than every other, by 12 points/);
    expect(leading!.levels[0]).toBe(0);
  });

  it('does not claim a difference that chance could make', () => {
    const noise = [3, -7, 5, -4, 8, -6, 2, 7, -3, 4, -8, 1];
    let i = 0;
    const { effects } = findingsOf(
      plan,
      give(() => 80 + noise[i++]),
    );
    for (const e of effects.filter(e => e.measure === 'landed'))
      expect(e.sentence).toMatch(/could change it|told apart from chance/);
  });

  it('are not given before every level has a dry reading', () => {
    expect(findingsOf(plan, []).why).toMatch(/No patch has a dry reading/);
    expect(findingsOf(plan, give(() => 80).slice(0, 4)).why).toMatch(/Not enough/);
    const wet = give(() => 80).map(r => (r.kind === 'photo' ? { ...r, stage: 'wet' as const } : r));
    expect(findingsOf(plan, wet).why).toMatch(/No patch/);
  });

  it('put the combination with less veil first where as much landed, and more veil for more landed as the intent weighs it', () => {
    const of = (intent: 'crisp' | 'worn', landed: readonly number[], veil: readonly number[]) => {
      const records = plan.patches.flatMap((p, i) =>
        readingFor(p.code, i, { landed: landed[p.levels[0]] + p.repeat, veil: veil[p.levels[0]] }),
      );
      return findingsOf({ ...plan, intent }, records).leading?.levels[0];
    };
    expect(of('crisp', [80, 80, 50], [0.3, 0.1, 0.1])).toBe(1);
    expect(of('crisp', [80, 80, 50], [0.1, 0.3, 0.1])).toBe(0);
    // Ten points more for 0.2 more veil: not worth it where it is to be crisp, worth it where it may look worn.
    expect(of('crisp', [90, 80, 50], [0.3, 0.1, 0.1])).toBe(1);
    expect(of('worn', [90, 80, 50], [0.3, 0.1, 0.1])).toBe(0);
    const veil = findingsOf(
      plan,
      give(() => 80),
    ).effects.filter(e => e.measure === 'veil');
    expect(veil.length).toBeGreaterThan(0);
    const clear = plan.patches.flatMap((p, i) =>
      readingFor(p.code, i, { landed: 80 + p.repeat, veil: 0.1 + 0.2 * p.levels[0] + 0.001 * p.repeat }),
    );
    const effect = findingsOf(plan, clear).effects.find(e => e.measure === 'veil' && e.factor === 0)!;
    expect(effect.best).toBe(0);
    expect(effect.lead).toBeCloseTo(-0.2, 6);
    expect(effect.sentence).toMatch(/leaves less veil than every other, by 0\.20/);
  });

  it('give each level its mean with an interval about it, and count its patches', () => {
    const { effects, measured, missing } = findingsOf(
      plan,
      give(([m], repeat) => [92, 80, 50][m] + repeat),
    );
    expect([measured, missing]).toEqual([12, 0]);
    const medium = effects.find(e => e.factor === 0 && e.measure === 'landed')!;
    expect(medium.levels.map(l => [l.n, Math.round(l.mean * 2) / 2])).toEqual([
      [4, 92.5],
      [4, 80.5],
      [4, 50.5],
    ]);
    for (const l of medium.levels) expect(l.hi - l.mean).toBeCloseTo(l.mean - l.lo, 9);
    expect(medium.p).toBeLessThan(0.001);
    const part = findingsOf(plan, give(() => 80).slice(2));
    expect(part.missing).toBe(1);
  });

  it('say which two are too close where only the last is clearly worse', () => {
    const noise = [2, -2, 1, -1, 2, -1, 1, -2, 1, -1, 2, -2];
    let i = 0;
    const records = give(([m]) => [81, 80, 50][m] + noise[i++]);
    const medium = findingsOf(plan, records).effects.find(e => e.factor === 0 && e.measure === 'landed')!;
    expect(medium.sentence).toMatch(/lands more than .*; between .* and .* it is too close to call\.$/);
  });

  // Two patches of each of six combinations, half a point either side of their mean: the variance of a patch is 0.5 with
  // six degrees of freedom. A medium's mean has √(0.5 / 4), their difference 0.5, a wait's 0.408, a combination 0.5.
  // Student's t with 6: 0.95 → 1.9432, 0.975 → 2.4469, 0.9875 → 2.9687, 0.99167 → 3.2875, 0.925 → 1.6502.
  const spread = (of: (levels: readonly number[]) => number) => {
    const sign = new Map<string, number>();
    return plan.patches.flatMap((p, i) => {
      const key = p.levels.join();
      sign.set(key, -(sign.get(key) ?? 1));
      return readingFor(p.code, i, { landed: of(p.levels) + 0.5 * sign.get(key)!, veil: 0.1 });
    });
  };
  const effect = (factor: number, of: (levels: readonly number[]) => number) =>
    findingsOf(plan, spread(of)).effects.find(e => e.factor === factor && e.measure === 'landed')!;
  const mediums = (a: number, b: number, c: number) => effect(0, ([m]) => [a, b, c][m]);

  it('have the scatter, the interval and the p-value of the table', () => {
    const medium = mediums(70, 72, 60);
    expect(
      scatterOf(
        plan,
        spread(() => 80),
      )!.residualSd,
    ).toBeCloseTo(Math.sqrt(0.5), 9);
    expect(
      scatterOf(
        plan,
        spread(() => 80),
      )!.degreesOfFreedom,
    ).toBe(6);
    expect(scatterOf(plan, [])).toBeUndefined();
    expect(scatterOf(plan, spread(() => 80).slice(0, 4))).toBeUndefined();
    expect(medium.best).toBe(1);
    expect(medium.levels[1].hi - medium.levels[1].mean).toBeCloseTo(1.94318 * Math.sqrt(0.5 / 4), 4);
    expect(mediums(70, 70 + 2.96869 * 0.5, 60).p).toBeCloseTo(0.05, 5);
    expect(medium.sentence).toMatch(/by 2(\.0)? points \(give or take 1(\.0)? points?\)/);
  });

  it('claim the best of three at a lead of 2.97 standard errors, not below', () => {
    expect(mediums(81.49, 80, 79).sentence).toMatch(/lands more than every other/);
    expect(mediums(81.48, 80, 79.9).sentence).toMatch(/is ahead of/);
    expect(mediums(79.9, 80, 81.49).best).toBe(2);
  });

  it('call the last behind at a gap of 3.29 standard errors, not below', () => {
    expect(mediums(81.4, 80.6, 79.75).sentence).toMatch(/by 2 points; between .* too close to call/);
    expect(mediums(81.38, 80.6, 79.75).sentence).toMatch(/is ahead of|told apart/);
  });

  it('say who is ahead at a lead of 1.65 standard errors, and nothing below', () => {
    expect(mediums(80.83, 80, 79.9).sentence).toMatch(/is ahead of .* two more repeats could change it/);
    expect(mediums(80.82, 80, 79.9).sentence).toMatch(/^No difference in .* can be told apart from chance/);
  });

  it('name both of two', () => {
    const wait = (by: number) => effect(1, levels => 80 + by * levels[1]).sentence;
    expect(wait(1.01)).toMatch(/^20 h .*lands more than (?!every other)/);
    expect(wait(0.98)).toMatch(/is ahead of/);
    expect(wait(-1.01)).toMatch(/lands more than 20 h/);
  });

  it('lead clearly from 2.83 standard errors on, and name who is too close below', () => {
    const leading = (by: number) =>
      findingsOf(
        plan,
        spread(([m, t]) => 80 + (m === 2 && t === 1 ? by : 0) - 5 * Number(m === 1)),
      ).leading!;
    expect(leading(1.42)).toMatchObject({ levels: [2, 1], certain: true });
    expect(leading(1.42).sentence).toMatch(/, 20 h.* leads clearly\.$/);
    expect(leading(1.41).certain).toBe(false);
    expect(leading(1.41).sentence).toMatch(/leads, but .* is too close behind to rule out\.$/);
    const { landed, veil, patches } = leading(1.42);
    expect(landed.value).toBeCloseTo(81.42, 9);
    expect(landed.hi - landed.value).toBeCloseTo(1.94318 * 0.5, 4);
    expect(landed.value - landed.lo).toBeCloseTo(1.94318 * 0.5, 4);
    expect(veil!.value).toBeCloseTo(0.1, 9);
    expect([...patches].sort()).toEqual(
      plan.patches
        .filter(p => p.levels.join() === '2,1')
        .map(p => p.code)
        .sort(),
    );
  });

  it('keep what is expected between nothing and all', () => {
    const full = findingsOf(
      plan,
      spread(([m]) => [99.8, 50, 50][m]),
    ).leading!.landed;
    expect(full.hi).toBe(100);
    expect(full.lo).toBeLessThan(99.8);
    const none = findingsOf(
      plan,
      spread(() => 0.2),
    ).leading!.landed;
    expect(none.lo).toBe(0);
    expect(none.hi).toBeGreaterThan(0.2);
  });

  it('leave out what a reading does not say', () => {
    const [photo, reading] = readingFor(plan.patches[0].code, 0, { landed: 80, veil: 0.1 });
    const without =
      reading.kind === 'reading' ? { ...reading, reading: { ...reading.reading, veil: null } } : reading;
    expect(observations(plan, [photo, without as TrialRecord], 'veil')).toEqual([]);
    expect(observations(plan, [photo, without as TrialRecord], 'landed')).toHaveLength(1);
  });

  it('say nothing of what was made in one go', () => {
    const together = examplePlan({ groupKey: 'medium', repeats: 1 });
    const records = together.patches.flatMap((p, i) =>
      readingFor(p.code, i, { landed: 60 + 5 * p.levels[0] + (i % 3), veil: 0.1 }),
    );
    expect(findingsOf(together, records).effects[0].sentence).toMatch(/^Every medium was made in one go/);
  });

  it('do not count the control among what is missing', () => {
    const controlled = examplePlan({ control: true });
    expect(controlled.patches.some(p => !p.levels.length)).toBe(true);
    const tested = controlled.patches.filter(p => p.levels.length);
    const records = tested.flatMap((p, i) => readingFor(p.code, i, { landed: 80 + (i % 2), veil: 0.1 }));
    expect(findingsOf(controlled, records)).toMatchObject({ measured: tested.length, missing: 0 });
    expect(findingsOf(controlled, []).effects).toEqual([]);
  });

  it('put a combination with a scrapped patch behind all others', () => {
    const records = give(([m], repeat) => [92, 80, 50][m] + repeat);
    const best = findingsOf(plan, records).leading!;
    const scrap: TrialRecord = {
      id: 'sc',
      at: '2026-05-04T00:00:00.000Z',
      kind: 'verdict',
      patch: best.patches[0],
      verdict: 'scrap',
      grade: 1,
      symptoms: [],
    };
    const after = findingsOf(plan, [...records, scrap]).leading!;
    expect(after.levels).not.toEqual(best.levels);
    expect(
      findingsOf(plan, [...records, { ...scrap, verdict: 'fix' } as TrialRecord]).leading!.levels,
    ).toEqual(best.levels);
    expect(best.landed.lo).toBeGreaterThanOrEqual(0);
    expect(best.landed.hi).toBeLessThanOrEqual(100);
  });

  it('leave spoilt patches out', () => {
    const spoilt: TrialRecord = {
      id: 'sp',
      at: '2026-05-03T00:00:00.000Z',
      kind: 'spoilt',
      patch: plan.patches[0].code,
      why: 'dropped',
    };
    expect(findingsOf(plan, [...give(() => 80), spoilt]).measured).toBe(11);
  });

  it('become a recipe with every choice fixed, windows, cautions and the patches behind it', () => {
    const recipe = recipeOf(
      plan,
      give(([m, t]) => [70, 95, 50][m] - 20 * (1 - t)),
    )!;
    expect(recipe.choices.find(c => c.what === 'Medium')!.choice).toMatch(/^Soft gel medium, 0.4 mm/);
    expect(recipe.choices.find(c => c.what === 'Cure time')!.choice).toMatch(/^20 h/);
    expect(recipe.steps.find(s => s.action === 'Coat it')!.window).toMatch(/place within/);
    expect(recipe.steps.some(s => s.cautions.some(c => /label/.test(c)))).toBe(true);
    expect(recipe.evidence.join(' ')).toContain(plan.code);
    expect(recipeOf(plan, [])).toBeUndefined();
  });
});
