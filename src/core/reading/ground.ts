import { bad, good, type Outcome } from '../outcome/index.ts';
import type { Card } from '../print/index.ts';
import { type Ground, groundFrom } from './classify.ts';
import type { Cv, Pixels } from './cv.ts';
import { upright } from './gates.ts';
import { type Affine, inverse, move } from './register.ts';
import { PX } from './straighten.ts';
import { cutWindow, share, type Window } from './window.ts';

const CLEAR_OF_PICTURE_MM = 0.7;
const CLEAR_OF_CARD_MM = 0.6;

/** The ground from the strip of window round the picture, or from a whole blank window. */
export function groundOf(window: Window, warp: Affine | undefined, side: number): Ground | undefined {
  const back = warp ? inverse(warp) : undefined;
  const { w, h } = window.rgb[0];
  const points: { x: number; y: number; rgb: [number, number, number] }[] = [];
  const rim = CLEAR_OF_CARD_MM * PX;
  const clear = CLEAR_OF_PICTURE_MM * PX;
  const step = back ? 1 : 2;
  for (let y = rim; y < h - rim; y += step)
    for (let x = rim; x < w - rim; x += step) {
      const [u, v] = back ? move(back, x, y) : [x - (w - side) / 2, y - (h - side) / 2];
      if (back && u > -clear && v > -clear && u < side + clear && v < side + clear) continue;
      const i = Math.floor(y) * w + Math.floor(x);
      if (window.clipped[i]) continue;
      points.push({ x: u, y: v, rgb: [window.rgb[0].data[i], window.rgb[1].data[i], window.rgb[2].data[i]] });
    }
  return points.length < 400 ? undefined : groundFrom(points);
}

/** A bare ground's colour: linear-light RGB with the card's paper as white, and its scatter (standard deviation of luminance). */
export interface GroundColour {
  readonly colour: readonly [number, number, number];
  readonly scatter: number;
}

/**
 * The colour of a bare ground photographed through the card's window: the median of each channel.
 * Returns the reason when the photo cannot be trusted.
 */
export function readGround(cv: Cv, photo: Pixels, card: Card): Outcome<GroundColour> {
  const straight = upright(cv, photo, card);
  if (!straight.ok) return straight;
  const window = cutWindow(straight.value.card, card);
  if (share(window.clipped) > 0.05)
    return bad(
      'glare',
      'There is glare on the ground.',
      'Move the lamp or turn the piece until nothing shines.',
    );
  const rim = Math.round(CLEAR_OF_CARD_MM * 2 * PX);
  const { w, h } = window.rgb[0];
  const inside = window.rgb.map(plane => {
    const values: number[] = [];
    for (let y = rim; y < h - rim; y += 2)
      for (let x = rim; x < w - rim; x += 2) values.push(plane.data[y * w + x]);
    return Float32Array.from(values).sort();
  });
  const at = (values: Float32Array, q: number) => values[Math.floor(q * (values.length - 1))];
  const tidyShare = (v: number) => Math.min(1, Math.max(0, Math.round(v * 1e4) / 1e4));
  const [r, g, b] = inside.map(values => tidyShare(at(values, 0.5)));
  return good({ colour: [r, g, b], scatter: tidyShare((at(inside[1], 0.84) - at(inside[1], 0.16)) / 2) });
}
