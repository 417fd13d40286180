/** Pairs of factors (places) whose interaction a model holds besides all main effects. */
export type Pairs = readonly (readonly [number, number])[];

/**
 * Orthonormal contrasts of `count` levels (Helmert, scaled): over all levels each column has mean 0 and mean square 1.
 *
 * @example contrasts(3).length; // => 3
 */
export function contrasts(count: number): number[][] {
  return Array.from({ length: count }, (_, level) =>
    Array.from({ length: count - 1 }, (_, k) => {
      const scale = Math.sqrt(count / ((k + 1) * (k + 2)));
      return level <= k ? scale : level === k + 1 ? -(k + 1) * scale : 0;
    }),
  );
}

/**
 * The columns of a main effect at a level; zeros where the run does not have the factor (nested effects: within the
 * methods that have it its contrasts sum to nothing, so that those of the method itself stay what they are).
 *
 * @example effectAt(contrasts(2), -1); // => [0]
 */
export const effectAt = (table: readonly (readonly number[])[], level: number): readonly number[] =>
  table[level] ?? table[0].map(() => 0);

/** A function that writes a run as a row of the model matrix: 1, main effects, chosen interactions. */
export function modelRows(counts: readonly number[], pairs: Pairs): (levels: readonly number[]) => number[] {
  const tables = counts.map(contrasts);
  return levels => {
    const main = levels.map((level, f) => effectAt(tables[f], level));
    const row = [1, ...main.flat()];
    for (const [a, b] of pairs) for (const x of main[a]) for (const y of main[b]) row.push(x * y);
    return row;
  };
}

/**
 * Number of effects a model has to estimate, the mean included.
 *
 * @example effectCount([2, 3], []); // => 4
 */
export const effectCount = (counts: readonly number[], pairs: Pairs): number =>
  1 +
  counts.reduce((sum, n) => sum + n - 1, 0) +
  pairs.reduce((sum, [a, b]) => sum + (counts[a] - 1) * (counts[b] - 1), 0);

/** X'X of rows, as a square array of rows. */
export function informationOf(rows: readonly (readonly number[])[]): number[][] {
  const p = rows[0].length;
  const m = Array.from({ length: p }, () => new Array<number>(p).fill(0));
  for (const row of rows) for (let i = 0; i < p; i++) for (let j = 0; j <= i; j++) m[i][j] += row[i] * row[j];
  for (let i = 0; i < p; i++) for (let j = i + 1; j < p; j++) m[i][j] = m[j][i];
  return m;
}

/** Lower Cholesky factor of a symmetric matrix, or nothing when it is not of full rank. */
export function cholesky(m: readonly (readonly number[])[]): number[][] | undefined {
  const n = m.length;
  const l = Array.from({ length: n }, () => new Array<number>(n).fill(0));
  const small = 1e-9 * Math.max(...m.map((row, i) => row[i]));
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      let sum = m[i][j];
      for (let k = 0; k < j; k++) sum -= l[i][k] * l[j][k];
      if (i === j) {
        if (sum <= small) return undefined;
        l[i][i] = Math.sqrt(sum);
      } else l[i][j] = sum / l[j][j];
    }
  return l;
}

/** Inverse of a symmetric positive definite matrix from its Cholesky factor. */
export function inverseOf(m: readonly (readonly number[])[]): number[][] | undefined {
  const l = cholesky(m);
  if (!l) return undefined;
  const n = m.length;
  const out = Array.from({ length: n }, () => new Array<number>(n).fill(0));
  for (let c = 0; c < n; c++) {
    const y = new Array<number>(n).fill(0);
    for (let i = c; i < n; i++) {
      let sum = i === c ? 1 : 0;
      for (let k = c; k < i; k++) sum -= l[i][k] * y[k];
      y[i] = sum / l[i][i];
    }
    for (let i = n - 1; i >= 0; i--) {
      let sum = y[i];
      for (let k = i + 1; k < n; k++) sum -= l[k][i] * out[k][c];
      out[i][c] = sum / l[i][i];
    }
  }
  return out;
}

/** log |X'X|, or −∞ when the runs cannot tell all effects apart. */
export function logDeterminant(rows: readonly (readonly number[])[]): number {
  const l = cholesky(informationOf(rows));
  return l ? 2 * l.reduce((sum, row, i) => sum + Math.log(row[i]), 0) : Number.NEGATIVE_INFINITY;
}

/**
 * D-efficiency of runs under a model: |X'X|^(1/p) / N with orthonormal contrasts, 1 for an orthogonal
 * array and every full factorial (Atkinson, Donev & Tobias 2007, ch. 11). 0 when effects cannot be told apart.
 *
 * @example dEfficiency([[0, 0], [0, 1], [1, 0], [1, 1]], [2, 2]).toFixed(3); // => '1.000'
 */
export function dEfficiency(
  runs: readonly (readonly number[])[],
  counts: readonly number[],
  pairs: Pairs = [],
): number {
  if (!runs.length) return 0;
  const rows = runs.map(modelRows(counts, pairs));
  return Math.exp(logDeterminant(rows) / rows[0].length) / runs.length;
}
