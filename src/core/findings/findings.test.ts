import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { recipeOf } from '../recipe/index.ts';
import { readingFor } from '../trial/example.ts';
import type { TrialRecord } from '../trial/index.ts';
import { findingsOf, fitModel, halfWidth, oneWayF, pValue } from './index.ts';

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
