import type { Card } from '../print/index.ts';
import type { Plane } from './cv.ts';
import { PX, type Straight } from './straighten.ts';

/** What lies in the card's window, balanced, in linear light; and where it shines. */
export interface Window {
  readonly rgb: readonly [Plane, Plane, Plane];
  readonly clipped: Uint8Array;
}

/** Nothing matt is this much brighter than the card's own white paper. */
const SHINES_ABOVE = 1.12;

/** Cuts the window out of the straightened card. */
export function cutWindow(flat: Straight, card: Card): Window {
  const side = Math.round(card.window.w * PX);
  const tall = Math.round(card.window.h * PX);
  const left = Math.round(card.window.x * PX);
  const top = Math.round(card.window.y * PX);
  const planes = [0, 1, 2].map(() => new Float32Array(side * tall));
  const clipped = new Uint8Array(side * tall);
  for (let y = 0; y < tall; y++)
    for (let x = 0; x < side; x++) {
      const from = (y + top) * flat.w + x + left;
      for (let c = 0; c < 3; c++) planes[c][y * side + x] = flat.rgb[from * 3 + c];
      const shines =
        Math.min(flat.rgb[from * 3], flat.rgb[from * 3 + 1], flat.rgb[from * 3 + 2]) > SHINES_ABOVE;
      clipped[y * side + x] = flat.clipped[from] || shines ? 1 : 0;
    }
  return { rgb: planes.map(data => ({ w: side, h: tall, data })) as unknown as Window['rgb'], clipped };
}

/** Share of flags that are set, 0–1. */
export const share = (flags: Uint8Array) => flags.reduce((sum, v) => sum + v, 0) / flags.length;
