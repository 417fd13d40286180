export {
  type Air,
  coatFactor,
  dryingFactor,
  dryingRange,
  REFERENCE_AIR,
  REFERENCE_COAT_MM,
  saturationPressure,
  vapourPressureDeficit,
} from './air.ts';
export { type AirHistory, airAt, driedBetween, driedBy, type ExpectedAir, knownAt } from './air-history.ts';
export { type Column, columnOf } from './column.ts';
export { type Sides, sidesOf } from './sides.ts';

/**
 * A clock face from milliseconds: `4:05`, `1:02:09`; negative spans keep their sign.
 *
 * @example clock(65_000); // => '1:05'
 */
export function clock(ms: number): string {
  const total = Math.round(Math.abs(ms) / 1000);
  const s = total % 60;
  const m = Math.floor(total / 60) % 60;
  const h = Math.floor(total / 3600);
  const two = (n: number) => String(n).padStart(2, '0');
  return `${ms < 0 ? '−' : ''}${h ? `${h}:${two(m)}` : m}:${two(s)}`;
}
