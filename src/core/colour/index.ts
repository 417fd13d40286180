/**
 * Linear light (0–1) of an sRGB value (0–1), by the curve of IEC 61966-2-1.
 *
 * @example toLinear(1); // => 1
 * @example toLinear(0.04045) < 0.0032; // => true
 */
export const toLinear = (s: number): number => (s <= 0.04045 ? s / 12.92 : ((s + 0.055) / 1.055) ** 2.4);

/**
 * The sRGB value (0–1) of linear light; what is out of 0–1 is brought there first. The inverse of {@link toLinear}.
 *
 * @example toSrgb(0.5).toFixed(4); // => '0.7354'
 * @example toSrgb(2).toFixed(2); // => '1.00'
 */
export function toSrgb(linear: number): number {
  const v = Math.min(1, Math.max(0, linear));
  return v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055;
}
