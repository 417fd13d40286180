import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import type { PlanRequest } from '../design/index.ts';
import type { TrialPlan } from '../trial/index.ts';
import { fitModel, fitsOf, halfWidth } from './index.ts';

/** Landed of docs/reference/design-reference.R: three preparations on two strips each, two waits inside each strip. */
const Y = [62, 70, 66, 75, 80, 84, 77, 86, 71, 74, 69, 79];
const strips = (part: Partial<PlanRequest> = {}): TrialPlan =>
  examplePlan({
    factors: [
      { key: 'preparation', levels: ['none', 'white-coat', 'gel-primer'] },
      { key: 'dryHours', levels: [4, 20] },
    ],
    design: 'strips',
    stripKey: 'preparation',
    repeats: 2,
    board: { w: 360, h: 130, outline: 'rectangle', onePiece: false },
    ...part,
  });
/** The values of R laid on the strips of a plan: strip by strip of each level, the short wait first. */
function laidOn(plan: TrialPlan) {
  const next = [0, 0, 0];
  const seen = new Map<number, number>();
  return [...plan.patches]
    .sort((a, b) => a.strip! - b.strip!)
    .map(p => {
      if (!seen.has(p.strip!)) seen.set(p.strip!, next[p.levels[0]]++);
      return {
        code: p.code,
        levels: p.levels,
        value: Y[p.levels[0] * 4 + seen.get(p.strip!)! * 2 + p.levels[1]],
      };
    });
}

describe('a trial in strips', () => {
  const plan = strips();
  const fits = () => fitsOf(plan, laidOn(plan))!;

  it('is judged strip against strip for what was given to strips, as R does with Error(strip)', () => {
    const { fit, factor } = fits().of(0);
    expect(fit.degreesOfFreedom).toBe(3);
    const coat = fit.difference(factor, 1, 0);
    expect(coat.value).toBeCloseTo(13.5, 9);
    expect(coat.standardError).toBeCloseTo(1.94722024, 7);
    expect(fit.difference(factor, 2, 0).value).toBeCloseTo(5, 9);
  });

  it('is judged inside the strips for what changes there', () => {
    const { fit, factor } = fits().of(1);
    expect(fit.degreesOfFreedom).toBe(5);
    const wait = fit.difference(factor, 1, 0);
    expect(wait.value).toBeCloseTo(7.16666667, 7);
    expect(wait.standardError).toBeCloseTo(1.19489656, 7);
  });

  it('has chosen interactions with what was given to strips beside them, as the differences inside strips say', () => {
    const crossed = fitsOf(strips({ interactions: [[0, 1]] }), laidOn(strips({ interactions: [[0, 1]] })))!;
    const { fit, factor } = crossed.of(1);
    // Differences inside the six strips, by preparation: 8 9, 4 9, 3 10. Their scatter about the means of each
    // preparation is 18.75 over 3 degrees of freedom, the mean of the means 7.1667 with √(2 · 6.25 / 6).
    expect(fit.degreesOfFreedom).toBe(3);
    expect(fit.residualSd ** 2).toBeCloseTo(6.25, 9);
    expect(fit.difference(factor, 1, 0).value).toBeCloseTo(7.16666667, 7);
    expect(fit.difference(factor, 1, 0).standardError).toBeCloseTo(Math.sqrt((2 * 6.25) / 6), 9);
    expect(crossed.of(0).fit.degreesOfFreedom).toBe(3);
  });

  it('is less sure of the strips than a model that takes every patch for itself', () => {
    const naive = fitModel([3, 2], laidOn(plan))!;
    const honest = fits().of(0);
    expect(halfWidth(honest.fit.difference(0, 1, 0), honest.fit.degreesOfFreedom)).toBeGreaterThan(
      halfWidth(naive.difference(0, 1, 0), naive.degreesOfFreedom) * 0.9,
    );
    expect(naive.degreesOfFreedom).toBeGreaterThan(honest.fit.degreesOfFreedom);
  });
});

describe('three factors, one of them in strips', () => {
  const three = (interactions: [number, number][]) =>
    strips({
      factors: [
        { key: 'preparation', levels: ['none', 'white-coat'] },
        { key: 'dryHours', levels: [4, 20] },
        { key: 'rounds', levels: [2, 3] },
      ],
      repeats: 3,
      board: { w: 600, h: 300, outline: 'rectangle', onePiece: false },
      interactions,
    });
  /** Strips differ, each wait and number of rounds has its effect and the two have one together; the rest is a fixed jitter. */
  const valued = (plan: TrialPlan) =>
    plan.patches
      .filter(p => p.levels.length)
      .map((p, i) => ({
        code: p.code,
        levels: p.levels,
        value:
          50 +
          4 * p.strip! +
          6 * p.levels[1] +
          2 * p.levels[2] +
          8 * p.levels[1] * p.levels[2] +
          ((i * 37) % 11) / 10,
      }));

  it('has an interaction of two that change inside the strips judged there, as strips taken for blocks say', () => {
    const plan = three([[1, 2]]);
    const data = valued(plan);
    const { fit, factor } = fitsOf(plan, data)!.of(1);
    expect(factor).toBe(0);
    const strip = new Map(plan.patches.map(p => [p.code, p.strip!]));
    const byHand = fitModel(
      [2, 2],
      data.map(d => ({ levels: d.levels.slice(1), value: d.value, block: strip.get(d.code)! })),
      [[0, 1]],
    )!;
    expect(fit.difference(0, 1, 0)).toEqual(byHand.difference(0, 1, 0));
    expect(fit.difference(0, 1, 0).value).toBeGreaterThan(9);
    expect(fit.degreesOfFreedom).toBe(data.length - 4 - (new Set(strip.values()).size - 1));
  });

  it('keeps an interaction beside one with what was given to strips', () => {
    const plan = three([
      [0, 1],
      [1, 2],
    ]);
    const data = valued(plan);
    const { fit, factor } = fitsOf(plan, data)!.of(2);
    expect(factor).toBe(2);
    const strips = new Set(plan.patches.map(p => p.strip)).size;
    // One for each strip, two main effects inside, two interactions.
    expect(fit.degreesOfFreedom).toBe(data.length - strips - 4);
    expect(fit.difference(2, 1, 0).value).toBeCloseTo(2 + 8 / 2, 0);
  });

  it('has the strips’ own scatter as that of their means', () => {
    const plan = three([]);
    const data = valued(plan);
    const { fit } = fitsOf(plan, data)!.of(0);
    const strip = new Map(plan.patches.map(p => [p.code, p.strip!]));
    const means = [...new Set(strip.values())].map(s => {
      const own = data.filter(d => strip.get(d.code) === s);
      return { levels: [own[0].levels[0]], value: own.reduce((sum, d) => sum + d.value, 0) / own.length };
    });
    const byHand = fitModel([2], means)!;
    expect(fit.difference(0, 1, 0).value).toBeCloseTo(byHand.difference(0, 1, 0).value, 9);
    expect(fit.residualSd).toBeCloseTo(byHand.residualSd, 9);
  });
});

describe('a trial on boards', () => {
  const cells = [0, 1, 2].flatMap(prep =>
    [0, 1].flatMap(strip => [0, 1].map(wait => ({ prep, strip, wait }))),
  );
  const data = cells.map(({ prep, strip, wait }, i) => ({ levels: [prep, wait], value: Y[i], block: strip }));

  it('has the boards’ shifts taken out, at the price of one degree of freedom each', () => {
    const all = fitModel([3, 2], data)!;
    expect(all.model).toBe('combinations');
    expect(all.degreesOfFreedom).toBe(12 - 6 - 1);
    expect(all.difference(1, 1, 0).value).toBeCloseTo(7.16666667, 7);
  });

  it('does not mind a board that is brighter all over', () => {
    const shifted = data.map(d => ({ ...d, value: d.value + (d.block ? 30 : 0) }));
    const [a, b] = [fitModel([3, 2], data)!, fitModel([3, 2], shifted)!];
    expect(b.residualSd).toBeCloseTo(a.residualSd, 9);
    expect(b.difference(0, 1, 0).value).toBeCloseTo(a.difference(0, 1, 0).value, 9);
    expect(b.mean(0, 0).value - a.mean(0, 0).value).toBeCloseTo(15, 9);
    // Taken for one board the shift would pass for scatter.
    const naive = fitModel(
      [3, 2],
      shifted.map(({ block: _, ...d }) => d),
    )!;
    expect(naive.residualSd).toBeGreaterThan(3 * b.residualSd);
  });

  it('leaves boards out where they cannot be told from the effects', () => {
    const confounded = [0, 1].flatMap(level =>
      [70, 74, 72].map(v => ({ levels: [level], value: v + 5 * level, block: level })),
    );
    const fit = fitModel([2], confounded)!;
    expect(fit.degreesOfFreedom).toBe(4);
    expect(fit.difference(0, 1, 0).value).toBeCloseTo(5, 9);
  });
});

describe('chosen interactions', () => {
  const cells = [0, 1, 2].flatMap(prep => [0, 1].map(wait => ({ levels: [prep, wait] })));
  const value = ([p, w]: readonly number[]) => 60 + [0, 14, 6][p] + 8 * w - (p ? 3 * p * w : 0);
  /** Five of six combinations, some twice: no full table, so that effects are what is fitted. */
  const data = cells
    .slice(0, 5)
    .flatMap(c => [0.5, -0.5].map(e => ({ ...c, value: value(c.levels) + e })))
    .concat([{ levels: [2, 1], value: value([2, 1]) }]);

  it('are in the model, so that it follows what main effects alone cannot', () => {
    const three = data.map((d, i) => ({ ...d, levels: [...d.levels, i % 2] }));
    const main = fitModel([3, 2, 2], three)!;
    const withPair = fitModel([3, 2, 2], three, [[0, 1]])!;
    expect(main.model).toBe('main effects');
    expect(withPair.residualSd).toBeLessThan(main.residualSd * 0.7);
    expect(withPair.degreesOfFreedom).toBe(main.degreesOfFreedom - 2);
    // Averaged evenly over the other: 8 less the mean of 0, 3 and 6.
    expect(withPair.difference(1, 1, 0).value).toBeCloseTo(5, 0);
  });
});

describe('what was made together', () => {
  it('in one go each is not judged at all, and that is said', () => {
    const plan = examplePlan({ groupKey: 'medium', repeats: 1 });
    const data = plan.patches.map((p, i) => ({
      code: p.code,
      levels: p.levels,
      value: 60 + 5 * p.levels[0] + (i % 3),
    }));
    expect([...fitsOf(plan, data)!.unjudged]).toEqual([0]);
  });

  it('in several is judged group against group', () => {
    const plan = examplePlan({ groupKey: 'medium', repeats: 4 });
    const data = plan.patches.map((p, i) => ({
      code: p.code,
      levels: p.levels,
      value: 60 + 5 * p.levels[0] + ((i * 7) % 5),
    }));
    const fits = fitsOf(plan, data)!;
    expect(fits.unjudged.size).toBe(0);
    const groups = new Set(plan.patches.map(p => `${p.board} ${p.repeat} ${p.group}`)).size;
    expect(groups).toBeGreaterThanOrEqual(12);
    expect(fits.of(0).fit.degreesOfFreedom).toBe(groups - 3 - (plan.board.count - 1));
  });

  it('in oven loads has the loads taken out', () => {
    const plan = examplePlan({
      factors: [{ key: 'medium', levels: ['matte-acrylic', 'soft-gel'] }],
      repeats: 4,
      loadSize: 2,
      board: { w: 60, h: 60, outline: 'rectangle', onePiece: true },
      marginMm: 8,
    });
    const data = plan.patches.map(p => ({
      code: p.code,
      levels: p.levels,
      value: 60 + 4 * p.levels[0] + 20 * p.group!,
    }));
    const { fit } = fitsOf(plan, data)!.of(0);
    expect(fit.residualSd).toBeCloseTo(0, 6);
    expect(fit.difference(0, 1, 0).value).toBeCloseTo(4, 9);
  });

  it('in one go each of single pieces: a load is what shares its group, whatever the piece', () => {
    const plan = examplePlan({
      groupKey: 'medium',
      repeats: 3,
      board: { w: 60, h: 60, outline: 'rectangle', onePiece: true },
      marginMm: 8,
    });
    const data = plan.patches.map((p, i) => ({ code: p.code, levels: p.levels, value: 60 + ((i * 7) % 5) }));
    const { fit } = fitsOf(plan, data)!.of(0);
    expect(fit.degreesOfFreedom).toBe(new Set(plan.patches.map(p => p.group)).size - 3);
  });
});
