/**
 * Chance that at least so many of the first failed, were failing the same in both (Fisher 1935, one-sided).
 *
 * @example fisher(4, 4, 0, 4).toFixed(4); // => '0.0143'
 */
export function fisher(failed: number, of: number, otherFailed: number, otherOf: number): number {
  const all = failed + otherFailed;
  let logFactorial = 0;
  const logs = [0, ...Array.from({ length: of + otherOf }, (_, i) => (logFactorial += Math.log(i + 1)))];
  const choose = (n: number, k: number) =>
    k < 0 || k > n ? Number.NEGATIVE_INFINITY : logs[n] - logs[k] - logs[n - k];
  let sum = 0;
  for (let k = failed; k <= Math.min(of, all); k++)
    sum += Math.exp(choose(of, k) + choose(otherOf, all - k) - choose(of + otherOf, all));
  return Math.min(1, sum);
}
