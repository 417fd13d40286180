import { Matrix, solve } from 'ml-matrix';
import { blurPlane, type Cv, type Plane } from './cv.ts';
import { PX } from './straighten.ts';

type Three = readonly [number, number, number];

/** What the bare ground looks like: a plane in each channel over the picture and the scatter about it. */
export interface Ground {
  /** Colour at picture pixel (x, y). */
  readonly at: (x: number, y: number) => Three;
  /** Covariance of the grain: rr, gg, bb, rg, rb, gb. */
  readonly cov: readonly [number, number, number, number, number, number];
}

/** The picture's pixels sorted into landed and bare, with the veil over what landed. */
export interface Sorted {
  readonly side: number;
  readonly inked: Uint8Array;
  readonly visible: Uint8Array;
  readonly bare: Uint8Array;
  readonly veil: Float32Array;
  /** How sure the sorting is: mean chance of being wrong over the inked, visible area. */
  readonly doubt: number;
}

export const INKED_BELOW = 0.6;

/** Fits the ground's colour as a plane in x and y per channel, twice, leaving out outliers the second time. */
export function groundFrom(points: readonly { x: number; y: number; rgb: Three }[]): Ground {
  let kept = points;
  let planes: number[][] = [];
  const predict = (c: number, x: number, y: number) => planes[c][0] + planes[c][1] * x + planes[c][2] * y;
  for (let pass = 0; pass < 2; pass++) {
    const X = new Matrix(kept.map(p => [1, p.x, p.y]));
    const XtX = X.transpose().mmul(X);
    planes = [0, 1, 2].map(c =>
      solve(XtX, X.transpose().mmul(Matrix.columnVector(kept.map(p => p.rgb[c])))).to1DArray(),
    );
    const off = kept.map(p => Math.abs(p.rgb[1] - predict(1, p.x, p.y)));
    const limit = 4 * [...off].sort((a, b) => a - b)[off.length >> 1] + 0.01;
    if (pass === 0) kept = kept.filter((_, i) => off[i] < limit);
  }
  const d = kept.map(p => [0, 1, 2].map(c => p.rgb[c] - predict(c, p.x, p.y)));
  const mean = (i: number, j: number) => d.reduce((sum, row) => sum + row[i] * row[j], 0) / d.length;
  return {
    at: (x, y) => [
      Math.max(0.005, predict(0, x, y)),
      Math.max(0.005, predict(1, x, y)),
      Math.max(0.005, predict(2, x, y)),
    ],
    cov: [mean(0, 0), mean(1, 1), mean(2, 2), mean(0, 1), mean(0, 2), mean(1, 2)],
  };
}

/** log of a normal density in three dimensions up to a constant; cov as in {@link Ground}. */
function logNormal(dx: number, dy: number, dz: number, c: Float64Array): number {
  const a = c[0];
  const e = c[1];
  const i = c[2];
  const b = c[3];
  const f = c[4];
  const g = c[5];
  const A = e * i - g * g;
  const B = f * g - b * i;
  const C = b * g - e * f;
  const det = Math.max(1e-18, a * A + b * B + f * C);
  const E = a * i - f * f;
  const F = b * f - a * g;
  const I = a * e - b * b;
  const q = (dx * dx * A + dy * dy * E + dz * dz * I + 2 * (dx * dy * B + dx * dz * C + dy * dz * F)) / det;
  return -0.5 * (q + Math.log(det));
}

interface Scene {
  readonly seen: readonly [Plane, Plane, Plane];
  /** Reference blurred as the camera blurs, linear. */
  readonly soft: Plane;
  readonly slope: Float32Array;
  /** The bare ground's colour at every pixel. */
  readonly base: readonly [Float32Array, Float32Array, Float32Array];
  readonly cov: Ground['cov'];
  readonly noise: number;
  readonly offMm: number;
}

const PAIRS = [
  [0, 0],
  [1, 1],
  [2, 2],
  [0, 1],
  [0, 2],
  [1, 2],
] as const;

/** What is left of uneven light after balancing, as a share of the light. */
const BALANCE_ERROR = 0.015;
/** Variance below which nothing is believed: half a level of an eight-bit file in the darks. */
const FLOOR_VARIANCE = 4e-6;
/** The part of the camera's noise that is there in the dark, against that which grows with the root of the light. */
const READ_NOISE = 0.4;

/** Scratch for {@link explain}, which runs for every pixel: written there, read right after. */
const told = { landed: 0, bare: 0, landedCov: new Float64Array(6), bareCov: new Float64Array(6) };
const pull = new Float64Array(3);
const ground = new Float64Array(3);

/** log likelihoods of "landed under veil h" and "bare" at pixel i, with their covariances. */
function explain(s: Scene, i: number, h: number, spread: number): typeof told {
  const r = s.soft.data[i];
  const b0 = s.base[0][i];
  const b1 = s.base[1][i];
  const b2 = s.base[2][i];
  ground[0] = b0;
  ground[1] = b1;
  ground[2] = b2;
  const cover = (1 - h) * r;
  const slip = s.slope[i] * s.offMm;
  for (let c = 0; c < 3; c++) pull[c] = 1 - r * ground[c];
  for (let k = 0; k < 6; k++) {
    const [p, q] = PAIRS[k];
    const grain = s.cov[k];
    told.landedCov[k] =
      spread * spread * pull[p] * pull[q] + slip * slip * ground[p] * ground[q] + cover * cover * grain;
    // As much give along the veil's line as landed ink has: a pixel half bare, half inked falls in the middle.
    told.bareCov[k] = grain + spread * spread * pull[p] * pull[q];
  }
  for (let c = 0; c < 3; c++) {
    const v = s.seen[c].data[i];
    const shot = s.noise * (READ_NOISE + Math.sqrt(Math.max(0, v)));
    const n = shot * shot + BALANCE_ERROR ** 2 * v * v + FLOOR_VARIANCE;
    told.landedCov[c] += n;
    told.bareCov[c] += n;
  }
  const seen0 = s.seen[0].data[i];
  const seen1 = s.seen[1].data[i];
  const seen2 = s.seen[2].data[i];
  told.landed = logNormal(
    seen0 - cover * b0 - h,
    seen1 - cover * b1 - h,
    seen2 - cover * b2 - h,
    told.landedCov,
  );
  told.bare = logNormal(seen0 - b0, seen1 - b1, seen2 - b2, told.bareCov);
  return told;
}

/** Veil that would explain pixel i alone, by least squares along the line from ink to paper white. */
function veilAlone(s: Scene, i: number): { h: number; weight: number } {
  const r = s.soft.data[i];
  let up = 0;
  let down = 0;
  for (let c = 0; c < 3; c++) {
    const pull = 1 - r * s.base[c][i];
    up += (s.seen[c].data[i] - r * s.base[c][i]) * pull;
    down += pull * pull;
  }
  const grain = r * r * (s.cov[0] + s.cov[1] + s.cov[2]);
  return { h: up / down, weight: (down * down) / (down * 0.003 + grain * down + 1e-4) };
}

const logMix = (a: number, wa: number, b: number, wb: number) => {
  const top = Math.max(a, b);
  return top + Math.log(wa * Math.exp(a - top) + wb * Math.exp(b - top) + 1e-6);
};

/** Scatter of ink about its own colour, and how much more of it a veil brings. */
const INK_SPREAD = 0.035;
const VEIL_SPREAD = 0.3;
const spreadFor = (h: number) => INK_SPREAD + VEIL_SPREAD * h;

/** Reference this dark and this flat tells a veil best. */
const DARK = 0.3;
const FLAT = 0.15;
const MOST_FIRST_VEIL = 0.75;
/** Shares that may have landed, tried in turn. */
const SHARES_LANDED = [0.9, 0.6, 0.25];
/** Log likelihood that each unit of veil costs a pixel: little veil is more usual than much. */
const VEIL_COST = 0.15;

/** The veil that, taken as one number, best explains the dark parts together with some share of bare ground. */
function firstVeil(s: Scene): number {
  const dark: number[] = [];
  for (let i = 0; i < s.soft.data.length; i += 7)
    if (s.soft.data[i] < DARK && s.slope[i] < FLAT) dark.push(i);
  let best = 0;
  let bestScore = Number.NEGATIVE_INFINITY;
  for (let h = 0; h <= MOST_FIRST_VEIL; h += 0.03)
    for (const share of SHARES_LANDED) {
      let score = -dark.length * VEIL_COST * h;
      for (const i of dark) {
        const e = explain(s, i, h, spreadFor(h));
        score += logMix(e.landed, share, e.bare, 1 - share);
      }
      if (score > bestScore) [best, bestScore] = [h, score];
    }
  return best;
}

/** The ground's colour written out for every pixel. */
function basePlanes(ground: Ground, side: number): Scene['base'] {
  const planes = [0, 1, 2].map(() => new Float32Array(side * side));
  for (let i = 0; i < side * side; i++) {
    const colour = ground.at(i % side, Math.floor(i / side));
    for (let c = 0; c < 3; c++) planes[c][i] = colour[c];
  }
  return planes as unknown as Scene['base'];
}

/** Log odds that a pixel landed before it is looked at. */
const LANDED_PRIOR = Math.log(0.85 / 0.15);
const TURNS = 4;
/** No single pixel says more than this, in log odds. */
const MOST_EVIDENCE = 12;
/** Over how many pixels neighbours are heard, as a standard deviation. */
const HEARD_PX = 1.1;

/**
 * Sorts every pixel of the picture into landed or bare by comparing two explanations: ink on this
 * ground under a local veil, or the ground itself with its grain; and estimates the veil from what
 * landed, in turns (expectation–maximisation). The model is S = (1 − h)·R·B + h·white (docs/READINGS.md).
 */
export function sortPixels(
  cv: Cv,
  seen: readonly [Plane, Plane, Plane],
  reference: Plane,
  ground: Ground,
  camera: { noise: number; blurMm: number; residualMm: number },
): Sorted {
  const side = reference.w;
  const count = side * side;
  const soft = blurPlane(cv, reference, Math.max(0.5, camera.blurMm * PX));
  const slope = slopeOf(soft);
  const scene: Scene = {
    seen,
    soft,
    slope,
    base: basePlanes(ground, side),
    cov: ground.cov,
    noise: camera.noise,
    offMm: 0.05 + 0.4 * camera.residualMm,
  };
  const start = firstVeil(scene);

  let veil = new Float32Array(count).fill(start);
  let odds = new Float32Array(count);
  const visible = new Uint8Array(count);
  for (let turn = 0; turn < TURNS; turn++) {
    const evidence = new Float32Array(count);
    const clear = new Float32Array(count);
    for (let i = 0; i < count; i++) {
      const h = veil[i];
      const e = explain(scene, i, h, spreadFor(h));
      const strange = Math.max(0, h - start) / (0.05 + 0.4 * start);
      evidence[i] = Math.max(
        -MOST_EVIDENCE,
        Math.min(MOST_EVIDENCE, e.landed - e.bare - 0.5 * strange * strange),
      );
      clear[i] = canBeSeen(scene, i, h, e) ? 1 : 0;
    }
    const weighed = blurPlane(
      cv,
      { w: side, h: side, data: evidence.map((v, i) => v * clear[i]) },
      HEARD_PX,
    ).data;
    const weights = blurPlane(cv, { w: side, h: side, data: clear }, HEARD_PX).data;
    odds = weighed.map((v, i) => v / Math.max(0.15, weights[i]) + LANDED_PRIOR) as Float32Array<ArrayBuffer>;
    for (let i = 0; i < count; i++) visible[i] = weights[i] > 0.25 ? 1 : 0;
    veil = localVeil(cv, scene, odds, start);
  }

  const inked = new Uint8Array(count);
  for (let i = 0; i < count; i++) inked[i] = reference.data[i] < INKED_BELOW ? 1 : 0;
  const bare = inked.map((ink, i) => (ink && visible[i] && odds[i] < 0 ? 1 : 0));
  let doubt = 0;
  let area = 0;
  for (let i = 0; i < count; i++)
    if (inked[i] && visible[i]) {
      area++;
      doubt += 1 / (1 + Math.exp(Math.abs(odds[i]) * 1.5));
    }
  return { side, inked, visible, bare, veil, doubt: area ? doubt / area : 1 };
}

/** Squared distance in scatters, difference in L*, or in tint, above which an eye tells the two apart. */
const LEAST_DISTANCE = 2;
const LEAST_LIGHTNESS = 4;
const LEAST_TINT = 0.04;

/** Whether landed and bare differ by more than the scatter at this pixel: Mahalanobis distance above 2 and 4 L*. */
function canBeSeen(s: Scene, i: number, h: number, e: ReturnType<typeof explain>): boolean {
  const r = s.soft.data[i];
  let distance = 0;
  let bright = 0;
  let dull = 0;
  for (let c = 0; c < 3; c++) {
    const base = s.base[c][i];
    const landed = (1 - h) * r * base + h;
    distance = Math.max(distance, (landed - base) ** 2 / (0.5 * (e.landedCov[c] + e.bareCov[c])));
    bright += landed / 3;
    dull += base / 3;
  }
  const tint = s.base[0][i] - s.base[2][i];
  const colour = Math.abs(((1 - h) * r - 1) * tint);
  const isLighter = Math.abs(lightness(bright) - lightness(dull)) > LEAST_LIGHTNESS;
  return distance > LEAST_DISTANCE && (isLighter || colour > LEAST_TINT);
}

/** CIE L* of a linear relative luminance. */
export const lightness = (y: number): number => (y > 0.008856 ? 116 * Math.cbrt(y) - 16 : 903.3 * y);

/** Only pixels whose neighbourhood landed this surely, away from edges this steep, tell the veil. */
const WELL_INSIDE = 0.93;
const STEEP = 0.5;
/** Over what distance a veil is smooth, mm. */
const VEIL_REACH_MM = 1.2;

/** Smooth veil map: weighted local mean of what each landed pixel says, dark ink counting most. */
function localVeil(cv: Cv, s: Scene, odds: Float32Array, start: number): Float32Array<ArrayBuffer> {
  const side = s.soft.w;
  const up = new Float32Array(side * side);
  const down = new Float32Array(side * side);
  const held = blurPlane(cv, { w: side, h: side, data: odds.map(o => (o > 0 ? 1 : 0)) }, 2.5).data;
  for (let i = 0; i < up.length; i++) {
    const landed = 1 / (1 + Math.exp(-1.5 * odds[i]));
    if (held[i] < WELL_INSIDE || s.slope[i] > STEEP) continue;
    const { h, weight } = veilAlone(s, i);
    const w = weight * landed * landed;
    up[i] = w * Math.min(1, Math.max(-0.05, h));
    down[i] = w;
  }
  const sigma = VEIL_REACH_MM * PX;
  const a = blurPlane(cv, { w: side, h: side, data: up }, sigma).data;
  const b = blurPlane(cv, { w: side, h: side, data: down }, sigma).data;
  const trust = 0.03 * (b.reduce((m, v) => Math.max(m, v), 0) + 1e-9);
  const most = Math.min(0.97, 2.2 * start + 0.12);
  return a.map((v, i) =>
    Math.min(most, Math.max(0, (v + trust * start) / (b[i] + trust))),
  ) as Float32Array<ArrayBuffer>;
}

/** Size of the gradient of the reference, per mm. */
function slopeOf(plane: Plane): Float32Array {
  const { w, h, data } = plane;
  return data.map((_, i) => {
    const x = i % w;
    const y = Math.floor(i / w);
    const gx = data[y * w + Math.min(w - 1, x + 1)] - data[y * w + Math.max(0, x - 1)];
    const gy = data[Math.min(h - 1, y + 1) * w + x] - data[Math.max(0, y - 1) * w + x];
    return (Math.hypot(gx, gy) / 2) * PX;
  });
}
