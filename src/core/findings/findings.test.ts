import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import { recipeOf } from '../recipe/index.ts';
import { write } from '../say/index.ts';
import { readingFor } from '../trial/example.ts';
import type { TrialRecord } from '../trial/index.ts';
import { findingsOf, hasFailed, observations, scatterOf } from './index.ts';

describe('findings of a trial', () => {
  const plan = examplePlan();
  const give = (landed: (levels: readonly number[], repeat: number) => number) =>
    plan.patches.flatMap((p, i) =>
      readingFor(p.code, i, { landed: landed(p.levels, p.repeat), veil: 0.1 + 0.01 * p.repeat }),
    );

  it('decide for a clear winner, say how sure that is, and by how much', () => {
    const records = give(([m], repeat) => [92, 80, 50][m] + repeat);
    const { effects, leading } = findingsOf(plan, records);
    const medium = effects.find(e => e.factor === 0 && e.measure === 'landed')!;
    expect(medium.best).toBe(0);
    expect(medium.sure).toBeGreaterThan(0.95);
    expect(write(medium.sentence)).toMatch(
      /^Matte acrylic medium lands more than every other, by about 1[0-2] points/,
    );
    expect(write(medium.sentence)).toMatch(/\(measured: 12 points, give or take \d points?\)\.$/);
    expect(leading!.levels[0]).toBe(0);
    expect(write(leading!.sentence)).toMatch(
      /^Take Matte acrylic medium: 9\d % sure\. (If that is wrong you lose about .*\. )?(Not settled|4 h or 20 h)/,
    );
    // The wait changes nothing here: it is not claimed.
    expect(write(leading!.sentence)).toMatch(/Not settled: .* h or .* h\.|4 h or 20 h: either will do/);
    expect(leading!.certain).toBe(false);
  });

  it('do not claim a difference that chance could make', () => {
    const noise = [3, -7, 5, -4, 8, -6, 2, 7, -3, 4, -8, 1];
    let i = 0;
    const { effects, leading } = findingsOf(
      plan,
      give(() => 80 + noise[i++]),
    );
    for (const e of effects.filter(e => e.measure === 'landed')) {
      expect(write(e.sentence)).toMatch(/not settled; the likeliest is /);
      expect(e.sure).toBeLessThan(0.8);
    }
    expect(write(leading!.sentence)).not.toMatch(/^Take/);
  });

  it('are not given before every level has a dry reading', () => {
    expect(write(findingsOf(plan, []).why ?? '')).toMatch(/No patch has a dry reading/);
    expect(write(findingsOf(plan, give(() => 80).slice(0, 4)).why ?? '')).toMatch(/Not enough/);
    const wet = give(() => 80).map(r => (r.kind === 'photo' ? { ...r, stage: 'wet' as const } : r));
    expect(write(findingsOf(plan, wet).why ?? '')).toMatch(/No patch/);
    const none = findingsOf(
      plan,
      give(() => 4),
    );
    expect(none).toMatchObject({
      measured: 0,
      failed: 12,
      why: 'Every patch failed: no option of this trial worked.',
    });
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
    // Ten points more for 0.2 more veil: not worth it where it is to be crisp. Of what may look worn eighty is enough, sixty is not.
    expect(of('crisp', [90, 80, 50], [0.3, 0.1, 0.1])).toBe(1);
    expect(of('worn', [90, 80, 50], [0.3, 0.1, 0.1])).toBe(1);
    expect(of('worn', [80, 60, 50], [0.3, 0.1, 0.1])).toBe(0);
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
    expect(write(effect.sentence)).toMatch(/leaves less veil than every other, by about 0\.(1[5-9]|2)/);
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
    for (const l of medium.levels) {
      expect(l.lo).toBeLessThan(l.mean);
      expect(l.hi).toBeGreaterThan(l.mean);
    }
    const part = findingsOf(plan, give(() => 80).slice(2));
    expect(part.missing).toBe(1);
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
  it('have the scatter of patches made alike', () => {
    const alike = spread(() => 80);
    // Main effects: twelve patches, four columns, boards that do not differ.
    expect(scatterOf(plan, alike)!.residualSd).toBeCloseTo(Math.sqrt((12 * 0.25) / 8), 6);
    expect(scatterOf(plan, [])).toBeUndefined();
    expect(scatterOf(plan, alike.slice(0, 4))).toBeUndefined();
  });

  it('keep what is expected between nothing and all', () => {
    const full = findingsOf(
      plan,
      spread(([m]) => [99.8, 50, 50][m]),
    ).leading!.landed;
    expect(full.hi).toBeLessThanOrEqual(100);
    expect(full.lo).toBeLessThan(99.8);
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
    expect(write(findingsOf(together, records).effects[0].sentence)).toMatch(
      /^Every medium was made in one go/,
    );
  });

  it('do not count the control among what is missing', () => {
    const controlled = examplePlan({ control: true });
    expect(controlled.patches.some(p => !p.levels.length)).toBe(true);
    const tested = controlled.patches.filter(p => p.levels.length);
    const records = tested.flatMap((p, i) => readingFor(p.code, i, { landed: 80 + (i % 2), veil: 0.1 }));
    expect(findingsOf(controlled, records)).toMatchObject({ measured: tested.length, missing: 0 });
    expect(findingsOf(controlled, []).effects).toEqual([]);
  });

  it('count a scrapped patch, and one that failed at the bench, against its option, but not a slip', () => {
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
    const one = findingsOf(plan, [...records, scrap]);
    expect([one.failed, one.measured]).toEqual([1, 11]);
    // One scrapped piece does not outrank everything: it is one failure of its option.
    expect(one.leading!.levels[0]).toBe(best.levels[0]);
    const failedAll = plan.patches.flatMap((p, i): TrialRecord[] =>
      p.levels[0] === 0
        ? [{ id: `f${i}`, at: scrap.at, kind: 'spoilt', patch: p.code, why: 'It tore', slip: false }]
        : [],
    );
    const torn = findingsOf(plan, [...records, ...failedAll]);
    expect(torn.failed).toBe(4);
    expect(write(torn.failing)).toMatch(
      /^4 of 12 failed: Matte acrylic medium 4 of 4, Soft gel medium 0 of 4/,
    );
    expect(torn.leading!.levels[0]).not.toBe(0);
    const slips = failedAll.map(r => ({ ...r, slip: true }) as TrialRecord);
    const dropped = findingsOf(plan, [...records, ...slips]);
    expect([dropped.failed, dropped.missing]).toEqual([0, 4]);
    const unsaid = failedAll.map(({ ...r }) => ({ ...r, slip: undefined }) as TrialRecord);
    expect(findingsOf(plan, [...records, ...unsaid]).failed).toBe(0);
    const fix = { ...scrap, verdict: 'fix' } as TrialRecord;
    expect(findingsOf(plan, [...records, fix]).failed).toBe(0);
    expect(hasFailed(readingFor(best.patches[0], 0, { landed: 29.9 }), best.patches[0])).toBe(true);
    expect(hasFailed(readingFor(best.patches[0], 0, { landed: 30 }), best.patches[0])).toBe(false);
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
    expect(write(recipe.choices.find(c => c.what === 'Medium')!.choice)).toMatch(/^Soft gel medium, 0.4 mm/);
    expect(write(recipe.choices.find(c => c.what === 'Cure time')!.choice)).toMatch(/^20 h/);
    expect(write(recipe.steps.find(s => s.action === 'Coat it')!.window ?? '')).toMatch(/place within/);
    expect(recipe.steps.some(s => s.cautions.some(c => /label/.test(c)))).toBe(true);
    expect(recipe.evidence.map(x => write(x)).join(' ')).toContain(plan.code);
    expect(recipeOf(plan, [])).toBeUndefined();
  });
});
