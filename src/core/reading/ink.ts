import type { Plane } from './cv.ts';
import type { Ground } from './ground.ts';
import { middle as middleOf, quantile } from './middle.ts';

/**
 * How the ink of this photo lies over its ground: dots of coverage a = 1 − R over it, of a solid that lets `depth` of
 * the ground's light through (Murray and Davies 1936), each dot grown so that a becomes a + gain · 4a(1 − a).
 */
export interface Ink {
  readonly depth: number;
  readonly gain: number;
}

/** What is usual of a fair print, before this one is looked at. */
export const USUAL_INK: Ink = { depth: 0.03, gain: 0.03 };

/** Share of the ground's light that is left where the picture's coverage is `a` and its 4a(1 − a) is `q`. */
export const leftOf = (ink: Ink, a: number, q: number): number =>
  1 - Math.min(1, Math.max(0, a + ink.gain * q)) * (1 - ink.depth);

/** A small even piece of the picture, as means over its pixels. */
export interface Cell {
  /** Pixel in its middle. */
  readonly at: number;
  /** Coverage in each channel, and over all of them. */
  readonly a: readonly [number, number, number];
  readonly cover: number;
  readonly seen: readonly [number, number, number];
  readonly base: readonly [number, number, number];
}

const CELL = 3;
/** Coverage within a cell differs by no more than this. */
const EVEN = 0.06;

/** The even cells of a picture, 0.6 mm wide. */
export function evenCells(
  seen: readonly [Plane, Plane, Plane],
  cover: readonly [Float32Array, Float32Array, Float32Array],
  base: Ground['base'],
): Cell[] {
  const { w, h } = seen[0];
  const cells: Cell[] = [];
  for (let y = 0; y + CELL <= h; y += CELL)
    for (let x = 0; x + CELL <= w; x += CELL) {
      if (!isEven(cover[1], w, h, x, y)) continue;
      const a = meansAt(cover, w, x, y);
      cells.push({
        at: (y + 1) * w + x + 1,
        a,
        cover: 0.2126 * a[0] + 0.7152 * a[1] + 0.0722 * a[2],
        seen: meansAt([seen[0].data, seen[1].data, seen[2].data], w, x, y),
        base: meansAt(base, w, x, y),
      });
    }
  return cells;
}

/** Whether coverage is even in the cell at (x, y) and a pixel round it. */
function isEven(cover: Float32Array, w: number, h: number, x: number, y: number): boolean {
  const first = cover[y * w + x];
  let lo = first;
  let hi = first;
  for (let v = Math.max(0, y - 1); v <= Math.min(h - 1, y + CELL); v++)
    for (let u = Math.max(0, x - 1); u <= Math.min(w - 1, x + CELL); u++) {
      const here = cover[v * w + u];
      if (here < lo) lo = here;
      else if (here > hi) hi = here;
      if (hi - lo > EVEN) return false;
    }
  return true;
}

/** Means over the cell at (x, y) in each channel. */
function meansAt(of: Ground['base'], w: number, x: number, y: number): [number, number, number] {
  const sums: [number, number, number] = [0, 0, 0];
  for (let v = y; v < y + CELL; v++)
    for (let i = v * w + x; i < v * w + x + CELL; i++) {
      sums[0] += of[0][i];
      sums[1] += of[1][i];
      sums[2] += of[2][i];
    }
  const count = CELL * CELL;
  return [sums[0] / count, sums[1] / count, sums[2] / count];
}

/** Coverage of a cell from which it counts as a solid. */
const SOLID = 0.75;
const DARKEST = 0.975;
const LEAST_CELLS = 30;
/** So many tell it as well as all do. */
const MOST_CELLS = 250;
const MOST_DEPTH = 0.45;
const DEPTH_STEP = 0.01;
/** Half a scatter of the depth of prints, of what white balance leaves unsure, and of how uneven residual paper is. */
const DEPTH_SPREAD = 0.09;
const COLOUR_ERROR = 0.012;
const PAPER_UNEVEN = 0.35;
const UNEVEN_SPREAD = 0.5;
/** How uneven light, noise and a print's own grain make a solid look. */
const LIGHT_UNEVEN = 0.008;
/** Veil below this has no texture to tell it by. */
const FAINT_VEIL = 0.03;

/**
 * How much of the ground shines through a solid. On a ground with a colour of its own, thin ink keeps that colour and
 * paper over it does not. On a white or grey ground the two look alike, but for one thing: ink is as deep here as
 * there, residual paper is fibres and is never even. The depth with the least against it is taken: colour that stays
 * unexplained, veil more even than paper is, and a depth that is unusual for a print.
 */
export function depthOf(cells: readonly Cell[]): number {
  // Where there are enough, only the darkest: dots that have grown make lighter tones look like less veil.
  const darkest = cells.filter(c => c.cover > DARKEST);
  const every = darkest.length < LEAST_CELLS ? cells.filter(c => c.cover > SOLID) : darkest;
  const step = Math.max(1, Math.floor(every.length / MOST_CELLS));
  const solids = every.filter((_, i) => i % step === 0);
  if (solids.length < LEAST_CELLS) return USUAL_INK.depth;
  let best = { depth: USUAL_INK.depth, against: Number.POSITIVE_INFINITY };
  const tryDepth = (depth: number) => {
    const fits = solids.map(cell => underPaper(cell, { depth, gain: 0 }));
    const veils = fits.map(f => f.h);
    const middle = middleOf(veils);
    const scatter = (quantile(veils, 0.84) - quantile(veils, 0.16)) / 2;
    const uneven = Math.sqrt(Math.max(0, scatter ** 2 - LIGHT_UNEVEN ** 2)) / Math.max(0.005, middle);
    const colour = [0, 1, 2].reduce((sum, c) => sum + middleOf(fits.map(f => f.off[c])) ** 2, 0);
    const isVeil = Math.min(1, Math.max(0, (middle - FAINT_VEIL / 2) / (FAINT_VEIL / 2)));
    const against =
      0.5 * (colour / COLOUR_ERROR ** 2 + (depth / DEPTH_SPREAD) ** 2 + (Math.min(0, middle) / 0.01) ** 2) +
      isVeil * 0.5 * (Math.log(Math.max(0.03, uneven) / PAPER_UNEVEN) / UNEVEN_SPREAD) ** 2;
    if (against < best.against) best = { depth, against };
  };
  for (let k = 0; k * 3 * DEPTH_STEP <= MOST_DEPTH; k++) tryDepth(k * 3 * DEPTH_STEP);
  const { depth: near } = best;
  for (const k of [-2, -1, 1, 2]) if (near + k * DEPTH_STEP >= 0) tryDepth(near + k * DEPTH_STEP);
  return best.depth;
}

/** Veil that explains a cell best under this ink, and what of its colour that leaves. */
export function underPaper(
  cell: Pick<Cell, 'a' | 'seen' | 'base'>,
  ink: Ink,
): { h: number; off: readonly [number, number, number] } {
  let up = 0;
  let down = 0;
  const inked = [0, 0, 0];
  for (let c = 0; c < 3; c++) {
    const a = cell.a[c];
    inked[c] = leftOf(ink, a, 4 * a * (1 - a)) * cell.base[c];
    up += (cell.seen[c] - inked[c]) * (1 - inked[c]);
    down += (1 - inked[c]) ** 2;
  }
  const h = up / Math.max(1e-6, down);
  const off = (c: number) => cell.seen[c] - inked[c] - h * (1 - inked[c]);
  return { h, off: [off(0), off(1), off(2)] };
}

/** Cells of the middle tones tell the gain; so many of them are worth as much as what is usual. */
const USUAL_COUNTS = 25;

/**
 * How much the dots have grown: from even cells of the middle tones that landed, under the veil that the map has there.
 */
export function gainOf(cells: readonly Cell[], depth: number, veil: Float32Array): number {
  const gains = cells
    .filter(c => c.cover > 0.2 && c.cover < 0.8)
    .map(cell => {
      const h = Math.min(0.9, veil[cell.at]);
      let seen = 0;
      let base = 0;
      for (let c = 0; c < 3; c++) {
        seen += (cell.seen[c] - h) / (1 - h);
        base += cell.base[c];
      }
      const a = (1 - seen / base) / (1 - depth);
      return (a - cell.cover) / (4 * cell.cover * (1 - cell.cover));
    });
  if (gains.length < 8) return USUAL_INK.gain;
  const middle = Math.min(0.3, Math.max(-0.15, middleOf(gains)));
  return (gains.length * middle + USUAL_COUNTS * USUAL_INK.gain) / (gains.length + USUAL_COUNTS);
}
