import { toSrgb } from '../colour/index.ts';
import type { Pixels } from '../reading/index.ts';
import { labAt } from './lab.ts';
import type { Edit } from './schema.ts';

const picture = (w: number, h: number): { w: number; h: number; data: Uint8ClampedArray } => ({
  w,
  h,
  data: new Uint8ClampedArray(w * h * 4).fill(255),
});

/** A picture with a list of edits done to it, in order; what is see-through becomes paper white first. RGBA, sRGB. */
export function applyEdits(original: Pixels, edits: readonly Edit[]): Pixels {
  let now: Pixels = onWhite(original);
  for (const edit of edits) now = apply(now, edit);
  return now;
}

function onWhite(from: Pixels): Pixels {
  const out = picture(from.w, from.h);
  for (let i = 0; i < from.data.length; i += 4) {
    const a = from.data[i + 3] / 255;
    for (let c = 0; c < 3; c++) out.data[i + c] = from.data[i + c] * a + 255 * (1 - a);
  }
  return out;
}

function apply(from: Pixels, edit: Edit): Pixels {
  switch (edit.kind) {
    case 'crop':
      return crop(from, edit);
    case 'straighten':
      return rotate(from, edit.degrees);
    case 'turn':
      return turn(from, edit.quarters);
    case 'grey':
      return each(from, (r, g, b) => {
        const v = 0.2126 * r + 0.7152 * g + 0.0722 * b;
        return [v, v, v];
      });
    case 'invert':
      return each(from, (r, g, b) => [255 - r, 255 - g, 255 - b]);
    case 'lighten':
      return curve(from, v => 255 - (255 - v) * (1 - 0.85 * edit.amount));
    case 'contrast':
      return moreContrast(from, edit.amount);
    case 'background':
      return removeBackground(from, edit.colour, edit.tolerance);
  }
}

function each(
  from: Pixels,
  change: (r: number, g: number, b: number) => readonly [number, number, number],
): Pixels {
  const out = picture(from.w, from.h);
  for (let i = 0; i < from.data.length; i += 4) {
    const [r, g, b] = change(from.data[i], from.data[i + 1], from.data[i + 2]);
    out.data[i] = r;
    out.data[i + 1] = g;
    out.data[i + 2] = b;
  }
  return out;
}

function curve(from: Pixels, change: (v: number) => number): Pixels {
  const table = Uint8ClampedArray.from({ length: 256 }, (_, v) => change(v));
  return each(from, (r, g, b) => [table[r], table[g], table[b]]);
}

/** Pulls the picture's own darkest and lightest (2nd and 98th percentile) apart, then steepens about the middle. */
function moreContrast(from: Pixels, amount: number): Pixels {
  const histogram = new Uint32Array(256);
  for (let i = 0; i < from.data.length; i += 4)
    histogram[Math.round(0.2126 * from.data[i] + 0.7152 * from.data[i + 1] + 0.0722 * from.data[i + 2])]++;
  const at = (share: number) => {
    let sum = 0;
    for (let v = 0; v < 256; v++) {
      sum += histogram[v];
      if (sum >= (share * from.data.length) / 4) return v;
    }
    return 255;
  };
  const [lo, hi] = [at(0.02), at(0.98)];
  const stretch = (v: number) => (hi > lo ? v * (1 - amount) + amount * ((v - lo) / (hi - lo)) * 255 : v);
  const steep = 1 + 1.6 * amount;
  return curve(from, v => 128 + (stretch(v) - 128) * steep);
}

function crop(from: Pixels, { x, y, w, h }: Extract<Edit, { kind: 'crop' }>): Pixels {
  const left = Math.min(from.w - 1, Math.round(x * from.w));
  const top = Math.min(from.h - 1, Math.round(y * from.h));
  const wide = Math.max(1, Math.min(from.w - left, Math.round(w * from.w)));
  const tall = Math.max(1, Math.min(from.h - top, Math.round(h * from.h)));
  const out = picture(wide, tall);
  for (let row = 0; row < tall; row++) {
    const start = ((top + row) * from.w + left) * 4;
    out.data.set(from.data.subarray(start, start + wide * 4), row * wide * 4);
  }
  return out;
}

function turn(from: Pixels, quarters: 1 | 2 | 3): Pixels {
  const out = quarters === 2 ? picture(from.w, from.h) : picture(from.h, from.w);
  for (let y = 0; y < from.h; y++)
    for (let x = 0; x < from.w; x++) {
      const [tx, ty] =
        quarters === 1
          ? [from.h - 1 - y, x]
          : quarters === 2
            ? [from.w - 1 - x, from.h - 1 - y]
            : [y, from.w - 1 - x];
      const to = (ty * out.w + tx) * 4;
      const at = (y * from.w + x) * 4;
      for (let c = 0; c < 3; c++) out.data[to + c] = from.data[at + c];
    }
  return out;
}

/** Turned about its middle by a few degrees, the frame kept; corners that come in are paper white. Bilinear. */
function rotate(from: Pixels, degrees: number): Pixels {
  if (!degrees) return from;
  const out = picture(from.w, from.h);
  const angle = (-degrees * Math.PI) / 180;
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  const [cx, cy] = [(from.w - 1) / 2, (from.h - 1) / 2];
  for (let y = 0; y < out.h; y++)
    for (let x = 0; x < out.w; x++) {
      const sx = cx + (x - cx) * cos - (y - cy) * sin;
      const sy = cy + (x - cx) * sin + (y - cy) * cos;
      if (sx < 0 || sy < 0 || sx > from.w - 1 || sy > from.h - 1) continue;
      const [x0, y0] = [Math.floor(sx), Math.floor(sy)];
      const [fx, fy] = [sx - x0, sy - y0];
      const [x1, y1] = [Math.min(from.w - 1, x0 + 1), Math.min(from.h - 1, y0 + 1)];
      for (let c = 0; c < 3; c++) {
        const at = (px: number, py: number) => from.data[(py * from.w + px) * 4 + c];
        out.data[(y * out.w + x) * 4 + c] =
          (at(x0, y0) * (1 - fx) + at(x1, y0) * fx) * (1 - fy) +
          (at(x0, y1) * (1 - fx) + at(x1, y1) * fx) * fy;
      }
    }
  return out;
}

/** Near the colour: white; between one and one and a half times the tolerance it fades, so that edges stay soft. */
function removeBackground(
  from: Pixels,
  colour: readonly [number, number, number],
  tolerance: number,
): Pixels {
  const want = labAt(...(colour.map(v => toSrgb(v) * 255) as [number, number, number]));
  return each(from, (r, g, b) => {
    const lab = labAt(r, g, b);
    const far = Math.hypot(lab[0] - want[0], lab[1] - want[1], lab[2] - want[2]);
    const keep = Math.min(1, Math.max(0, (far - tolerance) / (0.5 * tolerance)));
    return [255 - (255 - r) * keep, 255 - (255 - g) * keep, 255 - (255 - b) * keep];
  });
}

/** Left and right swapped. */
export function mirrorPixels(from: Pixels): Pixels {
  const out = picture(from.w, from.h);
  for (let y = 0; y < from.h; y++)
    for (let x = 0; x < from.w; x++) {
      const to = (y * from.w + from.w - 1 - x) * 4;
      const at = (y * from.w + x) * 4;
      for (let c = 0; c < 3; c++) out.data[to + c] = from.data[at + c];
    }
  return out;
}
