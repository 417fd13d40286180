import { toLinear } from '../colour/index.ts';
import { bad, good, type Outcome, type Progress } from '../outcome/index.ts';
import type { Cv, Pixels } from './cv.ts';
import { type Box, type CardPlace, type Marker, markersIn, placeBy, scaleOver } from './find-card.ts';
import { LEAST_PX_PER_MM } from './gates.ts';
import { lightFrom, type WhiteSample } from './light.ts';
import { middle } from './middle.ts';
import { PX } from './px.ts';
import { type ReadPhoto, readWindow, type Surroundings } from './read.ts';
import type { Reference } from './reference.ts';
import type { Spread } from './spread.ts';
import {
  colourAt,
  edgeBlur,
  grown,
  type Lit,
  lookAt,
  markerSpread,
  PLAIN_TONE,
  type Region,
  sample,
  tonesFrom,
} from './straighten.ts';
import { type Cutout, cutWindow } from './window.ts';

/** A board with coded markers at its corners and its patches, mm from the board's top left (docs/FORMATS.md). */
export interface Board {
  readonly size: { readonly w: number; readonly h: number };
  readonly markers: readonly Marker[];
  /** Grey steps on the corner pieces; none: colour cannot be judged. `value`: sRGB 0–255 as sent to the printer. */
  readonly greys?: readonly (Box & { readonly value: number })[];
  readonly patches: readonly (Box & { readonly code: string; readonly reference: Reference })[];
  /** What else lies on it and is not bare ground. */
  readonly taken?: readonly Box[];
}

export interface ReadPatch {
  readonly code: string;
  readonly read: Outcome<ReadPhoto>;
}

/** A patch may lie this far off its place; and so much of its ground is looked at round it, mm. */
const OFF_MM = 2;
const ROUND_MM = 3.2;

/** A patch cut out of the photo of a board: all that its reading needs, and nothing that cannot be sent to a worker. */
export interface Cut {
  readonly code: string;
  readonly window: Cutout;
  readonly reference: Reference;
  readonly around: Surroundings;
}

/**
 * Reads all patches of a board from one photo, by the coded markers at its corners: three of them at least. The light
 * is taken from the markers' own paper, and between them from the board's bare ground, which is as light here as there;
 * each patch from its place in the plan, found again within 2 mm, which also allows for a board that is thicker than
 * the corner pieces. Returns a reading or a refusal for each patch, or why nothing of this photo can be read.
 */
export function readBoard(
  cv: Cv,
  photo: Pixels,
  board: Board,
  stage: 'wet' | 'dry',
  tell: Progress = () => {},
): Outcome<ReadPatch[]> {
  const cuts = cutBoard(cv, photo, board, stage, tell);
  if (!cuts.ok) return cuts;
  return good(
    cuts.value.map((cut, i) => {
      const { code } = board.patches[i];
      tell(LIT + ((1 - LIT) * i) / cuts.value.length, `Reading ${code}`);
      return { code, read: readCut(cv, cut()) };
    }),
  );
}

/** How far a board is when its light is known, as a share of the whole. */
export const LIT = 0.05;

/** Measures a patch that was cut out of the photo of a board. */
export const readCut = (cv: Cv, { window, reference, around }: Cut): Outcome<ReadPhoto> =>
  readWindow(cv, window, reference, around);

/**
 * The first half of {@link readBoard}: finds the corners and the light of a board, and gives for each of its patches, in
 * their order, what cuts it out. The second half, {@link readCut}, can be done elsewhere.
 */
export function cutBoard(
  cv: Cv,
  photo: Pixels,
  board: Board,
  stage: 'wet' | 'dry',
  tell: Progress = () => {},
): Outcome<readonly (() => Cut)[]> {
  tell(0.02, 'Looking for the corners');
  const seen = markersIn(cv, photo, board.markers);
  const found = board.markers.filter(m => seen.has(m.id));
  if (found.length < 3)
    return bad(
      found.length ? 'markers-hidden' : 'no-corners',
      found.length
        ? `Only ${found.length} of the board’s ${board.markers.length} corner markers can be seen.`
        : 'No corner markers of this board were found in this photo.',
      'Take the whole board into the picture, with a corner piece at each corner and nothing over them.',
    );
  const whole = { x: 0, y: 0, ...board.size };
  const place = placeBy(cv, seen, board.markers, whole);
  if (!place)
    return bad(
      'no-plane',
      'The corner markers do not lie in one plane.',
      'Lay the board and its corner pieces flat.',
    );
  const scale = Math.min(...board.patches.map(p => scaleOver(place.homography, p)));
  if (scale < LEAST_PX_PER_MM)
    return bad(
      'too-small',
      `The board is too small in this photo: ${scale.toFixed(1)} pixels per mm, ${LEAST_PX_PER_MM} are needed.`,
      'Come closer until the board fills the picture, or take its halves through the card.',
    );
  const lit = litByCorners(cv, photo, board, found, place);
  if (!lit.ok) return lit;
  const { light: _, ...known } = lit.value;
  return good(
    board.patches.map(({ code, reference, ...at }) => () => {
      const box = grown(at, OFF_MM + ROUND_MM);
      const { tiltDeg } = place;
      return {
        ...{ code, reference },
        window: cutWindow(photo, place, lit.value, box),
        around: { stage, lit: known, place: { tiltDeg, pxPerMm: scaleOver(place.homography, at) } },
      };
    }),
  );
}

const MOST_BLUR_MM = 0.24;
/** Cells of the board's bare ground that the light is followed over, mm; and how near to a patch they may come. */
const GROUND_CELL_MM = 4;
const CLEAR_OF_PATCH_MM = 3;

/** The light over a board, from the paper of its corner pieces and its own bare ground; tone from their greys. */
function litByCorners(
  cv: Cv,
  photo: Pixels,
  board: Board,
  found: readonly Marker[],
  place: CardPlace,
): Outcome<Lit> {
  const blurs: number[] = [];
  const spreads: Spread[] = [];
  const whites: WhiteSample[] = [];
  const greys: { rgb: WhiteSample['rgb']; x: number; y: number; sent: number }[] = [];
  const noise: number[] = [];
  for (const marker of found) {
    const rim = marker.size / 3;
    const box = { x: marker.x - rim, y: marker.y - rim, w: marker.size + 2 * rim, h: marker.size + 2 * rim };
    const region = lookAt(photo, place, box);
    blurs.push(edgeBlur(region, [marker], box));
    const spread = markerSpread(cv, region, [marker], box);
    if (spread) spreads.push(spread);
    whites.push(...paperOf(region, marker, box));
    noise.push(roughness(region, marker, box));
    for (const g of board.greys ?? []) {
      const inner = { x: g.x + 0.2 * g.w, y: g.y + 0.2 * g.h, w: 0.6 * g.w, h: 0.6 * g.h };
      const middleOf = { x: g.x + g.w / 2, y: g.y + g.h / 2 };
      const nearest = found.reduce((a, b) => (away(b, middleOf) < away(a, middleOf) ? b : a));
      if (nearest !== marker) continue;
      for (const s of colourAt(photo, place, inner)) greys.push({ ...s, sent: toLinear(g.value / 255) });
    }
  }
  if (whites.length < 3)
    return bad(
      'no-white',
      'The paper of the corner pieces cannot be seen.',
      'Take the whole board into the picture, in even light.',
    );
  const brightest = Math.max(...whites.map(s => Math.max(...s.rgb)));
  if (brightest < 0.05)
    return bad(
      'too-dark',
      'This photo is too dark to be measured.',
      'Take it again in brighter, even light.',
    );
  if (whites.filter(s => Math.max(...s.rgb) > 0.985).length > 0.3 * whites.length)
    return bad(
      'overexposed',
      'The white paper is overexposed.',
      'Take it again a little darker, or out of direct sun.',
    );
  const blurMm = middle(blurs);
  if (blurMm > MOST_BLUR_MM)
    return bad(
      'blurred',
      'This photo is blurred.',
      'Rest your elbows, tap the board on the screen to focus, and take it again.',
    );
  const light = lightFrom(
    [...whites, ...groundAsPaper(photo, board, place, whites)],
    Math.max(board.size.w, board.size.h),
  );
  const steps = greys.map(g => ({
    seen: g.rgb.map((v, c) => v / light(c, g.x, g.y)),
    sent: g.sent,
  }));
  const lit = board.patches.map(p => light(1, p.x + p.w / 2, p.y + p.h / 2));
  return good({
    light,
    tone: steps.length ? tonesFrom(steps) : [PLAIN_TONE, PLAIN_TONE, PLAIN_TONE],
    noise: Math.max(0.003, middle(noise)),
    blurMm,
    spread: spreads.length
      ? {
          xx: middle(spreads.map(s => s.xx)),
          yy: middle(spreads.map(s => s.yy)),
          give: middle(spreads.map(s => s.give)),
        }
      : undefined,
    evenness: Math.min(...lit) / Math.max(...lit),
    hasGreys: steps.length > 0,
  });
}

const away = (m: Marker, p: { x: number; y: number }) =>
  Math.hypot(m.x + m.size / 2 - p.x, m.y + m.size / 2 - p.y);

/** The white cells within a marker (it has some, whatever its number): each a sample of bare paper. */
function paperOf(region: Region, marker: Marker, origin: Box): WhiteSample[] {
  const cell = marker.size / 6;
  const cells: WhiteSample[] = [];
  for (let r = 1; r <= 4; r++)
    for (let c = 1; c <= 4; c++) {
      const box = {
        x: marker.x + (c + 0.25) * cell,
        y: marker.y + (r + 0.25) * cell,
        w: cell / 2,
        h: cell / 2,
      };
      cells.push(...sample(region, box, origin));
    }
  const brightest = Math.max(...cells.map(s => s.rgb[1]));
  return cells.filter(s => s.rgb[1] > 0.6 * brightest);
}

/** Noise on a marker's black rim against its paper, as a share of white. */
function roughness(region: Region, marker: Marker, origin: Box): number {
  const differences: number[] = [];
  let white = 0;
  const [x0, x1] = [marker.x - origin.x, marker.x + marker.size - origin.x].map(v => Math.round(v * PX));
  const y0 = Math.round((marker.y - origin.y) * PX);
  for (let y = Math.max(0, y0 - 14); y < y0 - 4; y++)
    for (let x = x0; x < x1 - 2; x += 2) {
      const i = (y * region.w + x) * 3 + 1;
      differences.push(Math.abs(region.rgb[i] - region.rgb[i + 6]));
      white = Math.max(white, region.rgb[i]);
    }
  return ((middle(differences) / 0.6745 / Math.SQRT2) * 1.3) / Math.max(0.05, white);
}

/**
 * The board's bare ground between its patches, as if it were paper: scaled in each channel so that on the whole it
 * agrees with the paper at the corners. Corners alone do not tell how the light falls in between.
 */
function groundAsPaper(
  photo: Pixels,
  board: Board,
  place: CardPlace,
  whites: readonly WhiteSample[],
): WhiteSample[] {
  const { w, h } = board.size;
  const kept: Box[] = [
    ...[...board.patches, ...(board.taken ?? [])].map(p => grown(p, CLEAR_OF_PATCH_MM)),
    ...board.markers.map(m => ({ x: m.x - m.size / 2, y: m.y - m.size / 2, w: 2 * m.size, h: 2 * m.size })),
    ...(board.greys ?? []),
  ];
  const cells: WhiteSample[] = [];
  const side = GROUND_CELL_MM;
  for (let y = side; y + 2 * side <= h; y += side)
    for (let x = side; x + 2 * side <= w; x += side) {
      const box = { x, y, w: side, h: side };
      if (kept.some(k => k.x < x + side && x < k.x + k.w && k.y < y + side && y < k.y + k.h)) continue;
      cells.push(...colourAt(photo, place, box));
    }
  if (cells.length < LEAST_GROUND) return [];
  // Paper and ground meet where the paper's own slope puts the ground's middle.
  const flat = lightFrom(whites, Math.max(w, h));
  const scale = [0, 1, 2].map(c => middle(cells.map(s => s.rgb[c] / flat(c, s.x, s.y))));
  const off = cells.map(s => Math.abs(Math.log(s.rgb[1] / scale[1] / flat(1, s.x, s.y))));
  const limit = Math.max(0.08, 3 * middle(off));
  return cells
    .filter((_, i) => off[i] < limit)
    .map(s => ({ ...s, rgb: s.rgb.map((v, c) => v / scale[c]) as unknown as WhiteSample['rgb'] }));
}
const LEAST_GROUND = 30;
