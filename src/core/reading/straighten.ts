import { toLinear } from '../colour/index.ts';
import { bad, good, type Outcome } from '../outcome/index.ts';
import { type Card, markerShapes, rasterise } from '../print/index.ts';
import { bytesOf, type Cv, type Pixels, type Plane } from './cv.ts';
import type { Box, CardPlace } from './find-card.ts';
import { halved } from './halved.ts';
import { type Light, lightFrom, type WhiteSample } from './light.ts';
import { middle, quantile, someOf } from './middle.ts';
import { PX } from './px.ts';
import { LEAST_SPREAD, type Spread, spreadOf, underLens } from './spread.ts';

/** A photo that is finer than it is sampled is made coarser first, and left so much finer at least. */
const ENOUGH_FINER = 1.1;
const LINEAR = Float32Array.from({ length: 256 }, (_, i) => toLinear(i / 255));

/** How a photo was lit and taken, learnt from the paper and the greys in it; what makes its colours comparable. */
export interface Lit {
  readonly light: Light;
  /** The camera's own tone in each channel, put right: balanced linear value → value. */
  readonly tone: readonly [Tone, Tone, Tone];
  /** Standard deviation of camera noise on paper white, relative to white. */
  readonly noise: number;
  /** Standard deviation of the camera's blur, mm. */
  readonly blurMm: number;
  /** The same looked at as edges of a picture are, in every direction: what smears are measured against. */
  readonly spread: Spread | undefined;
  /** How evenly it was lit: darkest over brightest part, 0–1. */
  readonly evenness: number;
  /** False where no greys were in sight: the camera's tone is then taken as it came. */
  readonly hasGreys: boolean;
}

/** A camera's tone put right: balanced linear value 0–{@link TONE_TO} → value, in equal steps. */
export type Tone = Float32Array;
const TONE_STEPS = 2048;
const TONE_TO = 1.6;
export const PLAIN_TONE: Tone = Float32Array.from(
  { length: TONE_STEPS + 1 },
  (_, i) => (i / TONE_STEPS) * TONE_TO,
);

/** A part of a photo seen from straight above at {@link PX} px/mm. */
export interface Region {
  readonly w: number;
  readonly h: number;
  /** RGB, 3 floats a pixel: linear light as the camera gave it. */
  readonly rgb: Float32Array;
  /** 1 where the photo's own pixel was clipped in all channels. */
  readonly clipped: Uint8Array;
  /** 1 where it was in any. */
  readonly saturated: Uint8Array;
  /** 1 where the place lies in the photo at all. */
  readonly inPhoto: Uint8Array;
}

/** Pixels of a region: from the first to before the last of each, every so many. */
interface Raster {
  readonly x0: number;
  readonly x1: number;
  readonly y0: number;
  readonly y1: number;
  readonly every: number;
}

/** Where a rectangle holds more pixels than this, every third of each row of three tells its colour. */
const MANY = 200;
/** All pixels of a rectangle (mm) in a region that begins at `origin`, or those that are enough to know its `colour`. */
const rasterOf = (box: Box, of: 'all' | 'colour', origin = { x: 0, y: 0 }): Raster => {
  const [x0, x1] = [box.x - origin.x, box.x + box.w - origin.x].map(v => Math.round(v * PX));
  const [y0, y1] = [box.y - origin.y, box.y + box.h - origin.y].map(v => Math.round(v * PX));
  return { x0, x1, y0, y1, every: of === 'colour' && (x1 - x0) * (y1 - y0) > MANY ? 3 : 1 };
};

/** The rectangle `box` (mm) of a plane seen from straight above; of it `only` these pixels where they are given. */
export function lookAt(
  photo: Pixels,
  place: Pick<CardPlace, 'homography' | 'pxPerMm'>,
  box: Box,
  only?: readonly Raster[],
): Region {
  const w = Math.round(box.w * PX);
  const h = Math.round(box.h * PX);
  const scale = PX;
  // Output pixel centre → mm → photo pixel centre.
  const H = place.homography;
  const [ox, oy] = [box.x + 0.5 / scale, box.y + 0.5 / scale];
  const m = [
    H[0] / scale,
    H[1] / scale,
    H[0] * ox + H[1] * oy + H[2],
    H[3] / scale,
    H[4] / scale,
    H[3] * ox + H[4] * oy + H[5],
    H[6] / scale,
    H[7] / scale,
    H[6] * ox + H[7] * oy + H[8],
  ];
  const at = (x: number, y: number) => {
    const d = m[6] * x + m[7] * y + m[8];
    return [(m[0] * x + m[1] * y + m[2]) / d, (m[3] * x + m[4] * y + m[5]) / d];
  };
  const soften = place.pxPerMm / scale;
  const rim = 4 + Math.ceil(3 * soften);
  const region: Region = {
    ...{ w, h, rgb: new Float32Array(w * h * 3) },
    clipped: new Uint8Array(w * h),
    saturated: new Uint8Array(w * h),
    inPhoto: new Uint8Array(w * h),
  };
  const by = Math.min(MOST_BY, Math.floor(soften / ENOUGH_FINER));
  for (const raster of only ?? [{ x0: 0, x1: w, y0: 0, y1: h, every: 1 }]) {
    const { x0, x1, y0, y1, every } = raster;
    const ends = [at(x0, y0), at(x1, y0), at(x1, y1), at(x0, y1)];
    const left = Math.max(0, Math.floor(Math.min(...ends.map(p => p[0]))) - rim);
    const top = Math.max(0, Math.floor(Math.min(...ends.map(p => p[1]))) - rim);
    const right = Math.min(photo.w, Math.ceil(Math.max(...ends.map(p => p[0]))) + rim);
    const bottom = Math.min(photo.h, Math.ceil(Math.max(...ends.map(p => p[1]))) + rim);
    if (right - left < 2 || bottom - top < 2) continue;
    if (by < 2 || every > 1) {
      sampled(photo, m, region, raster);
      continue;
    }
    // A photo much finer than it is sampled is first made coarser: what lies between samples would be left out.
    const placed = (v: number, i: number, first: number) =>
      (v - first * m[6 + (i % 3)]) / by + (0.5 / by - 0.5) * m[6 + (i % 3)];
    const matrix = m.map((v, i) => (i < 3 ? placed(v, i, left) : i < 6 ? placed(v, i, top) : v));
    sampled(coarser(photo, left, top, right, bottom, by), matrix, region, raster);
  }
  return region;
}

/** The middle colour of a rectangle (mm) of a plane; none where it lies outside the photo. */
export const colourAt = (photo: Pixels, place: CardPlace, box: Box): WhiteSample[] =>
  sample(lookAt(photo, place, box, [rasterOf(box, 'colour', box)]), box, box);

/**
 * Fills pixels of a region from a photo through the homography `m` (pixel of the region → photo pixel centre). Straight
 * lines are drawn between photo pixels in linear light, where light adds.
 */
function sampled(photo: Pixels, m: readonly number[], into: Region, raster: Raster): void {
  const { w, h, rgb, clipped, saturated, inPhoto } = into;
  const { w: wide, h: tall } = photo;
  const data = bytesOf(photo);
  const { every } = raster;
  const [x0, x1] = [Math.max(0, raster.x0), Math.min(w, raster.x1)];
  const [y0, y1] = [Math.max(0, raster.y0), Math.min(h, raster.y1)];
  const [m0, m1, m2, m3, m4, m5, m6, m7, m8] = m;
  const row = wide * 4;
  for (let y = y0; y < y1; y += every)
    for (let x = x0; x < x1; x += every) {
      const k = 1 / (m6 * x + m7 * y + m8);
      const u = (m0 * x + m1 * y + m2) * k;
      const v = (m3 * x + m4 * y + m5) * k;
      if (!(u >= 0 && v >= 0 && u < wide - 1 && v < tall - 1)) continue;
      const iu = u | 0;
      const iv = v | 0;
      const fx = u - iu;
      const fy = v - iv;
      const i = iv * row + iu * 4;
      const j = i + row;
      const d = fx * fy;
      const c = fy - d;
      const e = fx - d;
      const a = 1 - fx - c;
      const at = y * w + x;
      const to = at * 3;
      rgb[to] = a * LINEAR[data[i]] + e * LINEAR[data[i + 4]] + c * LINEAR[data[j]] + d * LINEAR[data[j + 4]];
      rgb[to + 1] =
        a * LINEAR[data[i + 1]] + e * LINEAR[data[i + 5]] + c * LINEAR[data[j + 1]] + d * LINEAR[data[j + 5]];
      rgb[to + 2] =
        a * LINEAR[data[i + 2]] + e * LINEAR[data[i + 6]] + c * LINEAR[data[j + 2]] + d * LINEAR[data[j + 6]];
      const n = (fy < 0.5 ? i : j) + (fx < 0.5 ? 0 : 4);
      const full = (data[n] > 252 ? 1 : 0) + (data[n + 1] > 252 ? 1 : 0) + (data[n + 2] > 252 ? 1 : 0);
      clipped[at] = full === 3 ? 1 : 0;
      saturated[at] = full > 0 ? 1 : 0;
      inPhoto[at] = 1;
    }
}

/** A part of a region: the rectangle `box`, mm from the region's own top left, whole tenths of a mm. */
export function partOf(region: Region, box: Box): Region {
  const [x0, y0, w, h] = [box.x, box.y, box.w, box.h].map(v => Math.round(v * PX));
  const cut = <T extends Uint8Array | Float32Array>(from: T, to: T, each: number): T => {
    for (let y = 0; y < h; y++) {
      const first = ((y0 + y) * region.w + x0) * each;
      to.set(from.subarray(first, first + w * each), y * w * each);
    }
    return to;
  };
  return {
    w,
    h,
    rgb: cut(region.rgb, new Float32Array(w * h * 3), 3),
    clipped: cut(region.clipped, new Uint8Array(w * h), 1),
    saturated: cut(region.saturated, new Uint8Array(w * h), 1),
    inPhoto: cut(region.inPhoto, new Uint8Array(w * h), 1),
  };
}

const EVEN_BYTES = 0xff00ff;
/** Sums of bytes are held two and two in a word: of so many by so many pixels at the most. */
const MOST_BY = 16;

/** A rectangle of a photo made coarser: each pixel the mean of `by` × `by`; what is left over at its end is left out. */
function coarser(
  photo: Pixels,
  left: number,
  top: number,
  right: number,
  bottom: number,
  by: number,
): Pixels {
  const [w, h] = [Math.floor((right - left) / by), Math.floor((bottom - top) / by)];
  const out = new Uint8Array(w * h * 4);
  const { buffer, byteOffset, byteLength } = byteOffsetIsWhole(photo.data);
  const words = new Int32Array(buffer, byteOffset, byteLength >> 2);
  const count = by * by;
  const half = count >> 1;
  const next = photo.w - by;
  for (let y = 0, at = 0; y < h; y++)
    for (let x = 0; x < w; x++, at += 4) {
      // Words have red lowest (little-endian, as all machines that run this). Red and blue in one sum, green in another.
      let even = 0;
      let odd = 0;
      let i = (top + y * by) * photo.w + left + x * by;
      for (let v = 0; v < by; v++, i += next)
        for (const end = i + by; i < end; i++) {
          const word = words[i];
          even += word & EVEN_BYTES;
          odd += (word >>> 8) & EVEN_BYTES;
        }
      out[at] = ((even & 0xffff) + half) / count;
      out[at + 1] = ((odd & 0xffff) + half) / count;
      out[at + 2] = ((even >>> 16) + half) / count;
    }
  return { w, h, data: out };
}

/** The same bytes where they can be taken four at a time. */
const byteOffsetIsWhole = (data: Pixels['data']) => (data.byteOffset % 4 ? Uint8Array.from(data) : data);

/** A region's colours made comparable: paper white = 1 under this light, the camera's tone put right. Three planes. */
export function balanced({ w, h, rgb }: Region, lit: Lit, box: Box): [Plane, Plane, Plane] {
  const plane = (c: number): Plane => {
    const data = new Float32Array(w * h);
    const tone = lit.tone[c];
    for (let y = 0; y < h; y++) {
      const down = box.y + (y + 0.5) / PX;
      let here = lit.light(c, box.x + 0.5 / PX, down);
      for (let x0 = 0; x0 < w; x0 += LIGHT_STEP) {
        const next = lit.light(c, box.x + (x0 + LIGHT_STEP + 0.5) / PX, down);
        const slope = (next - here) / LIGHT_STEP;
        const first = y * w + x0;
        const last = first + Math.min(LIGHT_STEP, w - x0);
        for (let i = first, light = here; i < last; i++, light += slope)
          data[i] = toned(tone, rgb[i * 3 + c] / light);
        here = next;
      }
    }
    return { w, h, data };
  };
  return [plane(0), plane(1), plane(2)];
}
/** The light changes slowly: it is worked out every so many pixels of a row, and in between drawn straight. */
const LIGHT_STEP = 8;

/** A balanced value with the camera's own tone put right. */
export function toned(tone: Tone, value: number): number {
  const at = value * (TONE_STEPS / TONE_TO);
  if (at <= 0) return tone[0];
  if (at >= TONE_STEPS) return value;
  const i = at | 0;
  return tone[i] + (at - i) * (tone[i + 1] - tone[i]);
}

const WHITE_CELL_MM = 3;

/** The card's page seen from above, where anything is asked of it: its window, markers, white paper and greys. */
export function pageOf(photo: Pixels, place: CardPlace, card: Card): Region {
  const rim = Math.max(ROUND_MARKER_MM, ROUND_EDGE_MM);
  return lookAt(photo, place, { x: 0, y: 0, ...card.page }, [
    rasterOf(card.window, 'all'),
    rasterOf(card.whites[0], 'all'),
    ...card.markers.map(m => rasterOf(grown({ ...m, w: m.size, h: m.size }, rim + 1 / PX), 'all')),
    ...[...whiteCells(card), ...card.greys.map(withinGrey)].map(box => rasterOf(box, 'colour')),
  ]);
}

/** The inside of a grey step. */
const withinGrey = (g: Box): Box => ({ x: g.x + 1, y: g.y + 1.5, w: g.w - 2, h: g.h - 3 });

/**
 * What the card, its page seen from above, tells of the light, the camera's tone, noise and blur. Refuses photos
 * that are too dark, overexposed, or show no paper.
 */
export function litBy(cv: Cv, seen: Region, card: Card): Outcome<Lit> {
  const cells = whiteCells(card);
  const whites = cells.flatMap(box => sample(seen, box));
  if (whites.length < 20)
    return bad('no-white', 'The card’s white paper cannot be seen.', 'Take the whole card into the picture.');
  const brightest = Math.max(...whites.map(s => Math.max(...s.rgb)));
  if (brightest < TOO_DARK)
    return bad(
      'too-dark',
      'This photo is too dark to be measured.',
      'Take it again in brighter, even light.',
    );
  const burnt = cells.reduce((sum, box) => sum + shareIn(seen, box), 0) / cells.length;
  if (burnt > MOST_BURNT)
    return bad(
      'overexposed',
      'The white paper is overexposed.',
      'Take it again a little darker, or out of direct sun.',
    );
  const light = lightFrom(whites, card.page.w);
  const lit = whites.map(s => light(1, s.x, s.y));
  const greys = card.greys.flatMap(g => {
    return sample(seen, withinGrey(g)).map(s => ({
      seen: s.rgb.map((v, c) => v / light(c, s.x, s.y)),
      sent: toLinear(g.value / 255),
    }));
  });
  return good({
    light,
    tone: tonesFrom(greys),
    noise: noiseOf(seen, card, light),
    blurMm: edgeBlur(seen, card.markers),
    spread: markerSpread(
      cv,
      seen,
      card.markers.filter((_, i) => i % 2 === 0),
    ),
    evenness: Math.min(...lit) / Math.max(...lit),
    hasGreys: greys.length > 0,
  });
}

const TOO_DARK = 0.05;
const MOST_BURNT = 0.3;

/** The card's bare paper in cells, clear of everything printed and of the window. */
function whiteCells(card: Card): Box[] {
  const printed = [
    ...card.markers.map(m => grown({ ...m, w: m.size, h: m.size }, 0.8)),
    ...card.greys.map(g => grown(g, 0.8)),
    grown(card.window, 1.2),
  ];
  const cells: Box[] = [];
  const side = WHITE_CELL_MM;
  for (let y = 0.8; y + side < card.page.h - 0.6; y += side)
    for (let x = 0.8; x + side < card.page.w - 0.6; x += side) {
      const box = { x, y, w: side, h: side };
      if (!printed.some(p => meet(p, box))) cells.push(box);
    }
  return cells;
}

/** A box that reaches so much farther on every side. */
export const grown = (b: Box, by: number): Box => ({
  x: b.x - by,
  y: b.y - by,
  w: b.w + 2 * by,
  h: b.h + 2 * by,
});
const meet = (a: Box, b: Box) => a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h;

/** The middle colour of a rectangle of a region that begins at `origin` (mm); none where it lies outside the photo. */
export function sample(region: Region, box: Box, origin = { x: 0, y: 0 }): WhiteSample[] {
  const { x0, x1, y0, y1, every } = rasterOf(box, 'colour', origin);
  const most = Math.ceil((x1 - x0) / every) * Math.ceil((y1 - y0) / every);
  const lists = [0, 1, 2].map(() => new Float32Array(Math.max(0, most)));
  let count = 0;
  for (let y = Math.max(0, y0); y < Math.min(region.h, y1); y += every)
    for (let x = Math.max(0, x0); x < Math.min(region.w, x1); x += every) {
      const i = y * region.w + x;
      if (!region.inPhoto[i]) continue;
      for (let c = 0; c < 3; c++) lists[c][count] = region.rgb[i * 3 + c];
      count++;
    }
  if (count < 4) return [];
  const rgb = lists.map(list => list.subarray(0, count).sort()[count >> 1]);
  return [{ x: box.x + box.w / 2, y: box.y + box.h / 2, rgb: rgb as unknown as WhiteSample['rgb'] }];
}

/** Share of a rectangle of a region that is saturated. */
function shareIn(region: Region, box: Box): number {
  const { x0, x1, y0, y1, every } = rasterOf(box, 'colour');
  let set = 0;
  let all = 0;
  for (let y = y0; y < Math.min(region.h, y1); y += every)
    for (let x = x0; x < Math.min(region.w, x1); x += every) {
      all++;
      set += region.saturated[y * region.w + x];
    }
  return set / all;
}

/** The tone curve of each channel: what strays onto everything need not have the light's own colour. */
export const tonesFrom = (
  steps: readonly { readonly seen: readonly number[]; readonly sent: number }[],
): [Tone, Tone, Tone] => {
  const of = (c: number) => toneFrom(steps.map(s => ({ seen: s.seen[c], sent: s.sent })));
  return [of(0), of(1), of(2)];
};

/** No printed black is lighter than this. */
const MOST_BLACK = 0.06;

/** Steps this near to each other in what was sent count as one. */
const SAME_GREY = 1e-3;

/**
 * The camera's own tone curve, from grey steps: what each step looks like becomes what was sent, and in between a
 * straight line (from the second step on between their cube roots, which is about how light is seen). White paper is 1.
 * What is left of the light on a black step is light that strays onto everything (flare), or a printed black that is
 * none (0.02 to 0.06 of paper, densities of 1.2 to 1.7): nothing tells the two apart, so each is taken for a half of it,
 * and the other steps, which are dots of that black, are lighter by as much. Steps that do not get lighter with what was
 * sent are left out. What is given for nought is what may be off.
 */
export function toneFrom(steps: readonly { readonly seen: number; readonly sent: number }[]): Tone {
  const sorted = [...steps].sort((a, b) => a.sent - b.sent);
  const groups: { seen: number[]; sent: number }[] = [];
  for (const s of sorted) {
    const last = groups.at(-1);
    if (last && s.sent - last.sent < SAME_GREY) last.seen.push(s.seen);
    else groups.push({ seen: [s.seen], sent: s.sent });
  }
  const knots: { seen: number; sent: number }[] = [];
  for (const g of groups) {
    const seen = Math.max(0, g.seen.reduce((a, b) => a + b, 0) / g.seen.length);
    if (seen < 0.97 && (!knots.length || seen > knots.at(-1)!.seen + 0.002))
      knots.push({ seen, sent: g.sent });
  }
  if (knots.length < 3) return PLAIN_TONE;
  const black = knots[0].sent > 0.001 ? 0 : Math.min(MOST_BLACK, knots[0].seen / 2);
  for (const k of knots) k.sent = black + (1 - black) * k.sent;
  // Without a black step the darkest known one is followed down to black.
  if (!black && knots[0].sent > 0.001) knots.unshift({ seen: 0, sent: 0 });
  knots.push({ seen: 1, sent: 1 }, { seen: TONE_TO, sent: TONE_TO });
  const root = Math.cbrt;
  let k = 0;
  return Float32Array.from({ length: TONE_STEPS + 1 }, (_, i) => {
    const v = (i / TONE_STEPS) * TONE_TO;
    if (v <= knots[0].seen) return knots[0].sent;
    while (k + 2 < knots.length && v > knots[k + 1].seen) k++;
    const [a, b] = [knots[k], knots[k + 1]];
    // Next to black it is the stray light that counts, and that only adds.
    if (k === 0) return a.sent + ((v - a.seen) / (b.seen - a.seen)) * (b.sent - a.sent);
    const share = (root(v) - root(a.seen)) / (root(b.seen) - root(a.seen));
    return (root(a.sent) + share * (root(b.sent) - root(a.sent))) ** 3;
  });
}

/** Noise on white paper: median absolute difference of neighbours, as a standard deviation. */
function noiseOf(seen: Region, card: Card, light: Light): number {
  const box = card.whites[0];
  const differences: number[] = [];
  for (let y = Math.round(box.y * PX) + 2; y < (box.y + box.h) * PX - 2; y++)
    for (let x = Math.round(box.x * PX) + 2; x < (box.x + box.w) * PX - 4; x += 2) {
      const i = (y * seen.w + x) * 3 + 1;
      differences.push(Math.abs(seen.rgb[i] - seen.rgb[i + 6]) / light(1, x / PX, y / PX));
    }
  differences.sort((a, b) => a - b);
  return Math.max(0.003, (differences[differences.length >> 1] / 0.6745 / Math.SQRT2) * 1.3);
}

/** How far to either side of an edge its blur is looked for, mm. */
const ROUND_EDGE_MM = 1.2;

/**
 * Blur as the second moment of the slope across the outer edges of the markers, mm, less the width of the working
 * pixel itself. Median over many edge profiles; 1 where none can be told.
 */
export function edgeBlur(seen: Region, markers: Card['markers'], origin = { x: 0, y: 0 }): number {
  const widths: number[] = [];
  const { w, h, rgb } = seen;
  const at = (x: number, y: number) =>
    rgb[(Math.min(h - 1, Math.max(0, y)) * w + Math.min(w - 1, Math.max(0, x))) * 3 + 1];
  const reach = Math.round(ROUND_EDGE_MM * PX);
  for (const marker of markers)
    for (let t = 1.5; t < marker.size - 1; t += 0.7)
      for (const side of [0, 1, 2, 3]) {
        const along = side < 2;
        const begin = along ? marker.x - origin.x : marker.y - origin.y;
        const edge = side % 2 === 0 ? begin : begin + marker.size;
        const fixed = Math.round(((along ? marker.y - origin.y : marker.x - origin.x) + t) * PX);
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

/** How far a marker's surroundings are looked at with it, mm. */
const ROUND_MARKER_MM = 1.5;

/** Markers that were drawn already, by number, size and place. */
const drawnAlready = new Map<string, Plane>();
const MOST_DRAWN = 100;

/** A marker at (x, y) mm with its surroundings, paper 1 and black 0, under the least spread there is. */
function drawnMarker(cv: Cv, marker: Card['markers'][number], x: number, y: number): Plane {
  const key = [marker.id, marker.size, x, y].map(v => v.toFixed(6)).join(' ');
  const known = drawnAlready.get(key);
  if (known) return known;
  const side = Math.round((marker.size + 2 * ROUND_MARKER_MM) * PX);
  const { data } = rasterise({ w: side / PX, h: side / PX, shapes: markerShapes({ ...marker, x, y }) }, PX);
  const sharp = new Float32Array(data.length);
  for (let i = 0; i < sharp.length; i++) sharp[i] = LINEAR[data[i]];
  const drawn = underLens(cv, { w: side, h: side, data: sharp }, LEAST_SPREAD);
  if (drawnAlready.size >= MOST_DRAWN) drawnAlready.clear();
  drawnAlready.set(key, drawn);
  return drawn;
}

/** The spread of the markers' own edges, a mean over them; nothing where none can be told. */
export function markerSpread(
  cv: Cv,
  seen: Region,
  markers: Card['markers'],
  origin = { x: 0, y: 0 },
): Spread | undefined {
  const found = markers.flatMap(marker => {
    const rim = ROUND_MARKER_MM;
    const [x0, y0] = [marker.x - origin.x - rim, marker.y - origin.y - rim].map(v => Math.round(v * PX));
    const side = Math.round((marker.size + 2 * rim) * PX);
    const data = new Float32Array(side * side);
    for (let y = 0, at = 0; y < side; y++) {
      const row = Math.min(seen.h - 1, Math.max(0, y0 + y)) * seen.w;
      for (let x = 0; x < side; x++)
        data[at++] = seen.rgb[(row + Math.min(seen.w - 1, Math.max(0, x0 + x))) * 3 + 1];
    }
    const light = halved({ w: side, h: side, data });
    const some = someOf(light.data, 7);
    const [white, black] = [quantile(some, 0.95), quantile(some, 0.15)];
    const drawn = drawnMarker(cv, marker, marker.x - origin.x - x0 / PX, marker.y - origin.y - y0 / PX);
    const soft = new Float32Array(light.data.length);
    for (let i = 0; i < soft.length; i++) soft[i] = black + (white - black) * drawn.data[i];
    const spread = spreadOf(cv, {
      light,
      soft: { ...light, data: soft },
      open: new Float32Array(light.data.length).fill(1),
      rim: 3,
    });
    return spread ? [spread] : [];
  });
  if (!found.length) return undefined;
  const mean = (of: (s: Spread) => number) => middle(found.map(of));
  // Markers have no slanted edges: of a spread across they say nothing.
  return { xx: mean(s => s.xx), yy: mean(s => s.yy), give: mean(s => s.give) };
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
