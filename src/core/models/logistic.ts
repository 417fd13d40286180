import { type Coded, coded, type Model, meanRow, rowOf } from './model.ts';
import { dot } from './qr.ts';
import { cholesky, forward, inverseOf, square } from './small.ts';

/** A chance between 0 and 1 with its interval, and on the logit where it was worked out. */
export interface Chance01 {
  readonly value: number;
  readonly lo: number;
  readonly hi: number;
  readonly logit: number;
  readonly se: number;
}

export interface LogisticFit {
  readonly coded: Coded;
  /** The chance at some levels, the other factors averaged evenly on the logit; nothing where the data do not tell it. */
  mean(fixed: ReadonlyMap<number, number>): Chance01 | undefined;
  combination(levels: readonly number[]): Chance01 | undefined;
  /** Coefficients of the orthonormal columns and their covariance. */
  readonly coefficients: Float64Array;
  readonly covariance: readonly Float64Array[];
}

const MOST_STEPS = 200;
/** Ninety in a hundred of a normal distribution lie within so many standard deviations. */
const NINETY = 1.6448536269514722;
const logistic = (x: number) => 1 / (1 + Math.exp(-x));

/**
 * Logistic regression with Firth's penalty, the Jeffreys prior (Firth 1993, Biometrika 80:27; Heinze & Schemper 2002):
 * finite also where all of an option failed, or none. Intervals are of Wald on the logit.
 *
 * @example fitLogistic({ counts: [2], pairs: [] }, [{ levels: [0], failed: true }, { levels: [1], failed: false }]).mean(new Map([[0, 0]])).value.toFixed(3); // => '0.750'
 */
export function fitLogistic(
  model: Model,
  cases: readonly { readonly levels: readonly number[]; readonly failed: boolean }[],
): LogisticFit | undefined {
  if (!cases.length) return undefined;
  const known = coded(
    model,
    cases.map(c => c.levels),
  );
  const { q } = known.parts;
  const p = q.length;
  const n = cases.length;
  const y = cases.map(c => Number(c.failed));
  const at = (beta: Float64Array) => {
    const chance = Float64Array.from({ length: n }, (_, i) => {
      let eta = 0;
      for (let j = 0; j < p; j++) eta += q[j][i] * beta[j];
      return logistic(eta);
    });
    const information = square(p);
    for (let i = 0; i < n; i++) {
      const w = Math.max(1e-12, chance[i] * (1 - chance[i]));
      for (let a = 0; a < p; a++) for (let b = 0; b <= a; b++) information[a][b] += w * q[a][i] * q[b][i];
    }
    const l = cholesky(information);
    const logDet = l ? 2 * l.reduce((sum, row, i) => sum + Math.log(row[i]), 0) : Number.NEGATIVE_INFINITY;
    let log = 0.5 * logDet;
    for (let i = 0; i < n; i++) log += Math.log(Math.max(1e-300, y[i] ? chance[i] : 1 - chance[i]));
    return { chance, information, l, log };
  };
  let beta = new Float64Array(p);
  let now = at(beta);
  for (let step = 0; step < MOST_STEPS && now.l; step++) {
    const covariance = inverseOf(now.information);
    if (!covariance) break;
    const score = new Float64Array(p);
    for (let i = 0; i < n; i++) {
      const row = Float64Array.from(q, u => u[i]);
      const z = forward(now.l, row.slice());
      const lever = dot(z, z) * now.chance[i] * (1 - now.chance[i]);
      const pull = y[i] - now.chance[i] + lever * (0.5 - now.chance[i]);
      for (let a = 0; a < p; a++) score[a] += pull * row[a];
    }
    const move = Float64Array.from(covariance, row => dot(row, score));
    const long = Math.sqrt(dot(move, move));
    let share = Math.min(1, 5 / (long || 1));
    let next = at(beta.map((b, j) => b + share * move[j]));
    while (next.log < now.log - 1e-12 && share > 1e-4) {
      share /= 2;
      next = at(beta.map((b, j) => b + share * move[j]));
    }
    beta = beta.map((b, j) => b + share * move[j]);
    now = next;
    if (share * long < 1e-9) break;
  }
  const covariance = inverseOf(now.information);
  if (!covariance) return undefined;
  const said = (row: readonly number[]): Chance01 | undefined => {
    const contrast = known.told(row);
    if (!contrast) return undefined;
    const logit = dot(contrast, beta);
    const se = Math.sqrt(
      Math.max(
        0,
        dot(
          contrast,
          Float64Array.from(covariance, r => dot(r, contrast)),
        ),
      ),
    );
    return {
      value: logistic(logit),
      lo: logistic(logit - NINETY * se),
      hi: logistic(logit + NINETY * se),
      logit,
      se,
    };
  };
  return {
    coded: known,
    mean: fixed => said(meanRow(model, fixed)),
    combination: levels => said(rowOf(model, levels)),
    coefficients: beta,
    covariance,
  };
}
