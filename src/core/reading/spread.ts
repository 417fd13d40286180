import { inverse as invert, Matrix } from 'ml-matrix';
import { blurPlane, type Cv, type Plane, scoped, toMat } from './cv.ts';
import { halved } from './halved.ts';
import { maskOf } from './mask.ts';
import { PX, SORT_PX } from './px.ts';

/** How wide edges are: the variances of what blurs them across and down, pixels² (at {@link SORT_PX} to a mm). */
export interface Spread {
  readonly xx: number;
  readonly yy: number;
  /** Standard error of what is spread along a direction, pixels². */
  readonly give: number;
}

/** Both sides are looked at through this much blur more, pixels: what is left to explain is then small and smooth. */
const SOFT = 0.25 * SORT_PX;
const ROUNDS = 3;
/** What a lens does at the least, pixels². */
export const LEAST_SPREAD: Spread = { xx: (0.07 * SORT_PX) ** 2, yy: (0.07 * SORT_PX) ** 2, give: 0 };
/** Of pixels that were blurred together every other one tells as much as all: white or black fields of a chessboard. */
const ASKED = 2;
/** Fewer of them than 8 mm² have tell nothing. */
const LEAST_PIXELS = (8 * SORT_PX ** 2) / ASKED;
/** What is fitted: the spread, a shift, a strength. */
const TERMS = 6;
/** Only edges tell: change of light over a pixel. */
const LEAST_SLOPE = 0.04 / SORT_PX;
/** What changes over longer ways than this (veil, light, the ground's own rings) is left out, pixels. */
const LONG = 1.2 * SORT_PX;
/** So near to the end of what is seen nothing is used: what lies beyond it is not known, pixels. */
const RIM = 2.8 * SORT_PX;
/** What says nothing of slanted edges is taken to have none of them. */
const UPRIGHT = 0.03;
/** Edges that stand alone: within this many pixels (a standard deviation) they all rise the same way, to this share. */
const ALONE_PX = 0.4 * SORT_PX;
const ALONE = 0.93;

/** What edges are looked at with: the light seen, the picture as it would be, and where it counts. */
export interface Edges {
  readonly light: Plane;
  /** The picture under the least blur that it has, by {@link underLens}: what is sharper than a pixel folds over. */
  readonly soft: Plane;
  /** How much of the picture's contrast is left at each pixel, 0 where it does not count. */
  readonly open: Float32Array;
  readonly rim?: number;
}

/** Normal equations of spread (xx, xy, yy), shift and strength, with what is left unexplained. */
interface Fitted {
  readonly A: number[][];
  readonly y: Float64Array;
  readonly all: number;
  readonly used: number;
}

/** A sharp plane of twice the resolution under a camera's spread, at the resolution of edges. */
export function underLens(cv: Cv, sharp: Plane, { xx, yy }: Pick<Spread, 'xx' | 'yy'>): Plane {
  const fine = [xx, yy].map(v => Math.max(LEAST_SPREAD.xx, v) * (PX / SORT_PX) ** 2) as [number, number];
  return halved(blurAlong(cv, sharp, fine));
}

/**
 * The spread of a picture's edges, of which `soft` is under {@link LEAST_SPREAD}. A blur with covariance C adds ½ C : ∇∇ to a smooth picture (the second term of its
 * Taylor series), so C is fitted by least squares between what is seen and what was expected, in rounds, each time from
 * the picture that has the spread found so far. Only edges that stand alone are used. Nothing where there are too few.
 */
export function spreadOf(cv: Cv, edges: Edges): Spread | undefined {
  const prepared = prepare(cv, edges);
  let found: Spread = LEAST_SPREAD;
  for (let round = 0; round < ROUNDS; round++) {
    const { A, y, all, used } = prepared(softened(cv, edges.soft, over(found, LEAST_SPREAD)));
    if (used < LEAST_PIXELS) return undefined;
    A[1][1] += UPRIGHT * (A[0][0] + A[2][2]);
    const inverse = invert(new Matrix(A));
    const beta = inverse.mmul(Matrix.columnVector(y)).to1DArray();
    const left = Math.max(0, all - y.reduce((sum, v, k) => sum + v * beta[k], 0)) / used;
    const give = Math.sqrt(left * TOGETHER * Math.max(inverse.get(0, 0), inverse.get(2, 2)));
    found = { xx: found.xx + beta[0], yy: found.yy + beta[2], give };
  }
  return found;
}

/** What one spread has more than another. */
const over = (a: Spread, b: Spread) => ({ xx: a.xx - b.xx, yy: a.yy - b.yy });

/** A drawing-out of edges in one direction. */
export interface DrawnOut {
  /** Variance along it, pixels², and its standard error. */
  readonly variance: number;
  readonly give: number;
  /** Radians from the x axis. */
  readonly turn: number;
}

const WAYS = 36;
/** What a print bleeds, or the guess of the camera's blur is off, alike in all directions: a scatter, pixels². */
const EVEN_SPREAD = (0.06 * SORT_PX) ** 2;

/**
 * How edges are drawn out in one direction beyond the camera's spread, which `soft` has: the same fit, held to a spread along one
 * direction and a little of one alike in all. Each round the unheld fit is brought to the nearest such spread, nearest
 * by what the edges can tell (their information matrix), so that a direction that no edge speaks of does not count.
 */
export function drawnOut(cv: Cv, edges: Edges): DrawnOut | undefined {
  const prepared = prepare(cv, edges);
  let found: DrawnOut = { variance: 0, give: 0, turn: 0 };
  for (let round = 0; round < ROUNDS; round++) {
    const { A, y, all, used } = prepared(softened(cv, edges.soft, NO_MORE, found));
    if (used < LEAST_PIXELS) return undefined;
    const M = new Matrix(A);
    const spread = [0, 1, 2];
    const rest = [3, 4, 5];
    const crossed = M.selection(spread, rest).mmul(invert(M.selection(rest, rest)));
    const held = M.selection(spread, spread).sub(crossed.mmul(M.selection(rest, spread)));
    const pulled = Matrix.columnVector(spread.map(k => y[k])).sub(
      crossed.mmul(Matrix.columnVector(rest.map(k => y[k]))),
    );
    const beta = invert(M).mmul(Matrix.columnVector(y)).to1DArray();
    const left = Math.max(1e-9, (all - y.reduce((sum, v, k) => sum + v * beta[k], 0)) / used) * TOGETHER;
    found = nearestDrawn(held, pulled, found, left);
  }
  return found;
}

/** The spread along one direction that explains most, given what the edges tell about the rest to be explained. */
function nearestDrawn(held: Matrix, pulled: Matrix, before: DrawnOut, left: number): DrawnOut {
  // The right side for the whole spread, not only for what this round would add.
  const whole = pulled
    .clone()
    .add(held.mmul(Matrix.columnVector(alongWay(before.turn).map(v => v * before.variance))));
  const even = Matrix.columnVector([1, 0, 1]);
  const prior = left / EVEN_SPREAD ** 2;
  let best: (DrawnOut & { readonly gain: number }) | undefined;
  for (let k = 0; k < WAYS; k++) {
    const turn = (Math.PI * k) / WAYS;
    const way = Matrix.columnVector(alongWay(turn));
    const of = (a: Matrix, b: Matrix) => a.transpose().mmul(held).mmul(b).get(0, 0);
    const to = (a: Matrix) => a.transpose().mmul(whole).get(0, 0);
    const system = new Matrix([
      [of(way, way) + 1e-12, of(way, even)],
      [of(even, way), of(even, even) + prior],
    ]);
    const right = Matrix.columnVector([to(way), to(even)]);
    const inverse = invert(system);
    const [variance] = inverse.mmul(right).to1DArray();
    if (variance < 0) continue;
    const gain = right.transpose().mmul(inverse).mmul(right).get(0, 0);
    if (!best || gain > best.gain) best = { variance, turn, gain, give: Math.sqrt(left * inverse.get(0, 0)) };
  }
  return best ? { variance: best.variance, turn: best.turn, give: best.give } : { ...before, variance: 0 };
}

const alongWay = (turn: number) => [
  Math.cos(turn) ** 2,
  Math.cos(turn) * Math.sin(turn),
  Math.sin(turn) ** 2,
];
/** Neighbours that were blurred together say the same thing: so many of those that are asked, every other one, count as one. */
const TOGETHER = (4 * Math.PI * SOFT ** 2) / ASKED;

const NO_MORE = { xx: 0, yy: 0 };

/** A picture's edges as they look under so much spread and {@link SOFT} more, drawn out or not. */
function softened(
  cv: Cv,
  soft: Plane,
  { xx, yy }: Pick<Spread, 'xx' | 'yy'>,
  drawn?: Pick<DrawnOut, 'variance' | 'turn'>,
): Float32Array {
  const wide = [xx, yy].map(v => Math.max(0.1, v + SOFT ** 2)) as [number, number];
  const isDrawn = drawn && drawn.variance > LEAST_DRAWN;
  return edgesOnly(cv, isDrawn ? drawnAlong(cv, soft, wide, drawn) : blurAlong(cv, soft, wide));
}
/** A drawing-out of less than this makes no difference, pixels². */
const LEAST_DRAWN = (0.02 * SORT_PX) ** 2;

/** Gets the edges ready once; what it gives compares them with what was expected. */
function prepare(cv: Cv, { light, soft, open, rim = RIM }: Edges): (expected: Float32Array) => Fitted {
  const { w, h } = light;
  const seen = edgesOnly(cv, blurPlane(cv, light, SOFT));
  const alone = standingAlone(cv, soft);
  const asked: number[] = [];
  for (let v = Math.ceil(rim); v < h - rim; v++)
    for (let u = Math.ceil(rim) + (v % ASKED); u < w - rim; u += ASKED) {
      const i = v * w + u;
      if (open[i] && alone[i]) asked.push(i);
    }
  return expected => fittedTo(seen, expected, open, asked, w);
}

/** The normal equations of what is seen at these pixels against what was expected. */
function fittedTo(
  seen: Float32Array,
  expected: Float32Array,
  open: Float32Array,
  asked: readonly number[],
  w: number,
): Fitted {
  const sums = new Float64Array(TERMS * TERMS);
  const y = new Float64Array(TERMS);
  const row = new Float64Array(TERMS);
  let used = 0;
  let all = 0;
  for (const i of asked) {
    const k = open[i];
    const here = expected[i];
    const left = expected[i - 1];
    const right = expected[i + 1];
    const above = expected[i - w];
    const below = expected[i + w];
    row[3] = (k * (right - left)) / 2;
    row[4] = (k * (below - above)) / 2;
    if (Math.abs(row[3]) + Math.abs(row[4]) < LEAST_SLOPE) continue;
    row[0] = (k * (right - 2 * here + left)) / 2;
    row[1] =
      (k * (expected[i + w + 1] - expected[i - w + 1] - expected[i + w - 1] + expected[i - w - 1])) / 4;
    row[2] = (k * (below - 2 * here + above)) / 2;
    // A picture that lies a little off, and ink a little lighter or darker than taken, are none of it.
    row[5] = k * here;
    const off = seen[i] - k * here;
    used++;
    all += off * off;
    for (let a = 0; a < TERMS; a++) {
      y[a] += row[a] * off;
      for (let b = a; b < TERMS; b++) sums[a * TERMS + b] += row[a] * row[b];
    }
  }
  const A = Array.from({ length: TERMS }, (_, i) =>
    Array.from({ length: TERMS }, (_, j) => sums[Math.min(i, j) * TERMS + Math.max(i, j)]),
  );
  for (let i = 0; i < TERMS; i++) A[i][i] += 1e-9;
  return { A, y, all, used };
}

/**
 * A plane under a Gaussian with variances `wide` across and down, and drawn out evenly along a direction: one kernel, a
 * mean of Gaussians set along the way.
 */
function drawnAlong(
  cv: Cv,
  plane: Plane,
  [xx, yy]: readonly [number, number],
  { variance, turn }: Pick<DrawnOut, 'variance' | 'turn'>,
): Plane {
  const long = Math.sqrt(12 * variance);
  const reach = Math.ceil(long / 2 + 3.5 * Math.sqrt(Math.max(xx, yy)));
  const side = 2 * reach + 1;
  const kernel = new Float32Array(side * side);
  const steps = Math.max(8, Math.ceil(long * 4));
  for (let k = 0; k < steps; k++) {
    const t = ((k + 0.5) / steps - 0.5) * long;
    const [x, y] = [reach + t * Math.cos(turn), reach + t * Math.sin(turn)];
    for (let v = 0; v < side; v++)
      for (let u = 0; u < side; u++)
        kernel[v * side + u] += Math.exp(-0.5 * ((u - x) ** 2 / xx + (v - y) ** 2 / yy));
  }
  const sum = kernel.reduce((all, v) => all + v, 0);
  return scoped(keep => {
    const from = keep(toMat(cv, plane));
    const brush = keep(cv.matFromArray(side, side, cv.CV_32F, kernel.map(v => v / sum) as never));
    const to = keep(new cv.Mat());
    cv.filter2D(from, to, -1, brush, new cv.Point(-1, -1), 0, cv.BORDER_REPLICATE);
    return { w: plane.w, h: plane.h, data: new Float32Array(to.data32F) };
  });
}

/** A plane without what changes slowly. */
function edgesOnly(cv: Cv, plane: Plane): Float32Array {
  const slow = blurPlane(cv, plane, LONG).data;
  const out = new Float32Array(slow.length);
  for (let i = 0; i < out.length; i++) out[i] = plane.data[i] - slow[i];
  return out;
}

/** 1 where all edges near by rise the same way: no fine lines, no corners of checks. */
function standingAlone(cv: Cv, { w, h, data }: Plane): Uint8Array {
  const [gx, gy, size] = [0, 1, 2].map(() => new Float32Array(w * h));
  for (let y = 1; y < h - 1; y++)
    for (let x = 1; x < w - 1; x++) {
      const i = y * w + x;
      gx[i] = data[i + 1] - data[i - 1];
      gy[i] = data[i + w] - data[i - w];
      size[i] = Math.sqrt(gx[i] * gx[i] + gy[i] * gy[i]);
    }
  const [ax, ay, all] = [gx, gy, size].map(d => blurPlane(cv, { w, h, data: d }, ALONE_PX).data);
  return maskOf(w * h, i => Math.sqrt(ax[i] * ax[i] + ay[i] * ay[i]) > ALONE * all[i] + 1e-6);
}

/** A plane under a Gaussian with these variances across and down, pixels². */
function blurAlong(cv: Cv, plane: Plane, wide: readonly [number, number]): Plane {
  return scoped(keep => {
    const from = keep(toMat(cv, plane));
    const to = keep(new cv.Mat());
    const [across, down] = wide.map(Math.sqrt);
    cv.GaussianBlur(from, to, new cv.Size(0, 0), across, down, cv.BORDER_REPLICATE);
    return { w: plane.w, h: plane.h, data: new Float32Array(to.data32F) };
  });
}
