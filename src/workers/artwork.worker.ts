import { expose } from 'comlink';
import {
  applyEdits,
  type Edit,
  type Fit,
  type GroundLook,
  lookOn,
  measurePicture,
  mirrorPixels,
  onPatch,
  type PictureFacts,
  type PrintSize,
  printSize,
} from '../core/artwork/index.ts';
import { seedOf } from '../core/random/index.ts';
import type { Pixels } from '../core/reading/index.ts';
import type { Preparation, Substrate } from '../core/shelf/index.ts';
import { groundLook } from '../core/simulator/index.ts';

const VIEW_SIDE = 720;
const PRINT_DPI = 300;
const MOST_PRINT_SIDE = 5000;
const BARE: Preparation = {
  id: 'none',
  name: 'none',
  note: '',
  kind: 'none',
  thirstTimes: 1,
  glossTimes: 1,
  whitens: 0,
  minutes: 0,
  waitHours: 0,
  dust: false,
  pricePerDm2: 0,
};

let kept: { key: string; pixels: Pixels; w: number; h: number } | undefined;

/** Decodes upright, no larger than `side` on its longer side. */
async function decode(file: Blob, side: number): Promise<{ pixels: Pixels; w: number; h: number }> {
  const bitmap = await createImageBitmap(file, { imageOrientation: 'from-image' });
  const scale = Math.min(1, side / Math.max(bitmap.width, bitmap.height));
  const [w, h] = [
    Math.max(1, Math.round(bitmap.width * scale)),
    Math.max(1, Math.round(bitmap.height * scale)),
  ];
  const canvas = new OffscreenCanvas(w, h);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.imageSmoothingQuality = 'high';
  context.drawImage(bitmap, 0, 0, w, h);
  const size = { w: bitmap.width, h: bitmap.height };
  bitmap.close();
  return { pixels: { w, h, data: context.getImageData(0, 0, w, h).data }, ...size };
}

const MOST_GROUNDS = 24;
const grounds = new Map<string, Float32Array>();

/** A ground's look with its colours written out once for a size; grounds are asked for again with every edit. */
function groundAt(substrate: Substrate, w: number, h: number, mm: number): GroundLook {
  const key = JSON.stringify([substrate.id, substrate.colour, substrate.texture, w, h, Math.round(mm * 1e4)]);
  let map = grounds.get(key);
  if (!map) {
    const look = groundLook(substrate, BARE, seedOf(substrate.id));
    map = new Float32Array(w * h * 3);
    for (let y = 0, i = 0; y < h; y++)
      for (let x = 0; x < w; x++) for (const v of look(x * mm, y * mm)) map[i++] = v;
    if (grounds.size >= MOST_GROUNDS) grounds.delete(grounds.keys().next().value!);
    grounds.set(key, map);
  }
  const colours = map;
  return (xMm, yMm) => {
    const i = (Math.min(h - 1, Math.round(yMm / mm)) * w + Math.min(w - 1, Math.round(xMm / mm))) * 3;
    return [colours[i], colours[i + 1], colours[i + 2]];
  };
}

async function toBlob(pixels: Pixels, type: 'image/png' | 'image/jpeg'): Promise<Blob> {
  const canvas = new OffscreenCanvas(pixels.w, pixels.h);
  canvas
    .getContext('2d')!
    .putImageData(new ImageData(new Uint8ClampedArray(pixels.data), pixels.w, pixels.h), 0, 0);
  return canvas.convertToBlob({ type, quality: 0.9 });
}

export interface Viewing {
  readonly file: Blob;
  /** Names the file, so that it is decoded once. */
  readonly key: string;
  readonly edits: readonly Edit[];
  readonly widthMm: number;
  /** The printer has one colour: looked at in grey. */
  readonly oneColour: boolean;
  readonly mirror: boolean;
  readonly grounds: readonly {
    readonly substrate: Substrate;
    readonly veil: number;
    readonly opaque: boolean;
    readonly loss?: { readonly least: number; readonly most: number };
  }[];
}

export interface Facing {
  readonly file: Blob;
  readonly edits: readonly Edit[];
  /** What a patch has for it, mm. */
  readonly room: { readonly w: number; readonly h: number };
  readonly how: 'whole' | 'detail';
  readonly at: { readonly x: number; readonly y: number };
  /** The piece it goes on, and how: what a detail's size comes from. */
  readonly piece: { readonly w: number; readonly h: number };
  readonly fit: Fit;
  readonly marginMm: number;
}

export interface Viewed {
  readonly facts: PictureFacts;
  /** Width over height after the edits. */
  readonly aspect: number;
  /** As it lies on the donor sheet. */
  readonly donor: Blob;
  /** Finished, on each ground. */
  readonly looks: readonly Blob[];
}

const api = {
  /** The picture with its edits: what is measured of it, the donor sheet's view, and how it will look on each ground. */
  async view({ file, key, edits, widthMm, oneColour, mirror, grounds: asked }: Viewing): Promise<Viewed> {
    if (kept?.key !== key) kept = { key, ...(await decode(file, VIEW_SIDE)) };
    const coloured = applyEdits(kept.pixels, edits);
    const now = oneColour ? applyEdits(coloured, [{ kind: 'grey' }]) : coloured;
    const looks = asked.map(({ substrate, ...expected }) =>
      lookOn(now, { ground: groundAt(substrate, now.w, now.h, widthMm / now.w), widthMm, ...expected }),
    );
    return {
      facts: measurePicture(coloured, widthMm),
      aspect: now.w / now.h,
      donor: await toBlob(mirror ? mirrorPixels(now) : now, 'image/png'),
      looks: await Promise.all(looks.map(look => toBlob(look, 'image/jpeg'))),
    };
  },
  /** The picture as it goes on the sheet, at 300 dpi or as fine as it is, mirrored where the method asks for it. */
  async print(file: Blob, edits: readonly Edit[], size: PrintSize, mirror: boolean): Promise<Uint8Array> {
    const need = (Math.max(size.w / size.part.w, size.h / size.part.h) / 25.4) * PRINT_DPI;
    const { pixels } = await decode(file, Math.min(MOST_PRINT_SIDE, need * 1.5));
    const { x, y, w, h } = size.part;
    const whole = w === 1 && h === 1;
    const done = applyEdits(pixels, whole ? edits : [...edits, { kind: 'crop', x, y, w, h }]);
    const blob = await toBlob(mirror ? mirrorPixels(done) : done, 'image/png');
    return new Uint8Array(await blob.arrayBuffer());
  },
  /** The picture as it lies on a patch: a PNG of all the `room` at 300 dpi, white where nothing of it is. */
  async face({ file, edits, room, how, at, piece, fit, marginMm }: Facing): Promise<Blob> {
    const { pixels } = await decode(file, MOST_PRINT_SIDE);
    const done = applyEdits(pixels, edits);
    const aspect = done.w / done.h;
    const { place, part } = onPatch(aspect, room, how, at, printSize(aspect, piece, fit, marginMm));
    const px = (mm: number) => Math.round((mm / 25.4) * PRINT_DPI);
    const all = new OffscreenCanvas(done.w, done.h);
    all.getContext('2d')!.putImageData(new ImageData(new Uint8ClampedArray(done.data), done.w, done.h), 0, 0);
    const canvas = new OffscreenCanvas(px(room.w), px(room.h));
    const context = canvas.getContext('2d')!;
    context.imageSmoothingQuality = 'high';
    context.fillStyle = '#fff';
    context.fillRect(0, 0, canvas.width, canvas.height);
    context.drawImage(
      all,
      ...([part.x * done.w, part.y * done.h, part.w * done.w, part.h * done.h] as const),
      ...([px(place.x), px(place.y), px(place.w), px(place.h)] as const),
    );
    return canvas.convertToBlob({ type: 'image/png' });
  },
};
export type ArtworkApi = typeof api;

expose(api);
