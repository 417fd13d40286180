import {
  differenceCiede2000,
  modeLab65,
  modeLrgb,
  modeRgb,
  modeXyz65,
  useMode as registerSpace,
} from 'culori/fn';
import { toLinear, toSrgb } from '../colour/index.ts';
import { bad, good, type Outcome, type Progress } from '../outcome/index.ts';
import { type Card, rasterise, type Scene } from '../print/index.ts';
import type { Reading } from '../trial/index.ts';
import { barePatches } from './bare.ts';
import { type Ground, groundFrom, INKED_BELOW, lightness, type Sorted, sortPixels } from './classify.ts';
import type { Cv, Pixels, Plane } from './cv.ts';
import { finestLine } from './detail.ts';
import { findCard } from './find-card.ts';
import { type Affine, inPictureFrame, inverse, move, type Registration, register } from './register.ts';
import { PX, type Straight, straighten } from './straighten.ts';

/** A reading together with the straightened window, for showing and keeping. */
export interface ReadPhoto {
  readonly reading: Reading;
  /** The picture upright and balanced, right way round, 10 px/mm. */
  readonly straight: Pixels;
}

/** Refused below this many photo pixels per mm. */
const LEAST_PX_PER_MM = 6;
const MOST_BLUR_MM = 0.24;
const MOST_TILT_DEG = 38;
const MOST_MISFIT_MM = 0.35;

/**
 * Measures one photo of a patch through the reading card (READINGS.md). `reference` is the picture as it should
 * look after transfer. `blank` is a photo of the bare ground through the same card, if there is one.
 * Returns the reading, or the reason why this photo cannot be trusted and how to retake it.
 */
export function readPhoto(
  cv: Cv,
  photo: Pixels,
  card: Card,
  reference: Scene,
  options: { readonly stage: 'wet' | 'dry'; readonly blank?: Pixels },
  tell: Progress = () => {},
): Outcome<ReadPhoto> {
  tell(0.05, 'Looking for the card');
  const straight = upright(cv, photo, card);
  if (!straight.ok) return straight;
  const { card: flat, place } = straight.value;

  tell(0.35, 'Finding the picture');
  const window = cutWindow(flat, card);
  const shine = share(window.clipped);
  if (shine > 0.012)
    return bad(
      'glare',
      'There is glare on the patch.',
      'Move the lamp or turn the board until nothing shines, then take it again.',
    );
  const drawn = rasterise(reference, PX);
  const ink: Plane = { w: drawn.w, h: drawn.h, data: Float32Array.from(drawn.data, v => toLinear(v / 255)) };
  const root = (plane: Plane): Plane => ({ ...plane, data: plane.data.map(v => Math.sqrt(Math.max(0, v))) });
  const brightness: Plane = {
    ...window.rgb[1],
    data: window.rgb[1].data.map((g, i) => luminance(window.rgb[0].data[i], g, window.rgb[2].data[i])),
  };
  const found = register(cv, root(brightness), root(ink));

  tell(0.55, 'Telling ink from ground');
  const blank = options.blank ? upright(cv, options.blank, card) : undefined;
  if (blank && !blank.ok)
    return bad('blank', `The photo of the blank cannot be used. ${blank.problem.say}`, blank.problem.wayOut);
  const ground = blank?.ok
    ? groundOf(cutWindow(blank.value.card, card), undefined, ink.w)
    : groundOf(window, found.warp, ink.w);
  if (!ground)
    return bad(
      'no-ground',
      'The bare ground round the picture cannot be seen.',
      'Centre the picture in the card’s window.',
    );
  const seen = window.rgb.map(plane => inPictureFrame(cv, plane, found.warp, ink.w)) as unknown as [
    Plane,
    Plane,
    Plane,
  ];
  const camera = { noise: flat.noise, blurMm: flat.blurMm, residualMm: found.residualMm ?? 0.1 };
  const sorted = sortPixels(cv, seen, ink, ground, camera);

  tell(0.9, 'Adding up');
  const refused = mistrust(found, sorted);
  if (refused) return refused;
  const quality = {
    pxPerMm: tidy(place.pxPerMm, 1),
    blurMm: tidy(flat.blurMm, 3),
    tiltDeg: tidy(place.tiltDeg, 1),
    glare: tidy(shine, 4),
    residualMm: tidy(found.residualMm ?? 0, 3),
    light: tidy(flat.light, 2),
  };
  const detail = finestLine(
    { ...seen[1], data: seen[1].data.map((g, i) => luminance(seen[0].data[i], g, seen[2].data[i])) },
    reference.lines,
    PX,
  );
  const reading = addUp(cv, { seen, ink, ground, sorted, found, stage: options.stage, quality, detail });
  tell(1, 'Done');
  return good({ reading, straight: asPixels(seen) });
}

/** Relative luminance of linear light (IEC 61966-2-1 primaries). */
const luminance = (r: number, g: number, b: number) => 0.2126 * r + 0.7152 * g + 0.0722 * b;

function upright(cv: Cv, photo: Pixels, card: Card) {
  const place = findCard(cv, photo, card);
  if (!place.ok) return place;
  if (place.value.pxPerMm < LEAST_PX_PER_MM)
    return bad(
      'too-small',
      `The card is too small in this photo: ${place.value.pxPerMm.toFixed(1)} pixels per mm, ${LEAST_PX_PER_MM} are needed.`,
      'Come closer until the card fills the picture.',
    );
  if (place.value.tiltDeg > MOST_TILT_DEG)
    return bad(
      'tilted',
      'The photo is taken too much from the side.',
      'Hold the camera straight above the card.',
    );
  const flat = straighten(cv, photo, card, place.value);
  if (!flat.ok) return flat;
  if (flat.value.blurMm > MOST_BLUR_MM)
    return bad(
      'blurred',
      'This photo is blurred.',
      'Rest your elbows, tap the card on the screen to focus, and take it again.',
    );
  if (place.value.misfitMm > MOST_MISFIT_MM)
    return bad(
      'card-bent',
      'The card is not flat, or the lens bends it.',
      'Press the card flat and step back a little.',
    );
  return good({ card: flat.value, place: place.value });
}

interface Window {
  readonly rgb: readonly [Plane, Plane, Plane];
  readonly clipped: Uint8Array;
}

/** Nothing matt is this much brighter than the card's own white paper. */
const SHINES_ABOVE = 1.12;

function cutWindow(flat: Straight, card: Card): Window {
  const side = Math.round(card.window.w * PX);
  const tall = Math.round(card.window.h * PX);
  const left = Math.round(card.window.x * PX);
  const top = Math.round(card.window.y * PX);
  const planes = [0, 1, 2].map(() => new Float32Array(side * tall));
  const clipped = new Uint8Array(side * tall);
  for (let y = 0; y < tall; y++)
    for (let x = 0; x < side; x++) {
      const from = (y + top) * flat.w + x + left;
      for (let c = 0; c < 3; c++) planes[c][y * side + x] = flat.rgb[from * 3 + c];
      const shines =
        Math.min(flat.rgb[from * 3], flat.rgb[from * 3 + 1], flat.rgb[from * 3 + 2]) > SHINES_ABOVE;
      clipped[y * side + x] = flat.clipped[from] || shines ? 1 : 0;
    }
  return { rgb: planes.map(data => ({ w: side, h: tall, data })) as unknown as Window['rgb'], clipped };
}

const share = (flags: Uint8Array) => flags.reduce((sum, v) => sum + v, 0) / flags.length;

const CLEAR_OF_PICTURE_MM = 0.7;
const CLEAR_OF_CARD_MM = 0.6;

/** The ground from the strip of window round the picture, or from a whole blank window. */
function groundOf(window: Window, warp: Affine | undefined, side: number): Ground | undefined {
  const back = warp ? inverse(warp) : undefined;
  const { w, h } = window.rgb[0];
  const points: { x: number; y: number; rgb: [number, number, number] }[] = [];
  const rim = CLEAR_OF_CARD_MM * PX;
  const clear = CLEAR_OF_PICTURE_MM * PX;
  const step = back ? 1 : 2;
  for (let y = rim; y < h - rim; y += step)
    for (let x = rim; x < w - rim; x += step) {
      const [u, v] = back ? move(back, x, y) : [x - (w - side) / 2, y - (h - side) / 2];
      if (back && u > -clear && v > -clear && u < side + clear && v < side + clear) continue;
      const i = Math.floor(y) * w + Math.floor(x);
      if (window.clipped[i]) continue;
      points.push({ x: u, y: v, rgb: [window.rgb[0].data[i], window.rgb[1].data[i], window.rgb[2].data[i]] });
    }
  return points.length < 400 ? undefined : groundFrom(points);
}

/** A bare ground's colour: linear-light RGB with the card's paper as white, and its scatter (standard deviation of luminance). */
export interface GroundColour {
  readonly colour: readonly [number, number, number];
  readonly scatter: number;
}

/**
 * The colour of a bare ground photographed through the card's window: the median of each channel.
 * Returns the reason when the photo cannot be trusted.
 */
export function readGround(cv: Cv, photo: Pixels, card: Card): Outcome<GroundColour> {
  const straight = upright(cv, photo, card);
  if (!straight.ok) return straight;
  const window = cutWindow(straight.value.card, card);
  if (share(window.clipped) > 0.05)
    return bad(
      'glare',
      'There is glare on the ground.',
      'Move the lamp or turn the piece until nothing shines.',
    );
  const rim = Math.round(CLEAR_OF_CARD_MM * 2 * PX);
  const { w, h } = window.rgb[0];
  const inside = window.rgb.map(plane => {
    const values: number[] = [];
    for (let y = rim; y < h - rim; y += 2)
      for (let x = rim; x < w - rim; x += 2) values.push(plane.data[y * w + x]);
    return Float32Array.from(values).sort();
  });
  const at = (values: Float32Array, q: number) => values[Math.floor(q * (values.length - 1))];
  const tidyShare = (v: number) => Math.min(1, Math.max(0, Math.round(v * 1e4) / 1e4));
  const [r, g, b] = inside.map(values => tidyShare(at(values, 0.5)));
  return good({ colour: [r, g, b], scatter: tidyShare((at(inside[1], 0.84) - at(inside[1], 0.16)) / 2) });
}

const LEAST_VISIBLE = 0.3;
const LEAST_MATCH = 0.3;

/** Reasons not to give numbers that only show after aligning. */
function mistrust(found: Registration, sorted: Sorted): Outcome<never> | undefined {
  const { inked, visible, bare } = tally(sorted);
  if (visible / inked < LEAST_VISIBLE)
    return bad(
      'not-visible',
      `Only ${Math.round((100 * visible) / inked)} % of this picture could be seen on so dark a ground.`,
      'Judge this patch by eye, or test on a lighter ground.',
    );
  const nearlyNothing = bare / visible > 0.85;
  if (found.match < LEAST_MATCH && !nearlyNothing)
    return bad(
      'no-picture',
      'The test picture was not found in the window.',
      'Check that this is the right patch and that the picture is centred in the window.',
    );
  if (found.residualMm !== undefined && found.residualMm > 0.3 && !nearlyNothing)
    return bad(
      'misaligned',
      'The picture does not line up with its original.',
      'Lay the card flat on the board and take it again from straight above.',
    );
  return undefined;
}

function tally({ inked, visible, bare }: Sorted) {
  const out = { inked: 0, visible: 0, bare: 0 };
  for (let i = 0; i < inked.length; i++) {
    out.inked += inked[i];
    out.visible += inked[i] & visible[i];
    out.bare += bare[i];
  }
  return out;
}

interface Parts {
  readonly seen: readonly [Plane, Plane, Plane];
  readonly ink: Plane;
  readonly ground: Ground;
  readonly sorted: Sorted;
  readonly found: Registration;
  readonly stage: 'wet' | 'dry';
  readonly quality: Reading['quality'];
  readonly detail: number | null;
}

function addUp(cv: Cv, parts: Parts): Reading {
  const { sorted, ink, found, stage, quality } = parts;
  const { side } = sorted;
  const sums = tally(sorted);
  const landed = 100 * (1 - sums.bare / sums.visible);
  let haze = 0;
  let held = 0;
  for (let i = 0; i < side * side; i++)
    if (sorted.inked[i] && sorted.visible[i] && !sorted.bare[i]) {
      haze += sorted.veil[i];
      held++;
    }
  const veil = stage === 'dry' && held > 0.05 * sums.inked ? haze / held : null;
  const notes: string[] = [];
  if (stage === 'wet')
    notes.push('Veil is not given: paper is invisible while it is wet. Photograph it again dry.');
  // Grain reaches a little likeness in some turn or other; that is no maker's mistake.
  const isKnown = found.match >= LEAST_MATCH;
  if (isKnown && found.mirrored) notes.push('The picture is backwards.');
  if (!isKnown) notes.push('Almost nothing landed, so where the picture lies is a guess.');
  return {
    landed: tidy(landed, 1),
    landedGive: tidy(0.8 + 100 * sorted.doubt * 1.2, 1),
    visible: tidy((100 * sums.visible) / sums.inked, 1),
    bare: barePatches(cv, sorted.bare, side),
    veil: veil === null ? null : tidy(veil, 3),
    veilGive: veil === null ? null : tidy(0.02 + 0.08 * veil, 3),
    stain: stainOf(parts),
    tone: toneOf(parts),
    detail: parts.detail === null ? null : tidy(parts.detail, 2),
    landedByTone: {
      dark: landedWhere(sorted, ink, 0, 0.12),
      mid: landedWhere(sorted, ink, 0.12, 0.35),
      light: landedWhere(sorted, ink, 0.35, INKED_BELOW),
    },
    edges: edgesOf(sorted),
    mirrored: isKnown && found.mirrored,
    turn: isKnown ? found.turn : 0,
    quality,
    notes,
    maps: { state: stateMap(sorted), veil: veilMap(sorted) },
  };
}

const tidy = (v: number, digits: number) => Math.round(v * 10 ** digits) / 10 ** digits;

function landedWhere(s: Sorted, ink: Plane, from: number, to: number): number | null {
  let area = 0;
  let bare = 0;
  for (let i = 0; i < ink.data.length; i++)
    if (ink.data[i] >= from && ink.data[i] < to && s.visible[i]) {
      area++;
      bare += s.bare[i];
    }
  return area < 150 ? null : tidy(100 * (1 - bare / area), 1);
}

/** Landed within 2 mm of each side, %. */
function edgesOf(s: Sorted): Reading['edges'] {
  const deep = 2 * PX;
  const of = (inside: (x: number, y: number) => boolean) => {
    let area = 0;
    let bare = 0;
    for (let i = 0; i < s.inked.length; i++) {
      if (!s.inked[i] || !s.visible[i] || !inside(i % s.side, Math.floor(i / s.side))) continue;
      area++;
      bare += s.bare[i];
    }
    return area ? tidy(100 * (1 - bare / area), 1) : 0;
  };
  return {
    top: of((_, y) => y < deep),
    right: of(x => x >= s.side - deep),
    bottom: of((_, y) => y >= s.side - deep),
    left: of(x => x < deep),
  };
}

/** Share (%) of the picture's white parts, 0.5 mm clear of ink, that is darker than ground and grain explain. */
function stainOf({ seen, ink, ground, sorted }: Parts): number | null {
  const { side } = sorted;
  const limit = Math.sqrt(ground.cov[1]);
  const clear = 5;
  let white = 0;
  let dark = 0;
  for (let y = clear; y < side - clear; y++)
    for (let x = clear; x < side - clear; x++) {
      if (
        ![0, clear, -clear].every(
          d => ink.data[y * side + x + d] > 0.95 && ink.data[(y + d) * side + x] > 0.95,
        )
      )
        continue;
      white++;
      const base = ground.at(x, y);
      const v = seen[1].data[y * side + x];
      if (v < base[1] - 3 * limit - 0.04 && v < base[1] * 0.8) dark++;
    }
  return white < 200 ? null : tidy((100 * dark) / white, 1);
}

for (const space of [modeRgb, modeLrgb, modeXyz65, modeLab65]) registerSpace(space);
const difference = differenceCiede2000();

/** Median CIEDE2000 between ink on this ground and what is seen, on landed solids under little veil. */
function toneOf({ seen, ink, ground, sorted, stage }: Parts): number | null {
  if (stage !== 'dry') return null;
  const found: number[] = [];
  for (let i = 0; i < ink.data.length; i += 5) {
    if (ink.data[i] > 0.5 || sorted.bare[i] || !sorted.visible[i] || sorted.veil[i] > 0.1) continue;
    const base = ground.at(i % sorted.side, Math.floor(i / sorted.side));
    const expected = base.map(b => b * ink.data[i]);
    const got = seen.map(plane => Math.max(0, plane.data[i]));
    found.push(difference(lrgb(expected), lrgb(got)));
  }
  if (found.length < 100) return null;
  found.sort((a, b) => a - b);
  return tidy(found[found.length >> 1], 1);
}

const lrgb = ([r, g, b]: readonly number[]) => ({ mode: 'lrgb' as const, r, g, b });

const MAP_PX = 4;

function shrink(side: number, value: (i: number) => number) {
  const w = Math.round((side / PX) * MAP_PX);
  const data = new Uint8Array(w * w);
  for (let y = 0; y < w; y++)
    for (let x = 0; x < w; x++) {
      const sx = Math.min(side - 1, Math.floor(((x + 0.5) * PX) / MAP_PX));
      const sy = Math.min(side - 1, Math.floor(((y + 0.5) * PX) / MAP_PX));
      data[y * w + x] = value(sy * side + sx);
    }
  return { w, h: w, pxPerMm: MAP_PX, data: base64(data) };
}

/** 0 no ink wanted, 1 landed, 2 bare, 3 cannot be seen on this ground. */
const stateMap = (s: Sorted) =>
  shrink(s.side, i => (!s.inked[i] ? 0 : !s.visible[i] ? 3 : s.bare[i] ? 2 : 1));
/** Veil in 1/255 where ink landed, 0 elsewhere. */
const veilMap = (s: Sorted) =>
  shrink(s.side, i => (s.inked[i] && !s.bare[i] ? Math.round(s.veil[i] * 255) : 0));

const ALPHABET = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';

/** Bytes as base64 (RFC 4648). */
export function base64(bytes: Uint8Array): string {
  let out = '';
  for (let i = 0; i < bytes.length; i += 3) {
    const n = (bytes[i] << 16) | ((bytes[i + 1] ?? 0) << 8) | (bytes[i + 2] ?? 0);
    out += ALPHABET[n >> 18] + ALPHABET[(n >> 12) & 63];
    out += i + 1 < bytes.length ? ALPHABET[(n >> 6) & 63] : '=';
    out += i + 2 < bytes.length ? ALPHABET[n & 63] : '=';
  }
  return out;
}

function asPixels(seen: readonly [Plane, Plane, Plane]): Pixels {
  const { w, h } = seen[0];
  const data = new Uint8ClampedArray(w * h * 4);
  for (let i = 0; i < w * h; i++) {
    for (let c = 0; c < 3; c++) data[i * 4 + c] = toSrgb(Math.min(1, seen[c].data[i]) * 0.92) * 255;
    data[i * 4 + 3] = 255;
  }
  return { w, h, data };
}

export { lightness };
