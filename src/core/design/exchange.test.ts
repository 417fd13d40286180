import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { chanceFrom } from '../random/index.ts';
import { allCombinations, bestFraction, dEfficiency, effectCount, mixingOf, modelRows } from './index.ts';
import { fullRank } from './mixing.ts';

const search = (counts: number[], runs: number, pairs: [number, number][] = [], seed = 1) =>
  bestFraction({ counts, pairs, runs, candidates: allCombinations(counts), restarts: 20 }, chanceFrom(seed));

describe('the best fraction', () => {
  // Published orthogonal arrays: L8 and L12 (Plackett & Burman 1946), L9 (Taguchi 1987).
  it.each([
    ['seven two-level factors in 8 runs', Array(7).fill(2), 8],
    ['eleven two-level factors in 12 runs', Array(11).fill(2), 12],
    ['four three-level factors in 9 runs', Array(4).fill(3), 9],
  ])('reaches full efficiency for %s', (_, counts, runs) => {
    expect(search(counts, runs).efficiency).toBeCloseTo(1, 9);
  });

  // Best of an independent search (simulated annealing in R, docs/reference/design-reference.R).
  it.each([
    [[2, 3, 4], 12, 0.98331],
    [[2, 2, 3, 3], 12, 0.98173],
    [[2, 3, 4, 2], 16, 0.98276],
    [[2, 2, 2, 2], 6, 0.91982],
  ])('is as good as an independent search for levels %j in %i runs', (counts, runs, reference) => {
    expect(search(counts, runs).efficiency).toBeGreaterThan(reference - 1e-4);
  });

  it('has the efficiency that R computes for a given design', () => {
    const runs = [
      [0, 0, 0],
      [0, 1, 1],
      [0, 2, 2],
      [1, 0, 3],
      [1, 1, 0],
      [1, 2, 1],
      [0, 0, 2],
      [1, 1, 3],
      [1, 2, 0],
      [0, 1, 2],
    ];
    expect(dEfficiency(runs, [2, 3, 4])).toBeCloseTo(0.7971801783, 9);
  });

  it('never takes a combination that is not among the candidates, and is the same again from the same seed', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 2, max: 4 }), { minLength: 2, maxLength: 4 }),
        fc.integer(),
        (counts, seed) => {
          const candidates = allCombinations(counts).filter(c => (c[0] + c[1] + seed) % 5 !== 0);
          const runs = effectCount(counts, []) + 3;
          const problem = { counts, pairs: [], runs, candidates, restarts: 3 };
          const found = bestFraction(problem, chanceFrom(seed));
          const allowed = new Set(candidates.map(c => c.join()));
          expect(found.runs.every(r => allowed.has(r.join()))).toBe(true);
          expect(found.runs).toEqual(bestFraction(problem, chanceFrom(seed)).runs);
          if (found.efficiency > 0) expect(fullRank(found.runs.map(modelRows(counts, [])))).toBe(true);
        },
      ),
      { numRuns: 25 },
    );
  });

  it('can hold a chosen interaction, which a design for main effects alone mixes up', () => {
    const counts = [2, 2, 2, 2, 2];
    const plain = search(counts, 8);
    const chosen = search(counts, 8, [[0, 1]]);
    const rows = modelRows(counts, [[0, 1]]);
    expect(fullRank(chosen.runs.map(rows))).toBe(true);
    expect(chosen.efficiency).toBeGreaterThan(0.9);
    expect(mixingOf(plain.runs, counts).some(m => m.others.length === 2 && m.share > 0.9)).toBe(true);
  });

  it('owns up when the candidates cannot tell the effects apart', () => {
    const candidates = allCombinations([2, 2]).filter(([a, b]) => a === b);
    expect(
      bestFraction({ counts: [2, 2], pairs: [], runs: 6, candidates, restarts: 4 }, chanceFrom(1)).efficiency,
    ).toBe(0);
  });
});

describe('what is mixed up', () => {
  it('is nothing in a full factorial', () => {
    expect(mixingOf(allCombinations([2, 3, 2]), [2, 3, 2])).toEqual([]);
  });

  it('is each main effect with the product of the other two in a half fraction', () => {
    const half = allCombinations([2, 2, 2]).filter(([a, b, c]) => (a + b + c) % 2 === 0);
    const mixed = mixingOf(half, [2, 2, 2]);
    expect(mixed).toHaveLength(3);
    for (const m of mixed) expect(m.share).toBeCloseTo(1, 9);
  });
});
