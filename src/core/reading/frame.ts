import { blurPlane, type Cv, type Plane } from './cv.ts';
import { PX } from './px.ts';
import type { Reference } from './reference.ts';
import { inPictureFrame, type Registration } from './register.ts';
import type { Window } from './window.ts';

/** How much round the picture is looked at with it, pixels. */
export const MARGIN = 25;

/** What was seen, brought into the picture's own frame with {@link MARGIN} more on every side. */
export interface Frame {
  readonly w: number;
  readonly h: number;
  readonly seen: readonly [Plane, Plane, Plane];
  /** Above a half where the place lies in the window and does not shine. */
  readonly valid: Float32Array;
}

/** Brings the window into the picture's frame. */
export function frameOf(cv: Cv, window: Window, found: Registration, reference: Reference): Frame {
  const { w, h } = reference;
  const usable: Plane = {
    w: window.rgb[0].w,
    h: window.rgb[0].h,
    data: Float32Array.from(window.clipped, (v, i) => (v || !window.inPhoto[i] || window.aside?.[i] ? 0 : 1)),
  };
  const into = (plane: Plane, outside?: number) =>
    inPictureFrame(cv, plane, found.warp, { w, h }, MARGIN, outside);
  const seen = window.rgb.map(plane => into(plane)) as unknown as Frame['seen'];
  return { w: w + 2 * MARGIN, h: h + 2 * MARGIN, seen, valid: into(usable, 0).data };
}

/** The middle of a plane of the frame: the picture alone. */
export function within(plane: Plane): Plane {
  const [w, h] = [plane.w - 2 * MARGIN, plane.h - 2 * MARGIN];
  const data = new Float32Array(w * h);
  for (let y = 0; y < h; y++)
    data.set(
      plane.data.subarray((y + MARGIN) * plane.w + MARGIN, (y + MARGIN) * plane.w + MARGIN + w),
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
  const near = blurPlane(cv, ink, (mm * PX) / 2).data;
  return near.map(v => (v < 0.01 ? 1 : 0));
}
