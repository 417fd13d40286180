import { blurPlane, type Cv, type Plane } from './cv.ts';
import { halved } from './halved.ts';
import { maskOf } from './mask.ts';
import { SORT_PX } from './px.ts';
import type { Reference } from './reference.ts';
import { inPictureFrame, type Registration } from './register.ts';
import type { Cutout } from './window.ts';

/** How much round the picture is looked at with it, pixels where ink is told from ground. */
export const MARGIN = 13;

/** What was seen, brought into the picture's own frame with {@link MARGIN} more on every side. */
export interface Frame {
  readonly w: number;
  readonly h: number;
  readonly seen: readonly [Plane, Plane, Plane];
  /** Above a half where the place lies in the window and does not shine. */
  readonly valid: Float32Array;
}

/** The frame at the resolution where ink is told from ground, and the picture alone as it was straightened. */
export interface Framed {
  readonly frame: Frame;
  readonly fine: readonly [Plane, Plane, Plane];
}

/** Brings the window into the picture's frame. */
export function frameOf(cv: Cv, window: Cutout, found: Registration, reference: Reference): Framed {
  const { w, h } = reference;
  const { clipped, inPhoto, aside } = window;
  const usable: Plane = {
    w: window.rgb[0].w,
    h: window.rgb[0].h,
    data: new Float32Array(maskOf(clipped.length, i => !clipped[i] && inPhoto[i] && !aside?.[i])),
  };
  const into = (plane: Plane, outside?: number) =>
    inPictureFrame(cv, plane, found.warp, { w, h }, 2 * MARGIN, outside);
  const seen = window.rgb.map(plane => into(plane));
  const coarse = seen.map(halved) as unknown as Frame['seen'];
  return {
    frame: { w: coarse[0].w, h: coarse[0].h, seen: coarse, valid: halved(into(usable, 0)).data },
    fine: seen.map(plane => within(plane, 2 * MARGIN)) as unknown as Framed['fine'],
  };
}

/** The middle of a plane of the frame: the picture alone. */
export function within(plane: Plane, margin = MARGIN): Plane {
  const [w, h] = [plane.w - 2 * margin, plane.h - 2 * margin];
  const data = new Float32Array(w * h);
  for (let y = 0; y < h; y++)
    data.set(
      plane.data.subarray((y + margin) * plane.w + margin, (y + margin) * plane.w + margin + w),
      y * w,
    );
  return { w, h, data };
}

/** A plane of the picture with a margin of one value round it. */
export function padded({ w, h, data }: Plane, value: number): Plane {
  const [W, H] = [w + 2 * MARGIN, h + 2 * MARGIN];
  const out = new Float32Array(W * H).fill(value);
  for (let y = 0; y < h; y++) out.set(data.subarray(y * w, (y + 1) * w), (y + MARGIN) * W + MARGIN);
  return { w: W, h: H, data: out };
}

/** Whether a place lies clear of all that is inked, by `mm`: 1 where it does. Padded like the frame. */
export function clearOfInk(cv: Cv, reference: Reference, mm: number): Float32Array {
  const ink = padded({ ...reference.light, data: reference.light.data.map(v => (v < 0.96 ? 1 : 0)) }, 0);
  const near = blurPlane(cv, ink, (mm * SORT_PX) / 2).data;
  return near.map(v => (v < 0.01 ? 1 : 0));
}
