import { toLinear, toSrgb } from '../colour/index.ts';
/** A filled outline in mm from the top left, y down. `grey` is the sRGB value 0–255 sent to the printer. */
export interface Shape {
  readonly points: readonly (readonly [number, number])[];
  readonly grey: number;
}

/** A drawing of filled shapes on white, later ones over earlier ones. */
export interface Scene {
  readonly w: number;
  readonly h: number;
  readonly shapes: readonly Shape[];
  /** Upright lines with clear ground on both sides, to read fine detail by; widest first. */
  readonly lines?: readonly {
    readonly x: number;
    readonly y: number;
    readonly w: number;
    readonly h: number;
  }[];
}

/** An upright rectangle as a shape. */
export const rect = (x: number, y: number, w: number, h: number, grey: number): Shape => ({
  points: [
    [x, y],
    [x + w, y],
    [x + w, y + h],
    [x, y + h],
  ],
  grey,
});

/** A straight stroke of a given width with square ends, as a shape. */
export function stroke(
  [ax, ay]: readonly [number, number],
  [bx, by]: readonly [number, number],
  width: number,
  grey: number,
): Shape {
  const long = Math.hypot(bx - ax, by - ay) || 1;
  const ux = ((bx - ax) / long) * (width / 2);
  const uy = ((by - ay) / long) * (width / 2);
  return {
    points: [
      [ax - ux - uy, ay - uy + ux],
      [bx + ux - uy, by + uy + ux],
      [bx + ux + uy, by + uy - ux],
      [ax - ux + uy, ay - uy - ux],
    ],
    grey,
  };
}

/**
 * The scene as seen in a mirror: left and right swapped.
 *
 * @example mirrored({ w: 4, h: 4, shapes: [], lines: [{ x: 0, y: 0, w: 1, h: 1 }] }).lines[0].x; // => 3
 */
export const mirrored = (scene: Scene): Scene => ({
  ...scene,
  shapes: scene.shapes.map(s => ({ ...s, points: s.points.map(([x, y]) => [scene.w - x, y] as const) })),
  ...(scene.lines ? { lines: scene.lines.map(l => ({ ...l, x: scene.w - l.x - l.w })) } : {}),
});

/**
 * Paints a scene as sRGB grey bytes, row by row, at `pxPerMm`. Edges are smoothed with `over` sub-rows
 * of exact horizontal coverage each (even-odd rule). Coverage mixes in linear light.
 */
export function rasterise(
  scene: Scene,
  pxPerMm: number,
  over = 4,
): { w: number; h: number; data: Uint8Array } {
  const w = Math.round(scene.w * pxPerMm);
  const h = Math.round(scene.h * pxPerMm);
  const light = new Float32Array(w * h).fill(1);
  for (const shape of scene.shapes) paint(light, w, h, shape, pxPerMm, over);
  const data = new Uint8Array(w * h);
  for (let i = 0; i < data.length; i++) data[i] = srgbByte(light[i]);
  return { w, h, data };
}

const STEPS = 8192;
const SRGB_BYTES = Uint8Array.from({ length: STEPS + 1 }, (_, i) => Math.round(toSrgb(i / STEPS) * 255));

/**
 * Linear light 0–1 (clamped) to an sRGB byte, by table; at most one step off.
 *
 * @example srgbByte(1); // => 255
 */
export function srgbByte(light: number): number {
  return SRGB_BYTES[light <= 0 ? 0 : light >= 1 ? STEPS : Math.round(light * STEPS)];
}

function paint(light: Float32Array, w: number, h: number, shape: Shape, scale: number, over: number) {
  const ys = shape.points.map(p => p[1] * scale);
  const first = Math.max(0, Math.floor(Math.min(...ys)));
  const last = Math.min(h - 1, Math.ceil(Math.max(...ys)));
  const xs = shape.points.map(p => p[0] * scale);
  const left = Math.max(0, Math.floor(Math.min(...xs)));
  const right = Math.min(w, Math.ceil(Math.max(...xs)));
  const value = toLinear(shape.grey / 255);
  const cover = new Float32Array(w);
  for (let row = first; row <= last; row++) {
    cover.fill(0, left, right);
    for (let sub = 0; sub < over; sub++) {
      const crossings = crossingsAt(shape, row + (sub + 0.5) / over, scale);
      for (let i = 0; i + 1 < crossings.length; i += 2)
        addSpan(cover, crossings[i], crossings[i + 1], 1 / over);
    }
    for (let x = left; x < right; x++)
      if (cover[x] > 0) light[row * w + x] += (value - light[row * w + x]) * Math.min(1, cover[x]);
  }
}

function crossingsAt(shape: Shape, y: number, scale: number): number[] {
  const xs: number[] = [];
  const { points } = shape;
  for (let i = 0; i < points.length; i++) {
    const [ax, ay] = points[i];
    const [bx, by] = points[(i + 1) % points.length];
    if (ay * scale <= y !== by * scale <= y)
      xs.push((ax + ((y / scale - ay) / (by - ay)) * (bx - ax)) * scale);
  }
  return xs.sort((a, b) => a - b);
}

function addSpan(cover: Float32Array, from: number, to: number, weight: number) {
  const a = Math.max(0, from);
  const b = Math.min(cover.length, to);
  for (let x = Math.floor(a); x < b; x++) cover[x] += weight * (Math.min(b, x + 1) - Math.max(a, x));
}
