/** A matrix by its columns. */
export type Columns = readonly Float64Array[];

/** A matrix taken apart: orthonormal columns of all that can be told apart, and how the given ones are made of them. */
export interface Decomposed {
  /** Orthonormal, as many as the rank. */
  readonly q: Columns;
  /** The places of the columns that are kept, in order. */
  readonly kept: readonly number[];
  /** Upper triangular, rank × rank: the kept columns in terms of `q`. */
  readonly r: readonly Float64Array[];
  /** For each column left out, by its place: what it is of the kept ones. */
  readonly left: ReadonlyMap<number, Float64Array>;
}

/** A column of which less than this share is new beside those before it says nothing of its own. */
const NEW = 1e-7;

export const dot = (a: Float64Array, b: Float64Array): number => {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i] * b[i];
  return sum;
};

/**
 * Gram–Schmidt with each step done twice, which keeps the columns orthogonal to rounding (Giraud, Langou & Rozložník
 * 2005); columns that depend on those before them are left out, as R's `lm` does.
 *
 * @example decompose([Float64Array.of(1, 1), Float64Array.of(2, 2)]).kept; // => [0]
 */
export function decompose(columns: Columns): Decomposed {
  const q: Float64Array[] = [];
  const r: Float64Array[] = [];
  const kept: number[] = [];
  const rest = new Map<number, Float64Array>();
  columns.forEach((column, place) => {
    const v = column.slice();
    const size = Math.sqrt(dot(v, v));
    const parts = new Float64Array(q.length + 1);
    for (let pass = 0; pass < 3; pass++)
      q.forEach((u, i) => {
        const part = dot(u, v);
        parts[i] += part;
        for (let k = 0; k < v.length; k++) v[k] -= part * u[k];
      });
    const left = Math.sqrt(dot(v, v));
    if (left <= NEW * size || size === 0) {
      rest.set(place, solveUpper(r, parts.subarray(0, q.length)));
      return;
    }
    for (let k = 0; k < v.length; k++) v[k] /= left;
    parts[q.length] = left;
    q.push(v);
    kept.push(place);
    r.push(parts);
  });
  return { q, kept, r, left: rest };
}

/** Solves R x = b where `r` holds the columns of R, each down to its diagonal. */
export function solveUpper(r: readonly Float64Array[], b: Float64Array): Float64Array {
  const x = b.slice();
  for (let i = r.length - 1; i >= 0; i--) {
    x[i] /= r[i][i];
    for (let k = 0; k < i; k++) x[k] -= r[i][k] * x[i];
  }
  return x;
}

/** Solves Rᵀ x = b where `r` holds the columns of R. */
export function solveUpperT(r: readonly Float64Array[], b: Float64Array): Float64Array {
  const x = b.slice();
  for (let i = 0; i < r.length; i++) {
    for (let k = 0; k < i; k++) x[i] -= r[i][k] * x[k];
    x[i] /= r[i][i];
  }
  return x;
}
