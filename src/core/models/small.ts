/** A small square matrix by rows. */
export type Square = Float64Array[];

export const square = (n: number): Square => Array.from({ length: n }, () => new Float64Array(n));

/**
 * The lower Cholesky factor of a symmetric matrix; nothing where it is not positive definite.
 *
 * @example cholesky([Float64Array.of(4)])[0][0]; // => 2
 */
export function cholesky(a: readonly Float64Array[]): Square | undefined {
  const l = a.map(row => row.slice());
  return choleskyIn(l) ? l : undefined;
}

/** From so many columns on it is worth a look where they begin. */
const WIDE = 24;

/** Where a row of the lower half begins. */
function firstOf(row: Float64Array, i: number): number {
  let at = 0;
  while (at < i && row[at] === 0) at++;
  return at;
}

/**
 * The same in place of the lower half of a matrix; says whether it is positive definite.
 *
 * @example choleskyIn([Float64Array.of(-1)]); // => false
 */
export function choleskyIn(l: Square): boolean {
  // What is nothing before the first entry of a row stays so (the envelope: George & Liu 1981, ch. 4): many boards are quick.
  const first = l.length > WIDE ? l.map(firstOf) : undefined;
  for (let i = 0; i < l.length; i++)
    for (let j = first ? first[i] : 0; j <= i; j++) {
      let sum = l[i][j];
      for (let k = first ? Math.max(first[i], first[j]) : 0; k < j; k++) sum -= l[i][k] * l[j][k];
      if (i === j) {
        if (!(sum > 0)) return false;
        l[i][i] = Math.sqrt(sum);
      } else l[i][j] = sum / l[j][j];
    }
  return true;
}

/** Solves L x = b in place. */
export function forward(l: Square, b: Float64Array): Float64Array {
  for (let i = 0; i < l.length; i++) {
    for (let k = 0; k < i; k++) b[i] -= l[i][k] * b[k];
    b[i] /= l[i][i];
  }
  return b;
}

/** Solves Lᵀ x = b in place. */
export function backward(l: Square, b: Float64Array): Float64Array {
  for (let i = l.length - 1; i >= 0; i--) {
    for (let k = i + 1; k < l.length; k++) b[i] -= l[k][i] * b[k];
    b[i] /= l[i][i];
  }
  return b;
}

/**
 * The inverse of a symmetric positive definite matrix; nothing where it is not.
 *
 * @example inverseOf([Float64Array.of(4)])[0][0]; // => 0.25
 */
export function inverseOf(a: readonly Float64Array[]): Square | undefined {
  const l = cholesky(a);
  if (!l) return undefined;
  return a.map((_, i) => {
    const e = new Float64Array(a.length);
    e[i] = 1;
    return backward(l, forward(l, e));
  });
}
