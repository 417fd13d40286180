import type { Pixels } from '../reading/index.ts';
import { labAt, linearOf } from './lab.ts';

/** What a picture is like, before it is printed. Shares are 0–1. */
export interface PictureFacts {
  readonly white: number;
  readonly black: number;
  /** Pale tones among what is not paper white: L* 70 to 96. */
  readonly pale: number;
  /** L* between the 5th and the 95th percentile. */
  readonly contrast: number;
  /** Mean chroma, C*. */
  readonly chroma: number;
  /** Share of the dark parts that is thinner than each of {@link THIN_MM} at this size. */
  readonly thin: readonly number[];
  /** Share of the picture where its lightness changes sharply. */
  readonly busy: number;
  /** Mean cover of ink, 0–1 of a solid, and its sum over the four printing inks, 0–3. */
  readonly cover: number;
  readonly inks: number;
  /** The picture's own background: the commonest colour along its rim, linear light. */
  readonly background: readonly [number, number, number];
  /** How much of the rim has that colour. */
  readonly backgroundShare: number;
}

/** Widths, mm, at which the share of thin parts is measured. */
export const THIN_MM = [0.2, 0.3, 0.4, 0.6, 0.8, 1.2, 2] as const;

/** Share of the dark parts thinner than `mm`, between the widths that were measured. */
export function thinnerThan({ thin }: Pick<PictureFacts, 'thin'>, mm: number): number {
  const next = THIN_MM.findIndex(w => w >= mm);
  if (next === 0) return (thin[0] * mm) / THIN_MM[0];
  if (next < 0) return thin[thin.length - 1];
  const [a, b] = [THIN_MM[next - 1], THIN_MM[next]];
  return thin[next - 1] + ((mm - a) / (b - a)) * (thin[next] - thin[next - 1]);
}

/** Measures a picture (RGBA, opaque) that will be `widthMm` wide. */
export function measurePicture(pixels: Pixels, widthMm: number): PictureFacts {
  const { w, h, data } = pixels;
  const count = w * h;
  const lightness = new Float32Array(count);
  const histogram = new Uint32Array(101);
  let white = 0;
  let black = 0;
  let pale = 0;
  let chroma = 0;
  let cover = 0;
  let inks = 0;
  for (let i = 0; i < count; i++) {
    const [r, g, b] = [data[i * 4], data[i * 4 + 1], data[i * 4 + 2]];
    const [l, a, bb] = labAt(r, g, b);
    const c = Math.hypot(a, bb);
    lightness[i] = l;
    histogram[Math.min(100, Math.max(0, Math.round(l)))]++;
    chroma += c;
    if (l > 96 && c < 5) white++;
    else if (l >= 70) pale++;
    if (l < 20) black++;
    cover += 1 - (0.2126 * r + 0.7152 * g + 0.0722 * b) / 255;
    // Grey component replaced wholly by black, as printers do on plain paper.
    const [ci, mi, yi] = [1 - r / 255, 1 - g / 255, 1 - b / 255];
    const k = Math.min(ci, mi, yi);
    inks += ci + mi + yi - 2 * k;
  }
  const pxPerMm = w / widthMm;
  const rim = rimColour(pixels);
  return {
    white: white / count,
    black: black / count,
    pale: count > white ? pale / (count - white) : 0,
    contrast: percentile(histogram, count, 0.95) - percentile(histogram, count, 0.05),
    chroma: chroma / count,
    thin: THIN_MM.map(mm => thinShare(lightness, w, h, mm * pxPerMm)),
    busy: busyShare(lightness, w, h, pxPerMm),
    cover: cover / count,
    inks: inks / count,
    background: rim.colour,
    backgroundShare: rim.share,
  };
}

function percentile(histogram: Uint32Array, count: number, share: number): number {
  let sum = 0;
  for (let l = 0; l <= 100; l++) {
    sum += histogram[l];
    if (sum >= share * count) return l;
  }
  return 100;
}

/**
 * Share of the dark (L* below 55) that a square of `px` does not fit into: a morphological opening, done with
 * running sums in two passes each way.
 */
function thinShare(lightness: Float32Array, w: number, h: number, px: number): number {
  const size = Math.round(px);
  if (size < 2) return 0;
  const dark = Uint8Array.from(lightness, l => (l < 55 ? 1 : 0));
  const total = dark.reduce((a, v) => a + v, 0);
  if (!total) return 0;
  const eroded = slide(dark, w, h, size, true);
  const opened = slide(eroded, w, h, size, false);
  let kept = 0;
  for (let i = 0; i < dark.length; i++) kept += dark[i] & opened[i];
  return 1 - kept / total;
}

/** Erodes (all of a size × size square) or dilates back (any), as separable windows over counts. */
function slide(from: Uint8Array, w: number, h: number, size: number, all: boolean): Uint8Array {
  const before = Math.floor((size - 1) / 2);
  const [lo, hi] = all ? [-before, size - 1 - before] : [-(size - 1 - before), before];
  const pass = (source: Uint8Array, length: number, lines: number, step: number, stride: number) => {
    const out = new Uint8Array(source.length);
    for (let line = 0; line < lines; line++) {
      const start = line * stride;
      let sum = 0;
      const value = (i: number) => (i < 0 || i >= length ? 0 : source[start + i * step]);
      for (let i = lo; i <= hi; i++) sum += value(i);
      for (let i = 0; i < length; i++) {
        out[start + i * step] = all ? (sum === size ? 1 : 0) : sum > 0 ? 1 : 0;
        sum += value(i + hi + 1) - value(i + lo);
      }
    }
    return out;
  };
  return pass(pass(from, w, h, 1, w), h, w, w, 1);
}

/** Share of places where lightness changes by more than 12 L* within half a millimetre. */
function busyShare(lightness: Float32Array, w: number, h: number, pxPerMm: number): number {
  const step = Math.max(1, Math.round(pxPerMm / 2));
  let sharp = 0;
  let seen = 0;
  for (let y = 0; y + step < h; y += step)
    for (let x = 0; x + step < w; x += step) {
      const l = lightness[y * w + x];
      seen++;
      if (Math.abs(l - lightness[y * w + x + step]) > 12 || Math.abs(l - lightness[(y + step) * w + x]) > 12)
        sharp++;
    }
  return seen ? sharp / seen : 0;
}

function rimColour({ w, h, data }: Pixels) {
  const deep = Math.max(1, Math.round(Math.min(w, h) * 0.03));
  const bins = new Map<number, { n: number; sum: [number, number, number] }>();
  let total = 0;
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      if (x >= deep && x < w - deep && y >= deep && y < h - deep) {
        x = w - deep - 1;
        continue;
      }
      const i = (y * w + x) * 4;
      const key = ((data[i] >> 4) << 8) | ((data[i + 1] >> 4) << 4) | (data[i + 2] >> 4);
      const bin = bins.get(key) ?? { n: 0, sum: [0, 0, 0] };
      bin.n++;
      for (let c = 0; c < 3; c++) bin.sum[c] += linearOf(data[i + c]);
      bins.set(key, bin);
      total++;
    }
  const best = [...bins.values()].sort((a, b) => b.n - a.n)[0];
  const colour = best.sum.map(s => Math.min(1, s / best.n)) as [number, number, number];
  return { colour, share: best.n / total };
}
