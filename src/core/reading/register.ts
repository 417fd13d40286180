import { type Cv, type Plane, scoped, toMat } from './cv.ts';
import { halved } from './halved.ts';
import { PX } from './px.ts';

/** Picture pixel → window pixel, both at the working resolution: [a, b, c; d, e, f]. */
export type Affine = readonly [number, number, number, number, number, number];

export interface Registration {
  readonly warp: Affine;
  readonly mirrored: boolean;
  /** Clockwise quarter turns of the picture on the ground, degrees. */
  readonly turn: 0 | 90 | 180 | 270;
  /** Correlation of the coarse match, 0–1. */
  readonly match: number;
  /** What is left between reference and photo after alignment, mm; nothing when too little landed to tell. */
  readonly residualMm: number | undefined;
}

/** Stop after so many steps or when a step changes little. */
const COUNT_AND_EPS = 3;
const CHANGES_LITTLE = 3e-4;
/** What changes over longer ways is left out when edges are compared, coarse pixels. */
const SLOW = 8;
/** Small angles that every way round is tried at, and those that only the likeliest ways are. */
const ANGLES = [-5, 0, 5];
const MORE_ANGLES = [-7.5, -2.5, 2.5, 7.5];
const TURNS = [0, 90, 180, 270] as const;

const multiply = (m: Affine, n: Affine): Affine => [
  m[0] * n[0] + m[1] * n[3],
  m[0] * n[1] + m[1] * n[4],
  m[0] * n[2] + m[1] * n[5] + m[2],
  m[3] * n[0] + m[4] * n[3],
  m[3] * n[1] + m[4] * n[4],
  m[3] * n[2] + m[4] * n[5] + m[5],
];

/** Applies an affine map to a point. */
export const move = (m: Affine, x: number, y: number): [number, number] => [
  m[0] * x + m[1] * y + m[2],
  m[3] * x + m[4] * y + m[5],
];

/** The inverse of an affine map. */
export function inverse(m: Affine): Affine {
  const det = m[0] * m[4] - m[1] * m[3];
  const [a, b, d, e] = [m[4] / det, -m[1] / det, -m[3] / det, m[0] / det];
  return [a, b, -(a * m[2] + b * m[5]), d, e, -(d * m[2] + e * m[5])];
}

/** Mirror (left–right) first, then a clockwise turn, about the middle of a w × h picture; what comes of it begins at 0, 0. */
function orientation(w: number, h: number, mirror: boolean, turn: number): Affine {
  const rad = (turn * Math.PI) / 180;
  const [cos, sin] = [Math.round(Math.cos(rad) * 1e9) / 1e9, Math.round(Math.sin(rad) * 1e9) / 1e9];
  const size = turnedSize(w, h, turn);
  const centre: Affine = [1, 0, -(w - 1) / 2, 0, 1, -(h - 1) / 2];
  const flip: Affine = mirror ? [-1, 0, 0, 0, 1, 0] : [1, 0, 0, 0, 1, 0];
  const back: Affine = [1, 0, (size.w - 1) / 2, 0, 1, (size.h - 1) / 2];
  return multiply(back, multiply([cos, -sin, 0, sin, cos, 0], multiply(flip, centre)));
}

/** The size of a w × h picture after a turn, to the nearest quarter turn. */
const turnedSize = (w: number, h: number, turn: number) =>
  Math.round(turn / 90) % 2 ? { w: h, h: w } : { w, h };

/** A way round that a picture may lie. */
type Way = Pick<Registration, 'mirrored' | 'turn'>;
interface Found extends Way {
  readonly match: number;
  readonly warp: Affine;
}
const EVERY_WAY: readonly Way[] = [false, true].flatMap(mirrored => TURNS.map(turn => ({ mirrored, turn })));
const AS_MADE = EVERY_WAY[0];

/** A likeness from which on a place is the right one. */
const UNMISTAKABLE = 0.9;
/** A likeness below which a place is looked at once more. */
const POOR = 0.8;
/** So much liker than the picture is to itself another way round a place has to be, to be the right one. */
const BEYOND = 0.25;
/** Places whose corners lie no farther apart than this are near by, pixels. */
const NEAR_BY = 12;
/** Another way round is only looked at more closely when the coarse match of it comes this near to the best one. */
const NEAR = 0.1;

/**
 * Finds the reference in the window, at half their resolution: coarse by normalised correlation over quarter turns,
 * mirror, small angles and shifts; then fine by maximising the enhanced correlation coefficient
 * (Evangelidis & Psarakis 2008), Euclidean and then affine, for each way round that comes near. Then checks what is
 * left at the full, block by block. Both planes at {@link PX} px/mm; `reference` smaller than `seen`.
 */
export function register(cv: Cv, seen: Plane, reference: Plane): Registration {
  const half = { seen: halved(seen), reference: halved(reference) };
  const { fine, isStretched, ...best } = likeliest(cv, half.seen, half.reference);
  let { warp: near } = best;
  // Under much paper a longer look may bring it nearer.
  if (!isStretched || fine < POOR) {
    const longer = refine(cv, half.seen, half.reference, best, LONGER);
    near = nearest(cv, half.seen, half.reference, best, longer).warp;
  }
  const warp = inFull(near);
  return { ...best, warp, residualMm: residual(cv, seen, reference, warp) };
}

/** A place that was looked at closely, and how like the reference it is there. */
interface Refined extends Found {
  readonly isStretched: boolean;
  readonly fine: number;
}

/** Of a place and what came of refining it the one that is likest. */
function nearest(cv: Cv, seen: Plane, reference: Plane, way: Found, refined: readonly Aligned[]): Refined {
  return [{ warp: way.warp, isStretched: false }, ...refined]
    .map(r => ({ ...way, ...r, fine: likeness(cv, seen, reference, r.warp) }))
    .reduce((a, b) => (b.fine > a.fine ? b : a));
}

/** The likeliest place of the reference. */
function likeliest(cv: Cv, seen: Plane, reference: Plane): Refined {
  const small = { seen: halved(seen), reference: halved(reference) };
  /** A place as it is after a look from afar, turned and shifted only. */
  const afar = (way: Found): Refined => {
    const from = { ...way, warp: inHalf(way.warp) };
    const turned = refine(cv, small.seen, small.reference, from, AT_QUARTER);
    const best = nearest(cv, small.seen, small.reference, from, turned);
    return { ...best, warp: inFull(best.warp) };
  };
  const close = (way: Found) => nearest(cv, seen, reference, way, refine(cv, seen, reference, way, AT_HALF));
  // Nearly all pictures lie as they were made: where one does, beyond what it is like itself another way round, that is it.
  const enough = Math.max(POOR, likenessToItself(cv, small.reference) + BEYOND);
  if (enough < 1) {
    const [asMade] = coarse(cv, small.seen, small.reference, [AS_MADE]).sort((a, b) => b.match - a.match);
    const found = asMade && close(afar(inFullWay(asMade)));
    if (found?.fine >= enough) return found;
  }
  const ways = coarse(cv, small.seen, small.reference, EVERY_WAY)
    .map(inFullWay)
    .sort((a, b) => b.match - a.match);
  // The likeliest three places, and the likeliest of another way round: where some is gone, any of them may be it.
  const isLike = (w: Found) => w.mirrored === ways[0].mirrored && w.turn === ways[0].turn;
  const other = ways.find(w => !isLike(w) && w.match > ways[0].match - NEAR);
  const near = [...ways.filter(isLike).slice(0, 3), ...(other ? [other] : [])];
  let best = afar(near[0]);
  const tried = [best];
  // Where it is as like as can be, nothing else is tried.
  if (best.fine < UNMISTAKABLE)
    for (const way of near.slice(1)) {
      // What begins near by ends in the same place, unless little can be told.
      if (isLike(way) && best.fine > POOR && apart(way, best, reference) < NEAR_BY) continue;
      const next = afar(way);
      tried.push(next);
      if (next.fine > best.fine) best = next;
    }
  const likest = tried
    .filter(t => t === best || (t.fine > best.fine - MAY_BE && apart(t, best, reference) > SAME_PLACE))
    .map(close)
    .reduce((a, b) => (b.fine > a.fine ? b : a));
  // That it is there at all is told by the most like it was anywhere this way round.
  const same = ways.filter(w => w.mirrored === likest.mirrored && w.turn === likest.turn);
  return { ...likest, match: Math.max(...same.map(w => w.match)) };
}
/** From afar a place may look so much less like than another, and be the right one. */
const MAY_BE = 0.03;
/** Places whose corners lie no farther apart than this come to the same, pixels. */
const SAME_PLACE = 3;

/** A way found at half the resolution, in full. */
const inFullWay = (way: Found): Found => ({ ...way, warp: inFull(way.warp) });

/** How far apart the corners of a picture lie in two places, pixels at the most. */
function apart(a: Found, b: Found, { w, h }: Plane): number {
  const corners = [
    [0, 0],
    [w, 0],
    [0, h],
    [w, h],
  ];
  return Math.max(...corners.map(([x, y]) => Math.hypot(...minus(move(a.warp, x, y), move(b.warp, x, y)))));
}

/** Correlation of the reference with what lies under it. */
function likeness(cv: Cv, seen: Plane, reference: Plane, warp: Affine): number {
  const under = inPictureFrame(cv, seen, warp, reference).data;
  const n = under.length;
  let [sa, sb, saa, sbb, sab] = [0, 0, 0, 0, 0];
  for (let i = 0; i < n; i++) {
    const a = under[i];
    const b = reference.data[i];
    sa += a;
    sb += b;
    saa += a * a;
    sbb += b * b;
    sab += a * b;
  }
  return (n * sab - sa * sb) / Math.sqrt(Math.max(1e-12, (n * saa - sa * sa) * (n * sbb - sb * sb)));
}

/** How like a picture seen from afar, for fine lines never agree, is to itself, backwards or turned, at the most. */
function likenessToItself(cv: Cv, small: Plane): number {
  const { w, h } = small;
  const others = EVERY_WAY.filter(o => o !== AS_MADE && turnedSize(w, h, o.turn).w === w);
  return Math.max(...others.map(o => likeness(cv, small, small, orientation(w, h, o.mirrored, o.turn))));
}

/** The best place for each of these ways round and each small angle that fits into the window. */
function coarse(cv: Cv, seen: Plane, reference: Plane, rounds: readonly Way[]): Found[] {
  return scoped(keep => {
    const image = keep(toMat(cv, seen));
    const small = keep(toMat(cv, reference));
    const turned = keep(new cv.Mat());
    const scores = keep(new cv.Mat());
    const fineScores = keep(new cv.Mat());
    // Where a part is gone, what is light and dark on the whole misleads: edges count as much.
    const [imageEdges, smallEdges] = [image, small].map(m => {
      const slow = keep(new cv.Mat());
      cv.GaussianBlur(m, slow, new cv.Size(0, 0), SLOW, SLOW, cv.BORDER_REPLICATE);
      cv.subtract(m, slow, slow);
      return slow;
    });
    const at = (mirrored: boolean, turn: Found['turn'], angle: number): Found => {
      const { w, h } = turnedSize(small.cols, small.rows, turn);
      const about = aboutMiddle(small.cols, small.rows, mirrored, turn, angle);
      const matrix = keep(cv.matFromArray(2, 3, cv.CV_64F, [...about]));
      const compare = (whole: typeof small, picture: typeof small, beyond: number, into: typeof scores) => {
        const [to, border] = [new cv.Size(w, h), new cv.Scalar(beyond)];
        cv.warpAffine(picture, turned, matrix, to, cv.INTER_LINEAR, cv.BORDER_CONSTANT, border);
        cv.matchTemplate(whole, turned, into, cv.TM_CCOEFF_NORMED);
      };
      compare(image, small, 1, scores);
      compare(imageEdges, smallEdges, 0, fineScores);
      cv.addWeighted(scores, 0.5, fineScores, 0.5, 0, scores);
      const peak = peakOf(cv, scores);
      const shift: Affine = [1, 0, peak.maxLoc.x, 0, 1, peak.maxLoc.y];
      return { match: peak.maxVal, warp: multiply(shift, about), mirrored, turn };
    };
    const ways: Found[] = [];
    for (const { mirrored, turn } of rounds) {
      const size = turnedSize(small.cols, small.rows, turn);
      if (size.w > image.cols || size.h > image.rows) continue;
      for (const angle of ANGLES) ways.push(at(mirrored, turn, angle));
    }
    const best = ways.reduce((most, w) => Math.max(most, w.match), 0);
    const likely = new Map(ways.filter(w => w.match > best - NEAR).map(w => [`${w.mirrored} ${w.turn}`, w]));
    for (const { mirrored, turn } of likely.values())
      for (const angle of MORE_ANGLES) ways.push(at(mirrored, turn, angle));
    return ways;
  });
}

/** A quarter turn with a small angle more, about the middle. */
function aboutMiddle(w: number, h: number, mirrored: boolean, turn: number, angle: number): Affine {
  const size = turnedSize(w, h, turn);
  const rad = (angle * Math.PI) / 180;
  const [cos, sin] = [Math.cos(rad), Math.sin(rad)];
  const [cx, cy] = [(size.w - 1) / 2, (size.h - 1) / 2];
  const askew: Affine = [cos, -sin, cx - cos * cx + sin * cy, sin, cos, cy - sin * cx - cos * cy];
  return multiply(askew, orientation(w, h, mirrored, turn));
}

const peakOf = (cv: Cv, scores: unknown) =>
  (
    cv as unknown as { minMaxLoc(m: unknown): { maxVal: number; maxLoc: { x: number; y: number } } }
  ).minMaxLoc(scores);

/** What a step of the fine alignment came to. */
interface Aligned {
  readonly warp: Affine;
  readonly isStretched: boolean;
}

/** A step of the fine alignment: turned and shifted only, or stretched too; for so many rounds; seen through so much blur (pixels). */
interface Step {
  readonly isStretched: boolean;
  readonly rounds: number;
  readonly smooth: number;
}

/** A wide look finds the way, a sharp one the place: what is smoothed at the rim of the window draws it aside. */
const AT_QUARTER: readonly Step[] = [{ isStretched: false, rounds: 8, smooth: 3 }];
const AT_HALF: readonly Step[] = [{ isStretched: true, rounds: 6, smooth: 1 }];
const LONGER: readonly Step[] = [{ isStretched: true, rounds: 25, smooth: 3 }];

/**
 * The steps of the fine alignment, each from the one before where that is sound. Those that went too far or stretched
 * the picture are left out.
 */
function refine(cv: Cv, seen: Plane, reference: Plane, found: Found, steps: readonly Step[]): Aligned[] {
  return scoped(keep => {
    const template = keep(toMat(cv, reference));
    const input = keep(toMat(cv, seen));
    // Euclidean ECC takes its angle from an arcsine: the reference is first mirrored and turned as the photo shows it.
    const upright = orientation(reference.w, reference.h, found.mirrored, found.turn);
    const size = turnedSize(reference.w, reference.h, found.turn);
    const matrix0 = keep(cv.matFromArray(2, 3, cv.CV_64F, [...upright]));
    cv.warpAffine(
      template,
      template,
      matrix0,
      new cv.Size(size.w, size.h),
      cv.INTER_LINEAR,
      cv.BORDER_REPLICATE,
      new cv.Scalar(1),
    );
    const begun = multiply(found.warp, inverse(upright));
    const isSound = (warp: Affine) => {
      const middle = [size.w / 2, size.h / 2] as const;
      const moved = Math.hypot(...minus(move(warp, ...middle), move(begun, ...middle)));
      const [across, down] = [Math.hypot(warp[0], warp[3]), Math.hypot(warp[1], warp[4])];
      const skew = Math.abs(warp[0] * warp[1] + warp[3] * warp[4]);
      return (
        moved < MOST_MOVED && [across, down].every(v => Math.abs(v - 1) < MOST_STRETCH) && skew < MOST_STRETCH
      );
    };
    const mask = keep(cv.Mat.ones(input.rows, input.cols, cv.CV_8U));
    let from = begun;
    return steps.flatMap(({ isStretched, rounds, smooth }) => {
      const matrix = keep(cv.matFromArray(2, 3, cv.CV_32F, [...from]));
      const motion = isStretched ? cv.MOTION_AFFINE : cv.MOTION_EUCLIDEAN;
      const until = new cv.TermCriteria(COUNT_AND_EPS, rounds, CHANGES_LITTLE);
      try {
        cv.findTransformECC(template, input, matrix, motion, until, mask, smooth);
      } catch {
        // The library throws when the correlation does not rise.
        return [];
      }
      const warp = [...matrix.data32F] as unknown as Affine;
      if (!isSound(warp)) return [];
      from = warp;
      return [{ warp: multiply(warp, upright), isStretched }];
    });
  });
}

/** From a pixel to that of half the resolution it is a part of. */
const HALF: Affine = [0.5, 0, -0.25, 0, 0.5, -0.25];
const inHalf = (warp: Affine) => multiply(HALF, multiply(warp, inverse(HALF)));
const inFull = (warp: Affine) => multiply(inverse(HALF), multiply(warp, HALF));
/** How far the fine alignment may go from where it began, pixels, and how much it may stretch or skew the picture. */
const MOST_MOVED = 12;
const MOST_STRETCH = 0.04;

const minus = (a: readonly number[], b: readonly number[]) => a.map((v, i) => v - b[i]);

/** Brings a plane of the window into the picture's own frame, with `margin` pixels more on every side. */
export function inPictureFrame(
  cv: Cv,
  seen: Plane,
  warp: Affine,
  size: { readonly w: number; readonly h: number },
  margin = 0,
  outside?: number,
): Plane {
  return scoped(keep => {
    const image = keep(toMat(cv, seen));
    const out = keep(new cv.Mat());
    const shifted = multiply(warp, [1, 0, -margin, 0, 1, -margin]);
    const matrix = keep(cv.matFromArray(2, 3, cv.CV_64F, [...shifted]));
    const [w, h] = [size.w + 2 * margin, size.h + 2 * margin];
    cv.warpAffine(
      image,
      out,
      matrix,
      new cv.Size(w, h),
      cv.INTER_LINEAR | cv.WARP_INVERSE_MAP,
      outside === undefined ? cv.BORDER_REPLICATE : cv.BORDER_CONSTANT,
      new cv.Scalar(outside ?? 0),
    );
    return { w, h, data: new Float32Array(out.data32F) };
  });
}

/**
 * How much of a shift a block of a picture can tell: along a single straight edge one place is as good as the next. The
 * shift is weighed by the block's structure tensor (Förstner 1987), so that only what lies across its edges counts.
 */
function toldOf(
  { w, data }: Plane,
  x0: number,
  y0: number,
  bw: number,
  bh: number,
): (dx: number, dy: number) => number {
  let [xx, xy, yy] = [0, 0, 0];
  for (let y = y0 + 1; y < y0 + bh - 1; y++)
    for (let x = x0 + 1; x < x0 + bw - 1; x++) {
      const gx = data[y * w + x + 1] - data[y * w + x - 1];
      const gy = data[(y + 1) * w + x] - data[(y - 1) * w + x];
      xx += gx * gx;
      xy += gx * gy;
      yy += gy * gy;
    }
  const most = (xx + yy) / 2 + Math.sqrt(((xx - yy) / 2) ** 2 + xy * xy);
  return (dx, dy) => Math.sqrt(Math.max(0, (xx * dx * dx + 2 * xy * dx * dy + yy * dy * dy) / (most || 1)));
}

const BLOCK_MM = 10;
const REACH = 6;
const LEAST_PEAK = 0.5;
/** So much better must a block fit elsewhere before it counts as lying there. */
const BETTER_ELSEWHERE = 0.03;

/** Median left-over shift of the blocks that can tell, mm. */
function residual(cv: Cv, seen: Plane, reference: Plane, warp: Affine): number | undefined {
  const flat = inPictureFrame(cv, seen, warp, reference);
  return scoped(keep => {
    const image = keep(toMat(cv, flat));
    const ref = keep(toMat(cv, reference));
    const scores = keep(new cv.Mat());
    const shifts: number[] = [];
    const [nx, ny] = [reference.w, reference.h].map(v => Math.max(2, Math.round(v / PX / BLOCK_MM)));
    const [bw, bh] = [Math.floor(reference.w / nx), Math.floor(reference.h / ny)];
    for (let by = 0; by < ny; by++)
      for (let bx = 0; bx < nx; bx++) {
        const inner = keep(
          ref.roi(new cv.Rect(bx * bw + REACH, by * bh + REACH, bw - 2 * REACH, bh - 2 * REACH)),
        );
        const around = keep(image.roi(new cv.Rect(bx * bw, by * bh, bw, bh)));
        cv.matchTemplate(around, inner, scores, cv.TM_CCOEFF_NORMED);
        const peak = peakOf(cv, scores);
        if (peak.maxVal < LEAST_PEAK) continue;
        // What lies where it should is not off, however little better another place fits.
        const unmoved = scores.data32F[REACH * scores.cols + REACH];
        const isOff = peak.maxVal - unmoved > BETTER_ELSEWHERE;
        const told = toldOf(reference, bx * bw + REACH, by * bh + REACH, bw - 2 * REACH, bh - 2 * REACH);
        shifts.push(isOff ? told(peak.maxLoc.x - REACH, peak.maxLoc.y - REACH) : 0);
      }
    if (shifts.length < 3) return undefined;
    shifts.sort((a, b) => a - b);
    return shifts[shifts.length >> 1] / PX;
  });
}
