import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import type { PlanRequest } from '../design/index.ts';
import { fitCases } from '../models/index.ts';
import { readingFor } from '../trial/example.ts';
import type { TrialPlan } from '../trial/index.ts';
import { findingsOf } from './index.ts';

/** Landed of docs/reference/design-reference.R: three preparations on two strips each, two waits inside each strip. */
const Y = [62, 70, 66, 75, 80, 84, 77, 86, 71, 74, 69, 79];
const CELLS = [0, 1, 2].flatMap(prep => [0, 1].flatMap(strip => [0, 1].map(wait => ({ prep, strip, wait }))));
const DATA = CELLS.map(({ prep, strip, wait }, i) => ({
  levels: [prep, wait],
  value: Y[i],
  shares: [`${prep} ${strip}`],
}));

describe('a trial in strips', () => {
  const fit = fitCases({ counts: [3, 2], pairs: [] }, DATA)!;

  it('is judged strip against strip for what was given to strips, as R does with Error(strip)', () => {
    const coat = fit.difference(0, 1, 0)!;
    expect(coat.df).toBeCloseTo(3, 5);
    expect(coat.value).toBeCloseTo(13.5, 9);
    expect(coat.se).toBeCloseTo(1.94722024, 5);
    expect(fit.difference(0, 2, 0)!.value).toBeCloseTo(5, 9);
  });

  it('is judged inside the strips for what changes there', () => {
    const wait = fit.difference(1, 1, 0)!;
    expect(wait.df).toBeCloseTo(5, 5);
    expect(wait.value).toBeCloseTo(7.16666667, 7);
    expect(wait.se).toBeCloseTo(1.19489656, 6);
  });

  it('has chosen interactions with what was given to strips beside them, as the differences inside strips say', () => {
    // Differences inside the six strips, by preparation: 8 9, 4 9, 3 10. Their scatter about the means of each
    // preparation is 18.75 over 3 degrees of freedom, the mean of the means 7.1667 with √(2 · 6.25 / 6).
    const crossed = fitCases({ counts: [3, 2], pairs: [[0, 1]] }, DATA)!;
    const wait = crossed.difference(1, 1, 0)!;
    expect(wait.value).toBeCloseTo(7.16666667, 7);
    expect([crossed.residualVariance, wait.se]).toEqual([
      expect.closeTo(6.25, 5),
      expect.closeTo(Math.sqrt((2 * 6.25) / 6), 5),
    ]);
  });

  it('does not mind a strip that is brighter all over, where what is asked changes inside the strips', () => {
    const shifted = DATA.map(d => ({ ...d, value: d.value + (d.shares[0] === '1 1' ? 30 : 0) }));
    const [a, b] = [fit, fitCases({ counts: [3, 2], pairs: [] }, shifted)!];
    expect(b.difference(1, 1, 0)!.value).toBeCloseTo(a.difference(1, 1, 0)!.value, 6);
    expect(b.difference(1, 1, 0)!.se).toBeLessThan(1.01 * a.difference(1, 1, 0)!.se);
    expect(b.variances[0]).toBeGreaterThan(50);
    // Taken for one board the shift would pass for scatter.
    const naive = fitCases(
      { counts: [3, 2], pairs: [] },
      shifted.map(({ shares: _, ...d }) => d),
    )!;
    expect(naive.residualVariance).toBeGreaterThan(9 * b.residualVariance);
  });
});

describe('what cannot be told', () => {
  const cases = (data: readonly (readonly [string, number])[]) =>
    data.map(([levels, value]) => ({ levels: [...levels].map(Number), value }));

  it('is not fitted with a number: two factors that only ever change together', () => {
    // 101 and 110, 010: the first and the third cannot be told apart in what is left.
    const fit = fitCases(
      { counts: [2, 2, 2], pairs: [] },
      cases([
        ['101', 78],
        ['110', 70],
        ['110', 90],
        ['010', 91],
        ['110', 71],
      ]),
    )!;
    expect(fit.difference(0, 1, 0)).toMatchObject({ value: expect.closeTo(-14, 9) });
    expect(fit.difference(1, 1, 0)).toBeUndefined();
    expect(fit.difference(2, 1, 0)).toBeUndefined();
    expect(fit.mixedWith(1, 1, 0)).toEqual([2]);
    expect(fit.mean(new Map([[1, 0]]))).toBeUndefined();
  });

  it('is named with the patches that are missing', () => {
    const plan = examplePlan();
    const tested = plan.patches.filter(p => !(p.levels[0] === 2));
    const records = tested.flatMap((p, i) => readingFor(p.code, i, { landed: 80 + (i % 3), veil: 0.1 }));
    const medium = findingsOf(plan, records).effects.find(e => e.factor === 0)!;
    expect(medium.sentence).toMatch(/no patch tells .* apart; one of them was never measured\.$/);
    expect(medium.best).toBeUndefined();
    expect(medium.levels.map(l => l.level)).toEqual([0, 1]);
  });

  it('of boards that hold one level each is the board, which is left out', () => {
    const confounded = [0, 1].flatMap(level =>
      [70, 74, 72].map(v => ({ levels: [level], value: v + 5 * level, shares: [`${level}`] })),
    );
    const fit = fitCases({ counts: [2], pairs: [] }, confounded)!;
    expect(fit.terms).toEqual([]);
    expect(fit.difference(0, 1, 0)).toMatchObject({ value: expect.closeTo(5, 9), df: 4 });
  });
});

describe('chosen interactions', () => {
  const cells = [0, 1, 2].flatMap(prep => [0, 1].map(wait => ({ levels: [prep, wait] })));
  const value = ([p, w]: readonly number[]) => 60 + [0, 14, 6][p] + 8 * w - (p ? 3 * p * w : 0);
  const data = cells.flatMap(c => [0.5, -0.5].map(e => ({ ...c, value: value(c.levels) + e })));

  it('are in the model, so that it follows what main effects alone cannot', () => {
    const main = fitCases({ counts: [3, 2], pairs: [] }, data)!;
    const withPair = fitCases({ counts: [3, 2], pairs: [[0, 1]] }, data)!;
    expect(withPair.residualVariance).toBeLessThan(main.residualVariance * 0.5);
    expect(withPair.difference(1, 1, 0)!.df).toBe(main.difference(1, 1, 0)!.df - 2);
    // Averaged evenly over the other: 8 less the mean of 0, 3 and 6.
    expect(withPair.difference(1, 1, 0)!.value).toBeCloseTo(5, 9);
    expect(
      withPair.mean(
        new Map([
          [0, 1],
          [1, 1],
        ]),
      )!.value,
    ).toBeCloseTo(79, 9);
  });
});

describe('what was made together', () => {
  const of = (part: Partial<PlanRequest>, value: (p: TrialPlan['patches'][number], i: number) => number) => {
    const plan = examplePlan(part);
    const records = plan.patches.flatMap((p, i) => readingFor(p.code, i, { landed: value(p, i), veil: 0.1 }));
    return findingsOf(plan, records).effects.find(e => e.factor === 0 && e.measure === 'landed')!;
  };
  const piece = { board: { w: 60, h: 60, outline: 'rectangle' as const, onePiece: true }, marginMm: 8 };

  it('in one go each is not judged at all, and that is said', () => {
    const effect = of({ groupKey: 'medium', repeats: 1 }, (p, i) => 60 + 5 * p.levels[0] + (i % 3));
    expect(effect.sentence).toMatch(/^Every medium was made in one go/);
    expect(effect.best).toBeUndefined();
  });

  it('in several is judged group against group: what groups differ by widens it', () => {
    const wide = (go: number) => {
      const effect = of(
        { groupKey: 'medium', repeats: 4 },
        (p, i) => 60 + 5 * p.levels[0] + go * ((7 * p.repeat + 3 * p.board) % 4) + (i % 2),
      );
      return effect.levels[0].hi - effect.levels[0].lo;
    };
    expect(wide(6)).toBeGreaterThan(2 * wide(0));
  });

  it('in oven loads has what loads differ by as random', () => {
    const effect = of(
      {
        factors: [{ key: 'medium', levels: ['matte-acrylic', 'soft-gel'] }],
        ...{ repeats: 4, loadSize: 2 },
        ...piece,
      },
      (p, i) => 60 + 4 * p.levels[0] + 10 * (p.group! % 2) + (i % 2) * 0.2,
    );
    expect(effect.sentence).toMatch(/lands more/);
  });
});
