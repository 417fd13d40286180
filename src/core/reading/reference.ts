import { toLinear } from '../colour/index.ts';
import { rasterise, type Scene, strip, target } from '../print/index.ts';
import type { Face } from '../trial/index.ts';
import { type Cv, type Pixels, type Plane, scoped } from './cv.ts';
import { halved } from './halved.ts';
import { PX } from './px.ts';

export type Rgb = readonly [Plane, Plane, Plane];

/** The picture as it should look after transfer, right way round, in linear light at {@link PX} px/mm. */
export interface Reference {
  /** Its size in pixels. */
  readonly w: number;
  readonly h: number;
  readonly rgb: Rgb;
  /** Its relative luminance. */
  readonly light: Plane;
  /** Falling lines to read fine detail by, where it has such. */
  readonly lines?: Scene['lines'];
}

/** Relative luminance of linear light (IEC 61966-2-1 primaries). */
export const luminance = (r: number, g: number, b: number): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;

/** Luminance of a coloured plane. */
export function lightOf([r, g, b]: Rgb): Plane {
  const data = new Float32Array(g.data.length);
  for (let i = 0; i < data.length; i++) data[i] = luminance(r.data[i], g.data[i], b.data[i]);
  return { ...g, data };
}

const LINEAR = new Float32Array(256).map((_, i) => toLinear(i / 255));
/** So much finer a picture is drawn than it is used, each way: where two of its parts meet within a pixel no white shows between them. */
const DRAWN_FINER = 4;

/** A drawn picture (the test target) as a reference. */
export function referenceOf(scene: Scene): Reference {
  const [w, h] = [Math.round(scene.w * PX), Math.round(scene.h * PX)];
  const drawn = rasterise(scene, PX * DRAWN_FINER, 1);
  const data = new Float32Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      let sum = 0;
      for (let v = 0; v < DRAWN_FINER; v++) {
        const first = (y * DRAWN_FINER + v) * drawn.w + x * DRAWN_FINER;
        for (let u = 0; u < DRAWN_FINER; u++) sum += LINEAR[drawn.data[first + u] ?? 255];
      }
      data[y * w + x] = sum / DRAWN_FINER ** 2;
    }
  const plane: Plane = { w, h, data };
  return { w, h, rgb: [plane, plane, plane], light: plane, lines: scene.lines };
}

/** References that were drawn already, by what they are. */
const drawnAlready = new Map<string, Reference>();
function drawnOnce(kind: 'target' | 'strip', size: number): Reference {
  const key = `${kind} ${size}`;
  const known = drawnAlready.get(key) ?? referenceOf(kind === 'target' ? target(size) : strip(size));
  drawnAlready.set(key, known);
  return known;
}

/**
 * What a patch carries as a reference: the test target, or the maker's own picture (`picture`: as it is printed in its
 * room) with the strip below it. Throws where a picture is carried and not given.
 */
export function referenceOfFace(cv: Cv, face: Face, picture?: Pixels): Reference {
  const { target: ours, picture: own, strip: steps } = face;
  if (ours && face.w === ours.size && face.h === ours.size) return drawnOnce('target', ours.size);
  if (own && !picture) throw new Error(`The file of “${own.of.name}” is missing.`);
  const parts = [
    ...(ours ? [{ at: ours, of: drawnOnce('target', ours.size) }] : []),
    ...(own && picture ? [{ at: own, of: referenceFrom(cv, picture, own) }] : []),
    ...(steps ? [{ at: steps, of: drawnOnce('strip', steps.h) }] : []),
  ];
  const [w, h] = [Math.round(face.w * PX), Math.round(face.h * PX)];
  const rgb = [0, 1, 2].map(c => {
    const data = new Float32Array(w * h).fill(1);
    for (const { at, of } of parts) {
      const [x0, y0] = [Math.round(at.x * PX), Math.round(at.y * PX)];
      for (let y = 0; y < Math.min(of.h, h - y0); y++)
        data.set(of.rgb[c].data.subarray(y * of.w, y * of.w + Math.min(of.w, w - x0)), (y + y0) * w + x0);
    }
    return { w, h, data };
  }) as unknown as Rgb;
  const lines = parts.flatMap(({ at, of }) =>
    (of.lines ?? []).map(l => ({ ...l, x: l.x + at.x, y: l.y + at.y })),
  );
  return { w, h, rgb, light: lightOf(rgb), ...(lines.length ? { lines } : {}) };
}

/**
 * The maker's own picture as a reference, `mm` wide and high as it was put on the patch; what is transparent is white.
 * Averaged in linear light.
 */
export function referenceFrom(
  cv: Cv,
  pixels: Pixels,
  mm: { readonly w: number; readonly h: number },
  lines?: Scene['lines'],
): Reference {
  const w = Math.round(mm.w * PX);
  const h = Math.round(mm.h * PX);
  const rgb = [0, 1, 2].map(c =>
    scoped(keep => {
      const full = new Float32Array(pixels.w * pixels.h);
      for (let i = 0; i < full.length; i++) {
        const solid = pixels.data[i * 4 + 3] / 255;
        full[i] = 1 + solid * (toLinear(pixels.data[i * 4 + c] / 255) - 1);
      }
      const from = keep(cv.matFromArray(pixels.h, pixels.w, cv.CV_32F, full as never));
      const to = keep(new cv.Mat());
      const shrinks = pixels.w > w;
      cv.resize(from, to, new cv.Size(w, h), 0, 0, shrinks ? cv.INTER_AREA : cv.INTER_LINEAR);
      return { w, h, data: new Float32Array(to.data32F) };
    }),
  ) as unknown as Rgb;
  return { w, h, rgb, light: lightOf(rgb), lines };
}

/** The picture at half its resolution. */
export function halfReference({ rgb, light, lines }: Reference): Reference {
  const grey = halved(light);
  return {
    w: grey.w,
    h: grey.h,
    rgb: rgb.map(p => (p === light ? grey : halved(p))) as unknown as Reference['rgb'],
    light: grey,
    lines,
  };
}

/** The root of a plane's light, nearer to how it is seen. */
export function rootOf({ w, h, data }: Plane): Plane {
  const out = new Float32Array(data.length);
  for (let i = 0; i < out.length; i++) out[i] = Math.sqrt(Math.max(0, data[i]));
  return { w, h, data: out };
}
