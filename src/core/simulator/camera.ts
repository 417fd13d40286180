import {
  type Card,
  cardScene,
  cornerPieces,
  rasterise,
  type Scene,
  srgbByte,
  WINDOW_BEYOND,
} from '../print/index.ts';
import { type Chance, chanceFrom } from '../random/index.ts';
import type { Preparation, Substrate } from '../shelf/index.ts';
import { ground, LINEAR, type Printed, patchLook, printedScene, type Rgb } from './look.ts';
import { field, rough } from './noise.ts';
import type { Pixels } from './pixels.ts';
import type { PatchOutcome } from './process.ts';

/** How a photo is taken. Left out, each is drawn from the seed within what phones do. */
export interface Shot {
  readonly seed: number;
  readonly stage: 'wet' | 'dry';
  readonly pxPerMm?: number;
  readonly tiltDeg?: number;
  readonly kelvin?: number;
  /** Light lost across the card, 0–0.4. */
  readonly falloff?: number;
  /** Blur of lens and hand, standard deviation in photo pixels. */
  readonly blurPx?: number;
  readonly noise?: number;
  /** Quarter turns and mirroring of the picture on the ground, for a maker's mistakes. */
  readonly turn?: 0 | 90 | 180 | 270;
  readonly backwards?: boolean;
  /** A patch of glare over the window, for photos that must be refused. */
  readonly glare?: boolean;
}

/** A simulated photo with what is true about it. */
export interface Simulated {
  readonly photo: Pixels;
  /** Share of the inked area that holds colourant, %. */
  readonly landed: number;
  /** Mean veil over inked and landed area, 0–1. */
  readonly veil: number;
}

/** What lies under the camera, seen from straight above: linear light, `px` to the mm, from `x`, `y` (mm) on. */
interface Flat {
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly h: number;
  readonly px: number;
  readonly rgb: Float32Array;
}

/** Linear-light gains of a light of a colour temperature against 6500 K (rounded black-body values). */
function lightColour(kelvin: number): Rgb {
  const table: [number, Rgb][] = [
    [2700, [1, 0.52, 0.2]],
    [3500, [1, 0.69, 0.41]],
    [5000, [1, 0.88, 0.77]],
    [6500, [1, 1, 1]],
    [7500, [0.89, 0.95, 1]],
  ];
  const k = Math.min(7500, Math.max(2700, kelvin));
  const i = Math.min(table.length - 2, Math.max(0, table.findIndex(([t]) => t >= k) - 1));
  const t = (k - table[i][0]) / (table[i + 1][0] - table[i][0]);
  const mix = (c: number) => table[i][1][c] * (1 - t) + table[i + 1][1][c] * t;
  return [mix(0), mix(1), mix(2)];
}

/**
 * Photographs a finished piece through the reading card. Draws ground, picture and card at the photo's own resolution,
 * tilts them, lights them unevenly, blurs, adds noise and encodes as sRGB. `picture`: a drawing, or what is printed.
 * Returns the photo and the truth, which the reading code never sees.
 */
export function photograph(
  outcome: PatchOutcome,
  picture: Scene | Printed,
  card: Card,
  substrate: Substrate,
  preparation: Preparation,
  shot: Shot,
): Simulated {
  const chance = chanceFrom(shot.seed);
  const scale = shot.pxPerMm ?? chance.between(9, 15);
  const px = Math.min(20, Math.max(12, scale * 1.3));
  const printed = 'at' in picture ? picture : printedScene(picture, px);
  const flat = flatScene(cardScene(card), px);
  const bare = ground(substrate, preparation, shot.seed + 77);
  const off = { x: chance.between(-0.8, 0.8), y: chance.between(-0.8, 0.8) };
  lay(flat, card.window, patchLook(outcome, printed, shot.stage === 'wet'), printed, bare, {
    x: card.window.x + WINDOW_BEYOND + (card.patch - printed.w) / 2 + off.x,
    y: card.window.y + WINDOW_BEYOND + (card.tall - printed.h) / 2 + off.y,
    angle: (chance.between(-1.5, 1.5) * Math.PI) / 180,
    turn: shot.turn ?? 0,
    backwards: shot.backwards ?? false,
  });
  return { photo: expose(flat, shot, scale, chance), ...truth(outcome, printed) };
}

/** How wide the places are that an etch or a sanding left out, mm. */
const LEFT_OUT_MM = 7;
/** The lamp's own white that comes back from where it shines, and from ground that is dull. */
const SHINES = 0.75;
const DULL_SHINES = 0.03;

/**
 * A bare ground through the card's window with a lamp low at its side: where it was left glossy it shines.
 * `glossy`: the share left so, 0–1. Returns the photo and the share that does shine, %.
 */
export function photographGround(
  substrate: Substrate,
  preparation: Preparation,
  card: Card,
  glossy: number,
  shot: Omit<Shot, 'stage'>,
): { readonly photo: Pixels; readonly gloss: number } {
  const chance = chanceFrom(shot.seed);
  const scale = shot.pxPerMm ?? chance.between(9, 15);
  const px = Math.min(20, Math.max(12, scale * 1.3));
  const flat = flatScene(cardScene(card), px);
  const bare = ground(substrate, preparation, shot.seed + 77);
  const left = rough(field(shot.seed + 78));
  const at = (x: number, y: number) => left(x / LEFT_OUT_MM, y / LEFT_OUT_MM);
  const { x: x0, y: y0, w, h } = card.window;
  const values: number[] = [];
  for (let i = 0; i < 80; i++)
    for (let k = 0; k < 80; k++) values.push(at(x0 + (w * (i + 0.5)) / 80, y0 + (h * (k + 0.5)) / 80));
  values.sort((a, b) => b - a);
  const line = glossy > 0 ? values[Math.min(values.length - 1, Math.floor(glossy * values.length))] : 2;
  const fine = field(shot.seed + 79);
  paint(flat, card.window, (x, y) => {
    const back = at(x, y) > line ? SHINES * (0.8 + 0.4 * fine(x / 3, y / 3)) : DULL_SHINES;
    const [r, g, b] = bare(x, y);
    return [r + back, g + back, b + back];
  });
  const gloss = (100 * values.filter(v => v > line).length) / values.length;
  return { photo: expose(flat, { ...shot, stage: 'dry' }, scale, chance), gloss };
}

/** A board with its patches and its corner pieces, for one photo of all of it. */
export interface BoardScene {
  readonly size: { readonly w: number; readonly h: number };
  readonly patches: readonly {
    readonly x: number;
    readonly y: number;
    readonly outcome: PatchOutcome;
    readonly printed: Printed;
    readonly substrate: Substrate;
    readonly preparation: Preparation;
  }[];
}

/** What of the table is seen round a board's corner pieces, mm. */
const ROUND_BOARD_MM = 8;

/** Photographs a whole board with its corner pieces laid beside it. */
export function photographBoard(scene: BoardScene, shot: Shot): Pixels {
  const { size } = scene;
  const chance = chanceFrom(shot.seed);
  const pieces = cornerPieces(size.w, size.h);
  const scale = shot.pxPerMm ?? 9;
  const px = Math.min(14, scale * 1.2);
  const left = Math.min(...pieces.map(p => p.at.x)) - ROUND_BOARD_MM;
  const right = Math.max(...pieces.map(p => p.at.x + p.size.w)) + ROUND_BOARD_MM;
  const flat = emptyFlat(
    { x: left, y: -ROUND_BOARD_MM, w: right - left, h: size.h + 2 * ROUND_BOARD_MM },
    px,
  );
  for (const { at, scene: drawing } of pieces) {
    const drawn = rasterise(drawing, px);
    paint(flat, { ...at, w: drawing.w, h: drawing.h }, (x, y) => {
      const i =
        Math.min(drawn.h - 1, Math.floor((y - at.y) * px)) * drawn.w +
        Math.min(drawn.w - 1, Math.floor((x - at.x) * px));
      const v = LINEAR[drawn.data[i]];
      return [v, v, v];
    });
  }
  layBoard(flat, scene, shot, chance);
  return expose(flat, shot, scale, chance);
}

/**
 * How a board would look from straight above in even light, at `px` pixels per mm: no photo, for seeing a plan before
 * anything is cut.
 */
export function boardLook(scene: BoardScene, px: number, seed: number): Pixels {
  const flat = emptyFlat({ x: 0, y: 0, ...scene.size }, px);
  layBoard(flat, scene, { seed, stage: 'dry' }, chanceFrom(seed));
  const data = new Uint8ClampedArray(flat.w * flat.h * 4);
  for (let i = 0; i < flat.w * flat.h; i++) {
    for (let c = 0; c < 3; c++) data[i * 4 + c] = srgbByte(flat.rgb[i * 3 + c]);
    data[i * 4 + 3] = 255;
  }
  return { w: flat.w, h: flat.h, data };
}

function emptyFlat({ x, y, w, h }: Box, px: number): Flat {
  const [wide, tall] = [Math.round(w * px), Math.round(h * px)];
  const rgb = new Float32Array(wide * tall * 3);
  for (let o = 0; o < rgb.length; o += 3) rgb.set(DESK, o);
  return { x, y, w: wide, h: tall, px, rgb };
}

/** Paints a board and lays its patches on it, each a little off its place. */
function layBoard(flat: Flat, { size, patches }: BoardScene, shot: Shot, chance: Chance): void {
  const { substrate, preparation } = patches[0];
  paint(flat, { x: 0, y: 0, ...size }, ground(substrate, preparation, shot.seed + 77));
  for (const p of patches) {
    const own = ground(p.substrate, p.preparation, shot.seed + 77);
    const reach = 4;
    const box = {
      ...{ x: p.x - reach, y: p.y - reach },
      ...{ w: p.printed.w + 2 * reach, h: p.printed.h + 2 * reach },
    };
    const look = patchLook(p.outcome, p.printed, shot.stage === 'wet');
    lay(flat, box, look, p.printed, own, {
      x: p.x + chance.between(-0.7, 0.7),
      y: p.y + chance.between(-0.7, 0.7),
      angle: (chance.between(-1.2, 1.2) * Math.PI) / 180,
      ...{ turn: 0, backwards: false },
    });
  }
}

function flatScene(scene: Scene, px: number): Flat {
  const drawn = rasterise(scene, px);
  const rgb = new Float32Array(drawn.w * drawn.h * 3);
  for (let i = 0, o = 0; i < drawn.data.length; i++, o += 3) {
    const v = LINEAR[drawn.data[i]];
    rgb[o] = v;
    rgb[o + 1] = v;
    rgb[o + 2] = v;
  }
  return { x: 0, y: 0, w: drawn.w, h: drawn.h, px, rgb };
}

interface Box {
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly h: number;
}

/** Paints a rectangle (mm) of what lies there by the place in mm. */
function paint(flat: Flat, box: Box, look: (x: number, y: number, at: number) => Rgb): void {
  const { px, rgb } = flat;
  const y1 = Math.min(flat.h, (box.y + box.h - flat.y) * px);
  const x1 = Math.min(flat.w, (box.x + box.w - flat.x) * px);
  for (let y = Math.max(0, Math.ceil((box.y - flat.y) * px)); y < y1; y++)
    for (let x = Math.max(0, Math.ceil((box.x - flat.x) * px)); x < x1; x++) {
      const at = (y * flat.w + x) * 3;
      const c = look(flat.x + (x + 0.5) / px, flat.y + (y + 0.5) / px, at);
      rgb[at] = c[0];
      rgb[at + 1] = c[1];
      rgb[at + 2] = c[2];
    }
}

/** How a patch lies: its top left, mm, and turned how far. */
interface Lying {
  readonly x: number;
  readonly y: number;
  readonly angle: number;
  readonly turn: number;
  readonly backwards: boolean;
}

/** Lays a patch on a ground within a rectangle. */
function lay(
  flat: Flat,
  box: Box,
  look: ReturnType<typeof patchLook>,
  size: { readonly w: number; readonly h: number },
  bare: (x: number, y: number) => Rgb,
  lying: Lying,
): void {
  const turn = (lying.turn * Math.PI) / 180;
  const [cos, sin] = [Math.cos(-lying.angle - turn), Math.sin(-lying.angle - turn)];
  const middle = { x: lying.x + size.w / 2, y: lying.y + size.h / 2 };
  paint(flat, box, (x, y) => {
    const [dx, dy] = [x - middle.x, y - middle.y];
    const u = dx * cos - dy * sin + size.w / 2;
    const v = dx * sin + dy * cos + size.h / 2;
    return look(lying.backwards ? size.w - u : u, v, bare(x, y));
  });
}

/** Landed (%) and mean veil over the inked area, straight from the process maps. */
export function truth(outcome: PatchOutcome, picture: Scene | Printed): { landed: number; veil: number } {
  const { pxPerMm, w, h } = outcome;
  const printed = 'at' in picture ? picture : printedScene(picture, pxPerMm);
  let [inked, held, haze] = [0, 0, 0];
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const c = printed.at((x + 0.5) / pxPerMm, (y + 0.5) / pxPerMm);
      if (0.2126 * c[0] + 0.7152 * c[1] + 0.0722 * c[2] >= 0.6) continue;
      inked++;
      const i = y * w + x;
      held += outcome.landed[i] >= 0.5 ? 1 : 0;
      haze += outcome.landed[i] >= 0.5 ? outcome.veil[i] : 0;
    }
  return { landed: (100 * held) / inked, veil: held ? haze / held : 0 };
}

function expose(flat: Flat, shot: Shot, scale: number, chance: Chance): Pixels {
  const [pageW, pageH] = [flat.w / flat.px, flat.h / flat.px];
  const w = Math.round(pageW * scale * 1.22);
  const h = Math.round(pageH * scale * 1.16);
  const map = tiltMap(pageW, pageH, shot, scale, w, h, chance);
  const gains = lightColour(shot.kelvin ?? chance.between(2700, 7500));
  const falloff = shot.falloff ?? chance.between(0, 0.4);
  const towards = chance.between(0, 2 * Math.PI);
  const exposure = chance.between(0.72, 0.9);
  const noise = shot.noise ?? chance.between(0.003, 0.01);
  const image = new Float32Array(w * h * 3);
  const seen = new Float64Array(3);
  const place = new Float64Array(2);
  const [fadeX, fadeY] = [Math.cos(towards), Math.sin(towards)];
  for (let y = 0, o = 0; y < h; y++) {
    const down = (fadeY * (y - h / 2)) / h;
    for (let x = 0; x < w; x++, o += 3) {
      map(x + 0.5, y + 0.5, place);
      const [mx, my] = place;
      const light = (1 - falloff * (0.5 + 0.7 * ((fadeX * (x - w / 2)) / w + down))) * exposure;
      const on = mx > 0 && my > 0 && mx < pageW && my < pageH;
      const shine = shot.glare
        ? 1.6 * Math.exp(-(((mx - pageW * 0.5) / 9) ** 2) - ((my - pageH * 0.48) / 7) ** 2)
        : 0;
      if (on) sample(flat, mx * flat.px - 0.5, my * flat.px - 0.5, seen);
      for (let c = 0; c < 3; c++) image[o + c] = ((on ? seen[c] : DESK[c]) + shine) * light * gains[c];
    }
  }
  const blurred = blur(image, w, h, shot.blurPx ?? chance.between(0.5, 1.1));
  const data = new Uint8ClampedArray(w * h * 4);
  const grain = Float32Array.from({ length: 1 << 16 }, () => chance.normal());
  for (let i = 0; i < w * h; i++) {
    // A new place in the noise table on every row, so that rows do not repeat each other.
    const at = (i + Math.imul((i / w) | 0, 40503)) * 3;
    for (let c = 0; c < 3; c++) {
      const v = blurred[i * 3 + c];
      data[i * 4 + c] = srgbByte(v + noise * (0.4 + Math.sqrt(v)) * grain[(at + c) & 0xffff]);
    }
    data[i * 4 + 3] = 255;
  }
  return { w, h, data };
}

/** The colour at a place between pixels, drawn straight between the four round it; written to `out`. */
function sample({ rgb, w, h }: Flat, x: number, y: number, out: Float64Array): void {
  const x0 = Math.min(w - 2, Math.max(0, Math.floor(x)));
  const y0 = Math.min(h - 2, Math.max(0, Math.floor(y)));
  const fx = Math.min(1, Math.max(0, x - x0));
  const fy = Math.min(1, Math.max(0, y - y0));
  const down = w * 3;
  for (let c = 0, i = (y0 * w + x0) * 3; c < 3; c++, i++)
    out[c] =
      (rgb[i] * (1 - fx) + rgb[i + 3] * fx) * (1 - fy) +
      (rgb[i + down] * (1 - fx) + rgb[i + down + 3] * fx) * fy;
}

/** Linear-light colour of the table under the card. */
const DESK: Rgb = [0.09, 0.08, 0.075];

/** Photo pixel → mm of what lies there, for a camera held about two and a half widths away and tilted. */
function tiltMap(
  pageW: number,
  pageH: number,
  shot: Shot,
  scale: number,
  w: number,
  h: number,
  chance: Chance,
) {
  const tilt = ((shot.tiltDeg ?? chance.between(0, 20)) * Math.PI) / 180;
  const about = chance.between(0, 2 * Math.PI);
  const roll = (chance.between(-8, 8) * Math.PI) / 180;
  const away = pageW * 2.6;
  const [ax, ay] = [Math.cos(about), Math.sin(about)];
  const [cosRoll, sinRoll] = [Math.cos(-roll), Math.sin(-roll)];
  const [sinTilt, cosTilt] = [Math.sin(tilt), Math.cos(tilt)];
  /** Writes the place in mm to `out`. */
  return (px: number, py: number, out: Float64Array): void => {
    const sx = (px - w / 2) / scale;
    const sy = (py - h / 2) / scale;
    const rx = sx * cosRoll - sy * sinRoll;
    const ry = sx * sinRoll + sy * cosRoll;
    // The view ray through (rx, ry, away) meets the plane, turned by `tilt` about the axis (ax, ay).
    const along = rx * ax + ry * ay;
    const across = -rx * ay + ry * ax;
    const t = away / (away * cosTilt - across * sinTilt);
    const u = along * t * cosTilt;
    const v = across * t;
    out[0] = pageW / 2 + u * ax - v * ay;
    out[1] = pageH / 2 + u * ay + v * ax;
  };
}

/** Separable Gaussian blur of an RGB image; `sigma` in pixels. Beyond the rim the rim goes on. */
function blur(image: Float32Array, w: number, h: number, sigma: number): Float32Array {
  if (sigma < 0.2) return image;
  const radius = Math.ceil(sigma * 3);
  const weights = Array.from({ length: 2 * radius + 1 }, (_, i) =>
    Math.exp(-((i - radius) ** 2) / (2 * sigma * sigma)),
  );
  const sum = weights.reduce((a, b) => a + b, 0);
  const share = Float64Array.from(weights, v => v / sum);
  const wide = w * 3;
  const across = new Float32Array(image.length);
  const line = new Float64Array(wide);
  const room = new Float32Array((w + 2 * radius) * 3);
  for (let y = 0; y < h; y++) {
    room.set(image.subarray(y * wide, (y + 1) * wide), radius * 3);
    for (let k = 0; k < radius; k++) {
      room.copyWithin(k * 3, radius * 3, radius * 3 + 3);
      room.copyWithin((radius + w + k) * 3, (radius + w - 1) * 3, (radius + w) * 3);
    }
    line.fill(0);
    addRow(line, room, radius * 3, share[radius]);
    for (let k = 1; k <= radius; k++)
      addRows(line, room, (radius - k) * 3, (radius + k) * 3, share[radius + k]);
    across.set(line, y * wide);
  }
  const row = (y: number) => Math.min(h - 1, Math.max(0, y)) * wide;
  const out = new Float32Array(image.length);
  for (let y = 0; y < h; y++) {
    line.fill(0);
    addRow(line, across, y * wide, share[radius]);
    for (let k = 1; k <= radius; k++) addRows(line, across, row(y - k), row(y + k), share[radius + k]);
    out.set(line, y * wide);
  }
  return out;
}

function addRow(line: Float64Array, from: Float32Array, at: number, part: number): void {
  for (let x = 0, i = at; x < line.length; x++, i++) line[x] += from[i] * part;
}

/** Adds what lies as far on either side, which has the same part in it. */
function addRows(line: Float64Array, from: Float32Array, a: number, b: number, part: number): void {
  for (let x = 0, i = a, k = b; x < line.length; x++, i++, k++) line[x] += (from[i] + from[k]) * part;
}
