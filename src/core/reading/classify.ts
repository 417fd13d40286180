import { LEAST_MM2 } from './bare.ts';
import { blurPlane, type Cv, type Plane } from './cv.ts';
import { withFaintSpecks } from './faint-specks.ts';
import type { Cov, Ground } from './ground.ts';
import { type Cell, depthOf, evenCells, gainOf, type Ink, leftOf, USUAL_INK } from './ink.ts';
import { maskOf } from './mask.ts';
import { quantile } from './middle.ts';
import { SORT_PX } from './px.ts';
import type { Reference } from './reference.ts';
import { type Told, withSpecks } from './specks.ts';

/** The picture's pixels sorted into landed and bare, with the veil over what landed. */
export interface Sorted {
  readonly w: number;
  readonly h: number;
  readonly inked: Uint8Array;
  readonly visible: Uint8Array;
  readonly bare: Uint8Array;
  /** Share of each pixel that is bare, 0–1: the rims of specks are counted by how much of them is. */
  readonly lost: Float32Array;
  readonly veil: Float32Array;
  /** Log odds that a pixel landed. */
  readonly odds: Float32Array;
  readonly ink: Ink;
  /** Even cells of half a millimetre, for judging colour. */
  readonly cells: readonly Cell[];
}

export const INKED_BELOW = 0.6;

/** Degrees of freedom of the heavy-tailed scatter: knots, pores and threads are not Gaussian. With three dimensions, eight. */
const TAIL = 5;

/** log of a Student t density in three dimensions up to a constant; the covariance as rr, gg, bb, rg, rb, gb. */
function logStudent(
  dx: number,
  dy: number,
  dz: number,
  a: number,
  e: number,
  i: number,
  b: number,
  f: number,
  g: number,
): number {
  const A = e * i - g * g;
  const B = f * g - b * i;
  const C = b * g - e * f;
  const det = Math.max(1e-18, a * A + b * B + f * C);
  const E = a * i - f * f;
  const F = b * f - a * g;
  const I = a * e - b * b;
  const q = (dx * dx * A + dy * dy * E + dz * dz * I + 2 * (dx * dy * B + dx * dz * C + dy * dz * F)) / det;
  // −½ log det − ½ (TAIL + 3) log(1 + q / TAIL), as one logarithm.
  const far = 1 + q / TAIL;
  const far4 = far * far * far * far;
  return -0.5 * Math.log(det * far4 * far4);
}

interface Scene {
  readonly w: number;
  readonly h: number;
  readonly seen: readonly [Plane, Plane, Plane];
  /** Coverage, and 4a(1 − a), each blurred as the camera blurs. */
  readonly cover: readonly [Float32Array, Float32Array, Float32Array];
  readonly growth: readonly [Float32Array, Float32Array, Float32Array];
  /** Coverage over all channels, for asking how dark a place is. */
  readonly dark: Float32Array;
  readonly slope: Float32Array;
  readonly base: Ground['base'];
  readonly grain: Cov;
  readonly wide: Cov;
  readonly unsure: Float32Array;
  /** Variance that camera and balance leave on what is seen. */
  readonly noisy: readonly [Float32Array, Float32Array, Float32Array];
  readonly offMm: number;
}

/** What is left of uneven light after balancing, as a share of the light. */
const BALANCE_ERROR = 0.015;
/** Variance below which nothing is believed: half a level of an eight-bit file in the darks. */
const FLOOR_VARIANCE = 4e-6;
/** The part of the camera's noise that is there in the dark, against that which grows with the root of the light. */
const READ_NOISE = 0.4;

/** Scratch for {@link explain}, which runs for every pixel: written there, read right after. */
const told = { landed: 0, bare: 0, landedVar: 0, bareVar: 0 };
const inkedColour = new Float64Array(3);

/** log likelihoods of "landed under veil h" and "bare" at pixel i, with the variances of the middle channel. */
function explain(s: Scene, ink: Ink, i: number, h: number): typeof told {
  const spread = spreadFor(h) ** 2;
  const slip = (s.slope[i] * s.offMm) ** 2;
  const far = s.unsure[i];
  const k = 1 - h;
  const b0 = s.base[0][i];
  const b1 = s.base[1][i];
  const b2 = s.base[2][i];
  const t0 = leftOf(ink, s.cover[0][i], s.growth[0][i]);
  const t1 = leftOf(ink, s.cover[1][i], s.growth[1][i]);
  const t2 = leftOf(ink, s.cover[2][i], s.growth[2][i]);
  const c0 = t0 * b0;
  const c1 = t1 * b1;
  const c2 = t2 * b2;
  inkedColour[0] = c0;
  inkedColour[1] = c1;
  inkedColour[2] = c2;
  const p0 = 1 - c0;
  const p1 = 1 - c1;
  const p2 = 1 - c2;
  const v0 = s.seen[0].data[i];
  const v1 = s.seen[1].data[i];
  const v2 = s.seen[2].data[i];
  const n0 = s.noisy[0][i];
  const n1 = s.noisy[1][i];
  const n2 = s.noisy[2][i];
  const { grain, wide } = s;
  const kk = k * k;
  // Grain about the ground's own colour, in each pair of channels.
  const g00 = grain[0] + far * wide[0];
  const g11 = grain[1] + far * wide[1];
  const g22 = grain[2] + far * wide[2];
  const g01 = grain[3] + far * wide[3];
  const g02 = grain[4] + far * wide[4];
  const g12 = grain[5] + far * wide[5];
  told.landedVar = spread * p1 * p1 + slip * b1 * b1 + kk * t1 * t1 * g11 + n1;
  told.landed = logStudent(
    v0 - k * c0 - h,
    v1 - k * c1 - h,
    v2 - k * c2 - h,
    spread * p0 * p0 + slip * b0 * b0 + kk * t0 * t0 * g00 + n0,
    told.landedVar,
    spread * p2 * p2 + slip * b2 * b2 + kk * t2 * t2 * g22 + n2,
    spread * p0 * p1 + slip * b0 * b1 + kk * t0 * t1 * g01,
    spread * p0 * p2 + slip * b0 * b2 + kk * t0 * t2 * g02,
    spread * p1 * p2 + slip * b1 * b2 + kk * t1 * t2 * g12,
  );
  // As much give along the veil's line as landed ink has: a pixel half bare, half inked falls in the middle.
  told.bareVar = g11 + spread * p1 * p1 + n1;
  told.bare = logStudent(
    v0 - b0,
    v1 - b1,
    v2 - b2,
    g00 + spread * p0 * p0 + n0,
    told.bareVar,
    g22 + spread * p2 * p2 + n2,
    g01 + spread * p0 * p1,
    g02 + spread * p0 * p2,
    g12 + spread * p1 * p2,
  );
  return told;
}

/** Variance that a camera of so much noise and balance leave on each value. */
function noiseIn(values: Float32Array, noise: number): Float32Array {
  const out = new Float32Array(values.length);
  for (let i = 0; i < out.length; i++) {
    const v = values[i];
    const shot = noise * (READ_NOISE + Math.sqrt(Math.max(0, v)));
    out[i] = shot * shot + BALANCE_ERROR ** 2 * v * v + FLOOR_VARIANCE;
  }
  return out;
}

/** Veil that would explain each pixel alone, and how much it tells of it. */
interface Alone {
  readonly veil: Float32Array;
  readonly weight: Float32Array;
}

/** The same for all active pixels, by least squares along the line from ink to paper white. */
function veilsAlone(s: Scene, ink: Ink, active: Int32Array): Alone {
  const veil = new Float32Array(s.w * s.h);
  const weight = new Float32Array(s.w * s.h);
  for (const i of active) {
    let up = 0;
    let down = 0;
    let grain = 0;
    for (let c = 0; c < 3; c++) {
      const part = leftOf(ink, s.cover[c][i], s.growth[c][i]);
      const inked = part * s.base[c][i];
      const far = 1 - inked;
      up += (s.seen[c].data[i] - inked) * far;
      down += far * far;
      grain += part * part * s.grain[c];
    }
    veil[i] = up / down;
    weight[i] = (down * down) / (down * 0.003 + grain * down + 1e-4);
  }
  return { veil, weight };
}

/** Scatter of ink about its own colour, and how much more of it a veil brings. */
const INK_SPREAD = 0.035;
const VEIL_SPREAD = 0.3;
const spreadFor = (h: number) => INK_SPREAD + VEIL_SPREAD * Math.min(0.5, h);

/** Coverage this large and this even tells a veil best. */
const DARK = 0.7;
const FLAT = 0.15;
const MOST_FIRST_VEIL = 0.8;
const VEIL_STEP = 0.04;
/** Shares that may have landed, tried in turn. */
const SHARES_LANDED = [0.95, 0.8, 0.65, 0.5, 0.35, 0.2, 0.1];
/** Log likelihood that each unit of veil costs a pixel: little veil is more usual than much. */
const VEIL_COST = 0.15;

/** So many pixels tell one number as well as all do. */
const MOST_ASKED = 1500;

/** The veil that, taken as one number, best explains the dark parts together with some share of bare ground; and that share. */
function firstVeil(s: Scene): { start: number; landed: number } {
  let dark: number[] = [];
  for (let i = 0; i < s.dark.length; i += 3) if (s.dark[i] > DARK && s.slope[i] < FLAT) dark.push(i);
  const every = Math.ceil(dark.length / MOST_ASKED);
  if (every > 1) dark = dark.filter((_, k) => k % every === 0);
  let best = { start: 0, landed: SHARES_LANDED[0], score: Number.NEGATIVE_INFINITY };
  const tryVeil = (h: number) => {
    const scores = SHARES_LANDED.map(() => -dark.length * VEIL_COST * h);
    for (const i of dark) {
      const e = explain(s, USUAL_INK, i, h);
      const top = Math.max(e.landed, e.bare);
      const [landed, bare] = [Math.exp(e.landed - top), Math.exp(e.bare - top)];
      for (let k = 0; k < scores.length; k++) {
        const part = SHARES_LANDED[k];
        scores[k] += top + Math.log(part * landed + (1 - part) * bare + 1e-6);
      }
    }
    const score = Math.max(...scores);
    if (score > best.score) best = { start: h, landed: SHARES_LANDED[scores.indexOf(score)], score };
  };
  // In long steps first, then half a step to either side of the best.
  for (let h = 0; h <= MOST_FIRST_VEIL; h += 2 * VEIL_STEP) tryVeil(h);
  const { start } = best;
  for (const h of [start - VEIL_STEP, start + VEIL_STEP]) if (h > 0) tryVeil(h);
  return best;
}

/**
 * What is expected of a pixel before it is looked at: as much as is usual, and the share that landed as all dark parts
 * together have it, within these; half of each, for what lies round a pixel is heard besides.
 */
const MOST_LANDED = 0.85;
const LEAST_LANDED = 0.2;
const logOdds = (p: number) => Math.log(p / (1 - p));
const TURNS = 2;
/** Coverage below which a pixel is toner-free. */
const TONER_FREE = 0.05;
/** No single pixel says more than this, in log odds. */
const MOST_EVIDENCE = 12;
/** Over how many pixels neighbours are heard, as a standard deviation; and how much those farther off are followed. */
const HEARD_PX = 0.6;
const FOLLOWED_PX = 1.1;
const FOLLOWED = 1.2;
/** How much of it is the pixel's own word: a speck is no wider than what is heard. */
const OWN = 0.4;
/** A cell is taken to have landed from these odds on. */
const SURELY = 2.5;

/**
 * Sorts every pixel of the picture into landed and bare by comparing two explanations: ink on this ground under a local
 * veil, or the ground itself with its grain; and learns from what landed how deep the ink is, how much its dots have
 * grown, and the veil, in turns (expectation–maximisation). The model is S = (1 − h)·T(R)·B + h·white
 * (docs/READINGS.md), with T by {@link leftOf}.
 */
export function sortPixels(
  cv: Cv,
  seen: readonly [Plane, Plane, Plane],
  reference: Reference,
  ground: Ground,
  camera: { readonly noise: number; readonly blurMm: number; readonly residualMm: number },
): Sorted {
  const { w, h } = reference;
  const count = w * h;
  const scene = sceneOf(cv, seen, reference, ground, camera);
  const cells = evenCells(seen, scene.cover, ground.base);
  const { start, landed: share } = firstVeil(scene);
  const prior = (logOdds(MOST_LANDED) + logOdds(Math.min(MOST_LANDED, Math.max(LEAST_LANDED, share)))) / 2;
  // Toner-free parts have nothing to say.
  const toned: number[] = [];
  for (let i = 0; i < count; i++) if (scene.dark[i] > TONER_FREE) toned.push(i);
  const active = Int32Array.from(toned);
  const { visible, weights } = whatCanBeSeen(cv, scene, active);

  let ink = USUAL_INK;
  let veil: Float32Array = new Float32Array(count).fill(start);
  let odds: Float32Array = new Float32Array(count);
  const evidence = new Float32Array(count);
  let alone = veilsAlone(scene, ink, active);
  for (let turn = 0; turn < TURNS; turn++) {
    const own = ownVeil(cv, scene, alone, active);
    for (const i of active) {
      const e = explain(scene, ink, i, veil[i]);
      let landed = e.landed - strangeness(veil[i], start);
      let bare = e.bare;
      if (own[i] > veil[i] + WORTH_TRYING) {
        // Each explanation is taken at its best: a veil of its own does not make the bare ground less likely.
        const f = explain(scene, ink, i, own[i]);
        landed = Math.max(landed, f.landed - strangeness(own[i], start));
        bare = Math.max(bare, f.bare);
      }
      const says = landed - bare;
      evidence[i] = weights.clear[i] * Math.max(-MOST_EVIDENCE, Math.min(MOST_EVIDENCE, says));
    }
    odds = settled(cv, evidence, weights.near, { w, h, prior });
    const landed = cells.filter(c => odds[c.at] > SURELY && visible[c.at]);
    const depth = depthOf(landed);
    ink = { depth, gain: gainOf(landed, depth, veil) };
    alone = veilsAlone(scene, ink, active);
    veil = localVeil(cv, scene, alone, odds, start, active);
  }
  const inked = maskOf(count, i => reference.light.data[i] < INKED_BELOW);
  const counted = inked.map((on, i) => on & visible[i]);
  const scatters = inkScatter(scene, ink, veil, odds);
  const told: Told = {
    w,
    h,
    counted,
    bare: counted.map((on, i) => (on && odds[i] < 0 ? 1 : 0)),
    share: i => bareShare(scene, ink, i, veil[i]),
    scatter: i => shareScatter(scene, ink, i, veil[i], scatters),
    steep: maskOf(count, i => scene.slope[i] > STEEP),
  };
  const { bare, lost } = withSpecks(told, LEAST_MM2 * SORT_PX * SORT_PX);
  return {
    ...{ w, h, inked, visible, bare, veil, odds, ink, cells },
    lost: withFaintSpecks(told, { bare, lost }),
  };
}

/** Standard deviation of {@link bareShare} where pixel i landed, of ink that scatters by `own` about its colour. */
function shareScatter(s: Scene, ink: Ink, i: number, h: number, own: number): number {
  const base = s.base[1][i];
  const left = leftOf(ink, s.cover[1][i], s.growth[1][i]);
  const far = base - (1 - h) * left * base - h;
  const spread = (own + VEIL_SPREAD * Math.min(0.5, h)) * (1 - left * base);
  const slip = s.slope[i] * s.offMm * base;
  const grain = (1 - h) * left;
  const all = spread ** 2 + slip ** 2 + grain ** 2 * s.grain[1] + s.noisy[1][i];
  return Math.sqrt(all) / Math.max(1e-6, Math.abs(far));
}

/**
 * How much this ink scatters about its own colour, as this photo shows it: the half of the dark, even, landed pixels
 * that is darker than their median, for specks and fibres are all on the other side. Never more than is usual.
 */
function inkScatter(s: Scene, ink: Ink, veil: Float32Array, odds: Float32Array): number {
  const off: number[] = [];
  for (let i = 0; i < odds.length; i += 2) {
    if (odds[i] < SURELY || s.dark[i] < DARK || s.slope[i] > FLAT) continue;
    const inked = (1 - veil[i]) * leftOf(ink, s.cover[1][i], s.growth[1][i]) * s.base[1][i] + veil[i];
    off.push(s.seen[1].data[i] - inked);
  }
  if (off.length < LEAST_TOLD) return INK_SPREAD;
  return Math.min(INK_SPREAD, quantile(off, 0.5) - quantile(off, 0.16));
}
/** Fewer pixels than this tell no scatter. */
const LEAST_TOLD = 200;

/** How far the colour of pixel i lies from ink under this veil towards its ground, 0–1. */
function bareShare(s: Scene, ink: Ink, i: number, h: number): number {
  let up = 0;
  let down = 0;
  for (let c = 0; c < 3; c++) {
    const base = s.base[c][i];
    const inked = (1 - h) * leftOf(ink, s.cover[c][i], s.growth[c][i]) * base + h;
    up += (s.seen[c].data[i] - inked) * (base - inked);
    down += (base - inked) ** 2;
  }
  return Math.min(1, Math.max(0, up / (down + 1e-9)));
}

function sceneOf(
  cv: Cv,
  seen: Scene['seen'],
  reference: Reference,
  ground: Ground,
  camera: { readonly noise: number; readonly blurMm: number; readonly residualMm: number },
): Scene {
  const { w, h } = reference;
  const sigma = Math.max(0.5, camera.blurMm * SORT_PX);
  const soften = (of: (r: number) => number) => {
    const made = new Map<Plane, Float32Array>();
    return reference.rgb.map(plane => {
      if (!made.has(plane)) made.set(plane, blurPlane(cv, { w, h, data: plane.data.map(of) }, sigma).data);
      return made.get(plane)!;
    }) as unknown as Scene['cover'];
  };
  const dark = blurPlane(cv, { w, h, data: reference.light.data.map(v => 1 - v) }, sigma);
  return {
    w,
    h,
    seen,
    cover: soften(r => 1 - r),
    growth: soften(r => 4 * r * (1 - r)),
    dark: dark.data,
    slope: slopeOf(dark),
    base: ground.base,
    grain: ground.grain,
    wide: ground.wide,
    unsure: ground.unsure,
    noisy: seen.map(p => noiseIn(p.data, camera.noise)) as unknown as Scene['noisy'],
    offMm: 0.05 + 0.4 * camera.residualMm,
  };
}

/** What a pixel and its neighbours say together: heard near by, and followed a little farther off where they are agreed. */
function settled(
  cv: Cv,
  evidence: Float32Array,
  near: Float32Array,
  { w, h, prior }: { readonly w: number; readonly h: number; readonly prior: number },
): Float32Array {
  const heard = blurPlane(cv, { w, h, data: evidence }, HEARD_PX).data;
  const own = new Float32Array(w * h);
  for (let i = 0; i < own.length; i++)
    own[i] = (1 - OWN) * (heard[i] / Math.max(0.15, near[i])) + OWN * evidence[i] + prior;
  const odds = Float32Array.from(own);
  const leaning = new Float32Array(w * h);
  for (let turn = 0; turn < 3; turn++) {
    for (let i = 0; i < odds.length; i++) {
      // tanh(odds / 2), the faster way.
      const e = Math.exp(odds[i]);
      leaning[i] = (e - 1) / (e + 1);
    }
    const lean = blurPlane(cv, { w, h, data: leaning }, FOLLOWED_PX).data;
    for (let i = 0; i < odds.length; i++) odds[i] = own[i] + FOLLOWED * lean[i];
  }
  return odds;
}

/** Squared distance in scatters, difference in L*, or in tint, above which an eye tells the two apart. */
const LEAST_DISTANCE = 2;
const LEAST_LIGHTNESS = 4;
const LEAST_TINT = 0.04;

/** Where ink without paper over it would differ from this ground by more than its scatter, and an eye would see it. */
function whatCanBeSeen(cv: Cv, s: Scene, active: Int32Array) {
  const { w, h } = s;
  const clear = new Float32Array(w * h);
  for (const i of active) {
    let distance = 0;
    let bright = 0;
    let dull = 0;
    const e = explain(s, USUAL_INK, i, 0);
    for (let c = 0; c < 3; c++) {
      const base = s.base[c][i];
      distance = Math.max(distance, (inkedColour[c] - base) ** 2 / (0.5 * (e.landedVar + e.bareVar)));
      bright += inkedColour[c] / 3;
      dull += base / 3;
    }
    if (distance <= LEAST_DISTANCE) continue;
    const tint = inkedColour[0] - s.base[0][i] - (inkedColour[2] - s.base[2][i]);
    const isLighter = Math.abs(lightness(bright) - lightness(dull)) > LEAST_LIGHTNESS;
    clear[i] = isLighter || Math.abs(tint) > LEAST_TINT ? 1 : 0;
  }
  const near = blurPlane(cv, { w, h, data: clear }, HEARD_PX).data;
  return { visible: maskOf(w * h, i => near[i] > 0.25), weights: { clear, near } };
}

/** CIE L* of a linear relative luminance. */
export const lightness = (y: number): number => (y > 0.008856 ? 116 * Math.cbrt(y) - 16 : 903.3 * y);

/** A veil of its own, so much thicker than the one that goes on from near by, is tried as well. */
const WORTH_TRYING = 0.06;
const OWN_VEIL_MM = 0.9;
const MOST_OWN_VEIL = 0.9;
/** Log likelihood that a veil costs that is thicker here than on the whole. */
const strangeness = (veil: number, start: number) =>
  0.5 * (Math.max(0, veil - start) / (0.06 + 0.5 * start)) ** 2;

/**
 * The veil that would explain each neighbourhood if all of it had landed. A thick cloud of paper keeps the picture's
 * contrast under it, a bare place does not: over places of several tones only one of the two can be explained by it.
 */
function ownVeil(cv: Cv, s: Scene, alone: Alone, active: Int32Array): Float32Array {
  const { w, h: tall } = s;
  const up = new Float32Array(w * tall);
  const down = new Float32Array(w * tall);
  for (const i of active) {
    down[i] = alone.weight[i];
    up[i] = down[i] * Math.min(1, Math.max(0, alone.veil[i]));
  }
  const sigma = OWN_VEIL_MM * SORT_PX;
  const a = blurPlane(cv, { w, h: tall, data: up }, sigma).data;
  const b = blurPlane(cv, { w, h: tall, data: down }, sigma).data;
  return a.map((v, i) => Math.min(MOST_OWN_VEIL, v / (b[i] + 1e-6)));
}

/** Only pixels whose neighbourhood landed this surely, away from edges this steep, tell the veil. */
const WELL_INSIDE = 0.93;
const STEEP = 0.5;
/** Over what distance a veil is smooth, mm. */
const VEIL_REACH_MM = 1.2;

/** Smooth veil map: weighted local mean of what each landed pixel says, dark ink counting most. */
function localVeil(
  cv: Cv,
  s: Scene,
  alone: Alone,
  odds: Float32Array,
  start: number,
  active: Int32Array,
): Float32Array {
  const { w, h: tall } = s;
  const up = new Float32Array(w * tall);
  const down = new Float32Array(w * tall);
  const held = blurPlane(cv, { w, h: tall, data: odds.map(o => (o > 0 ? 1 : 0)) }, 0.25 * SORT_PX).data;
  let sum = 0;
  let weights = 0;
  for (const i of active) {
    if (held[i] < WELL_INSIDE || s.slope[i] > STEEP) continue;
    const landed = 1 / (1 + Math.exp(-1.5 * odds[i]));
    const v = alone.weight[i] * landed * landed;
    up[i] = v * Math.min(1, Math.max(-0.05, alone.veil[i]));
    down[i] = v;
    sum += up[i];
    weights += v;
  }
  const mean = weights ? Math.max(0, sum / weights) : start;
  const sigma = VEIL_REACH_MM * SORT_PX;
  const a = blurPlane(cv, { w, h: tall, data: up }, sigma).data;
  const b = blurPlane(cv, { w, h: tall, data: down }, sigma).data;
  const trust = 0.03 * (b.reduce((m, v) => Math.max(m, v), 0) + 1e-9);
  const most = Math.min(0.97, 2.5 * Math.max(start, mean) + 0.15);
  return a.map((v, i) => Math.min(most, Math.max(0, (v + trust * mean) / (b[i] + trust))));
}

/** Size of the gradient of a plane, per mm. */
function slopeOf(plane: Plane): Float32Array {
  const { w, h, data } = plane;
  return data.map((_, i) => {
    const x = i % w;
    const y = Math.floor(i / w);
    const gx = data[y * w + Math.min(w - 1, x + 1)] - data[y * w + Math.max(0, x - 1)];
    const gy = data[Math.min(h - 1, y + 1) * w + x] - data[Math.max(0, y - 1) * w + x];
    return (Math.hypot(gx, gy) / 2) * SORT_PX;
  });
}
