import { LOOKS_WET, type Reading } from '../trial/index.ts';
import { barePatches } from './bare.ts';
import { INKED_BELOW, type Sorted } from './classify.ts';
import { TELLS_PAPER, type ToneReading, tintOf } from './colour.ts';
import type { Cv, Plane } from './cv.ts';
import type { Ground } from './ground.ts';
import { stateMap, veilMap } from './maps.ts';
import { SORT_PX } from './px.ts';
import type { Reference } from './reference.ts';
import type { Registration } from './register.ts';
import type { Smear } from './smear.ts';
import { beside } from './specks.ts';
import { tally } from './tally.ts';

/** Rounded to so many decimals. */
export const tidy = (v: number, digits: number) => Math.round(v * 10 ** digits) / 10 ** digits;
const maybe = (v: number | null | undefined, digits: number) => (v == null ? null : tidy(v, digits));

/** What a reading is added up from. */
export interface Parts {
  readonly seen: readonly [Plane, Plane, Plane];
  readonly reference: Reference;
  readonly ground: Ground;
  readonly sorted: Sorted;
  readonly found: Registration;
  readonly stage: 'wet' | 'dry';
  readonly quality: Reading['quality'];
  readonly detail: number | null;
  readonly smear: Smear | null;
  /** Nothing where colour cannot be trusted (no greys in sight, a wet photo). */
  readonly tone: ToneReading | null;
}

/** Bare specks are spoken of from so many percent of the picture on: what edges alone come to is less. */
const WORTH_SAYING = 3;

/** All numbers of a reading. */
export function addUp(cv: Cv, parts: Parts, isKnown: boolean): Reading {
  const { sorted, reference, found, stage, quality, smear, tone } = parts;
  const sums = tally(sorted);
  const landed = 100 * (1 - sums.bare / sums.visible);
  const veil = stage === 'dry' ? meanVeil(sorted, sums.inked) : null;
  const notes: string[] = [];
  if (stage === 'wet')
    notes.push('Veil is not given: paper is invisible while it is wet. Photograph it again dry.');
  if (isKnown && found.mirrored) notes.push('The picture is backwards.');
  if (!isKnown) notes.push('Almost nothing landed, so where the picture lies is a guess.');
  const darker = tidy(parts.ground.darker, 2);
  if (stage === 'dry' && darker >= LOOKS_WET)
    notes.push(
      `The ground under the picture is ${Math.round(100 * darker)} % darker than round it. If it is still damp, paper cannot be seen: photograph it again dry.`,
    );
  const bare = barePatches(cv, sorted.bare, sorted.w, sorted.inked);
  const listed = bare.reduce((area, b) => area + b.area, 0) * SORT_PX ** 2;
  const specks = (100 * (sums.bare - listed)) / sums.visible;
  if (specks >= WORTH_SAYING)
    notes.push(`About ${specks.toFixed(0)} % of it is bare in specks too small to be listed one by one.`);
  return {
    landed: tidy(landed, 1),
    landedGive: tidy(landedGive(sorted, found.residualMm), 1),
    visible: tidy((100 * sums.visible) / sums.inked, 1),
    bare,
    veil: maybe(veil?.mean, 3),
    veilGive: maybe(veil && Math.min(1, veilGive(sorted, parts.ground, veil.mean)), 3),
    smear: maybe(smear?.smear, 2),
    smearAlong: smear && smear.smear > 0 ? Math.round(smear.along) % 180 : null,
    stain: stainOf(parts),
    tone: maybe(tone?.tone, 1),
    deltaL: maybe(tone?.deltaL, 1),
    deltaC: maybe(tone?.deltaC, 1),
    detail: maybe(parts.detail, 2),
    landedByTone: {
      dark: landedWhere(sorted, reference.light, 0, 0.12),
      mid: landedWhere(sorted, reference.light, 0.12, 0.35),
      light: landedWhere(sorted, reference.light, 0.35, INKED_BELOW),
    },
    edges: edgesOf(sorted),
    mirrored: isKnown && found.mirrored,
    turn: isKnown ? found.turn : 0,
    darker,
    quality,
    notes,
    maps: { state: stateMap(sorted), veil: veilMap(sorted) },
  };
}

/** Mean veil over what is inked, can be seen and landed; nothing where that is too little. */
function meanVeil(sorted: Sorted, inked: number) {
  let sum = 0;
  let held = 0;
  for (let i = 0; i < sorted.veil.length; i++)
    if (sorted.inked[i] && sorted.visible[i] && !sorted.bare[i]) {
      sum += sorted.veil[i];
      held++;
    }
  return held > 0.05 * inked ? { mean: sum / held } : null;
}

/** Side of the squares within which the sorting is taken to be wrong all at once or not at all, mm. */
const TOGETHER_MM = 1.5;
const NINETY = 1.645;
/** How far edges may be off where the picture was aligned as well as can be, mm. */
const EDGE_MM = 0.02;
/** Odds that a systematic error (light, ground, ink) may shift all pixels by. */
const SHIFT = 1.5;

/** How far the shares of specks may be off, all alike: the colours between which they lie are known so well. */
const PART_ERROR = 0.25;

/**
 * Half-width of a 90 % interval of what landed, points: the chance that squares of the picture are sorted wrong, what
 * comes of shifting all odds a little (a light or a ground that is not quite as taken), and the alignment, which makes
 * the rim of every bare place unsure.
 */
export function landedGive(s: Sorted, residualMm: number | undefined): number {
  const side = TOGETHER_MM * SORT_PX;
  const [nx, ny] = [Math.ceil(s.w / side), Math.ceil(s.h / side)];
  const doubt = new Float64Array(nx * ny);
  let area = 0;
  const bare = { more: 0, less: 0 };
  let rim = 0;
  let parts = 0;
  for (let y = 0; y < s.h; y++)
    for (let x = 0; x < s.w; x++) {
      const i = y * s.w + x;
      if (!s.inked[i] || !s.visible[i]) continue;
      area++;
      const p = 1 / (1 + Math.exp(-s.odds[i]));
      doubt[Math.floor(y / side) * nx + Math.floor(x / side)] += Math.sqrt(p * (1 - p));
      if (s.odds[i] < SHIFT) bare.more++;
      if (s.odds[i] < -SHIFT) bare.less++;
      // A rim of a bare place is as unsure as the alignment is, which is counted below; other shares as their colours.
      const isPart = s.lost[i] > 0 && s.lost[i] < 1;
      if (isPart && !beside(i, s.w, s.h).some(j => s.lost[j] === 1)) parts += s.lost[i];
      if (s.bare[i] && x + 1 < s.w && y + 1 < s.h && (!s.bare[i + 1] || !s.bare[i + s.w])) rim++;
    }
  if (!area) return 100;
  const squares = Math.sqrt(doubt.reduce((sum, d) => sum + d * d, 0)) / area;
  const shifted = (bare.more - bare.less) / 2 / area;
  const edge = (rim * SORT_PX * (EDGE_MM + 0.2 * (residualMm ?? 0.2))) / area;
  return Math.min(
    100,
    0.3 + 100 * NINETY * Math.hypot(squares, shifted / NINETY, edge, (PART_ERROR * parts) / area),
  );
}

/** Half-width of a 90 % interval of the mean veil: balance and flare, and ink that may be deeper or thinner than taken. */
function veilGive(s: Sorted, ground: Ground, mean: number): number {
  const mid = (c: number) => ground.base[c][Math.floor(ground.base[c].length / 2)];
  const colours = [mid(0), mid(1), mid(2)];
  const grey = (colours[0] + colours[1] + colours[2]) / 3;
  const tint = tintOf(colours);
  // On a ground without a colour of its own, paper and thin ink are told apart by texture alone.
  const depthError =
    0.035 * grey * Math.min(1, TELLS_PAPER / Math.max(0.02, tint)) +
    0.4 * Math.max(0, s.ink.depth - 0.06) * grey;
  return NINETY * Math.hypot(0.008, 0.06 * mean, depthError * (1 - mean));
}

function landedWhere(s: Sorted, light: Plane, from: number, to: number): number | null {
  let area = 0;
  let bare = 0;
  for (let i = 0; i < light.data.length; i++)
    if (light.data[i] >= from && light.data[i] < to && s.visible[i]) {
      area++;
      bare += s.lost[i];
    }
  return area < 40 ? null : tidy(100 * (1 - bare / area), 1);
}

/** Landed within 2 mm of each side, %. */
function edgesOf(s: Sorted): Reading['edges'] {
  const deep = 2 * SORT_PX;
  const of = (left: number, top: number, right: number, low: number) => {
    let area = 0;
    let bare = 0;
    for (let y = Math.max(0, top); y < Math.min(s.h, low); y++)
      for (let x = Math.max(0, left); x < Math.min(s.w, right); x++) {
        const i = y * s.w + x;
        if (!s.inked[i] || !s.visible[i]) continue;
        area++;
        bare += s.lost[i];
      }
    return area ? tidy(100 * (1 - bare / area), 1) : 0;
  };
  return {
    top: of(0, 0, s.w, deep),
    right: of(s.w - deep, 0, s.w, s.h),
    bottom: of(0, s.h - deep, s.w, s.h),
    left: of(0, 0, deep, s.h),
  };
}

/** So far from ink a place is white, mm. */
const CLEAR_MM = 0.6;
/** From this luminance on the picture wants no ink. */
const WHITE = 0.95;

/** Share (%) of the picture's white parts, 0.6 mm clear of ink, that is darker than ground and grain explain. */
export function stainOf({
  seen,
  reference,
  ground,
}: {
  readonly seen: Parts['seen'];
  readonly reference: Pick<Reference, 'w' | 'h' | 'light'>;
  readonly ground: Pick<Ground, 'base' | 'grain' | 'wide' | 'unsure'>;
}): number | null {
  const { w, h, light } = reference;
  const clear = Math.round(CLEAR_MM * SORT_PX);
  let white = 0;
  let dark = 0;
  for (let y = clear; y < h - clear; y++)
    for (let x = clear; x < w - clear; x++) {
      const i = y * w + x;
      if (light.data[i] <= WHITE || light.data[i + clear] <= WHITE || light.data[i - clear] <= WHITE)
        continue;
      if (light.data[i + clear * w] <= WHITE || light.data[i - clear * w] <= WHITE) continue;
      white++;
      const base = ground.base[1][i];
      const limit = Math.sqrt(ground.grain[1] + ground.unsure[i] * ground.wide[1]);
      const v = seen[1].data[i];
      if (v < base - 3 * limit - 0.04 && v < base * 0.8) dark++;
    }
  return white < 50 ? null : tidy((100 * dark) / white, 1);
}
