import type { Progress } from '../outcome/index.ts';
import type { Chance } from '../random/index.ts';
import { dEfficiency, effectCount, informationOf, inverseOf, modelRows, type Pairs } from './model.ts';

/** What a search needs to know. `candidates`: the feasible combinations, or a test for each when they are too many to list. */
export interface FractionProblem {
  readonly counts: readonly number[];
  readonly pairs: Pairs;
  readonly runs: number;
  readonly candidates: readonly (readonly number[])[];
  readonly restarts: number;
}

export interface Fraction {
  readonly runs: readonly (readonly number[])[];
  readonly efficiency: number;
}

/** How much better a swap has to make the determinant to be worth making. */
const BETTER = 1 + 1e-7;

/**
 * The D-optimal fraction by Fedorov exchange with random restarts (Fedorov 1972; the determinant changes by
 * (1 + d(x))(1 − d(xᵢ)) + d(x, xᵢ)² when run xᵢ gives way to candidate x, with d the variance function of M⁻¹).
 * Every start is improved until no exchange helps; the best of all starts is returned, with its D-efficiency
 * (0 when no start could tell all effects apart). The same chance gives the same design.
 */
export function bestFraction(problem: FractionProblem, chance: Chance, tell: Progress = () => {}): Fraction {
  const { counts, pairs, candidates, restarts } = problem;
  const row = modelRows(counts, pairs);
  const p = effectCount(counts, pairs);
  const table = new Float64Array(candidates.length * p);
  candidates.forEach((levels, c) => {
    table.set(row(levels), c * p);
  });
  let best: number[] = [];
  let bestValue = Number.NEGATIVE_INFINITY;
  for (let start = 0; start < restarts; start++) {
    tell(start / restarts, 'Looking for the best set of patches');
    const found = improve(table, p, startingRuns(problem.runs, candidates.length, chance), chance);
    if (found.value > bestValue + 1e-9) [best, bestValue] = [found.runs, found.value];
  }
  const runs = best.map(c => candidates[c]);
  return { runs, efficiency: Number.isFinite(bestValue) ? dEfficiency(runs, counts, pairs) : 0 };
}

/** A random start: different candidates as long as there are any. */
function startingRuns(count: number, candidates: number, chance: Chance): number[] {
  const runs: number[] = [];
  const all = Array.from({ length: candidates }, (_, c) => c);
  while (runs.length < count) runs.push(...chance.shuffle(all).slice(0, count - runs.length));
  return runs;
}

/** Improves one start in place by exchanges; returns it with log |X'X| (−∞ when it stays singular). */
function improve(table: Float64Array, p: number, runs: number[], chance: Chance) {
  const count = table.length / p;
  let state = stateOf(table, p, runs);
  // A singular start is lifted by a little ridge until exchanges have made it regular.
  let ridge = state ? 0 : 0.01 * runs.length;
  state ??= stateOf(table, p, runs, ridge)!;
  for (let pass = 0; pass < 60; pass++) {
    let changed = false;
    for (const i of chance.shuffle(runs.map((_, at) => at))) {
      const { inverse, variance } = state;
      const out = runs[i];
      const pull = times(inverse, table, out, p);
      let bestGain = BETTER;
      let bestIn = -1;
      const keep = 1 - variance[out];
      for (let c = 0; c < count; c++) {
        if (c === out) continue;
        let cross = 0;
        for (let k = 0, at = c * p; k < p; k++, at++) cross += table[at] * pull[k];
        const gain = (1 + variance[c]) * keep + cross * cross;
        if (gain > bestGain) [bestGain, bestIn] = [gain, c];
      }
      if (bestIn < 0) continue;
      exchange(state, table, p, bestIn, out);
      runs[i] = bestIn;
      changed = true;
    }
    // Rounding creeps in with every update; a fresh inverse a pass keeps it honest.
    const fresh = stateOf(table, p, runs);
    if (fresh) ridge = 0;
    state = fresh ?? stateOf(table, p, runs, ridge)!;
    if (!changed) break;
  }
  return { runs, value: ridge ? Number.NEGATIVE_INFINITY : state.logDet };
}

interface State {
  readonly inverse: Float64Array;
  /** x' M⁻¹ x for every candidate. */
  readonly variance: Float64Array;
  readonly logDet: number;
}

function stateOf(table: Float64Array, p: number, runs: readonly number[], ridge = 0): State | undefined {
  const m = informationOf(runs.map(c => Array.from(table.subarray(c * p, c * p + p))));
  for (let k = 0; k < p; k++) m[k][k] += ridge;
  const inv = inverseOf(m);
  if (!inv) return undefined;
  const inverse = Float64Array.from(inv.flat());
  const count = table.length / p;
  const variance = new Float64Array(count);
  for (let c = 0; c < count; c++) {
    const v = times(inverse, table, c, p);
    let sum = 0;
    for (let k = 0; k < p; k++) sum += v[k] * table[c * p + k];
    variance[c] = sum;
  }
  return { inverse, variance, logDet: logDetOf(m) };
}

function logDetOf(m: number[][]): number {
  let sum = 0;
  const a = m.map(row => [...row]);
  for (let i = 0; i < a.length; i++) {
    if (a[i][i] <= 0) return Number.NEGATIVE_INFINITY;
    sum += Math.log(a[i][i]);
    for (let r = i + 1; r < a.length; r++) {
      const f = a[r][i] / a[i][i];
      if (f) for (let c = i; c < a.length; c++) a[r][c] -= f * a[i][c];
    }
  }
  return sum;
}

/** M⁻¹ x for candidate c. */
function times(inverse: Float64Array, table: Float64Array, c: number, p: number): Float64Array {
  const out = new Float64Array(p);
  for (let i = 0; i < p; i++) {
    let sum = 0;
    for (let k = 0; k < p; k++) sum += inverse[i * p + k] * table[c * p + k];
    out[i] = sum;
  }
  return out;
}

/** Takes candidate `into` in and `out` out: two rank-one updates (Sherman & Morrison 1950). */
function exchange(state: State, table: Float64Array, p: number, into: number, out: number) {
  rankOne(state, table, p, into, 1);
  rankOne(state, table, p, out, -1);
}

function rankOne({ inverse, variance }: State, table: Float64Array, p: number, c: number, sign: 1 | -1) {
  const u = times(inverse, table, c, p);
  const scale = sign / (1 + sign * variance[c]);
  for (let i = 0; i < p; i++) for (let k = 0; k < p; k++) inverse[i * p + k] -= scale * u[i] * u[k];
  const count = variance.length;
  for (let x = 0, at = 0; x < count; x++) {
    let cross = 0;
    for (let k = 0; k < p; k++, at++) cross += table[at] * u[k];
    variance[x] -= scale * cross * cross;
  }
}
