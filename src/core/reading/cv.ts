import type * as opencv from '@techstark/opencv-js';

interface Marked {
  delete(): void;
}

/** The marker finder, which the library has but its types leave out. */
interface MarkerFinder {
  readonly DICT_4X4_50: number;
  getPredefinedDictionary(kind: number): Marked;
  aruco_DetectorParameters: new () => Marked;
  aruco_RefineParameters: new (distance: number, errorRate: number, anyOrder: boolean) => Marked;
  aruco_ArucoDetector: new (
    dictionary: Marked,
    settings: Marked,
    refine: Marked,
  ) => Marked & {
    detectMarkers(
      image: opencv.Mat,
      corners: opencv.MatVector,
      ids: opencv.Mat,
      rejected: opencv.MatVector,
    ): void;
  };
}

/** The image library, handed in ready: the core never loads it. */
export type Cv = typeof opencv & MarkerFinder;

/** A photo as RGBA bytes, row by row, sRGB. */
export interface Pixels {
  readonly w: number;
  readonly h: number;
  readonly data: Uint8ClampedArray | Uint8Array;
}

/** A photo's bytes as one kind of array, whoever gave them: what reads them then is compiled for that one. */
export const bytesOf = ({ data }: Pixels): Uint8Array =>
  new Uint8Array(data.buffer, data.byteOffset, data.byteLength);

interface Freed {
  delete(): void;
}

/** Runs `work` with a `keep` that frees everything kept when the work ends, well or badly. */
export function scoped<T>(work: (keep: <M extends Freed>(thing: M) => M) => T): T {
  const kept: Freed[] = [];
  try {
    return work(thing => {
      kept.push(thing);
      return thing;
    });
  } finally {
    for (const thing of kept.reverse()) thing.delete();
  }
}

/** A single-channel float picture. */
export interface Plane {
  readonly w: number;
  readonly h: number;
  readonly data: Float32Array;
}

/** Copies a plane into a CV_32F matrix (caller frees). */
export const toMat = (cv: Cv, plane: Plane) =>
  cv.matFromArray(plane.h, plane.w, cv.CV_32F, plane.data as never);

/** From this blur on a plane is shrunk first: what is left has no detail to lose. */
const WIDE_BLUR = 4;

/** Gaussian blur of a plane, `sigma` in pixels. */
export function blurPlane(cv: Cv, plane: Plane, sigma: number): Plane {
  if (sigma <= 0.05) return plane;
  return scoped(keep => {
    const from = keep(toMat(cv, plane));
    const to = keep(new cv.Mat());
    const shrink = sigma >= WIDE_BLUR ? Math.floor(sigma / 2) : 1;
    const [w, h] = [Math.ceil(plane.w / shrink), Math.ceil(plane.h / shrink)];
    if (shrink > 1) cv.resize(from, from, new cv.Size(w, h), 0, 0, cv.INTER_AREA);
    // Averaging over a square and drawing straight lines between its middles blur too, by a sixth and a twelfth of it.
    const rest = shrink > 1 ? Math.sqrt((sigma / shrink) ** 2 - 0.25) : sigma;
    cv.GaussianBlur(from, to, new cv.Size(0, 0), rest, rest, cv.BORDER_REPLICATE);
    if (shrink > 1) cv.resize(to, to, new cv.Size(plane.w, plane.h), 0, 0, cv.INTER_LINEAR);
    return { w: plane.w, h: plane.h, data: new Float32Array(to.data32F) };
  });
}
