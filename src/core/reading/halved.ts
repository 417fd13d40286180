import type { Plane } from './cv.ts';

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
