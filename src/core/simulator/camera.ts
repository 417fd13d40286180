import { toLinear } from '../colour/index.ts';
import { type Card, cardScene, rasterise, type Scene, srgbByte, WINDOW_BEYOND } from '../print/index.ts';
import { type Chance, chanceFrom } from '../random/index.ts';
import type { Pixels } from '../reading/index.ts';
import type { Preparation, Substrate } from '../shelf/index.ts';
import { field, rough } from './noise.ts';
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

type Rgb = readonly [number, number, number];

/** The ground's own look at a place given in mm, in linear light relative to paper white; the same seed gives the same piece. */
export function ground(
  substrate: Substrate,
  preparation: Preparation,
  seed: number,
): (x: number, y: number) => Rgb {
  const a = rough(field(seed));
  const b = field(seed + 1);
  const white = preparation.whitens;
  const tint = (value: number, c: Rgb): Rgb => {
    const shade = 1 + (value - 1) * (1 - 0.7 * white);
    const paint = 0.88 * white;
    return [
      (c[0] * (1 - white) + paint) * shade,
      (c[1] * (1 - white) + paint) * shade,
      (c[2] * (1 - white) + paint) * shade,
    ];
  };
  switch (substrate.texture) {
    case 'grain':
      return (x, y) => {
        const line = a(x / 26, y / 1.1 + 2 * a(x / 30, y / 14));
        const pore = b(x / 3.2, y / 0.35) > 0.86 ? 0.86 : 1;
        return tint((0.74 + 0.46 * line) * pore, substrate.colour);
      };
    case 'weave':
      return (x, y) => {
        const warp = 0.5 + 0.5 * Math.sin((x * 2 * Math.PI) / 0.72 + 0.6 * a(x, y));
        const weft = 0.5 + 0.5 * Math.sin((y * 2 * Math.PI) / 0.78 + 0.6 * b(x, y));
        return tint(0.86 + 0.12 * (warp + weft - 1) + 0.1 * (a(x / 5, y / 5) - 0.5), substrate.colour);
      };
    case 'slate':
      return (x, y) => tint(0.7 + 0.6 * a(x / 3 + y / 5, y / 2), substrate.colour);
    case 'smooth':
      return (x, y) => tint(0.99 + 0.03 * (a(x / 15, y / 15) - 0.5), substrate.colour);
  }
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
 * Photographs a finished piece through the reading card. Draws ground, picture and card at the
 * photo's own resolution, tilts them, lights them unevenly, blurs, adds noise and encodes as sRGB.
 * Returns the photo and the truth, which the reading code never sees.
 */
export function photograph(
  outcome: PatchOutcome,
  picture: Scene,
  card: Card,
  substrate: Substrate,
  preparation: Preparation,
  shot: Shot,
): Simulated {
  const chance = chanceFrom(shot.seed);
  const scale = shot.pxPerMm ?? chance.between(9, 15);
  const { flat, landed, veil, px } = flatCard(
    outcome,
    picture,
    card,
    substrate,
    preparation,
    shot,
    scale,
    chance,
  );
  return { photo: exposeAndTilt(flat, px, card, shot, scale, chance), landed, veil };
}

function flatCard(
  outcome: PatchOutcome,
  picture: Scene,
  card: Card,
  substrate: Substrate,
  preparation: Preparation,
  shot: Shot,
  scale: number,
  chance: Chance,
) {
  const px = Math.min(20, Math.max(12, scale * 1.3));
  const drawn = rasterise(cardScene(card), px);
  const ink = rasterise(picture, px, 3);
  const flat = new Float32Array(drawn.w * drawn.h * 3);
  const linear = Float32Array.from({ length: 256 }, (_, i) => toLinear(i / 255));
  for (let i = 0; i < flat.length; i++) flat[i] = linear[drawn.data[Math.floor(i / 3)]];

  const bare = ground(substrate, preparation, shot.seed + 77);
  const wet = shot.stage === 'wet';
  const [offX, offY] = [chance.between(-0.8, 0.8), chance.between(-0.8, 0.8)];
  const angle = (chance.between(-1.5, 1.5) * Math.PI) / 180;
  const size = picture.w;
  const turn = ((shot.turn ?? 0) * Math.PI) / 180;
  const left = card.window.x + WINDOW_BEYOND + offX + size / 2;
  const top = card.window.y + WINDOW_BEYOND + offY + size / 2;
  const [cos, sin] = [Math.cos(-angle - turn), Math.sin(-angle - turn)];

  for (let y = Math.ceil(card.window.y * px); y < (card.window.y + card.window.h) * px; y++)
    for (let x = Math.ceil(card.window.x * px); x < (card.window.x + card.window.w) * px; x++) {
      const mx = (x + 0.5) / px;
      const my = (y + 0.5) / px;
      const b = bare(mx, my);
      const dx = mx - left;
      const dy = my - top;
      let u = dx * cos - dy * sin + size / 2;
      const w = dx * sin + dy * cos + size / 2;
      if (shot.backwards) u = size - u;
      const at = (y * drawn.w + x) * 3;
      const inside = u >= 0 && w >= 0 && u < size && w < size;
      const r = inside
        ? linear[
            ink.data[
              Math.min(ink.h - 1, Math.floor(w * px)) * ink.w + Math.min(ink.w - 1, Math.floor(u * px))
            ]
          ]
        : 1;
      const k = inside ? cell(outcome, u, w) : 0;
      const m = inside ? outcome.landed[k] : 0;
      const h = inside ? outcome.veil[k] * (wet ? 0.08 : 1) : 0;
      const damp = wet && inside ? 0.75 : 1;
      for (let c = 0; c < 3; c++) flat[at + c] = (m * ((1 - h) * r * b[c] + h) + (1 - m) * b[c]) * damp;
    }
  return { flat, px, ...truth(outcome, picture) };
}

const cell = (o: PatchOutcome, u: number, v: number) =>
  Math.min(o.side - 1, Math.floor(v * o.pxPerMm)) * o.side + Math.min(o.side - 1, Math.floor(u * o.pxPerMm));

/** Landed (%) and mean veil over the inked area, straight from the process maps. */
export function truth(outcome: PatchOutcome, picture: Scene): { landed: number; veil: number } {
  const ink = rasterise(picture, outcome.pxPerMm);
  let inked = 0;
  let held = 0;
  let haze = 0;
  for (let i = 0; i < ink.data.length; i++) {
    if (toLinear(ink.data[i] / 255) >= 0.6) continue;
    inked++;
    held += outcome.landed[i] >= 0.5 ? 1 : 0;
    haze += outcome.landed[i] >= 0.5 ? outcome.veil[i] : 0;
  }
  return { landed: (100 * held) / inked, veil: held ? haze / held : 0 };
}

function exposeAndTilt(
  flat: Float32Array,
  px: number,
  card: Card,
  shot: Shot,
  scale: number,
  chance: Chance,
): Pixels {
  const w = Math.round(card.page.w * scale * 1.22);
  const h = Math.round(card.page.h * scale * 1.16);
  const map = tiltMap(card, shot, scale, w, h, chance);
  const gains = lightColour(shot.kelvin ?? chance.between(2700, 7500));
  const falloff = shot.falloff ?? chance.between(0, 0.4);
  const towards = chance.between(0, 2 * Math.PI);
  const exposure = chance.between(0.72, 0.9);
  const noise = shot.noise ?? chance.between(0.003, 0.01);
  const flatW = Math.round(card.page.w * px);
  const image = new Float32Array(w * h * 3);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const [mx, my] = map(x + 0.5, y + 0.5);
      const fade =
        1 -
        falloff *
          (0.5 + 0.7 * ((Math.cos(towards) * (x - w / 2)) / w + (Math.sin(towards) * (y - h / 2)) / h));
      const on = mx > 0 && my > 0 && mx < card.page.w && my < card.page.h;
      const shine = shot.glare
        ? 1.6 * Math.exp(-(((mx - card.page.w * 0.5) / 9) ** 2) - ((my - card.page.h * 0.48) / 7) ** 2)
        : 0;
      for (let c = 0; c < 3; c++) {
        const value = on ? sample(flat, flatW, mx * px - 0.5, my * px - 0.5, c) : DESK[c];
        image[(y * w + x) * 3 + c] = (value + shine) * fade * exposure * gains[c];
      }
    }
  const blurred = blur(image, w, h, shot.blurPx ?? chance.between(0.5, 1.1));
  const data = new Uint8ClampedArray(w * h * 4);
  const grain = Float32Array.from({ length: 1 << 16 }, () => chance.normal());
  for (let i = 0; i < w * h; i++) {
    // A new place in the noise table on every row, so that rows do not repeat each other.
    const at = (i + Math.imul(Math.floor(i / w), 40503)) * 3;
    for (let c = 0; c < 3; c++) {
      const v = blurred[i * 3 + c];
      data[i * 4 + c] = srgbByte(v + noise * (0.4 + Math.sqrt(v)) * grain[(at + c) & 0xffff]);
    }
    data[i * 4 + 3] = 255;
  }
  return { w, h, data };
}

function sample(flat: Float32Array, w: number, x: number, y: number, c: number): number {
  const h = flat.length / 3 / w;
  const x0 = Math.min(w - 2, Math.max(0, Math.floor(x)));
  const y0 = Math.min(h - 2, Math.max(0, Math.floor(y)));
  const fx = Math.min(1, Math.max(0, x - x0));
  const fy = Math.min(1, Math.max(0, y - y0));
  const i = (y0 * w + x0) * 3 + c;
  const down = w * 3;
  return (
    (flat[i] * (1 - fx) + flat[i + 3] * fx) * (1 - fy) +
    (flat[i + down] * (1 - fx) + flat[i + down + 3] * fx) * fy
  );
}

/** Linear-light colour of the table under the card. */
const DESK: Rgb = [0.09, 0.08, 0.075];

/** Photo pixel → card mm for a camera held about two card widths away and tilted. */
function tiltMap(card: Card, shot: Shot, scale: number, w: number, h: number, chance: Chance) {
  const tilt = ((shot.tiltDeg ?? chance.between(0, 20)) * Math.PI) / 180;
  const about = chance.between(0, 2 * Math.PI);
  const roll = (chance.between(-8, 8) * Math.PI) / 180;
  const away = card.page.w * 2.6;
  const [ax, ay] = [Math.cos(about), Math.sin(about)];
  const [cosRoll, sinRoll] = [Math.cos(-roll), Math.sin(-roll)];
  return (px: number, py: number): [number, number] => {
    const sx = (px - w / 2) / scale;
    const sy = (py - h / 2) / scale;
    const rx = sx * cosRoll - sy * sinRoll;
    const ry = sx * sinRoll + sy * cosRoll;
    // The view ray through (rx, ry, away) meets the card's plane, turned by `tilt` about the axis (ax, ay).
    const along = rx * ax + ry * ay;
    const across = -rx * ay + ry * ax;
    const t = away / (away * Math.cos(tilt) - across * Math.sin(tilt));
    const [u, v] = [along * t * Math.cos(tilt), across * t];
    return [card.page.w / 2 + u * ax - v * ay, card.page.h / 2 + u * ay + v * ax];
  };
}

/** Separable Gaussian blur of an RGB image; `sigma` in pixels. */
function blur(image: Float32Array, w: number, h: number, sigma: number): Float32Array {
  if (sigma < 0.2) return image;
  const radius = Math.ceil(sigma * 3);
  const weights = Array.from({ length: 2 * radius + 1 }, (_, i) =>
    Math.exp(-((i - radius) ** 2) / (2 * sigma * sigma)),
  );
  const sum = weights.reduce((a, b) => a + b, 0);
  const pass = (from: Float32Array, dx: number, dy: number) => {
    const to = new Float32Array(from.length);
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++) {
        const o = (y * w + x) * 3;
        let r = 0;
        let g = 0;
        let b = 0;
        for (let k = -radius; k <= radius; k++) {
          const sx = Math.min(w - 1, Math.max(0, x + k * dx));
          const sy = Math.min(h - 1, Math.max(0, y + k * dy));
          const i = (sy * w + sx) * 3;
          const weight = weights[k + radius] / sum;
          r += from[i] * weight;
          g += from[i + 1] * weight;
          b += from[i + 2] * weight;
        }
        to[o] = r;
        to[o + 1] = g;
        to[o + 2] = b;
      }
    return to;
  };
  return pass(pass(image, 1, 0), 0, 1);
}
