import { bad, good, type Outcome } from '../outcome/index.ts';
import { type Card, CORNER_FIRST } from '../print/index.ts';
import { bytesOf, type Cv, type Pixels, scoped } from './cv.ts';
import { quantile } from './middle.ts';

/** Where the card lies in a photo. */
export interface CardPlace {
  /** Card mm → photo pixels, 3 × 3, row by row. */
  readonly homography: readonly number[];
  /** Least resolution over the window, photo pixels per mm. */
  readonly pxPerMm: number;
  /** How far the markers lie off their plane, mm: 80th percentile over their corners. */
  readonly misfitMm: number;
  /** Angle between the view and the card's upright, degrees. */
  readonly tiltDeg: number;
}

/** Markers are looked for in copies no longer than these, the second where the first shows too few, and each again in the photo itself. */
const DETECT_SIDES = [1200, 2200];
/** A marker is seen well enough where it and what is round it are so many pixels wide. */
const CLOSE_SIDE = 200;
/** How much of a photo is looked at again round each, as a share of its side. */
const ROUND = 0.25;

/** A rectangle on the plane of card or board, mm. */
export interface Box {
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly h: number;
}

/** A coded marker where it lies, mm. */
export type Marker = Card['markers'][number];

/** What a photo holds to be measured by. */
export type Holds = 'card' | 'corners' | 'nothing';

/** Whether there is a reading card in a photo, or at least three corner pieces of a board, or neither. */
export function whatHolds(cv: Cv, photo: Pixels): Holds {
  const seen = [...markersIn(cv, photo).keys()];
  const ofCard = seen.filter(id => id < CORNER_FIRST).length;
  const corners = seen.filter(id => id >= CORNER_FIRST && id < CORNER_FIRST + 4).length;
  if (ofCard > corners) return 'card';
  return corners >= 3 ? 'corners' : ofCard ? 'card' : 'nothing';
}

/** Of cards of several sizes the one that fits the markers of a photo best; the first where none can be told. */
export function likeliestCard(cv: Cv, photo: Pixels, cards: readonly Card[]): Card {
  if (cards.length < 2) return cards[0];
  const seen = markersIn(cv, photo);
  const off = cards.map(c => {
    const found = c.markers.filter(m => seen.has(m.id)).length;
    return found < 4 ? Number.POSITIVE_INFINITY : (placeBy(cv, seen, c.markers, c.window)?.misfitMm ?? 1e9);
  });
  return cards[off.indexOf(Math.min(...off))];
}

/** Finds the card by its coded markers and gives the plane's homography, or says why it cannot. */
export function findCard(cv: Cv, photo: Pixels, card: Card): Outcome<CardPlace> {
  const seen = markersIn(cv, photo, card.markers);
  const found = card.markers.filter(m => seen.has(m.id)).length;
  if (found < 4 && isBlurred(photo, card))
    return found
      ? bad('blurred', 'This photo is so blurred that the card’s markers cannot be made out.', HOLD_STILL)
      : bad(
          'no-card',
          'No reading card can be made out in this photo: it is very blurred, or there is none in it.',
          `Take the whole card into the picture. ${HOLD_STILL}`,
        );
  if (found === 0)
    return bad(
      'no-card',
      'No reading card was found in this photo.',
      'Lay the card over the patch and take the whole card into the picture.',
    );
  if (found < 4)
    return bad(
      'markers-hidden',
      `Only ${found} of the card’s 6 markers can be seen.`,
      'Take the whole card into the picture, flat, with nothing over its corners.',
    );
  const place = placeBy(cv, seen, card.markers, card.window);
  return place
    ? good(place)
    : bad(
        'no-plane',
        'The card’s markers do not lie in one plane.',
        'Flatten the card and take the photo again.',
      );
}

/** What to do about a blurred photo. */
export const HOLD_STILL = 'Rest your elbows, tap the card on the screen to focus, and take it again.';
/** Refused above this: the standard deviation of a blur, mm on the card. */
export const MOST_BLUR_MM = 0.24;
/** So much light between the dark and the light of a photo is needed to tell edges from noise (white is 1). */
const LEAST_RANGE = 0.15;
/** So many pixels of a photo tell how sharp it is. */
const SAMPLES = 400_000;

/**
 * Whether a photo is blurred beyond use however near the card was: its sharpest edges are wider than {@link MOST_BLUR_MM}
 * would be if the card's long side filled the photo. An edge of height C behind a Gaussian blur of σ rises by no more
 * than C / (σ √(2π)) a pixel.
 */
function isBlurred(photo: Pixels, card: Card): boolean {
  const data = bytesOf(photo);
  const { w, h } = photo;
  const green = (x: number, y: number) => data[(y * w + x) * 4 + 1] / 255;
  const every = Math.max(1, Math.ceil(Math.sqrt((w * h) / SAMPLES)));
  const levels: number[] = [];
  const steps: number[] = [];
  for (let y = 1; y < h - 1; y += every)
    for (let x = 1; x < w - 1; x += every) {
      levels.push(green(x, y));
      // Over two pixels, which halves the noise; the steeper of both ways.
      steps.push(
        Math.max(Math.abs(green(x + 1, y) - green(x - 1, y)), Math.abs(green(x, y + 1) - green(x, y - 1))) /
          2,
      );
    }
  const range = quantile(levels, 0.98) - quantile(levels, 0.02);
  if (range < LEAST_RANGE) return false;
  const sigma = range / (quantile(steps, 0.999) * Math.sqrt(2 * Math.PI));
  return sigma > (MOST_BLUR_MM * Math.max(w, h)) / Math.max(card.page.w, card.page.h);
}

/** Four corners in photo pixels: x, y in turn, clockwise from the marker's own top left. */
export type Quad = readonly number[];

/**
 * The plane that the markers lie in, over the rectangle `over` (mm) that is to be looked at; nothing where they lie in
 * none. Corners that do not fit are left out (RANSAC).
 */
export function placeBy(
  cv: Cv,
  seen: ReadonlyMap<number, Quad>,
  markers: readonly Marker[],
  over: Box,
): CardPlace | undefined {
  const homography = planeOf(cv, seen, markers);
  if (!homography) return undefined;
  const scale = scaleOver(homography, over);
  return {
    homography,
    pxPerMm: scale,
    tiltDeg: tiltOf(homography, over),
    misfitMm: misfitOf(...pairsOf(seen, markers), homography) / scale,
  };
}

/** The homography of the plane that the markers lie in. */
function planeOf(
  cv: Cv,
  seen: ReadonlyMap<number, Quad>,
  markers: readonly Marker[],
): readonly number[] | undefined {
  const [from, to] = pairsOf(seen, markers);
  const homography = scoped(keep => {
    const a = keep(cv.matFromArray(from.length / 2, 1, cv.CV_64FC2, from));
    const b = keep(cv.matFromArray(to.length / 2, 1, cv.CV_64FC2, to));
    const H = keep(cv.findHomography(a, b, cv.RANSAC, 3));
    return [...H.data64F];
  });
  return homography.length === 9 ? homography : undefined;
}

/** Corners of a marker on its plane, mm, clockwise from its top left. */
const cornersOf = ({ x, y, size }: Pick<Marker, 'x' | 'y' | 'size'>) => [
  ...[x, y, x + size, y],
  ...[x + size, y + size, x, y + size],
];

/** Corners of markers on their plane (mm) and in the photo, x and y in turn. */
function pairsOf(seen: ReadonlyMap<number, Quad>, markers: readonly Marker[]): [number[], number[]] {
  const known = markers.filter(m => seen.has(m.id));
  return [known.flatMap(cornersOf), known.flatMap(m => [...(seen.get(m.id) ?? [])])];
}

/**
 * The plane in which a rectangle of `size` mm has these corners in the photo, clockwise from its top left; nothing where
 * there is none.
 */
export function placeBetween(
  cv: Cv,
  corners: readonly { readonly x: number; readonly y: number }[],
  size: { readonly w: number; readonly h: number },
): CardPlace | undefined {
  // Pixel centres have whole numbers; a corner of the picture lies between four of them.
  const quad = corners.flatMap(c => [c.x - 0.5, c.y - 0.5]);
  const from = [0, 0, size.w, 0, size.w, size.h, 0, size.h];
  const homography = scoped(keep => {
    const a = keep(cv.matFromArray(4, 1, cv.CV_32FC2, from));
    const b = keep(cv.matFromArray(4, 1, cv.CV_32FC2, quad));
    return [...keep(cv.getPerspectiveTransform(a, b)).data64F];
  });
  if (homography.length !== 9 || homography.some(v => !Number.isFinite(v))) return undefined;
  const whole = { x: 0, y: 0, ...size };
  return {
    homography,
    pxPerMm: scaleOver(homography, whole),
    tiltDeg: tiltOf(homography, whole),
    misfitMm: 0,
  };
}

/** The coded markers of a photo by their number; `wanted`: those that are enough. */
export function markersIn(cv: Cv, photo: Pixels, wanted?: readonly Marker[]): Map<number, Quad> {
  return scoped(keep => {
    const dictionary = keep(cv.getPredefinedDictionary(cv.DICT_4X4_50));
    const refine = keep(new cv.aruco_RefineParameters(10, 3, true));
    const detectorOf = (surroundings: object) => {
      const settings = keep(new cv.aruco_DetectorParameters());
      Object.assign(settings, { cornerRefinementMethod: 1, cornerRefinementWinSize: 4, ...surroundings });
      return keep(new cv.aruco_ArucoDetector(dictionary, settings, refine));
    };
    // What light does over a marker is slow: one size of surroundings shows most of them, three not five the rest.
    const quick = detectorOf({ adaptiveThreshWinSizeMin: 23, adaptiveThreshWinSizeMax: 23 });
    const thorough = detectorOf({ adaptiveThreshWinSizeMax: 43, adaptiveThreshWinSizeStep: 20 });
    const close = detectorOf({ adaptiveThreshWinSizeMin: 43, adaptiveThreshWinSizeMax: 43 });
    const found = (box: Box, shrink: number, detector = thorough) => {
      const grey = keep(greyOf(cv, photo, box, shrink));
      const corners = keep(new cv.MatVector());
      const ids = keep(new cv.Mat());
      detector.detectMarkers(grey, corners, ids, keep(new cv.MatVector()));
      return Array.from(ids.data32S, (id, i): [number, Quad] => {
        const quad = keep(corners.get(i)).data32F;
        return [id, Array.from(quad, (v, k) => (v + 0.5) * shrink - 0.5 + (k % 2 ? box.y : box.x))];
      });
    };
    const seen = new Map<number, Quad>();
    /** Marks those that are found, each as it shows from near by. */
    const mark = (some: readonly (readonly [number, Quad])[], shrink: number) => {
      for (const [id, quad] of some) {
        if (seen.has(id)) continue;
        const box = around(photo, quad);
        const closer = closerIn(box);
        const isSame = (f: readonly [number, Quad]) => f[0] === id;
        const again =
          closer < shrink && (found(box, closer, close).find(isSame) ?? found(box, closer).find(isSame));
        seen.set(id, again ? again[1] : quad);
      }
    };
    const whole = { x: 0, y: 0, w: photo.w, h: photo.h };
    const shrinks = DETECT_SIDES.map(side => Math.ceil(Math.max(photo.w, photo.h) / side));
    if (wanted) {
      mark(found(whole, shrinks[0], quick), shrinks[0]);
      const missing = wanted.filter(m => !seen.has(m.id));
      const place = wanted.length - missing.length >= LEAST_KNOWN && planeOf(cv, seen, wanted);
      if (place) {
        // Where the others are known it is known where these would be.
        for (const marker of missing) {
          const box = around(photo, projected(place, cornersOf(marker)));
          if (box.w < LEAST_WIDE || box.h < LEAST_WIDE) continue;
          const closer = closerIn(box);
          mark(
            found(box, closer).filter(f => f[0] === marker.id),
            closer,
          );
        }
        if (seen.size >= Math.min(ENOUGH, wanted.length - 1)) return seen;
      }
    }
    for (const [i, shrink] of shrinks.entries()) {
      if (i > 0 && (shrink === shrinks[i - 1] || wanted?.every(m => seen.has(m.id)))) break;
      mark(found(whole, shrink), shrink);
    }
    return seen;
  });
}

/** How many markers have to be seen for the others to be known, how many are enough, and how wide a rest of one is worth a look, pixels. */
const LEAST_KNOWN = 3;
const ENOUGH = 4;
const LEAST_WIDE = 16;
const closerIn = (box: Box) => Math.max(1, Math.floor(Math.min(box.w, box.h) / CLOSE_SIDE));

/** Corners (x, y in turn) through a homography. */
const projected = (h: readonly number[], corners: readonly number[]): Quad =>
  corners.flatMap((v, k) => (k % 2 ? [] : project(h, v, corners[k + 1])));

/** A marker and what lies round it, in a photo. */
function around(photo: Pixels, quad: Quad): Box {
  const [xs, ys] = [0, 1].map(k => quad.filter((_, i) => i % 2 === k));
  const [left, right, top, low] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const rim = ROUND * Math.max(right - left, low - top);
  const x = Math.max(0, Math.floor(left - rim));
  const y = Math.max(0, Math.floor(top - rim));
  return {
    x,
    y,
    w: Math.min(photo.w, Math.ceil(right + rim)) - x,
    h: Math.min(photo.h, Math.ceil(low + rim)) - y,
  };
}

/** A rectangle of a photo as a matrix of greys (its green, which every light has), made coarser `shrink` times (caller frees). */
function greyOf(cv: Cv, photo: Pixels, box: Box, shrink: number) {
  const w = Math.floor(box.w / shrink);
  const h = Math.floor(box.h / shrink);
  const bytes = new Uint8Array(w * h);
  const data = bytesOf(photo);
  // Of many pixels that become one, two by two are enough.
  const right = shrink > 1 ? 4 : 0;
  const below = shrink > 1 ? 4 * photo.w : 0;
  for (let y = 0, at = 0; y < h; y++) {
    let i = ((box.y + y * shrink) * photo.w + box.x) * 4 + 1;
    for (let x = 0; x < w; x++, at++, i += 4 * shrink)
      bytes[at] = (data[i] + data[i + right] + data[i + below] + data[i + below + right] + 2) >> 2;
  }
  const out = new cv.Mat(h, w, cv.CV_8UC1);
  out.data.set(bytes);
  return out;
}

/** Applies a homography to a point. */
export function project(h: readonly number[], x: number, y: number): [number, number] {
  const d = h[6] * x + h[7] * y + h[8];
  return [(h[0] * x + h[1] * y + h[2]) / d, (h[3] * x + h[4] * y + h[5]) / d];
}

function misfitOf(from: readonly number[], to: readonly number[], h: readonly number[]): number {
  const errors: number[] = [];
  for (let i = 0; i < from.length; i += 2) {
    const [x, y] = project(h, from[i], from[i + 1]);
    errors.push(Math.hypot(x - to[i], y - to[i + 1]));
  }
  errors.sort((a, b) => a - b);
  return errors[Math.floor(errors.length * 0.8)];
}

/** Smallest local scale (px/mm) among a rectangle's corners: the short axis of the Jacobian. */
export function scaleOver(h: readonly number[], { x, y, w, h: tall }: Box): number {
  return Math.min(
    ...[
      [x, y],
      [x + w, y],
      [x, y + tall],
      [x + w, y + tall],
    ].map(([px, py]) => singular(h, px, py)[1]),
  );
}

/** Long and short axis of what a unit circle at (x, y) becomes. */
function singular(h: readonly number[], x: number, y: number): [number, number] {
  const [ox, oy] = project(h, x, y);
  const [ax, ay] = project(h, x + 0.5, y);
  const [bx, by] = project(h, x, y + 0.5);
  const [a, b, c, d] = [(ax - ox) * 2, (bx - ox) * 2, (ay - oy) * 2, (by - oy) * 2];
  const s = a * a + b * b + c * c + d * d;
  const det = Math.abs(a * d - b * c);
  const root = Math.sqrt(Math.max(0, s * s - 4 * det * det));
  return [Math.sqrt((s + root) / 2), Math.sqrt(Math.max(0, (s - root) / 2))];
}

function tiltOf(h: readonly number[], over: Box): number {
  const [long, short] = singular(h, over.x + over.w / 2, over.y + over.h / 2);
  return (Math.acos(Math.min(1, short / long)) * 180) / Math.PI;
}
