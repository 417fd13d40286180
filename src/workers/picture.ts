import { bad, good, type Outcome } from '../core/outcome/index.ts';
import type { Pixels } from '../core/reading/index.ts';

const MOST_BYTES = 60e6;
const MOST_PIXELS = 52e6;

/** Decodes a photo upright to RGBA, or says why it cannot. */
export async function decodePhoto(photo: Blob): Promise<Outcome<Pixels>> {
  if (photo.size > MOST_BYTES)
    return bad('too-big', 'This file is larger than 60 MB.', 'Export the photo as JPEG from your phone.');
  let bitmap: ImageBitmap;
  try {
    bitmap = await createImageBitmap(photo, { imageOrientation: 'from-image' });
  } catch {
    return bad('not-a-picture', 'This file cannot be opened as a picture.', 'Use JPEG, PNG, WebP or HEIC.');
  }
  if (bitmap.width * bitmap.height > MOST_PIXELS)
    return bad('too-big', 'This photo has more than 50 million pixels.', 'Set the camera to a smaller size.');
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.drawImage(bitmap, 0, 0);
  const { data } = context.getImageData(0, 0, bitmap.width, bitmap.height);
  const pixels = { w: bitmap.width, h: bitmap.height, data };
  bitmap.close();
  return good(pixels);
}

/** A picture no longer than `side` pixels: the same where it is so already. */
export function shrunk(pixels: Pixels, side: number): Pixels {
  const scale = side / Math.max(pixels.w, pixels.h);
  if (scale >= 1) return pixels;
  const from = new OffscreenCanvas(pixels.w, pixels.h);
  from
    .getContext('2d')!
    .putImageData(new ImageData(new Uint8ClampedArray(pixels.data), pixels.w, pixels.h), 0, 0);
  const [w, h] = [pixels.w, pixels.h].map(v => Math.max(1, Math.round(v * scale)));
  const to = new OffscreenCanvas(w, h);
  const context = to.getContext('2d', { willReadFrequently: true })!;
  context.imageSmoothingQuality = 'high';
  context.drawImage(from, 0, 0, w, h);
  return { w, h, data: context.getImageData(0, 0, w, h).data };
}

/** The brands of files that the browser cannot open and the HEIC library can (ISO/IEC 23008-12, annex B). */
const HEIC_BRANDS = ['heic', 'heix', 'hevc', 'hevx', 'mif1', 'msf1'];

/** Whether a file says of itself that it is HEIC. */
export async function isHeic(photo: Blob): Promise<boolean> {
  const head = new Uint8Array(await photo.slice(0, 12).arrayBuffer());
  const text = String.fromCharCode(...head);
  return text.slice(4, 8) === 'ftyp' && HEIC_BRANDS.includes(text.slice(8, 12));
}

/** A HEIC photo as a JPEG of the same size, upright; the library for it is loaded when the first one comes. */
export async function jpegOfHeic(photo: Blob): Promise<Outcome<Blob>> {
  try {
    const { heicTo } = await import('heic-to/next');
    return good(await heicTo({ blob: photo, type: 'image/jpeg', quality: 0.95 }));
  } catch {
    return bad('not-a-picture', 'This HEIC photo cannot be opened.', 'Export it as JPEG from your phone.');
  }
}

/** Encodes RGBA as JPEG. */
export function encodePhoto(pixels: Pixels, quality: number): Promise<Blob> {
  const canvas = new OffscreenCanvas(pixels.w, pixels.h);
  const image = new ImageData(new Uint8ClampedArray(pixels.data), pixels.w, pixels.h);
  canvas.getContext('2d')!.putImageData(image, 0, 0);
  return canvas.convertToBlob({ type: 'image/jpeg', quality });
}
