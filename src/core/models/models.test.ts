import { describe, expect, it } from 'vitest';
import { chanceFrom } from '../random/index.ts';
import { type Case, decide, decompose, fisher, fitCases, fitLogistic, fitMixed, meanRow } from './index.ts';

describe('columns taken apart', () => {
  it('keep what is new and say what the rest is made of', () => {
    const a = Float64Array.of(1, 1, 1, 1);
    const b = Float64Array.of(0, 0, 1, 1);
    const c = a.map((v, i) => 2 * v - 3 * b[i]);
    const { kept, left, q } = decompose([a, b, c]);
    expect(kept).toEqual([0, 1]);
    expect([...left.get(2)!].map(v => Number(v.toFixed(9)))).toEqual([2, -3]);
    expect(q[0].reduce((sum, v, i) => sum + v * q[1][i], 0)).toBeCloseTo(0, 14);
  });
});

describe('least squares', () => {
  /** One-way layouts of the NIST Statistical Reference Datasets: residual standard deviation. */
  const oneWay = (groups: readonly (readonly number[])[]) => {
    const cases = groups.flatMap((g, level) => g.map(value => ({ levels: [level], value })));
    const fit = fitCases({ counts: [groups.length], pairs: [] }, cases)!;
    const n = cases.length;
    const grand = cases.reduce((sum, c) => sum + c.value, 0) / n;
    const between = groups.reduce(
      (sum, g, l) => sum + g.length * (fit.mean(new Map([[0, l]]))!.value - grand) ** 2,
      0,
    );
    return { sd: Math.sqrt(fit.residualVariance), f: between / (groups.length - 1) / fit.residualVariance };
  };

  it('has the certified values of NIST SiRstv', () => {
    const { sd, f } = oneWay([
      [196.3052, 196.124, 196.189, 196.2569, 196.3403],
      [196.3042, 196.3825, 196.1669, 196.3257, 196.0422],
      [196.1303, 196.2005, 196.2889, 196.0343, 196.1811],
      [196.2795, 196.1748, 196.1494, 196.1485, 195.9885],
      [196.2119, 196.1051, 196.185, 196.0052, 196.209],
    ]);
    expect(sd / 0.104076068334656 - 1).toBeCloseTo(0, 8);
    expect(f / 1.18046237440255 - 1).toBeCloseTo(0, 8);
  });

  it.each([
    ['SmLs01', 0, 8],
    ['SmLs04', 1e6, 8],
    ['SmLs07', 1e12, 3],
  ])('has the certified values of NIST %s, whose numbers begin at %d', (_, from, digits) => {
    // Nine treatments of 21: the mean, then a tenth below and above it in turn; means 1.4, then 1.3 and 1.5 in turn.
    const groups = Array.from({ length: 9 }, (_, k) => {
      const mean = k === 0 ? 1.4 : k % 2 ? 1.3 : 1.5;
      return Array.from({ length: 21 }, (_, i) => from + (i === 0 ? mean : i % 2 ? mean - 0.1 : mean + 0.1));
    });
    const { sd, f } = oneWay(groups);
    expect(sd / 0.1 - 1).toBeCloseTo(0, digits);
    expect(f / 21 - 1).toBeCloseTo(0, digits - 1);
  });

  it('goes through many orders of size: the polynomial of NIST Wampler1 has ones for coefficients', () => {
    const x = Array.from({ length: 21 }, (_, i) => i);
    const y = Float64Array.from(x, v => 1 + v + v ** 2 + v ** 3 + v ** 4 + v ** 5);
    const { q, r, kept } = decompose(Array.from({ length: 6 }, (_, p) => Float64Array.from(x, v => v ** p)));
    expect(kept).toHaveLength(6);
    const { coefficients } = fitMixed(q, y, [])!;
    const beta = coefficients.slice();
    for (let i = 5; i >= 0; i--) {
      beta[i] /= r[i][i];
      for (let k = 0; k < i; k++) beta[k] -= r[i][k] * beta[i];
    }
    for (const b of beta) expect(b).toBeCloseTo(1, 6);
  });
});

describe('means of levels', () => {
  it('go over the others evenly', () => {
    expect(meanRow({ counts: [2, 3], pairs: [] }, new Map([[0, 1]]))).toEqual([1, 1, 1 / 3, 1 / 3]);
    expect(meanRow({ counts: [2, 2], pairs: [[0, 1]] }, new Map([[1, 1]]))).toEqual([1, 0.5, 1, 0.5]);
  });

  it('stay on a scale with ends, and differences inside of its width', () => {
    const cases = [99, 97, 99.5, 100, 20, 99].map((value, i) => ({ levels: [i % 2], value }));
    const fit = fitCases({ counts: [2], pairs: [] }, cases, [0, 100])!;
    for (const l of [0, 1]) {
      const { lo, hi, value } = fit.mean(new Map([[0, l]]))!;
      expect(lo).toBeGreaterThanOrEqual(0);
      expect(hi).toBeLessThanOrEqual(100);
      expect(lo).toBeLessThan(value);
    }
    expect(fit.difference(0, 0, 1)!.lo).toBeGreaterThanOrEqual(-100);
  });
});

describe('the chance of failing', () => {
  const of = (failed: readonly (readonly [number, number])[]) =>
    fitLogistic(
      { counts: [failed.length], pairs: [] },
      failed.flatMap(([n, k], level) =>
        Array.from({ length: n }, (_, i) => ({ levels: [level], failed: i < k })),
      ),
    )!;

  it('is half a failure more of one patch more: Firth’s penalty on each level by itself', () => {
    // With a level of its own for each, (k + 1/2) / (n + 1) (Firth 1993).
    const fit = of([
      [4, 0],
      [6, 6],
      [5, 2],
    ]);
    const at = (l: number) => fit.mean(new Map([[0, l]]))!;
    expect(at(0).value).toBeCloseTo(0.5 / 5, 6);
    expect(at(1).value).toBeCloseTo(6.5 / 7, 6);
    expect(at(2).value).toBeCloseTo(2.5 / 6, 6);
    // The information of a binomial logit: n p (1 − p).
    expect(at(2).se).toBeCloseTo(1 / Math.sqrt((5 * 2.5 * 3.5) / 36), 4);
    expect(at(0).lo).toBeGreaterThan(0);
    expect(at(1).hi).toBeLessThan(1);
  });
});

/** Patches of a full plan, with effects, scatter of five points, and boards. */
function made(seed: number, counts: readonly number[], repeats: number, effect: number, boards = 1) {
  const c = chanceFrom(seed);
  const effects = counts.map(k => Array.from({ length: k }, () => effect * c.normal()));
  const shift = Array.from({ length: boards }, () => 4 * c.normal());
  const all = counts.reduce<number[][]>(
    (some, k) => some.flatMap(l => Array.from({ length: k }, (_, i) => [...l, i])),
    [[]],
  );
  const cases = Array.from({ length: repeats }, (_, r) =>
    all.map((levels, i): Case => {
      const board = (r + i) % boards;
      const value = 80 + levels.reduce((sum, l, f) => sum + effects[f][l], 0) + shift[board] + 5 * c.normal();
      return { levels, value, shares: [String(board)] };
    }),
  ).flat();
  return { cases, effects, all };
}

describe('the decision', () => {
  it('is right about as often as it says', () => {
    const bins = { eighty: [0, 0, 0], sure: [0, 0, 0] };
    for (let seed = 1; seed <= 240; seed++) {
      const [counts, repeats, boards] = (
        [
          [[2, 2, 2], 2, 2],
          [[3, 2], 2, 1],
          [[4], 4, 2],
        ] as const
      )[seed % 3];
      const { cases, effects, all } = made(seed, counts, repeats, [3, 6][seed % 2], boards);
      const model = { counts: [...counts], pairs: [] };
      const { levels } = decide({ model, cases, options: all, better: 'high', draws: 600, seed });
      for (const [f, own] of levels.entries())
        for (const [l, { best }] of own.entries()) {
          const bin = best > 0.7 && best < 0.9 ? bins.eighty : best >= 0.9 ? bins.sure : undefined;
          if (!bin) continue;
          bin[0]++;
          bin[1] += best;
          bin[2] += Number(effects[f].every(e => e <= effects[f][l]));
        }
    }
    for (const [n, said, right] of Object.values(bins)) {
      expect(n).toBeGreaterThan(40);
      expect(Math.abs(right / n - said / n)).toBeLessThan(0.1);
    }
  });

  it('is not sure where nothing differs, and says of a factor that matters that it does', () => {
    let firm = 0;
    for (let seed = 1; seed <= 60; seed++) {
      const { cases, all } = made(seed, [2, 2], 3, 0);
      const { levels } = decide({
        model: { counts: [2, 2], pairs: [] },
        cases,
        options: all,
        better: 'high',
        draws: 500,
        seed,
      });
      firm += Number(levels.flat().some(o => o.best >= 0.97));
    }
    expect(firm).toBeLessThanOrEqual(5);
    const clear = made(3, [2], 8, 0).cases.map(c => ({ ...c, value: c.value + 20 * c.levels[0] }));
    const { matters, levels, options } = decide({
      ...{ model: { counts: [2], pairs: [] }, cases: clear, options: [[0], [1]], better: 'high' as const },
    });
    expect(matters[0]).toBeGreaterThan(0.99);
    expect(levels[0][1].best).toBeGreaterThan(0.99);
    expect(options[0].loss).toBeGreaterThan(12);
    expect(options[1].loss).toBeLessThan(0.1);
    const low = decide({
      model: { counts: [2], pairs: [] },
      cases: clear,
      options: [[0], [1]],
      better: 'low',
    });
    expect(low.levels[0][0].best).toBeGreaterThan(0.99);
  });

  it('draws a lucky winner back, and counts what failed', () => {
    const cases = [60, 62, 58, 61, 70, 71, 69, 72].map(
      (value, i): Case => ({ levels: [i < 4 ? 0 : 1], value }),
    );
    const ask = {
      model: { counts: [2], pairs: [] },
      cases,
      options: [[0], [1]],
      better: 'high' as const,
      bounds: [0, 100] as const,
    };
    const sure = decide(ask);
    const lead = sure.options[1].value - sure.options[0].value;
    expect(lead).toBeGreaterThan(7);
    expect(lead).toBeLessThan(10.3);
    expect(sure.options[1].hi).toBeLessThanOrEqual(100);
    const failing = [...cases, ...Array.from({ length: 4 }, () => ({ levels: [1] }))].map((c, i) => ({
      levels: c.levels,
      failed: i >= cases.length,
    }));
    const torn = decide({ ...ask, failure: { cases: failing, worth: 0 } });
    expect(torn.options[0].best).toBeGreaterThan(0.55);
    expect(torn.options[1].value).toBeLessThan(55);
    // None failed of four, and none of two: where nothing is known of failing it counts as well, for both alike.
    const none = decide({
      ...ask,
      failure: { cases: cases.map(c => ({ levels: c.levels, failed: false })), worth: 0 },
    });
    expect(none.options[1].value).toBeLessThan(sure.options[1].value - 1);
    expect(none.options[1].value).toBeGreaterThan(sure.options[1].value - 15);
    expect(none.options[1].best).toBeLessThan(sure.options[1].best);
    expect(none.options[1].best).toBeGreaterThan(0.6);
  });
});

describe('two counts of failures', () => {
  it('are compared by Fisher’s exact test', () => {
    // By hand: all 4 of the first of 8 when 4 failed in all, 1 of 70; at least 3, 17 of 70.
    expect(fisher(4, 4, 0, 4)).toBeCloseTo(1 / 70, 12);
    expect(fisher(3, 4, 1, 4)).toBeCloseTo(17 / 70, 12);
    expect(fisher(0, 4, 0, 4)).toBe(1);
  });
});
