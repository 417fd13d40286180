import type { Pixels, Plane } from './cv.ts';
import type { Box, CardPlace } from './find-card.ts';
import { halved } from './halved.ts';
import { maskOf } from './mask.ts';
import { middle, someOf } from './middle.ts';
import { balanced, type Lit, lookAt, type Region } from './straighten.ts';

/** What lies in a rectangle, balanced, in linear light; and where it shines. */
export interface Cutout {
  readonly rgb: readonly [Plane, Plane, Plane];
  /** 1 where it shines. */
  readonly clipped: Uint8Array;
  readonly inPhoto: Uint8Array;
  /** 1 where something lies that is neither picture nor its ground; nothing where that is known to be nowhere. */
  readonly aside?: Uint8Array;
}

/**
 * Nothing matt is this much brighter than the card's own white paper, whatever is left of uneven light; nor this much
 * where it is also far brighter than the rest of the window.
 */
const SHINES_ABOVE = 1.25;
const SHINES_HERE = 1.12;
const BRIGHTER = 1.35;

/** Looks straight down on the rectangle `box` (mm) of the plane. */
export function cutWindow(photo: Pixels, place: CardPlace, lit: Lit, box: Box): Cutout {
  return windowFrom(lookAt(photo, place, box), lit, box);
}

/** The same from what was looked at already. */
export function windowFrom(region: Region, lit: Lit, box: Box): Cutout {
  const rgb = balanced(region, lit, box);
  const [red, green, blue] = rgb.map(p => p.data);
  const least = new Float32Array(red.length);
  for (let i = 0; i < least.length; i++) least[i] = Math.min(red[i], green[i], blue[i]);
  const limit = Math.min(SHINES_ABOVE, Math.max(SHINES_HERE, BRIGHTER * middle(someOf(least, 7))));
  const clipped = Uint8Array.from(region.clipped);
  for (let i = 0; i < least.length; i++) if (least[i] > limit) clipped[i] = 1;
  return { rgb, clipped, inPhoto: region.inPhoto };
}

/** Share of flags that are set, 0–1. */
export const share = (flags: Uint8Array): number => {
  let sum = 0;
  for (let i = 0; i < flags.length; i++) sum += flags[i];
  return flags.length ? sum / flags.length : 0;
};

/** A window at half its resolution: a pixel shines, or is not in the photo, where any of its four does. */
export function halfWindow({ rgb, clipped, inPhoto }: Cutout): Cutout {
  const { w, h } = rgb[0];
  const any = (flags: Uint8Array) => {
    const { data } = halved({ w, h, data: new Float32Array(flags) });
    return maskOf(data.length, i => data[i] > 0);
  };
  const out = any(inPhoto.map(v => 1 - v));
  return {
    rgb: rgb.map(halved) as unknown as Cutout['rgb'],
    clipped: any(clipped),
    inPhoto: out.map(v => 1 - v),
  };
}
