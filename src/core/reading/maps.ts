import { toSrgb } from '../colour/index.ts';
import type { Sorted } from './classify.ts';
import type { Pixels, Plane } from './cv.ts';
import { SORT_PX } from './px.ts';

const MAP_PX = 4;

function shrink(size: { readonly w: number; readonly h: number }, value: (i: number) => number) {
  const w = Math.round((size.w / SORT_PX) * MAP_PX);
  const h = Math.round((size.h / SORT_PX) * MAP_PX);
  const data = new Uint8Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const sx = Math.min(size.w - 1, Math.floor(((x + 0.5) * SORT_PX) / MAP_PX));
      const sy = Math.min(size.h - 1, Math.floor(((y + 0.5) * SORT_PX) / MAP_PX));
      data[y * w + x] = value(sy * size.w + sx);
    }
  return { w, h, pxPerMm: MAP_PX, data: base64(data) };
}

/** 0 no ink wanted, 1 landed, 2 bare, 3 cannot be seen on this ground. */
export const stateMap = (s: Sorted) =>
  shrink(s, i => (!s.inked[i] ? 0 : !s.visible[i] ? 3 : s.bare[i] ? 2 : 1));
/** Veil in 1/255 where ink landed, 0 elsewhere. */
export const veilMap = (s: Sorted) =>
  shrink(s, i => (s.inked[i] && !s.bare[i] ? Math.round(s.veil[i] * 255) : 0));

const ALPHABET = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';

/**
 * Bytes as base64 (RFC 4648).
 *
 * @example base64(Uint8Array.from([77, 97, 110])); // => 'TWFu'
 */
export function base64(bytes: Uint8Array): string {
  let out = '';
  for (let i = 0; i < bytes.length; i += 3) {
    const n = (bytes[i] << 16) | ((bytes[i + 1] ?? 0) << 8) | (bytes[i + 2] ?? 0);
    out += ALPHABET[n >> 18] + ALPHABET[(n >> 12) & 63];
    out += i + 1 < bytes.length ? ALPHABET[(n >> 6) & 63] : '=';
    out += i + 2 < bytes.length ? ALPHABET[n & 63] : '=';
  }
  return out;
}

/** sRGB bytes of linear light in steps of a 4096th. */
const SRGB = Uint8Array.from({ length: 4097 }, (_, i) => Math.round(toSrgb(i / 4096) * 255));

/** Paper white is shown a little below the brightest, so that what is brighter still is seen to be. */
const SHOWN = 0.92 * 4096;

/** The picture as it was seen, for showing. */
export function asPixels(seen: readonly [Plane, Plane, Plane]): Pixels {
  const { w, h } = seen[0];
  const data = new Uint8ClampedArray(w * h * 4);
  for (let c = 0; c < 3; c++) {
    const plane = seen[c].data;
    for (let i = 0, at = c; i < plane.length; i++, at += 4)
      data[at] = SRGB[(Math.min(1, Math.max(0, plane[i])) * SHOWN + 0.5) | 0];
  }
  for (let at = 3; at < data.length; at += 4) data[at] = 255;
  return { w, h, data };
}
