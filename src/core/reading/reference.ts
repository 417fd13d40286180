import { toLinear } from '../colour/index.ts';
import { rasterise, type Scene } from '../print/index.ts';
import { type Cv, type Pixels, type Plane, scoped } from './cv.ts';
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
export const lightOf = ([r, g, b]: Rgb): Plane => ({
  ...g,
  data: g.data.map((v, i) => luminance(r.data[i], v, b.data[i])),
});

/** A drawn picture (the test target) as a reference. */
export function referenceOf(scene: Scene): Reference {
  const drawn = rasterise(scene, PX);
  const plane: Plane = {
    w: drawn.w,
    h: drawn.h,
    data: Float32Array.from(drawn.data, v => toLinear(v / 255)),
  };
  return { w: drawn.w, h: drawn.h, rgb: [plane, plane, plane], light: plane, lines: scene.lines };
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
