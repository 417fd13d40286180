import { describe, expect, it } from 'vitest';
import { examplePlan } from '../design/example.ts';
import type { PlanRequest } from '../design/index.ts';
import { fitCases } from '../models/index.ts';
import { chanceFrom } from '../random/index.ts';
import { write } from '../say/index.ts';
import { readingFor } from '../trial/example.ts';
import type { TrialPlan } from '../trial/index.ts';
import { analyse } from './analyse.ts';
import { findingsOf } from './index.ts';
import { factorSentence } from './words.ts';

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
    expect(write(medium.sentence)).toMatch(/no patch tells .* apart; one of them was never measured\.$/);
    expect(medium.best).toBeUndefined();
    expect(medium.levels.map(l => l.level)).toEqual([0, 1]);
  });

  it('of boards that hold one level each is not judged: what boards do cannot be told from it', () => {
    const confounded = [0, 1].flatMap(level =>
      [70, 74, 72].flatMap(v =>
        [0, 1].map(wait => ({
          levels: [level, wait],
          value: v + 5 * level + 3 * wait,
          shares: [`${level}`],
        })),
      ),
    );
    const fit = fitCases({ counts: [2, 2], pairs: [] }, confounded)!;
    expect(fit.terms).toEqual([]);
    expect(fit.difference(0, 1, 0)).toBeUndefined();
    expect(fit.heldBy(0, 1, 0)).toBe(0);
    expect(fit.mean(new Map([[0, 1]]))).toBeUndefined();
    // What differs on each board is judged as ever.
    expect(fit.difference(1, 1, 0)!.value).toBeCloseTo(3, 9);
    expect(fit.heldBy(1, 1, 0)).toBeUndefined();
    // A second board for one of the levels says how much boards differ.
    const more = [...confounded, ...[80, 82].map(value => ({ levels: [0, 0], value, shares: ['more'] }))];
    const judged = fitCases({ counts: [2, 2], pairs: [] }, more)!;
    expect(judged.difference(0, 1, 0)!.se).toBeGreaterThan(3);
    const none = analyse({
      factors: [
        { name: 'Medium', levels: ['matte', 'gel'] },
        { name: 'Wait', levels: ['5', '20'] },
      ],
      ...{ pairs: [], random: ['board'], better: 'high' as const, draws: 200 },
      patches: confounded.map((c, i) => ({ ...c, code: `P${i}`, failed: false })),
    });
    expect(none.told).toEqual([1]);
    expect(write(factorSentence(none, 0, v => `${v}`))).toBe(
      'Medium: each had a board of its own, so what matte and gel did cannot be told from what the boards did.',
    );
  });

  it('of one strip for each level is not judged, of a strip on each board is', () => {
    const on = (boards: number) =>
      Array.from({ length: boards }, (_, b) =>
        [0, 1, 2].flatMap(prep =>
          [0, 1].map(wait => ({
            levels: [prep, wait],
            value: 60 + 5 * prep + wait + ((b * 7 + prep * 5 + wait * 3) % 4),
            shares: [`${b}`, `${b} ${prep}`],
          })),
        ),
      ).flat();
    const model = { counts: [3, 2], pairs: [] };
    expect(fitCases(model, on(1))!.heldBy(0, 0, 1)).toBe(1);
    expect(fitCases(model, on(1))!.difference(1, 0, 1)).toBeDefined();
    expect(fitCases(model, on(2))!.heldBy(0, 0, 1)).toBeUndefined();
    expect(fitCases(model, on(2))!.difference(0, 0, 1)).toBeDefined();
  });
});

describe('patches that just determine their boards and strips', () => {
  const rows = [
    [0, 0, 'b0', 's0', 61],
    [0, 1, 'b0', 's0', 66],
    [1, 0, 'b0', 's1', 70],
    [1, 1, 'b1', 's2', 79],
    [0, 0, 'b1', 's3', 58],
  ] as const;
  const cases = rows.map(([prep, wait, board, strip, value]) => ({
    ...{ levels: [prep, wait], value },
    shares: [board as string, strip as string],
  }));
  const orders = (list: readonly number[]): number[][] =>
    list.length < 2
      ? [[...list]]
      : list.flatMap((x, i) => orders(list.filter((_, k) => k !== i)).map(rest => [x, ...rest]));

  it('say nothing, in whichever order they are written down', () => {
    for (const order of orders([0, 1, 2, 3, 4]))
      expect(
        fitCases(
          { counts: [2, 2], pairs: [] },
          order.map(i => cases[i]),
        ),
      ).toBeUndefined();
    const found = analyse({
      factors: ['Prep', 'Wait'].map(name => ({ name, levels: ['0', '1'] })),
      ...{ pairs: [], random: ['board', 'strip'], better: 'high' as const, draws: 100 },
      patches: cases.map((c, i) => ({ ...c, code: `P${i}`, failed: false })),
    });
    expect(write(found.why ?? '')).toBe(
      '5 measured patches are too few: at least one more is needed than there are effects and what patches share (board, strip).',
    );
    expect([found.differences, found.decision]).toEqual([[], undefined]);
  });

  it('never give a number without a give or take, whichever patches of a plan are measured', () => {
    const plans = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9].map(seed => {
      const c = chanceFrom(400 + seed);
      const boards = 1 + (seed % 3);
      return Array.from({ length: boards }, (_, b) =>
        [0, 1].flatMap(prep =>
          [0, 1].map(wait => ({
            levels: [prep, wait],
            value: Math.round(60 + 8 * prep + 4 * wait + 5 * c.normal()),
            shares: seed % 2 ? [`${b}`, `${b} ${prep}`] : [`${b}`],
          })),
        ),
      ).flat();
    });
    let given = 0;
    for (const plan of plans)
      for (let mask = 1; mask < Math.min(2 ** plan.length, 1 << 7); mask++) {
        const some = plan.filter((_, i) => mask & (1 << i));
        const fit = fitCases({ counts: [2, 2], pairs: [] }, some);
        for (const f of [0, 1]) {
          const d = fit?.difference(f, 0, 1);
          if (!d) continue;
          given++;
          const range = Math.max(...some.map(s => s.value)) - Math.min(...some.map(s => s.value));
          expect(Number.isFinite(d.se) && d.df >= 1).toBe(true);
          if (fit!.residualVariance > 1e-9 && range > 0) expect(d.hi - d.lo).toBeGreaterThan(0.05);
        }
      }
    expect(given).toBeGreaterThan(200);
  });

  it('with one degree of freedom left are judged inside their boards, by Student’s t of one', () => {
    // Two boards of three; by hand: differences within boards, board means taken off.
    const data = [
      ...[0, 1, 0].map((level, i) => ({ levels: [level], value: [60, 66, 62][i], shares: ['a'] })),
      ...[0, 1].map((level, i) => ({ levels: [level], value: [70, 75][i], shares: ['b'] })),
    ];
    const d = fitCases({ counts: [2], pairs: [] }, data)!.difference(0, 1, 0)!;
    // Least squares of value on level and board: 5 patches less 3 columns leave 2.
    expect(d.df).toBe(2);
    expect(d.value).toBeCloseTo(5 * (4 / 7) + 5 * (3 / 7), 9);
    const rss = 2 + 0;
    expect(d.se).toBeCloseTo(Math.sqrt((rss / 2) * (1 / (2 / 3 + 1 / 2))), 9);
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
    expect(write(effect.sentence)).toMatch(/^Every medium was made in one go/);
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
    expect(write(effect.sentence)).toMatch(/lands more/);
  });
});
