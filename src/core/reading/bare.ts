import type { BarePatch } from '../trial/index.ts';
import { type Cv, scoped } from './cv.ts';
import { maskOf } from './mask.ts';
import { SORT_PX } from './px.ts';

/** Bare places of this area and more are listed, mm². */
export const LEAST_MM2 = 1;
/** How wide a gap of toner-free picture two parts of one bare place may be apart, mm. */
const BRIDGED_MM = 2.4;

/**
 * Connected bare areas of at least 1 mm² with place, area, shape, distance from the picture's edge and direction.
 * `bare` is a w × h mask at the working resolution. What colourant the picture has none of cannot be bare: where
 * `inked` tells that, a bare place that the picture's white parts cut into pieces is judged for its shape as one.
 * Largest first; mm from the picture's top left.
 */
export function barePatches(cv: Cv, bare: Uint8Array, w: number, inked?: Uint8Array): BarePatch[] {
  const h = bare.length / w;
  if (!bare.some(v => v)) return [];
  const parts = labelled(cv, bare, w, h);
  const wholes = inked ? labelled(cv, bridged(cv, bare, inked, w, h), w, h) : parts;
  const looks = new Map<number, Look>();
  const wholeOf = new Int32Array(w * h).fill(-1);
  wholes.forEach((list, k) => {
    for (const i of list) wholeOf[i] = k;
  });
  const count = wholes.filter(list => list.length > 0.15 * SORT_PX * SORT_PX).length;
  return parts
    .filter(list => list.length >= LEAST_MM2 * SORT_PX * SORT_PX)
    .map(list => {
      const k = wholeOf[list[0]];
      if (!looks.has(k)) looks.set(k, lookOf(cv, wholes[k] ?? list, w, h, count, inked, bare));
      const own = momentsOf(list, w, h);
      return {
        x: round((own.mx + 0.5) / SORT_PX),
        y: round((own.my + 0.5) / SORT_PX),
        area: round(list.length / (SORT_PX * SORT_PX)),
        shape: shapeOf(looks.get(k)!),
        edge: round(own.edge / SORT_PX),
        along: Math.round(own.along) % 180,
      };
    })
    .sort((a, b) => b.area - a.area);
}

/** The pixels of each connected area of a mask. */
function labelled(cv: Cv, mask: Uint8Array, w: number, h: number): number[][] {
  return scoped(keep => {
    const from = keep(cv.matFromArray(h, w, cv.CV_8U, mask as never));
    const labels = keep(new cv.Mat());
    const stats = keep(new cv.Mat());
    const centres = keep(new cv.Mat());
    const count = cv.connectedComponentsWithStats(from, labels, stats, centres, 8, cv.CV_32S);
    const members: number[][] = Array.from({ length: count }, () => []);
    const label = labels.data32S;
    for (let i = 0; i < label.length; i++) if (label[i] > 0) members[label[i]].push(i);
    return members.slice(1);
  });
}

/** The mask with what lies between its parts and is no inked place filled in: closed by a disc, by way of distances. */
function bridged(cv: Cv, bare: Uint8Array, inked: Uint8Array, w: number, h: number): Uint8Array {
  const reach = (BRIDGED_MM * SORT_PX) / 2;
  const near = farFrom(cv, bare, w, h, d => d <= reach);
  const outside = near.map(v => 1 - v);
  const filled = farFrom(cv, outside, w, h, d => d > reach);
  return bare.map((v, i) => (v || (filled[i] && !inked[i]) ? 1 : 0));
}

/** 1 where the distance (px) to the nearest place of a mask is as asked; of an empty mask everything is far. */
function farFrom(cv: Cv, mask: Uint8Array, w: number, h: number, is: (distance: number) => boolean) {
  return scoped(keep => {
    const open = keep(cv.matFromArray(h, w, cv.CV_8U, mask.map(v => (v ? 0 : 1)) as never));
    const far = keep(new cv.Mat());
    cv.distanceTransform(open, far, cv.DIST_L2, cv.DIST_MASK_PRECISE);
    const distance = far.data32F;
    return maskOf(w * h, i => is(distance[i]));
  });
}

interface Moments {
  readonly mx: number;
  readonly my: number;
  /** Full axes of the ellipse with the same second moments (4 √λ), pixels. */
  readonly long: number;
  readonly wide: number;
  readonly along: number;
  readonly edge: number;
  readonly near: Look['near'];
}

function momentsOf(pixels: readonly number[], w: number, h: number): Moments {
  const n = pixels.length;
  let sx = 0;
  let sy = 0;
  const near = { top: h, left: w, bottom: h, right: w };
  for (const i of pixels) {
    const x = i % w;
    const y = Math.floor(i / w);
    sx += x;
    sy += y;
    near.left = Math.min(near.left, x);
    near.right = Math.min(near.right, w - 1 - x);
    near.top = Math.min(near.top, y);
    near.bottom = Math.min(near.bottom, h - 1 - y);
  }
  const [mx, my] = [sx / n, sy / n];
  let xx = 0;
  let yy = 0;
  let xy = 0;
  for (const i of pixels) {
    const dx = (i % w) - mx;
    const dy = Math.floor(i / w) - my;
    xx += dx * dx;
    yy += dy * dy;
    xy += dx * dy;
  }
  const [a, b, c] = [xx / n, yy / n, xy / n];
  const root = Math.sqrt(((a - b) / 2) ** 2 + c * c);
  return {
    mx,
    my,
    long: 4 * Math.sqrt((a + b) / 2 + root),
    wide: 4 * Math.sqrt(Math.max(0.08, (a + b) / 2 - root)),
    along: ((0.5 * Math.atan2(2 * c, a - b) * 180) / Math.PI + 180) % 180,
    edge: Math.min(near.left, near.right, near.top, near.bottom),
    near,
  };
}

const round = (v: number) => Math.round(v * 100) / 100;

/** What a bare place looks like, as far as its shape goes. */
export interface Look {
  /** mm². */
  readonly area: number;
  /** Long over wide axis. */
  readonly stretch: number;
  /** Share of what lies in or under its ellipse that lies in both, 0–1, where colourant could be told. */
  readonly filled: number;
  /** The same share for the smallest circle round it: what white parts hide of a round place changes its moments, not that. */
  readonly circled: number;
  /** Pixels from each side of the picture. */
  readonly near: {
    readonly top: number;
    readonly left: number;
    readonly bottom: number;
    readonly right: number;
  };
  /** How far it reaches into the picture from the sides that it touches, and along the one it follows farthest and the other, mm; 0 where it touches none. */
  readonly deep: number;
  readonly reach: number;
  readonly otherReach: number;
  /** How many bare places the picture has in all. */
  readonly among: number;
}

function lookOf(
  cv: Cv,
  pixels: readonly number[],
  w: number,
  h: number,
  among: number,
  inked: Uint8Array | undefined,
  bare: Uint8Array,
): Look {
  const m = momentsOf(pixels, w, h);
  const turn = (m.along * Math.PI) / 180;
  const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
  const [a, b] = [m.long / 2, Math.max(m.wide, 2) / 2];
  let inside = 0;
  let both = 0;
  const far = Math.ceil(a) + 1;
  for (let y = Math.max(0, Math.floor(m.my) - far); y <= Math.min(h - 1, m.my + far); y++)
    for (let x = Math.max(0, Math.floor(m.mx) - far); x <= Math.min(w - 1, m.mx + far); x++) {
      const i = y * w + x;
      if (inked && !inked[i]) continue;
      const [dx, dy] = [x - m.mx, y - m.my];
      const [u, v] = [(dx * cos + dy * sin) / a, (dy * cos - dx * sin) / b];
      if (u * u + v * v > 1) continue;
      inside++;
      both += bare[i] ? 1 : 0;
    }
  const circled = inCircle(cv, pixels, w, h, inked, bare);
  const own = inked ? pixels.reduce((sum, i) => sum + (inked[i] ? 1 : 0), 0) : pixels.length;
  return {
    area: pixels.length / (SORT_PX * SORT_PX),
    stretch: m.long / m.wide,
    filled: both / Math.max(1, inside + own - both),
    circled,
    near: m.near,
    ...alongSides(pixels, w, h, m.near),
    among,
  };
}

/** Share of the inked pixels in or under the smallest circle round the bare ones that lie in both. */
function inCircle(
  cv: Cv,
  pixels: readonly number[],
  w: number,
  h: number,
  inked: Uint8Array | undefined,
  bare: Uint8Array,
): number {
  const {
    x: cx,
    y: cy,
    r,
  } = scoped(keep => {
    const places = pixels.filter(i => bare[i]).flatMap(i => [i % w, Math.floor(i / w)]);
    const points = keep(cv.matFromArray(places.length / 2, 1, cv.CV_32SC2, places));
    const circle = (
      cv as unknown as {
        minEnclosingCircle(m: unknown): { center: { x: number; y: number }; radius: number };
      }
    ).minEnclosingCircle(points);
    return { x: circle.center.x, y: circle.center.y, r: circle.radius };
  });
  let inside = 0;
  let both = 0;
  for (let y = Math.max(0, Math.floor(cy - r)); y <= Math.min(h - 1, cy + r); y++)
    for (let x = Math.max(0, Math.floor(cx - r)); x <= Math.min(w - 1, cx + r); x++) {
      const i = y * w + x;
      if ((inked && !inked[i]) || (x - cx) ** 2 + (y - cy) ** 2 > r * r) continue;
      inside++;
      both += bare[i] ? 1 : 0;
    }
  return both / Math.max(1, inside);
}

/** A bare place touches a side when it comes this near, mm. */
const TOUCH_MM = 0.5;

/** Depth (nine tenths of its pixels lie within it) and length of a place along the sides it touches. */
function alongSides(pixels: readonly number[], w: number, h: number, near: Look['near']) {
  const touch = TOUCH_MM * SORT_PX;
  const sides = (['top', 'bottom', 'left', 'right'] as const).filter(side => near[side] < touch);
  if (!sides.length) return { deep: 0, reach: 0, otherReach: 0 };
  const from = (i: number, side: (typeof sides)[number]) => {
    const [x, y] = [i % w, Math.floor(i / w)];
    return { top: y, bottom: h - 1 - y, left: x, right: w - 1 - x }[side];
  };
  const deep = pixels.map(i => Math.min(...sides.map(side => from(i, side)))).sort((a, b) => a - b);
  const reaches = sides
    .map(side => {
      const places = new Set<number>();
      for (const i of pixels)
        if (from(i, side) < 2 * touch)
          places.add(side === 'top' || side === 'bottom' ? i % w : Math.floor(i / w));
      return places.size / SORT_PX;
    })
    .sort((a, b) => b - a);
  return {
    deep: (deep[Math.floor(0.9 * (deep.length - 1))] + 1) / SORT_PX,
    reach: reaches[0],
    otherReach: reaches[1] ?? 0,
  };
}

/** Bare places smaller than this are specks where there are many. */
const SPECK_MM2 = 2.5;
const MANY = 12;

/** The shape class of a bare place (docs/READINGS.md), from how far it follows a side, its moments and its outline. */
export function shapeOf(look: Look): BarePatch['shape'] {
  const touch = TOUCH_MM * SORT_PX;
  const { near } = look;
  const isAcross = near.top < touch || near.bottom < touch;
  const isBeside = near.left < touch || near.right < touch;
  // A corner goes about as far along either of its sides; a band follows one of them.
  if (isAcross && isBeside && look.reach < 3 * look.otherReach) return 'corner';
  if ((isAcross || isBeside) && look.reach > 1.5 && look.reach > 1.8 * look.deep) return 'edge band';
  if (look.area < SPECK_MM2 && look.among >= MANY) return 'speckle';
  if (look.circled > 0.8 || (look.filled > 0.82 && look.stretch < 1.7)) return 'round';
  if (look.stretch > 2.8) return 'streak';
  return look.area < 2 && look.filled < 0.8 && look.among >= MANY / 2 ? 'speckle' : 'ragged';
}
