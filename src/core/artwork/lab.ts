import { toLinear } from '../colour/index.ts';

const LINEAR = Float64Array.from({ length: 256 }, (_, v) => toLinear(v / 255));

/**
 * Linear light of an sRGB byte, by table.
 *
 * @example linearOf(255); // => 1
 */
export const linearOf = (byte: number): number => LINEAR[byte & 255];

const f = (t: number) => (t > 216 / 24389 ? Math.cbrt(t) : (24389 / 27 / 116) * t + 16 / 116);

/** CIE L*a*b* (D65) of sRGB bytes; fractions are rounded. For whole pictures, where a library call a pixel is too slow. */
export function labAt(r: number, g: number, b: number): readonly [number, number, number] {
  const [lr, lg, lb] = [LINEAR[Math.round(r)], LINEAR[Math.round(g)], LINEAR[Math.round(b)]];
  const x = f((0.4123908 * lr + 0.3575843 * lg + 0.1804808 * lb) / 0.9504559);
  const y = f(0.212639 * lr + 0.7151687 * lg + 0.0721923 * lb);
  const z = f((0.0193308 * lr + 0.1191948 * lg + 0.9505322 * lb) / 1.0890578);
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}
