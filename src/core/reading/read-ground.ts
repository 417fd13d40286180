import { bad, good, type Outcome } from '../outcome/index.ts';
import type { Card } from '../print/index.ts';
import type { Cv, Pixels } from './cv.ts';
import { upright } from './gates.ts';
import { CLEAR_OF_CARD_MM, type Three } from './ground.ts';
import { PX } from './px.ts';
import { share } from './window.ts';

/** A bare ground's colour: linear-light RGB with the card's paper as white, and its scatter (standard deviation of luminance). */
export interface GroundColour {
  readonly colour: Three;
  readonly scatter: number;
}

/**
 * The colour of a bare ground photographed through the card's window: the median of each channel.
 * Returns the reason when the photo cannot be trusted.
 */
export function readGround(cv: Cv, photo: Pixels, card: Card): Outcome<GroundColour> {
  const looked = upright(cv, photo, card);
  if (!looked.ok) return looked;
  const { window } = looked.value;
  if (share(window.clipped) > 0.05)
    return bad(
      'glare',
      'There is glare on the ground.',
      'Move the lamp or turn the piece until nothing shines.',
    );
  const rim = Math.round(CLEAR_OF_CARD_MM * 1.5 * PX);
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
