import type { Grouping } from './grouping.ts';
import type { Columns } from './qr.ts';
import { dot } from './qr.ts';
import { backward, cholesky, forward, inverseOf, type Square, square } from './small.ts';
import { type Strata, strataOf } from './strata.ts';

/** A fit of fixed columns and random groups. */
export interface MixedFit {
  /** Of the columns of `q`. */
  readonly coefficients: Float64Array;
  readonly residualVariance: number;
  /** Of each grouping, in their order. */
  readonly variances: readonly number[];
  /** What each level of each grouping shifts, best linear unbiased predictors. */
  readonly shifts: readonly Float64Array[];
  readonly residuals: Float64Array;
  /** Value, standard error and degrees of freedom of a contrast of the columns. */
  estimate(contrast: Float64Array): ContrastEstimate;
  /** Covariance of two contrasts of the columns. */
  covariance(a: Float64Array, b: Float64Array): number;
}

export interface ContrastEstimate {
  readonly value: number;
  readonly standardError: number;
  readonly degreesOfFreedom: number;
}

/**
 * With fewer degrees of freedom than this left inside the groups, what is between them is not borrowed: variances can
 * hardly be told from so few, and intervals that borrow hold less often than they say (90 % hold 87 at one).
 */
const FEW_INSIDE = 3;

/** Cross products of the columns, the groups and the values; all that the likelihood needs. */
interface Parts {
  readonly n: number;
  readonly q: Columns;
  readonly y: Float64Array;
  readonly groups: readonly Grouping[];
  /** Where the levels of each grouping begin among all. */
  readonly starts: readonly number[];
  readonly zz: Square;
  readonly zq: Float64Array[];
  readonly zy: Float64Array;
  readonly qy: Float64Array;
  readonly yy: number;
}

/**
 * Fits y = Qβ + Σ Z u + e by restricted maximum likelihood, profiled over the fixed part and the scatter (Bates, Mächler,
 * Bolker & Walker 2015, J. Stat. Softw. 67(1), without its sparse order). Standard errors and degrees of freedom of
 * contrasts after Kenward & Roger (1997, Biometrics 53:983); without groups they are those of least squares. Where next
 * to nothing is left inside the groups a contrast is judged by that alone ({@link strataOf}).
 *
 * @param q orthonormal columns. @param y values. @returns nothing where no degree of freedom is left for the scatter:
 * columns and groups together say all that there is (rank [X Z] = n).
 * @example fitMixed([Float64Array.of(0.5, 0.5, 0.5, 0.5)], Float64Array.of(1, 2, 3, 4), []).coefficients[0]; // => 5
 */
export function fitMixed(q: Columns, y: Float64Array, groups: readonly Grouping[]): MixedFit | undefined {
  if (y.length - q.length < 1) return undefined;
  if (!groups.length) return leastSquares(q, y);
  const strata = strataOf(q, y, groups);
  if (strata && (strata.within < 1 || isExact(strata, y))) return undefined;
  const parts = partsOf(q, y, groups);
  const theta = bestTheta(parts);
  return theta && finished(parts, theta, strata);
}

/** Whether the few patches that are left inside the groups agree to the digit: rounded numbers, and no scatter to judge by. */
const isExact = ({ within, meanSquare }: Strata, y: Float64Array): boolean => {
  const mean = y.reduce((sum, v) => sum + v, 0) / y.length;
  return within < FEW_INSIDE && meanSquare <= 1e-12 * y.reduce((sum, v) => sum + (v - mean) ** 2, 0);
};

function leastSquares(q: Columns, y: Float64Array): MixedFit {
  const coefficients = new Float64Array(q.length);
  const residuals = y.slice();
  // Taken off twice, so that a large mean leaves nothing of itself in the scatter.
  for (let pass = 0; pass < 2; pass++)
    q.forEach((u, j) => {
      const part = dot(u, residuals);
      coefficients[j] += part;
      for (let i = 0; i < residuals.length; i++) residuals[i] -= part * u[i];
    });
  const degreesOfFreedom = y.length - q.length;
  const residualVariance = dot(residuals, residuals) / degreesOfFreedom;
  return {
    coefficients,
    residualVariance,
    variances: [],
    shifts: [],
    residuals,
    estimate: contrast => ({
      value: dot(contrast, coefficients),
      standardError: Math.sqrt(residualVariance * dot(contrast, contrast)),
      degreesOfFreedom,
    }),
    covariance: (a, b) => residualVariance * dot(a, b),
  };
}

function partsOf(q: Columns, y: Float64Array, groups: readonly Grouping[]): Parts {
  const starts: number[] = [];
  let total = 0;
  for (const g of groups) {
    starts.push(total);
    total += g.levels;
  }
  const zz = square(total);
  const zq = Array.from({ length: total }, () => new Float64Array(q.length));
  const zy = new Float64Array(total);
  for (let i = 0; i < y.length; i++) {
    const own = groups.map((g, k) => starts[k] + g.of[i]);
    for (const a of own) {
      for (const b of own) zz[a][b]++;
      for (let j = 0; j < q.length; j++) zq[a][j] += q[j][i];
      zy[a] += y[i];
    }
  }
  return {
    n: y.length,
    q,
    y,
    groups,
    starts,
    zz,
    zq,
    zy,
    qy: Float64Array.from(q, u => dot(u, y)),
    yy: dot(y, y),
  };
}

/** Everything worked out for relative standard deviations `theta` of the groups. */
interface Solved {
  readonly deviance: number;
  readonly l: Square;
  readonly rx: Square;
  readonly scaled: Float64Array;
  readonly beta: Float64Array;
  readonly rss: number;
  readonly rzx: Float64Array[];
  readonly cu: Float64Array;
}

function solved(
  { n, q, groups, starts, zz, zq, zy, qy, yy }: Parts,
  theta: readonly number[],
): Solved | undefined {
  const scaled = new Float64Array(zy.length);
  groups.forEach((g, k) => {
    scaled.fill(theta[k], starts[k], starts[k] + g.levels);
  });
  const m = zz.map((row, a) => row.map((v, b) => v * scaled[a] * scaled[b] + (a === b ? 1 : 0)));
  const l = cholesky(m);
  if (!l) return undefined;
  const cu = forward(
    l,
    zy.map((v, a) => v * scaled[a]),
  );
  const p = q.length;
  const rzx = Array.from({ length: p }, (_, j) =>
    forward(
      l,
      Float64Array.from(zq, (row, a) => row[j] * scaled[a]),
    ),
  );
  const xx = square(p);
  for (let i = 0; i < p; i++)
    for (let j = 0; j <= i; j++) {
      xx[i][j] = (i === j ? 1 : 0) - dot(rzx[i], rzx[j]);
      xx[j][i] = xx[i][j];
    }
  const rx = cholesky(xx);
  if (!rx) return undefined;
  const cb = forward(
    rx,
    Float64Array.from(qy, (v, j) => v - dot(rzx[j], cu)),
  );
  const rss = Math.max(yy - dot(cu, cu) - dot(cb, cb), yy * 1e-15);
  const free = n - p;
  let logs = 0;
  for (let i = 0; i < l.length; i++) logs += Math.log(l[i][i]);
  for (let i = 0; i < p; i++) logs += Math.log(rx[i][i]);
  return {
    deviance: 2 * logs + free * (1 + Math.log((2 * Math.PI * rss) / free)),
    ...{ l, rx, scaled, rss, rzx, cu },
    beta: backward(rx, cb),
  };
}

/** Relative standard deviations between which the best one is looked for, besides none at all. */
const LEAST = 1e-3;
const MOST = 1e4;
const STEPS = 29;
const SWEEPS = 60;
const GOLD = (Math.sqrt(5) - 1) / 2;

/** The relative standard deviations of the groups that the restricted likelihood is greatest at, each nought or more. */
function bestTheta(parts: Parts): number[] | undefined {
  const theta = parts.groups.map(() => 1);
  const at = (k: number, value: number) =>
    solved(
      parts,
      theta.map((t, i) => (i === k ? value : t)),
    )?.deviance ?? Number.POSITIVE_INFINITY;
  let before = Number.POSITIVE_INFINITY;
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    let now = Number.POSITIVE_INFINITY;
    for (let k = 0; k < theta.length; k++) {
      const found = along(v => at(k, v), sweep ? theta[k] : undefined);
      theta[k] = found.at;
      now = found.value;
    }
    if (!Number.isFinite(now)) return undefined;
    if (theta.length === 1 || before - now < 1e-9) break;
    before = now;
  }
  return theta;
}

/** The lowest place of a function of one relative standard deviation: by a grid on its logarithm, then golden sections. */
function along(f: (v: number) => number, near: number | undefined): { at: number; value: number } {
  const none = f(0);
  const [low, high] = near ? [Math.log(near) - 1.5, Math.log(near) + 1.5] : [Math.log(LEAST), Math.log(MOST)];
  const steps = near ? 6 : STEPS;
  const step = (high - low) / steps;
  let best = low;
  let bestValue = Number.POSITIVE_INFINITY;
  for (let i = 0; i <= steps; i++) {
    const value = f(Math.exp(low + i * step));
    if (value < bestValue) [best, bestValue] = [low + i * step, value];
  }
  let [a, b] = [best - step, best + step];
  let [c, d] = [b - GOLD * (b - a), a + GOLD * (b - a)];
  let [fc, fd] = [f(Math.exp(c)), f(Math.exp(d))];
  while (b - a > 1e-7) {
    if (fc < fd) {
      [b, d, fd] = [d, c, fc];
      c = b - GOLD * (b - a);
      fc = f(Math.exp(c));
    } else {
      [a, c, fc] = [c, d, fd];
      d = a + GOLD * (b - a);
      fd = f(Math.exp(d));
    }
  }
  const value = Math.min(fc, fd);
  return none <= value + 1e-9 ? { at: 0, value: none } : { at: Math.exp((a + b) / 2), value };
}

function finished(parts: Parts, theta: readonly number[], strata: Strata | undefined): MixedFit | undefined {
  const best = solved(parts, theta);
  if (!best) return undefined;
  const { n, q, y, groups, starts } = parts;
  const p = q.length;
  const residualVariance = best.rss / (n - p);
  const variances = theta.map(t => t * t * residualVariance);
  const u = backward(
    best.l,
    best.cu.map((v, a) => v - best.rzx.reduce((sum, col, j) => sum + col[a] * best.beta[j], 0)),
  );
  const shifts = groups.map((g, k) => u.slice(starts[k], starts[k] + g.levels).map(v => v * theta[k]));
  const residuals = y.map(
    (v, i) =>
      v -
      q.reduce((sum, col, j) => sum + col[i] * best.beta[j], 0) -
      groups.reduce((sum, g, k) => sum + shifts[k][g.of[i]], 0),
  );
  const roger = kenwardRoger(parts, best, residualVariance);
  if (!roger) return undefined;
  const { phi, adjusted, pieces, spread } = roger;
  const through = (m: Square, a: Float64Array, b: Float64Array) =>
    a.reduce((sum, v, i) => (v ? sum + v * dot(m[i], b) : sum), 0);
  const borrowing = (contrast: Float64Array): ContrastEstimate => {
    const plain = through(phi, contrast, contrast);
    const toward = pieces.map(piece => {
      const side = Float64Array.from(phi, row => dot(row, contrast));
      return through(piece, side, side);
    });
    let varied = 0;
    for (let r = 0; r < toward.length; r++)
      for (let s = 0; s < toward.length; s++) varied += spread[r][s] * toward[r] * toward[s];
    return {
      value: dot(contrast, best.beta),
      standardError: Math.sqrt(Math.max(0, through(adjusted, contrast, contrast))),
      degreesOfFreedom: varied > 0 ? Math.max(1, (2 * plain * plain) / varied) : n - p,
    };
  };
  return {
    coefficients: best.beta,
    ...{ residualVariance, variances, shifts, residuals },
    estimate: contrast => {
      const own = strata && strata.within < FEW_INSIDE ? strata.inside(contrast) : undefined;
      return own && strata
        ? {
            value: own.value,
            standardError: Math.sqrt(own.square * strata.meanSquare),
            degreesOfFreedom: strata.within,
          }
        : borrowing(contrast);
    },
    covariance: (a, b) => through(adjusted, a, b),
  };
}

/**
 * The covariance of the fixed part, the same adjusted for that the variances are estimated, and what degrees of freedom
 * come from (Kenward & Roger 1997, equations 3 to 5 and the appendix): `pieces` are −P of each variance, the scatter first.
 */
function kenwardRoger({ n, q, groups, starts, zz }: Parts, { l, scaled }: Solved, scatter: number) {
  const p = q.length;
  const total = scaled.length;
  // V⁻¹ = (I − Z M Zᵀ) / scatter, with M = Λ (L Lᵀ)⁻¹ Λ.
  const m = square(total);
  for (let a = 0; a < total; a++) {
    const e = new Float64Array(total);
    e[a] = scaled[a];
    const column = backward(l, forward(l, e));
    for (let b = 0; b < total; b++) m[b][a] = column[b] * scaled[b];
  }
  const sums = (v: Float64Array): Float64Array => {
    const out = new Float64Array(total);
    for (let i = 0; i < n; i++)
      for (let k = 0; k < groups.length; k++) out[starts[k] + groups[k].of[i]] += v[i];
    return out;
  };
  const inverseV = (v: Float64Array): Float64Array => {
    const z = sums(v);
    const w = Float64Array.from(m, row => dot(row, z));
    return v.map((x, i) => {
      let off = 0;
      for (let k = 0; k < groups.length; k++) off += w[starts[k] + groups[k].of[i]];
      return (x - off) / scatter;
    });
  };
  const vx = q.map(inverseV);
  const phi = inverseOf(q.map(a => Float64Array.from(vx, b => dot(a, b))));
  if (!phi) return undefined;
  // G V⁻¹ X for each variance: all of it for the scatter, sums within groups for the others.
  const within = (k: number, v: Float64Array): Float64Array => {
    const sum = new Float64Array(groups[k].levels);
    for (let i = 0; i < n; i++) sum[groups[k].of[i]] += v[i];
    return v.map((_, i) => sum[groups[k].of[i]]);
  };
  const gvx = [vx, ...groups.map((_, k) => vx.map(v => within(k, v)))];
  const cross = (a: Columns, b: Columns): Square => a.map(x => Float64Array.from(b, z => dot(x, z)));
  const pieces = gvx.map(g => cross(vx, g));
  const vgvx = gvx.map(g => g.map(inverseV));
  const parts = gvx.length;
  const traces = tracesOf({ n, groups, starts, zz, m, scatter });
  const times = (a: Square, b: Square): Square =>
    a.map(row =>
      Float64Array.from({ length: b.length }, (_, j) => row.reduce((sum, v, k) => sum + v * b[k][j], 0)),
    );
  const phiPieces = pieces.map(piece => times(phi, piece));
  const trace = (a: Square, b: Square) =>
    a.reduce((sum, row, i) => sum + row.reduce((s, v, j) => s + v * b[j][i], 0), 0);
  const information = square(parts);
  const qs: Square[][] = [];
  for (let r = 0; r < parts; r++) {
    qs.push([]);
    for (let s = 0; s < parts; s++) {
      qs[r].push(cross(gvx[r], vgvx[s]));
      information[r][s] = 0.5 * (traces[r][s] - 2 * trace(phi, qs[r][s]) + trace(phiPieces[r], phiPieces[s]));
    }
  }
  // A variance of which nothing is known has no part in it.
  const spread = inverseOf(information) ?? diagonalInverse(information);
  const inner = square(p);
  for (let r = 0; r < parts; r++)
    for (let s = 0; s < parts; s++) {
      const back = times(pieces[r], phiPieces[s]);
      for (let i = 0; i < p; i++)
        for (let j = 0; j < p; j++) inner[i][j] += spread[r][s] * (qs[r][s][i][j] - back[i][j]);
    }
  const lambda = times(times(phi, inner), phi);
  const adjusted = phi.map((row, i) => row.map((v, j) => v + lambda[i][j] + lambda[j][i]));
  return { phi, adjusted, pieces, spread };
}

const diagonalInverse = (a: Square): Square =>
  a.map((row, i) => Float64Array.from(row, (v, j) => (i === j && v > 1e-12 ? 1 / v : 0)));

/** tr(V⁻¹ G V⁻¹ G′) for each two of the scatter and the groups. */
function tracesOf({
  n,
  groups,
  starts,
  zz,
  m,
  scatter,
}: Pick<Parts, 'n' | 'groups' | 'starts' | 'zz'> & { m: Square; scatter: number }): Square {
  const total = m.length;
  const product = (a: Square, b: Square): Square =>
    a.map(row =>
      Float64Array.from({ length: total }, (_, j) => row.reduce((sum, v, k) => sum + v * b[k][j], 0)),
    );
  // S = Zᵀ V⁻¹ Z and T = Zᵀ V⁻² Z.
  const mz = product(m, zz);
  const zmz = product(zz, mz);
  const zmzmz = product(zmz, mz);
  const s = zz.map((row, i) => row.map((v, j) => (v - zmz[i][j]) / scatter));
  const t = zz.map((row, i) => row.map((v, j) => (v - 2 * zmz[i][j] + zmzmz[i][j]) / (scatter * scatter)));
  const out = square(groups.length + 1);
  let once = 0;
  let twice = 0;
  for (let i = 0; i < total; i++) {
    once += mz[i][i];
    for (let j = 0; j < total; j++) twice += mz[i][j] * mz[j][i];
  }
  out[0][0] = (n - 2 * once + twice) / (scatter * scatter);
  groups.forEach((g, k) => {
    for (let a = starts[k]; a < starts[k] + g.levels; a++) out[0][k + 1] += t[a][a];
    out[k + 1][0] = out[0][k + 1];
    groups.forEach((h, j) => {
      for (let a = starts[k]; a < starts[k] + g.levels; a++)
        for (let b = starts[j]; b < starts[j] + h.levels; b++) out[k + 1][j + 1] += s[a][b] ** 2;
    });
  });
  return out;
}
