import type { BarePatch } from '../trial/index.ts';
import { type Cv, scoped } from './cv.ts';
import { PX } from './straighten.ts';

const LEAST_MM2 = 1;

/**
 * Connected bare areas of at least 1 mm² with place, area, shape, distance from the picture's edge
 * and direction. `bare` is a side × side mask at 10 px/mm. Largest first; mm from the picture's top left.
 */
export function barePatches(cv: Cv, bare: Uint8Array, side: number): BarePatch[] {
  return scoped(keep => {
    const mask = keep(cv.matFromArray(side, side, cv.CV_8U, bare as never));
    const labels = keep(new cv.Mat());
    const stats = keep(new cv.Mat());
    const centres = keep(new cv.Mat());
    const count = cv.connectedComponentsWithStats(mask, labels, stats, centres, 8, cv.CV_32S);
    const members: number[][] = Array.from({ length: count }, () => []);
    const label = labels.data32S;
    for (let i = 0; i < label.length; i++) if (label[i] > 0) members[label[i]].push(i);
    return members
      .filter(list => list.length >= LEAST_MM2 * PX * PX)
      .map(list => describePatch(list, side))
      .sort((a, b) => b.area - a.area);
  });
}

function describePatch(pixels: readonly number[], side: number): BarePatch {
  const n = pixels.length;
  let sx = 0;
  let sy = 0;
  let edge = side;
  const near = { top: side, left: side, bottom: side, right: side };
  for (const i of pixels) {
    const x = i % side;
    const y = Math.floor(i / side);
    sx += x;
    sy += y;
    near.left = Math.min(near.left, x);
    near.right = Math.min(near.right, side - 1 - x);
    near.top = Math.min(near.top, y);
    near.bottom = Math.min(near.bottom, side - 1 - y);
  }
  edge = Math.min(near.left, near.right, near.top, near.bottom);
  const [mx, my] = [sx / n, sy / n];
  let xx = 0;
  let yy = 0;
  let xy = 0;
  for (const i of pixels) {
    const dx = (i % side) - mx;
    const dy = Math.floor(i / side) - my;
    xx += dx * dx;
    yy += dy * dy;
    xy += dx * dy;
  }
  const [a, b, c] = [xx / n, yy / n, xy / n];
  const root = Math.sqrt(((a - b) / 2) ** 2 + c * c);
  // Full axes of the ellipse with the same second moments: 4 √λ.
  const long = 4 * Math.sqrt((a + b) / 2 + root);
  const wide = 4 * Math.sqrt(Math.max(0.08, (a + b) / 2 - root));
  const along = ((0.5 * Math.atan2(2 * c, a - b) * 180) / Math.PI + 180) % 180;
  const area = n / (PX * PX);
  const filled = n / ((Math.PI / 4) * long * wide);
  return {
    x: round((mx + 0.5) / PX),
    y: round((my + 0.5) / PX),
    area: round(area),
    shape: shapeOf({ area, stretch: long / wide, filled, near, along, long: long / PX, side: side / PX }),
    edge: round(edge / PX),
    along: Math.round(along),
  };
}

const round = (v: number) => Math.round(v * 100) / 100;

interface Look {
  readonly area: number;
  readonly stretch: number;
  readonly filled: number;
  readonly near: { top: number; left: number; bottom: number; right: number };
  readonly along: number;
  readonly long: number;
  readonly side: number;
}

/** The shape class of a bare patch (docs/READINGS.md), from its moments and what it touches. */
export function shapeOf(look: Look): BarePatch['shape'] {
  const touch = 0.5 * PX;
  const { near } = look;
  const across = near.top < touch || near.bottom < touch;
  const beside = near.left < touch || near.right < touch;
  if (across && beside && look.long < look.side * 0.6) return 'corner';
  const level = look.along < 30 || look.along > 150;
  const upright = look.along > 60 && look.along < 120;
  if (look.stretch > 1.8 && ((across && level) || (beside && upright))) return 'edge band';
  if (look.stretch > 3.2) return 'streak';
  if (look.filled > 0.82 && look.stretch < 1.7) return 'round';
  return look.area < 2 ? 'speckle' : 'ragged';
}
