import { Matrix, solve } from 'ml-matrix';
import { blurPlane, type Cv, type Plane } from './cv.ts';
import { clearOfInk, type Frame, MARGIN, within } from './frame.ts';
import { middle } from './middle.ts';
import { SORT_PX } from './px.ts';
import type { Reference } from './reference.ts';
import type { Cutout } from './window.ts';

export type Three = readonly [number, number, number];
/** Covariance of three channels: rr, gg, bb, rg, rb, gb. */
export type Cov = readonly [number, number, number, number, number, number];

/** What the bare ground looks like under the picture, as far as it can be told from what is seen of it. */
export interface Ground {
  /** Its colour at every pixel of the picture. */
  readonly base: readonly [Float32Array, Float32Array, Float32Array];
  /** Covariance of the grain about that colour. */
  readonly grain: Cov;
  /** Covariance of what changes over longer ways (knots, clouds, rings), where none of the ground is seen near by. */
  readonly wide: Cov;
  /** 0 where the ground is seen near by, 1 where nothing of it is. */
  readonly unsure: Float32Array;
  /** How many pixels of ground this rests on. */
  readonly pixels: number;
  /** By how much of its light the ground is darker under the picture than round it: damp, or soaked with medium. */
  readonly darker: number;
}

const CLEAR_OF_PICTURE_MM = 0.6;
export const CLEAR_OF_CARD_MM = 0.8;
/** Over what distance the ground's colour is taken from what is seen of it, mm, and how soon the plane through all of it is trusted more. */
const NEAR_MM = 2.2;
const TRUST_PLANE = 0.03;
const LEAST_PIXELS = 200;
/** So many pixels tell a plane as well as all do. */
const MOST_ASKED = 1500;
/** Toner-free parts of the picture under more paper than this say nothing of the ground. */
const MOST_HAZE = 0.06;

/**
 * The ground from the strip round the picture and from the picture's own toner-free parts where no paper lies on them;
 * nothing where too little of it can be seen. `blank`: a photo of the bare ground, which then gives the plane.
 */
export function groundOf(cv: Cv, frame: Frame, reference: Reference, blank?: Cutout): Ground | undefined {
  const { w, h } = frame;
  const clear = clearOfInk(cv, reference, CLEAR_OF_PICTURE_MM);
  const rim = blurPlane(cv, { w, h, data: frame.valid }, (CLEAR_OF_CARD_MM * SORT_PX) / 2).data;
  const ring = new Uint8Array(w * h);
  const inner = new Uint8Array(w * h);
  const gap = CLEAR_OF_PICTURE_MM * SORT_PX;
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = y * w + x;
      if (rim[i] < 0.985) continue;
      const out = x < MARGIN - gap || y < MARGIN - gap || x >= w - MARGIN + gap || y >= h - MARGIN + gap;
      if (out) ring[i] = 1;
      else if (clear[i]) inner[i] = 1;
    }
  const seen = frame.seen.map(p => p.data) as unknown as Ground['base'];
  const first = blank ? planeOfBlank(blank) : planeThrough(seen, ring, w);
  if (!first) return undefined;
  const haze = hazeOver(seen, inner, first, w);
  const isPlain = haze !== undefined && Math.abs(haze.white) <= MOST_HAZE;
  const known = isPlain ? (ring.map((v, i) => v | inner[i]) as Uint8Array<ArrayBuffer>) : ring;
  const plane = blank ? first : (planeThrough(seen, known, w) ?? first);
  return { ...local(cv, frame, seen, known, plane), darker: Math.max(0, haze?.darker ?? 0) };
}

/** A colour that changes in a straight line over the picture. */
type Planes = readonly [readonly number[], readonly number[], readonly number[]];
const onPlane = (p: readonly number[], x: number, y: number) => Math.max(0.005, p[0] + p[1] * x + p[2] * y);

function planeThrough(seen: Ground['base'], where: Uint8Array, w: number): Planes | undefined {
  const at: number[] = [];
  for (let i = 0; i < where.length; i++) if (where[i]) at.push(i);
  if (at.length < LEAST_PIXELS) return undefined;
  const step = Math.max(1, Math.floor(at.length / MOST_ASKED));
  let kept = at.filter((_, k) => k % step === 0);
  let planes: number[][] = [];
  for (let pass = 0; pass < 3; pass++) {
    planes = planesOf(seen, kept, w);
    const off = kept.map(i => Math.abs(seen[1][i] - onPlane(planes[1], i % w, Math.floor(i / w))));
    const limit = 3.5 * 1.48 * middle(off) + 0.01;
    kept = kept.filter((_, k) => off[k] < limit);
  }
  return planes as unknown as Planes;
}

/** Plane through the colours of these pixels in each channel, by least squares. */
function planesOf(seen: Ground['base'], kept: readonly number[], w: number): number[][] {
  const sums = [0, 0, 0, 0, 0, 0];
  const right = [0, 1, 2].map(() => [0, 0, 0]);
  for (const i of kept) {
    const x = i % w;
    const y = Math.floor(i / w);
    sums[0] += 1;
    sums[1] += x;
    sums[2] += y;
    sums[3] += x * x;
    sums[4] += x * y;
    sums[5] += y * y;
    for (let c = 0; c < 3; c++) {
      const v = seen[c][i];
      right[c][0] += v;
      right[c][1] += v * x;
      right[c][2] += v * y;
    }
  }
  const [n, x, y, xx, xy, yy] = sums;
  const normal = new Matrix([
    [n, x, y],
    [x, xx, xy],
    [y, xy, yy],
  ]);
  return right.map(b => solve(normal, Matrix.columnVector(b)).to1DArray());
}

function planeOfBlank({ rgb, clipped }: Cutout): Planes | undefined {
  const { w, h } = rgb[0];
  const rim = CLEAR_OF_CARD_MM * SORT_PX;
  const where = clipped.map((shines, i) => {
    const [x, y] = [i % w, Math.floor(i / w)];
    return !shines && x > rim && y > rim && x < w - rim && y < h - rim ? 1 : 0;
  });
  const planes = planeThrough(rgb.map(p => p.data) as unknown as Ground['base'], where, w);
  // The blank's own window, centred, against the frame: only its mean is carried over, its slope with it.
  return planes;
}

/**
 * What lies on the toner-free parts, against the ground round the picture: white, as a share on the way to paper; and
 * the light that is missing in the channel that misses least, as water takes it from all alike. Middle values; nothing
 * where there is too little to tell.
 */
function hazeOver(seen: Ground['base'], inner: Uint8Array, planes: Planes, w: number) {
  const haze: number[] = [];
  const missing: number[] = [];
  for (let i = 0; i < inner.length; i++) {
    if (!inner[i]) continue;
    let up = 0;
    let down = 0;
    let least = 1;
    for (let c = 0; c < 3; c++) {
      const base = onPlane(planes[c], i % w, Math.floor(i / w));
      least = Math.min(least, 1 - seen[c][i] / base);
      up += (seen[c][i] - base) * (1 - base);
      down += (1 - base) ** 2;
    }
    haze.push(up / Math.max(0.01, down));
    missing.push(least);
  }
  return haze.length < 100 ? undefined : { white: middle(haze), darker: middle(missing) };
}

function local(
  cv: Cv,
  frame: Frame,
  seen: Ground['base'],
  known: Uint8Array,
  planes: Planes,
): Omit<Ground, 'darker'> {
  const { w, h } = frame;
  const plane = (data: Float32Array): Plane => ({ w, h, data });
  const weight = new Float32Array(known);
  const reach = NEAR_MM * SORT_PX;
  const down = blurPlane(cv, plane(weight), reach).data;
  const far = planes.map(p => {
    const data = new Float32Array(w * h);
    for (let y = 0; y < h; y++) for (let x = 0; x < w; x++) data[y * w + x] = onPlane(p, x, y);
    return data;
  });
  const full = seen.map((data, c) => {
    const off = new Float32Array(w * h);
    for (let i = 0; i < off.length; i++) if (known[i]) off[i] = data[i] - far[c][i];
    const up = blurPlane(cv, plane(off), reach).data;
    for (let i = 0; i < off.length; i++) up[i] = Math.max(0.005, far[c][i] + up[i] / (down[i] + TRUST_PLANE));
    return up;
  });
  let pixels = 0;
  for (let i = 0; i < known.length; i++) pixels += known[i];
  /** Mean over what is known of the product of what two channels are off by. */
  const together = (of: readonly Float32Array[], from: readonly Float32Array[]) =>
    PAIRS.map(([p, q]) => {
      let sum = 0;
      for (let i = 0; i < known.length; i++)
        if (known[i]) sum += (of[p][i] - from[p][i]) * (of[q][i] - from[q][i]);
      return sum / Math.max(1, pixels);
    }) as unknown as Cov;
  const cut = (data: Float32Array) => within(plane(data)).data;
  return {
    base: full.map(cut) as unknown as Ground['base'],
    grain: together(seen, full),
    wide: together(full, far),
    unsure: cut(down.map(v => TRUST_PLANE / (v + TRUST_PLANE))),
    pixels,
  };
}

const PAIRS = [
  [0, 0],
  [1, 1],
  [2, 2],
  [0, 1],
  [0, 2],
  [1, 2],
] as const;
