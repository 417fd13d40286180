import { chanceFrom, seedOf } from '../random/index.ts';

/**
 * Wet thickness of a coat in mm from its weight in grams, the medium's density in g/mL and the area in mm²:
 * grams / (density × area); 10 g of a medium of 1 g/mL on 100 cm² are 1 mm. Throws when density or area are not above 0.
 *
 * @example coatThicknessMm(4.2, 1.05, 1600).toFixed(2); // => '2.50'
 */
export function coatThicknessMm(grams: number, densityGPerMl: number, areaMm2: number): number {
  if (!(densityGPerMl > 0) || !(areaMm2 > 0)) throw new RangeError('Density and area have to be above 0.');
  return (grams * 1000) / (densityGPerMl * areaMm2);
}

/** What a simulated scale shows for a coat that was meant to be so thick: a hand's scatter of 12 % and the scale's 0.01 g. */
export function simulatedGrams(
  meantMm: number,
  densityGPerMl: number,
  areaMm2: number,
  seed: number,
): number {
  const exact = (meantMm * densityGPerMl * areaMm2) / 1000;
  return Math.max(
    0,
    Math.round(exact * (1 + 0.12 * chanceFrom(seedOf(`scale ${seed}`)).normal()) * 100) / 100,
  );
}
