import { toSrgb } from '../colour/index.ts';
import type { Pixels } from '../reading/index.ts';
import { linearOf } from './lab.ts';

/** How the ground looks at a place in mm, linear light. */
export type GroundLook = (xMm: number, yMm: number) => readonly [number, number, number];

export interface LookOptions {
  readonly ground: GroundLook;
  readonly widthMm: number;
  /** A sheet with a white layer of its own (iron-on for dark goods): the ground does not shine through. */
  readonly opaque?: boolean;
  /** Expected veil of paper left behind, 0–1. */
  readonly veil?: number;
  /** Shares (0–1) that will not land: even on a good day, and on a bad one. Where it lies is made up. */
  readonly loss?: { readonly least: number; readonly most: number };
}

const toByte = (v: number) => Math.round(toSrgb(v) * 255);

/**
 * A picture as it will look on a ground: ink only darkens, so each colour is multiplied over the ground and white
 * becomes the ground, S = (1 − h)·R·B + h·white (docs/READINGS.md). What is lost even on a good day shows the ground;
 * what is lost on a bad day only is faint.
 */
export function lookOn(picture: Pixels, options: LookOptions): Pixels {
  const { w, h, data } = picture;
  const out = new Uint8ClampedArray(w * h * 4);
  const veil = options.veil ?? 0;
  const mm = options.widthMm / w;
  const lost = options.loss ? lossMap(w, h, mm, options.loss) : undefined;
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = (y * w + x) * 4;
      const base = options.opaque ? ([0.9, 0.9, 0.9] as const) : options.ground(x * mm, y * mm);
      // Paper white carries nothing that could be lost.
      const paper = (linearOf(data[i]) + linearOf(data[i + 1]) + linearOf(data[i + 2])) / 3;
      const here = lost ? lost[y * w + x] * Math.min(1, (1 - paper) / 0.4) : 0;
      for (let c = 0; c < 3; c++) {
        const landed = (1 - veil) * linearOf(data[i + c]) * base[c] + veil * 0.9;
        out[i + c] = toByte(landed + here * (base[c] - landed));
      }
      out[i + 3] = 255;
    }
  return { w, h, data: out };
}

const PATCH_MM = 3;
const FAINT = 0.45;

/** How much is lost at each pixel: 1, faint or 0, in soft blots some millimetres wide whose shares are those asked for. */
function lossMap(w: number, h: number, mm: number, loss: { least: number; most: number }): Float32Array {
  const field = new Float32Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++)
      field[y * w + x] =
        blot((x * mm) / PATCH_MM, (y * mm) / PATCH_MM) + 0.5 * blot((x * mm) / 0.9 + 71, (y * mm) / 0.9 + 13);
  const sorted = field.slice().sort();
  const below = (share: number) =>
    share <= 0
      ? Number.NEGATIVE_INFINITY
      : sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))];
  const [least, most] = [below(loss.least), below(Math.max(loss.least, loss.most))];
  return field.map(v => (v < least ? 1 : v < most ? FAINT : 0));
}

/** Smooth noise of unit scale: random values at whole numbers, blended between (value noise). */
function blot(x: number, y: number): number {
  const [ix, iy] = [Math.floor(x), Math.floor(y)];
  const ease = (t: number) => t * t * (3 - 2 * t);
  const [fx, fy] = [ease(x - ix), ease(y - iy)];
  const row = (j: number) => at(ix, j) + fx * (at(ix + 1, j) - at(ix, j));
  return row(iy) + fy * (row(iy + 1) - row(iy));
}

function at(x: number, y: number): number {
  let n = Math.imul(x, 374761393) + Math.imul(y, 668265263);
  n = Math.imul(n ^ (n >>> 13), 1274126177);
  return ((n ^ (n >>> 16)) >>> 0) / 2 ** 32;
}
