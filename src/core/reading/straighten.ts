import { Matrix, solve } from 'ml-matrix';
import { toLinear } from '../colour/index.ts';
import { bad, good, type Outcome } from '../outcome/index.ts';
import type { Card } from '../print/index.ts';
import { type Cv, type Pixels, scoped } from './cv.ts';
import type { CardPlace } from './find-card.ts';

/** The card seen from straight above, in linear light, paper white = 1 everywhere. */
export interface Straight {
  readonly w: number;
  readonly h: number;
  readonly pxPerMm: number;
  /** RGB, 3 floats a pixel. */
  readonly rgb: Float32Array;
  /** 1 where the photo's own pixel was clipped. */
  readonly clipped: Uint8Array;
  /** Standard deviation of camera noise on paper white, relative to white. */
  readonly noise: number;
  /** Standard deviation of the camera's blur, mm. */
  readonly blurMm: number;
  /** How evenly the card was lit: darkest over brightest part, 0–1. */
  readonly light: number;
}

/** Working resolution, px/mm. */
export const PX = 10;
const OVER = 2;
const LINEAR = Float32Array.from({ length: 256 }, (_, i) => toLinear(i / 255));

/**
 * Warps the card upright at {@link PX} px/mm, evens out the light and the white balance on its bare
 * paper (log-quadratic surface per channel, robust fit) and its tone on the grey ramps.
 * Refuses photos that are too dark, overexposed, or blurred.
 */
export function straighten(cv: Cv, photo: Pixels, card: Card, place: CardPlace): Outcome<Straight> {
  const w = Math.round(card.page.w * PX);
  const h = Math.round(card.page.h * PX);
  const { rgb, clipped } = warp(cv, photo, place, w, h);
  const blurMm = edgeBlur(rgb, w, h, card);
  const whites = samples(rgb, w, card.whites, 2);
  if (whites.length < 20)
    return bad('no-white', 'The card’s white paper cannot be seen.', 'Take the whole card into the picture.');
  const brightest = Math.max(...whites.map(s => Math.max(...s.rgb)));
  if (brightest < 0.05)
    return bad(
      'too-dark',
      'This photo is too dark to be measured.',
      'Take it again in brighter, even light.',
    );
  const burnt = share(clipped, w, card.whites);
  if (burnt > 0.3)
    return bad(
      'overexposed',
      'The white paper is overexposed.',
      'Take it again a little darker, or out of direct sun.',
    );

  const surfaces = [0, 1, 2].map(c =>
    fitLight(
      whites.map(s => ({ x: s.x, y: s.y, value: s.rgb[c] })),
      card.page.w,
      card.page.w * PX,
    ),
  );
  let lo = Number.POSITIVE_INFINITY;
  let hi = 0;
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++)
      for (let c = 0; c < 3; c++) {
        const lit = surfaces[c](x, y);
        if (c === 1) {
          lo = Math.min(lo, lit);
          hi = Math.max(hi, lit);
        }
        rgb[(y * w + x) * 3 + c] /= lit;
      }
  fitTone(rgb, w, card);
  return good({ w, h, pxPerMm: PX, rgb, clipped, noise: noiseOf(rgb, w, card), blurMm, light: lo / hi });
}

function warp(cv: Cv, photo: Pixels, place: CardPlace, w: number, h: number) {
  return scoped(keep => {
    const rgba = keep(cv.matFromImageData({ width: photo.w, height: photo.h, data: photo.data } as never));
    const soften = place.pxPerMm / (PX * OVER);
    if (soften > 1.2)
      cv.GaussianBlur(rgba, rgba, new cv.Size(0, 0), soften * 0.45, soften * 0.45, cv.BORDER_REPLICATE);
    const scale = PX * OVER;
    // Output pixel centre → card mm → photo pixel centre.
    const H = place.homography;
    const shift = 0.5 / scale;
    const m = [
      H[0] / scale,
      H[1] / scale,
      H[0] * shift + H[1] * shift + H[2],
      H[3] / scale,
      H[4] / scale,
      H[3] * shift + H[4] * shift + H[5],
      H[6] / scale,
      H[7] / scale,
      H[6] * shift + H[7] * shift + H[8],
    ];
    const matrix = keep(cv.matFromArray(3, 3, cv.CV_64F, m));
    const flat = keep(new cv.Mat());
    cv.warpPerspective(
      rgba,
      flat,
      matrix,
      new cv.Size(w * OVER, h * OVER),
      cv.INTER_LINEAR | cv.WARP_INVERSE_MAP,
      cv.BORDER_CONSTANT,
      new cv.Scalar(0, 0, 0, 255),
    );
    const rgb = new Float32Array(w * h * 3);
    const clipped = new Uint8Array(w * h);
    const bytes = flat.data;
    const row = w * OVER * 4;
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++) {
        let burnt = 0;
        for (let s = 0; s < OVER * OVER; s++) {
          const i = (y * OVER + (s >> 1)) * row + (x * OVER + (s & 1)) * 4;
          for (let c = 0; c < 3; c++) rgb[(y * w + x) * 3 + c] += LINEAR[bytes[i + c]] / (OVER * OVER);
          if (bytes[i] > 252 && bytes[i + 1] > 252 && bytes[i + 2] > 252) burnt++;
        }
        clipped[y * w + x] = burnt > 1 ? 1 : 0;
      }
    return { rgb, clipped };
  });
}

interface Box {
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly h: number;
}

/** Medians of cells of `cell` mm over rectangles given in mm. */
function samples(rgb: Float32Array, w: number, boxes: readonly Box[], cell: number) {
  return boxes.flatMap(box => {
    const out: { x: number; y: number; rgb: [number, number, number] }[] = [];
    for (let y = box.y; y + cell <= box.y + box.h + 1e-6; y += cell)
      for (let x = box.x; x + cell <= box.x + box.w + 1e-6; x += cell)
        out.push({
          x: x + cell / 2,
          y: y + cell / 2,
          rgb: medianOf(rgb, w, { x: x + 0.2, y: y + 0.2, w: cell - 0.4, h: cell - 0.4 }),
        });
    return out;
  });
}

function medianOf(rgb: Float32Array, w: number, box: Box): [number, number, number] {
  const lists: number[][] = [[], [], []];
  for (let y = Math.round(box.y * PX); y < (box.y + box.h) * PX; y++)
    for (let x = Math.round(box.x * PX); x < (box.x + box.w) * PX; x++)
      for (let c = 0; c < 3; c++) lists[c].push(rgb[(y * w + x) * 3 + c]);
  return lists.map(list => list.sort((a, b) => a - b)[list.length >> 1]) as [number, number, number];
}

function share(flags: Uint8Array, w: number, boxes: readonly Box[]): number {
  let set = 0;
  let all = 0;
  for (const box of boxes)
    for (let y = Math.round(box.y * PX); y < (box.y + box.h) * PX; y++)
      for (let x = Math.round(box.x * PX); x < (box.x + box.w) * PX; x++) {
        all++;
        set += flags[y * w + x];
      }
  return set / all;
}

/** Least squares of log value on 1, x, y, x², xy, y², refitted twice without outliers. */
function fitLight(points: readonly { x: number; y: number; value: number }[], size: number, pixels: number) {
  const terms = (x: number, y: number) => {
    const u = x / size - 0.5;
    const v = y / size - 0.5;
    return [1, u, v, u * u, u * v, v * v];
  };
  let kept = points.filter(p => p.value > 1e-4);
  let beta: number[] = [];
  for (let pass = 0; pass < 3; pass++) {
    const X = new Matrix(kept.map(p => terms(p.x, p.y)));
    const y = Matrix.columnVector(kept.map(p => Math.log(p.value)));
    beta = solve(X.transpose().mmul(X), X.transpose().mmul(y)).to1DArray();
    const residuals = kept.map(p => Math.log(p.value) - dot(beta, terms(p.x, p.y)));
    const spread = Math.max(
      0.01,
      residuals.map(Math.abs).sort((a, b) => a - b)[residuals.length >> 1] * 1.48,
    );
    const next = kept.filter((_, i) => Math.abs(residuals[i]) < 3 * spread);
    if (next.length < 12) break;
    kept = next;
  }
  const [b0, b1, b2, b3, b4, b5] = beta;
  /** The light at a pixel of the straightened card. */
  return (px: number, py: number) => {
    const u = (px + 0.5) / pixels - 0.5;
    const v = (py + 0.5) / pixels - 0.5;
    return Math.exp(b0 + b1 * u + b2 * v + b3 * u * u + b4 * u * v + b5 * v * v);
  };
}

const dot = (a: readonly number[], b: readonly number[]) => a.reduce((sum, v, i) => sum + v * b[i], 0);

/**
 * The camera's own tone curve, from the two grey ramps: flare (light on the black patch) is taken
 * off, and a power is fitted through the middle greys. Corrections within the noise are left out.
 */
function fitTone(rgb: Float32Array, w: number, card: Card) {
  const steps = card.greys.map(g => {
    const seen = medianOf(rgb, w, { x: g.x + 1, y: g.y + 1.5, w: g.w - 2, h: g.h - 3 });
    return { seen: (seen[0] + seen[1] + seen[2]) / 3, sent: toLinear(g.value / 255) };
  });
  const blacks = steps.filter(s => s.sent < 0.001).map(s => s.seen);
  const flare = Math.max(
    0,
    Math.min(0.2, blacks.length ? blacks.reduce((a, b) => a + b, 0) / blacks.length : 0),
  );
  const middles = steps.filter(s => s.sent > 0.05 && s.sent < 0.85 && s.seen > flare + 0.01);
  const slope = middles
    .map(s => Math.log(s.sent) / Math.log((s.seen - flare) / (1 - flare)))
    .sort((a, b) => a - b);
  const power = slope.length ? Math.min(1.5, Math.max(0.67, slope[slope.length >> 1])) : 1;
  const usePower = Math.abs(power - 1) > 0.04;
  if (flare < 0.004 && !usePower) return;
  for (let i = 0; i < rgb.length; i++) {
    const v = Math.max(0, (rgb[i] - flare) / (1 - flare));
    rgb[i] = usePower ? v ** power : v;
  }
}

/** Noise on white paper: median absolute difference of neighbours, as a standard deviation. */
function noiseOf(rgb: Float32Array, w: number, card: Card): number {
  const box = card.whites[0];
  const differences: number[] = [];
  for (let y = Math.round(box.y * PX) + 2; y < (box.y + box.h) * PX - 2; y++)
    for (let x = Math.round(box.x * PX) + 2; x < (box.x + box.w) * PX - 4; x += 2)
      differences.push(Math.abs(rgb[(y * w + x) * 3 + 1] - rgb[(y * w + x + 2) * 3 + 1]));
  differences.sort((a, b) => a - b);
  return Math.max(0.003, (differences[differences.length >> 1] / 0.6745 / Math.SQRT2) * 1.3);
}

/**
 * Blur as the second moment of the slope across the outer edges of the markers, mm, less the
 * width of the working pixel itself. Median over many edge profiles.
 */
function edgeBlur(rgb: Float32Array, w: number, h: number, card: Card): number {
  const widths: number[] = [];
  const at = (x: number, y: number) =>
    rgb[(Math.min(h - 1, Math.max(0, y)) * w + Math.min(w - 1, Math.max(0, x))) * 3 + 1];
  const reach = Math.round(1.2 * PX);
  for (const marker of card.markers)
    for (let t = 1.5; t < marker.size - 1; t += 0.7)
      for (const side of [0, 1, 2, 3]) {
        const along = side < 2;
        const edge =
          side % 2 === 0 ? (along ? marker.x : marker.y) : (along ? marker.x : marker.y) + marker.size;
        const fixed = Math.round(((along ? marker.y : marker.x) + t) * PX);
        const centre = Math.round(edge * PX);
        const profile = Array.from({ length: 2 * reach + 1 }, (_, i) => {
          const p = centre - reach + i;
          return along ? at(p, fixed) : at(fixed, p);
        });
        const width = profileWidth(side % 2 === 0 ? profile : profile.reverse());
        if (width !== undefined) widths.push(width);
      }
  if (!widths.length) return 1;
  widths.sort((a, b) => a - b);
  const sigmaPx = widths[widths.length >> 1];
  return Math.sqrt(Math.max(0, sigmaPx ** 2 - 1 / 12)) / PX;
}

/** Standard deviation (px) of a white-to-black step from its 16 % and 84 % crossings. */
function profileWidth(profile: readonly number[]): number | undefined {
  const white = (profile[0] + profile[1] + profile[2]) / 3;
  const black = (profile.at(-1)! + profile.at(-2)! + profile.at(-3)!) / 3;
  if (white - black < 0.1 * white || white <= 0) return undefined;
  const crossing = (level: number) => {
    const target = black + (white - black) * level;
    const i = profile.findIndex(v => v < target);
    return i <= 0 ? undefined : i - 1 + (profile[i - 1] - target) / (profile[i - 1] - profile[i]);
  };
  const a = crossing(0.8413);
  const b = crossing(0.1587);
  return a === undefined || b === undefined ? undefined : Math.max(0, (b - a) / 2);
}
