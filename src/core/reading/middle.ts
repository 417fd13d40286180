/** The value below which a share `q` (0–1) of the values lie; not a number where there are none. */
export function quantile(values: readonly number[] | Float32Array, q: number): number {
  const sorted = Float64Array.from(values).sort();
  return sorted.length ? sorted[Math.floor(q * (sorted.length - 1))] : Number.NaN;
}

/**
 * The middle value; not a number where there are none.
 *
 * @example middle([3, 1, 2]); // => 2
 */
export const middle = (values: readonly number[] | Float32Array): number => quantile(values, 0.5);
