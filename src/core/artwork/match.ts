import { differenceCiede2000, modeLab65, modeLrgb, modeRgb, modeXyz65, useMode as register } from 'culori/fn';

for (const mode of [modeRgb, modeLrgb, modeXyz65, modeLab65]) register(mode);
const difference = differenceCiede2000();

type Linear = readonly [number, number, number];
const lrgb = ([r, g, b]: Linear) => ({ mode: 'lrgb' as const, r, g, b });

/**
 * CIEDE2000 between two CIE L*a*b* (D65) colours.
 *
 * @example labDifference([100, 0, 0], [0, 0, 0]).toFixed(0); // => '100'
 */
export const labDifference = (a: Linear, b: Linear): number => difference(lab(a), lab(b));
const lab = ([l, a, b]: Linear) => ({ mode: 'lab65' as const, l, a, b });

/** A coat of paint compared with a colour. */
export interface CoatMatch<T> {
  readonly coat: T;
  /** CIEDE2000 (Sharma, Wu & Dalal 2005). */
  readonly deltaE: number;
  readonly words: string;
}

/** What a difference looks like along an edge, side by side. */
function inWords(deltaE: number): string {
  if (deltaE < 1) return 'you will not see an edge';
  if (deltaE < 2.5) return 'you will have to look for the edge';
  if (deltaE < 6) return 'you will see an edge';
  return 'it is another colour';
}

/** Coats in order of how near they come to a colour (linear light). */
export const nearestCoats = <T extends { readonly paint: Linear | null }>(
  colour: Linear,
  coats: readonly T[],
): CoatMatch<T>[] =>
  coats
    .flatMap(coat => {
      if (!coat.paint) return [];
      const deltaE = difference(lrgb(colour), lrgb(coat.paint));
      return [{ coat, deltaE, words: inWords(deltaE) }];
    })
    .sort((a, b) => a.deltaE - b.deltaE);
