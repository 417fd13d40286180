import { toLinear } from '../colour/index.ts';
import { rasterise, type Scene, strip, target } from '../print/index.ts';
import type { Preparation, Substrate } from '../shelf/index.ts';
import type { Face } from '../trial/index.ts';
import { field, rough } from './noise.ts';
import type { Pixels } from './pixels.ts';
import type { PatchOutcome } from './process.ts';

/** Linear light in three channels. */
export type Rgb = readonly [number, number, number];

/** Linear light of an sRGB byte. */
export const LINEAR = Float32Array.from({ length: 256 }, (_, i) => toLinear(i / 255));

/** What is printed on a patch, as it should look when it is finished: linear light at a place in mm, white beyond. */
export interface Printed {
  readonly w: number;
  readonly h: number;
  readonly at: (x: number, y: number) => Rgb;
}

const WHITE: Rgb = [1, 1, 1];

/** A drawing (the test target) as it is printed. */
export function printedScene(scene: Scene, px: number): Printed {
  const ink = rasterise(scene, px, 3);
  return {
    w: scene.w,
    h: scene.h,
    at: (x, y) => {
      if (x < 0 || y < 0 || x >= scene.w || y >= scene.h) return WHITE;
      const v =
        LINEAR[
          ink.data[Math.min(ink.h - 1, Math.floor(y * px)) * ink.w + Math.min(ink.w - 1, Math.floor(x * px))]
        ];
      return [v, v, v];
    },
  };
}

/** Pixels as they are printed on w × h mm. */
export function printedPixels(pixels: Pixels, { w, h }: { readonly w: number; readonly h: number }): Printed {
  return {
    ...{ w, h },
    at: (x, y) => {
      if (x < 0 || y < 0 || x >= w || y >= h) return WHITE;
      const i = (Math.floor((y / h) * pixels.h) * pixels.w + Math.floor((x / w) * pixels.w)) * 4;
      return [LINEAR[pixels.data[i]], LINEAR[pixels.data[i + 1]], LINEAR[pixels.data[i + 2]]];
    },
  };
}

/** How fine drawings are printed, px/mm. */
const PRINT_PX = 20;

/** What a patch carries as it is printed: target or the maker's own picture (`picture`) in its room, the strip below it. */
export function printedFace(face: Face, picture?: Pixels): Printed {
  const { target: ours, picture: own, strip: steps } = face;
  const parts = [
    ...(ours ? [{ at: ours, of: printedScene(target(ours.size), PRINT_PX) }] : []),
    ...(own && picture ? [{ at: own, of: printedPixels(picture, own) }] : []),
    ...(steps ? [{ at: steps, of: printedScene(strip(steps.h), PRINT_PX) }] : []),
  ];
  return {
    ...{ w: face.w, h: face.h },
    at: (x, y) => {
      for (const { at, of } of parts)
        if (x >= at.x && y >= at.y && x < at.x + of.w && y < at.y + of.h) return of.at(x - at.x, y - at.y);
      return WHITE;
    },
  };
}

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

/** Places along a smear that are looked at, as shares of its length. */
const TAPS = [-1, -0.5, 0, 0.5, 1];

/**
 * Colour of a patch at a place (mm from its top left, right way round) over its ground: ink multiplies the ground, paper
 * that is left lies white over it, a cloudy layer over all.
 */
export function patchLook(
  outcome: PatchOutcome,
  printed: Printed,
  isWet: boolean,
): (u: number, v: number, bare: Rgb) => Rgb {
  const { mm, along } = outcome.smear;
  const [dx, dy] = [Math.cos((along * Math.PI) / 180) * mm, Math.sin((along * Math.PI) / 180) * mm];
  const inked = (u: number, v: number): Rgb => {
    if (mm < 0.03) return printed.at(u, v);
    const sum: [number, number, number] = [0, 0, 0];
    for (const t of TAPS) {
      const c = printed.at(u + t * dx, v + t * dy);
      for (let k = 0; k < 3; k++) sum[k] += c[k] / TAPS.length;
    }
    return sum;
  };
  const strengthened = (ink: number): number =>
    outcome.strength === 1 ? ink : Math.max(1e-3, ink) ** outcome.strength;
  const damp = isWet ? 0.75 : 1;
  return (u, v, bare) => {
    const isIn = u >= 0 && v >= 0 && u < printed.w && v < printed.h;
    if (!isIn && mm < 0.03) return bare;
    const k =
      Math.min(outcome.h - 1, Math.max(0, Math.floor(v * outcome.pxPerMm))) * outcome.w +
      Math.min(outcome.w - 1, Math.max(0, Math.floor(u * outcome.pxPerMm)));
    const m = isIn ? outcome.landed[k] : 1;
    const h = isIn ? outcome.veil[k] * (isWet ? 0.08 : 1) : 0;
    const ink = inked(u, v);
    const wet = isIn ? damp : 1;
    const milk = isIn ? outcome.milk : 0;
    return [
      laid(strengthened(ink[0]), bare[0], m, h) * wet * (1 - milk) + 0.72 * milk,
      laid(strengthened(ink[1]), bare[1], m, h) * wet * (1 - milk) + 0.72 * milk,
      laid(strengthened(ink[2]), bare[2], m, h) * wet * (1 - milk) + 0.72 * milk,
    ];
  };
}

/** Ink over ground, where `there` of it holds and `veil` of paper lies on it. */
const laid = (ink: number, bare: number, there: number, veil: number): number =>
  there * ((1 - veil) * ink * bare + veil) + (1 - there) * bare;
