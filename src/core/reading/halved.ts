import type { Plane } from './cv.ts';
import { maskOf } from './mask.ts';
import type { Reference } from './reference.ts';
import type { Window } from './window.ts';

/** A plane at half its resolution: the mean of two by two pixels, or of what there is of them at an odd end. */
export function halved({ w, h, data }: Plane): Plane {
  const [W, H] = [Math.ceil(w / 2), Math.ceil(h / 2)];
  const out = new Float32Array(W * H);
  for (let y = 0; y < H; y++) {
    const top = 2 * y * w;
    const low = 2 * y + 1 < h ? top + w : top;
    for (let x = 0; x < W; x++) {
      const left = 2 * x;
      const right = left + 1 < w ? left + 1 : left;
      out[y * W + x] = (data[top + left] + data[top + right] + data[low + left] + data[low + right]) / 4;
    }
  }
  return { w: W, h: H, data: out };
}

/** A w × h plane or mask from one of half its resolution: each pixel as that of which it is a quarter. */
export function doubled<T extends Float32Array | Uint8Array>(half: T, w: number, h: number): T {
  const W = Math.ceil(w / 2);
  const out = (half instanceof Uint8Array ? new Uint8Array(w * h) : new Float32Array(w * h)) as T;
  for (let y = 0; y < h; y++) {
    const row = (y >> 1) * W;
    for (let x = 0; x < w; x++) out[y * w + x] = half[row + (x >> 1)];
  }
  return out;
}

const three = (planes: Reference['rgb'], of: (plane: Plane) => Plane) =>
  planes.map(of) as unknown as Reference['rgb'];

/** The picture at half its resolution. */
export function halfReference({ rgb, light, lines }: Reference): Reference {
  const grey = halved(light);
  return { w: grey.w, h: grey.h, rgb: three(rgb, p => (p === light ? grey : halved(p))), light: grey, lines };
}

/** A window at half its resolution: a pixel shines, or is not in the photo, where any of its four does. */
export function halfWindow({ rgb, clipped, inPhoto }: Window): Window {
  const { w, h } = rgb[0];
  const any = (flags: Uint8Array) => {
    const { data } = halved({ w, h, data: new Float32Array(flags) });
    return maskOf(data.length, i => data[i] > 0);
  };
  const out = any(inPhoto.map(v => 1 - v));
  return { rgb: three(rgb, halved), clipped: any(clipped), inPhoto: out.map(v => 1 - v) };
}
