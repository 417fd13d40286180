import studentCdf from '@stdlib/stats-base-dists-t-cdf';
import studentQuantile from '@stdlib/stats-base-dists-t-quantile';
import { type Grouping, groupingOf } from './grouping.ts';
import { fitMixed, type MixedFit } from './mixed.ts';
import { type Coded, coded, type Model, meanRow, rowOf } from './model.ts';
import { strataOf } from './strata.ts';

/** One patch: its levels (index by factor, −1 for what its method does not have), its value, and what it shares with others. */
export interface Case {
  readonly levels: readonly number[];
  readonly value: number;
  /** A name for each random term: which board, strip, group or load it was on. */
  readonly shares?: readonly string[];
}

/** A number with what is known of it: standard error, degrees of freedom, and the interval at the confidence asked for. */
export interface Estimated {
  readonly value: number;
  readonly se: number;
  readonly df: number;
  readonly lo: number;
  readonly hi: number;
}

export interface ModelFit {
  readonly model: Model;
  readonly coded: Coded;
  readonly mixed: MixedFit;
  readonly cases: readonly Case[];
  /** Random terms that are in it, by their place among those asked for; the rest cannot be told from what is fitted. */
  readonly terms: readonly number[];
  /** Of each random term asked for; nothing where it cannot be told. */
  readonly variances: readonly (number | undefined)[];
  readonly residualVariance: number;
  /** The mean of some levels, the other factors averaged evenly; nothing where the data do not tell it. */
  mean(fixed: ReadonlyMap<number, number>): Estimated | undefined;
  /** Two levels of a factor compared, the first less the second, with the chance of one as large were there none. */
  difference(factor: number, a: number, b: number): (Estimated & { readonly p: number }) | undefined;
  /** What one combination is expected to be. */
  combination(levels: readonly number[]): Estimated | undefined;
  /** Factors that a difference of levels cannot be told from. */
  mixedWith(factor: number, a: number, b: number): readonly number[];
  /** The random term, by its place among those asked for, that a difference of levels cannot be told from. */
  heldBy(factor: number, a: number, b: number): number | undefined;
}

/** Confidence of every interval. */
export const CONFIDENCE = 0.9;

/**
 * Fits main effects with the chosen pairs, and what patches share as random terms; see {@link fitMixed}. Nothing where no
 * degree of freedom is left for the scatter.
 *
 * @example fitCases({ counts: [2], pairs: [] }, [{ levels: [0], value: 1 }, { levels: [0], value: 3 }, { levels: [1], value: 7 }]).mean(new Map([[0, 1]])).value.toFixed(3); // => '7.000'
 */
export function fitCases(
  model: Model,
  cases: readonly Case[],
  bounds?: readonly [number, number],
): ModelFit | undefined {
  if (!cases.length) return undefined;
  const known = coded(
    model,
    cases.map(c => c.levels),
  );
  const asked = cases[0].shares?.length ?? 0;
  const groups = Array.from({ length: asked }, (_, k) => groupingOf(cases.map(c => c.shares![k])));
  const terms = groups.flatMap((g, k) => (isTold(g, groups, k, known, cases.length) ? [k] : []));
  // Values are taken from their middle, so that large numbers keep their digits.
  const middle = middleOf(cases.map(c => c.value));
  const values = Float64Array.from(cases, c => c.value - middle);
  const mixed = fitMixed(
    known.parts.q,
    values,
    terms.map(k => groups[k]),
  );
  if (!mixed) return undefined;
  // Also of terms that the fit leaves out because what is fitted holds them whole: each option on a board of its own.
  const shared = groups.flatMap((g, k) => (g.levels > 1 && g.levels < cases.length ? [k] : []));
  const strata = strataOf(
    known.parts.q,
    values,
    shared.map(k => groups[k]),
  );
  const heldBy = (contrast: Float64Array): number | undefined => {
    const held = strata?.heldBy(contrast);
    return held === undefined ? undefined : shared[held];
  };
  const said = (
    row: readonly number[],
    isMean: boolean,
    like: readonly (Float64Array | undefined)[] = [],
  ): Estimated | undefined => {
    const contrast = known.told(row);
    if (!contrast || (isMean ? like : [contrast]).some(c => c && heldBy(c) !== undefined)) return undefined;
    const { value, standardError: se, degreesOfFreedom: df } = mixed.estimate(contrast);
    const whole = isMean ? value + middle : value;
    return {
      value: whole,
      se,
      df,
      ...(isMean ? inside(whole, se, df, bounds) : between(whole, se, df, bounds)),
    };
  };
  const differenceRow = (factor: number, a: number, b: number) => {
    const minus = meanRow(model, new Map([[factor, b]]));
    return meanRow(model, new Map([[factor, a]])).map((v, j) => v - minus[j]);
  };
  /** A level against the others of its factor, for each of these: what a mean can be told by as little as they can. */
  const likeOf = (fixed: ReadonlyMap<number, number>): (Float64Array | undefined)[] =>
    [...fixed].flatMap(([factor, level]) =>
      Array.from({ length: level < 0 ? 0 : model.counts[factor] }, (_, other) => other)
        .filter(other => other !== level)
        .map(other => known.told(differenceRow(factor, level, other))),
    );
  return {
    ...{ model, coded: known, mixed, cases, terms },
    variances: groups.map((_, k) => (terms.includes(k) ? mixed.variances[terms.indexOf(k)] : undefined)),
    residualVariance: mixed.residualVariance,
    mean: fixed => said(meanRow(model, fixed), true, likeOf(fixed)),
    combination: levels =>
      said(rowOf(model, levels), true, likeOf(new Map(levels.map((level, f) => [f, level])))),
    difference: (factor, a, b) => {
      const found = said(differenceRow(factor, a, b), false);
      return found && { ...found, p: chanceOf(found.value, found.se, found.df) };
    },
    heldBy: (factor, a, b) => {
      const contrast = known.told(differenceRow(factor, a, b));
      return contrast && heldBy(contrast);
    },
    mixedWith: (factor, a, b) => known.mixedWith(differenceRow(factor, a, b)).filter(f => f !== factor),
  };
}

/** Two-sided p-value of a value that were nought. */
export const chanceOf = (value: number, se: number, df: number): number =>
  se > 0 ? Math.min(1, 2 * (1 - studentCdf(Math.abs(value) / se, df))) : value === 0 ? 1 : 0;

const quantile = (df: number) => studentQuantile(0.5 + CONFIDENCE / 2, df);

/** An interval of a difference: not wider than the scale. */
function between(value: number, se: number, df: number, bounds?: readonly [number, number]) {
  const half = se * quantile(df);
  const most = bounds ? bounds[1] - bounds[0] : Number.POSITIVE_INFINITY;
  return { lo: Math.max(-most, value - half), hi: Math.min(most, value + half) };
}

/** Nearer than this to an end of its scale, as a share of it, a mean is taken for that near. */
const EDGE = 1e-3;

/**
 * An interval of a mean: on a scale with ends it is symmetric in the logit and so never leaves it (the delta method
 * turned round).
 */
function inside(value: number, se: number, df: number, bounds?: readonly [number, number]) {
  const half = se * quantile(df);
  if (!bounds) return { lo: value - half, hi: value + half };
  const [low, high] = bounds;
  const share = Math.min(1 - EDGE, Math.max(EDGE, (value - low) / (high - low)));
  const reach = half / (high - low) / (share * (1 - share));
  const logit = Math.log(share / (1 - share));
  const back = (x: number) => low + (high - low) / (1 + Math.exp(-x));
  const kept = Math.min(high, Math.max(low, value));
  return { lo: Math.min(kept, back(logit - reach)), hi: Math.max(kept, back(logit + reach)) };
}

const middleOf = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[sorted.length >> 1];
};

/**
 * Whether a random term can be told from the scatter and from what is fitted: it holds several patches, more than one of
 * it is there, it is not the same as one before it, and the fixed columns leave something of it.
 */
function isTold(
  grouping: Grouping,
  all: readonly Grouping[],
  place: number,
  { parts }: Coded,
  n: number,
): boolean {
  const { levels, of } = grouping;
  if (levels < 2 || levels >= n) return false;
  const key = (g: Grouping) => g.of.join();
  if (all.slice(0, place).some(g => key(g) === key(grouping))) return false;
  // What is left of the first group's column once the fixed columns are taken off, over all groups.
  for (let a = 0; a < levels; a++) {
    const column = Float64Array.from(of, g => Number(g === a));
    const size = column.reduce((sum, v) => sum + v, 0);
    for (let pass = 0; pass < 2; pass++)
      for (const u of parts.q) {
        let part = 0;
        for (let i = 0; i < n; i++) part += u[i] * column[i];
        for (let i = 0; i < n; i++) column[i] -= part * u[i];
      }
    const rest = column.reduce((sum, v) => sum + v * v, 0);
    if (rest > 1e-8 * size) return true;
  }
  return false;
}
