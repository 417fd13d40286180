import type { Sorted } from './classify.ts';
import { blurPlane, type Cv, type Plane } from './cv.ts';
import type { Ground } from './ground.ts';
import { leftOf } from './ink.ts';
import { maskOf } from './mask.ts';
import { SORT_PX } from './px.ts';
import type { Reference } from './reference.ts';
import { drawnOut, type Spread, underLens } from './spread.ts';
import { tally } from './tally.ts';

export interface Smear {
  /** How far the edges are drawn out, mm, as the length of an even smear. */
  readonly smear: number;
  /** Its main direction, degrees from the x axis (y down), 0–180. */
  readonly along: number;
}

/** A widening below so many of its standard errors is none: grain alone comes to as much. */
const SURELY = 3.5;
/** Where what is seen and its standard error leave room for a smear as long as this, one in twenty, it is not said that there is none. */
const MOST_BLIND_MM = 0.5;
const NINETY_FIVE = 1.645;
/** Where more than this share of the picture is gone, edges are torn, not drawn out. */
const MOST_GONE = 0.25;
/** What is missing, where ink is wanted, is looked round so far, mm (a standard deviation). */
const CLEAR_MM = 0.4;
/** A smear shorter than this cannot be told from the lens. */
const LEAST_MM = 0.12;

/**
 * How far the picture's edges are widened beyond the camera's own blur, and which way. `camera`: the spread of edges on
 * the card's own markers, measured the same way, so that what the lens, the tilt and the phone's sharpening do to both
 * cancels. An even smear of length s has variance s²/12 along it. Nothing where too little landed to tell.
 */
export function smearOf(
  cv: Cv,
  seen: readonly [Plane, Plane, Plane],
  reference: Reference,
  ground: Ground,
  sorted: Sorted,
  camera: Spread,
): Smear | null {
  const { w, h } = sorted;
  const sums = tally(sorted);
  if (sums.bare > MOST_GONE * sums.visible) return null;
  const c = clearest(reference, ground);
  const plain = { ...sorted.ink, gain: 0 };
  const sharp = { ...reference.rgb[c], data: reference.rgb[c].data.map(r => leftOf(plain, 1 - r, 0)) };
  const ink = underLens(cv, sharp, camera).data.map((part, i) => part * ground.base[c][i]);
  const gone = new Float32Array(
    maskOf(sorted.bare.length, i => sorted.bare[i] || (sorted.inked[i] && !sorted.visible[i])),
  );
  const near = blurPlane(cv, { w, h, data: gone }, CLEAR_MM * SORT_PX).data;
  const open = sorted.veil.map((v, i) => (near[i] > 0.02 ? 0 : 1 - v));
  const found = drawnOut(cv, { light: seen[c], soft: { w, h, data: ink }, open });
  if (!found) return null;
  const give = Math.hypot(found.give, camera.give);
  const lengthOf = (variance: number) => Math.sqrt(12 * variance) / SORT_PX;
  const isSure = found.variance >= SURELY * give;
  if (!isSure && lengthOf(found.variance + NINETY_FIVE * give) > MOST_BLIND_MM) return null;
  const smear = isSure ? lengthOf(found.variance) : 0;
  return { smear: smear < LEAST_MM ? 0 : smear, along: ((found.turn * 180) / Math.PI) % 180 };
}

/** The channel in which the picture's contrast stands out most from the ground's grain. */
function clearest(reference: Reference, ground: Pick<Ground, 'base' | 'grain'>): number {
  const n = reference.light.data.length;
  const m = ground.base[0].length;
  const scores = [0, 1, 2].map(c => {
    let [sum, squares, base] = [0, 0, 0];
    for (let i = 0; i < n; i += 7) {
      const r = reference.rgb[c].data[i];
      sum += r;
      squares += r * r;
    }
    for (let i = 0; i < m; i += 7) base += ground.base[c][i];
    const count = Math.ceil(n / 7);
    const contrast = squares / count - (sum / count) ** 2;
    return (contrast * (base / Math.ceil(m / 7)) ** 2) / (ground.grain[c] + LEAST_GRAIN);
  });
  return scores.indexOf(Math.max(...scores));
}
const LEAST_GRAIN = 1e-4;
