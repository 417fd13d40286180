/** The value below which a share `q` (0–1) of the values lie; not a number where there are none. */
export function quantile(values: readonly number[] | Float32Array, q: number): number {
  const some = new Float64Array(values as ArrayLike<number>);
  return some.length ? ranked(some, Math.floor(q * (some.length - 1))) : Number.NaN;
}

/**
 * The value that would stand at place `k` if all were in order; puts the values partly in order.
 * C. A. R. Hoare, “Algorithm 65: Find”, Communications of the ACM 4 (1961).
 */
function ranked(values: Float64Array, k: number): number {
  let [from, to] = [0, values.length - 1];
  while (from < to) {
    const pivot = values[k];
    let [i, j] = [from, to];
    while (i <= j) {
      while (values[i] < pivot) i++;
      while (values[j] > pivot) j--;
      if (i > j) break;
      const other = values[i];
      values[i] = values[j];
      values[j] = other;
      i++;
      j--;
    }
    if (j < k) from = i;
    if (k < i) to = j;
  }
  return values[k];
}

/** Every so many of the values: enough of them to know their middle. */
export function someOf(values: Float32Array, every: number): Float32Array {
  const out = new Float32Array(Math.ceil(values.length / every));
  for (let k = 0, i = 0; k < out.length; k++, i += every) out[k] = values[i];
  return out;
}

/**
 * The middle value; not a number where there are none.
 *
 * @example middle([3, 1, 2]); // => 2
 */
export const middle = (values: readonly number[] | Float32Array): number => quantile(values, 0.5);
