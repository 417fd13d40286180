import type { Pixels } from '../reading/index.ts';
import { linearOf } from './lab.ts';

/** How the ground looks at a place in mm, linear light. */
export type GroundLook = (xMm: number, yMm: number) => readonly [number, number, number];

export interface LookOptions {
  readonly ground: GroundLook;
  readonly widthMm: number;
  /** A sheet with a white layer of its own (iron-on for dark goods): the ground does not shine through. */
  readonly opaque?: boolean;
  /** Expected veil of paper left behind, 0–1, and share that will not land, 0–1. */
  readonly veil?: number;
}

const toByte = (v: number) =>
  Math.round((v <= 0.0031308 ? 12.92 * v : 1.055 * Math.min(1, v) ** (1 / 2.4) - 0.055) * 255);

/**
 * A picture as it will look on a ground: ink only darkens, so each colour is multiplied over the ground and white
 * becomes the ground, S = (1 − h)·R·B + h·white (READINGS.md).
 */
export function lookOn(picture: Pixels, options: LookOptions): Pixels {
  const { w, h, data } = picture;
  const out = new Uint8ClampedArray(w * h * 4);
  const veil = options.veil ?? 0;
  const mm = options.widthMm / w;
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = (y * w + x) * 4;
      const base = options.opaque ? ([0.9, 0.9, 0.9] as const) : options.ground(x * mm, y * mm);
      for (let c = 0; c < 3; c++)
        out[i + c] = toByte((1 - veil) * linearOf(data[i + c]) * base[c] + veil * 0.9);
      out[i + 3] = 255;
    }
  return { w, h, data: out };
}
