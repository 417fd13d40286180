import studentCdf from '@stdlib/stats-base-dists-t-cdf';
import studentQuantile from '@stdlib/stats-base-dists-t-quantile';
import { inverse, Matrix } from 'ml-matrix';
import { allCombinations } from '../design/index.ts';
import { combinationCount, eachOnce, type Nest, NO_LEVEL } from '../trial/index.ts';

/** One patch's levels (index per factor) and its measured value. */
export interface Observation {
  readonly levels: readonly number[];
  readonly value: number;
  /** What it shares with others that may shift them all: a board, an oven load, a strip. */
  readonly block?: number;
}

/** A fitted cell-means or main-effects model with its residual scatter. */
export interface Fit {
  readonly model: 'combinations' | 'main effects';
  readonly residualSd: number;
  readonly degreesOfFreedom: number;
  /** Least-squares mean of one level of one factor, the other factors averaged evenly. */
  mean(factor: number, level: number): Estimate;
  /** Difference between two levels of a factor (first minus second), the others averaged evenly. */
  difference(factor: number, a: number, b: number): Estimate;
  /** Expected value of one combination. */
  combination(levels: readonly number[]): Estimate;
}

/** A number with its standard error. */
export interface Estimate {
  readonly value: number;
  readonly standardError: number;
}

/**
 * Fits ordinary least squares to a crossed layout. When every combination has a value and there
 * are repeats, a mean for every combination is fitted, so that the scatter is that of repeats only;
 * otherwise main effects with the chosen interactions `pairs`. Level means are estimated marginal means (Searle, Speed
 * & Milliken 1980), averaged over blocks, whose shifts are fitted too where they can be told from the effects. Gives
 * nothing when a level was never measured or no degree of freedom is left for scatter. `inBlocks` names a factor that
 * was given to whole blocks: they hold its effect, and only its interactions are fitted. With `nest` a setting that some
 * methods do not have has an effect only where it is there, and means are over the methods that have it, each counting
 * the same.
 *
 * @example fitModel([2], [{ levels: [0], value: 1 }, { levels: [0], value: 3 }, { levels: [1], value: 6 }, { levels: [1], value: 8 }]).mean(0, 1).value; // => 7
 */
export function fitModel(
  counts: readonly number[],
  data: readonly Observation[],
  pairs: readonly Pair[] = [],
  inBlocks?: number,
  nest?: Nest,
): Fit | undefined {
  const blocks = [...new Set(data.map(d => d.block ?? 0))];
  const model = { counts, pairs, inBlocks, nest };
  if (inBlocks !== undefined) return fitWith(model, data, blocks);
  return (blocks.length > 1 ? fitWith(model, data, blocks) : undefined) ?? fitWith(model, data, [0]);
}

/** What is fitted: levels of each factor, the chosen interactions, what blocks hold, and what is nested in methods. */
interface Model {
  readonly counts: readonly number[];
  readonly pairs: readonly Pair[];
  readonly inBlocks?: number;
  readonly nest?: Nest;
}

/** Two factors, by their places. */
type Pair = readonly [number, number];

function fitWith(model: Model, data: readonly Observation[], blocks: readonly number[]): Fit | undefined {
  const { counts, inBlocks } = model;
  for (let f = 0; f < counts.length; f++)
    for (let level = 0; level < counts[f]; level++)
      if (!data.some(d => d.levels[f] === level)) return undefined;
  const cells = combinationCount(counts, model.nest);
  const filled = new Set(data.map(d => d.levels.join())).size;
  const known = model.nest !== undefined || !data.some(d => d.levels.includes(NO_LEVEL));
  const full = known && inBlocks === undefined && filled === cells && data.length > cells;
  const grid = full ? everyCombination(model) : [];
  const effects = full
    ? (levels: readonly number[]) => cellRow(grid, levels)
    : (levels: readonly number[]) => mainRow(model, levels);
  const noShift = blocks.slice(1).map(() => 0);
  const row = (levels: readonly number[]) => [...effects(levels), ...noShift];
  const width = row(data[0].levels).length;
  const degreesOfFreedom = data.length - width;
  if (degreesOfFreedom < 1) return undefined;
  const X = new Matrix(data.map(d => [...effects(d.levels), ...shiftRow(blocks, d.block ?? 0)]));
  const y = Matrix.columnVector(data.map(d => d.value));
  let XtXi: Matrix;
  try {
    XtXi = inverse(X.transpose().mmul(X));
  } catch {
    return undefined;
  }
  const beta = XtXi.mmul(X.transpose().mmul(y));
  const residuals = Matrix.sub(y, X.mmul(beta)).to1DArray();
  const variance = residuals.reduce((sum, r) => sum + r * r, 0) / degreesOfFreedom;
  const estimate = (contrast: readonly number[]): Estimate => {
    const c = Matrix.columnVector([...contrast]);
    return {
      value: c.transpose().mmul(beta).get(0, 0),
      standardError: Math.sqrt(Math.max(0, variance * c.transpose().mmul(XtXi).mmul(c).get(0, 0))),
    };
  };
  const average = (factor: number, level: number) =>
    averaged(
      methodsWith(model, factor, level).map(method => {
        if (!full) return [...evenRow(model, factor, level, method), ...noShift];
        const own = grid.filter(
          c => c[factor] === level && (method === undefined || c[model.nest!.by] === method),
        );
        return averaged(own.map(row));
      }),
    );
  return {
    model: full ? 'combinations' : 'main effects',
    residualSd: Math.sqrt(variance),
    degreesOfFreedom,
    mean: (factor, level) => estimate(average(factor, level)),
    difference: (factor, a, b) => {
      const minus = average(factor, b);
      return estimate(average(factor, a).map((v, i) => v - minus[i]));
    },
    combination: levels => estimate(row(levels)),
  };
}

const averaged = (rows: readonly (readonly number[])[]): number[] =>
  rows[0].map((_, i) => rows.reduce((sum, r) => sum + r[i], 0) / rows.length);

/** The methods over which the mean of a level goes, by their levels; one that is none where nothing is nested. */
function methodsWith({ counts, nest }: Model, factor: number, level: number): (number | undefined)[] {
  if (!nest) return [undefined];
  if (factor === nest.by) return [level];
  return Array.from({ length: counts[nest.by] }, (_, m) => m).filter(m => nest.has[factor][m]);
}

/** Every combination there can be, what a method does not have left out. */
function everyCombination({ counts, nest }: Model): number[][] {
  const all = allCombinations(counts);
  return nest ? eachOnce(all, nest) : all;
}

const cellRow = (grid: readonly (readonly number[])[], levels: readonly number[]) => {
  const key = levels.join();
  return grid.map(c => (c.join() === key ? 1 : 0));
};

/** The main-effects row of one level of one factor with every other factor averaged evenly over its levels; what `method` does not have has no effect. */
function evenRow(model: Model, factor: number, level: number, method?: number): number[] {
  const { counts, nest } = model;
  const share = (f: number, count: number, i: number) => {
    if (f === factor) return Number(level === i + 1);
    if (method === undefined || !nest) return 1 / count;
    if (f === nest.by) return Number(method === i + 1);
    return nest.has[f][method] ? 1 / count : 0;
  };
  const shares = counts.map((count, f) => Array.from({ length: count - 1 }, (_, i) => share(f, count, i)));
  return effectsRow(shares, model);
}

/** Shifts of the blocks as deviations from their mean: each block against the first, which has minus one everywhere. */
const shiftRow = (blocks: readonly number[], block: number) =>
  blocks.slice(1).map(b => (block === b ? 1 : block === blocks[0] ? -1 : 0));

/** Intercept, treatment contrasts against each factor's first level, and their products for the chosen pairs. */
function mainRow(model: Model, levels: readonly number[]): number[] {
  const shares = model.counts.map((count, f) =>
    Array.from({ length: count - 1 }, (_, i) => (levels[f] === i + 1 ? 1 : 0)),
  );
  return effectsRow(shares, model);
}

/** Intercept, main effects but for a factor that the blocks hold, and the products of the chosen pairs. */
const effectsRow = (shares: readonly (readonly number[])[], { pairs, inBlocks }: Model): number[] => [
  1,
  ...shares.filter((_, f) => f !== inBlocks).flat(),
  ...pairs.flatMap(([f, g]) => shares[f].flatMap(a => shares[g].map(b => a * b))),
];

/**
 * Half width of the two-sided confidence interval of an estimate (Student's t).
 *
 * @example halfWidth({ value: 0, standardError: 1 }, 10).toFixed(3); // => '1.812'
 */
export const halfWidth = (e: Estimate, degreesOfFreedom: number, confidence = 0.9): number =>
  e.standardError * studentQuantile(0.5 + confidence / 2, degreesOfFreedom);

/**
 * Two-sided p-value of "the true value is 0", times the number of comparisons made (Bonferroni), at most 1.
 *
 * @example pValue({ value: 2.228, standardError: 1 }, 10, 1).toFixed(3); // => '0.050'
 */
export function pValue(e: Estimate, degreesOfFreedom: number, comparisons = 1): number {
  if (e.standardError === 0) return e.value === 0 ? 1 : 0;
  return Math.min(
    1,
    comparisons * 2 * (1 - studentCdf(Math.abs(e.value) / e.standardError, degreesOfFreedom)),
  );
}

/**
 * F statistic of a one-way layout: between-group over within-group mean square.
 *
 * @example oneWayF([[1, 3], [6, 8]]).f.toFixed(1); // => '12.5'
 */
export function oneWayF(groups: readonly (readonly number[])[]): { f: number; residualSd: number } {
  const all = groups.flat();
  const grand = all.reduce((a, b) => a + b, 0) / all.length;
  const fit = fitModel(
    [groups.length],
    groups.flatMap((g, level) => g.map(value => ({ levels: [level], value }))),
  );
  const between = groups.reduce(
    (sum, g, level) => sum + g.length * (fit!.mean(0, level).value - grand) ** 2,
    0,
  );
  return { f: between / (groups.length - 1) / fit!.residualSd ** 2, residualSd: fit!.residualSd };
}
