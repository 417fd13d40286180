import { type Cv, type Plane, scoped, toMat } from './cv.ts';

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
const COARSE = 0.25;
const ANGLES = [-7.5, -5, -2.5, 0, 2.5, 5, 7.5];
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

/** Mirror (left–right) first, then a clockwise turn, about the centre of an n × n picture. */
function orientation(n: number, mirror: boolean, turn: number): Affine {
  const c = (n - 1) / 2;
  const rad = (turn * Math.PI) / 180;
  const [cos, sin] = [Math.round(Math.cos(rad) * 1e9) / 1e9, Math.round(Math.sin(rad) * 1e9) / 1e9];
  const centre: Affine = [1, 0, -c, 0, 1, -c];
  const flip: Affine = mirror ? [-1, 0, 0, 0, 1, 0] : [1, 0, 0, 0, 1, 0];
  return multiply([1, 0, c, 0, 1, c], multiply([cos, -sin, 0, sin, cos, 0], multiply(flip, centre)));
}

/**
 * Finds the reference in the window: coarse by normalised correlation over quarter turns, mirror,
 * small angles and shifts; then fine by maximising the enhanced correlation coefficient
 * (Evangelidis & Psarakis 2008), Euclidean and then affine; then checks what is left, block by block.
 */
export function register(cv: Cv, seen: Plane, reference: Plane): Registration {
  const best = coarse(cv, seen, reference);
  const fine = refine(cv, seen, reference, best);
  const warp = fine ?? best.warp;
  return { ...best, warp, residualMm: residual(cv, seen, reference, warp) };
}

function coarse(cv: Cv, seen: Plane, reference: Plane) {
  return scoped(keep => {
    const image = keep(toMat(cv, seen));
    cv.resize(image, image, new cv.Size(0, 0), COARSE, COARSE, cv.INTER_AREA);
    const full = keep(toMat(cv, reference));
    const small = keep(new cv.Mat());
    cv.resize(full, small, new cv.Size(0, 0), COARSE, COARSE, cv.INTER_AREA);
    const n = small.cols;
    const turned = keep(new cv.Mat());
    const scores = keep(new cv.Mat());
    const zoom = (m: Affine): Affine => {
      const up = 1 / COARSE;
      const half = (up - 1) / 2;
      return multiply(
        [up, 0, half, 0, up, half],
        multiply(m, [COARSE, 0, -half * COARSE, 0, COARSE, -half * COARSE]),
      );
    };
    let best = {
      match: -1,
      warp: orientation(reference.w, false, 0),
      mirrored: false,
      turn: 0 as (typeof TURNS)[number],
    };
    for (const mirrored of [false, true])
      for (const turn of TURNS)
        for (const angle of ANGLES) {
          const about = orientation(n, mirrored, turn + angle);
          const matrix = keep(cv.matFromArray(2, 3, cv.CV_64F, [...about]));
          cv.warpAffine(
            small,
            turned,
            matrix,
            new cv.Size(n, n),
            cv.INTER_LINEAR,
            cv.BORDER_CONSTANT,
            new cv.Scalar(1),
          );
          cv.matchTemplate(image, turned, scores, cv.TM_CCOEFF_NORMED);
          const peak = (
            cv as unknown as { minMaxLoc(m: unknown): { maxVal: number; maxLoc: { x: number; y: number } } }
          ).minMaxLoc(scores);
          if (peak.maxVal > best.match) {
            const shift: Affine = [1, 0, peak.maxLoc.x, 0, 1, peak.maxLoc.y];
            best = { match: peak.maxVal, warp: zoom(multiply(shift, about)), mirrored, turn };
          }
        }
    return best;
  });
}

function refine(
  cv: Cv,
  seen: Plane,
  reference: Plane,
  found: Pick<Registration, 'warp' | 'mirrored' | 'turn'>,
): Affine | undefined {
  return scoped(keep => {
    const template = keep(toMat(cv, reference));
    const input = keep(toMat(cv, seen));
    const mask = keep(cv.Mat.ones(seen.h, seen.w, cv.CV_8U));
    // Euclidean ECC takes its angle from an arcsine: the reference is first mirrored and turned as the photo shows it.
    const upright = orientation(reference.w, found.mirrored, found.turn);
    const matrix0 = keep(cv.matFromArray(2, 3, cv.CV_64F, [...upright]));
    cv.warpAffine(
      template,
      template,
      matrix0,
      new cv.Size(reference.w, reference.w),
      cv.INTER_LINEAR,
      cv.BORDER_REPLICATE,
      new cv.Scalar(1),
    );
    const begun = multiply(found.warp, inverse(upright));
    const criteria = new cv.TermCriteria(COUNT_AND_EPS, 60, 1e-5);
    let warp: Affine = begun;
    try {
      for (const motion of [cv.MOTION_EUCLIDEAN, cv.MOTION_AFFINE]) {
        const matrix = keep(cv.matFromArray(2, 3, cv.CV_32F, [...warp]));
        cv.findTransformECC(
          template,
          input,
          matrix,
          motion,
          criteria,
          mask,
          motion === cv.MOTION_EUCLIDEAN ? 9 : 5,
        );
        warp = [...matrix.data32F] as unknown as Affine;
      }
    } catch {
      // The library throws when the correlation does not rise; the coarse match then stands.
      if (warp === begun) return undefined;
    }
    const moved = Math.hypot(
      ...minus(move(warp, reference.w / 2, reference.h / 2), move(begun, reference.w / 2, reference.h / 2)),
    );
    const stretch = Math.sqrt(Math.abs(warp[0] * warp[4] - warp[1] * warp[3]));
    return moved > 25 || Math.abs(stretch - 1) > 0.06 ? undefined : multiply(warp, upright);
  });
}

const minus = (a: readonly number[], b: readonly number[]) => a.map((v, i) => v - b[i]);

/** Brings a plane of the window into the picture's own frame. */
export function inPictureFrame(cv: Cv, seen: Plane, warp: Affine, side: number): Plane {
  return scoped(keep => {
    const image = keep(toMat(cv, seen));
    const out = keep(new cv.Mat());
    const matrix = keep(cv.matFromArray(2, 3, cv.CV_64F, [...warp]));
    cv.warpAffine(
      image,
      out,
      matrix,
      new cv.Size(side, side),
      cv.INTER_LINEAR | cv.WARP_INVERSE_MAP,
      cv.BORDER_REPLICATE,
      new cv.Scalar(0),
    );
    return { w: side, h: side, data: new Float32Array(out.data32F) };
  });
}

const BLOCKS = 4;
const REACH = 6;

/** Median left-over shift of the blocks that can tell, in mm at 10 px/mm. */
function residual(cv: Cv, seen: Plane, reference: Plane, warp: Affine): number | undefined {
  const flat = inPictureFrame(cv, seen, warp, reference.w);
  return scoped(keep => {
    const image = keep(toMat(cv, flat));
    const ref = keep(toMat(cv, reference));
    const scores = keep(new cv.Mat());
    const shifts: number[] = [];
    const block = Math.floor(reference.w / BLOCKS);
    for (let by = 0; by < BLOCKS; by++)
      for (let bx = 0; bx < BLOCKS; bx++) {
        const inner = keep(
          ref.roi(new cv.Rect(bx * block + REACH, by * block + REACH, block - 2 * REACH, block - 2 * REACH)),
        );
        const around = keep(image.roi(new cv.Rect(bx * block, by * block, block, block)));
        cv.matchTemplate(around, inner, scores, cv.TM_CCOEFF_NORMED);
        const peak = (
          cv as unknown as { minMaxLoc(m: unknown): { maxVal: number; maxLoc: { x: number; y: number } } }
        ).minMaxLoc(scores);
        if (peak.maxVal > 0.5) shifts.push(Math.hypot(peak.maxLoc.x - REACH, peak.maxLoc.y - REACH));
      }
    if (shifts.length < 3) return undefined;
    shifts.sort((a, b) => a - b);
    return shifts[shifts.length >> 1] / 10;
  });
}
