/** The air of a room. */
export interface Air {
  readonly tempC: number;
  /** Relative humidity in percent. */
  readonly rh: number;
}

/** The air that drying times on labels and in methods are stated for. */
export const REFERENCE_AIR: Air = { tempC: 21, rh: 45 };

/**
 * Saturation vapour pressure over water in kPa at T °C (Magnus form with the constants of
 * Sonntag 1990, as in the WMO guide to instruments): 0.6112·exp(17.62·T/(243.12+T)).
 *
 * @example saturationPressure(21).toFixed(3); // => '2.481'
 */
export const saturationPressure = (tempC: number): number =>
  0.6112 * Math.exp((17.62 * tempC) / (243.12 + tempC));

/**
 * Vapour-pressure deficit in kPa: how strongly the air pulls water out of a coat.
 *
 * @example vapourPressureDeficit({ tempC: 21, rh: 45 }).toFixed(3); // => '1.364'
 */
export const vapourPressureDeficit = ({ tempC, rh }: Air): number =>
  saturationPressure(tempC) * (1 - rh / 100);

/**
 * How many times longer drying takes in this air than in the reference air, clamped to 0.5–6.
 *
 * @example dryingFactor({ tempC: 21, rh: 45 }); // => 1
 */
export function dryingFactor(air: Air): number {
  const deficit = Math.max(vapourPressureDeficit(air), 1e-6);
  return Math.min(6, Math.max(0.5, vapourPressureDeficit(REFERENCE_AIR) / deficit));
}

/**
 * An estimated drying time as a range of hours; the estimate is good to about −25 % / +40 %.
 *
 * @example dryingRange(10, { tempC: 21, rh: 45 }).mid; // => 10
 */
export function dryingRange(referenceHours: number, air: Air): { lo: number; mid: number; hi: number } {
  const mid = referenceHours * dryingFactor(air);
  return { lo: mid * 0.75, mid, hi: mid * 1.4 };
}

/** The coat that drying times on the shelf are stated for, mm. */
export const REFERENCE_COAT_MM = 0.3;

/**
 * How many times as long as the reference coat another takes to dry; an estimate, less than in proportion to its thickness.
 *
 * @example coatFactor(0.3); // => 1
 */
export const coatFactor = (coatMm: number): number => (coatMm / REFERENCE_COAT_MM) ** 0.7;
